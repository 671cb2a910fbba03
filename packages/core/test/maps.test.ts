/** Maps that were baked elsewhere, as files kept with a project. */
import { deflateSync } from 'node:zlib';
import type { DeepPngReader, Kernels, PngWriter } from '@eppu/kernels';
import { loadKernels, loadPngReader, loadPngWriter } from '@eppu/kernels/node';
import { beforeAll, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { createMeshBuilder } from '../../../demo/mesh/shapes.ts';
import { bakeFilesOf } from '../src/document/index.ts';
import { type Engine, openEngine } from '../src/engine/index.ts';
import { mapWords, plainPng, readMapFile } from '../src/format/index.ts';
import type { MapBake } from '../src/light/index.ts';
import { type MapPicture, mapBits, mapReader, pictureOfSurface, type Surface } from '../src/surface/index.ts';
import { projectOf } from './oracle/meshes.ts';

let kernels: Kernels;
let read: DeepPngReader;
let write: PngWriter;
beforeAll(async () => {
	[kernels, read, write] = await Promise.all([loadKernels(), loadPngReader(), loadPngWriter()]);
});

const SIDE = 64;
const hash = 'd'.repeat(64);
const file = { hash, name: 'wear_16.png' };
const bakeOf = (more: Partial<MapBake> = {}): MapBake => ({
	id: 'b',
	name: 'Wear',
	bake: 'map',
	picture: 'none',
	channel: 'tone',
	bytes: 'plain',
	turned: false,
	file,
	...more,
});
const floor = () => {
	const builder = createMeshBuilder();
	builder.part('floor');
	builder.grid(2, 2, (u, v) => [u, 0, v], { x: 0, y: 0, w: 1, h: 1 });
	return { ...builder.mesh(), normals: null };
};
function open(map: MapPicture | null): Engine {
	const mesh = floor();
	const engine = openEngine(kernels, projectOf(mesh, SIDE), [], new Map([['m', mesh]]));
	// Pictures outlast a project.
	engine.pictures.maps.delete(hash);
	if (map) engine.pictures.maps.set(hash, map);
	return engine;
}
function tones(engine: Engine, bake: MapBake): Uint16Array {
	engine.run({ do: 'bakes.set', model: 'm', bakes: [bake] });
	engine.refresh(() => false);
	const { data } = pictureOfSurface(kernels, engine.surface('b~s') as Surface);
	return new Uint16Array(data.buffer, data.byteOffset, data.length / 2);
}
/** Greys or colours of 16 bits as PNG, by a writer of our own test's: filter none, zlib by Node. */
function png16(width: number, height: number, channels: 1 | 3, values: Uint16Array): Uint8Array {
	const raw = Buffer.alloc(height * (1 + width * channels * 2));
	for (let y = 0, i = 0; y < height; y++)
		for (let x = 0; x < width * channels; x++)
			raw.writeUInt16BE(values[i++] as number, y * (1 + width * channels * 2) + 1 + x * 2);
	const chunk = (type: string, body: Buffer): Buffer => {
		const out = Buffer.alloc(12 + body.length);
		out.writeUInt32BE(body.length);
		out.write(type, 4, 'latin1');
		body.copy(out, 8);
		out.writeUInt32BE(crcOf(out.subarray(4, 8 + body.length)), 8 + body.length);
		return out;
	};
	const head = Buffer.alloc(13);
	head.writeUInt32BE(width);
	head.writeUInt32BE(height, 4);
	head.set([16, channels === 1 ? 0 : 2], 8);
	const sign = Buffer.from([137, 80, 78, 71, 13, 10, 26, 10]);
	return new Uint8Array(
		Buffer.concat([sign, chunk('IHDR', head), chunk('IDAT', deflateSync(raw)), chunk('IEND', Buffer.alloc(0))]),
	);
}
function crcOf(bytes: Uint8Array): number {
	let crc = ~0;
	for (const byte of bytes) {
		crc ^= byte;
		for (let k = 0; k < 8; k++) crc = (crc >>> 1) ^ (crc & 1 ? 0xedb88320 : 0);
	}
	return ~crc >>> 0;
}
const mapOf = (bytes: Uint8Array, name = file.name): MapPicture => {
	const found = readMapFile(bytes, name, read);
	if (!found.ok) throw new Error(found.text);
	return found.map;
};

test('a file of 16 bits gives every one of its numbers, of one channel or of three', () => {
	const grey = Uint16Array.from({ length: SIDE * SIDE }, (_, i) => (i * 7919) % 65536);
	const map = mapOf(png16(SIDE, SIDE, 1, grey));
	expect([map.channels, mapBits(map)]).toEqual([1, 16]);
	expect(map.data).toEqual(grey);
	const engine = open(map);
	expect(tones(engine, bakeOf())).toEqual(grey);
	expect(tones(engine, bakeOf({ turned: true }))).toEqual(grey.map((v) => 65535 - v));
	const colors = Uint16Array.from({ length: SIDE * SIDE * 3 }, (_, i) => (i * 104729) % 65536);
	engine.pictures.maps.set(hash, mapOf(png16(SIDE, SIDE, 3, colors)));
	engine.renew();
	const green = tones(engine, bakeOf({ channel: 'green' }));
	expect(green).toEqual(Uint16Array.from({ length: SIDE * SIDE }, (_, i) => colors[i * 3 + 1] as number));
	engine.close();
});

test('8 bits stay 8, greys stay greys; a palette and a key colour are read as they look', () => {
	const grey = Uint8Array.from({ length: 12 }, (_, i) => i * 20);
	const plain = mapOf(plainPng('gray', 4, 3, grey));
	expect([plain.channels, mapBits(plain), [...plain.data]]).toEqual([1, 8, [...grey]]);
	const colors = Uint8Array.from([200, 10, 30, 255, 5, 6, 7, 128]);
	const indexed = mapOf(plainPng('indexed', 2, 1, Uint8Array.of(1, 0), colors));
	expect([indexed.channels, [...indexed.data]]).toEqual([4, [5, 6, 7, 128, 200, 10, 30, 255]]);
	expect(mapWords(plainPng('gray', 4, 3, grey))).toBe('4 × 3, grey, 8 bits');
	expect(mapWords(png16(2, 2, 3, new Uint16Array(12)))).toBe('2 × 2, colours, 16 bits');
});

/** The mean of a map over a cell, by 32 x 32 looks at what stands under each. */
function meanOf({ width, height, channels, data }: MapPicture, u: number, v: number, wide: number, high: number) {
	let sum = 0;
	for (let j = 0; j < 32; j++)
		for (let i = 0; i < 32; i++) {
			const x = Math.floor((u + wide * ((i + 0.5) / 32 - 0.5)) * width);
			const y = Math.floor((v + high * ((j + 0.5) / 32 - 0.5)) * height);
			const at = Math.min(height - 1, Math.max(0, y)) * width + Math.min(width - 1, Math.max(0, x));
			sum += data[at * channels] as number;
		}
	return sum / 1024;
}

test('a larger map is read by area, a smaller one runs smoothly from texel to texel', () => {
	fc.assert(
		fc.property(
			fc.integer({ min: 1, max: 40 }),
			fc.integer({ min: 1, max: 40 }),
			fc.double({ min: 0, max: 1, noNaN: true }),
			fc.double({ min: 0, max: 1, noNaN: true }),
			fc.double({ min: 1.01, max: 9, noNaN: true }),
			fc.integer({ min: 1, max: 1e6 }),
			(width, height, u, v, cell, seed) => {
				const data = Uint8Array.from({ length: width * height }, (_, i) => ((i + 1) * seed) % 251);
				const map: MapPicture = { width, height, channels: 1, data };
				const [wide, high] = [cell / width, cell / height];
				const mean = mapReader(map)(u, v, wide, high)[0] * 255;
				// What 32 looks a side miss at the rim of a cell.
				expect(Math.abs(mean - meanOf(map, u, v, wide, high))).toBeLessThan(255 / 14);
			},
		),
		{ numRuns: 300 },
	);
	const ramp: MapPicture = {
		width: 16,
		height: 1,
		channels: 1,
		data: Uint8Array.from({ length: 16 }, (_, i) => i * 16),
	};
	const at = mapReader(ramp);
	for (let u = 1 / 32; u <= 31 / 32; u += 0.01)
		expect(at(u, 0.5, 0.01, 0.01)[0] * 255).toBeCloseTo((u * 16 - 0.5) * 16, 6);
	const exact: MapPicture = { width: 128, height: 128, channels: 1, data: new Uint16Array(128 * 128).map((_, i) => i) };
	const engine = open(exact);
	const out = tones(engine, bakeOf());
	for (const [x, y] of [
		[0, 0],
		[13, 40],
		[63, 63],
	] as const) {
		const four = [0, 1, 128, 129].map((step) => exact.data[y * 2 * 128 + x * 2 + step] as number);
		expect(Math.abs((out[y * SIDE + x] as number) - four.reduce((a, b) => a + b) / 4)).toBeLessThanOrEqual(0.5);
	}
	engine.close();
});

test('a bake names its file; one that is not at hand is refused, and is empty where it is lost', () => {
	const engine = open(null);
	expect(() => engine.run({ do: 'bakes.set', model: 'm', bakes: [bakeOf()] })).toThrow('wear_16.png is not at hand');
	expect(engine.project.models[0]?.bakes ?? []).toEqual([]);
	engine.close();
	const mesh = floor();
	const project = projectOf(mesh, SIDE);
	const kept = { ...project, models: project.models.map((model) => ({ ...model, bakes: [bakeOf()] })) };
	expect(bakeFilesOf(kept)).toEqual([file]);
	engine.pictures.maps.delete(hash);
	const lost = openEngine(kernels, kept, [], new Map([['m', mesh]]));
	lost.refresh(() => false);
	const empty = pictureOfSurface(kernels, lost.surface('b~s') as Surface).data;
	expect(Math.max(...empty)).toBe(0);
	// It comes later: what was empty is computed.
	lost.pictures.maps.set(hash, { width: 1, height: 1, channels: 1, data: Uint16Array.of(30000) });
	lost.renew();
	lost.refresh(() => false);
	const { data } = pictureOfSurface(kernels, lost.surface('b~s') as Surface);
	expect(new Uint16Array(data.buffer, data.byteOffset, 4)).toEqual(Uint16Array.of(30000, 30000, 30000, 30000));
	lost.close();
});

test('what is no map is told: other kinds, claims of too much, damage', () => {
	const textOf = (bytes: Uint8Array, name = 'a.png'): string => {
		const found = readMapFile(bytes, name, read);
		return found.ok ? '' : found.text;
	};
	expect(textOf(new Uint8Array(0))).toContain('empty');
	expect(textOf(Uint8Array.of(0xff, 0xd8, 0xff, 0xc0, 0, 17, 8, 0, 4, 0, 4, 3, 0, 0, 0, 0), 'a.jpg')).toContain(
		'is no PNG',
	);
	const good = png16(4, 4, 1, new Uint16Array(16));
	expect(textOf(good.subarray(0, good.length - 20))).toContain('damaged');
	const claims = good.slice();
	new DataView(claims.buffer).setUint32(16, 16000);
	new DataView(claims.buffer).setUint32(20, 16000);
	expect(textOf(claims)).toContain('more than 256 MB');
	// Damage of any kind is answered, and nothing is thrown.
	fc.assert(
		fc.property(fc.nat(good.length - 1), fc.nat(255), (at, byte) => {
			const bad = good.slice();
			bad[at] = byte;
			const found = readMapFile(bad, 'a.png', read);
			expect(found.ok ? found.map.data.length : found.text.length).toBeGreaterThan(0);
		}),
		{ numRuns: 400 },
	);
	// 16 bits that were written by the product's own writer come back.
	const own = write(
		new Uint8Array(2 * 2 * 8).map((_, i) => i * 9),
		2,
		2,
		16,
	);
	expect(mapBits(mapOf(new Uint8Array(own)))).toBe(16);
});
