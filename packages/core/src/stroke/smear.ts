import type { Kernels, Ptr } from '@eppu/kernels';
import { Kind, type Surface, setTileState, TILE_TEXELS, type TileRecord, writableTexels } from '../surface/index.ts';
import { type Coverage, clearCoverage, coverageTile, type Dab, type Target, takeTouched } from '../target/index.ts';

/** Cells along a side of what a smearing tip carries, at the most. */
const MOST_CELLS = 96;

/** What one target's tip carries: premultiplied colour, 0..255, in cells around its middle. */
interface Carried {
	readonly cells: number;
	/** Target units a cell. */
	readonly step: number;
	readonly color: Float32Array;
	readonly weight: Float32Array;
}

/** Paint pulled along: each dab lays what the dabs before it picked up, and picks up what it finds. */
export interface Smear {
	/** One dab on each target; returns the tiles it changed. */
	dab(dab: Dab): number[];
}

/**
 * Smears on a surface. Pick-up and lay go by places in the target's space, so on a model paint is pulled over seams.
 * `gate` weighs texels of a tile (A8), null lets all through.
 */
export function createSmear(
	kernels: Kernels,
	surface: Surface,
	coverage: Coverage,
	targets: readonly Target[],
	record: TileRecord,
	lockAlpha: boolean,
	gate: (tile: number) => Uint8Array | null,
): Smear {
	const { heap } = kernels;
	const carried: (Carried | null)[] = targets.map(() => null);
	const texelsOf = new Map<number, Ptr>();
	const tileAt = (tile: number): Ptr => {
		let at = texelsOf.get(tile);
		if (at === undefined) {
			at = writableTexels(kernels, record, tile);
			// Texels of any kind are read as mixed; they are settled when the stroke ends.
			setTileState(surface, tile, { kind: Kind.mixed, data: at });
			texelsOf.set(tile, at);
		}
		return at;
	};

	const pickUp = (target: Target, dab: Dab, cells: number, step: number): Carried => {
		const color = new Float32Array(cells * cells * 4);
		const weight = new Float32Array(cells * cells);
		const reach = (cells * step) / 2;
		target.around(coverage, dab.x, dab.y, reach - step * 0.01, (index, x, y) => {
			const cx = Math.floor((x - dab.x + reach) / step);
			const cy = Math.floor((y - dab.y + reach) / step);
			if (cx < 0 || cy < 0 || cx >= cells || cy >= cells) return;
			const cell = cy * cells + cx;
			const at = tileAt(Math.floor(index / TILE_TEXELS)) + (index % TILE_TEXELS) * 4;
			const { u8 } = heap;
			const a = u8[at + 3] as number;
			color[cell * 4] = (color[cell * 4] as number) + ((u8[at] as number) * a) / 255;
			color[cell * 4 + 1] = (color[cell * 4 + 1] as number) + ((u8[at + 1] as number) * a) / 255;
			color[cell * 4 + 2] = (color[cell * 4 + 2] as number) + ((u8[at + 2] as number) * a) / 255;
			color[cell * 4 + 3] = (color[cell * 4 + 3] as number) + a;
			weight[cell] = (weight[cell] as number) + 1;
		});
		for (let cell = 0; cell < weight.length; cell++) {
			const w = weight[cell] as number;
			if (w > 0) for (let k = 0; k < 4; k++) color[cell * 4 + k] = (color[cell * 4 + k] as number) / w;
			weight[cell] = w > 0 ? 1 : 0;
		}
		return { cells, step, color, weight };
	};
	/** Carried colour at a place beside the middle, between cells that hold any; false where none does. */
	const out = new Float64Array(4);
	const read = ({ cells, step, color, weight }: Carried, dx: number, dy: number): boolean => {
		const x = dx / step + cells / 2 - 0.5;
		const y = dy / step + cells / 2 - 0.5;
		const [ix, iy] = [Math.floor(x), Math.floor(y)];
		let sum = 0;
		out.fill(0);
		for (let k = 0; k < 4; k++) {
			const [cx, cy] = [ix + (k & 1), iy + (k >> 1)];
			if (cx < 0 || cy < 0 || cx >= cells || cy >= cells) continue;
			const cell = cy * cells + cx;
			const w = (k & 1 ? x - ix : 1 - x + ix) * (k >> 1 ? y - iy : 1 - y + iy) * (weight[cell] as number);
			if (w <= 0) continue;
			sum += w;
			for (let n = 0; n < 4; n++) out[n] = (out[n] as number) + w * (color[cell * 4 + n] as number);
		}
		if (sum <= 0) return false;
		for (let n = 0; n < 4; n++) out[n] = (out[n] as number) / sum;
		return true;
	};

	return {
		dab(dab) {
			const changed = new Set<number>();
			targets.forEach((target, n) => {
				const before = carried[n];
				const reach = Math.max(2, dab.radius) + 1;
				const cells = before?.cells ?? Math.min(MOST_CELLS, 2 * Math.ceil(reach));
				const step = before?.step ?? (2 * reach) / cells;
				const under = pickUp(target, dab, cells, step);
				if (!before) {
					carried[n] = under;
					return;
				}
				// The dab's own coverage weighs what is laid; the strength is how much stays on the tip.
				target.dab(coverage, { ...dab, strength: 1, color: null }, false);
				const touched = takeTouched(kernels, coverage);
				for (const tile of touched) changed.add(tile);
				target.around(coverage, dab.x, dab.y, dab.radius * Math.SQRT2 + 1, (index, x, y) => {
					const tile = Math.floor(index / TILE_TEXELS);
					const place = index % TILE_TEXELS;
					let w = (heap.u16[(coverageTile(coverage, tile) >> 1) + place] as number) / 65535;
					if (w === 0) return;
					const held = gate(tile);
					if (held) w *= (held[place] as number) / 255;
					if (w === 0 || !read(before, x - dab.x, y - dab.y)) return;
					const at = tileAt(tile) + place * 4;
					const { u8 } = heap;
					const a = u8[at + 3] as number;
					const alpha = lockAlpha ? a : a + ((out[3] as number) - a) * w;
					if (alpha < 0.5) {
						u8[at + 3] = 0;
						return;
					}
					const mixed = a + ((out[3] as number) - a) * w;
					for (let k = 0; k < 3; k++) {
						const from = ((u8[at + k] as number) * a) / 255;
						const straight =
							mixed > 0 ? ((from + ((out[k] as number) - from) * w) * 255) / mixed : (u8[at + k] as number);
						u8[at + k] = Math.max(0, Math.min(255, Math.round(straight)));
					}
					u8[at + 3] = Math.round(alpha);
				});
				clearCoverage(kernels, coverage, touched);
				const keep = dab.strength;
				for (let cell = 0; cell < under.weight.length; cell++) {
					if (!before.weight[cell]) continue;
					const k = under.weight[cell] ? keep : 1;
					for (let c = 0; c < 4; c++) {
						const i = cell * 4 + c;
						under.color[i] =
							(under.color[i] as number) + ((before.color[i] as number) - (under.color[i] as number)) * k;
					}
					under.weight[cell] = 1;
				}
				carried[n] = under;
			});
			return [...changed];
		},
	};
}
