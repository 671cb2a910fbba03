import { type Cells, createCells, type Mask, maskOfRuns, placeInRow, putDown, runsOf, take } from './cells.ts';

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
const [COARSE, FINE] = [192, 1024] as const;

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

/** A piece in all turns that it may lie in: the first so many of them as a rule, all where it fits in none of those. */
interface Turns {
	readonly all: readonly Turned[];
	readonly usual: number;
}

const QUARTER = Math.PI / 2;

function turnsOf(piece: Loose, few: boolean, { turning, width, height }: ArrangeOptions): Turns {
	const by = (start: number, count: number, step: number): Turned[] =>
		Array.from({ length: count }, (_, i) => turnedPiece(piece, start + i * step));
	if (turning === 'none') return { all: by(0, 1, 0), usual: 1 };
	if (turning === 'quarters') return { all: by(0, 4, QUARTER), usual: 4 };
	if (turning === 'upright' && typeof piece.upright === 'number') return { all: by(piece.upright, 1, 0), usual: 1 };
	const start = straightAngle(piece);
	const straight = by(start, 4, QUARTER);
	if (turning === 'upright') return { all: straight, usual: 4 };
	const [{ width: w, height: h }] = straight as [Turned, ...Turned[]];
	// What leaves much of its box bare may fit into a bay of another where it is turned less than a quarter; of many
	// pieces the small ones fill the bays.
	if (few && coveredArea(piece.uvs) * piece.weight ** 2 < BARE * w * h)
		return { all: [...straight, ...by(start + QUARTER / 2, 4, QUARTER)], usual: 8 };
	if (Math.max(w, h) < LONG * Math.min(w, h)) return { all: straight, usual: 4 };
	// A long one has more room from corner to corner; it lies so only where it is too long to lie straight.
	const along = start + (w > h ? 0 : QUARTER);
	const across = Math.atan2(height, width);
	return { all: [...straight, turnedPiece(piece, along + across), turnedPiece(piece, along - across)], usual: 4 };
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
	const rows = runsOf(
		uvs.map((v) => v * scale + edge),
		wide,
		high,
		reach,
	);
	return maskOfRuns(wide, rows);
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
		// A gap that is higher by so few rows is of no account: every so many are asked, and then those before.
		const step = cells.height >= FINE / 2 ? ROWS : 1;
		for (let y = 0; y <= bottom; y += step) {
			if (best && y - step + 1 + mask.rows.length > best.cost) break;
			let x = placeInRow(cells, mask, y, 0);
			if (x < 0) continue;
			for (let n = 1; n < step && y > 0; n++) {
				const higher = placeInRow(cells, mask, y - 1, 0);
				if (higher < 0) break;
				[x, y] = [higher, y - 1];
			}
			const cost = y + mask.rows.length;
			if (!best || cost < best.cost || (cost === best.cost && x < best.x)) best = { x, y, turn, cost };
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

/** Longer than wide by so much, a piece is long. */
const LONG = 2.5;
/** A piece that covers less of the box around it leaves much of it bare. */
const BARE = 0.7;
/** Up to so many pieces are few. */
const FEW = 24;

/** Rows of the fine grid from one that is asked to the next. */
const ROWS = 4;

/** How often a piece that had no place is put down first instead. */
const RETRIES = 5;

/**
 * Puts pieces on a sheet, as large as they fit at one density for all, with a margin between them. Pieces are put down on
 * rows of bits, each at the place where it ends highest, in several orders; the size is found by halving.
 */
export function arrange(loose: readonly Loose[], options: ArrangeOptions): Arranged | null {
	const { width, height, tell = () => undefined } = options;
	if (loose.length === 0) return { pieces: [], density: options.density ?? 1, fill: 0 };
	const pieces = loose.map((piece) => turnsOf(piece, loose.length <= FEW, options));
	const areas = loose.map(({ uvs, weight }) => coveredArea(uvs) * weight * weight);
	const first = (i: number): Turned => (pieces[i] as Turns).all[0] as Turned;
	const by = (key: (i: number) => number): number[] =>
		Array.from(loose.keys()).sort((a, b) => key(b) - key(a) || a - b);
	const orders = different([
		by((i) => Math.max(first(i).width, first(i).height)),
		by((i) => areas[i] as number),
		by((i) => first(i).width * first(i).height),
		by((i) => first(i).width + first(i).height),
	]);
	const whole = areas.reduce((sum, v) => sum + v, 0);
	const attempt: Attempt = (density, side) => {
		const { per, reach } = gridOf({ ...options, placed: [] }, side);
		const masks = pieces.map(({ all, usual }) => {
			const of = (turned: Turned): Mask => maskOf(turned, density * per, reach);
			const masks = all.slice(0, usual).map(of);
			const fits = (mask: Mask): boolean => mask.width <= width * per && mask.rows.length <= height * per;
			return masks.some(fits) ? masks : [...masks, ...all.slice(usual).map(of)];
		});
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

/** Puts all down at a density on a grid of so many cells; null where there is no room. */
type Attempt = (density: number, side: number) => Spot[] | null;

interface Found {
	readonly spots: Spot[];
	readonly density: number;
}

/** The largest density at which all has a place, looked for by halving; `most` is what would cover all of the sheet. */
function largest(attempt: Attempt, most: number, tell: (share: number) => void): Found | null {
	let [low, high] = [0, most];
	for (let round = 0; round < 9; round++) {
		const middle: number = low === 0 ? most * 0.7 ** (round + 1) : (low + high) / 2;
		if (attempt(middle, COARSE)) low = middle;
		else high = middle;
		tell((round + 1) / 16);
	}
	let density: number = low || high / 2;
	// The fine grid wastes less at the rims: a little larger fits there.
	let best: Spot[] | null = null;
	let [least, above] = [density * 0.94, density * 1.14];
	for (let round = 0; round < 7; round++) {
		const middle: number = round === 0 ? density : (least + above) / 2;
		const spots = attempt(middle, FINE);
		if (spots) {
			best = spots;
			density = middle;
			least = middle;
		} else above = middle;
		tell((10 + round) / 16);
	}
	while (!best && density > most * 1e-4) {
		density *= 0.92;
		best = attempt(density, FINE);
	}
	return best && { spots: best, density };
}

function put(
	pieces: readonly Turns[],
	spots: readonly Spot[],
	density: number,
	whole: number,
	{ width, height }: ArrangeOptions,
): Arranged {
	return {
		pieces: pieces.map(({ all }, i) => {
			const { x, y, turn } = spots[i] as Spot;
			const { uvs } = all[turn] as Turned;
			return uvs.map((v, k) => v * density + (k % 2 ? y : x));
		}),
		density,
		fill: (whole * density * density) / (width * height),
	};
}
