/** Beside a library that unwraps and packs: what comes out here is no worse. */
import { beforeAll, describe, expect, test } from '@jest/globals';
import { cartMesh } from '../../../demo/mesh/cart.ts';
import { hiveMesh } from '../../../demo/mesh/hive.ts';
import { lanternMesh } from '../../../demo/mesh/lantern.ts';
import { smokerMesh } from '../../../demo/mesh/smoker.ts';
import { arrange } from '../src/arrange/index.ts';
import { type LaidMesh, topologyOf } from '../src/mesh/index.ts';
import { jointsOf, layFaces, type Piece } from '../src/unwrap/index.ts';
import { bringLibrary, fillOfLibrary, libraryUnwraps } from './oracle/library.ts';
import { crate, lump, ring } from './oracle/shapes.ts';

const SIDE = 1024;
const MARGIN = 4;

beforeAll(bringLibrary);

function laidFlat(mesh: LaidMesh): Piece[] {
	const joints = jointsOf(mesh, topologyOf(mesh).place);
	const faces = Array.from(joints.areas.keys()).filter((face) => (joints.areas[face] as number) > 0);
	const marks = new Uint8Array(mesh.indices.length);
	return layFaces({ way: 'automatic', less: 0.5 }, { joints, marks, faces, tell: () => undefined }).pieces as Piece[];
}

/** The islands of a model as it is laid out: faces that share a corner, with the place that it has on the sheet. */
function islandsOf({ positions, uvs, indices }: LaidMesh): { readonly uvs: Float64Array }[] {
	const [faceAt, over] = [new Map<string, number>(), Array.from({ length: indices.length / 3 }, (_, face) => face)];
	const rootOf = (face: number): number => (over[face] === face ? face : rootOf(over[face] as number));
	indices.forEach((v, corner) => {
		const face = Math.floor(corner / 3);
		const key = [...positions.subarray(v * 3, v * 3 + 3), ...uvs.subarray(v * 2, v * 2 + 2)].join();
		over[rootOf(face)] = rootOf(faceAt.get(key) ?? face);
		faceAt.set(key, face);
	});
	const islands = new Map<number, number[]>();
	for (const face of over.keys())
		for (const v of indices.subarray(face * 3, face * 3 + 3)) {
			const list = islands.get(rootOf(face)) ?? [];
			islands.set(rootOf(face), list);
			list.push(uvs[v * 2] as number, 1 - (uvs[v * 2 + 1] as number));
		}
	return [...islands.values()].map((list) => ({ uvs: Float64Array.from(list) }));
}

describe('packing', () => {
	test.each([
		['smoker', () => laidFlat(smokerMesh()), 0.72],
		['lantern', () => islandsOf(lanternMesh()), 0.72],
		['cart', () => islandsOf(cartMesh()), 0.72],
		['hive', () => islandsOf(hiveMesh()), 0.72],
		['ring', () => laidFlat(ring()), 0],
		['crate', () => laidFlat(crate()), 0],
	])('of the %s fills no less than a library’s quick one does with the same islands', (_name, islands, least) => {
		const pieces = islands();
		const loose = pieces.map(({ uvs }) => ({ uvs, weight: 1 }));
		const put = arrange(loose, { width: SIDE, height: SIDE, margin: MARGIN, turning: 'free', density: null });
		expect(put?.fill).toBeGreaterThan(Math.max(least, fillOfLibrary(pieces, SIDE, MARGIN)));
	});
});

/** Means by area of how far angles, and areas, are off: singular values of each face's map from the surface to the plane. */
function stretchOf({ positions, indices }: LaidMesh, uvs: ArrayLike<number>): { angle: number; area: number } {
	const faces = indices.length / 3;
	const found: { weight: number; ratio: number; size: number }[] = [];
	let [flat, whole] = [0, 0];
	for (let face = 0; face < faces; face++) {
		const [a, b, c] = [0, 1, 2].map((k) =>
			[0, 1, 2].map((d) => positions[(indices[face * 3 + k] as number) * 3 + d] as number),
		) as [number[], number[], number[]];
		const [e, f] = [b, c].map((to) => to.map((v, d) => v - (a[d] as number))) as [number[], number[]];
		const dot = (p: number[], q: number[]): number => p.reduce((sum, v, d) => sum + v * (q[d] as number), 0);
		const [ee, ef, ff] = [dot(e, e), dot(e, f), dot(f, f)];
		const twice = Math.sqrt(Math.max(0, ee * ff - ef * ef));
		if (twice < 1e-12) continue;
		const [p, q] = [0, 1].map((k) => {
			const n = (at: number): number => uvs[face * 6 + at + k] as number;
			return [n(2) - n(0), n(4) - n(0)];
		}) as [[number, number], [number, number]];
		// The first fundamental form of the map: its eigenvalues are the squares of the singular values.
		const g = (s: [number, number], t: [number, number]): number => s[0] * t[0] + s[1] * t[1];
		const inverse = [ff, -ef, ee].map((v) => v / (ee * ff - ef * ef)) as [number, number, number];
		const metric = [p[0] * p[0] + q[0] * q[0], p[0] * p[1] + q[0] * q[1], g([p[1], q[1]], [p[1], q[1]])] as const;
		const trace = metric[0] * inverse[0] + 2 * metric[1] * inverse[1] + metric[2] * inverse[2];
		const det = (metric[0] * metric[2] - metric[1] ** 2) / (ee * ff - ef * ef);
		const root = Math.sqrt(Math.max(0, (trace * trace) / 4 - det));
		const [most, least] = [Math.sqrt(trace / 2 + root), Math.sqrt(Math.max(1e-12, trace / 2 - root))];
		found.push({ weight: twice, ratio: most / least, size: most * least });
		flat += twice * most * least;
		whole += twice;
	}
	const mean = (of: (each: (typeof found)[number]) => number): number =>
		found.reduce((sum, each) => sum + each.weight * of(each), 0) / whole;
	const even = (v: number): number => (v + 1 / v) / 2;
	return { angle: mean(({ ratio }) => even(ratio)), area: mean(({ size }) => even((size * whole) / flat)) };
}

describe('laid flat by itself', () => {
	test.each([
		['lump', () => lump(24, 12)],
		['ring', ring],
		['smoker', smokerMesh],
	])('the %s is stretched no more, and cut in no more pieces, than a library does it', (_name, make) => {
		const mesh = make();
		const pieces = laidFlat(mesh);
		const uvs = new Float64Array(mesh.indices.length * 2);
		for (const piece of pieces)
			piece.faces.forEach((face, i) => {
				uvs.set(piece.uvs.subarray(i * 6, i * 6 + 6), face * 6);
			});
		const [ours, library] = [stretchOf(mesh, uvs), libraryUnwraps(mesh, SIDE, MARGIN)];
		const theirs = stretchOf(mesh, library.uvs);
		expect(ours.angle).toBeLessThanOrEqual(Math.max(1.05, theirs.angle));
		expect(ours.area).toBeLessThanOrEqual(Math.max(1.1, theirs.area));
		expect(pieces.length).toBeLessThanOrEqual(library.charts);
	});
});
