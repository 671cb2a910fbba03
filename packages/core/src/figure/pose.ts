import { type Figure, type FigureBox, type FigurePose, TEXELS_A_UNIT, type Turns } from './figure.ts';

/** A turn and a way, three rows of four: where it takes a place of the model, in the model's own units. */
export type Placed = readonly number[];

const still: Placed = [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0];

/** First the second, then the first. */
function after(a: Placed, b: Placed): Placed {
	const out: number[] = [];
	for (let row = 0; row < 3; row++)
		for (let column = 0; column < 4; column++) {
			let sum = column === 3 ? (a[row * 4 + 3] as number) : 0;
			for (let k = 0; k < 3; k++) sum += (a[row * 4 + k] as number) * (b[k * 4 + column] as number);
			out.push(sum);
		}
	return out;
}

/** About x, then y, then z, degrees, counter-clockwise to whoever the axis comes towards. */
function turned([x, y, z]: readonly [number, number, number]): Placed {
	const [a, b, c] = [x, y, z].map((v) => (v * Math.PI) / 180) as [number, number, number];
	const about = (cos: number, sin: number, i: number, j: number): Placed => {
		const out = [...still];
		out[i * 4 + i] = cos;
		out[i * 4 + j] = -sin;
		out[j * 4 + i] = sin;
		out[j * 4 + j] = cos;
		return out;
	};
	const [rx, ry, rz] = [
		about(Math.cos(a), Math.sin(a), 1, 2),
		about(Math.cos(b), Math.sin(b), 2, 0),
		about(Math.cos(c), Math.sin(c), 0, 1),
	];
	return after(rz, after(ry, rx));
}

/** Where a box turns, texels. */
const jointOf = ({ joint, at, size }: FigureBox): readonly [number, number, number] =>
	joint ?? [at[0], at[1] + size[1], at[2]];

/** Where a pose takes each box of a figure at a time, seconds; a box that hangs on another goes along with it. */
export function placesIn(
	{ boxes }: Figure,
	{ turns, swing = {}, beat = 1 }: FigurePose,
	seconds: number,
): readonly Placed[] {
	const share = Math.sin((2 * Math.PI * seconds) / beat);
	const known = new Map<string, Placed>();
	const turnOf = (all: Turns, name: string) => all[name] ?? ([0, 0, 0] as const);
	const placeOf = (box: FigureBox): Placed => {
		let found = known.get(box.name);
		if (found) return found;
		const [turn, by] = [turnOf(turns, box.name), turnOf(swing, box.name)];
		const [x, y, z] = jointOf(box).map((v) => v / TEXELS_A_UNIT) as [number, number, number];
		const to: Placed = [1, 0, 0, x, 0, 1, 0, y, 0, 0, 1, z];
		const back: Placed = [1, 0, 0, -x, 0, 1, 0, -y, 0, 0, 1, -z];
		const own = after(
			to,
			after(turned([turn[0] + by[0] * share, turn[1] + by[1] * share, turn[2] + by[2] * share]), back),
		);
		const above = boxes.find(({ name }) => name === box.on);
		found = above ? after(placeOf(above), own) : own;
		known.set(box.name, found);
		return found;
	};
	return boxes.map(placeOf);
}

/** Puts places (or, with `ways`, directions) of some vertices where a part's place takes them. */
export function posed(
	from: Float32Array,
	vertices: Iterable<number>,
	place: Placed,
	to: Float32Array,
	ways = false,
): void {
	for (const v of vertices)
		for (let row = 0; row < 3; row++) {
			let sum = ways ? 0 : (place[row * 4 + 3] as number);
			for (let k = 0; k < 3; k++) sum += (place[row * 4 + k] as number) * (from[v * 3 + k] as number);
			to[v * 3 + row] = sum;
		}
}
