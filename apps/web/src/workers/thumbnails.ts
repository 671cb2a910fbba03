import { fillIdOf, ownMaskIdOf } from '@eppu/core/derive';
import { eachLayer, type Id, ownSurfaceOf } from '@eppu/core/document';
import type { Engine } from '@eppu/core/engine';
import { type Pool, type ThumbnailsWork, thumbnailsIn } from '@eppu/core/jobs';
import type { Surface } from '@eppu/core/surface';
import type { Thumbnail } from '../studio/told.ts';

/** Px along a side: enough for the large ones. */
const SIZE = 56;
const known = new Map<string, Thumbnail['data']>();

const alike = (a: Thumbnail['data'] | undefined, b: Thumbnail['data']): boolean =>
	a?.every((v, i) => v === b[i]) ?? false;

/**
 * Thumbnails of all layers and masks whose look changed since the last call, made by a pool where there is one; none where
 * the engine was changed meanwhile.
 */
export async function thumbnailsOf(engine: Engine, pool: Pool | null): Promise<Thumbnail[]> {
	const { turn } = engine;
	const wanted: { readonly layer: Id; readonly on: Thumbnail['on']; readonly surface: Surface }[] = [];
	for (const sheet of engine.project.sheets)
		for (const layer of eachLayer(sheet.layers))
			for (const { on, id } of [
				{ on: 'color' as const, id: ownSurfaceOf(layer) ?? fillIdOf(layer) },
				{ on: 'mask' as const, id: ownMaskIdOf(layer) },
			]) {
				const surface = engine.surface(id);
				if (surface) wanted.push({ layer: layer.id, on, surface });
			}
	const work: ThumbnailsWork = { job: 'thumbnails', surfaces: wanted.map(({ surface }) => surface), side: SIZE };
	const made = (await pool?.do(work, 2)) ?? thumbnailsIn(engine.kernels.heap, work);
	if (engine.turn !== turn || engine.stroking) return [];
	return wanted.flatMap(({ layer, on }, i) => {
		const data = made[i] as Thumbnail['data'];
		const key = `${engine.project.id}/${layer}/${on}`;
		if (alike(known.get(key), data)) return [];
		known.set(key, data);
		return [{ layer, on, size: SIZE, data }];
	});
}
