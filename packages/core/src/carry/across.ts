import { type Bvh, buildBvh, type Near, nearestOn } from '../bvh/index.ts';
import { type LaidMesh, meshBounds, partOfFaces } from '../mesh/index.ts';

/** How far apart two versions of a surface may lie, in sizes of the model, and still be the same. */
const REACH = 0.25;
/** So far from the newer surface what was painted has nothing to lie on any more. */
const GONE = 0.05;
/** Texels that the places of a face's corners may differ by from what one way says. */
const LOOSE = 0.25;
/** Where a face is asked for what it lies on: corners, drawn in a little, and the middle. */
const asked: readonly (readonly [number, number, number])[] = [
	[1 / 3, 1 / 3, 1 / 3],
	[0.96, 0.02, 0.02],
	[0.02, 0.96, 0.02],
	[0.02, 0.02, 0.96],
	[0.48, 0.48, 0.04],
	[0.04, 0.48, 0.48],
	[0.48, 0.04, 0.48],
];

/** A model against the version of it that it takes the place of. */
export interface Across {
	/** The newer faces as they would lie where the surface lay before; of no use for loose ones and those without a face. */
	readonly mesh: LaidMesh;
	/** The face of before that each newer one lies on; -1 where nothing is near. */
	readonly faceOf: Int32Array;
	/** A newer face that lies on each one of before; -1 where there is none that one way leads to. */
	readonly newFaceOf: Int32Array;
	/** 1 for newer faces that lie over several of before which no one way leads to. */
	readonly loose: Uint8Array;
	/** 1 for faces of before whose surface is not there any more. */
	readonly gone: Uint8Array;
	/** Units of before for each of now. */
	readonly unit: number;
	/** What lay at a place of a newer face; null where nothing is near. */
	near(face: number, weights: readonly [number, number, number]): Near | null;
}

type Vec = [number, number, number];

const pointOf = ({ positions, indices }: LaidMesh, face: number, weights: readonly number[]): Vec =>
	[0, 1, 2].map((axis) =>
		weights.reduce((sum, w, k) => sum + w * (positions[(indices[face * 3 + k] as number) * 3 + axis] as number), 0),
	) as Vec;

const cornersOf = (mesh: LaidMesh, face: number): [Vec, Vec, Vec] =>
	[0, 1, 2].map((k) => {
		const at = (mesh.indices[face * 3 + k] as number) * 3;
		return [...mesh.positions.subarray(at, at + 3)];
	}) as [Vec, Vec, Vec];

/** Twice the face's area times its normal. */
function crossOf(mesh: LaidMesh, face: number): Vec {
	const [a, b, c] = cornersOf(mesh, face);
	const [p, q] = [b.map((x, k) => x - (a[k] as number)), c.map((x, k) => x - (a[k] as number))] as [Vec, Vec];
	return [p[1] * q[2] - p[2] * q[1], p[2] * q[0] - p[0] * q[2], p[0] * q[1] - p[1] * q[0]];
}

const dot = (a: Vec, b: Vec): number => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];

/** The shares of a face's corners at a point of its plane, also outside of it. */
function sharesAt(mesh: LaidMesh, face: number, point: Vec): Vec {
	const [a, b, c] = cornersOf(mesh, face);
	const from = (end: Vec): Vec => end.map((x, k) => x - (a[k] as number)) as Vec;
	const [ab, ac, ap] = [from(b), from(c), from(point)];
	const [bb, bc, cc, pb, pc] = [dot(ab, ab), dot(ab, ac), dot(ac, ac), dot(ap, ab), dot(ap, ac)];
	const area = bb * cc - bc * bc || 1;
	const [v, w] = [(cc * pb - bc * pc) / area, (bb * pc - bc * pb) / area];
	return [1 - v - w, v, w];
}

/** Where a place of a face, by the shares of its corners, lies on its sheet: u and v. */
export function layAt({ uvs, indices }: LaidMesh, face: number, shares: readonly number[]): [number, number] {
	let [u, v] = [0, 0];
	for (let k = 0; k < 3; k++) {
		const at = (indices[face * 3 + k] as number) * 2;
		u += (shares[k] as number) * (uvs[at] as number);
		v += (shares[k] as number) * (uvs[at + 1] as number);
	}
	return [u, v];
}

/** Units of one mesh for each of another's: 1, unless they differ so much that one was written in another unit. */
function unitOf(from: LaidMesh, to: LaidMesh): number {
	const by = meshBounds(to).radius / meshBounds(from).radius;
	return by > 0.4 && by < 2.5 ? 1 : by;
}

/** Brings points of one mesh to the size and place of another, where the unit is another. */
export function fitted(from: LaidMesh, to: LaidMesh): (point: Vec) => Vec {
	const by = unitOf(from, to);
	const [a, b] = [meshBounds(from), meshBounds(to)];
	if (by === 1) return (point) => point;
	return (point) => point.map((x, k) => (x - (a.center[k] as number)) * by + (b.center[k] as number)) as Vec;
}

/** For each face the number of the other mesh's part that has the name of its own; -1 where there is none. */
function likeParts(mesh: LaidMesh, other: LaidMesh): Int32Array {
	const like = mesh.parts.map(({ name }) => other.parts.findIndex((part) => part.name === name));
	return Int32Array.from(partOfFaces(mesh), (part) => like[part] as number);
}

/**
 * The newer mesh with its faces where those of the same number lay, on parts of the same name with as many of them: what a
 * figure of boxes is, whose boxes may have other sizes and stand elsewhere.
 */
export function byNumber(before: LaidMesh, now: LaidMesh): LaidMesh {
	const corners = now.indices.length;
	const positions = new Float32Array(corners * 3);
	now.parts.forEach((part) => {
		const old = before.parts.find(({ name, faces }) => name === part.name && faces === part.faces);
		const [mesh, first] = old ? [before, old.firstFace] : [now, part.firstFace];
		for (let i = 0; i < part.faces * 3; i++) {
			const at = (mesh.indices[first * 3 + i] as number) * 3;
			positions.set(mesh.positions.subarray(at, at + 3), (part.firstFace * 3 + i) * 3);
		}
	});
	const uvs = Float32Array.from({ length: corners * 2 }, (_, i) => {
		const v = now.indices[i >> 1] as number;
		return now.uvs[v * 2 + (i % 2)] as number;
	});
	return {
		positions,
		normals: null,
		uvs,
		indices: Uint32Array.from({ length: corners }, (_, i) => i),
		parts: now.parts,
	};
}

/**
 * Finds where the surface of a newer model lay on the one before: on parts of the same name, or where there is none on all
 * of it; the nearest place that looks the same way. `side` is the longest side of a sheet, texels.
 */
export function acrossOf(before: LaidMesh, now: LaidMesh, side: number): Across {
	const faces = now.indices.length / 3;
	const { radius } = meshBounds(before);
	const toBefore = fitted(now, before);
	const oldPart = partOfFaces(before);
	const trees = new Map<number, Bvh>();
	const treeOf = (part: number): Bvh => {
		let tree = trees.get(part);
		if (!tree) {
			const own = [...oldPart.keys()].filter((face) => oldPart[face] === part);
			trees.set(part, (tree = part < 0 ? buildBvh(before) : buildBvh(before, own)));
		}
		return tree;
	};
	const normals = Array.from({ length: before.indices.length / 3 }, (_, face) => crossOf(before, face));
	const like = likeParts(now, before);
	const nearPoint = (part: number, point: Vec, normal: Vec): Near | null => {
		const tree = treeOf(part);
		const facing = nearestOn(tree, point, (face) => dot(normals[face] as Vec, normal) > 0);
		const found = facing && facing.distance <= radius * REACH ? facing : nearestOn(tree, point);
		return found && found.distance <= radius * REACH ? found : null;
	};
	const near: Across['near'] = (face, weights) =>
		nearPoint(like[face] as number, toBefore(pointOf(now, face, weights)), crossOf(now, face));

	const faceOf = new Int32Array(faces).fill(-1);
	const newFaceOf = new Int32Array(before.indices.length / 3).fill(-1);
	const loose = new Uint8Array(faces);
	const uvs = new Float32Array(faces * 6);
	for (let face = 0; face < faces; face++) {
		const found = asked.map((weights) => near(face, weights));
		const middle = found.find((each) => each !== null);
		if (!middle) continue;
		const old = middle.face;
		faceOf[face] = old;
		const laid = (weights: readonly number[]): [number, number] =>
			layAt(before, old, sharesAt(before, old, toBefore(pointOf(now, face, weights))));
		const same = found.every((each, i) => {
			if (!each) return false;
			const [u, v] = laid(asked[i] as Vec);
			const [s, t] = layAt(before, each.face, [1 - each.v - each.w, each.v, each.w]);
			return Math.hypot(u - s, v - t) * side < LOOSE;
		});
		if (!same) {
			loose[face] = 1;
			continue;
		}
		for (let k = 0; k < 3; k++) uvs.set(laid([0, 1, 2].map((i) => Number(i === k))), face * 6 + k * 2);
		for (const each of found) if (each && newFaceOf[each.face] === -1) newFaceOf[each.face] = face;
	}

	const [whole, back] = [buildBvh(now), fitted(before, now)];
	const size = meshBounds(now).radius;
	const gone = Uint8Array.from(normals, (_, face) => {
		const place = nearestOn(whole, back(pointOf(before, face, [1 / 3, 1 / 3, 1 / 3])));
		return Number(!place || place.distance > size * GONE);
	});
	const positions = new Float32Array(faces * 9);
	for (let corner = 0; corner < faces * 3; corner++)
		positions.set(
			now.positions.subarray((now.indices[corner] as number) * 3, (now.indices[corner] as number) * 3 + 3),
			corner * 3,
		);
	const mesh: LaidMesh = {
		positions,
		normals: null,
		uvs,
		indices: Uint32Array.from({ length: faces * 3 }, (_, i) => i),
		parts: now.parts,
	};
	return { mesh, faceOf, newFaceOf, loose, gone, unit: unitOf(now, before), near };
}
