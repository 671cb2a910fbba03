import type { Sheet } from '@eppu/core/document';
import { nextCorner } from '@eppu/core/mesh';
import type { Spot } from '@eppu/core/scene';
import type { ShownModel } from '../../studio/told.ts';

/** So near to a cut, in shares of the sheet's longer side, a place points at it. */
const NEAR = 0.02;

const partners = new WeakMap<ShownModel, ReadonlyMap<number, readonly number[]>>();

/** For each edge at which the sheet is cut, by a corner that it begins at: all sides of it. */
function sidesOf(model: ShownModel): ReadonlyMap<number, readonly number[]> {
	const known = partners.get(model);
	if (known) return known;
	const { positions, indices, borders, radius } = model;
	const placeOf = (corner: number): string => {
		const v = (indices[corner] as number) * 3;
		return [0, 1, 2].map((k) => Math.round(((positions[v + k] as number) / radius) * 1e4) || 0).join();
	};
	const byEdge = new Map<string, number[]>();
	for (const corner of borders) {
		const key = [placeOf(corner), placeOf(nextCorner(corner))].sort().join(' ');
		const list = byEdge.get(key) ?? [];
		byEdge.set(key, list);
		list.push(corner);
	}
	const out = new Map([...byEdge.values()].flatMap((list) => list.map((corner) => [corner, list] as const)));
	partners.set(model, out);
	return out;
}

/** The cut that a place lies at, with the edge that it goes on in: corners that these edges begin at; null away from cuts. */
export function cutAt(model: ShownModel, { island, x, y }: Spot, { width, height }: Sheet): Uint32Array | null {
	const sides = sidesOf(model);
	const { uvs, indices, islandOfFace } = model;
	let [best, least] = [-1, NEAR * Math.max(width, height)];
	for (const corner of sides.keys()) {
		if (islandOfFace[Math.floor(corner / 3)] !== island) continue;
		const [a, b] = [corner, nextCorner(corner)].map((each) => {
			const v = (indices[each] as number) * 2;
			return [(uvs[v] as number) * width, (uvs[v + 1] as number) * height];
		}) as [[number, number], [number, number]];
		const [dx, dy] = [b[0] - a[0], b[1] - a[1]];
		const t = Math.max(0, Math.min(1, ((x - a[0]) * dx + (y - a[1]) * dy) / (dx * dx + dy * dy || 1)));
		const far = Math.hypot(x - a[0] - t * dx, y - a[1] - t * dy);
		if (far < least) [best, least] = [corner, far];
	}
	return best < 0 ? null : Uint32Array.from(sides.get(best) ?? []);
}
