import { nextCorner } from '../mesh/index.ts';
import { edgeLength, type Joints, placeOf } from './joints.ts';
import { createQueue } from './queue.ts';

/** Turns sharper than this end a loop: cosine of 50 degrees. */
const MOST_TURN = Math.cos((50 * Math.PI) / 180);

/** Edges by the places that they end at, each once, by one of its corners. */
function edgesByPlace(joints: Joints): Map<number, number[]> {
	const out = new Map<number, number[]>();
	const { indices } = joints.mesh;
	for (let corner = 0; corner < indices.length; corner++) {
		const other = joints.across[corner] as number;
		if (other >= 0 && other < corner) continue;
		for (const end of [placeOf(joints, corner), placeOf(joints, nextCorner(corner))]) {
			const list = out.get(end);
			if (list) list.push(corner);
			else out.set(end, [corner]);
		}
	}
	return out;
}

const ends = (joints: Joints, corner: number): readonly [number, number] => [
	placeOf(joints, corner),
	placeOf(joints, nextCorner(corner)),
];

/** The direction from one place to another. */
function direction({ mesh: { positions } }: Joints, from: number, to: number): readonly number[] {
	const d = [0, 1, 2].map((k) => (positions[to * 3 + k] as number) - (positions[from * 3 + k] as number));
	const long = Math.hypot(...d) || 1;
	return d.map((v) => v / long);
}

/** The whole loop that an edge is part of: on from both its ends along what goes on straightest, until it closes or ends. */
export function loopOf(joints: Joints, corner: number): number[] {
	const by = edgesByPlace(joints);
	const out = [corner];
	const seen = new Set(out);
	const walk = (from: number, start: number): void => {
		let [behind, at, edge] = [from, start, corner];
		for (;;) {
			const way = direction(joints, behind, at);
			let best = -1;
			let most = MOST_TURN;
			for (const each of by.get(at) ?? []) {
				if (each === edge) continue;
				const [a, b] = ends(joints, each);
				const to = direction(joints, at, a === at ? b : a);
				const along = way.reduce((sum, v, k) => sum + v * (to[k] as number), 0);
				if (along > most + 1e-9) [best, most] = [each, along];
			}
			if (best < 0 || seen.has(best)) return;
			seen.add(best);
			out.push(best);
			const [a, b] = ends(joints, best);
			[behind, at, edge] = [at, a === at ? b : a, best];
		}
	};
	const [a, b] = ends(joints, corner);
	walk(a, b);
	walk(b, a);
	return out;
}

/** The shortest way over edges from one edge to another, both of them taken along. Empty where none leads there. */
export function wayBetween(joints: Joints, from: number, to: number): number[] {
	if (from === to) return [from];
	const by = edgesByPlace(joints);
	const starts = new Set(ends(joints, from));
	const goals = new Set(ends(joints, to));
	const cost = new Map<number, number>();
	const via = new Map<number, number>();
	const queue = createQueue();
	for (const start of starts) {
		cost.set(start, 0);
		queue.push(start, 0);
	}
	const done = new Set<number>();
	for (let at = queue.pop(); at !== undefined; at = queue.pop()) {
		if (done.has(at)) continue;
		done.add(at);
		if (goals.has(at)) {
			const out = [from, to];
			for (let here = at; !starts.has(here); ) {
				const edge = via.get(here) as number;
				out.push(edge);
				const [a, b] = ends(joints, edge);
				here = a === here ? b : a;
			}
			return [...new Set(out)];
		}
		for (const edge of by.get(at) ?? []) {
			const [a, b] = ends(joints, edge);
			const there = a === at ? b : a;
			const next = (cost.get(at) as number) + edgeLength(joints, edge);
			if (next >= (cost.get(there) ?? Infinity)) continue;
			cost.set(there, next);
			via.set(there, edge);
			queue.push(there, next);
		}
	}
	return [];
}
