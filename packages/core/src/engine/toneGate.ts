import type { Kernels } from '@eppu/kernels';
import { bakeIdOf, ownMaskIdOf } from '../derive/index.ts';
import { type Guard, layerOf, type Sheet, toneLets } from '../document/index.ts';
import { type Rect, readBlock } from '../raster/index.ts';
import type { Surface, SurfaceId } from '../surface/index.ts';

/** How much paint the tone of a guard lets through in a rectangle of a sheet, A8; null where it limits nothing there. */
export function toneGate(
	kernels: Kernels,
	surfaces: ReadonlyMap<SurfaceId, Surface>,
	sheet: Sheet,
	guard: Guard | null | undefined,
): ((rect: Rect) => Uint8Array) | null {
	const tone = guard?.tone;
	if (!tone) return null;
	const layer = tone.of === 'mask' ? layerOf(sheet, tone.id) : undefined;
	const surface = surfaces.get(tone.of === 'bake' ? bakeIdOf(tone.id, sheet) : layer ? ownMaskIdOf(layer) : '');
	if (!surface || surface.format === 'color') return null;
	const deep = surface.format === 'deep';
	// One entry for each tone of eight bits: finer steps are not seen in eight bits of paint.
	const lets = Uint8Array.from({ length: 256 }, (_, v) => Math.round(255 * toneLets(tone, v / 255)));
	return (rect) => {
		const { data } = readBlock(kernels, surface, rect);
		return Uint8Array.from(
			{ length: rect.width * rect.height },
			(_, i) => lets[data[deep ? i * 2 + 1 : i] as number] as number,
		);
	};
}
