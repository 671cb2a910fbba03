import { edgeLength, type Joints } from './joints.ts';
import { createQueue } from './queue.ts';

/**
 * Groups faces that look the same way: neighbours are joined, the most alike first, as long as the mean of what a group's
 * normals differ from their common one stays under `limit` (0: faces of one plane, 1: anything).
 * Source: M. Garland et al., "Hierarchical face clustering on polygonal surfaces" (2001).
 */
export function clustersOf(joints: Joints, marks: Uint8Array, faces: readonly number[], limit: number): number[][] {
	const { across, areas, normals } = joints;
	const inside = new Set(faces);
	const group = new Map<number, number[]>(faces.map((face) => [face, [face]]));
	const of = new Map<number, number>(faces.map((face) => [face, face]));
	const sums = new Map<number, Float64Array>();
	for (const face of faces) {
		const a = areas[face] as number;
		sums.set(face, Float64Array.of(a, ...[0, 1, 2].map((k) => a * (normals[face * 3 + k] as number))));
	}
	/** Shared edges of groups, by their length. */
	const shared = new Map<number, Map<number, number>>(faces.map((face) => [face, new Map()]));
	const around = new Map<number, number>();
	for (const face of faces)
		for (let k = 0; k < 3; k++) {
			const corner = face * 3 + k;
			const other = Math.floor((across[corner] as number) / 3);
			const long = edgeLength(joints, corner);
			around.set(face, (around.get(face) ?? 0) + long);
			if ((across[corner] as number) < 0 || marks[corner] || !inside.has(other)) continue;
			const list = shared.get(face) as Map<number, number>;
			list.set(other, (list.get(other) ?? 0) + long);
		}
	const spread = (a: number, b: number): number => {
		const [p, q] = [sums.get(a) as Float64Array, sums.get(b) as Float64Array];
		const area = (p[0] as number) + (q[0] as number);
		const long = Math.hypot(
			(p[1] as number) + (q[1] as number),
			(p[2] as number) + (q[2] as number),
			(p[3] as number) + (q[3] as number),
		);
		return area > 0 ? 1 - long / area : 0;
	};
	/** Round groups before long ones: how much of the rim of both goes where they are joined. */
	const cost = (a: number, b: number, long: number): number => {
		const whole = (around.get(a) as number) + (around.get(b) as number);
		return spread(a, b) + 0.02 * (1 - (2 * long) / Math.max(whole, 1e-12));
	};
	const pairs: (readonly [a: number, b: number, turnA: number, turnB: number])[] = [];
	const turns = new Map<number, number>(faces.map((face) => [face, 0]));
	const queue = createQueue();
	const offer = (a: number, b: number, long: number): void => {
		if (spread(a, b) > limit + 1e-9) return;
		queue.push(pairs.length, cost(a, b, long));
		pairs.push([a, b, turns.get(a) as number, turns.get(b) as number]);
	};
	for (const [a, list] of shared) for (const [b, long] of list) if (a < b) offer(a, b, long);
	for (let at = queue.pop(); at !== undefined; at = queue.pop()) {
		const [a, b, turnA, turnB] = pairs[at] as readonly [number, number, number, number];
		if (turns.get(a) !== turnA || turns.get(b) !== turnB || !group.has(a) || !group.has(b)) continue;
		const [one, two] = [group.get(a) as number[], group.get(b) as number[]];
		const [keep, go] = one.length >= two.length ? [a, b] : [b, a];
		const [keeps, goes] = keep === a ? [one, two] : [two, one];
		for (const face of goes) {
			keeps.push(face);
			of.set(face, keep);
		}
		group.delete(go);
		const [p, q] = [sums.get(keep) as Float64Array, sums.get(go) as Float64Array];
		for (let k = 0; k < 4; k++) p[k] = (p[k] as number) + (q[k] as number);
		const [mine, theirs] = [shared.get(keep) as Map<number, number>, shared.get(go) as Map<number, number>];
		around.set(keep, (around.get(keep) as number) + (around.get(go) as number) - 2 * (mine.get(go) ?? 0));
		mine.delete(go);
		for (const [other, long] of theirs) {
			if (other === keep) continue;
			mine.set(other, (mine.get(other) ?? 0) + long);
			const back = shared.get(other) as Map<number, number>;
			back.delete(go);
			back.set(keep, mine.get(other) as number);
		}
		shared.delete(go);
		turns.set(keep, (turns.get(keep) as number) + 1);
		for (const [other, long] of mine) offer(keep, other, long);
	}
	return [...group.values()]
		.map((list) => list.sort((x, y) => x - y))
		.sort((x, y) => (x[0] as number) - (y[0] as number));
}
