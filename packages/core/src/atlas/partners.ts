import type { LaidMesh, Topology } from '../mesh/index.ts';
import { isEmptyRect, meet, type Rect } from '../raster/index.ts';
import { TILE } from '../surface/index.ts';
import type { TexelMap } from './texelMap.ts';
import { facesOfTile } from './tileFaces.ts';

/**
 * Gutter texels of a tile that continue over a seam: their place in the tile, and where on the sheet the surface really
 * goes on (texels; texel centres at .5).
 */
export interface Partners {
	readonly place: Uint16Array;
	readonly x: Float32Array;
	readonly y: Float32Array;
}

/** A texel place on the other side of a seam, and the island that begins there. */
export interface Landing {
	readonly x: number;
	readonly y: number;
	readonly island: number;
}

/** Reads over seams: for tiles of a sheet, what lies behind each seam. */
export interface SeamReader {
	partnersOf(tile: number): Partners;
	/**
	 * Where a place beside a face really lies: over the nearest of the face's own seams, or, as border texels may be of
	 * faces with none, of its island's within `most` texels. Null where there is none.
	 */
	across(face: number, x: number, y: number, most: number): Landing | null;
	/** The same over the nearest of all seams of an island. */
	acrossIsland(island: number, x: number, y: number): Landing | null;
	/**
	 * A place on an island as another sees it: in texels of that other, unfolded over the fewest seams that lie between
	 * them, once for each row of islands that leads there; on the island itself, over a seam where it meets itself.
	 * Nothing where more than three lie between.
	 */
	seenFrom(other: number, island: number, x: number, y: number): readonly (readonly [number, number])[];
	/** Whether any place of a rectangle on an island can be seen from the other within `bounds`; it may be said too often. */
	maySee(other: number, island: number, rect: Rect, bounds: Rect): boolean;
}

/** From texels to (t, h) of a seam: t 0..1 along it, h outwards in units of the model; and back on the other side. */
interface Crossing {
	readonly a: readonly [number, number];
	readonly b: readonly [number, number];
	/** Affine, texel to texel: x' = m0·x + m1·y + m2, y' = m3·x + m4·y + m5. */
	readonly over: readonly number[];
	/** The island on the other side. */
	readonly island: number;
}

/** Seams that a look goes over at most. */
const MOST_SEAMS = 3;

type P2 = readonly [number, number];

/** The affine map that sends three texel places to three others, or null where the first lie on a line. */
function affine(from: readonly [P2, P2, P2], to: readonly [P2, P2, P2]): number[] | null {
	const [[ax, ay], [bx, by], [cx, cy]] = from;
	const det = (bx - ax) * (cy - ay) - (cx - ax) * (by - ay);
	if (Math.abs(det) < 1e-9) return null;
	const out: number[] = [];
	for (const k of [0, 1] as const) {
		const [f0, f1, f2] = [to[0][k], to[1][k] - to[0][k], to[2][k] - to[0][k]];
		const gx = (f1 * (cy - ay) - f2 * (by - ay)) / det;
		const gy = (f2 * (bx - ax) - f1 * (cx - ax)) / det;
		out.push(gx, gy, f0 - gx * ax - gy * ay);
	}
	return out;
}

/** The square of a place's distance from a crossing's edge, texels. */
function squareTo({ a: [ax, ay], b: [bx, by] }: Crossing, x: number, y: number): number {
	const [ux, uy] = [bx - ax, by - ay];
	const t = Math.max(0, Math.min(1, ((x - ax) * ux + (y - ay) * uy) / (ux * ux + uy * uy || 1)));
	return (x - ax - t * ux) ** 2 + (y - ay - t * uy) ** 2;
}

/** The smallest rectangle round what a crossing makes of one. */
function rectOver({ over }: Crossing, { x, y, width, height }: Rect): Rect {
	const [m0, m1, m2, m3, m4, m5] = over as [number, number, number, number, number, number];
	const low = (k: number, l: number): number => Math.min(0, k * width) + Math.min(0, l * height);
	return {
		x: m0 * x + m1 * y + m2 + low(m0, m1),
		y: m3 * x + m4 * y + m5 + low(m3, m4),
		width: Math.abs(m0 * width) + Math.abs(m1 * height),
		height: Math.abs(m3 * width) + Math.abs(m4 * height),
	};
}

/** Reads over the seams between islands of one sheet; seams to other sheets, and open borders, lead nowhere. */
// biome-ignore lint/complexity/noExcessiveLinesPerFunction: tables of one sheet that its readers share.
export function seamReader(mesh: LaidMesh, topology: Topology, map: TexelMap): SeamReader {
	const { positions, uvs, indices } = mesh;
	const vertex = (face: number, corner: number): number => indices[face * 3 + (corner % 3)] as number;
	const point = (v: number): number[] => [0, 1, 2].map((k) => positions[v * 3 + k] as number);
	const texel = (v: number): P2 => [(uvs[v * 2] as number) * map.width, (uvs[v * 2 + 1] as number) * map.height];
	const onSheet = (face: number): boolean => (map.spanOffset[face + 1] as number) > (map.spanOffset[face] as number);
	/** (t, h) of a face's third corner against the edge that begins at `corner`: h is how far it lies from it. */
	const third = (face: number, corner: number): P2 => {
		const [a, b, c] = [0, 1, 2].map((k) => point(vertex(face, corner + k))) as [number[], number[], number[]];
		const edge = b.map((v, i) => v - (a[i] as number));
		const to = c.map((v, i) => v - (a[i] as number));
		const square = edge.reduce((sum, v) => sum + v * v, 0);
		const t = edge.reduce((sum, v, i) => sum + v * (to[i] as number), 0) / (square || 1);
		const away = Math.sqrt(to.reduce((sum, v, i) => sum + (v - t * (edge[i] as number)) ** 2, 0));
		return [t, away];
	};
	const crossings = new Map<number, Crossing[]>();
	const add = (face: number, corner: number, other: number, otherCorner: number): void => {
		const [ta, ha] = third(face, corner);
		const [tb, hb] = third(other, otherCorner);
		const mine = [0, 1, 2].map((k) => texel(vertex(face, corner + k))) as [P2, P2, P2];
		const theirs = [0, 1, 2].map((k) => texel(vertex(other, otherCorner + k))) as [P2, P2, P2];
		// The other side runs the other way: t there is 1 - t here. Its inside is our outside.
		const here = affine(mine, [
			[0, 0],
			[1, 0],
			[ta, -ha],
		]);
		const there = affine(
			[
				[1, 0],
				[0, 0],
				[1 - tb, hb],
			],
			theirs,
		);
		if (!here || !there) return;
		const [m0, m1, m2, m3, m4, m5] = here as [number, number, number, number, number, number];
		const [n0, n1, n2, n3, n4, n5] = there as [number, number, number, number, number, number];
		const over = [
			n0 * m0 + n1 * m3,
			n0 * m1 + n1 * m4,
			n0 * m2 + n1 * m5 + n2,
			n3 * m0 + n4 * m3,
			n3 * m1 + n4 * m4,
			n3 * m2 + n4 * m5 + n5,
		];
		const list = crossings.get(face);
		const crossing = { a: mine[0], b: mine[1], over, island: topology.islandOfFace[other] as number };
		if (list) list.push(crossing);
		else crossings.set(face, [crossing]);
	};
	const sameWay = (f: number, c: number, g: number, d: number): boolean => {
		const [p, q] = [point(vertex(f, c)), point(vertex(g, d))];
		const r = point(vertex(g, d + 1));
		const far = (u: number[], v: number[]): number => u.reduce((sum, x, i) => sum + (x - (v[i] as number)) ** 2, 0);
		return far(p, q) < far(p, r);
	};
	for (const { one, other } of topology.seams) {
		if (!other || !onSheet(one.face) || !onSheet(other.face)) continue;
		// Faces turned against each other share the edge in one direction: nothing continues there.
		if (sameWay(one.face, one.corner, other.face, other.corner)) continue;
		add(one.face, one.corner, other.face, other.corner);
		add(other.face, other.corner, one.face, one.corner);
	}
	/** Of several crossings the one nearest to a texel place. */
	const nearest = (among: readonly Crossing[] | undefined, x: number, y: number, most = Infinity): Crossing | null => {
		let best: Crossing | null = null;
		let least = most * most;
		for (const crossing of among ?? []) {
			const d = squareTo(crossing, x, y);
			if (d < least) {
				least = d;
				best = crossing;
			}
		}
		return best;
	};
	const landing = (among: readonly Crossing[] | undefined, x: number, y: number, most?: number): Landing | null => {
		const crossing = nearest(among, x, y, most);
		if (!crossing) return null;
		const [m0, m1, m2, m3, m4, m5] = crossing.over as [number, number, number, number, number, number];
		const [tx, ty] = [m0 * x + m1 * y + m2, m3 * x + m4 * y + m5];
		return tx < 0 || ty < 0 || tx >= map.width || ty >= map.height ? null : { x: tx, y: ty, island: crossing.island };
	};
	let byIsland: Map<number, Crossing[]> | null = null;
	const crossingsOf = (island: number): readonly Crossing[] | undefined => {
		if (!byIsland) {
			byIsland = new Map();
			for (const [face, list] of crossings) {
				const own = topology.islandOfFace[face] as number;
				byIsland.set(own, [...(byIsland.get(own) ?? []), ...list]);
			}
		}
		return byIsland.get(island);
	};
	const across = (face: number, x: number, y: number, most: number): Landing | null =>
		crossings.has(face)
			? landing(crossings.get(face), x, y)
			: landing(crossingsOf(topology.islandOfFace[face] as number), x, y, most);
	/** Towards an island: for each that it can be seen from, the seams that lead one step nearer, by where they lead. */
	const towards = new Map<number, ReadonlyMap<number, readonly (readonly Crossing[])[]>>();
	const waysTo = (other: number): ReadonlyMap<number, readonly (readonly Crossing[])[]> => {
		let ways = towards.get(other);
		if (ways) return ways;
		const found = new Map<number, readonly Crossing[][]>();
		const leading = (from: number, into: ReadonlySet<number>): void => {
			const all = crossingsOf(from) ?? [];
			found.set(
				from,
				[...into].map((next) => all.filter(({ island }) => island === next)).filter((list) => list.length),
			);
		};
		let ring = new Set([other]);
		const reached = new Set(ring);
		// An island may meet itself, as a rolled-up one does.
		leading(other, ring);
		for (let n = 0; n < MOST_SEAMS; n++) {
			const next = new Set([...ring].flatMap((island) => (crossingsOf(island) ?? []).map((each) => each.island)));
			for (const island of next)
				if (reached.has(island)) next.delete(island);
				else leading(island, ring);
			for (const island of next) reached.add(island);
			ring = next;
		}
		towards.set(other, (ways = found));
		return ways;
	};
	const known = new Map<number, Partners>();
	const cols = Math.ceil(map.width / TILE);
	return {
		across,
		acrossIsland: (island, x, y) => landing(crossingsOf(island), x, y),
		seenFrom(other, island, x, y) {
			const ways = waysTo(other);
			const places: (readonly [number, number])[] = [];
			const go = (at: number, px: number, py: number): void => {
				for (const list of ways.get(at) ?? []) {
					const crossing = nearest(list, px, py) as Crossing;
					const [m0, m1, m2, m3, m4, m5] = crossing.over as [number, number, number, number, number, number];
					const [tx, ty] = [m0 * px + m1 * py + m2, m3 * px + m4 * py + m5];
					if (crossing.island === other) places.push([tx, ty]);
					else go(crossing.island, tx, ty);
				}
			};
			go(island, x, y);
			return places;
		},
		maySee(other, island, rect, bounds) {
			const ways = waysTo(other);
			const may = (at: number, box: Rect): boolean =>
				(ways.get(at) ?? []).some((crossings) => {
					const [cx, cy] = [box.x + box.width / 2, box.y + box.height / 2];
					const far = crossings.map((each) => Math.sqrt(squareTo(each, cx, cy)));
					// No place of the box is nearest to a crossing that lies further from its middle than that.
					const most = Math.min(...far) + Math.hypot(box.width, box.height);
					return crossings.some((crossing, i) => {
						if ((far[i] as number) > most) return false;
						const there = rectOver(crossing, box);
						return crossing.island === other ? !isEmptyRect(meet(there, bounds)) : may(crossing.island, there);
					});
				});
			return may(island, rect);
		},
		partnersOf(tile) {
			const found = known.get(tile);
			if (found) return found;
			const faces = facesOfTile(map, tile);
			const [x0, y0] = [(tile % cols) * TILE, Math.floor(tile / cols) * TILE];
			const [place, px, py]: [number[], number[], number[]] = [[], [], []];
			for (let i = 0; i < faces.length; i++) {
				const face = faces[i] as number;
				const [x, y] = [x0 + (i % TILE), y0 + Math.floor(i / TILE)];
				if (face < 0 || map.faceOfTexel[y * map.width + x]) continue;
				const there = across(face, x + 0.5, y + 0.5, map.bleed + 1);
				if (!there) continue;
				place.push(i);
				px.push(there.x);
				py.push(there.y);
			}
			const made = { place: Uint16Array.from(place), x: Float32Array.from(px), y: Float32Array.from(py) };
			known.set(tile, made);
			return made;
		},
	};
}
