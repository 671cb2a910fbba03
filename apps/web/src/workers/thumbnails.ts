import { eachLayer } from '@eppu/core/document';
import type { Engine } from '@eppu/core/engine';
import { hasTexels, type Kind, type Surface, TILE } from '@eppu/core/surface';
import type { Thumbnail } from '../studio/protocol.ts';

const SIZE = 28;
const known = new Map<string, string>();

/** Texels of a surface picked on a coarse grid; cheap enough to make anew when the hand rests. */
function pick(engine: Engine, surface: Surface): Uint8ClampedArray<ArrayBuffer> {
	const { heap } = engine.kernels;
	const out = new Uint8ClampedArray(SIZE * SIZE * 4);
	for (let i = 0; i < SIZE * SIZE; i++) {
		const x = Math.floor((((i % SIZE) + 0.5) * surface.width) / SIZE);
		const y = Math.floor(((Math.floor(i / SIZE) + 0.5) * surface.height) / SIZE);
		const tile = Math.floor(y / TILE) * surface.cols + Math.floor(x / TILE);
		const at = (y % TILE) * TILE + (x % TILE);
		const data = surface.data[tile] as number;
		const texels = hasTexels(surface.kinds[tile] as Kind);
		if (surface.format === 'mask') {
			const v = texels ? (heap.u8[data + at] as number) : data;
			out.set([v, v, v, 255], i * 4);
		} else {
			const v = texels ? (heap.u32[(data >> 2) + at] as number) : data;
			out.set([v & 255, (v >> 8) & 255, (v >> 16) & 255, v >>> 24], i * 4);
		}
	}
	return out;
}

/** Thumbnails of all layers and masks whose look changed since the last call. */
export function thumbnailsOf(engine: Engine): Thumbnail[] {
	const list: Thumbnail[] = [];
	for (const sheet of engine.project.sheets)
		for (const layer of eachLayer(sheet.layers)) {
			const sources = [
				{ on: 'color' as const, id: layer.kind === 'paint' ? layer.surface : `${layer.id}~fill` },
				{ on: 'mask' as const, id: layer.mask?.recipe?.length ? `${layer.id}~mask` : (layer.mask?.surface ?? null) },
			];
			for (const { on, id } of sources) {
				const surface = id === null ? undefined : engine.surface(id);
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
