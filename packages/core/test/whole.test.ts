/** A project as one open file, and the page that shows it. */
import type { Kernels, PngReader, PngWriter } from '@eppu/kernels';
import { loadKernels, loadPngReader, loadPngWriter, loadWebpWriter } from '@eppu/kernels/node';
import { beforeAll, describe, expect, test } from '@jest/globals';
import { DOMParser } from '@xmldom/xmldom';
import fc from 'fast-check';
import JSZip from 'jszip';
import { blendModes } from '../src/composite/index.ts';
import { emptyDesk, type Layer, type Project, paintLayer, washLayer } from '../src/document/index.ts';
import { type Engine, openEngine } from '../src/engine/index.ts';
import { pictureWriter, zipOf } from '../src/format/index.ts';
import {
	OrderError,
	type ProjectParts,
	readProjectZip,
	usualPage,
	writePage,
	writeProjectZip,
} from '../src/handoff/index.ts';
import { bytesOfLayout, layoutOf } from '../src/layout/index.ts';
import { box, projectOf } from './oracle/meshes.ts';
import { fill, newId, SIDE, tree } from './oracle/trees.ts';

let kernels: Kernels;
let write: PngWriter;
let read: PngReader;
const pages = pictureWriter({ png: loadPngWriter, webp: loadWebpWriter });
beforeAll(async () => {
	kernels = await loadKernels();
	write = await loadPngWriter();
	read = await loadPngReader();
});

const mesh = box();
const file = new TextEncoder().encode('o Box');
const opened = (layers: readonly Layer[], seed = 1, change: Partial<Project> = {}): Engine => {
	const engine = openEngine(kernels, { ...projectOf(mesh, SIDE, layers), ...change }, [], new Map([['m', mesh]]));
	fill(engine, seed);
	return engine;
};
const parts = (engine: Engine, more: Partial<ProjectParts> = {}): ProjectParts => {
	const { project, tiles } = engine.whole();
	const files = new Map(project.models.map(({ asset }) => [asset.hash, file]));
	return { project, desk: emptyDesk, tiles, files, pictures: new Map(), ...more };
};

describe('a project as an open ZIP', () => {
	test('random sheets open again to the same document and the same texels', () => {
		fc.assert(
			fc.property(tree(blendModes), fc.nat(1e6), (layers, seed) => {
				const engine = opened(layers, seed);
				const zip = writeProjectZip(parts(engine), write);
				const again = readProjectZip(zip, 'x.zip', read);
				expect(again.notes).toEqual([]);
				expect(again.project).toEqual(engine.project);
				expect(again.desk).toEqual(emptyDesk);
				const second = openEngine(kernels, again.project, again.tiles, new Map([['m', mesh]]));
				expect(second.leftOut).toEqual([]);
				expect(Buffer.from(second.composite('s').data).equals(Buffer.from(engine.composite('s').data))).toBe(true);
				// Texels that no layer shows are there too: the same is written again.
				expect(Buffer.from(writeProjectZip(parts(second), write)).equals(Buffer.from(zip))).toBe(true);
				for (const each of [engine, second]) each.close();
			}),
			{ numRuns: process.env.LONG ? 600 : 30 },
		);
	});
	test('numbers beside the document, selections, sheets that are no squares, and own pictures go along', async () => {
		const engine = opened([paintLayer('p', 'P')]);
		const layout = layoutOf(mesh);
		const turned = { ...layout, uvs: layout.uvs.map((v, i) => (i % 2 ? 1 - v : v)) };
		engine.relay({ layouts: new Map([['m', turned]]) }, 'Turn it over', newId);
		const shape = { kind: 'rectangle', x: 3, y: 5, width: 20, height: 9, radius: 0 } as const;
		expect(engine.select('s', { by: 'shape', shape }, 'replace')).toMatchObject({ ok: true });
		expect(engine.selectionLines('s').length).toBeGreaterThan(0);
		const stencil = { width: 3, height: 2, data: new Uint8Array(24).map((_, i) => i * 10) };
		const zip = writeProjectZip(parts(engine, { pictures: new Map([['own-1', stencil]]) }), write);
		const again = readProjectZip(zip, 'x.zip', read);
		const second = openEngine(kernels, again.project, again.tiles, new Map([['m', mesh]]));
		second.layAgain();
		expect(bytesOfLayout(layoutOf(second.scene('m')?.mesh as never))).toEqual(
			bytesOfLayout(layoutOf(engine.scene('m')?.mesh as never)),
		);
		expect(second.selectionLines('s')).toEqual(engine.selectionLines('s'));
		expect(again.pictures.get('own-1')?.data).toEqual(stencil.data);
		const inside = await JSZip.loadAsync(zip);
		expect(await inside.file('read-me.txt')?.async('string')).toMatch(/a project of Eppu, whole/);
		for (const each of [engine, second]) each.close();
	});
	test('any bytes, and ours with some changed, are taken or answered in words', () => {
		const zip = writeProjectZip(parts(opened([paintLayer('p', 'P'), washLayer('w', 'W', '#123456')])), write);
		fc.assert(
			fc.property(
				fc.array(fc.tuple(fc.nat(zip.length - 1), fc.nat(255)), { minLength: 1, maxLength: 5 }),
				(changes) => {
					const bad = zip.slice();
					for (const [at, value] of changes) bad[at] = value;
					try {
						expect(readProjectZip(bad, 'x.zip', read).project.sheets.length).toBe(1);
					} catch (error) {
						expect(error).toBeInstanceOf(OrderError);
						expect((error as Error).message.length).toBeGreaterThan(10);
					}
				},
			),
			{ numRuns: process.env.LONG ? 4000 : 120 },
		);
		for (const junk of [
			new Uint8Array(0),
			new Uint8Array(99).fill(3),
			zipOf([['project.json', new TextEncoder().encode('[]')]]),
		])
			expect(() => readProjectZip(junk, 'x.zip', read)).toThrow(OrderError);
		const newer = zipOf([['project.json', new TextEncoder().encode('{"format":"eppu-project","version":2}')]]);
		expect(() => readProjectZip(newer, 'x.zip', read)).toThrow(/newer Eppu/);
	});
	test('a file that is not at hand is named before anything is written', () => {
		const engine = opened([paintLayer('p', 'P')]);
		expect(() => writeProjectZip(parts(engine, { files: new Map() }), write)).toThrow(/not at hand/);
		engine.close();
	});
});

describe('the page', () => {
	const page = async (engine: Engine, change = {}): Promise<string> => {
		const bytes = await writePage(engine, { ...usualPage, turns: 4, ...change }, pages);
		return new TextDecoder().decode(bytes as Uint8Array);
	};
	test('names that are written like markup are shown as they are, and end nothing', async () => {
		const name = '</script><img src=x onerror=alert(1)>"\'&';
		const engine = opened([paintLayer('p', name), washLayer('w', 'W', '#123456', { opacity: 0.5 })]);
		const html = await page(engine, { title: name, words: name });
		expect(html.includes('<img src=x')).toBe(false);
		const parsed = new DOMParser({ onError: () => undefined }).parseFromString(html, 'text/html');
		expect(parsed.getElementsByTagName('h1')[0]?.textContent).toBe(name);
		expect(parsed.getElementsByTagName('option')[0]?.textContent).toContain(name);
		expect(parsed.getElementsByTagName('script').length).toBe(3);
		engine.close();
	});
	test('sheets without a model, and models by themselves, have their part; sizes go down from the sheet’s own', async () => {
		const engine = opened([paintLayer('p', 'P')], 1, { models: [] });
		const html = await page(engine);
		const parsed = new DOMParser({ onError: () => undefined }).parseFromString(html, 'text/html');
		expect(parsed.getElementById('turn0')).toBeNull();
		expect([...parsed.getElementsByTagName('figcaption')].map(({ textContent }) => textContent)).toEqual(
			expect.arrayContaining([`${SIDE} × ${SIDE} texels`, '32 px']),
		);
		expect(html.includes('64 px')).toBe(false);
		engine.close();
	});
	test('it says how far it is, and stops where it is asked to', async () => {
		const engine = opened([paintLayer('p', 'P')]);
		const far: number[] = [];
		const all = await writePage(engine, { ...usualPage, turns: 4 }, pages, (done) => far.push(done) > 0);
		expect(all).not.toBeNull();
		expect(far).toEqual([...far].sort((a, b) => a - b));
		expect(far.at(-1)).toBe(1);
		expect(await writePage(engine, { ...usualPage, turns: 4 }, pages, (done) => done < 0.5)).toBeNull();
		await expect(writePage(engine, { ...usualPage, turns: 3 }, pages)).rejects.toThrow(OrderError);
		engine.close();
	});
});
