import { deflateRawSync, crc32 as zlibCrc } from 'node:zlib';
import { loadPngPress, loadPngWriter } from '@eppu/kernels/node';
import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { unzipSync } from 'fflate';
import sharp from 'sharp';
import { paintLayer, type Sheet } from '../src/document/index.ts';
import {
	animatedPng,
	crc32,
	createPackReader,
	encodePng,
	fileName,
	MOST_CHUNK,
	PackError,
	type PackedTile,
	readPack,
	readPictureFile,
	shrink,
	writePack,
	zipOf,
} from '../src/format/index.ts';
import { pngChunk, pngChunks } from '../src/format/png.ts';
import { inflateTexels, tileBytes } from '../src/surface/index.ts';
import { watchCosts } from './oracle/costs.ts';
import { seeded } from './oracle/surfaces.ts';

const write = await loadPngWriter();
const picture = (width: number, height: number, seed: number) => {
	const random = seeded(seed);
	return { width, height, data: Uint8Array.from({ length: width * height * 4 }, () => random() * 256) };
};

test('a PNG of any size reads back in an independent library, texel for texel', async () => {
	await fc.assert(
		fc.asyncProperty(
			fc.integer({ min: 1, max: 90 }),
			fc.integer({ min: 1, max: 90 }),
			fc.nat(999),
			async (width, height, seed) => {
				const given = picture(width, height, seed);
				const { data, info } = await sharp(encodePng(write, given)).raw().toBuffer({ resolveWithObject: true });
				return (
					info.width === width &&
					info.height === height &&
					info.channels === 4 &&
					Buffer.compare(data, Buffer.from(given.data)) === 0
				);
			},
		),
		{ numRuns: 40 },
	);
});

test('a PNG that is made smaller has the same texels, also where there is no alpha', async () => {
	const press = await loadPngPress();
	const given = picture(60, 50, 3);
	for (let i = 0; i < 60 * 25; i++) given.data.set([i % 7, 9, 200, i % 3 ? 255 : 0], i * 4);
	const png = encodePng(write, given);
	const small = press(png);
	expect(small.length).toBeLessThan(png.length);
	const { data, info } = await sharp(small).ensureAlpha().raw().toBuffer({ resolveWithObject: true });
	expect([info.width, info.height]).toEqual([60, 50]);
	expect(Buffer.compare(data, Buffer.from(given.data))).toBe(0);
	expect(Buffer.from(small).includes('sRGB')).toBe(true);
});

test('the same picture gives the same bytes', () => {
	expect(Buffer.compare(encodePng(write, picture(70, 40, 1)), encodePng(write, picture(70, 40, 1)))).toBe(0);
});

test('CRC-32 has its known value, for every length around a step', () => {
	expect(crc32(new TextEncoder().encode('123456789'))).toBe(0xcbf43926);
	if (typeof zlibCrc === 'function')
		for (let n = 0; n < 40; n++)
			expect(crc32(picture(5, 5, 2).data.subarray(0, n))).toBe(zlibCrc(picture(5, 5, 2).data.subarray(0, n)));
});

describe('shrinking', () => {
	test('keeps one colour whatever the alpha beside it', () => {
		const data = Uint8Array.from(
			{ length: 8 * 8 * 4 },
			(_, i) =>
				(i % 4 === 3
					? Math.floor(i / 4) % 2
						? 0
						: 200
					: Math.floor(i / 4) % 2
						? 255
						: [40, 90, 160][i % 4]) as number,
		);
		const small = shrink({ width: 8, height: 8, data }, 4, 4);
		for (let i = 0; i < 16; i++) expect([...small.data.subarray(i * 4, i * 4 + 4)]).toEqual([40, 90, 160, 100]);
	});
	test('averages in linear light: black and white make 188', () => {
		const data = Uint8Array.from({ length: 16 }, (_, i) => (i % 4 === 3 ? 255 : (Math.floor(i / 4) % 2) * 255));
		expect([...shrink({ width: 2, height: 2, data }, 1, 1).data]).toEqual([188, 188, 188, 255]);
	});
	test('its own size is the picture itself, a larger one is refused', () => {
		const given = picture(8, 8, 1);
		expect(shrink(given, 8, 8)).toBe(given);
		expect(() => shrink(given, 16, 16)).toThrow(/cannot be handed off at 16 by 16/);
	});
});

describe('packs', () => {
	const surface = fc.constantFrom('s-1', 's_2');
	const tile: fc.Arbitrary<PackedTile> = fc.oneof(
		fc.record({
			surface,
			index: fc.nat(5000),
			count: fc.integer({ min: 1, max: 60 }),
			value: fc.nat(2 ** 32 - 1),
			hash: fc.constant(null),
			blob: fc.constant(null),
		}),
		fc.record({
			surface,
			index: fc.nat(5000),
			count: fc.constant(1),
			value: fc.constant(null),
			hash: fc.constant('ab'.repeat(32)),
			blob: fc.uint8Array({ minLength: 1, maxLength: 50 }),
			bare: fc.constantFrom(true, undefined),
		}),
	);
	const pack = fc.record({
		head: fc.record({ project: fc.string() }),
		tiles: fc.array(tile, { maxLength: 90 }),
		files: fc.uint8Array({ maxLength: 90 }),
	});
	/** What each tile is in the end: runs spread out, later ones over earlier. */
	const laid = (tiles: readonly PackedTile[]): Map<string, string> => {
		const out = new Map<string, string>();
		for (const { surface: id, index, count, value, hash, blob, bare } of tiles)
			for (let i = index; i < index + count; i++)
				out.set(`${id} ${i}`, blob ? `${hash} ${bare ?? false} ${[...blob]}` : String(value));
		return out;
	};
	test('come back as they were written, at once or in pieces of any size', () => {
		fc.assert(
			fc.property(pack, fc.integer({ min: 1, max: 300 }), (given, step) => {
				const whole = writePack(given);
				const back = readPack(whole);
				expect(back.head).toEqual(given.head);
				expect(laid(back.tiles)).toEqual(laid(given.tiles));
				expect([...back.files]).toEqual([...given.files]);
				const reader = createPackReader();
				const tiles: PackedTile[] = [];
				for (let at = 0; at < whole.length; at += step)
					for (const part of reader.push(whole.slice(at, at + step)))
						if (part.part === 'tiles') tiles.push(...part.tiles);
				reader.end();
				expect(tiles).toEqual(back.tiles);
			}),
		);
	});
	test('21 new masks on an 8192² sheet, nothing painted, are a few hundred bytes', () => {
		const tiles = Array.from({ length: 21 }, (_, mask) =>
			Array.from({ length: 128 * 128 }, (_, index) => ({
				surface: `mask-${mask}`,
				index,
				count: 1,
				value: 255,
				hash: null,
				blob: null,
			})),
		).flat();
		const whole = writePack({ head: {}, tiles });
		expect(whole.length).toBeLessThan(1000);
		const back = laid(readPack(whole).tiles);
		expect([back.size, [...back.values()].every((value) => value === '255')]).toEqual([tiles.length, true]);
	});
	test('what would be refused when it is read is refused when it is written', () => {
		expect(() => writePack({ head: { text: 'x'.repeat(MOST_CHUNK) } })).toThrow(PackError);
	});
	test('texels deflated by the host come back', () => {
		fc.assert(
			fc.property(
				fc.uint8Array({ minLength: 1, maxLength: 400 }),
				(raw) => Buffer.compare(inflateTexels(deflateRawSync(raw)), raw) === 0,
			),
		);
		// A whole tile; more than one is seen to be more; a part of one is refused.
		for (const format of ['mask', 'deep', 'color'] as const) {
			const raw = Uint8Array.from({ length: tileBytes(format) }, (_, i) => (i * i) >> 5);
			expect(Buffer.compare(inflateTexels(deflateRawSync(raw)), raw)).toBe(0);
		}
		const long = deflateRawSync(new Uint8Array(tileBytes('color') * 9).fill(7));
		expect(inflateTexels(long).length).toBeGreaterThan(tileBytes('color'));
		const whole = deflateRawSync(Uint8Array.from({ length: 999 }, (_, i) => (i * 37) >> 3));
		expect(() => inflateTexels(whole.subarray(0, 40))).toThrow();
	});
	test('cut short, lengthened or altered are refused, never thrown otherwise', async () => {
		const costs = watchCosts('bytes of a pack');
		await fc.assert(
			fc.asyncProperty(pack, fc.nat(400), fc.nat(255), async (given, at, value) => {
				const whole = writePack(given);
				for (const bytes of [whole.slice(0, at % whole.length), Uint8Array.from([...whole, 1])])
					expect(() => readPack(bytes)).toThrow(PackError);
				whole[at % whole.length] = value;
				try {
					await costs.of(() => readPack(whole));
				} catch (error) {
					return error instanceof PackError;
				}
				return true;
			}),
			{ numRuns: process.env.LONG ? 20_000 : 100 },
		);
		costs.judge();
	});
});

describe('picture files', () => {
	test('tell their type and size before anything decodes them', async () => {
		const made = sharp({ create: { width: 321, height: 123, channels: 3, background: '#445566' } });
		for (const [type, bytes] of [
			['image/png', await made.png().toBuffer()],
			['image/jpeg', await made.jpeg().toBuffer()],
			['image/webp', await made.webp().toBuffer()],
			['image/webp', await made.webp({ lossless: true }).toBuffer()],
		] as const)
			expect(readPictureFile(bytes, 'a')).toEqual({ ok: true, file: { type, width: 321, height: 123 } });
	});
	test('that do not fit are told by name, and no bytes make the reader throw', () => {
		expect(readPictureFile(new Uint8Array(0), 'none.png')).toMatchObject({
			ok: false,
			text: expect.stringContaining('none.png is empty'),
		});
		fc.assert(
			fc.property(
				fc.uint8Array({ maxLength: 80 }),
				fc.constantFrom([], [137, 80, 78, 71], [255, 216, 255, 192], [82, 73, 70, 70]),
				(rest, start) => {
					const result = readPictureFile(Uint8Array.from([...start, ...rest]), 'odd.bin');
					return result.ok || result.text.includes('odd.bin');
				},
			),
		);
	});
});

test('file names follow the pattern and hold nothing that a file system refuses', () => {
	const sheet: Sheet = {
		id: 's',
		name: 'Lid / "inner"',
		width: 64,
		height: 64,
		bleed: 4,
		base: null,
		guide: null,
		layers: [paintLayer('l', 'L')],
	};
	expect(fileName('{project}-{sheet}_{size}', 'Möss: barrow?', sheet, 32)).toBe('möss-barrow-lid-inner_32.png');
	expect(fileName('{sheet}', 'x', { ...sheet, name: '///' }, 32)).toBe('sheet.png');
});

test('an animated PNG holds its pictures as they were, in their order, and says how long each is seen', async () => {
	const frames = [1, 2, 3].map((seed) => picture(20, 12, seed));
	const animated = animatedPng(
		frames.map((each) => write(each.data, each.width, each.height)),
		70,
	);
	// What knows nothing of animation sees the first.
	expect((await sharp(animated).raw().toBuffer()).equals(Buffer.from(frames[0]?.data ?? []))).toBe(true);
	const chunks = pngChunks(animated);
	expect(chunks[0]?.type).toBe('IHDR');
	expect(chunks.at(-1)?.type).toBe('IEND');
	const view = (data: Uint8Array): DataView => new DataView(data.buffer, data.byteOffset, data.byteLength);
	const control = chunks.find(({ type }) => type === 'acTL')?.data as Uint8Array;
	expect([view(control).getUint32(0), view(control).getUint32(4)]).toEqual([3, 0]);
	const sequence = chunks
		.filter(({ type }) => type === 'fcTL' || type === 'fdAT')
		.map(({ data }) => view(data).getUint32(0));
	expect(sequence).toEqual(sequence.map((_, i) => i));
	// Each picture made a PNG of its own again.
	let at = -1;
	const parts: Uint8Array[][] = [];
	for (const { type, data } of chunks) {
		if (type === 'fcTL') {
			at++;
			parts.push([]);
			expect([
				view(data).getUint32(4),
				view(data).getUint32(8),
				view(data).getUint16(20),
				view(data).getUint16(22),
			]).toEqual([20, 12, 70, 1000]);
		} else if (type === 'IDAT') parts[at]?.push(data);
		else if (type === 'fdAT') parts[at]?.push(data.subarray(4));
	}
	expect(parts).toHaveLength(3);
	for (const [i, list] of parts.entries()) {
		const png = Buffer.concat([
			animated.subarray(0, 8),
			pngChunk('IHDR', chunks[0]?.data as Uint8Array),
			...list.map((data) => pngChunk('IDAT', data)),
			pngChunk('IEND', new Uint8Array()),
		]);
		expect((await sharp(png).raw().toBuffer()).equals(Buffer.from(frames[i]?.data ?? []))).toBe(true);
	}
	expect(() => animatedPng([], 70)).toThrow(/one picture/);
});

test('a ZIP holds files as they are', () => {
	const files = [
		['a.png', Uint8Array.of(1, 2, 3)],
		['b.png', new Uint8Array(1000).fill(7)],
	] as const;
	const found = unzipSync(zipOf(files));
	expect(Object.entries(found).map(([name, bytes]) => [name, [...bytes]])).toEqual(
		files.map(([name, bytes]) => [name, [...bytes]]),
	);
});
