import { type Hex, rgbOfHex } from '../../color/index.ts';
import { chance } from '../chance.ts';
import type { PaintPicture } from '../stencil.ts';
import { cellular, clamp, clouds, mix, noise, step } from './grain.ts';

/** Side of a shipped stencil's picture. */
export const STENCIL_SIDE = 512;

/** Tone 0..1 at u, v in 0..1; the picture repeats. */
type Tone = (u: number, v: number) => number;

export interface ShippedStencil {
	readonly name: string;
	readonly label: string;
	readonly tone: Tone;
	/** Colours of the tones from dark to light, for printing. */
	readonly ramp: readonly Hex[];
	/** Stands alone rather than repeating. */
	readonly single?: boolean;
}

const wrap = (v: number): number => v - Math.floor(v);
const edgeOf = (t: number, wide: number): number => step(0, wide, Math.min(t, 1 - t));

function shingles(u: number, v: number): number {
	const rows = 6;
	const row = Math.floor(v * rows);
	const t = wrap(v * rows);
	const x = u * 5 + (row % 2 ? 0.5 : 0);
	const column = Math.floor(wrap(x / 5) * 5);
	const across = wrap(x);
	const own = chance(11, row * 5 + column, 0);
	const drop = 0.86 + 0.14 * own - 0.25 * (2 * across - 1) ** 4 * 0.6;
	const lit = mix(0.45, 0.95, t / drop) * (0.8 + 0.2 * own);
	const grain = 0.86 + 0.28 * (noise(13, u * 128, v * 16, 128) - 0.5);
	return clamp(t < drop ? lit * edgeOf(across, 0.06) * grain : 0.08);
}
function boards(u: number, v: number): number {
	const board = Math.floor(u * 5);
	const own = chance(21, board, 0);
	const grain = clouds(23 + board, wrap(u * 2), wrap(v * 0.5 + own), 16, 3);
	const rings = 0.5 + 0.5 * Math.sin(60 * u + 14 * noise(25, u * 8, v * 4 + own * 8, 8));
	const gap = edgeOf(wrap(u * 5), 0.045);
	const butt = Math.abs(wrap(v + own) - 0.5) < 0.006 ? 0.15 : 1;
	return clamp((0.35 + 0.3 * own + 0.25 * (rings - 0.5) + 0.4 * (grain - 0.4)) * gap * butt + 0.04);
}
function straw(u: number, v: number): number {
	const [x, y] = [u * 12, v * 12];
	const over = (Math.floor(x) + Math.floor(y)) % 2 === 0;
	const [along, across] = over ? [wrap(x), wrap(y)] : [wrap(y), wrap(x)];
	const round = Math.sin(Math.PI * across) * (0.55 + 0.45 * Math.sin(Math.PI * along));
	const fibres = noise(31, (over ? v : u) * 192, (over ? u : v) * 24, 192);
	return clamp(round * (0.75 + 0.4 * (fibres - 0.5)));
}
const cuts = Array.from({ length: 34 }, (_, i) => {
	const turn = mix(-0.5, 0.5, chance(41, i, 0));
	return {
		x: chance(41, i, 1),
		y: chance(41, i, 2),
		long: mix(0.05, 0.3, chance(41, i, 3)),
		wide: mix(0.0016, 0.005, chance(41, i, 4)),
		cos: Math.cos(turn),
		sin: Math.sin(turn),
	};
});
function scratches(u: number, v: number): number {
	let best = 0;
	for (const { x, y, long, wide, cos, sin } of cuts) {
		const dx = wrap(u - x + 0.5) - 0.5;
		const dy = wrap(v - y + 0.5) - 0.5;
		const along = dx * cos + dy * sin;
		const t = Math.abs(along) / long;
		if (t >= 1) continue;
		const off = Math.abs(dy * cos - dx * sin + 0.02 * t * t);
		if (off < wide * 1.6) best = Math.max(best, (1 - step(wide * 0.5, wide * (1.6 - t), off)) * (1 - t * t));
	}
	return best;
}
function rust(u: number, v: number): number {
	const wide = clouds(51, u, v, 5, 5);
	const fine = clouds(53, u, v, 40, 3);
	return clamp(step(0.48, 0.62, wide + 0.22 * (fine - 0.5)) * (0.72 + 0.4 * (fine - 0.4)));
}
/** How far from the nearest wall of a six-sided comb, 0 at the wall. */
function comb(u: number, v: number): number {
	const [x, y] = [u * 8, v * 8];
	let first = Infinity;
	let second = Infinity;
	for (let row = Math.floor(y) - 1; row <= Math.floor(y) + 1; row++)
		for (let column = Math.floor(x) - 1; column <= Math.floor(x) + 1; column++) {
			const [cx, cy] = [column + 0.5 + (((row % 2) + 2) % 2 ? 0.5 : 0), row + 0.5];
			const d = Math.sqrt((x - cx) ** 2 + ((y - cy) * 0.8660254) ** 2 * 1.3333);
			if (d < first) [first, second] = [d, first];
			else if (d < second) second = d;
		}
	return second - first;
}
function leaf(u: number, v: number): number {
	const [x, y] = [2 * u - 1, 2 * v - 1];
	const [a, b] = [(x + y) * Math.SQRT1_2, (y - x) * Math.SQRT1_2];
	const half = 0.48 * Math.sqrt(clamp(1 - (a / 0.95) ** 2)) * (1 - 0.3 * a);
	const inside = 1 - step(half - 0.02, half, Math.abs(b));
	const rib = step(0.006, 0.02, Math.abs(b));
	const veins = step(0.04, 0.1, Math.abs(wrap(a * 6 + Math.abs(b) * 5) - 0.5));
	return inside * rib * (0.72 + 0.28 * veins);
}
function rope(u: number, v: number): number {
	const y = wrap(v * 3);
	const off = (2 * y - 1) / 0.86;
	if (Math.abs(off) >= 1) return 0;
	const round = Math.sqrt(1 - off * off);
	const strand = wrap(u * 10 + Math.asin(off) * 0.42);
	const fibres = noise(71, u * 160 + off * 14, v * 48, 160);
	return clamp(round * (0.35 + 0.65 * Math.sin(Math.PI * strand) ** 0.7) * (0.85 + 0.3 * (fibres - 0.5)));
}

/** Block letters, five by seven, a row a number. */
const letters: Readonly<Record<string, readonly number[]>> = {
	M: [17, 27, 21, 21, 17, 17, 17],
	O: [14, 17, 17, 17, 17, 17, 14],
	S: [15, 16, 16, 14, 1, 1, 30],
	B: [30, 17, 17, 30, 17, 17, 30],
	A: [14, 17, 17, 31, 17, 17, 17],
	R: [30, 17, 17, 30, 20, 18, 17],
	W: [17, 17, 17, 21, 21, 27, 17],
	H: [17, 17, 17, 31, 17, 17, 17],
	N: [17, 25, 21, 19, 17, 17, 17],
	E: [31, 16, 16, 30, 16, 16, 31],
	Y: [17, 17, 10, 4, 4, 4, 4],
};
const lines = ['MOSS', 'BARROW', 'HONEY'];

/** Letters as sprayed through a cut plate: a bridge stands in each, the rims a little rough. */
function lettering(u: number, v: number): number {
	const rough = 0.02 * (noise(81, u * 64, v * 64, 64) - 0.5);
	const row = Math.floor(v * 3);
	const word = lines[Math.min(2, row)] as string;
	const y = (wrap(v * 3) - 0.12) / 0.76;
	const cell = 1 / 6.4;
	const x = (u + rough - (1 - word.length * cell) / 2) / cell;
	const at = Math.floor(x);
	if (at < 0 || at >= word.length || y < 0 || y >= 1) return 0;
	const glyph = letters[word[at] as string] as readonly number[];
	const [gx, gy] = [(wrap(x) - 0.06) * 6.1, y * 7];
	let most = 0;
	for (let r = 0; r < 7; r++)
		for (let c = 0; c < 5; c++)
			if ((glyph[r] as number) & (16 >> c)) {
				const d = Math.max(Math.abs(gx - c - 0.5), Math.abs(gy - r - 0.5));
				most = Math.max(most, 1 - step(0.5, 0.62, d + rough * 6));
			}
	return Math.abs(gx - 2.5) < 0.22 ? 0 : most;
}

/** Every stencil that ships, in the order in which they are offered. */
export const shippedStencils: readonly ShippedStencil[] = [
	{ name: 'boards', label: 'Boards', tone: boards, ramp: ['#2e1c11', '#6b4526', '#a8743f', '#d3a768'] },
	{ name: 'shingles', label: 'Shingles', tone: shingles, ramp: ['#231a1a', '#5b3a30', '#93604a', '#c79a72'] },
	{ name: 'straw', label: 'Woven straw', tone: straw, ramp: ['#3b2812', '#8a6426', '#cda24a', '#f1dc9c'] },
	{ name: 'scratches', label: 'Scratches', tone: scratches, ramp: ['#2b2d30', '#8a928f', '#dde0da'] },
	{ name: 'rust', label: 'Rust', tone: rust, ramp: ['#3b1a1e', '#8d392b', '#b85a33', '#d98a4a'] },
	{
		name: 'honeycomb',
		label: 'Honeycomb',
		tone: (u, v) => mix(1, 0.12, step(0.1, 0.22, comb(u, v))),
		ramp: ['#5a3208', '#b8741a', '#e8b345', '#f8e0a0'],
	},
	{
		name: 'dots',
		label: 'Dots',
		tone: (u, v) => 1 - step(0.26, 0.3, Math.sqrt((wrap(u * 8) - 0.5) ** 2 + (wrap(v * 8) - 0.5) ** 2)),
		ramp: ['#2d485b', '#f3e9d2'],
	},
	{
		name: 'stripes',
		label: 'Stripes',
		tone: (u) => step(0.24, 0.27, wrap(u * 8)) * (1 - step(0.73, 0.76, wrap(u * 8))),
		ramp: ['#5f2623', '#f3e9d2'],
	},
	{
		name: 'noise',
		label: 'Noise',
		tone: (u, v) => step(0.28, 0.72, clouds(91, u, v, 6, 6)),
		ramp: ['#202c22', '#6f8655', '#cbd7a8'],
	},
	{
		name: 'pebbles',
		label: 'Pebbles',
		tone: (u, v) => {
			const { far, own } = cellular(93, u, v, 9);
			return (1 - step(0.42, 0.6, far)) * mix(0.55, 1, own) * (1 - 0.35 * far);
		},
		ramp: ['#26231e', '#636a69', '#b4bbb9'],
	},
	{ name: 'leaf', label: 'Leaf', tone: leaf, ramp: ['#202c22', '#4b653f', '#9fb07c'], single: true },
	{ name: 'rope', label: 'Rope', tone: rope, ramp: ['#3a2a18', '#87683c', '#d0b27c'] },
	{ name: 'lettering', label: 'Lettering', tone: lettering, ramp: ['#f3e9d2', '#8d392b'], single: true },
];

export const shippedStencil = (name: string): ShippedStencil | undefined =>
	shippedStencils.find((each) => each.name === name);

const known = new Map<string, PaintPicture>();

/** A shipped stencil's picture, made at the first call; null where there is none of that name. `side` in texels. */
export function shippedStencilPicture(name: string, side = STENCIL_SIDE): PaintPicture | null {
	const before = known.get(`${name}/${side}`);
	if (before) return before;
	const found = shippedStencil(name);
	if (!found) return null;
	const tone = new Uint8Array(side * side);
	const rgba = new Uint8Array(side * side * 4);
	const ramp = found.ramp.map(rgbOfHex);
	for (let i = 0; i < tone.length; i++) {
		const t = clamp(found.tone(((i % side) + 0.5) / side, (Math.floor(i / side) + 0.5) / side));
		tone[i] = Math.round(255 * t);
		const place = t * (ramp.length - 1);
		const k = Math.min(ramp.length - 2, Math.floor(place));
		for (let c = 0; c < 3; c++)
			rgba[i * 4 + c] = Math.round(mix(ramp[k]?.[c] as number, ramp[k + 1]?.[c] as number, place - k));
		rgba[i * 4 + 3] = found.single ? (tone[i] as number) : 255;
	}
	const made = { width: side, height: side, tone, rgba };
	known.set(`${name}/${side}`, made);
	return made;
}
