/** What members of the pool can do is to the byte what whoever asks does. */
import { deflateRawSync } from 'node:zlib';
import type { Kernels, PngReader } from '@eppu/kernels';
import { loadKernels, loadPngReader, loadPngWriter, loadWebpWriter } from '@eppu/kernels/node';
import { openPool } from '@eppu/server/jobs';
import { beforeAll, describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { unzipSync, zipSync } from 'fflate';
import sharp from 'sharp';
import { crafts } from '../src/crafts/index.ts';
import { assetsOf } from '../src/document/index.ts';
import type { Engine } from '../src/engine/index.ts';
import { bakeNumbers, coverOf, coverWork, encodePng, pictureAsPng, planned } from '../src/format/index.ts';
import { pngChunks } from '../src/format/png.ts';
import { planProjectZip, textureFiles, textureWork, usualOrder, writeTexture } from '../src/handoff/index.ts';
import {
	type Codecs,
	createWorker,
	joinedBytes,
	partsOfBytes,
	type ReadPngWork,
	thumbnailsIn,
	type Work,
} from '../src/jobs/index.ts';
import { readModel, writeGlb } from '../src/mesh/index.ts';
import {
	type OraImage,
	type Pictures,
	picturesIn,
	planOpenRaster,
	readOpenRaster,
	writeOpenRaster,
} from '../src/openraster/index.ts';
import { homeCamera } from '../src/projection/index.ts';
import { texelAt } from '../src/surface/index.ts';
import { everything, mesh, openOn, paint } from './oracle/derived.ts';

const codecs: Codecs = { png: loadPngWriter, readPng: loadPngReader, webp: loadWebpWriter };
let kernels: Kernels;
beforeAll(async () => {
	kernels = await loadKernels();
});
const made = async <Made>(work: Work<Made>): Promise<Made> =>
	(await createWorker(kernels, crafts, codecs).work(structuredClone(work))).made;

function painted(): Engine {
	const engine = openOn(kernels, everything());
	paint(engine, 'a', 'color', 3);
	paint(engine, 'b', 'color', 4);
	engine.refresh(() => false);
	return engine;
}

describe('each craft', () => {
	test('covers: the same file, and none while something is looked at alone', async () => {
		const engine = painted();
		const write = await loadPngWriter();
		const work = coverWork(engine, homeCamera, 48, 32);
		if (!work) throw new Error('There is no cover.');
		const wanted = encodePng(write, coverOf(engine, homeCamera, 48, 32));
		expect(Buffer.from(await made(work)).equals(Buffer.from(wanted))).toBe(true);
		// The model is whole in view, from all around: none of it is at the border.
		for (let yaw = 0; yaw < 360; yaw += 30) {
			const { data, width, height } = coverOf(engine, { ...homeCamera, yaw, pitch: yaw / 6 - 30 }, 48, 32);
			const seen = Array.from({ length: width * height }, (_, i) => i).filter((i) => (data[i * 4 + 3] as number) > 0);
			expect(seen.length).toBeGreaterThan(100);
			for (const i of seen) {
				expect(i % width).toBeGreaterThan(0);
				expect(i % width).toBeLessThan(width - 1);
				expect(Math.floor(i / width)).toBeGreaterThan(0);
				expect(Math.floor(i / width)).toBeLessThan(height - 1);
			}
		}
		engine.look('s', { layer: 'a', on: 'layer' });
		expect(coverWork(engine, homeCamera, 48, 32)).toBeNull();
		engine.close();
	});
	test('textures: the same file, and why there is none', async () => {
		const engine = painted();
		const writers = { png: await loadPngWriter(), webp: await loadWebpWriter() };
		for (const change of [{}, { channels: 'rgb', sizes: [40] }, { file: 'webp', bleed: 4 }] as const) {
			const order = { ...usualOrder, ...change };
			const [file] = textureFiles(engine.project, ['s'], order);
			if (!file) throw new Error('There is no file.');
			const here = writeTexture(engine, file, order, writers);
			const there = await made(textureWork(engine, file, order));
			expect('bytes' in there && Buffer.from(there.bytes).equals(Buffer.from(here))).toBe(true);
		}
		const order = { ...usualOrder, channels: 'indexed' } as const;
		const [file] = textureFiles(engine.project, ['s'], order);
		if (!file) throw new Error('There is no file.');
		expect(await made(textureWork(engine, file, order))).toEqual({ problem: expect.stringMatching(/256/) });
		engine.close();
	});
	test('pictures of one and of four channels as PNG', async () => {
		const [write, read] = [await loadPngWriter(), await loadPngReader()];
		for (const channels of [1, 4]) {
			const data = Uint8Array.from({ length: 6 * 5 * channels }, (_, i) => (i * 37) % 251);
			const picture = { width: 6, height: 5, data };
			const png = await made({ job: 'picture', picture } as Work<Uint8Array>);
			expect([...png]).toEqual([...pictureAsPng(write, picture)]);
			const back = read(png);
			expect([...back.data].filter((_, i) => channels === 4 || i % 4 === 0)).toEqual([...data]);
		}
	});
	test('pictures as WebP, and numbers of 16 and of 8 bits with no word on colours', async () => {
		const data = Uint8Array.from({ length: 16 * 16 * 4 }, (_, i) => (i % 4 === 3 ? 255 : (i * 5) % 200));
		const picture = { width: 16, height: 16, data };
		const webp = await made({ job: 'picture', picture, webp: 80 } as Work<Uint8Array>);
		expect([...webp]).toEqual([...(await loadWebpWriter())(data, 16, 16, 80)]);
		const deep = { width: 16, height: 16, data: Uint16Array.from(data, (v) => Math.min(65535, v * 257 + (v % 3))) };
		for (const depth of [8, 16] as const) {
			const png = await made({ job: 'picture', picture: bakeNumbers(deep, depth) } as Work<Uint8Array>);
			const file = depth === 8 ? sharp(png).raw() : sharp(png).toColourspace('rgb16').raw({ depth: 'ushort' });
			const { buffer, byteOffset, length } = await file.toBuffer();
			const numbers =
				depth === 8 ? new Uint8Array(buffer, byteOffset, length) : new Uint16Array(buffer, byteOffset, length / 2);
			expect(numbers.length).toBe(16 * 16 * 4);
			numbers.forEach((v, i) => {
				const wanted = deep.data[i] as number;
				expect(v).toBe(depth === 8 ? Math.round(wanted / 257) : wanted);
			});
			expect(pngChunks(png).map(({ type }) => type)).not.toContain('sRGB');
		}
	});
	test('thumbnails, and models', async () => {
		const engine = painted();
		const surfaces = ['a', 'b'].flatMap((id) => engine.surface(id) ?? engine.surface(`${id}-s`) ?? []);
		const work = { job: 'thumbnails', surfaces, side: 9 } as const;
		const pictures = thumbnailsIn(kernels.heap, work);
		expect(await made<Uint8ClampedArray[]>(work)).toEqual(pictures);
		surfaces.forEach((surface, i) => {
			for (const [x, y] of [
				[0, 0],
				[4, 4],
				[8, 2],
			] as const) {
				const at = (side: number, of: number) => Math.floor(((of + 0.5) * side) / 9);
				const want = [...texelAt(kernels.heap, surface, at(surface.width, x), at(surface.height, y))];
				if (surface.format !== 'color') want[3] = 255;
				expect([...(pictures[i] as Uint8ClampedArray).slice((y * 9 + x) * 4, (y * 9 + x) * 4 + 4)]).toEqual(want);
			}
		});
		engine.close();
		const bytes = await writeGlb(mesh);
		const read = (name: string) => made({ job: 'read-mesh', bytes, name } as Work<unknown>);
		expect(await read('box.glb')).toEqual(await readModel(bytes, 'box.glb'));
		expect(await read('box.obj')).toEqual(await readModel(bytes, 'box.obj'));
	});
	test('pictures of a file of layers, read beforehand: the same image, and the same words on what is damaged', async () => {
		const engine = painted();
		const [write, read] = [await loadPngWriter(), await loadPngReader()];
		const { bytes } = writeOpenRaster(engine, 's', write);
		engine.close();
		const zipped = unzipSync(bytes);
		const [first = ''] = Object.keys(zipped).filter((path) => path.startsWith('data/'));
		const broken = zipSync({ ...zipped, [first]: (zipped[first] as Uint8Array).slice(0, -20).fill(0, 40) });
		for (const file of [bytes, broken]) {
			const known: Pictures = new Map();
			for (const [name, png] of picturesIn(file, 'x.ora', true)) {
				const picture = await made({ job: 'read-png', bytes: png } as ReadPngWork);
				if (picture) known.set(name, picture);
			}
			expect(known.size).toBeGreaterThan(2);
			const told = ({ merged, ...image }: OraImage) => ({ ...image, merged: merged() });
			const refused: PngReader = () => {
				throw new Error('It was read beforehand.');
			};
			const wanted = told(readOpenRaster(file, 'x.ora', read));
			expect(told(readOpenRaster(file, 'x.ora', refused, known))).toEqual(wanted);
			expect(wanted.notes.length > 0).toBe(file === broken);
		}
	});
	test('tiles of any bytes come back from their deflated ones; bad ones are told, not made up', async () => {
		await fc.assert(
			fc.asyncProperty(fc.array(fc.uint8Array({ maxLength: 300 }), { maxLength: 6 }), async (tiles) => {
				const work = { job: 'inflate', ...joinedBytes(tiles.map((tile) => deflateRawSync(tile))) } as const;
				const back = partsOfBytes(await made(work as Work<ReturnType<typeof joinedBytes>>));
				expect(back.map((each) => [...each])).toEqual(tiles.map((each) => [...each]));
			}),
			{ numRuns: 30 },
		);
		await expect(made({ job: 'inflate', ...joinedBytes([Uint8Array.of(7, 7, 7)]) } as Work<unknown>)).rejects.toThrow();
		await expect(made({ job: 'none' })).rejects.toThrow(RangeError);
	});
});

test('files whose pictures threads write are the same as written at once, of the moment when they were planned', async () => {
	const engine = painted();
	const write = await loadPngWriter();
	const { project, tiles } = engine.whole();
	const files = new Map(assetsOf(project).map(({ hash }) => [hash, Uint8Array.of(1, 2, 3)]));
	const whole = planProjectZip({ project, desk: null, tiles, files, pictures: new Map() });
	const layers = planOpenRaster(engine, 's');
	const wanted = [planned(write, whole), writeOpenRaster(engine, 's', write).bytes];
	const pool = await openPool(kernels, 2);
	const pngs: Promise<Uint8Array>[][] = [[], []];
	const finish = [whole, layers].map((plan, n) =>
		plan((picture) => {
			const work = { job: 'picture', picture } as Work<Uint8Array>;
			return (pngs[n] as Promise<Uint8Array>[]).push(pool.do(work).then((png) => png ?? new Uint8Array())) - 1;
		}),
	);
	// What is painted now is not in them.
	paint(engine, 'a', 'color', 9);
	for (const [n, end] of finish.entries()) {
		const file = end(await Promise.all(pngs[n] as Promise<Uint8Array>[]));
		const bytes = file instanceof Uint8Array ? file : file.bytes;
		expect(Buffer.from(bytes).equals(Buffer.from(wanted[n] as Uint8Array))).toBe(true);
	}
	pool.end();
	engine.close();
}, 60_000);
