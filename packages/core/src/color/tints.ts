import { hexOfOklch } from './oklch.ts';
import type { Hex } from './srgb.ts';

/** Calm tints that tell pieces apart: neighbours in number are far apart in hue, and every third is lighter. */
export const tintOf = (piece: number): Hex =>
	hexOfOklch({ l: 0.72 + 0.06 * (piece % 3), c: 0.075, h: (40 + piece * 137.508) % 360 });
