import { one, real, signedShare, strict } from '../../shape/index.ts';
import type { PointKind } from '../kind.ts';

/** In OKLCH: lightness and chroma -1..1, hue in degrees. */
export interface Oklch {
	readonly op: 'oklch';
	readonly lightness: number;
	readonly chroma: number;
	readonly hue: number;
}

export const oklch: PointKind<Oklch> = {
	op: 'oklch',
	words: 'Hue, chroma, lightness',
	looks: 'point',
	shape: strict({ op: one('oklch'), lightness: signedShare, chroma: signedShare, hue: real(-360, 360) }),
	usual: { op: 'oklch', lightness: 0, chroma: 0, hue: 0 },
	dials: [
		{ of: 'lightness', label: 'Lightness', least: -1, most: 1, usual: 0 },
		{ of: 'chroma', label: 'Chroma', least: -1, most: 1, usual: 0 },
		{ of: 'hue', label: 'Hue', least: -180, most: 180, usual: 0, unit: '°' },
	],
	map(op) {
		const turn = (op.hue * Math.PI) / 180;
		const [c, s] = [Math.cos(turn), Math.sin(turn)];
		const k = op.chroma > 0 ? 1 + 1.5 * op.chroma : 1 + op.chroma;
		const lighter = (l: number): number => (op.lightness > 0 ? l + (1 - l) * op.lightness : l * (1 + op.lightness));
		return { kind: 'cube', change: (l, a, b) => [lighter(l), k * (a * c - b * s), k * (a * s + b * c)] };
	},
};
