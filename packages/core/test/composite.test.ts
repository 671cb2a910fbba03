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
import { colorSurface, maskSurface, seeded } from './oracle/surfaces.ts';
import { type LayerTexel, stack, type Texel } from './oracle/w3c.ts';

let kernels: Kernels;
let out: number;

beforeAll(async () => {
	kernels = await loadKernels();
	out = kernels.heap.alloc(16384);
});

const layerTexel = (layer: StackLayer, x: number, y: number): LayerTexel => {
	const bytes =
		typeof layer.source === 'number'
			? [layer.source & 255, (layer.source >> 8) & 255, (layer.source >> 16) & 255, layer.source >>> 24]
			: texelAt(kernels.heap, layer.source, x, y);
	return {
		mode: layer.mode,
		opacity: layer.opacity,
		clip: layer.clip,
		texel: bytes.map((v) => v / 255) as unknown as Texel,
		mask: layer.mask ? (texelAt(kernels.heap, layer.mask, x, y)[0] ?? 0) / 255 : 1,
	};
};

/** Largest and mean difference to the oracle in 1/255, on premultiplied colour and on alpha, over one tile. */
const errors = (layers: readonly StackLayer[], step = 1): { max: number; mean: number } => {
	createCompositor(kernels).tile(layers, 0, out);
	let max = 0;
	let sum = 0;
	for (let i = 0; i < 4096; i += step) {
		const [x, y] = [i % 64, i >> 6];
		const want = stack(layers.map((layer, k) => ({ ...layerTexel(layer, x, y), clip: layer.clip && k > 0 })));
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

const plain = (source: Surface | number, mode: BlendMode = 'normal', more: Partial<StackLayer> = {}): StackLayer => ({
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
	const many = Array.from({ length: 1100 }, () => plain(one, 'multiply'));
	expect(() => createCompositor(kernels).tile(many, 0, out)).toThrow(/more layers than can be shown/);
});
