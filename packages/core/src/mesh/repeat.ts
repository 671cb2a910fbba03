import { type LaidMesh, MOST_FACES, type Part } from './mesh.ts';
import { topologyOf } from './topology.ts';

/** A corner while faces are cut: position, UV, normal one after the other. */
type Corner = readonly number[];

/** UVs are taken to lie within the sheet up to so much outside it: what exporters round. */
const ROUNDING = 1e-5;

/** Cuts a polygon by the line where a corner's value `k` is `at`: what lies below, and what above. */
function cut(polygon: readonly Corner[], k: number, at: number): [Corner[], Corner[]] {
	const [below, above]: [Corner[], Corner[]] = [[], []];
	polygon.forEach((p, i) => {
		const q = polygon[(i + 1) % polygon.length] as Corner;
		const [a, b] = [(p[k] as number) - at, (q[k] as number) - at];
		if (a <= 0) below.push(p);
		if (a >= 0) above.push(p);
		if ((a < 0 && b > 0) || (a > 0 && b < 0)) {
			const t = a / (a - b);
			const between = p.map((v, j) => (j === k ? at : v + ((q[j] as number) - v) * t));
			below.push(between);
			above.push(between);
		}
	});
	return [below, above];
}

/**
 * UVs outside 0–1 repeat the sheet, as every renderer shows them: islands that lie whole in another repetition are
 * moved, faces that run over its border are cut there. Returns the mesh as it is where all lie within.
 */
export function repeatUvs(mesh: LaidMesh): { readonly mesh: LaidMesh; readonly notes: readonly string[] } {
	const { uvs, indices, positions, normals, colors } = mesh;
	const outside = (v: number): boolean => v < -ROUNDING || v > 1 + ROUNDING;
	if (!uvs.some(outside)) return { mesh, notes: [] };
	const { islandOfFace, islands } = topologyOf(mesh);
	const low = new Float64Array(islands * 2).fill(Number.POSITIVE_INFINITY);
	for (let i = 0; i < indices.length; i++) {
		const island = islandOfFace[Math.floor(i / 3)] as number;
		for (const k of [0, 1])
			low[island * 2 + k] = Math.min(low[island * 2 + k] as number, uvs[(indices[i] as number) * 2 + k] as number);
	}
	const shift = (island: number, k: number): number => Math.floor((low[island * 2 + k] as number) + ROUNDING);
	const out: { list: number[]; faces: number }[] = [];
	let cells = 0;
	let cutFaces = 0;
	let faces = 0;
	for (const part of mesh.parts) {
		const list: number[] = [];
		const first = faces;
		for (let face = part.firstFace; face < part.firstFace + part.faces; face++) {
			const island = islandOfFace[face] as number;
			const polygon = [0, 1, 2].map((k): Corner => {
				const v = indices[face * 3 + k] as number;
				return [
					...positions.subarray(v * 3, v * 3 + 3),
					(uvs[v * 2] as number) - shift(island, 0),
					(uvs[v * 2 + 1] as number) - shift(island, 1),
					...(normals ? normals.subarray(v * 3, v * 3 + 3) : []),
					...(colors ? colors.subarray(v * 4, v * 4 + 4) : []),
				];
			});
			let pieces: (readonly Corner[])[] = [polygon];
			for (const k of [3, 4]) {
				const most = Math.ceil(Math.max(...polygon.map((p) => p[k] as number)) - ROUNDING);
				cells = Math.max(cells, most);
				if (faces + pieces.length * most > MOST_FACES) return { mesh, notes: [tooOften] };
				pieces = pieces.flatMap((piece) => {
					const cutUp: (readonly Corner[])[] = [];
					let rest: readonly Corner[] = piece;
					for (let at = 1; at < most; at++) {
						const [below, above] = cut(rest, k, at);
						if (below.length > 2) cutUp.push(below);
						rest = above;
					}
					return rest.length > 2 ? [...cutUp, rest] : cutUp;
				});
			}
			if (pieces.length > 1) cutFaces++;
			for (const piece of pieces) {
				// Each piece lies in one repetition: back to the first.
				const [du, dv] = [3, 4].map((k) => Math.floor(Math.min(...piece.map((p) => p[k] as number)) + ROUNDING));
				const placed = piece.map((p) => [
					p[0],
					p[1],
					p[2],
					(p[3] as number) - (du as number),
					(p[4] as number) - (dv as number),
					...p.slice(5),
				]);
				for (let i = 2; i < placed.length; i++) {
					for (const corner of [placed[0], placed[i - 1], placed[i]]) list.push(...(corner as number[]));
					faces++;
				}
			}
		}
		out.push({ list, faces: faces - first });
	}
	return { mesh: gathered(mesh, out), notes: cutFaces ? [cutNote(cutFaces, cells)] : [movedNote] };
}

const movedNote =
	'Some UVs lie outside 0–1. They repeat the sheet: their islands are moved onto it, where they may share it with others.';
const cutNote = (faces: number, cells: number): string =>
	`UVs of ${faces} faces run over the sheet’s border, up to ${cells} times. They repeat the sheet, so paint there shows in every repetition.`;
const tooOften =
	'UVs lie outside 0–1 and repeat the sheet so often that the faces cannot be cut there: what lies outside takes no paint. Scale the UVs down.';

/** A mesh of corners, equal ones shared. */
function gathered(
	mesh: LaidMesh,
	parts: readonly { readonly list: readonly number[]; readonly faces: number }[],
): LaidMesh {
	const beforeColors = mesh.normals ? 8 : 5;
	const size = beforeColors + (mesh.colors ? 4 : 0);
	const known = new Map<string, number>();
	const all: number[] = [];
	const indices: number[] = [];
	const out: Part[] = [];
	parts.forEach(({ list, faces }, p) => {
		out.push({ name: mesh.parts[p]?.name ?? 'Part', firstFace: indices.length / 3, faces });
		for (let i = 0; i < list.length; i += size) {
			const corner = list.slice(i, i + size).map(Math.fround);
			const key = corner.join();
			let at = known.get(key);
			if (at === undefined) {
				known.set(key, (at = all.length / size));
				for (const v of corner) all.push(v);
			}
			indices.push(at);
		}
	});
	const pick = (from: number, count: number): Float32Array<ArrayBuffer> =>
		Float32Array.from(
			{ length: (all.length / size) * count },
			(_, i) => all[Math.floor(i / count) * size + from + (i % count)] as number,
		);
	return {
		positions: pick(0, 3),
		uvs: pick(3, 2),
		normals: mesh.normals ? pick(5, 3) : null,
		...(mesh.colors ? { colors: pick(beforeColors, 4) } : {}),
		indices: Uint32Array.from(indices),
		parts: out,
	};
}
