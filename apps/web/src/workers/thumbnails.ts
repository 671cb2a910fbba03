import { fillIdOf, ownMaskIdOf } from '@eppu/core/derive';
import { eachLayer, ownSurfaceOf } from '@eppu/core/document';
import type { Engine } from '@eppu/core/engine';
import { type Surface, texelAt } from '@eppu/core/surface';
import type { Thumbnail } from '../studio/told.ts';

/** Px along a side: enough for the large ones. */
const SIZE = 56;
const known = new Map<string, string>();

/** Texels of a surface picked on a coarse grid; cheap enough to make anew when the hand rests. */
function pick(engine: Engine, surface: Surface): Uint8ClampedArray<ArrayBuffer> {
	const { heap } = engine.kernels;
	const out = new Uint8ClampedArray(SIZE * SIZE * 4);
	for (let i = 0; i < SIZE * SIZE; i++) {
		const x = Math.floor((((i % SIZE) + 0.5) * surface.width) / SIZE);
		const y = Math.floor(((Math.floor(i / SIZE) + 0.5) * surface.height) / SIZE);
		out.set(texelAt(heap, surface, x, y), i * 4);
		if (surface.format !== 'color') out[i * 4 + 3] = 255;
	}
	return out;
}

/** Thumbnails of all layers and masks whose look changed since the last call. */
export function thumbnailsOf(engine: Engine): Thumbnail[] {
	const list: Thumbnail[] = [];
	for (const sheet of engine.project.sheets)
		for (const layer of eachLayer(sheet.layers)) {
			const sources = [
				{ on: 'color' as const, id: ownSurfaceOf(layer) ?? fillIdOf(layer) },
				{ on: 'mask' as const, id: ownMaskIdOf(layer) },
			];
			for (const { on, id } of sources) {
				const surface = engine.surface(id);
				if (!surface) continue;
				const data = pick(engine, surface);
				const key = `${engine.project.id}/${layer.id}/${on}`;
				const look = data.join();
				if (known.get(key) === look) continue;
				known.set(key, look);
				list.push({ layer: layer.id, on, size: SIZE, data });
			}
		}
	return list;
}
