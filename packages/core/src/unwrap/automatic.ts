import { chartOf } from './chart.ts';
import { flatten } from './flatten.ts';
import { bendAt, edgeLength, type Joints, markEdge, piecesOf } from './joints.ts';
import { openUp } from './openUp.ts';
import { overlaps } from './overlap.ts';
import { clustersOf } from './segment.ts';

/** Faces in one piece that is tried: larger ones take long, and are hard to tell apart on a sheet. */
const MOST_TRIED = 4000;

/** Cells along a piece that is tried, in which it is looked for whether it lies over itself. */
const CELLS = 300;

interface Group {
	readonly faces: readonly number[];
	/** Neighbours: what they share, units, and how much the surface bends there, degrees by length. */
	readonly beside: Map<number, { long: number; bend: number }>;
}

/** Marks the edges between groups. */
function markBetween(joints: Joints, marks: Uint8Array, groups: readonly (readonly number[])[]): void {
	const of = new Map<number, number>();
	groups.forEach((list, i) => {
		for (const face of list) of.set(face, i);
	});
	for (const [face, mine] of of)
		for (let k = 0; k < 3; k++) {
			const corner = face * 3 + k;
			const other = joints.across[corner] as number;
			if (other >= 0 && of.get(Math.floor(other / 3)) !== mine) markEdge(joints, marks, corner);
		}
}

/**
 * Marks seams of its own finding. `less` goes from few seams, 0, to little stretch, 1. Faces that look alike are grouped
 * first; then neighbours are sewn, longest border first, wherever the two still lie flat as one: within the stretch that
 * is allowed, over no edge sharper than is allowed, and not over themselves. `tell` hears how far it is, 0..1.
 */
export function markAutomatic(
	joints: Joints,
	marks: Uint8Array,
	faces: readonly number[],
	less: number,
	tell: (share: number) => void = () => undefined,
): void {
	const start = clustersOf(joints, marks, faces, 0.02 + 0.12 * (1 - less));
	const groups = new Map<number, Group>(start.map((list, i) => [i, { faces: list, beside: new Map() }]));
	const of = new Map<number, number>();
	for (const [i, { faces: list }] of groups) for (const face of list) of.set(face, i);
	for (const [i, { faces: list, beside }] of groups)
		for (const face of list)
			for (let k = 0; k < 3; k++) {
				const corner = face * 3 + k;
				const other = joints.across[corner] as number;
				const j = other < 0 || marks[corner] ? undefined : of.get(Math.floor(other / 3));
				if (j === undefined || j === i) continue;
				const known = beside.get(j) ?? { long: 0, bend: 0 };
				const long = edgeLength(joints, corner);
				beside.set(j, { long: known.long + long, bend: known.bend + bendAt(joints, corner) * long });
			}
	const mostStretch = 1 + 0.12 * (1 - less) ** 2 + 0.004;
	const mostBend = 100 - 70 * less;
	const refused = new Set<string>();
	const around = (list: readonly number[]): number =>
		list.reduce((sum, face) => {
			for (let k = 0; k < 3; k++) {
				const other = joints.across[face * 3 + k] as number;
				if (other < 0 || of.get(Math.floor(other / 3)) !== of.get(face)) sum += edgeLength(joints, face * 3 + k);
			}
			return sum;
		}, 0);
	const next = (): readonly [number, number] | null => {
		let best: readonly [number, number] | null = null;
		let most = 0;
		for (const [i, { faces: list, beside }] of groups) {
			if (beside.size === 0) continue;
			const mine = around(list);
			for (const [j, { long, bend }] of beside) {
				if (bend / long > mostBend || refused.has(i < j ? `${i} ${j}` : `${j} ${i}`)) continue;
				if (list.length + (groups.get(j) as Group).faces.length > MOST_TRIED) continue;
				// What is nearly surrounded goes first, and smooth borders before bent ones.
				const worth = (long / mine) * (1 - bend / long / 240) + 1e-9;
				if (worth <= most) continue;
				most = worth;
				best = [i, j];
			}
		}
		return best;
	};
	let tried = 0;
	for (let pair = next(); pair; pair = next()) {
		const [i, j] = pair;
		const [one, two] = [groups.get(i) as Group, groups.get(j) as Group];
		const list = [...one.faces, ...two.faces].sort((a, b) => a - b);
		tell(tried / (tried + groups.size + 10));
		tried++;
		if (!fits(joints, marks, list, mostStretch)) {
			refused.add(i < j ? `${i} ${j}` : `${j} ${i}`);
			continue;
		}
		// The larger takes the smaller in; what was refused of either may be tried anew.
		groups.set(i, { faces: list, beside: one.beside });
		groups.delete(j);
		for (const face of two.faces) of.set(face, i);
		one.beside.delete(j);
		for (const [k, border] of two.beside) {
			if (k === i) continue;
			const known = one.beside.get(k) ?? { long: 0, bend: 0 };
			const sum = { long: known.long + border.long, bend: known.bend + border.bend };
			one.beside.set(k, sum);
			const back = (groups.get(k) as Group).beside;
			back.delete(j);
			back.set(i, sum);
		}
	}
	markBetween(
		joints,
		marks,
		[...groups.values()].map((group) => group.faces),
	);
	tell(1);
}

/** Whether faces lie flat as one piece: once opened up, hardly stretched, none turned over, none over another. */
function fits(joints: Joints, marks: Uint8Array, faces: readonly number[], mostStretch: number): boolean {
	const tried = marks.slice();
	const pieces = piecesOf(joints, tried, faces);
	if (pieces.length !== 1) return false;
	openUp(joints, tried, faces);
	const chart = chartOf(joints, tried, faces);
	const flat = flatten(chart, 10);
	if (flat.flips > 0 || flat.angleStretch > mostStretch) return false;
	if (flat.areaStretch > 1 + 2 * (mostStretch - 1)) return false;
	return !overlaps(chart, flat.places, CELLS);
}
