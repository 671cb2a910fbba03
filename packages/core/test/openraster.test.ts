/** OpenRaster: random trees there and back, read by others, and what others leave of them. */
import type { DeepPngReader, Kernels, PngReader, PngWriter } from '@eppu/kernels';
import { loadKernels, loadPngReader, loadPngWriter } from '@eppu/kernels/node';
import { beforeAll, describe, expect, test } from '@jest/globals';
import { DOMParser, type Element } from '@xmldom/xmldom';
import fc from 'fast-check';
import JSZip from 'jszip';
import sharp from 'sharp';
import { type BlendMode, blendModes } from '../src/composite/index.ts';
import {
	eachLayer,
	groupLayer,
	type Layer,
	type Mask,
	paintLayer,
	textLayer,
	washLayer,
} from '../src/document/index.ts';
import { type Engine, openEngine } from '../src/engine/index.ts';
import { encodePng, zipOf } from '../src/format/index.ts';
import {
	bringOpenRaster,
	mergeOpenRaster,
	OpenRasterError,
	readOpenRaster,
	savedLayers,
	sheetOfOpenRaster,
	takeOpenRaster,
	writeOpenRaster,
} from '../src/openraster/index.ts';
import { newStep } from '../src/recipe/index.ts';
import { box, projectOf } from './oracle/meshes.ts';
import { fill, newId, noise, SIDE, tree, words } from './oracle/trees.ts';
import { over, type Texel } from './oracle/w3c.ts';

let kernels: Kernels;
let write: PngWriter;
let read: DeepPngReader;
beforeAll(async () => {
	kernels = await loadKernels();
	write = await loadPngWriter();
	read = await loadPngReader();
});

const mesh = box();

const opened = (layers: readonly Layer[], seed: number, base: string | null): Engine => {
	const project = projectOf(mesh, SIDE, layers);
	const sheets = project.sheets.map((sheet) => ({ ...sheet, base }));
	const engine = openEngine(kernels, { ...project, sheets }, [], new Map([['m', mesh]]));
	fill(engine, seed);
	return engine;
};
/** Reads 16 bits as the nearest 8, as other programs do that do not leave half of them away. */
const rounding: PngReader = (png) => {
	const { data, ...size } = read.deep(png);
	return { ...size, data: Uint8Array.from(data, (v) => Math.round(v / 257)) };
};
const pictured = (engine: Engine, sheet = 's'): Buffer => Buffer.from(engine.composite(sheet).data);
const layersNow = (engine: Engine): readonly Layer[] => engine.project.sheets[0]?.layers ?? [];

/**
 * Of layers that go as one picture of eight bits: whether any is `pressed` into one, and whether `steep` modes double what
 * is lost by that, which divide by colours or ask for the hue of a grey.
 */
const goesAsPixels = (layers: readonly Layer[]): { readonly steep: boolean; readonly pressed: boolean } => {
	const all = [...eachLayer(layers)];
	return {
		steep: all.some(({ mode }) => /burn|dodge|hue|saturation/.test(mode)),
		pressed: all.some(({ kind, clip, finishes }) => clip || kind === 'adjust' || finishes?.length),
	};
};

/** The most that two pictures differ by, their colours laid over black. */
const apart = (one: Buffer, other: Buffer): number =>
	one.reduce((most, v, i) => {
		const [a, b] = [one[i | 3] as number, other[i | 3] as number];
		const w = other[i] as number;
		return Math.max(most, i % 4 === 3 ? Math.abs(a - b) : Math.abs(v * a - w * b) / 255);
	}, 0);

/** Layers without ids, which are new on another sheet. */
const anonymous = (value: unknown): unknown =>
	JSON.parse(JSON.stringify(value, (key, each) => (['id', 'surface', 'entries'].includes(key) ? '#' : each)));

describe('there and back', () => {
	test('random trees of every kind of layer come back to the same sheet as nothing changed, and to a new one alike', async () => {
		await fc.assert(
			fc.asyncProperty(tree(blendModes), fc.nat(1e6), fc.constantFrom(null, '#8899aa'), async (layers, seed, base) => {
				const engine = opened(layers, seed, base);
				const before = pictured(engine);
				const { bytes, notes: said } = writeOpenRaster(engine, 's', write);
				const image = readOpenRaster(bytes, 'x.ora', read);
				expect(image.notes).toEqual([]);
				const steps = engine.history.done.length;
				for (const each of [image, readOpenRaster(bytes, 'x.ora', rounding)]) {
					const { changed, notes } = takeOpenRaster(engine, 's', each, 'Take', newId);
					expect({ changed, notes, steps: engine.history.done.length }).toEqual({ changed: 0, notes: [], steps });
				}
				const { sheet, texels } = sheetOfOpenRaster(image, 'New', newId);
				expect(anonymous(sheet.layers)).toEqual(anonymous(layersNow(engine)));
				// On a new sheet lies no model: what is lit comes as pixels of eight bits.
				if ([...eachLayer(layers)].some(({ kind }) => kind === 'light')) {
					const { sheet: lit } = bringOpenRaster(engine, image, 'New', newId);
					const { steep, pressed } = goesAsPixels(layers);
					expect(apart(pictured(engine, lit), before)).toBeLessThan(said.length || (steep && pressed) ? 256 : 3);
				} else {
					engine.bringLayers(sheet, texels);
					expect(pictured(engine, sheet.id).equals(before)).toBe(true);
				}
				engine.undo();
				expect(pictured(engine).equals(before)).toBe(true);
				engine.close();
			}),
			{ numRuns: process.env.LONG ? 700 : 60 },
		);
	});
	test('the same work makes the same bytes', () => {
		const engine = opened([paintLayer('a', 'A')], 3, null);
		expect(writeOpenRaster(engine, 's', write).bytes).toEqual(writeOpenRaster(engine, 's', write).bytes);
		engine.close();
	});
});

/** The file as others read it: another ZIP reader, another XML reader, another PNG reader. */
interface Seen {
	readonly width: number;
	readonly height: number;
	readonly root: Element;
	readonly pictures: ReadonlyMap<string, Uint16Array>;
	readonly sizes: ReadonlyMap<string, readonly [number, number]>;
}
async function seenByOthers(bytes: Uint8Array): Promise<Seen> {
	const zip = await JSZip.loadAsync(bytes);
	const files = Object.keys(zip.files);
	expect(files[0]).toBe('mimetype');
	expect(await zip.file('mimetype')?.async('string')).toBe('image/openraster');
	const xml = (await zip.file('stack.xml')?.async('string')) as string;
	const image = new DOMParser({
		onError: (level, text) => {
			if (level !== 'warning') throw new Error(text);
		},
	}).parseFromString(xml, 'text/xml').documentElement as Element;
	const pictures = new Map<string, Uint16Array>();
	const sizes = new Map<string, readonly [number, number]>();
	for (const path of files.filter((each) => each.endsWith('.png'))) {
		const picture = sharp((await zip.file(path)?.async('nodebuffer')) as Buffer);
		const fine = (await picture.metadata()).depth === 'ushort';
		const raw = fine ? picture.toColourspace('rgb16').raw({ depth: 'ushort' }) : picture.ensureAlpha().raw();
		const { data, info } = await raw.toBuffer({ resolveWithObject: true });
		pictures.set(
			path,
			fine ? new Uint16Array(data.buffer, data.byteOffset, data.length / 2) : Uint16Array.from(data, (v) => v * 257),
		);
		sizes.set(path, [info.width, info.height]);
	}
	const root = [...image.childNodes].find((node) => node.nodeName === 'stack') as Element;
	return { width: Number(image.getAttribute('w')), height: Number(image.getAttribute('h')), root, pictures, sizes };
}

const opMode: Readonly<Record<string, BlendMode>> = {
	'svg:src-over': 'normal',
	'svg:plus': 'plus-lighter',
	...Object.fromEntries(blendModes.map((mode) => [`svg:${mode}`, mode])),
};

const CLEAR: Texel = [0, 0, 0, 0];
const SHIFTS = [1, -1, 0.5, 0];

/**
 * One texel of a stack by the formulas of W3C Compositing: elements bottom first on a backdrop. Colours that are `off` by
 * very little tell where the formulas jump.
 */
function evaluate(element: Element, seen: Seen, x: number, y: number, off = 0, start = CLEAR): Texel {
	let out = start;
	const list = [...element.childNodes].filter((node) => node.nodeType === 1).reverse() as Element[];
	for (const node of list) {
		if (node.getAttribute('visibility') === 'hidden') continue;
		const op = node.getAttribute('composite-op') ?? 'svg:src-over';
		const opacity = Number(node.getAttribute('opacity') ?? 1);
		let source: Texel;
		if (node.nodeName === 'stack') {
			const isolated = node.getAttribute('isolation') === 'isolate' || opacity < 1 || op !== 'svg:src-over';
			if (!isolated) {
				out = evaluate(node, seen, x, y, off, out);
				continue;
			}
			source = evaluate(node, seen, x, y, off);
		} else {
			const path = node.getAttribute('src') as string;
			const [w, h] = seen.sizes.get(path) as readonly [number, number];
			const [u, v] = [x - Number(node.getAttribute('x') ?? 0), y - Number(node.getAttribute('y') ?? 0)];
			const at = (v * w + u) * 4;
			const data = seen.pictures.get(path) as Uint16Array;
			source =
				u < 0 || v < 0 || u >= w || v >= h
					? CLEAR
					: ([...data.subarray(at, at + 4)].map((c, k) =>
							Math.min(1, Math.max(0, c / 65535 + off * (SHIFTS[k] as number))),
						) as unknown as Texel);
		}
		const [r, g, b, a] = source;
		if (op === 'svg:dst-in') out = [out[0], out[1], out[2], out[3] * a * opacity];
		else if (op === 'svg:src-atop') out = over('normal', out, [r, g, b, a * opacity], true);
		else out = over(opMode[op] as BlendMode, out, [r, g, b, a * opacity]);
	}
	return out;
}

const premultiplied = ([r, g, b, a]: Texel): number[] => [r * a * 255, g * a * 255, b * a * 255, a * 255];

test('read by others: the merged picture is the composite, and the layers by the W3C formulas give it again', async () => {
	let exact = 0;
	let worst = 0;
	let texels = 0;
	let jumps = 0;
	await fc.assert(
		fc.asyncProperty(
			tree(blendModes),
			fc.nat(1e6),
			fc.constantFrom(null, '#8899aa', '#8899aa'),
			async (layers, seed, base) => {
				const engine = opened(layers, seed, base);
				const { bytes, notes } = writeOpenRaster(engine, 's', write);
				const seen = await seenByOthers(bytes);
				const whole = pictured(engine);
				expect(Buffer.from((seen.pictures.get('mergedimage.png') ?? []).map((v) => v >> 8)).equals(whole)).toBe(true);
				expect(Math.max(...(seen.sizes.get('Thumbnails/thumbnail.png') ?? [999]))).toBeLessThanOrEqual(256);
				if (notes.length === 0) {
					exact++;
					for (let n = 0; n < 64; n++) {
						const [x, y] = [(n * 7) % SIDE, (n * 23 + seed) % SIDE];
						const at = (y * SIDE + x) * 4;
						const got = premultiplied(evaluate(seen.root, seen, x, y));
						// Where a step that is smaller than sixteen bits show is seen, the formulas jump: what burns white, what has no hue.
						const beside = [-1, 1].map((by) => premultiplied(evaluate(seen.root, seen, x, y, by / 32768)));
						texels++;
						if (beside.some((each) => got.some((v, i) => Math.abs(v - (each[i] as number)) > 0.5))) {
							jumps++;
							continue;
						}
						const want = premultiplied([...whole.subarray(at, at + 4)].map((c) => c / 255) as unknown as Texel);
						got.forEach((v, i) => {
							worst = Math.max(worst, Math.abs(v - (want[i] as number)));
						});
					}
				}
				engine.close();
			},
		),
		{ numRuns: process.env.LONG ? 2000 : 80 },
	);
	expect(worst).toBeLessThan(1.5);
	expect(jumps / texels).toBeLessThan(0.01);
	// Notes are for what the format has no words for, not for everything.
	expect(exact).toBeGreaterThan(15);
});

/** The file as a program would save it that knows nothing of our attributes; `change` paints on some pictures. */
async function savedElsewhere(
	bytes: Uint8Array,
	change: (name: string, data: Buffer, w: number, h: number) => boolean,
	edit: (xml: string) => string = (xml) => xml,
	keepOwn = false,
): Promise<Uint8Array<ArrayBuffer>> {
	const zip = await JSZip.loadAsync(bytes);
	let xml = (await zip.file('stack.xml')?.async('string')) as string;
	const files: [string, Uint8Array][] = [];
	for (const [, element] of xml.matchAll(/<layer([^>]*)\/>/g)) {
		const path = / src="([^"]+)"/.exec(element as string)?.[1] as string;
		const name = / name="([^"]*)"/.exec(element as string)?.[1] as string;
		const { data, info } = await sharp((await zip.file(path)?.async('nodebuffer')) as Buffer)
			.ensureAlpha()
			.raw()
			.toBuffer({ resolveWithObject: true });
		change(name, data, info.width, info.height);
		// Other programs clear the colours of what is clear.
		for (let i = 0; i < data.length; i += 4) if (!data[i + 3]) data.fill(0, i, i + 3);
		files.push([path, encodePng(write, { width: info.width, height: info.height, data: new Uint8Array(data) })]);
	}
	for (const path of Object.keys(zip.files).filter((each) => keepOwn && each.startsWith('eppu/')))
		files.push([path, (await zip.file(path)?.async('uint8array')) as Uint8Array]);
	if (!keepOwn) xml = xml.replace(/ (xmlns:)?eppu(:\w+)?="[^"]*"/g, '');
	return zipOf([
		['mimetype', new TextEncoder().encode('image/openraster')],
		['stack.xml', new TextEncoder().encode(edit(xml))],
		...files,
	]);
}

const sample = (): Engine =>
	opened(
		[
			washLayer('ground', 'Ground', '#8899aa'),
			groupLayer(
				'set',
				'Set',
				[
					paintLayer('low', 'Low'),
					paintLayer('top', 'Top', { mode: 'multiply', clip: true, mask: { surface: 'topm', on: true } }),
				],
				{ opacity: 0.6, isolated: true },
			),
			textLayer('words', 'Words', words, { mode: 'screen' }),
			paintLayer('grit', 'Grit', { mask: { surface: 'gritm', on: true, recipe: [noise] } }),
		],
		11,
		null,
	);

describe('another editor', () => {
	test('that keeps attributes: what it left alone stays editable, what it painted comes as paint, both as one step', async () => {
		const engine = sample();
		const before = layersNow(engine);
		const { bytes } = writeOpenRaster(engine, 's', write);
		const saved = await savedElsewhere(
			bytes,
			(name, data) => {
				if (name === 'Low') data.fill(255, 0, 400);
				if (name === 'Top: mask') data.fill(200);
				return true;
			},
			(xml) => xml.replace('name="Words" opacity="1"', 'name="Words!" opacity="0.25"'),
			true,
		);
		const steps = engine.history.done.length;
		takeOpenRaster(engine, 's', readOpenRaster(saved, 'x.ora', read), 'Take', newId);
		expect(engine.history.done.length).toBe(steps + 1);
		const [ground, set, text, grit] = layersNow(engine) as [Layer, Layer & { layers: Layer[] }, Layer, Layer];
		expect(ground).toEqual(before[0]);
		expect(text).toEqual({ ...before[2], name: 'Words!', opacity: 0.25 });
		expect(grit).toEqual(before[3]);
		const [low, top] = set.layers as [Layer & { surface: string }, Layer];
		expect([low.kind, low.name, low.surface === 'low']).toEqual(['paint', 'Low', false]);
		expect([top.mode, top.clip, top.mask?.surface === 'topm']).toEqual(['multiply', true, true]);
		engine.undo();
		expect(layersNow(engine)).toEqual(before);
		engine.close();
	});
	test('what was computed and is painted on there becomes paint, and keeps its mode, opacity and mask', async () => {
		const layers = [
			paintLayer('p', 'P'),
			washLayer('w', 'W', '#405060', { mode: 'multiply', opacity: 0.5, mask: { surface: 'wm', on: true } }),
			textLayer('t', 'T', words, { mode: 'screen', opacity: 0.75 }),
		];
		const engine = opened(layers, 21, '#808080');
		const { bytes } = writeOpenRaster(engine, 's', write);
		const saved = await savedElsewhere(
			bytes,
			(name, data) => {
				if (name === 'W' || name === 'T') data.set([1, 2, 3, 255]);
				return true;
			},
			(xml) => xml,
			true,
		);
		takeOpenRaster(engine, 's', readOpenRaster(saved, 'x.ora', read), 'Take', newId);
		expect(layersNow(engine).map(({ kind, mode, opacity, mask }) => [kind, mode, opacity, Boolean(mask?.on)])).toEqual([
			['paint', 'normal', 1, false],
			['paint', 'multiply', 0.5, true],
			['paint', 'screen', 0.75, false],
		]);
		engine.close();
	});
	test('that loses attributes: it looks the same within two of 255, groups, masks, names and modes are there', async () => {
		const engine = sample();
		const { bytes } = writeOpenRaster(engine, 's', write);
		const before = pictured(engine);
		const saved = await savedElsewhere(bytes, () => true);
		const image = readOpenRaster(saved, 'x.ora', read);
		const { sheet, texels, notes } = sheetOfOpenRaster(image, 'New', newId);
		expect(notes).toEqual([]);
		engine.bringLayers(sheet, texels);
		const after = pictured(engine, sheet.id);
		const far = before.reduce(
			(most, v, i) => (before[i | 3] === 255 ? Math.max(most, Math.abs(v - (after[i] as number))) : most),
			0,
		);
		expect(far).toBeLessThanOrEqual(2);
		expect(sheet.layers.map(({ name, mode }) => [name, mode])).toEqual([
			['Ground', 'normal'],
			['Set', 'normal'],
			['Words', 'screen'],
			['Grit', 'normal'],
		]);
		expect(sheet.layers[3]?.mask?.on).toBe(true);
		engine.close();
	});
	test('a file by another writer: offsets, hidden layers, a mask within, unknown modes and missing pictures are taken or named', () => {
		const dot = encodePng(write, {
			width: 4,
			height: 4,
			data: new Uint8Array(64).map((_, i) => [250, 10, 20, 255][i % 4] as number),
		});
		const xml = `<?xml version='1.0'?><image w="32" h="16" version="0.0.3"><stack>
			<layer name="Off" src="d.png" x="-2" y="14" opacity="0.5"/>
			<layer src="d.png" x="8" y="2" visibility="hidden" composite-op="svg:xor"/>
			<stack name="G"><layer name="m" src="d.png" x="10" y="10" composite-op="svg:dst-in"/><layer name="a" src="d.png" x="9" y="9"/><layer name="b" src="gone.png"/></stack>
			<text name="t">Hi</text>
			<layer name="clip" src="d.png" x="22" y="2" composite-op="svg:src-atop"/>
			<layer name="base" src="d.png" x="20" y="0"/>
			</stack></image>`;
		const file = zipOf([
			['mimetype', new TextEncoder().encode('image/openraster')],
			['stack.xml', new TextEncoder().encode(xml)],
			['d.png', dot],
		]);
		const image = readOpenRaster(file, 'x.ora', read);
		const { sheet, texels, notes } = sheetOfOpenRaster(image, 'x', newId);
		expect(sheet.layers.map(({ name, shown, opacity, clip, mode }) => [name, shown, opacity, clip, mode])).toEqual([
			['base', true, 1, false, 'normal'],
			['clip', true, 1, true, 'normal'],
			['G', true, 1, false, 'normal'],
			['Layer', false, 1, false, 'normal'],
			['Off', true, 0.5, false, 'normal'],
		]);
		expect(notes.join(' ')).toMatch(/gone\.png/);
		expect(notes.join(' ')).toMatch(/svg:xor/);
		expect(notes.join(' ')).toMatch(/"Off" goes beyond/);
		expect(notes.join(' ')).toMatch(/"t" is of a kind \(text\)/);
		const engine = opened([], 0, null);
		engine.bringLayers(sheet, texels);
		const { data } = engine.composite(sheet.id);
		const alpha = (x: number, y: number): number => data[(y * 32 + x) * 4 + 3] as number;
		expect([alpha(10, 10), alpha(9, 9), alpha(22, 2), alpha(25, 5), alpha(0, 15), alpha(3, 15)]).toEqual([
			255, 0, 255, 0, 128, 0,
		]);
		engine.close();
	});
});

describe('both sides', () => {
	const flat = (r: number, g: number): Uint8Array =>
		new Uint8Array(SIDE * SIDE * 4).map((_, i) => [r, g, 40, 255][i % 4] as number);
	const lay = (engine: Engine, layer: string, r: number, g: number): void =>
		void engine.lay('s', layer, 'color', { width: SIDE, height: SIDE, data: flat(r, g) }, 'Lay');
	const out = (): { readonly engine: Engine; readonly bytes: Uint8Array } => {
		const engine = opened(
			[
				paintLayer('a', 'A'),
				paintLayer('b', 'B', { mask: { surface: 'bm', on: true } }),
				washLayer('w', 'W', '#112233', { opacity: 0.5 }),
			],
			8,
			null,
		);
		return { engine, bytes: writeOpenRaster(engine, 's', write).bytes };
	};
	const back = async (bytes: Uint8Array, names: readonly string[], edit?: (xml: string) => string, own = true) =>
		readOpenRaster(
			await savedElsewhere(
				bytes,
				(name, data) => {
					if (names.includes(name)) for (let i = 0; i < data.length; i += 4) data.set([9, 8, 7, 255], i);
					return true;
				},
				edit,
				own,
			),
			'x.ora',
			read,
		);
	type Image = Parameters<typeof takeOpenRaster>[2];
	const mergeImages = (engine: Engine, sent: Image, agreed: Image, image: Image) =>
		mergeOpenRaster(engine, 's', savedLayers(agreed, sent, newId), savedLayers(image, sent, newId), 'Take', newId);
	const merge = (engine: Engine, agreed: Uint8Array, image: Image) => {
		const sent = readOpenRaster(agreed, 'x.ora', read);
		return mergeImages(engine, sent, sent, image);
	};
	for (const own of [true, false])
		test(`what was painted there comes, what was painted here since stays${own ? '' : ', also where attributes were lost'}`, async () => {
			const { engine, bytes } = out();
			lay(engine, 'b', 200, 10);
			engine.run({ do: 'layer.change', sheet: 's', layer: 'w', change: { opacity: 0.25 } });
			const steps = engine.history.done.length;
			const { changed, notes } = merge(engine, bytes, await back(bytes, ['A'], undefined, own));
			expect({ changed, notes, steps: engine.history.done.length }).toEqual({
				changed: true,
				notes: [],
				steps: steps + 1,
			});
			const [a, b, w] = layersNow(engine) as [Layer, Layer, Layer];
			expect([a.id, b.id, w.id, w.kind, w.opacity]).toEqual(['a', 'b', 'w', 'wash', 0.25]);
			expect([...engine.layerPicture('s', 'a', true).data.subarray(0, 4)]).toEqual([9, 8, 7, 255]);
			expect([...engine.layerPicture('s', 'b', true).data.subarray(0, 4)]).toEqual([200, 10, 40, 255]);
			expect(merge(engine, bytes, await back(bytes, ['A'], undefined, own)).changed).toBe(false);
			engine.close();
		});
	test('of what was painted there only the tiles that look otherwise are laid, on the layer that was there', async () => {
		const side = 3 * SIDE;
		const engine = openEngine(kernels, projectOf(mesh, side, [paintLayer('a', 'A')]), [], new Map());
		const filled = new Uint8Array(side * side * 4).map((_, i) => (i * 7) & 255);
		engine.lay('s', 'a', 'color', { width: side, height: side, data: filled }, 'Lay');
		const before = pictured(engine);
		const { bytes } = writeOpenRaster(engine, 's', write);
		const at = ((SIDE + 9) * side + SIDE + 5) * 4;
		const saved = await savedElsewhere(bytes, (_, data) => {
			data.set([250, 20, 30, 255], at);
			return true;
		});
		const { dirty } = merge(engine, bytes, readOpenRaster(saved, 'x.ora', read));
		expect([...dirty].map(([sheet, tiles]) => [sheet, [...tiles]])).toEqual([['s', [4]]]);
		expect(layersNow(engine)).toMatchObject([{ id: 'a', surface: 'a' }]);
		const after = Buffer.from(before);
		after.set([250, 20, 30, 255], at);
		expect(pictured(engine).equals(after)).toBe(true);
		engine.undo();
		expect(pictured(engine).equals(before)).toBe(true);
		engine.redo();
		expect(pictured(engine).equals(after)).toBe(true);
		engine.close();
	});
	test('saving after saving, without attributes: a layer that was added there stays one layer, and follows', async () => {
		const { engine, bytes } = out();
		const sent = readOpenRaster(bytes, 'x.ora', read);
		const added = (xml: string): string =>
			xml.replace(' <stack>\n', ' <stack>\n<layer name="New" src="data/000.png"/>\n');
		let agreed = sent;
		for (const [n, names] of [['A'], ['A', 'New'], ['New'], []].entries()) {
			const image = await back(bytes, names, added, false);
			const { notes } = mergeImages(engine, sent, agreed, image);
			expect(notes).toEqual([]);
			expect(layersNow(engine).map(({ name }) => name)).toEqual(['A', 'B', 'W', 'New']);
			expect([...engine.layerPicture('s', 'a', true).data.subarray(0, 3)].join() === '9,8,7').toBe(n < 2);
			agreed = image;
		}
		engine.close();
	});
	test('saving after saving of a mask: each is here; what was painted on it here since stays, and it is said', async () => {
		const { engine, bytes } = out();
		const sent = readOpenRaster(bytes, 'x.ora', read);
		const saved = async (tone: number) =>
			readOpenRaster(
				await savedElsewhere(
					bytes,
					(name, data) => {
						// White of some alpha is a mask, as well as grey.
						if (/mask/i.test(name)) for (let i = 0; i < data.length; i += 4) data.set([255, 255, 255, tone], i);
						return true;
					},
					undefined,
					true,
				),
				'x.ora',
				read,
			);
		const tone = (): number | undefined => engine.maskPicture('s', 'b')?.data[0];
		const bMask = () => layersNow(engine).find(({ id }) => id === 'b')?.mask as Mask;
		let agreed = sent;
		for (const each of [40, 120, 200]) {
			const image = await saved(each);
			// Taken twice, as where a process died before it could say that it had: nothing is doubled, nothing refused.
			for (const changed of [true, false]) {
				const taken = mergeImages(engine, sent, agreed, image);
				expect({ changed: taken.changed, notes: taken.notes }).toEqual({ changed, notes: [] });
			}
			expect(tone()).toBe(each);
			agreed = image;
		}
		// Switched off here, and saved there once more as it was: it stays off.
		engine.run({ do: 'layer.change', sheet: 's', layer: 'b', change: { mask: { ...bMask(), on: false } } });
		mergeImages(engine, sent, agreed, await saved(200));
		mergeImages(engine, sent, sent, await saved(200));
		expect(bMask()).toMatchObject({ on: false });
		engine.lay('s', 'b', 'mask', { width: SIDE, height: SIDE, data: new Uint8Array(SIDE * SIDE).fill(77) }, 'Lay');
		const { notes } = mergeImages(engine, sent, agreed, await saved(10));
		expect(notes.join()).toMatch(/mask of "B" was changed on both sides: it stays/);
		expect(tone()).toBe(77);
		engine.close();
	});
	test('painted on both sides: both are here, and it is said', async () => {
		const { engine, bytes } = out();
		lay(engine, 'a', 200, 10);
		const { notes } = merge(engine, bytes, await back(bytes, ['A']));
		expect(notes.join()).toMatch(/"A" was painted on both sides/);
		const [a, more] = layersNow(engine) as [Layer, Layer];
		expect(more.name).toBe('A, from elsewhere');
		expect([...engine.layerPicture('s', a.id, true).data.subarray(0, 3)]).toEqual([200, 10, 40]);
		expect([...engine.layerPicture('s', more.id, true).data.subarray(0, 3)]).toEqual([9, 8, 7]);
		engine.close();
	});
	test('added on either side, taken away on either side: each as it was meant, changed ones stay', async () => {
		const { engine, bytes } = out();
		engine.run({ do: 'layer.add', sheet: 's', layer: paintLayer('mine', 'Mine'), at: 1, parent: null });
		engine.run({ do: 'layer.remove', sheet: 's', layer: 'a' });
		lay(engine, 'b', 1, 2);
		// There the masked layer is taken away, and one is added on top.
		const image = await back(bytes, [], (xml) =>
			xml
				.replace(/ *<stack[^>]*name="B"[\s\S]*?<\/stack>\n/, '')
				.replace(' <stack>\n', ' <stack>\n<layer name="New" src="data/000.png"/>\n'),
		);
		const { notes } = merge(engine, bytes, image);
		expect(layersNow(engine).map(({ name }) => name)).toEqual(['Mine', 'B', 'W', 'New']);
		expect(notes.join()).toMatch(/"B" was taken away elsewhere and changed here: it stays/);
		engine.close();
	});
});

describe('bad files', () => {
	const file = (xml: string, more: [string, Uint8Array][] = []): Uint8Array<ArrayBuffer> =>
		zipOf([['stack.xml', new TextEncoder().encode(xml)], ...more]);
	test('are answered with what is wrong', () => {
		const wrong: readonly (readonly [Uint8Array, RegExp])[] = [
			[new Uint8Array(0), /empty/],
			[new Uint8Array(500).fill(7), /not a ZIP/],
			[zipOf([['a.txt', new Uint8Array(3)]]), /stack\.xml is not there/],
			[file('<image w="4" h="4"><stack>'), /damaged|no list|no layers/],
			[file('<picture/>'), /no list of layers/],
			[file('<image w="99999999" h="4"><stack/></image>'), /99999999 by 4/],
			[
				file('<!DOCTYPE x [<!ENTITY a "aaaa"><!ENTITY b "&a;&a;">]><image w="4" h="4"><stack>&b;</stack></image>'),
				/entities of its own/,
			],
			[file(`<image w="4" h="4"><stack>${'<stack>'.repeat(60)}${'</stack>'.repeat(60)}</stack></image>`), /deep/],
			[file(`<image w="4" h="4"><stack>${'<layer src="x"/>'.repeat(2001)}</stack></image>`), /more than 2000/],
		];
		for (const [bytes, text] of wrong) {
			expect(() => readOpenRaster(bytes, 'x.ora', read)).toThrow(OpenRasterError);
			expect(() => readOpenRaster(bytes, 'x.ora', read)).toThrow(text);
		}
	});
	test('any bytes, and any of ours with bytes changed, are taken or answered, never more', () => {
		const engine = sample();
		const { bytes } = writeOpenRaster(engine, 's', write);
		fc.assert(
			fc.property(
				fc.array(fc.tuple(fc.nat(bytes.length - 1), fc.nat(255)), { minLength: 1, maxLength: 6 }),
				(changes) => {
					const bad = bytes.slice();
					for (const [at, value] of changes) bad[at] = value;
					try {
						const image = readOpenRaster(bad, 'x.ora', read);
						const { sheet } = sheetOfOpenRaster(image, 'x', newId);
						expect([...eachLayer(sheet.layers)].length).toBeGreaterThanOrEqual(0);
					} catch (error) {
						expect(error).toBeInstanceOf(OpenRasterError);
					}
				},
			),
			{ numRuns: process.env.LONG ? 5000 : 150 },
		);
		engine.close();
	});
	test('attributes of ours that are no layers are passed over: the pixels come', async () => {
		const engine = sample();
		const { bytes } = writeOpenRaster(engine, 's', write);
		const saved = await savedElsewhere(
			bytes,
			() => true,
			(xml) => xml.replace(/eppu:layer="[^"]*"/g, 'eppu:layer="{&quot;kind&quot;:&quot;evil&quot;}"'),
			true,
		);
		const { sheet } = sheetOfOpenRaster(readOpenRaster(saved, 'x.ora', read), 'x', newId);
		expect([...eachLayer(sheet.layers)].every(({ kind }) => kind === 'paint' || kind === 'group')).toBe(true);
		engine.close();
	});
});

test('computed layers that would look otherwise where their model is not come as pixels, and it is said', () => {
	const light = { ...newStep('noise', 'r1'), space: 'model' } as ReturnType<typeof newStep>;
	const engine = opened([paintLayer('p', 'P', { mask: { surface: 'pm', on: true, recipe: [light] } })], 4, '#8899aa');
	const image = readOpenRaster(writeOpenRaster(engine, 's', write).bytes, 'x.ora', read);
	const before = pictured(engine);
	const { sheet, notes } = bringOpenRaster(engine, image, 'New', newId);
	expect(notes.join()).toMatch(/depends on what is not here/);
	expect(pictured(engine, sheet).equals(before)).toBe(true);
	expect(engine.project.sheets[1]?.layers[0]?.mask?.recipe ?? null).toBeNull();
	engine.undo();
	expect(engine.project.sheets.length).toBe(1);
	engine.close();
});

test('an element that was doubled elsewhere becomes two layers with surfaces of their own', async () => {
	const engine = opened([paintLayer('one', 'One')], 5, null);
	const { bytes } = writeOpenRaster(engine, 's', write);
	const saved = await savedElsewhere(
		bytes,
		() => true,
		(xml) => xml.replace(/( *<layer[^>]*\/>\n)/, '$1$1'),
		true,
	);
	takeOpenRaster(engine, 's', readOpenRaster(saved, 'x.ora', read), 'Take', newId);
	const all = [...eachLayer(layersNow(engine))];
	expect(all.length).toBe(2);
	expect(new Set(all.flatMap((layer) => ('surface' in layer ? [layer.surface] : []))).size).toBe(2);
	engine.close();
});
