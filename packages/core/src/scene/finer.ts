import { keptBend, raysOf } from '../bake/index.ts';
import { type LaidMesh, type Mesh, meshBounds, partOfFace } from '../mesh/index.ts';
import type { Planes, SurfaceGround, Triple } from '../recipe/index.ts';
import { bent } from './bending.ts';
import { hiddenFrom, type Solid, solidFrom } from './hidden.ts';

const known = new WeakMap<LaidMesh, WeakMap<LaidMesh, Solid>>();

/** A finer mesh in the hundredths of the one that it is finer than: both lie in the same place. */
function finerSolid(low: LaidMesh, mesh: LaidMesh): Solid {
	let all = known.get(low);
	if (!all) known.set(low, (all = new WeakMap()));
	let found = all.get(mesh);
	if (!found) all.set(mesh, (found = solidFrom(mesh, meshBounds(low))));
	return found;
}

const alone = new WeakMap<LaidMesh, Map<string, Mesh>>();

/** Only what of a mesh has the name of a part; all of it where no part has. Faces keep their numbers with `first` added. */
function named(mesh: LaidMesh, name: string): { readonly mesh: Mesh; readonly first: number } {
	const part = mesh.parts.find((each) => each.name === name);
	if (!part) return { mesh, first: 0 };
	let all = alone.get(mesh);
	if (!all) alone.set(mesh, (all = new Map()));
	let found = all.get(name);
	if (!found) {
		const indices = mesh.indices.slice(part.firstFace * 3, (part.firstFace + part.faces) * 3);
		all.set(name, (found = { ...mesh, indices, parts: [{ ...part, firstFace: 0 }] }));
	}
	return { mesh: found, first: part.firstFace };
}

/** What rays met: a finer mesh's face for each cell, -1 where none, and where in it: shares of its second and third corner. */
interface Met {
	readonly face: Int32Array;
	readonly second: Float32Array;
	readonly third: Float32Array;
}

/** Rays go on so often behind what looks the other way. */
const MOST_BEHIND = 8;

/** What rays meet that looks towards where they come from; what they meet from behind they go through. */
function facingHits(
	planes: Planes,
	{ mesh, first }: { readonly mesh: Mesh; readonly first: number },
	{ facing }: Solid,
	rays: Float32Array,
	far: number,
): { readonly lengths: Float32Array; readonly faces: Int32Array } {
	const tree = raysOf(planes.kernels, mesh);
	const count = rays.length / 6;
	const [lengths, faces] = [new Float32Array(count), new Int32Array(count).fill(-1)];
	let due = Array.from({ length: count }, (_, n) => n);
	for (let turn = 0; turn < MOST_BEHIND && due.length; turn++) {
		const list = new Float32Array(due.length * 6);
		due.forEach((n, i) => {
			list.set(rays.subarray(n * 6, n * 6 + 6), i * 6);
			for (let k = 0; k < 3; k++)
				list[i * 6 + k] = (rays[n * 6 + k] as number) + (rays[n * 6 + 3 + k] as number) * (lengths[n] as number);
		});
		const met = tree.meets(list, far);
		due = due.filter((n, i) => {
			const face = met.faces[i] as number;
			if (face < 0) return false;
			const length = (lengths[n] as number) + (met.lengths[i] as number);
			if (length > far) return false;
			const toward = [0, 1, 2].reduce(
				(sum, k) => sum + (facing[(face + first) * 3 + k] as number) * (rays[n * 6 + 3 + k] as number),
				0,
			);
			if (toward < 0) {
				lengths[n] = length;
				faces[n] = face;
				return false;
			}
			// A hair behind it.
			lengths[n] = length + far * 1e-5;
			return true;
		});
	}
	return { lengths, faces };
}

/** Sends a ray through each cell that has a face, from outside of the cage. */
function meeting(
	planes: Planes,
	ground: SurfaceGround,
	low: LaidMesh,
	solid: Solid,
	cage: number,
	byParts: boolean,
): Met {
	const count = ground.face.length;
	const [x, y, z] = ground.place.map((at) => planes.floats(at, count).slice()) as [
		Float32Array,
		Float32Array,
		Float32Array,
	];
	const [u, v, w] = ground.normal.map((at) => planes.floats(at, count).slice()) as [
		Float32Array,
		Float32Array,
		Float32Array,
	];
	const met: Met = {
		face: new Int32Array(count).fill(-1),
		second: new Float32Array(count),
		third: new Float32Array(count),
	};
	const groups = new Map<string, number[]>();
	ground.face.forEach((face, i) => {
		if (face < 0) return;
		const name = byParts ? (low.parts[ground.partOf(face)]?.name ?? '') : '';
		const list = groups.get(name);
		if (list) list.push(i);
		else groups.set(name, [i]);
	});
	const { positions, indices } = solid.mesh;
	for (const [name, cells] of groups) {
		const own = byParts ? named(solid.mesh, name) : { mesh: solid.mesh, first: 0 };
		const rays = new Float32Array(cells.length * 6);
		cells.forEach((i, n) => {
			const way = [u[i], v[i], w[i]] as [number, number, number];
			const at = [x[i], y[i], z[i]] as [number, number, number];
			rays.set([...at.map((each, k) => each + (way[k] as number) * cage), ...way.map((each) => -each)], n * 6);
		});
		const { lengths, faces } = facingHits(planes, own, solid, rays, 2 * cage);
		cells.forEach((i, n) => {
			const face = faces[n] as number;
			if (face < 0) return;
			met.face[i] = face + own.first;
			const [a, b, c] = [0, 1, 2].map((k) => (indices[(face + own.first) * 3 + k] as number) * 3) as [
				number,
				number,
				number,
			];
			const side = (to: number, k: number): number => (positions[to + k] as number) - (positions[a + k] as number);
			const from = (k: number): number =>
				(rays[n * 6 + k] as number) +
				(rays[n * 6 + 3 + k] as number) * (lengths[n] as number) -
				(positions[a + k] as number);
			// Shares by areas in the face's own plane: C. Ericson, "Real-Time Collision Detection" (2004), 3.4.
			let [bb, bc, cc, pb, pc] = [0, 0, 0, 0, 0];
			for (let k = 0; k < 3; k++) {
				const [e, f, p] = [side(b, k), side(c, k), from(k)];
				bb += e * e;
				bc += e * f;
				cc += f * f;
				pb += p * e;
				pc += p * f;
			}
			const over = 1 / (bb * cc - bc * bc || 1e-12);
			met.second[i] = (cc * pb - bc * pc) * over;
			met.third[i] = (bb * pc - bc * pb) * over;
		});
	}
	return met;
}

/** The ground of a surface lifted onto a finer mesh: what recipes read there is the finer one's. */
export function liftedOn(
	planes: Planes,
	ground: SurfaceGround,
	grid: { readonly width: number; readonly column: number; readonly row: number },
	low: LaidMesh,
	finer: LaidMesh,
	cage: number,
	byParts: boolean,
): SurfaceGround {
	const solid = finerSolid(low, finer);
	const { face, second, third } = meeting(planes, ground, low, solid, cage, byParts);
	const { positions, normals, indices } = solid.mesh;
	const count = face.length;
	const take = (): Triple => [planes.take(count), planes.take(count), planes.take(count)];
	const [place, normal, cells] = [take(), take(), planes.take(count)];
	const between = (i: number, list: Float32Array, k: number, row = 3): number => {
		const at = (corner: number): number =>
			list[(indices[(face[i] as number) * 3 + corner] as number) * row + k] as number;
		const [s, t] = [second[i] as number, third[i] as number];
		return at(0) * (1 - s - t) + at(1) * s + at(2) * t;
	};
	planes.ints(cells, count).set(face);
	const [P, N] = [place, normal].map((all) => all.map((at) => planes.floats(at, count))) as [
		Float32Array[],
		Float32Array[],
	];
	for (let i = 0; i < count; i++) {
		if ((face[i] as number) < 0) continue;
		const n = [0, 1, 2].map((k) =>
			normals ? between(i, normals, k) : (solid.facing[(face[i] as number) * 3 + k] as number),
		);
		const length = Math.hypot(...n) || 1;
		for (let k = 0; k < 3; k++) {
			(P[k] as Float32Array)[i] = between(i, positions, k);
			(N[k] as Float32Array)[i] = (n[k] as number) / length;
		}
	}
	const partOf = (each: number): number => partOfFace(solid.mesh, each);
	return {
		...ground,
		place,
		normal,
		cells,
		// What is missed has no face; what is met keeps the number that the low one has, by which pieces are told.
		face: ground.face.map((each, i) => ((face[i] as number) < 0 ? -1 : each)),
		solid: solid.mesh,
		colors() {
			const { colors } = solid.mesh;
			if (!colors) return null;
			const to = take();
			to.forEach((plane, k) => {
				const out = planes.floats(plane, count);
				for (let i = 0; i < count; i++) if ((face[i] as number) >= 0) out[i] = between(i, colors, k, 4);
			});
			return to;
		},
		hidden: (of, only) =>
			hiddenFrom(planes, { ...grid, face, place, normal, islandOf: () => 0, partOf }, solid, of, only, 'no'),
		bend(angle, wide) {
			const { corners } = keptBend(solid.mesh, angle);
			const [out, into] = [planes.take(count), planes.take(count)];
			const smooth = planes.floats(out, count);
			for (let i = 0; i < count; i++) {
				const at = (face[i] as number) * 3;
				const [s, t] = [second[i] as number, third[i] as number];
				smooth[i] =
					at < 0
						? 0
						: (corners[at] as number) * (1 - s - t) + (corners[at + 1] as number) * s + (corners[at + 2] as number) * t;
			}
			return bent(planes, { solid: solid.mesh, angle, wide, face, cells, place, normal, out, into });
		},
		finer: () => {
			throw new Error('A finer mesh has no finer one.');
		},
	};
}
