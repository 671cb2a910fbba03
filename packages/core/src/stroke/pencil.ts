import type { Kernels, Ptr } from '@eppu/kernels';
import { isLaid, type Mixing, packedOf, texelTrail } from '../pixel/index.ts';
import { type Coverage, mirrorSets, type SheetMirror } from '../projection/index.ts';
import { TILE } from '../surface/index.ts';
import type { Sample } from './path.ts';

/** What lays whole texels. */
export interface Pencil {
	/** Texels along a side of its square, 1..64. */
	readonly size: number;
	/** Texels that only stand in a corner of the line are kept. */
	readonly corners: boolean;
	/** Texels laid in a pattern; null lays all. */
	readonly mixing: Mixing | null;
}

/** How a pencil goes over a sheet. */
export interface PencilWay {
	readonly pencil: Pencil;
	/** The texel under a place of the target's space; null beside the sheet that is painted. */
	texelAt(x: number, y: number): readonly [number, number] | null;
	/** Places between two samples are asked for too: a straight line in a view is none on the sheet. */
	readonly dense: boolean;
	readonly mirrors: readonly SheetMirror[];
}

/** Texels that lie so far apart on the sheet are no line: a seam is between them. */
const JUMP = 3;
/** Places that are asked for between two samples at the most. */
const MOST_BETWEEN = 2000;

/** Draws texels into a coverage as samples come. `ink` is its ink where the pencil lays two colours, else 0. */
export function createPencil(kernels: Kernels, coverage: Coverage, way: PencilWay, color: string, ink: Ptr) {
	const { size, corners, mixing } = way.pencil;
	const trail = texelTrail(corners || size > 1);
	const [own, between] = [packedOf(color), mixing?.between ? packedOf(mixing.between) : null];
	const sets = mirrorSets(way.mirrors);
	let last: Sample | null = null;
	let texel: readonly [number, number] | null = null;

	const put = (x: number, y: number): void => {
		if (x < 0 || y < 0 || x >= coverage.width || y >= coverage.height) return;
		const laid = !mixing || isLaid(mixing, x, y);
		if (!laid && between === null) return;
		const tile = Math.floor(y / TILE) * coverage.cols + Math.floor(x / TILE);
		const index = tile * TILE * TILE + (y % TILE) * TILE + (x % TILE);
		const { heap } = kernels;
		heap.u16[(coverage.at >> 1) + index] = 65535;
		heap.u8[coverage.touched + tile] = 1;
		if (ink) heap.u32[(ink >> 2) + index] = ((laid ? own : (between as number)) | 0xff000000) >>> 0;
	};
	const stamp = (texels: readonly number[]): void => {
		const off = Math.floor((size - 1) / 2);
		for (let i = 0; i < texels.length; i += 2)
			for (let k = 0; k < size * size; k++) {
				const at = [(texels[i] as number) - off + (k % size), (texels[i + 1] as number) - off + Math.floor(k / size)];
				for (const lines of sets) {
					let [x, y] = at as [number, number];
					for (const line of lines) [x, y] = line.along === 'x' ? [2 * line.at - 1 - x, y] : [x, 2 * line.at - 1 - y];
					put(Math.round(x), Math.round(y));
				}
			}
	};
	const visit = (x: number, y: number): void => {
		const now = way.texelAt(x, y);
		const jumped = now && texel && Math.max(Math.abs(now[0] - texel[0]), Math.abs(now[1] - texel[1])) > JUMP;
		if (!now || (way.dense && jumped)) stamp(trail.lift());
		if (now) stamp(trail.to(...now));
		texel = now;
	};
	return {
		extend(samples: readonly Sample[]): void {
			for (const sample of samples) {
				const from = last;
				last = sample;
				if (!from || !way.dense) {
					visit(sample.x, sample.y);
					continue;
				}
				const steps = Math.min(MOST_BETWEEN, Math.ceil(2 * Math.hypot(sample.x - from.x, sample.y - from.y)));
				for (let i = 1; i <= steps; i++)
					visit(from.x + ((sample.x - from.x) * i) / steps, from.y + ((sample.y - from.y) * i) / steps);
			}
		},
		end(): void {
			stamp(trail.lift());
		},
	};
}
