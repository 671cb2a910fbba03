import { type Hex, oklabOfSrgb, rgbOfHex, srgbOfOklab } from '../../color/index.ts';
import { hex, list, one, strict } from '../../shape/index.ts';
import type { PointKind } from '../kind.ts';
import { clamp } from '../map.ts';

/** Each tone takes its colour from a ramp, dark to light. */
export interface GradientTone {
	readonly op: 'gradient';
	readonly colors: readonly Hex[];
}

export const gradient: PointKind<GradientTone> = {
	op: 'gradient',
	words: 'Gradient by tone',
	looks: 'point',
	shape: strict({ op: one('gradient'), colors: list(hex, 32, 2) }),
	usual: { op: 'gradient', colors: ['#2b1d2a', '#b0603f', '#f3e9d2'] },
	dials: [],
	map({ colors }) {
		const labs = colors.map((hex) => {
			const [r, g, b] = rgbOfHex(hex);
			return oklabOfSrgb(r / 255, g / 255, b / 255);
		});
		const table = new Uint8Array(768);
		for (let i = 0; i < 256; i++) {
			const place = (i / 255) * (labs.length - 1);
			const k = Math.min(Math.max(0, labs.length - 2), Math.floor(place));
			const [a, b] = [labs[k] ?? [0, 0, 0], labs[k + 1] ?? labs[k] ?? [0, 0, 0]];
			const lab = [0, 1, 2].map((c) => (a[c] as number) + ((b[c] as number) - (a[c] as number)) * (place - k));
			srgbOfOklab(lab as unknown as [number, number, number]).forEach((v, c) => {
				table[i * 3 + c] = Math.round(255 * clamp(v));
			});
		}
		return { kind: 'tone', table };
	},
};
