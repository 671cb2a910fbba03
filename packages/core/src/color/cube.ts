import { putLinearOfOklab, putOklabOfLinear } from './oklch.ts';
import { linearOfSrgb, srgbOfLinear } from './srgb.ts';

/** Nodes along a side of a colour cube; the kernel mapColors knows it too. */
export const CUBE_NODES = 33;

/** What a tone brush does to a colour. */
export type ToneTool = 'lighten' | 'darken' | 'contrast' | 'saturate' | 'hue';

/** L, chroma as a, b in OKLab, changed by a tool at full strength; amount -1..1. */
function toned(tool: ToneTool, amount: number, l: number, a: number, b: number): [number, number, number] {
	if (tool === 'lighten') return [l + (1 - l) * 0.4 * amount, a, b];
	if (tool === 'darken') return [l * (1 - 0.45 * amount), a, b];
	if (tool === 'contrast') {
		const k = amount > 0 ? 1 + amount : 1 + 0.7 * amount;
		return [Math.min(1, Math.max(0, 0.55 + (l - 0.55) * k)), a, b];
	}
	if (tool === 'saturate') {
		const k = amount > 0 ? 1 + 1.2 * amount : 1 + amount;
		return [l, a * k, b * k];
	}
	const [c, s] = [Math.cos(Math.PI * amount), Math.sin(Math.PI * amount)];
	return [l, a * c - b * s, a * s + b * c];
}

/** Linear light that still counts as within sRGB: a thousandth beyond it, encoded. */
const [LEAST, MOST] = [-linearOfSrgb(0.001), linearOfSrgb(1.001)];
const inside = (light: Float64Array): boolean =>
	(light[0] as number) >= LEAST &&
	(light[0] as number) <= MOST &&
	(light[1] as number) >= LEAST &&
	(light[1] as number) <= MOST &&
	(light[2] as number) >= LEAST &&
	(light[2] as number) <= MOST;

/** Steps of the table of encoded light. */
const STEPS = 2048;
/** Encoded light 0..255 by the root of linear light: even steps of the root are fine enough in the darks too. */
let encoded: Float64Array | null = null;
/** Encoded sRGB 0..255 of linear light, within 0.001 of 255; what lies beyond 0..1 is held to it. */
function bytesOfLinear(v: number): number {
	encoded ??= Float64Array.from({ length: STEPS + 2 }, (_, i) => 255 * srgbOfLinear((i / STEPS) ** 2));
	if (v <= 0) return 0;
	if (v >= 1) return 255;
	const at = Math.sqrt(v) * STEPS;
	const whole = at | 0;
	const before = encoded[whole] as number;
	return before + ((encoded[whole + 1] as number) - before) * (at - whole);
}

/** OKLab of every node, made once: a dial that is dragged makes many cubes. */
let labs: Float64Array | null = null;
function nodeLabs(): Float64Array {
	const n = CUBE_NODES;
	const light = Float64Array.from({ length: n }, (_, i) => linearOfSrgb(i / (n - 1)));
	const all = new Float64Array(n * n * n * 3);
	for (let b = 0, i = 0; b < n; b++)
		for (let g = 0; g < n; g++)
			for (let r = 0; r < n; r++, i += 3)
				putOklabOfLinear(all, i, light[r] as number, light[g] as number, light[b] as number);
	return all;
}

/**
 * A change of OKLab colours as a cube of 33³ nodes of four floats (red, green, blue 0..255, one unused), red fastest.
 * What leaves sRGB loses chroma, keeping lightness and hue, until it fits.
 */
export function cubeOf(change: (l: number, a: number, b: number) => readonly [number, number, number]): Float32Array {
	const nodes = CUBE_NODES ** 3;
	labs ??= nodeLabs();
	const out = new Float32Array(nodes * 4);
	const light = new Float64Array(3);
	for (let i = 0; i < nodes; i++) {
		const [L, A, B] = change(labs[i * 3] as number, labs[i * 3 + 1] as number, labs[i * 3 + 2] as number);
		putLinearOfOklab(light, L, A, B);
		if (!inside(light)) {
			let [low, high] = [0, 1];
			for (let k = 0; k < 7; k++) {
				const half = (low + high) / 2;
				putLinearOfOklab(light, L, A * half, B * half);
				if (inside(light)) low = half;
				else high = half;
			}
			putLinearOfOklab(light, L, A * low, B * low);
		}
		for (let k = 0; k < 3; k++) out[i * 4 + k] = bytesOfLinear(light[k] as number);
	}
	return out;
}

/** A tone brush's colours at full strength. */
export const toneCube = (tool: ToneTool, amount: number): Float32Array =>
	cubeOf((l, a, b) => toned(tool, amount, l, a, b));
