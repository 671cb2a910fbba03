import { nextCorner } from '../mesh/index.ts';
import { chartOf, isDisk } from './chart.ts';
import { bendAt, edgeLength, type Joints, markEdge, placeOf } from './joints.ts';
import { createQueue } from './queue.ts';

/**
 * Marks edges of a piece until it is a disk, and says whether any were needed. A tree over its faces is grown over the
 * edges that bend least; what it does not cross is a cut, of which all loose ends are taken back. Of a piece without a
 * rim nothing is left of it then, and the longest way over its sharpest edges is cut.
 * Source: tree and cotree, D. Eppstein, "Dynamic generators of topologically embedded graphs" (2003).
 */
export function openUp(joints: Joints, marks: Uint8Array, faces: readonly number[]): boolean {
	let chart = chartOf(joints, marks, faces);
	if (isDisk(chart)) return false;
	// Rims are joined by the shortest way first: a tube is cut straight down.
	for (let rims = chart.rims; rims > 1 && bridgeRims(joints, marks, faces); rims--) {
		chart = chartOf(joints, marks, faces);
		if (isDisk(chart)) return true;
	}
	const inside = new Set(faces);
	const open = (corner: number): boolean => {
		const other = joints.across[corner] as number;
		return other >= 0 && !marks[corner] && inside.has(Math.floor(other / 3));
	};
	// Edges that a seam would be hidden in, sharp and short ones, are crossed last.
	const usual = faces.reduce((sum, face) => sum + edgeLength(joints, face * 3), 0) / faces.length;
	const cost = (corner: number): number =>
		bendAt(joints, corner) / 180 + (0.3 * usual) / (usual + edgeLength(joints, corner) + 1e-30);
	const crossed = new Set<number>();
	const reached = new Set<number>([faces[0] as number]);
	const queue = createQueue();
	const push = (face: number): void => {
		for (let k = 0; k < 3; k++) if (open(face * 3 + k)) queue.push(face * 3 + k, cost(face * 3 + k));
	};
	push(faces[0] as number);
	for (let corner = queue.pop(); corner !== undefined; corner = queue.pop()) {
		const other = joints.across[corner] as number;
		const face = Math.floor(other / 3);
		if (reached.has(face)) continue;
		reached.add(face);
		crossed.add(corner);
		crossed.add(other);
		push(face);
	}
	/** What is cut so far, one side an edge. */
	const cut = new Set<number>();
	for (const face of faces)
		for (let k = 0; k < 3; k++) {
			const corner = face * 3 + k;
			if (open(corner) && !crossed.has(corner) && corner < (joints.across[corner] as number)) cut.add(corner);
		}
	const all = [...cut];
	trimEnds(joints, marks, inside, cut);
	if (cut.size === 0) for (const corner of longestWay(joints, all)) cut.add(corner);
	for (const corner of cut) markEdge(joints, marks, corner);
	return true;
}

/** Cuts the shortest way from one rim of a piece to another; false where there are no two that a way joins. */
function bridgeRims(joints: Joints, marks: Uint8Array, faces: readonly number[]): boolean {
	const inside = new Set(faces);
	const isRim = (corner: number): boolean => {
		const other = joints.across[corner] as number;
		return other < 0 || marks[corner] === 1 || !inside.has(Math.floor(other / 3));
	};
	/** Places of the rims that hang together, and the edges within by their ends. */
	const rimOf = new Map<number, number>();
	const beside = new Map<number, number[]>();
	const edges = new Map<number, number[]>();
	const note = (map: Map<number, number[]>, at: number, value: number): void => {
		const list = map.get(at);
		if (list) list.push(value);
		else map.set(at, [value]);
	};
	for (const face of faces)
		for (let corner = face * 3; corner < face * 3 + 3; corner++) {
			const [a, b] = [placeOf(joints, corner), placeOf(joints, nextCorner(corner))];
			if (isRim(corner)) {
				note(beside, a, b);
				note(beside, b, a);
			} else if (corner < (joints.across[corner] as number)) {
				note(edges, a, corner);
				note(edges, b, corner);
			}
		}
	let count = 0;
	for (const first of beside.keys()) {
		if (rimOf.has(first)) continue;
		const list = [first];
		rimOf.set(first, count);
		for (const here of list)
			for (const there of beside.get(here) ?? [])
				if (!rimOf.has(there)) {
					rimOf.set(there, count);
					list.push(there);
				}
		count++;
	}
	if (count < 2) return false;
	const cost = new Map<number, number>();
	const via = new Map<number, number>();
	const queue = createQueue();
	for (const [place, rim] of rimOf)
		if (rim === 0) {
			cost.set(place, 0);
			queue.push(place, 0);
		}
	const done = new Set<number>();
	for (let at = queue.pop(); at !== undefined; at = queue.pop()) {
		if (done.has(at)) continue;
		done.add(at);
		if ((rimOf.get(at) ?? 0) > 0) {
			for (let here = at; via.has(here); ) {
				const edge = via.get(here) as number;
				markEdge(joints, marks, edge);
				const [a, b] = [placeOf(joints, edge), placeOf(joints, nextCorner(edge))];
				here = a === here ? b : a;
			}
			return true;
		}
		for (const edge of edges.get(at) ?? []) {
			const [a, b] = [placeOf(joints, edge), placeOf(joints, nextCorner(edge))];
			const there = a === at ? b : a;
			// A sharp edge hides a cut: it counts as shorter.
			const long = edgeLength(joints, edge) * (1 - 0.4 * Math.min(1, bendAt(joints, edge) / 90));
			const next = (cost.get(at) as number) + long;
			if (next >= (cost.get(there) ?? Infinity)) continue;
			cost.set(there, next);
			via.set(there, edge);
			queue.push(there, next);
		}
	}
	return false;
}

/** Takes loose ends of a cut away that end at no rim. */
function trimEnds(joints: Joints, marks: Uint8Array, inside: ReadonlySet<number>, cut: Set<number>): void {
	const held = new Set<number>();
	for (const face of inside)
		for (let k = 0; k < 3; k++) {
			const corner = face * 3 + k;
			const other = joints.across[corner] as number;
			if (other >= 0 && !marks[corner] && inside.has(Math.floor(other / 3))) continue;
			held.add(placeOf(joints, corner));
			held.add(placeOf(joints, nextCorner(corner)));
		}
	const at = new Map<number, Set<number>>();
	const ends = (corner: number): number[] => [placeOf(joints, corner), placeOf(joints, nextCorner(corner))];
	for (const corner of cut) for (const end of ends(corner)) at.set(end, (at.get(end) ?? new Set()).add(corner));
	const loose = [...at.keys()];
	for (let end = loose.pop(); end !== undefined; end = loose.pop()) {
		const here = at.get(end) as Set<number>;
		if (here.size !== 1 || held.has(end)) continue;
		const [corner] = here as Iterable<number> as unknown as [number];
		cut.delete(corner);
		for (const other of ends(corner)) {
			at.get(other)?.delete(corner);
			if (other !== end) loose.push(other);
		}
	}
}

/** The longest way through a tree of edges. */
function longestWay(joints: Joints, edges: readonly number[]): number[] {
	const at = new Map<number, number[]>();
	for (const corner of edges)
		for (const end of [placeOf(joints, corner), placeOf(joints, nextCorner(corner))])
			at.set(end, [...(at.get(end) ?? []), corner]);
	const farthest = (from: number): { readonly end: number; readonly way: number[] } => {
		const by = new Map<number, number>([[from, -1]]);
		const long = new Map<number, number>([[from, 0]]);
		const list = [from];
		for (const here of list)
			for (const corner of at.get(here) ?? []) {
				const [a, b] = [placeOf(joints, corner), placeOf(joints, nextCorner(corner))];
				const there = a === here ? b : a;
				if (by.has(there)) continue;
				by.set(there, corner);
				long.set(there, (long.get(here) as number) + edgeLength(joints, corner));
				list.push(there);
			}
		let end = from;
		for (const [place, length] of long) if (length > (long.get(end) as number)) end = place;
		const way: number[] = [];
		for (let here = end; here !== from; ) {
			const corner = by.get(here) as number;
			way.push(corner);
			const [a, b] = [placeOf(joints, corner), placeOf(joints, nextCorner(corner))];
			here = a === here ? b : a;
		}
		return { end, way };
	};
	const first = edges[0];
	if (first === undefined) return [];
	return farthest(farthest(placeOf(joints, first)).end).way;
}
