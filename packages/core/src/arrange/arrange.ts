import { type Cells, createCells, type Mask, placeInRow, putDown, runsOf, take } from './cells.ts';

/** A piece to be placed: its faces as corners, 6 numbers a face, v upwards, in units that are the same for all. */
export interface Loose {
	readonly uvs: Float64Array;
	/** How much larger than others it is to be; 1 is as they are. */
	readonly weight: number;
	/** Clockwise, radians: so far turned it stands upright; null where it has no upright. */
	readonly upright?: number | null;
}

export interface ArrangeOptions {
	/** Size of the sheet, texels. */
	readonly width: number;
	readonly height: number;
	/** Texels that are free between pieces, and half of that at the rim of the sheet. */
	readonly margin: number;
	/** Pieces stay as they stand, are turned by quarters, are first set straight along their longest side, or stand upright. */
	readonly turning: 'none' | 'quarters' | 'free' | 'upright';
	/** Texels a unit; as large as fits where it is null. */
	readonly density: number | null;
	/** Faces that lie already and stay: corners in texels, v downwards. */
	readonly placed?: readonly Float64Array[];
	readonly tell?: (share: number) => void;
}

/** Where pieces came to lie: corners in texels of the sheet, v downwards. */
export interface Arranged {
	readonly pieces: readonly Float64Array[];
	/** Texels a unit. */
	readonly density: number;
	/** The share of the sheet that pieces cover. */
	readonly fill: number;
}

/** Cells along the longer side of the sheet: coarse while the size is looked for, fine at the end. */
const [COARSE, FINE] = [192, 640] as const;

interface Turned {
	/** Corners in units, from the piece's own upper left corner, v downwards. */
	readonly uvs: Float64Array;
	readonly width: number;
	readonly height: number;
}

/** A piece turned clockwise by an angle, its upper left corner at 0, 0. */
function turnedPiece({ uvs, weight }: Loose, angle: number): Turned {
	const out = new Float64Array(uvs.length);
	const [cos, sin] = [Math.cos(angle) * weight, Math.sin(angle) * weight];
	let [x0, y0, x1, y1] = [Infinity, Infinity, -Infinity, -Infinity];
	for (let i = 0; i < uvs.length; i += 2) {
		const [u, v] = [uvs[i] as number, -(uvs[i + 1] as number)];
		const [x, y] = [u * cos - v * sin, u * sin + v * cos];
		out[i] = x;
		out[i + 1] = y;
		[x0, y0, x1, y1] = [Math.min(x0, x), Math.min(y0, y), Math.max(x1, x), Math.max(y1, y)];
	}
	for (let i = 0; i < out.length; i += 2) {
		out[i] = (out[i] as number) - x0;
		out[i + 1] = (out[i + 1] as number) - y0;
	}
	return { uvs: out, width: x1 - x0, height: y1 - y0 };
}

/** The corners of the outline around places, counter-clockwise: Andrew's monotone chain (1979). */
function hullOf(uvs: Float64Array): [number, number][] {
	const places = Array.from({ length: uvs.length / 2 }, (_, i): [number, number] => [
		uvs[i * 2] as number,
		-(uvs[i * 2 + 1] as number),
	]).sort((p, q) => p[0] - q[0] || p[1] - q[1]);
	const side = (list: readonly [number, number][]): [number, number][] => {
		const out: [number, number][] = [];
		for (const p of list) {
			while (out.length > 1) {
				const [a, b] = [out[out.length - 2] as [number, number], out[out.length - 1] as [number, number]];
				if ((b[0] - a[0]) * (p[1] - a[1]) - (b[1] - a[1]) * (p[0] - a[0]) > 0) break;
				out.pop();
			}
			out.push(p);
		}
		return out.slice(0, -1);
	};
	return [...side(places), ...side(places.reverse())];
}

/**
 * The angle, up to half a quarter either way of nothing, at which the box around a piece is smallest: one side of it lies
 * along a side of the outline (Freeman and Shapira, 1975).
 */
function straightAngle({ uvs }: Loose): number {
	const hull = hullOf(uvs);
	const areaAt = (angle: number): number => {
		const [cos, sin] = [Math.cos(angle), Math.sin(angle)];
		let [x0, y0, x1, y1] = [Infinity, Infinity, -Infinity, -Infinity];
		for (const [u, v] of hull) {
			const [x, y] = [u * cos - v * sin, u * sin + v * cos];
			[x0, y0, x1, y1] = [Math.min(x0, x), Math.min(y0, y), Math.max(x1, x), Math.max(y1, y)];
		}
		return (x1 - x0) * (y1 - y0);
	};
	// What is nearly as small stays as it stands.
	let [best, least] = [0, areaAt(0) * 0.999];
	hull.forEach(([u, v], i) => {
		const [s, t] = hull[(i + 1) % hull.length] as [number, number];
		const along = -Math.atan2(t - v, s - u);
		const angle = along - Math.round(along / (Math.PI / 2)) * (Math.PI / 2);
		const area = areaAt(angle) * (1 + 0.02 * Math.abs(angle));
		if (area < least * 0.9999) [best, least] = [angle, area];
	});
	return best;
}

/** Area of the triangle whose six numbers begin at a place. */
export function triangleArea(uvs: ArrayLike<number>, at: number): number {
	const n = (k: number): number => uvs[at + k] as number;
	return Math.abs((n(2) - n(0)) * (n(5) - n(1)) - (n(4) - n(0)) * (n(3) - n(1))) / 2;
}

/** Area of the faces of a piece in its own units, squared. */
export function coveredArea(uvs: Float64Array): number {
	let sum = 0;
	for (let i = 0; i < uvs.length; i += 6) sum += triangleArea(uvs, i);
	return sum;
}

/** Free cells around the corners of a mask. */
const edgeOf = (reach: number): number => Math.ceil(reach) + 1;

/** The cells that a piece covers at a scale (cells a unit), with `reach` cells around it. */
function maskOf({ uvs, width, height }: Turned, scale: number, reach: number): Mask {
	const edge = edgeOf(reach);
	const wide = Math.ceil(width * scale) + 2 * edge;
	const high = Math.ceil(height * scale) + 2 * edge;
	return {
		width: wide,
		rows: runsOf(
			uvs.map((v) => v * scale + edge),
			wide,
			high,
			reach,
		),
	};
}

interface Spot {
	readonly x: number;
	readonly y: number;
	readonly turn: number;
}

/** The sheet in cells, and how many of them are a texel. */
interface Grid {
	readonly cells: Cells;
	readonly per: number;
	readonly reach: number;
}

function gridOf({ width, height, margin, placed = [] }: ArrangeOptions, side: number): Grid {
	const per = Math.min(1, side / Math.max(width, height));
	const cells = createCells(Math.floor(width * per), Math.floor(height * per));
	const reach = (margin * per) / 2;
	for (const uvs of placed)
		runsOf(
			uvs.map((v) => v * per),
			cells.width,
			cells.height,
			reach,
		).forEach((runs, y) => void take(cells, y, runs));
	return { cells, per, reach };
}

/** Where a piece ends highest, in whatever turn; null where it has no place. */
function bestPlace(cells: Cells, masks: readonly Mask[]): (Spot & { readonly cost: number }) | null {
	let best: (Spot & { readonly cost: number }) | null = null;
	masks.forEach((mask, turn) => {
		const bottom = cells.height - mask.rows.length;
		if (cells.width < mask.width) return;
		for (let y = 0; y <= bottom; y++) {
			const cost = y + mask.rows.length;
			if (best && cost > best.cost) break;
			const x = placeInRow(cells, mask, y, 0);
			if (x < 0) continue;
			if (!best || cost < best.cost || x < best.x) best = { x, y, turn, cost };
			break;
		}
	});
	return best;
}

/** Puts all pieces down at a scale (texels a unit), in an order; or tells which one had no place. */
function tryOrder(
	masks: readonly (readonly Mask[])[],
	order: readonly number[],
	options: ArrangeOptions,
	side: number,
): { readonly spots: Spot[] } | { readonly stuck: number } {
	const { cells, per, reach } = gridOf(options, side);
	const spots: Spot[] = new Array(masks.length);
	for (const i of order) {
		const list = masks[i] as readonly Mask[];
		const found = bestPlace(cells, list);
		if (!found) return { stuck: i };
		putDown(cells, list[found.turn] as Mask, found.x, found.y);
		spots[i] = { x: (found.x + edgeOf(reach)) / per, y: (found.y + edgeOf(reach)) / per, turn: found.turn };
	}
	return { spots };
}

/** Each list once. */
const different = (lists: readonly number[][]): number[][] => [
	...new Map(lists.map((list) => [list.join(), list])).values(),
];

/** How often a piece that had no place is put down first instead. */
const RETRIES = 5;

/**
 * Puts pieces on a sheet, as large as they fit at one density for all, with a margin between them. Pieces are put down on
 * rows of bits, each at the place where it ends highest, in several orders; the size is found by halving.
 */
export function arrange(loose: readonly Loose[], options: ArrangeOptions): Arranged | null {
	const { width, height, turning, tell = () => undefined } = options;
	if (loose.length === 0) return { pieces: [], density: options.density ?? 1, fill: 0 };
	const quarters = turning === 'none' ? [0] : [0, 1, 2, 3];
	const pieces = loose.map((piece) => {
		if (turning === 'upright' && typeof piece.upright === 'number') return [turnedPiece(piece, piece.upright)];
		const start = turning === 'free' || turning === 'upright' ? straightAngle(piece) : 0;
		return quarters.map((q) => turnedPiece(piece, start + (q * Math.PI) / 2));
	});
	const areas = loose.map(({ uvs, weight }) => coveredArea(uvs) * weight * weight);
	const first = (i: number): Turned => (pieces[i] as readonly Turned[])[0] as Turned;
	const by = (key: (i: number) => number): number[] =>
		Array.from(loose.keys()).sort((a, b) => key(b) - key(a) || a - b);
	const orders = different([
		by((i) => Math.max(first(i).width, first(i).height)),
		by((i) => areas[i] as number),
		by((i) => first(i).width * first(i).height),
		by((i) => first(i).width + first(i).height),
	]);
	const whole = areas.reduce((sum, v) => sum + v, 0);
	const attempt = (density: number, side: number): Spot[] | null => {
		const { per, reach } = gridOf({ ...options, placed: [] }, side);
		const masks = pieces.map((turns) => turns.map((turned) => maskOf(turned, density * per, reach)));
		for (const start of orders) {
			let order = start;
			for (let retry = 0; retry <= RETRIES; retry++) {
				const found = tryOrder(masks, order, options, side);
				if ('spots' in found) return found.spots;
				if (order[0] === found.stuck) break;
				order = [found.stuck, ...order.filter((i) => i !== found.stuck)];
			}
		}
		return null;
	};
	if (options.density !== null) {
		const spots = attempt(options.density, FINE);
		return spots && put(pieces, spots, options.density, whole, options);
	}
	const found = largest(attempt, whole > 0 ? Math.sqrt((width * height) / whole) : 1, tell);
	return found && put(pieces, found.spots, found.density, whole, options);
}

/** The largest density at which all has a place, looked for by halving; `most` is what would cover all of the sheet. */
function largest(
	attempt: (density: number, side: number) => Spot[] | null,
	most: number,
	tell: (share: number) => void,
): { readonly spots: Spot[]; readonly density: number } | null {
	let [low, high] = [0, most];
	for (let round = 0; round < 9; round++) {
		const middle: number = low === 0 ? most * 0.7 ** (round + 1) : (low + high) / 2;
		if (attempt(middle, COARSE)) low = middle;
		else high = middle;
		tell((round + 1) / 14);
	}
	let density: number = low || high / 2;
	// The fine grid wastes less at the rims: a little larger fits there.
	let best: Spot[] | null = null;
	let [least, above] = [density * 0.94, density * 1.14];
	for (let round = 0; round < 5; round++) {
		const middle: number = round === 0 ? density : (least + above) / 2;
		const spots = attempt(middle, FINE);
		if (spots) {
			best = spots;
			density = middle;
			least = middle;
		} else above = middle;
		tell((10 + round) / 14);
	}
	while (!best && density > most * 1e-4) {
		density *= 0.92;
		best = attempt(density, FINE);
	}
	return best && { spots: best, density };
}

function put(
	pieces: readonly (readonly Turned[])[],
	spots: readonly Spot[],
	density: number,
	whole: number,
	{ width, height }: ArrangeOptions,
): Arranged {
	return {
		pieces: pieces.map((turns, i) => {
			const { x, y, turn } = spots[i] as Spot;
			const { uvs } = turns[turn] as Turned;
			return uvs.map((v, k) => v * density + (k % 2 ? y : x));
		}),
		density,
		fill: (whole * density * density) / (width * height),
	};
}
