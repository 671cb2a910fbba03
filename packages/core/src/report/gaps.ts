import { triangleSpans } from '../atlas/index.ts';
import type { LaidMesh, Topology } from '../mesh/index.ts';
import { squaredDistances } from '../raster/index.ts';

/** Texels along the longer side of the raster on which islands' distances are measured. */
const FINE = 1024;

/** A model on its sheets, texels. */
interface Lying {
	readonly mesh: LaidMesh;
	readonly topology: Topology;
	readonly sheetOfPart: readonly number[];
	readonly sheets: readonly { readonly width: number; readonly height: number }[];
}

/** Texels of the sheet between each island and the nearest other one, by the island; Infinity where it lies alone. */
export function gapsOf({ mesh, topology, sheets, sheetOfPart }: Lying, partOfFace: Uint16Array): Float32Array {
	const { uvs, indices } = mesh;
	const gaps = new Float32Array(topology.islands).fill(Infinity);
	sheets.forEach(({ width, height }, number) => {
		const by = Math.min(1, FINE / Math.max(width, height));
		const [w, h] = [Math.max(1, Math.round(width * by)), Math.max(1, Math.round(height * by))];
		const owner = new Uint32Array(w * h);
		for (let face = 0; face < partOfFace.length; face++) {
			if (sheetOfPart[partOfFace[face] as number] !== number) continue;
			const at = (k: number, axis: number): number =>
				(uvs[(indices[face * 3 + k] as number) * 2 + axis] as number) * (axis ? h : w);
			const island = (topology.islandOfFace[face] as number) + 1;
			triangleSpans(at(0, 0), at(0, 1), at(1, 0), at(1, 1), at(2, 0), at(2, 1), w, h, (y, x0, x1) =>
				owner.fill(island, y * w + x0, y * w + x1),
			);
		}
		const nearest = new Int32Array(w * h);
		const away = squaredDistances((i) => owner[i] !== 0, w, h, nearest);
		const meet = (i: number, j: number): void => {
			const [a, b] = [owner[nearest[i] as number] as number, owner[nearest[j] as number] as number];
			if (a === b || !a || !b) return;
			// Between middles of texels lie as many as whole steps, less the one that both end on.
			const between = Math.max(0, Math.sqrt(away[i] as number) + Math.sqrt(away[j] as number)) / by;
			for (const island of [a, b]) gaps[island - 1] = Math.min(gaps[island - 1] as number, between);
		};
		for (let y = 0, i = 0; y < h; y++)
			for (let x = 0; x < w; x++, i++) {
				if (x + 1 < w) meet(i, i + 1);
				if (y + 1 < h) meet(i, i + w);
			}
	});
	return gaps;
}
