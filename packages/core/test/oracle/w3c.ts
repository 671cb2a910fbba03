/**
 * W3C Compositing and Blending Level 1 in double precision, straight from its formulas: one texel at a time, straight
 * alpha, channels 0..1. The oracle of the compositing kernels.
 */
import type { BlendMode } from '../../src/composite/index.ts';

export type Texel = readonly [number, number, number, number];
type Rgb = [number, number, number];

const softLight = (b: number, s: number): number => {
	if (s <= 0.5) return b - (1 - 2 * s) * b * (1 - b);
	const d = b <= 0.25 ? ((16 * b - 12) * b + 4) * b : Math.sqrt(b);
	return b + (2 * s - 1) * (d - b);
};
const hardLight = (b: number, s: number): number => (s <= 0.5 ? b * 2 * s : b + (2 * s - 1) - b * (2 * s - 1));

const separable: Partial<Record<BlendMode, (b: number, s: number) => number>> = {
	normal: (_b, s) => s,
	multiply: (b, s) => b * s,
	screen: (b, s) => b + s - b * s,
	overlay: (b, s) => hardLight(s, b),
	darken: Math.min,
	lighten: Math.max,
	'color-dodge': (b, s) => (b === 0 ? 0 : s === 1 ? 1 : Math.min(1, b / (1 - s))),
	'color-burn': (b, s) => (b === 1 ? 1 : s === 0 ? 0 : 1 - Math.min(1, (1 - b) / s)),
	'hard-light': hardLight,
	'soft-light': softLight,
	difference: (b, s) => Math.abs(b - s),
	exclusion: (b, s) => b + s - 2 * b * s,
	subtract: (b, s) => Math.max(0, b - s),
	divide: (b, s) => (b === 0 ? 0 : s === 0 ? 1 : Math.min(1, b / s)),
	'plus-lighter': (b, s) => Math.min(1, b + s),
};

const lum = ([r, g, b]: Rgb): number => 0.3 * r + 0.59 * g + 0.11 * b;
const sat = (c: Rgb): number => Math.max(...c) - Math.min(...c);
const clip = (c: Rgb): Rgb => {
	const l = lum(c);
	const n = Math.min(...c);
	const x = Math.max(...c);
	let out = c;
	if (n < 0) out = out.map((v) => l + ((v - l) * l) / (l - n)) as Rgb;
	if (x > 1) out = out.map((v) => l + ((v - l) * (1 - l)) / (x - l)) as Rgb;
	return out;
};
const setLum = (c: Rgb, l: number): Rgb => clip(c.map((v) => v + l - lum(c)) as Rgb);
const setSat = (c: Rgb, s: number): Rgb => {
	const low = Math.min(...c);
	const range = sat(c);
	return range === 0 ? [0, 0, 0] : (c.map((v) => ((v - low) * s) / range) as Rgb);
};

export const blend = (mode: BlendMode, b: Rgb, s: Rgb): Rgb => {
	if (mode === 'hue') return setLum(setSat(s, sat(b)), lum(b));
	if (mode === 'saturation') return setLum(setSat(b, sat(s)), lum(b));
	if (mode === 'color') return setLum(s, lum(b));
	if (mode === 'luminosity') return setLum(b, lum(s));
	const f = separable[mode] as (b: number, s: number) => number;
	return [0, 1, 2].map((i) => f(b[i] as number, s[i] as number)) as Rgb;
};

/** Source over a backdrop with a blend mode; with `atop` inside the backdrop's shape, blended as if it were opaque. */
export function over(mode: BlendMode, backdrop: Texel, source: Texel, atop = false): Texel {
	const [cb, cs] = [backdrop.slice(0, 3) as Rgb, source.slice(0, 3) as Rgb];
	const [ab, as] = [backdrop[3], source[3]];
	const mixed = blend(mode, cb, cs);
	if (mode === 'plus-lighter' && !atop) {
		const alpha = Math.min(1, ab + as);
		return [
			...([0, 1, 2].map((i) =>
				alpha ? Math.min(1, as * (cs[i] as number) + ab * (cb[i] as number)) / alpha : 0,
			) as Rgb),
			alpha,
		];
	}
	const alpha = atop ? ab : as + ab - as * ab;
	const premultiplied = [0, 1, 2].map(
		(i) =>
			as * ab * (mixed[i] as number) +
			(1 - as) * ab * (cb[i] as number) +
			(atop ? 0 : as * (1 - ab) * (cs[i] as number)),
	);
	return [...(premultiplied.map((v) => (alpha > 0 ? v / alpha : 0)) as Rgb), alpha];
}

/** A layer at one texel: its own, a group's, or a change of what lies below. */
export interface LayerTexel {
	readonly mode: BlendMode;
	readonly opacity: number;
	readonly clip: boolean;
	readonly texel: Texel;
	readonly mask: number;
	readonly group?: { readonly layers: readonly LayerTexel[]; readonly isolated: boolean };
	readonly adjust?: (rgb: readonly [number, number, number]) => readonly [number, number, number];
}

/** What a layer lays on a backdrop, its alpha weighed by mask and opacity. */
function sourceOf(layer: LayerTexel, backdrop: Texel, opacity: number): Texel {
	const [r, g, b, a] = layer.group
		? stack(layer.group.layers)
		: layer.adjust
			? ([...layer.adjust([backdrop[0], backdrop[1], backdrop[2]]), 1] as Texel)
			: layer.texel;
	return [r, g, b, a * layer.mask * opacity];
}

/** Between two texels, premultiplied on the way. */
function between(from: Texel, to: Texel, k: number): Texel {
	const alpha = from[3] + (to[3] - from[3]) * k;
	const mix = (i: number): number =>
		alpha > 0 ? ((from[i] as number) * from[3] * (1 - k) + (to[i] as number) * to[3] * k) / alpha : 0;
	return [mix(0), mix(1), mix(2), alpha];
}

/** A whole stack at one texel on a backdrop, bottom first; clip runs as isolated groups on their base. */
export function stack(layers: readonly LayerTexel[], start: Texel | null = null): Texel {
	let out: Texel = start ?? [0, 0, 0, 0];
	let empty = start === null;
	for (let i = 0; i < layers.length; ) {
		const base = layers[i] as LayerTexel;
		let next = i + 1;
		// A change of tones is no base: what is clipped to it stands free.
		while (!base.adjust && next < layers.length && layers[next]?.clip) next++;
		if (next > i + 1) {
			let group = sourceOf(base, out, 1);
			for (const each of layers.slice(i + 1, next))
				group = over(each.mode, group, sourceOf(each, group, each.opacity), true);
			out = over(base.mode, out, [group[0], group[1], group[2], group[3] * base.opacity]);
		} else if (base.adjust) {
			// Where nothing lies below there is nothing to change.
			if (!empty) out = over(base.mode, out, sourceOf(base, out, base.opacity), true);
			i = next;
			continue;
		} else if (base.group && !base.group.isolated && !empty)
			out = between(out, stack(base.group.layers, out), base.opacity * base.mask);
		else out = over(base.mode, out, sourceOf(base, out, base.opacity));
		empty = false;
		i = next;
	}
	return out;
}
