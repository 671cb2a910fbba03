import type { Id } from '../document/index.ts';
import type { Engine, LooseStack } from '../engine/index.ts';
import { TILE } from '../surface/index.ts';
import { type Patch, trimmed } from './patch.ts';

/** The compositor's one. */
const ONE = 32767;
/** By how much of 65535 a number of eight bits may be off before sixteen tell more, weighed by alpha. */
const CLOSE = 4;

/** A texel of stacks, premultiplied, 0..1: red, green, blue and alpha of the first, then of the next. */
export type Premultiplied = Float64Array;
/** What is written for a texel: straight red, green, blue and alpha, 0..1. */
export type Straight = [r: number, g: number, b: number, a: number];

/**
 * A picture of what stacks of a sheet come to, by `mix`, which fills `out` from a texel of each. It has 16 bits a channel
 * where those of 8 would round what other programs go on computing with.
 */
export function pressed(
	engine: Engine,
	sheet: { readonly id: Id; readonly width: number; readonly height: number },
	stacks: readonly LooseStack[],
	mix: (texel: Premultiplied, out: Straight) => void,
): Patch {
	const { width, height } = sheet;
	const fine = new Uint16Array(width * height * 4);
	const cols = Math.ceil(width / TILE);
	const texel = new Float64Array(stacks.length * 4);
	const out: Straight = [0, 0, 0, 0];
	let tells = false;
	engine.fineStacks(sheet.id, stacks, (tile, made) => {
		const [left, top] = [(tile % cols) * TILE, Math.floor(tile / cols) * TILE];
		for (let y = 0; y < TILE && top + y < height; y++)
			for (let x = 0; x < TILE && left + x < width; x++) {
				const from = ((y * TILE + x) >> 3) * 32 + (x & 7);
				made.forEach((stack, i) => {
					for (let k = 0; k < 4; k++) texel[i * 4 + k] = (stack[from + k * 8] as number) / ONE;
				});
				const at = (top + y) * width + left + x;
				out.fill(0);
				mix(texel, out);
				const alpha = Math.min(1, Math.max(0, out[3]));
				if (alpha === 0) continue;
				for (let k = 0; k < 4; k++) {
					const value = Math.round(Math.min(1, Math.max(0, out[k] as number)) * 65535);
					fine[at * 4 + k] = value;
					tells ||= Math.abs(value - Math.round(value / 257) * 257) * (k === 3 ? 1 : alpha) > CLOSE;
				}
			}
	});
	return trimmed({ width, height, data: rounded(fine), ...(tells ? { fine } : {}) });
}

const rounded = (fine: Uint16Array): Uint8Array => Uint8Array.from(fine, (v) => Math.round(v / 257));

const straight = (texel: Premultiplied, from: number, out: Straight): number => {
	const alpha = texel[from + 3] as number;
	for (let k = 0; k < 3; k++) out[k] = alpha > 0 ? (texel[from + k] as number) / alpha : 0;
	return alpha;
};

/** The first stack. */
export const asItIs = (texel: Premultiplied, out: Straight): void => {
	out[3] = straight(texel, 0, out);
};

/** The colours of the first stack, opaque where it is at all, and the second too: to be laid atop, or cut by a shape. */
export const asOpaque = (texel: Premultiplied, out: Straight): void => {
	const alpha = straight(texel, 0, out);
	out[3] = alpha > 0 && texel[7] !== 0 ? 1 : 0;
};

/** The alpha of the first stack. */
export const asShape = (texel: Premultiplied, out: Straight): void => {
	out.fill(1);
	out[3] = texel[3] as number;
};

/** What `alpha` of has to be laid over the first stack for the second to come of it. */
const laid = (texel: Premultiplied, alpha: number, out: Straight): void => {
	for (let k = 0; k < 3; k++) out[k] = ((texel[4 + k] as number) - (1 - alpha) * (texel[k] as number)) / alpha;
	out[3] = alpha;
};

/**
 * What has to be laid over the first stack, with the alpha of the third, for the second to come of it: of a blend mode B
 * that is αb·B(Cb, Cs) + (1 − αb)·Cs (W3C Compositing and Blending 1, 10), whatever of it is kept by a mask or an opacity.
 */
export const asLaid = (texel: Premultiplied, out: Straight): void => {
	const alpha = texel[11] as number;
	if (alpha > 0) laid(texel, alpha, out);
};

/** The same where the alpha is not known: exact but where half clear paint changed and grew no denser. */
export const asFaded = (texel: Premultiplied, out: Straight): void => {
	const [under, seen] = [texel[3] as number, texel[7] as number];
	const same = [0, 1, 2, 3].every((k) => Math.abs((texel[k] as number) - (texel[4 + k] as number)) < 1.5 / ONE);
	if (same) return;
	const alpha = under >= 1 ? 1 : Math.max(0, (seen - under) / (1 - under));
	if (alpha === 0) {
		// Nothing laid over it makes this of it: as it looks, as dense as it is.
		straight(texel, 4, out);
		out[3] = seen;
		return;
	}
	laid(texel, alpha, out);
};
