import { chance } from '../chance.ts';
import { defaultTip, noJitter, straightCurve, type Tip } from '../tip.ts';
import { cellular, clamp, clouds, ease, mix, noise, step } from './grain.ts';

/** Side of a shipped tip's picture. */
export const TIP_SIDE = 256;

/** Tone 0..1 at x, y in -1..1. */
type Tone = (x: number, y: number) => number;

export interface ShippedTip {
	readonly name: string;
	readonly label: string;
	/** What the tip sets beside its shape. */
	readonly tip: Partial<Tip>;
	readonly tone: Tone | null;
}

const disc = (x: number, y: number, edge = 0.12): number => 1 - step(1 - edge, 1, Math.sqrt(x * x + y * y));

/** Discs scattered over a disc: [x, y, radius, tone]. */
function scattered(
	seed: number,
	count: number,
	small: number,
	large: number,
	within: number,
): [number, number, number, number][] {
	return Array.from({ length: count }, (_, i) => {
		const r = within * Math.sqrt(chance(seed, i, 0));
		const turn = 2 * Math.PI * chance(seed, i, 1);
		return [
			r * Math.cos(turn),
			r * Math.sin(turn),
			mix(small, large, chance(seed, i, 2) ** 2),
			mix(0.55, 1, chance(seed, i, 3)),
		];
	});
}
/** Cells along a side of the lattice in which discs are looked up. */
const CELLS = 16;
const cellOf = (v: number): number => Math.min(CELLS - 1, Math.max(0, Math.floor(((v + 1) / 2) * CELLS)));

/** The strongest of the discs at a place; each fades over `soft` of its radius. */
function spots(list: readonly [number, number, number, number][], soft: number): Tone {
	const cells: [number, number, number, number][][] = Array.from({ length: CELLS * CELLS }, () => []);
	for (const spot of list) {
		const [x, y, r] = spot;
		for (let cy = cellOf(y - r); cy <= cellOf(y + r); cy++)
			for (let cx = cellOf(x - r); cx <= cellOf(x + r); cx++) cells[cy * CELLS + cx]?.push(spot);
	}
	return (x, y) => {
		let best = 0;
		for (const [px, py, r, tone] of cells[cellOf(y) * CELLS + cellOf(x)] ?? []) {
			const d = Math.sqrt((x - px) * (x - px) + (y - py) * (y - py));
			if (d < r) best = Math.max(best, tone * (1 - step(r * (1 - soft), r, d)));
		}
		return best;
	};
}
const uv = (v: number): number => clamp((v + 1) / 2) * 0.999;

const hairs = spots(scattered(3, 110, 0.035, 0.1, 0.93), 0.7);
const dryHairs = spots(scattered(17, 60, 0.03, 0.09, 0.95), 0.4);
const drops = spots([...scattered(29, 26, 0.03, 0.2, 0.72), ...scattered(31, 44, 0.015, 0.05, 0.97)], 0.18);
const specks = spots(scattered(41, 70, 0.025, 0.085, 0.95), 0.35);
const cuts: readonly [number, number, number, number, number][] = Array.from({ length: 5 }, (_, i) => [
	mix(-0.7, 0.7, (i + chance(53, i, 0)) / 5),
	mix(0.4, 1, chance(53, i, 1)),
	mix(0.03, 0.07, chance(53, i, 2)),
	mix(-0.12, 0.12, chance(53, i, 3)),
	mix(-0.45, 0.45, chance(53, i, 4)),
]);
const fringe: readonly number[] = Array.from({ length: 48 }, (_, i) => chance(61, i, 0));

const pen = (size: number, strength: number): Partial<Tip> => ({
	rules: [
		{ by: 'pressure', of: 'size', amount: size, curve: straightCurve },
		{ by: 'pressure', of: 'strength', amount: strength, curve: straightCurve },
	],
});

/** Every tip that ships, in the order in which they are offered. */
export const shippedTips: readonly ShippedTip[] = [
	{ name: 'round', label: 'Round soft', tip: { edge: 0.15, spacing: 0.08, ...pen(0.4, 0.6) }, tone: null },
	{
		name: 'round-hard',
		label: 'Round hard',
		tip: { shape: 'round', edge: 0.94, spacing: 0.06, ...pen(0.8, 0) },
		tone: null,
	},
	{
		name: 'bristle',
		label: 'Bristle',
		tip: { edge: 1, spacing: 0.03, turn: 'stroke', strength: 0.9, ...pen(0.3, 0.6) },
		tone: (x, y) => hairs(x, y) * disc(x, y, 0.2),
	},
	{
		name: 'dry-bristle',
		label: 'Dry bristle',
		tip: { edge: 1, spacing: 0.035, turn: 'stroke', jitter: { ...noJitter, strength: 0.2 }, ...pen(0.2, 0.7) },
		tone: (x, y) => dryHairs(x, y) * step(0.12, 0.4, noise(5, uv(x) * 22, uv(y) * 22, 22)),
	},
	{
		name: 'grain',
		label: 'Grain',
		tip: { edge: 0.6, spacing: 0.16, jitter: { ...noJitter, angle: 1 }, ...pen(0.2, 0.7) },
		tone: (x, y) => disc(x, y, 0.25) * step(0.42, 0.62, clouds(71, uv(x), uv(y), 24, 2)),
	},
	{
		name: 'chalk',
		label: 'Chalk',
		tip: {
			edge: 1,
			spacing: 0.09,
			roundness: 0.8,
			jitter: { ...noJitter, angle: 0.05, strength: 0.2 },
			...pen(0.3, 0.6),
		},
		tone: (x, y) => {
			const rough = clouds(83, uv(x), uv(y), 10, 4);
			return step(0.34, 0.56, rough) * (1 - step(0.72, 0.98, Math.sqrt(x * x + y * y) + 0.3 * (rough - 0.5)));
		},
	},
	{
		name: 'splatter',
		label: 'Splatter',
		tip: { edge: 1, spacing: 0.55, jitter: { ...noJitter, angle: 1, size: 0.5, scatter: 0.3 }, ...pen(0.5, 0) },
		tone: drops,
	},
	{
		name: 'speckle',
		label: 'Speckle',
		tip: { edge: 1, spacing: 0.4, jitter: { ...noJitter, angle: 1, strength: 0.3, scatter: 0.15 }, ...pen(0.3, 0.4) },
		tone: specks,
	},
	{
		name: 'scratch',
		label: 'Scratch',
		tip: {
			edge: 1,
			spacing: 0.7,
			turn: 'stroke',
			jitter: { ...noJitter, scatter: 0.22, size: 0.4, strength: 0.3, angle: 0.02 },
			...pen(0.2, 0.4),
		},
		tone: (x, y) => {
			let best = 0;
			for (const [at, long, wide, lean, shift] of cuts) {
				const off = Math.abs(y - at - lean * x);
				const along = Math.abs(x - shift) / (long * (1 - Math.abs(shift)));
				if (along < 1)
					best = Math.max(best, (1 - step(wide * 0.4, wide * (1 - along * along), off)) * (1 - along ** 3));
			}
			return best;
		},
	},
	{
		name: 'wet-edge',
		label: 'Wet edge',
		tip: { edge: 0.25, spacing: 0.05, strength: 1, wet: 0.6, ...pen(0.5, 0.2) },
		tone: null,
	},
	{
		name: 'dots',
		label: 'Dots',
		tip: { edge: 1, spacing: 1.15, turn: 'stroke', ...pen(0.4, 0) },
		tone: (x, y) => {
			const [cx, cy] = [Math.round(x * 1.5) / 1.5, Math.round(y * 1.5) / 1.5];
			return (1 - step(0.2, 0.26, Math.sqrt((x - cx) ** 2 + (y - cy) ** 2))) * (cx * cx + cy * cy < 0.95 ? 1 : 0);
		},
	},
	{
		name: 'leaf',
		label: 'Leaf',
		tip: {
			edge: 1,
			spacing: 0.62,
			turn: 'stroke',
			jitter: { ...noJitter, angle: 0.22, size: 0.35, scatter: 0.35, lightness: 0.2, hue: 0.05 },
			...pen(0.5, 0),
		},
		tone: (x, y) => {
			const half = 0.5 * Math.sqrt(clamp(1 - x * x)) * (1 - 0.35 * x);
			const rib = 1 - 0.4 * (1 - step(0.012, 0.04, Math.abs(y)));
			const veins = 1 - 0.22 * (1 - step(0.05, 0.16, Math.abs(((((x * 5 + Math.abs(y) * 4) % 1) + 1) % 1) - 0.5)));
			return (1 - step(half - 0.05, half, Math.abs(y))) * rib * veins;
		},
	},
	{
		name: 'cloth',
		label: 'Cloth',
		tip: { edge: 0.75, spacing: 0.8, jitter: { ...noJitter, strength: 0.25 }, ...pen(0.2, 0.6) },
		tone: (x, y) => {
			const [a, b] = [Math.sin(x * 11), Math.sin(y * 11)];
			const over = Math.floor((x * 11) / Math.PI) + Math.floor((y * 11) / Math.PI);
			return mix(0.05, 1, ease(clamp(0.2 + 0.8 * (over % 2 ? Math.abs(a) : Math.abs(b)))));
		},
	},
	{
		name: 'streak',
		label: 'Streak',
		tip: { edge: 1, spacing: 0.04, turn: 'stroke', roundness: 0.6, ...pen(0.2, 0.7) },
		tone: (x, y) => {
			const band = fringe[Math.floor(uv(y) * 48)] as number;
			return (
				step(0.35, 0.75, band) *
				(1 - step(0.5 + 0.4 * band, 0.6 + 0.4 * band, Math.abs(x))) *
				(1 - step(0.86, 0.98, Math.abs(y)))
			);
		},
	},
	{
		name: 'wedge',
		label: 'Wedge',
		tip: { edge: 1, spacing: 0.03, angle: -40, ...pen(0.5, 0.2) },
		tone: (x, y) => (1 - step(0.9, 0.97, Math.abs(x))) * (1 - step(0.13, 0.2, Math.abs(y))),
	},
	{
		name: 'sponge',
		label: 'Sponge',
		tip: {
			edge: 0.7,
			spacing: 0.35,
			strength: 0.75,
			jitter: { ...noJitter, angle: 1, strength: 0.4, size: 0.25 },
			...pen(0.3, 0.6),
		},
		tone: (x, y) => {
			const { far, own } = cellular(97, uv(x), uv(y), 9);
			return disc(x, y, 0.3) * step(0.28, 0.46, far) * mix(0.5, 1, own);
		},
	},
	{ name: 'pixel', label: 'Pixel', tip: { edge: 1, spacing: 0.25, strength: 1, rules: [] }, tone: () => 1 },
];

export const shippedTip = (name: string): ShippedTip | undefined => shippedTips.find((each) => each.name === name);

/** A shipped tip's dials: those of the usual tip, and its own over them; size stays. */
export function tipOfShipped(name: string, size: number): Tip {
	const found = shippedTip(name);
	return { ...defaultTip, shape: name, ...found?.tip, size };
}

/** The tone picture of a shipped tip, A8; null where it has none. */
export function shippedTipTone(name: string): Uint8Array | null {
	const tone = shippedTip(name)?.tone;
	if (!tone) return null;
	const out = new Uint8Array(TIP_SIDE * TIP_SIDE);
	for (let i = 0; i < out.length; i++) {
		const x = ((i % TIP_SIDE) + 0.5) / (TIP_SIDE / 2) - 1;
		const y = (Math.floor(i / TIP_SIDE) + 0.5) / (TIP_SIDE / 2) - 1;
		out[i] = Math.round(255 * clamp(tone(x, y)));
	}
	return out;
}
