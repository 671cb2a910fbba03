import { cubeOf } from './cube.ts';
import { curveAt } from './curve.ts';
import { oklabOfSrgb, srgbOfOklab } from './oklch.ts';
import { type Hex, rgbOfHex } from './srgb.ts';

/** A change of tones and colours that looks at each texel alone. */
export type PointTone =
	/** Tones from black to white (0..1) spread to outBlack..outWhite; gamma above 1 lightens the middle. */
	| {
			readonly op: 'levels';
			readonly black: number;
			readonly white: number;
			readonly gamma: number;
			readonly outBlack: number;
			readonly outWhite: number;
	  }
	/** Heights over evenly spaced tones, for all channels and then for each. */
	| {
			readonly op: 'curves';
			readonly all: readonly number[];
			readonly red: readonly number[];
			readonly green: readonly number[];
			readonly blue: readonly number[];
	  }
	/** -1..1 each. */
	| { readonly op: 'contrast'; readonly brightness: number; readonly contrast: number }
	/** In OKLCH: lightness and chroma -1..1, hue in degrees. */
	| { readonly op: 'oklch'; readonly lightness: number; readonly chroma: number; readonly hue: number }
	/** Warmer (1) or cooler (-1), redder (1) or greener (-1), by tone: dark, middle, light. */
	| {
			readonly op: 'balance';
			readonly warmth: readonly [number, number, number];
			readonly redness: readonly [number, number, number];
	  }
	/** Each tone takes its colour from a ramp, dark to light. */
	| { readonly op: 'gradient'; readonly colors: readonly Hex[] }
	/** Each channel in so many steps, 2..64. */
	| { readonly op: 'posterize'; readonly steps: number }
	/** 0..1 of the colour taken away. */
	| { readonly op: 'desaturate'; readonly amount: number }
	/** Every colour drawn towards one, its own lightness kept by half; 0..1. */
	| { readonly op: 'pull'; readonly color: Hex; readonly amount: number };

/** A change that looks at the texels around each: lengths are texels, `turn` degrees. */
export type AreaTone =
	| { readonly op: 'blur'; readonly radius: number }
	| { readonly op: 'smudge'; readonly length: number; readonly turn: number }
	/** Away from its own blur by `amount` (0..3). */
	| { readonly op: 'sharpen'; readonly amount: number; readonly radius: number };

/** A change of tones and colours, the same for adjust layers and for what is done once. */
export type ToneOp = PointTone | AreaTone;

/** Changes of tones as they are called on the screen. */
export const toneNames: Readonly<Record<ToneOp['op'], string>> = {
	levels: 'Levels',
	curves: 'Curves',
	contrast: 'Brightness and contrast',
	oklch: 'Hue, chroma, lightness',
	balance: 'Balance',
	gradient: 'Gradient by tone',
	posterize: 'Posterize',
	desaturate: 'Desaturate',
	pull: 'Pull towards a colour',
	blur: 'Blur',
	smudge: 'Blur along a direction',
	sharpen: 'Sharpen',
};

export const isAreaTone = (op: ToneOp): op is AreaTone => op.op === 'blur' || op.op === 'smudge' || op.op === 'sharpen';

/** How kernels take a change: a table of 256 entries of red, green, blue, by channel or by tone, or a cube of colours. */
export type ToneMap =
	| { readonly kind: 'channels' | 'tone'; readonly table: Uint8Array }
	| { readonly kind: 'cube'; readonly cube: Float32Array };

const clamp = (v: number): number => Math.min(1, Math.max(0, v));
const channels = (f: (v: number, channel: number) => number): ToneMap => ({
	kind: 'channels',
	table: Uint8Array.from({ length: 768 }, (_, i) => Math.round(255 * clamp(f(Math.floor(i / 3) / 255, i % 3)))),
});
/** Share of the dark, middle and light tones at a lightness; they add up to one. */
const regions = (l: number): [number, number, number] => {
	const dark = clamp(1 - 2 * l) ** 2 * (3 - 2 * clamp(1 - 2 * l));
	const light = clamp(2 * l - 1) ** 2 * (3 - 2 * clamp(2 * l - 1));
	return [dark, 1 - dark - light, light];
};
/** Full balance moves OKLab by this much. */
const SHIFT = 0.09;

export function toneMap(op: PointTone): ToneMap {
	switch (op.op) {
		case 'levels': {
			const range = Math.max(1 / 255, op.white - op.black);
			return channels(
				(v) =>
					op.outBlack + (op.outWhite - op.outBlack) * clamp((v - op.black) / range) ** (1 / Math.max(0.05, op.gamma)),
			);
		}
		case 'curves':
			return channels((v, c) => curveAt([op.red, op.green, op.blue][c] as readonly number[], curveAt(op.all, v)));
		case 'contrast': {
			// Full contrast is a slope of four; none at all is grey.
			const slope = op.contrast > 0 ? 1 + 3 * op.contrast : 1 + op.contrast;
			return channels((v) => 0.5 + (v - 0.5) * slope + 0.5 * op.brightness);
		}
		case 'posterize': {
			const steps = Math.max(2, Math.round(op.steps));
			return channels((v) => Math.min(steps - 1, Math.floor(v * steps)) / (steps - 1));
		}
		case 'gradient': {
			const labs = op.colors.map((hex) => {
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
		}
		case 'oklch': {
			const turn = (op.hue * Math.PI) / 180;
			const [c, s] = [Math.cos(turn), Math.sin(turn)];
			const k = op.chroma > 0 ? 1 + 1.5 * op.chroma : 1 + op.chroma;
			const lighter = (l: number): number => (op.lightness > 0 ? l + (1 - l) * op.lightness : l * (1 + op.lightness));
			return { kind: 'cube', cube: cubeOf((l, a, b) => [lighter(l), k * (a * c - b * s), k * (a * s + b * c)]) };
		}
		case 'balance':
			return {
				kind: 'cube',
				cube: cubeOf((l, a, b) => {
					const share = regions(l);
					const sum = (list: readonly number[]): number =>
						share.reduce((all, w, i) => all + w * (list[i] as number), 0);
					return [l, a + SHIFT * sum(op.redness), b + SHIFT * sum(op.warmth)];
				}),
			};
		case 'desaturate':
			return { kind: 'cube', cube: cubeOf((l, a, b) => [l, a * (1 - op.amount), b * (1 - op.amount)]) };
		case 'pull': {
			const [r, g, bl] = rgbOfHex(op.color);
			const [L, A, B] = oklabOfSrgb(r / 255, g / 255, bl / 255);
			const k = op.amount;
			return { kind: 'cube', cube: cubeOf((l, a, b) => [l + (L - l) * k * 0.5, a + (A - a) * k, b + (B - b) * k]) };
		}
	}
}
