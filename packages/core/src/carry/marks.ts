import { type LaidMesh, meshBounds, nextCorner, topologyOf } from '../mesh/index.ts';
import { jointsOf, markEdge } from '../unwrap/index.ts';
import { fitted } from './across.ts';

type Vec = readonly [number, number, number];

/** An edge of the newer surface lies on a marked one of before where both are this near, in sizes of the model … */
const NEAR = 0.004;
/** … and go one way: the cosine of the angle between them. */
const ALONG = 0.97;

const minus = (a: Vec, b: Vec): Vec => [a[0] - b[0], a[1] - b[1], a[2] - b[2]];
const dot = (a: Vec, b: Vec): number => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];

/** A marked edge. */
interface Marked {
	readonly from: Vec;
	readonly along: Vec;
	readonly long: number;
}

/** How far a point lies from a marked edge. */
function distanceTo({ from, along, long }: Marked, point: Vec): number {
	const off = minus(point, from);
	const t = Math.max(0, Math.min(long, dot(off, along)));
	return Math.hypot(off[0] - t * along[0], off[1] - t * along[1], off[2] - t * along[2]);
}

/**
 * Marks of seams, a byte a corner, on a newer version of a mesh: its edges that lie along marked ones of before, also
 * where they are cut into more of them or joined into fewer. What has no edge there has no mark.
 */
export function marksAcross(before: LaidMesh, marks: Uint8Array, now: LaidMesh): Uint8Array {
	const out = new Uint8Array(now.indices.length);
	const near = meshBounds(before).radius * NEAR;
	const pointOf = ({ positions, indices }: LaidMesh, corner: number): Vec => {
		const at = (indices[corner] as number) * 3;
		return [positions[at] as number, positions[at + 1] as number, positions[at + 2] as number];
	};
	/** Marked edges by the cells that they pass: small enough that few lie in one, wide enough to ask one only. */
	const cell = near * 8;
	const keyOf = (point: Vec): string => point.map((x) => Math.floor(x / cell)).join();
	const inCell = new Map<string, Set<Marked>>();
	for (let corner = 0; corner < marks.length; corner++) {
		if (!marks[corner]) continue;
		const [from, to] = [pointOf(before, corner), pointOf(before, nextCorner(corner))];
		const way = minus(to, from);
		const long = Math.hypot(...way);
		if (long === 0) continue;
		const marked: Marked = { from, along: way.map((x) => x / long) as unknown as Vec, long };
		const steps = Math.ceil(long / (cell / 2));
		for (let n = 0; n <= steps; n++)
			for (let side = 0; side < 8; side++) {
				const key = keyOf(
					from.map((x, k) => x + ((way[k] as number) * n) / steps + (side & (1 << k) ? near : -near)) as unknown as Vec,
				);
				inCell.set(key, (inCell.get(key) ?? new Set()).add(marked));
			}
	}
	if (inCell.size === 0) return out;
	const joints = jointsOf(now, topologyOf(now).place);
	const toBefore = fitted(now, before);
	const placeOf = (corner: number): Vec => toBefore([...pointOf(now, corner)]);
	const lies = (point: Vec, along: Vec): boolean =>
		[...(inCell.get(keyOf(point)) ?? [])].some(
			(marked) => Math.abs(dot(marked.along, along)) >= ALONG && distanceTo(marked, point) <= near,
		);
	for (let corner = 0; corner < out.length; corner++) {
		const [from, to] = [placeOf(corner), placeOf(nextCorner(corner))];
		const way = minus(to, from);
		const long = Math.hypot(...way);
		if (long === 0) continue;
		const along = way.map((x) => x / long) as unknown as Vec;
		// Just inside of its ends, and between: an edge that only meets a marked one lies elsewhere with the rest.
		const at = (t: number): Vec => from.map((x, k) => x + (way[k] as number) * t) as unknown as Vec;
		if ([0.5, 0.02, 0.98, 0.25, 0.75].every((t) => lies(at(t), along))) markEdge(joints, out, corner);
	}
	return out;
}
