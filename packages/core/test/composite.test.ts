import type { Kernels } from '@eppu/kernels';
import { loadKernels } from '@eppu/kernels/node';
import { beforeAll, describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import {
	type BlendMode,
	blendModes,
	createCompositor,
	type StackLayer,
	type UnderCache,
} from '../src/composite/index.ts';
import { type Surface, texelAt } from '../src/surface/index.ts';
import { type PointTone, toneMap } from '../src/tone/index.ts';
import { colorSurface, maskSurface, seeded } from './oracle/surfaces.ts';
import { type LayerTexel, stack, type Texel } from './oracle/w3c.ts';

let kernels: Kernels;
let out: number;

beforeAll(async () => {
	kernels = await loadKernels();
	out = kernels.heap.alloc(16384);
});

/** A change of tones as the oracle has it: its table or cube read in double precision. */
function changeOf(op: PointTone): NonNullable<LayerTexel['adjust']> {
	const map = toneMap(op);
	if (map.kind === 'cube') throw new Error('the oracle reads tables only');
	return (rgb) => {
		const tone = 0.3 * rgb[0] + 0.59 * rgb[1] + 0.11 * rgb[2];
		return rgb.map((v, k) => {
			const at = 255 * (map.kind === 'tone' ? tone : v);
			const low = Math.min(254, Math.floor(at));
			const [a, b] = [map.table[low * 3 + k] as number, map.table[low * 3 + 3 + k] as number];
			return (a + (b - a) * (at - low)) / 255;
		}) as [number, number, number];
	};
}

const layerTexel = (layer: StackLayer, x: number, y: number, index: number): LayerTexel => {
	const { source } = layer;
	const plain = {
		mode: layer.mode,
		opacity: layer.opacity,
		clip: layer.clip && index > 0,
		texel: [0, 0, 0, 0] as Texel,
		mask: layer.mask ? (texelAt(kernels.heap, layer.mask, x, y)[0] ?? 0) / 255 : 1,
	};
	if (typeof source === 'number')
		return {
			...plain,
			texel: [source & 255, (source >> 8) & 255, (source >> 16) & 255, source >>> 24].map(
				(v) => v / 255,
			) as unknown as Texel,
		};
	if ('kinds' in source)
		return { ...plain, texel: texelAt(kernels.heap, source, x, y).map((v) => v / 255) as unknown as Texel };
	if ('adjust' in source) return { ...plain, adjust: changeOf(source.adjust as PointTone) };
	return {
		...plain,
		group: { layers: source.group.map((each, k) => layerTexel(each, x, y, k)), isolated: source.isolated },
	};
};

/** Largest and mean difference to the oracle in 1/255, on premultiplied colour and on alpha, over one tile. */
const errors = (layers: readonly StackLayer[], step = 1): { max: number; mean: number } => {
	createCompositor(kernels).tile(layers, 0, out);
	let max = 0;
	let sum = 0;
	for (let i = 0; i < 4096; i += step) {
		const [x, y] = [i % 64, i >> 6];
		const want = stack(layers.map((layer, k) => layerTexel(layer, x, y, k)));
		const at = out + i * 4;
		const alpha = (kernels.heap.u8[at + 3] as number) / 255;
		for (let c = 0; c < 4; c++) {
			const got = c < 3 ? ((kernels.heap.u8[at + c] as number) / 255) * alpha : alpha;
			const wish = c < 3 ? (want[c] as number) * want[3] : want[3];
			const e = Math.abs(got - wish) * 255;
			max = Math.max(max, e);
			sum += e;
		}
	}
	return { max, mean: (sum * step) / 16384 };
};

const noisy = (seed: number, alphas: readonly number[]): Surface => {
	const random = seeded(seed);
	return colorSurface(kernels, 64, 64, () => [
		random() * 256,
		random() * 256,
		random() * 256,
		alphas[Math.floor(random() * alphas.length)] as number,
	]);
};

const plain = (
	source: StackLayer['source'],
	mode: BlendMode = 'normal',
	more: Partial<StackLayer> = {},
): StackLayer => ({
	mode,
	opacity: 1,
	clip: false,
	source,
	mask: null,
	...more,
});

describe.each(blendModes)('%s', (mode) => {
	test.each([
		['opaque on opaque', [255], [255]],
		['half clear on opaque', [0, 40, 128, 200, 255], [255]],
		['half clear on half clear', [0, 12, 90, 190, 255], [0, 25, 120, 230, 255]],
	])('%s lies within 1.5/255 of the W3C formulas', (_name, top, bottom) => {
		const found = errors([plain(noisy(1, bottom)), plain(noisy(2, top), mode, { opacity: 0.83 })]);
		expect(found.max).toBeLessThanOrEqual(1.5);
		expect(found.mean).toBeLessThanOrEqual(0.3);
	});

	test('clipped with a mask lies within 1.5/255', () => {
		const mask = maskSurface(kernels, 64, 64, (x, y) => (x * 4 + y * 3) & 255);
		const found = errors([
			plain(noisy(3, [255, 180])),
			plain(noisy(4, [0, 60, 255]), 'multiply', { opacity: 0.9 }),
			plain(noisy(5, [0, 90, 255]), mode, { clip: true, mask, opacity: 0.7 }),
		]);
		expect(found.max).toBeLessThanOrEqual(1.5);
		expect(found.mean).toBeLessThanOrEqual(0.3);
	});
});

const smooth: readonly BlendMode[] = blendModes.filter(
	(mode) => !['color-dodge', 'color-burn', 'divide', 'hue', 'saturation', 'color', 'luminosity'].includes(mode),
);

test('random stacks, masked and clipped, stay within 1.5/255 of double precision', () => {
	const layer = fc.record({
		mode: fc.constantFrom(...smooth),
		opacity: fc.integer({ min: 1, max: 100 }).map((v) => v / 100),
		clip: fc.boolean(),
		seed: fc.integer({ min: 1, max: 1000 }),
		masked: fc.boolean(),
		wash: fc.boolean(),
	});
	fc.assert(
		fc.property(fc.array(layer, { minLength: 1, maxLength: 6 }), (specs) => {
			const random = seeded(specs.length);
			const layers = specs.map((spec) =>
				plain(spec.wash ? (0xff000000 | (spec.seed * 7919)) >>> 0 : noisy(spec.seed, [0, 30, 140, 255]), spec.mode, {
					opacity: spec.opacity,
					clip: spec.clip,
					mask: spec.masked ? maskSurface(kernels, 64, 64, () => random() * 256) : null,
				}),
			);
			const found = errors(layers, 5);
			// Of one wash every texel rounds alike, so a mean over texels says nothing here.
			return found.max <= 1.5;
		}),
		{ numRuns: 25 },
	);
});

test('random trees of groups, isolated or not, with masks, clips and changes of tones stay within 2/255', () => {
	const leaf = fc.record({
		kind: fc.constantFrom('paint', 'paint', 'wash', 'adjust'),
		mode: fc.constantFrom(...smooth),
		opacity: fc.integer({ min: 20, max: 100 }).map((v) => v / 100),
		clip: fc.boolean(),
		seed: fc.integer({ min: 1, max: 1000 }),
		masked: fc.boolean(),
		isolated: fc.boolean(),
	});
	const tree = fc.array(fc.record({ leaf, inner: fc.option(fc.array(leaf, { maxLength: 3 }), { nil: undefined }) }), {
		minLength: 1,
		maxLength: 5,
	});
	// No steeper than the tones themselves, so that reading them back in bytes adds no more than half a step.
	const ops: readonly PointTone[] = [
		{ op: 'levels', black: 0, white: 1, gamma: 1, outBlack: 0.2, outWhite: 0.9 },
		{ op: 'contrast', brightness: 0.1, contrast: -0.5 },
		{ op: 'curves', all: [1, 0], red: [0, 1], green: [0, 1], blue: [0.3, 0.7] },
		{ op: 'gradient', colors: ['#403020', '#a09080'] },
	];
	type Leaf = typeof leaf extends fc.Arbitrary<infer T> ? T : never;
	fc.assert(
		fc.property(tree, (given) => {
			const mask = (spec: Leaf): Surface | null =>
				spec.masked ? maskSurface(kernels, 64, 64, (x, y) => (x * spec.seed + y * 3) & 255) : null;
			const layer = (spec: Leaf, source: StackLayer['source'], mode = spec.mode): StackLayer =>
				plain(source, mode, { opacity: spec.opacity, clip: spec.clip, mask: mask(spec) });
			const one = (spec: Leaf): StackLayer =>
				spec.kind === 'adjust'
					? layer(spec, { adjust: ops[spec.seed % ops.length] as PointTone }, 'normal')
					: layer(
							spec,
							spec.kind === 'wash' ? (0xff000000 | (spec.seed * 7919)) >>> 0 : noisy(spec.seed, [0, 90, 255]),
						);
			const layers = given.map(({ leaf: spec, inner }) =>
				inner
					? layer(spec, { group: inner.map(one), isolated: spec.isolated }, spec.isolated ? spec.mode : 'normal')
					: one(spec),
			);
			return errors(layers, 7).max <= 2;
		}),
		{ numRuns: 30 },
	);
});

test('a cache of what lies under a layer changes nothing', () => {
	const layers = [
		plain(noisy(1, [255])),
		plain(noisy(2, [90, 200]), 'multiply'),
		plain(noisy(3, [0, 255]), 'screen'),
		plain(noisy(4, [128]), 'overlay', { opacity: 0.5 }),
	];
	const bytes = (under?: UnderCache): Uint8Array => {
		createCompositor(kernels).tile(layers, 0, out, under);
		return kernels.heap.u8.slice(out, out + 16384);
	};
	const under: UnderCache = { split: 3, tiles: new Map(), limit: 4 };
	const plainBytes = bytes();
	expect(bytes(under)).toEqual(plainBytes);
	expect(under.tiles.size).toBe(1);
	expect(bytes(under)).toEqual(plainBytes);
});

test('one plain layer comes out bit for bit, also where it is nearly clear', () => {
	const surface = noisy(9, [0, 1, 2, 3, 128, 255]);
	createCompositor(kernels).tile([plain(surface)], 0, out);
	for (let i = 0; i < 4096; i++) {
		const want = texelAt(kernels.heap, surface, i % 64, i >> 6);
		expect([...kernels.heap.u8.subarray(out + i * 4, out + i * 4 + 4)]).toEqual([...want]);
	}
});

test('more layers than a program holds are refused in words', () => {
	const one = noisy(1, [128]);
	const many = Array.from({ length: 2100 }, () => plain(one, 'multiply'));
	expect(() => createCompositor(kernels).tile(many, 0, out)).toThrow(/more layers than can be shown/);
});
