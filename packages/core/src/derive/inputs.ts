import { eachLayer, type Layer } from '../document/index.ts';
import { finishKindOf } from '../finish/index.ts';
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
			relief: undefined,
			layers: undefined,
			mask: each.mask?.on,
		})),
	);
