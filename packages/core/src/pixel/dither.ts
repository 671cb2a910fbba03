import type { Hex } from '../color/index.ts';
import { among, hex, orNull, type Shape, share, strict } from '../shape/index.ts';

/** One way in which two colours are mixed by texels: a threshold 0..1 a place, from which on the second one stands. */
export interface Dither {
	readonly name: string;
	readonly label: string;
	threshold(x: number, y: number): number;
}

/** Ordered thresholds of a square of `n`, a power of two, evenly spread (B. Bayer, "An optimum method…", 1973). */
function ordered(n: number): (x: number, y: number) => number {
	const rank = (x: number, y: number): number => {
		let out = 0;
		for (let bit = 1; bit < n; bit *= 2) {
			const [u, v] = [x & bit ? 1 : 0, y & bit ? 1 : 0];
			out = out * 4 + (u ^ v) * 2 + v;
		}
		return out;
	};
	return (x, y) => (rank(x & (n - 1), y & (n - 1)) + 0.5) / (n * n);
}

const every =
	(of: (x: number, y: number) => number) =>
	(x: number, y: number): number =>
		of(x, y) % 2 === 0 ? 0.25 : 0.75;

/** All patterns in which texels are mixed: a new one is a line here. */
export const dithers = [
	{ name: 'every-other', label: 'Every other', threshold: every((x, y) => x + y) },
	{ name: 'ordered-2', label: 'Ordered 2', threshold: ordered(2) },
	{ name: 'ordered-4', label: 'Ordered 4', threshold: ordered(4) },
	{ name: 'ordered-8', label: 'Ordered 8', threshold: ordered(8) },
	{ name: 'rows', label: 'Rows', threshold: every((_x, y) => y) },
	{ name: 'columns', label: 'Columns', threshold: every((x) => x) },
	{ name: 'slants', label: 'Slants', threshold: (x, y) => (((((x + y) % 4) + 4) % 4) + 0.5) / 4 },
] as const satisfies readonly Dither[];

export type DitherName = (typeof dithers)[number]['name'];

const ditherNames = dithers.map(({ name }) => name);

/** The pattern of a name. */
export function ditherOf(name: DitherName): Dither {
	return dithers.find((each) => each.name === name) as Dither;
}

/** Texels of a colour laid in a pattern. */
export interface Mixing {
	readonly dither: DitherName;
	/** Share of texels that are laid, 0..1. */
	readonly share: number;
	/** What stands between them; null leaves what is there. */
	readonly between: Hex | null;
}

export const mixingShape: Shape = strict({ dither: among(ditherNames), share, between: orNull(hex) });

/** Whether a texel is laid. */
export const isLaid = ({ dither, share }: Mixing, x: number, y: number): boolean =>
	ditherOf(dither).threshold(x, y) < share;
