import { createRequire } from 'node:module';
import type { Kernels } from '@eppu/kernels';
import { loadKernels, loadPngReader, loadPngWriter, loadWebpWriter } from '@eppu/kernels/node';
import { beforeAll, describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import sharp from 'sharp';
import { smokerMesh } from '../../../demo/mesh/smoker.ts';
import { apiaryPalette } from '../src/color/index.ts';
import { groupLayer, type Layer, type Project, paintLayer, washLayer } from '../src/document/index.ts';
import { type Engine, openEngine } from '../src/engine/index.ts';
import { resized } from '../src/format/index.ts';
import {
	fileKindOf,
	freeNames,
	modelKinds,
	nameBy,
	OrderError,
	orderProblem,
	type ReadSaving,
	readSaving,
	readyPicture,
	sourceKinds,
	spread,
	type TextureOrder,
	takeExchange,
	textureFiles,
	textureWriter,
	usualModelOrder,
	usualOrder,
	usualOrders,
	type Writers,
	writeExchange,
	writeModel,
	writeTexture,
} from '../src/handoff/index.ts';
import { type LaidMesh, readModel } from '../src/mesh/index.ts';
import type { Picture } from '../src/surface/index.ts';

let kernels: Kernels;
let writers: Writers;
let mesh: LaidMesh;
beforeAll(async () => {
	kernels = await loadKernels();
	writers = { png: await loadPngWriter(), webp: await loadWebpWriter() };
	mesh = smokerMesh();
});

const dabs: Picture = (() => {
	const picture = { width: 96, height: 64, data: new Uint8Array(96 * 64 * 4) };
	for (let y = 8; y < 40; y++)
		for (let x = 10; x < 60; x++) picture.data.set([x * 4, y * 6, 90, x < 20 ? 120 : 255], (y * 96 + x) * 4);
	return picture;
})();

/** A sheet with a base, a painted layer in a group, a masked wash; and a pixel sheet. */
function opened(): Engine {
	const layers: Layer[] = [
		washLayer('ground', 'Ground', '#8899aa'),
		groupLayer('set', 'Set', [paintLayer('dabs', 'Dabs: warm/cool')], { opacity: 0.5 }),
		washLayer('veil', 'Veil', '#204060', { mask: { surface: 'veil-m', on: true }, mode: 'multiply' }),
	];
	const project: Project = {
		schema: 1,
		id: 'p',
		name: 'Möss barrow',
		palette: apiaryPalette,
		models: [
			{
				id: 'm',
				name: 'Smoker Nr. 2',
				asset: { hash: 'a'.repeat(64), name: 'can.glb' },
				parts: mesh.parts.map(({ name }, i) => ({ name, sheet: name === 'Bellows' ? 't' : 's', shown: i !== 0 })),
			},
		],
		sheets: [
			{ id: 's', name: 'Can', width: 96, height: 64, bleed: 2, base: null, guide: null, layers },
			{
				id: 't',
				name: 'Tiles',
				width: 16,
				height: 16,
				bleed: 0,
				base: null,
				guide: null,
				pixel: true,
				layers: [paintLayer('px', 'Texels')],
			},
		],
	};
	const engine = openEngine(kernels, project, [], new Map([['m', mesh]]));
	engine.lay('s', 'dabs', 'color', dabs, 'Lay');
	engine.lay(
		's',
		'veil',
		'mask',
		{ width: 96, height: 64, data: Uint8Array.from({ length: 96 * 64 }, (_, i) => i % 256) },
		'Lay',
	);
	const texels = new Uint8Array(16 * 16 * 4);
	for (let i = 0; i < 128; i++) texels.set(i % 3 ? [0xe8, 0xb3, 0x45, 255] : [0x3b, 0x1a, 0x1e, 255], i * 4);
	engine.lay('t', 'px', 'color', { width: 16, height: 16, data: texels }, 'Lay');
	return engine;
}

const raw = async (bytes: Uint8Array): Promise<Buffer> => sharp(bytes).ensureAlpha().raw().toBuffer();
const order = (change: Partial<TextureOrder>): TextureOrder => ({ ...usualOrder, ...change });
const one = (engine: Engine, sheet: string, change: Partial<TextureOrder>): Uint8Array<ArrayBuffer> => {
	const wish = order(change);
	return writeTexture(engine, textureFiles(engine.project, [sheet], wish)[0] as never, wish, writers);
};

describe('picture files', () => {
	test('RGBA as PNG and lossless WebP are the composite, texel for texel, read by another program', async () => {
		const engine = opened();
		const whole = Buffer.from(engine.composite('s').data);
		for (const file of ['png', 'webp']) expect((await raw(one(engine, 's', { file }))).equals(whole)).toBe(true);
		const clear = Buffer.from(engine.composite('t').data);
		for (const file of ['png', 'webp']) expect((await raw(one(engine, 't', { file }))).equals(clear)).toBe(true);
		engine.close();
	});
	test('lossy WebP is near it, and smaller at less quality', async () => {
		const engine = opened();
		const [fine, rough] = [95, 30].map((quality) => one(engine, 's', { file: 'webp', quality })) as [
			Uint8Array,
			Uint8Array,
		];
		expect(rough.length).toBeLessThan(fine.length);
		const [a, b] = [await raw(fine), engine.composite('s').data];
		expect(a.reduce((sum, v, i) => sum + Math.abs(v - (b[i] as number)), 0) / a.length).toBeLessThan(6);
		engine.close();
	});
	test('without alpha the ground shows through as much as texels are clear', async () => {
		const engine = opened();
		const bytes = one(engine, 't', { channels: 'rgb', ground: '#ff0080' });
		const meta = await sharp(bytes).metadata();
		expect([meta.channels, meta.hasAlpha, meta.space]).toEqual([3, false, 'srgb']);
		const texels = await sharp(bytes).raw().toBuffer();
		expect([...texels.subarray(0, 3)]).toEqual([0x3b, 0x1a, 0x1e]);
		expect([...texels.subarray(-3)]).toEqual([255, 0, 128]);
		const half = readyPicture(
			{ width: 1, height: 1, data: Uint8Array.of(200, 100, 0, 128) },
			order({ channels: 'rgb', ground: '#000000' }),
			{ width: 1, height: 1 },
			false,
		);
		expect([...half.data]).toEqual([100, 50, 0, 255]);
		engine.close();
	});
	test('greys are one channel; premultiplied colours are at most their alpha', async () => {
		const engine = opened();
		expect((await sharp(one(engine, 's', { channels: 'gray' })).metadata()).channels).toBe(1);
		const data = await raw(one(engine, 's', { of: 'layer', premultiplied: true, pattern: '{layer}' }));
		for (let i = 0; i < data.length; i += 4)
			expect(Math.max(...data.subarray(i, i + 3))).toBeLessThanOrEqual(data[i + 3] as number);
		engine.close();
	});
	test('with a palette: its colours stand first and in order, clear is a place of its own, texels are the same', async () => {
		const engine = opened();
		const bytes = one(engine, 't', { channels: 'indexed' });
		expect((await raw(bytes)).equals(Buffer.from(engine.composite('t').data))).toBe(true);
		const at = Buffer.from(bytes).indexOf('PLTE') + 4;
		const first = [...bytes.subarray(at, at + 6)];
		expect(first).toEqual([0xf3, 0xe9, 0xd2, 0xe2, 0xcf, 0x9b]);
		expect(Buffer.from(bytes).indexOf('tRNS')).toBeGreaterThan(0);
		expect(() => one(engine, 's', { channels: 'indexed' })).toThrow(OrderError);
		expect(() => one(engine, 's', { channels: 'indexed' })).toThrow(/colours and alphas.*RGBA/);
		engine.close();
	});
	test('any texels go through a palette and come back', async () => {
		await fc.assert(
			fc.asyncProperty(
				fc.integer({ min: 1, max: 40 }),
				fc.integer({ min: 1, max: 30 }),
				fc.array(fc.integer({ min: 0, max: 0xffffffff }), { minLength: 1, maxLength: 200 }),
				async (width, height, colors) => {
					const data = new Uint8Array(
						Uint32Array.from({ length: width * height }, (_, i) => {
							const color = colors[(i * 7) % colors.length] as number;
							return color >>> 24 ? color : 0;
						}).buffer,
					);
					const bytes = fileKindOf('png').write(
						writers,
						{ width, height, data },
						{ channels: 'indexed', quality: null, smaller: false, palette: apiaryPalette.colors },
					);
					expect((await raw(bytes)).equals(Buffer.from(data))).toBe(true);
					const own = (await loadPngReader())(bytes);
					expect(Buffer.from(own.data).equals(Buffer.from(data))).toBe(true);
				},
			),
			{ numRuns: 60 },
		);
	});
});

describe('sizes', () => {
	test('pixel sheets keep whole texels, larger and smaller', async () => {
		const engine = opened();
		const { data } = await sharp(one(engine, 't', { sizes: [160] }))
			.raw()
			.toBuffer({ resolveWithObject: true });
		const small = engine.composite('t').data;
		for (let y = 0; y < 160; y++)
			for (let x = 0; x < 160; x++) {
				const [a, b] = [(y * 160 + x) * 4, (Math.floor(y / 10) * 16 + Math.floor(x / 10)) * 4];
				expect(data.readUInt32LE(a)).toBe(Buffer.from(small).readUInt32LE(b));
			}
		engine.close();
	});
	test('painted ones go through their texels smoothly: one colour stays, a slope stays a slope', () => {
		const flat = { width: 5, height: 3, data: new Uint8Array(60).map((_, i) => [200, 60, 20, 255][i % 4] as number) };
		expect([...new Uint32Array(resized(flat, 17, 11, 'area').data.buffer)].every((v) => v === 0xff143cc8)).toBe(true);
		const slope = {
			width: 8,
			height: 1,
			data: Uint8Array.from({ length: 32 }, (_, i) => (i % 4 === 3 ? 255 : 20 + 20 * Math.floor(i / 4))),
		};
		const wide = resized(slope, 64, 1, 'area').data.filter((_, i) => i % 4 === 0);
		for (let i = 1; i < wide.length; i++) expect(wide[i] as number).toBeGreaterThanOrEqual((wide[i - 1] as number) - 1);
		expect(resized(slope, 4, 3, 'area')).toMatchObject({ width: 4, height: 3 });
	});
	test('the longer side is as asked for, and sizes are named apart', () => {
		const engine = opened();
		const files = textureFiles(engine.project, ['s', 't'], order({ sizes: [0, 48, 1], pattern: '{sheet}_{size}' }));
		expect(files.map(({ path, width, height }) => [path, width, height])).toEqual([
			['can_96.png', 96, 64],
			['can_48.png', 48, 32],
			['can_1.png', 1, 1],
			['tiles_16.png', 16, 16],
			['tiles_48.png', 48, 48],
			['tiles_1.png', 1, 1],
		]);
		engine.close();
	});
});

test('colour goes on by so many texels, always that of the nearest', () => {
	fc.assert(
		fc.property(
			fc.integer({ min: 1, max: 24 }),
			fc.integer({ min: 1, max: 24 }),
			fc.array(fc.nat(575), { maxLength: 8 }),
			fc.oneof(fc.nat(9), fc.constant('all' as const)),
			(width, height, places, reach) => {
				const data = new Uint8Array(width * height * 4);
				const painted = [...new Set(places.map((place) => place % (width * height)))];
				painted.forEach((i, n) => data.set([n * 30 + 1, 200 - n * 20, n, 200], i * 4));
				const out = spread({ width, height, data }, reach, true).data;
				for (let i = 0; i < width * height; i++) {
					const near = (j: number): number =>
						Math.hypot((i % width) - (j % width), Math.floor(i / width) - Math.floor(j / width));
					const least = Math.min(...painted.map(near));
					const got = [...out.subarray(i * 4, i * 4 + 4)];
					if (least > (reach === 'all' ? Infinity : reach)) {
						expect(got).toEqual([0, 0, 0, 0]);
						continue;
					}
					if (least === Infinity) continue;
					// Where the mapping is a hair off, it is within half a texel of the nearest.
					const from = painted.find((j) => data[j * 4] === got[0] && data[j * 4 + 2] === got[2]);
					if (got[3] === 0) expect(reach === 'all' ? 0 : least).toBeGreaterThan(reach === 'all' ? 1 : reach - 0.5);
					else expect(near(from as number)).toBeLessThanOrEqual(least + 0.5);
				}
			},
		),
		{ numRuns: 200 },
	);
});

describe('what pictures are of', () => {
	test('layers laid over each other again are the sheet', () => {
		const engine = opened();
		const wish = order({ of: 'layer', pattern: '{sheet}/{layer}' });
		const files = textureFiles(engine.project, ['s'], wish);
		expect(files.map(({ path }) => path)).toEqual(['can/ground.png', 'can/dabs-warm-cool.png', 'can/veil.png']);
		expect(engine.layerPicture('s', 'dabs').data).toEqual(engine.layerPicture('s', 'set').data);
		// By hand: ground, half of the dabs, and the wash multiplied in by its mask.
		const [dab, veil, got] = [
			engine.layerPicture('s', 'dabs').data,
			engine.layerPicture('s', 'veil').data,
			engine.composite('s').data,
		];
		for (let i = 0; i < got.length; i += 4) {
			const [a, m] = [((dab[i + 3] as number) / 255) * 0.5, (veil[i + 3] as number) / 255];
			[0x88, 0x99, 0xaa].forEach((ground, k) => {
				const under = ground * (1 - a) + (dab[i + k] as number) * a;
				const tint = [0x20, 0x40, 0x60][k] as number;
				expect(Math.abs((got[i + k] as number) - (under * (1 - m) + ((under * tint) / 255) * m))).toBeLessThan(2);
			});
		}
		engine.close();
	});
	test('masks are grey, groups one picture; what is not there is said', () => {
		const engine = opened();
		const [mask] = textureFiles(engine.project, ['s'], order({ of: 'mask' }));
		expect(mask?.part).toBe('veil');
		expect(() => textureFiles(engine.project, ['t'], order({ of: 'group' }))).toThrow(/no groups/);
		expect(() => textureFiles(engine.project, ['s'], order({ of: 'bake' }))).toThrow(/no bakes/);
		for (const { kind } of sourceKinds) expect(orderProblem(order({ of: kind }))).toBeNull();
		engine.close();
	});
});

test('names: parts that are known, no two alike, nothing that leads elsewhere', () => {
	const values = { project: 'A / B', sheet: 'Lid', layer: '..', width: 64, height: 32 };
	expect(nameBy('{project}/{sheet}-{layer}-{width}x{height}', values)).toBe('a-b/lid-sheet-64x32');
	expect(freeNames(['a', 'A', 'a-2', 'a'])).toEqual(['a', 'A-2', 'a-2-2', 'a-3']);
	for (const pattern of ['', '{sheets}', '../x', 'a/../b', 'a\\b', '/x', 'x/', 'a:b'])
		expect(orderProblem(order({ pattern }))).toMatch(/\w/);
	for (const [, each] of usualOrders) expect(orderProblem(each)).toBeNull();
	for (const change of [
		{ sizes: [] },
		{ sizes: [8193] },
		{ sizes: [1.5] },
		{ bleed: -1 },
		{ quality: 50 },
		{ ground: 'red' },
		{ file: 'gif' },
		{ of: 'x' },
		{ file: 'webp', channels: 'gray' as const },
	])
		expect(orderProblem(order(change as Partial<TextureOrder>))).toMatch(/\w/);
});

describe('a layer or a mask out at another editor', () => {
	const side = (engine: Engine, of: 'layer' | 'mask', layer: string) => {
		const what = { of, sheet: 's', layer } as const;
		const sent = writeExchange(engine, what, writers.png);
		const newId = (): string => `n${count++}`;
		const take = async (saved: Uint8Array, agreed: Uint8Array = sent.bytes) => {
			const read = await loadPngReader();
			const [before, now] = [agreed, saved].map((bytes) => readSaving(what, bytes, sent.name, read, newId));
			return takeExchange(engine, what, before as ReadSaving, now as ReadSaving, sent.name, newId);
		};
		return { sent, take };
	};
	let count = 0;
	const painted = (width = 96, height = 64): Uint8Array =>
		fileKindOf('png').write(
			writers,
			{ width, height, data: new Uint8Array(width * height * 4).map((_, i) => [10, 20, 30, 255][i % 4] as number) },
			{ channels: 'rgba', quality: null, smaller: false, palette: [] },
		);
	test('comes back as one step, once, and not at all where nothing changed', async () => {
		const engine = opened();
		const { sent, take } = side(engine, 'layer', 'dabs');
		expect(sent.name).toBe('möss-barrow-can-dabs-warm-cool.png');
		expect((await take(sent.bytes)).changed).toBe(false);
		const steps = engine.history.done.length;
		expect(await take(painted())).toMatchObject({ changed: true, notes: [] });
		expect([engine.history.done.length, ...engine.layerPicture('s', 'dabs', true).data.subarray(0, 4)]).toEqual([
			steps + 1,
			10,
			20,
			30,
			255,
		]);
		expect((await take(painted())).changed).toBe(false);
		engine.close();
	});
	test('painted on both sides, both are here and it is said; a mask stays a mask', async () => {
		const engine = opened();
		const { take } = side(engine, 'layer', 'dabs');
		engine.lay('s', 'dabs', 'color', { ...dabs, data: dabs.data.map((v) => 255 - v) }, 'Lay');
		const { notes } = await take(painted());
		expect(notes.join()).toMatch(/painted on both sides/);
		const group = engine.project.sheets[0]?.layers[1] as Extract<Layer, { kind: 'group' }>;
		expect(group.layers.map(({ name }) => name)).toEqual(['Dabs: warm/cool', 'Dabs: warm/cool, from elsewhere']);
		expect([...engine.layerPicture('s', group.layers[1]?.id ?? '', true).data.subarray(0, 4)]).toEqual([
			10, 20, 30, 255,
		]);
		const mask = side(engine, 'mask', 'veil');
		expect((await sharp(mask.sent.bytes).metadata()).channels).toBe(1);
		expect((await mask.take(painted())).changed).toBe(true);
		expect(engine.maskPicture('s', 'veil')?.data[5]).toBe(20);
		engine.close();
	});
	test('what does not fit is answered, and nothing is changed', async () => {
		const engine = opened();
		const { take } = side(engine, 'layer', 'dabs');
		const before = engine.turn;
		await expect(take(painted(95))).rejects.toThrow(/95 by 64 now/);
		await expect(take(new Uint8Array(80))).rejects.toThrow(/damaged/);
		expect(() => writeExchange(engine, { of: 'layer', sheet: 's', layer: 'ground' }, writers.png)).toThrow(
			/not painted by hand/,
		);
		expect(() => writeExchange(engine, { of: 'mask', sheet: 's', layer: 'dabs' }, writers.png)).toThrow(/no mask/);
		expect(engine.turn).toBe(before);
		engine.close();
	});
});

interface Validation {
	readonly issues: { readonly numErrors: number; readonly numWarnings: number; readonly messages: readonly unknown[] };
}
const { validateBytes } = createRequire(import.meta.url)('gltf-validator') as {
	validateBytes(bytes: Uint8Array, options?: unknown): Promise<Validation>;
};

describe('models', () => {
	/** Faces as the places and UVs of their corners, rounded: whatever order vertices come in. */
	const corners = ({ positions, uvs, indices }: LaidMesh, scale = 1): string[] =>
		[...indices].map(
			(v) =>
				[...positions.subarray(v * 3, v * 3 + 3)].map((x) => Math.round((x / scale) * 1e4)).join() +
				[...uvs.subarray(v * 2, v * 2 + 2)].map((x) => Math.round(x * 1e4)).join(),
		);
	const order = { ...usualModelOrder };
	test('GLB and glTF pass the validator with their pictures, and read back as the same faces', async () => {
		const engine = opened();
		for (const [as, textures] of [
			['glb', 'inside'],
			['glb', 'beside'],
			['glb', 'none'],
			['gltf', 'beside'],
		] as const) {
			const files = await writeModel(engine, 'm', { ...order, as, textures }, textureWriter(engine, writers));
			const byPath = new Map(files);
			const [path, bytes] = files[0] as (typeof files)[number];
			expect(path).toBe(`smoker-nr-2.${as}`);
			const { issues } = await validateBytes(bytes, {
				uri: path,
				externalResourceFunction: async (uri: string) =>
					byPath.get(decodeURIComponent(uri)) ?? Promise.reject(new Error(`no ${uri}`)),
			});
			expect({
				as,
				textures,
				...issues,
				messages: issues.numErrors + issues.numWarnings ? issues.messages : [],
			}).toMatchObject({ numErrors: 0, numWarnings: 0 });
			expect(files.filter(([name]) => name.endsWith('.png')).length).toBe(textures === 'beside' ? 2 : 0);
			if (as !== 'glb' || textures === 'beside') continue;
			const read = await readModel(bytes, path);
			expect(read.ok && corners(read.mesh)).toEqual(corners(mesh));
			expect(read.ok && read.mesh.parts.map(({ name }) => name)).toEqual(mesh.parts.map(({ name }) => name));
		}
		engine.close();
	});
	test('the picture within is the sheet, its filter that of the sheet, its clear texels said', async () => {
		const engine = opened();
		const [[, bytes]] = (await writeModel(engine, 'm', order, textureWriter(engine, writers))) as [
			[string, Uint8Array],
		];
		const length = new DataView(bytes.buffer, bytes.byteOffset).getUint32(12, true);
		const json = JSON.parse(new TextDecoder().decode(bytes.subarray(20, 20 + length)));
		expect(
			json.materials.map(({ name, alphaMode = 'OPAQUE' }: { name: string; alphaMode?: string }) => [name, alphaMode]),
		).toEqual([
			['can', 'OPAQUE'],
			['tiles', 'MASK'],
		]);
		expect(json.extensionsUsed).toEqual(['KHR_materials_unlit']);
		const filters = json.materials.map(
			(material: { pbrMetallicRoughness: { baseColorTexture: { index: number } } }) =>
				json.samplers[json.textures[material.pbrMetallicRoughness.baseColorTexture.index].sampler].magFilter,
		);
		expect(filters).toEqual([9729, 9728]);
		const { byteOffset = 0, byteLength } = json.bufferViews[json.images[0].bufferView];
		const picture = bytes.subarray(28 + length + byteOffset, 28 + length + byteOffset + byteLength);
		expect((await raw(picture)).equals(Buffer.from(engine.composite('s').data))).toBe(true);
		engine.close();
	});
	test('OBJ names its materials and they their pictures; parts, scale and Z up as asked for', async () => {
		const engine = opened();
		const files = await writeModel(
			engine,
			'm',
			{ ...order, as: 'obj', textures: 'beside', parts: 'shown', scale: 100, up: 'z' },
			textureWriter(engine, writers),
		);
		const text = Object.fromEntries(files.map(([path, bytes]) => [path, new TextDecoder().decode(bytes)]));
		expect(Object.keys(text).sort()).toEqual(['can.png', 'smoker-nr-2.mtl', 'smoker-nr-2.obj', 'tiles.png']);
		expect(text['smoker-nr-2.mtl']).toMatch(/newmtl tiles[\s\S]*map_Kd tiles\.png/);
		expect(text['smoker-nr-2.obj']).toMatch(/^mtllib smoker-nr-2\.mtl\n/);
		const objects = [...(text['smoker-nr-2.obj'] as string).matchAll(/^o (.+)\nusemtl (.+)$/gm)].map(
			([, name, look]) => [name, look],
		);
		expect(objects).toEqual(mesh.parts.slice(1).map(({ name }) => [name, name === 'Bellows' ? 'tiles' : 'can']));
		const read = await readModel(files[0]?.[1] as Uint8Array<ArrayBuffer>, 'x.obj');
		const kept = mesh.parts.slice(1);
		const faces = kept.flatMap(({ firstFace, faces: n }) => Array.from({ length: n }, (_, i) => firstFace + i));
		const want = faces.flatMap((f) =>
			[0, 1, 2].flatMap((k) => {
				const v = mesh.indices[f * 3 + k] as number;
				const [x, y, z] = mesh.positions.subarray(v * 3, v * 3 + 3) as unknown as [number, number, number];
				return [x * 100, -z * 100, y * 100];
			}),
		);
		const got = read.ok
			? [...read.mesh.indices].flatMap((v) => [...read.mesh.positions.subarray(v * 3, v * 3 + 3)])
			: [];
		expect(got.length).toBe(want.length);
		expect(Math.max(...got.map((v, i) => Math.abs(v - (want[i] as number))))).toBeLessThan(1e-4);
		engine.close();
	});
	test('PLY carries what is painted at its vertices; what cannot be is said', async () => {
		const engine = opened();
		const [[path, bytes]] = (await writeModel(
			engine,
			'm',
			{ ...order, as: 'ply', textures: 'none' },
			textureWriter(engine, writers),
		)) as [[string, Uint8Array<ArrayBuffer>]];
		const read = await readModel(bytes, path);
		expect(read.ok && read.mesh.colors?.length).toBe(read.ok && (read.mesh.positions.length / 3) * 4);
		expect(modelKinds.map(({ kind }) => kind)).toEqual(['glb', 'gltf', 'obj', 'ply']);
		for (const change of [
			{ as: 'fbx' },
			{ up: 'z' as const },
			{ scale: 0 },
			{ size: 9000 },
			{ as: 'gltf', textures: 'inside' as const },
		])
			await expect(writeModel(engine, 'm', { ...order, ...change }, textureWriter(engine, writers))).rejects.toThrow(
				OrderError,
			);
		const some = await writeModel(engine, 'm', { ...order, parts: ['Bellows'] }, textureWriter(engine, writers));
		const one = await readModel(some[0]?.[1] as Uint8Array<ArrayBuffer>, 'x.glb');
		expect(one.ok && one.mesh.parts.map(({ name }) => name)).toEqual(['Bellows']);
		await expect(
			writeModel(engine, 'm', { ...order, parts: ['None'] }, textureWriter(engine, writers)),
		).rejects.toThrow(/is chosen/);
		await expect(writeModel(engine, 'gone', order, textureWriter(engine, writers))).rejects.toThrow(
			/not in this project/,
		);
		engine.close();
	});
});
