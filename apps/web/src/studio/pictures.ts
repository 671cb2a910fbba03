import type { Id } from '@eppu/core/document';
import { TILE } from '@eppu/core/surface';

const TILE_BYTES = TILE * TILE * 4;

/** What a patch changed: tiles of 64x64, their texels one after the other. */
export interface Patch {
	readonly tiles: Uint32Array;
	readonly data: Uint8Array<ArrayBuffer>;
}

/** The picture of a sheet as it was last told: what both views draw from. */
export interface SheetPicture {
	readonly id: Id;
	readonly width: number;
	readonly height: number;
	/** RGBA8, straight alpha, rows from the top. */
	readonly data: Uint8Array<ArrayBuffer>;
	/** Whether nothing was ever put into it. */
	readonly empty: boolean;
	/** The same for drawing in two dimensions. */
	readonly canvas: HTMLCanvasElement;
	apply(patch: Patch): void;
	/** Calls back after each patch; returns how to stop that. */
	watch(listener: (patch: Patch) => void): () => void;
}

/** A picture with nothing in it, or what another of its size shows now. */
export function createSheetPicture(id: Id, width: number, height: number, from?: SheetPicture): SheetPicture {
	const data = new Uint8Array(width * height * 4);
	const canvas = Object.assign(document.createElement('canvas'), { width, height });
	const context = canvas.getContext('2d', { willReadFrequently: true });
	const cols = Math.ceil(width / TILE);
	const listeners = new Set<(patch: Patch) => void>();
	let empty = !from;
	if (from) {
		data.set(from.data);
		context?.drawImage(from.canvas, 0, 0);
	}
	return {
		id,
		width,
		height,
		data,
		get empty() {
			return empty;
		},
		canvas,
		apply(patch) {
			empty = false;
			patch.tiles.forEach((tile, i) => {
				const x = (tile % cols) * TILE;
				const y = Math.floor(tile / cols) * TILE;
				const texels = patch.data.subarray(i * TILE_BYTES, (i + 1) * TILE_BYTES);
				const run = Math.min(TILE, width - x) * 4;
				for (let row = 0; row < Math.min(TILE, height - y); row++)
					data.set(texels.subarray(row * TILE * 4, row * TILE * 4 + run), ((y + row) * width + x) * 4);
				context?.putImageData(
					new ImageData(new Uint8ClampedArray(texels.buffer, texels.byteOffset, TILE_BYTES), TILE, TILE),
					x,
					y,
				);
			});
			for (const listener of listeners) listener(patch);
		},
		watch(listener) {
			listeners.add(listener);
			return () => listeners.delete(listener);
		},
	};
}
