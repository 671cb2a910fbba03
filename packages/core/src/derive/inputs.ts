import { eachLayer, type Layer } from '../document/index.ts';
import { finishKindOf } from '../finish/index.ts';
import type { Rect } from '../raster/index.ts';
import type { SurfaceId } from '../surface/index.ts';
import { fillIdOf, finishIdOf, isComputed, maskIdOf } from './derivedId.ts';

/** Every surface whose texels a layer's picture depends on directly: its own, its mask's, its finishes', and those within it. */
export function imageInputs(layer: Layer): SurfaceId[] {
	return [...eachLayer([layer])].flatMap((each) => [
		...('surface' in each ? [each.surface] : isComputed(each) ? [fillIdOf(each)] : []),
		...(maskIdOf(each) ? [maskIdOf(each)] : []),
		...(each.finishes ?? [])
			.filter((finish) => finish.on && finishKindOf(finish).texels)
			.map((f) => finishIdOf(each, f)),
	]);
}

/** What of a layer's look is in the document and not in surfaces. */
export const outlineOf = (layer: Layer): string =>
	JSON.stringify(
		[...eachLayer([layer])].map((each) => ({
			...each,
			name: undefined,
			locked: undefined,
			lockAlpha: undefined,
			coat: undefined,
			layers: undefined,
			mask: each.mask?.on,
		})),
	);

/** The part of A8 texels of a rectangle that lies in a smaller one. */
export function cut(tone: Uint8Array, wide: Rect, rect: Rect): Uint8Array {
	const out = new Uint8Array(rect.width * rect.height);
	for (let row = 0; row < rect.height; row++) {
		const from = (rect.y - wide.y + row) * wide.width + rect.x - wide.x;
		out.set(tone.subarray(from, from + rect.width), row * rect.width);
	}
	return out;
}
