import { eachLayer, type Layer } from '../document/index.ts';
import type { Rect } from '../raster/index.ts';
import type { SurfaceId } from '../surface/index.ts';
import { fillIdOf, finishIdOf, isComputed, maskIdOf } from './derivedId.ts';

/** Every surface whose texels a layer's picture depends on directly: its own, its mask's, its finishes', and those within it. */
export function imageInputs(layer: Layer): SurfaceId[] {
	return [...eachLayer([layer])].flatMap((each) => [
		...(each.kind === 'paint' ? [each.surface] : isComputed(each) ? [fillIdOf(each)] : []),
		...(maskIdOf(each) ? [maskIdOf(each)] : []),
		...(each.finishes ?? []).filter((finish) => finish.on && finish.finish !== 'tint').map((f) => finishIdOf(each, f)),
	]);
}

/** What of a layer's look is in the document and not in surfaces. */
export const outlineOf = (layer: Layer): string =>
	JSON.stringify(
		[...eachLayer([layer])].map(({ id, shown, opacity, mode, clip, mask, ...rest }) => [
			id,
			shown,
			opacity,
			mode,
			clip,
			mask?.on,
			'color' in rest && rest.color,
			'tone' in rest && rest.tone,
			'isolated' in rest && rest.isolated,
			rest.finishes,
		]),
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
