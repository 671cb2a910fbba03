import type { Kernels } from '@eppu/kernels';
import { loadKernels } from '@eppu/kernels/node';
import { beforeAll, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { readBlock } from '../src/raster/index.ts';
import {
	clearSurface,
	copySurface,
	createRecord,
	createSurface,
	dropRecord,
	freshTexels,
	Kind,
	type Picture,
	pictureIntoSurface,
	pictureOfSurface,
	putState,
	putTexels,
	recordBytes,
	surfaceBytes,
	swapRecord,
	texelAt,
	tilesFrom,
	writableTexels,
} from '../src/surface/index.ts';
import { seeded } from './oracle/surfaces.ts';

let kernels: Kernels;
beforeAll(async () => {
	kernels = await loadKernels();
});

const noisy = (seed: number, width: number, height: number, channels: 1 | 4): Picture => {
	const random = seeded(seed);
	// Whole blocks of one value, so that tiles of every kind occur.
	return {
		width,
		height,
		data: Uint8Array.from({ length: width * height * channels }, (_, i) =>
			Math.floor(i / channels / width / 64) % 2 ? 0 : Math.floor(random() * 256),
		),
	};
};

test('a picture laid on a surface of any size comes back the same', () => {
	fc.assert(
		fc.property(
			fc.integer({ min: 16, max: 200 }),
			fc.integer({ min: 16, max: 200 }),
			fc.nat(999),
			fc.boolean(),
			(width, height, seed, isMask) => {
				const surface = createSurface('s', isMask ? 'mask' : 'color', width, height);
				const picture = noisy(seed, width, height, isMask ? 1 : 4);
				pictureIntoSurface(kernels, picture, surface);
				const back = pictureOfSurface(kernels, surface);
				const same = isMask
					? Buffer.compare(back.data, picture.data) === 0
					: // Colour under no alpha in an otherwise empty tile is not kept: it is nothing.
						back.data.every((v, i) => v === picture.data[i] || (picture.data[i | 3] === 0 && back.data[i | 3] === 0));
				clearSurface(kernels.heap, surface);
				return same;
			},
		),
		{ numRuns: 30 },
	);
});

test('a picture of another size is refused and changes nothing', () => {
	const surface = createSurface('s', 'color', 64, 64);
	expect(() => pictureIntoSurface(kernels, { width: 32, height: 32, data: new Uint8Array(4096) }, surface)).toThrow(
		RangeError,
	);
	expect(surfaceBytes(surface)).toBe(0);
});

test('swapping a record undoes and does again, and nothing leaks', () => {
	const used = kernels.heap.used;
	fc.assert(
		fc.property(
			fc.array(
				fc.record({ tile: fc.nat(5), value: fc.nat(2 ** 32 - 1), how: fc.constantFrom('one', 'texels', 'part') }),
				{ minLength: 1, maxLength: 20 },
			),
			(edits) => {
				const surface = createSurface('s', 'color', 192, 128);
				const first = pictureIntoSurface(kernels, noisy(3, 192, 128, 4), surface);
				const before = pictureOfSurface(kernels, surface);
				const record = createRecord(surface);
				for (const { tile, value, how } of edits) {
					if (how === 'one') putState(kernels.heap, record, tile, { kind: Kind.uniform, data: value });
					else {
						const at = how === 'part' ? writableTexels(kernels, record, tile) : freshTexels(kernels.heap, record, tile);
						kernels.heap.u32.fill(value, at >> 2, (at >> 2) + (how === 'part' ? 100 : 4096));
						putTexels(kernels, record, tile, at);
					}
				}
				const after = pictureOfSurface(kernels, surface);
				swapRecord(record);
				const undone = Buffer.compare(pictureOfSurface(kernels, surface).data, before.data) === 0;
				swapRecord(record);
				const redone = Buffer.compare(pictureOfSurface(kernels, surface).data, after.data) === 0;
				expect(recordBytes(record)).toBeLessThanOrEqual(6 * 16384);
				for (const each of [record, first]) dropRecord(kernels.heap, each);
				clearSurface(kernels.heap, surface);
				return undone && redone;
			},
		),
	);
	expect(kernels.heap.used).toBe(used);
});

test('a copy shares nothing with what it was copied from', () => {
	const surface = createSurface('s', 'color', 64, 64);
	pictureIntoSurface(kernels, noisy(5, 64, 64, 4), surface);
	const copy = copySurface(kernels.heap, surface, 'c');
	const was = texelAt(kernels.heap, surface, 5, 5);
	const record = createRecord(copy);
	const at = writableTexels(kernels, record, 0);
	kernels.heap.u8.fill(1, at, at + 16384);
	putTexels(kernels, record, 0, at);
	expect(texelAt(kernels.heap, surface, 5, 5)).toEqual(was);
	expect(texelAt(kernels.heap, copy, 5, 5)).toEqual([1, 1, 1, 1]);
	expect(texelAt(kernels.heap, copy, -1, 5)).toEqual([0, 0, 0, 0]);
});

test('texels of 16 bits lie in tiles as others do: settled, taken back, read and copied', () => {
	fc.assert(
		fc.property(
			fc.integer({ min: 60, max: 140 }),
			fc.integer({ min: 60, max: 140 }),
			fc.nat(65535),
			fc.nat(999),
			(width, height, value, seed) => {
				const surface = createSurface('d', 'deep', width, height);
				const words = new Uint16Array(width * height).fill(value);
				const random = seeded(seed);
				for (let i = 0; i < words.length / 3; i++) words[i] = Math.floor(random() * 65536);
				const picture = { width, height, data: new Uint8Array(words.buffer) };
				const record = pictureIntoSurface(kernels, picture, surface);
				const same = Buffer.compare(pictureOfSurface(kernels, surface).data, picture.data) === 0;
				const at = texelAt(kernels.heap, surface, width - 1, height - 1)[0] === value >> 8;
				const block = readBlock(kernels, surface, { x: 10, y: 10, width: width - 20, height: height - 20 });
				const read = new Uint16Array(block.data.buffer).every(
					(v, i) => v === words[(10 + Math.floor(i / (width - 20))) * width + 10 + (i % (width - 20))],
				);
				swapRecord(record);
				const empty = surface.kinds.every((kind) => kind === Kind.empty);
				dropRecord(kernels.heap, record);
				clearSurface(kernels.heap, surface);
				return same && at && read && empty;
			},
		),
		{ numRuns: 40 },
	);
	const plain = createSurface('p', 'deep', 64, 64);
	pictureIntoSurface(kernels, { width: 64, height: 64, data: new Uint8Array(8192).fill(3) }, plain);
	expect([plain.kinds[0], plain.data[0], surfaceBytes(plain)]).toEqual([Kind.uniform, 0x0303, 0]);
	clearSurface(kernels.heap, plain);
});

test('tiles from a texel outwards: each once, none nearer than the one before it', () => {
	fc.assert(
		fc.property(
			fc.integer({ min: 1, max: 9 }),
			fc.integer({ min: 1, max: 9 }),
			fc.integer({ min: -50, max: 700 }),
			fc.integer({ min: -50, max: 700 }),
			(cols, rows, x, y) => {
				const tiles = tilesFrom({ cols, rows }, x, y);
				expect([...tiles].sort((a, b) => a - b)).toEqual(Array.from({ length: cols * rows }, (_, i) => i));
				const away = tiles.map((tile) =>
					Math.hypot((tile % cols) * 64 + 32 - x, Math.floor(tile / cols) * 64 + 32 - y),
				);
				away.forEach((d, i) => expect(d).toBeGreaterThanOrEqual((away[i - 1] ?? 0) - 1e-6));
			},
		),
	);
});
