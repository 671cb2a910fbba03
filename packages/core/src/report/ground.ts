import { type LaidMesh, partOfFaces, type Topology } from '../mesh/index.ts';
import { gapsOf } from './gaps.ts';

/** What is looked at: a model on its sheets. */
export interface ReportGround {
	readonly mesh: LaidMesh;
	readonly topology: Topology;
	/** Per part: the number of its sheet, or -1 where it has none. */
	readonly sheetOfPart: readonly number[];
	/** Sizes and bleed in texels. */
	readonly sheets: readonly {
		readonly name: string;
		readonly width: number;
		readonly height: number;
		readonly bleed: number;
	}[];
}

/** Figures of each face. Lengths in space are the model's own units. */
export interface FaceMeasures {
	readonly partOfFace: Uint16Array;
	/** In space, squared units. */
	readonly areas: Float64Array;
	/** On the sheet, squared texels; above 0 where the face lies mirrored (v runs downwards). 0 without a sheet. */
	readonly texels: Float64Array;
	/** Texels along a unit; 0 where the face has no area. */
	readonly density: Float32Array;
	/** How many times as long as wide a texel is on the surface, 1 and up; 1 where that cannot be said. */
	readonly stretch: Float32Array;
	/** Texels between its island and the nearest other one; Infinity where there is none. */
	readonly gap: Float32Array;
}

const sub = (p: Float32Array, a: number, b: number, size: number): number[] =>
	Array.from({ length: size }, (_, k) => (p[a * size + k] as number) - (p[b * size + k] as number));
const dot = (a: readonly number[], b: readonly number[]): number =>
	a.reduce((sum, v, k) => sum + v * (b[k] as number), 0);

/**
 * Measures every face. Stretch is the ratio of the singular values of the map from the sheet's texels to the surface.
 * Source: P. Sander et al., "Texture mapping progressive meshes" (2001), section 3.
 */
export function measureFaces(ground: ReportGround): FaceMeasures {
	const { mesh, sheetOfPart, sheets, topology } = ground;
	const { positions, uvs, indices } = mesh;
	const faces = indices.length / 3;
	const partOfFace = partOfFaces(mesh);
	const [areas, texels] = [new Float64Array(faces), new Float64Array(faces)];
	const [density, stretch] = [new Float32Array(faces), new Float32Array(faces).fill(1)];
	for (let face = 0; face < faces; face++) {
		const [a, b, c] = [0, 1, 2].map((k) => indices[face * 3 + k] as number) as [number, number, number];
		const [e, f] = [sub(positions, b, a, 3), sub(positions, c, a, 3)];
		const area = Math.sqrt(Math.max(0, dot(e, e) * dot(f, f) - dot(e, f) ** 2)) / 2;
		areas[face] = area;
		const sheet = sheets[sheetOfPart[partOfFace[face] as number] as number];
		if (!sheet) continue;
		const [s, t] = [sub(uvs, b, a, 2), sub(uvs, c, a, 2)].map(([u, v]) => [
			(u as number) * sheet.width,
			(v as number) * sheet.height,
		]) as [number[], number[]];
		const twice = (s[0] as number) * (t[1] as number) - (t[0] as number) * (s[1] as number);
		texels[face] = twice / 2;
		if (area <= 0 || twice === 0) continue;
		density[face] = Math.sqrt(Math.abs(twice) / 2 / area);
		// Derivatives of the place on the surface by the place on the sheet.
		const du = e.map((v, k) => (v * (t[1] as number) - (f[k] as number) * (s[1] as number)) / twice);
		const dv = e.map((v, k) => ((f[k] as number) * (s[0] as number) - v * (t[0] as number)) / twice);
		const [p, q, r] = [dot(du, du), dot(du, dv), dot(dv, dv)];
		const root = Math.sqrt((p - r) ** 2 + 4 * q * q);
		const least = p + r - root;
		stretch[face] = least > 0 ? Math.sqrt((p + r + root) / least) : 1;
	}
	const gaps = gapsOf(ground, partOfFace);
	const gap = Float32Array.from(topology.islandOfFace, (island) => gaps[island] as number);
	return { partOfFace, areas, texels, density, stretch, gap };
}
