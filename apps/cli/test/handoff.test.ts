import { type ChildProcess, execFileSync, spawn } from 'node:child_process';
import { copyFileSync, existsSync, mkdtempSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { washLayer } from '@eppu/core/document';
import { zipOf } from '@eppu/core/format';
import { openSourceStore } from '@eppu/server/store';
import { beforeAll, describe, expect, test } from '@jest/globals';
import { DOMParser } from '@xmldom/xmldom';
import JSZip from 'jszip';
import sharp from 'sharp';
import { beginProject, takeFile, writeLayers, writeModels, writeShowPage, writeWhole } from '../src/handoff.ts';
import { savingWays, standIn } from '../src/standIn.ts';
import { exportProject } from '../src/textures.ts';
import { keepTinCan } from './tinCan.ts';

const folder = mkdtempSync(join(tmpdir(), 'eppu-handoff-'));
const data = join(folder, 'test.db');
const out = (name: string): string => join(folder, name);
const main = ['--import', 'tsx', 'apps/cli/src/main.ts'];
const command = (...args: string[]): string =>
	execFileSync(process.execPath, [...main, ...args, '--data', data], {
		encoding: 'utf8',
		stdio: ['ignore', 'pipe', 'pipe'],
	});

beforeAll(() => keepTinCan(data));

const raw = async (file: string): Promise<Buffer> => sharp(file).ensureAlpha().raw().toBuffer();

describe('textures', () => {
	test('WebP, palettes, layers, presets and ZIPs from the command line', async () => {
		const [png] = await exportProject({ project: 'can', data, out: out('a'), sheet: 'Tin' });
		const [webp] = await exportProject({ project: 'can', data, out: out('a'), sheet: 'Tin', file: 'webp' });
		expect((await raw(webp as string)).equals(await raw(png as string))).toBe(true);
		const layers = await exportProject({ project: 'can', data, out: out('l'), of: 'layer' });
		expect(layers.map((file) => file.slice(out('l').length + 1))).toEqual([
			'tin/ground.png',
			'tin/dabs.png',
			'tin/words.png',
			'leather/hide.png',
		]);
		const [half] = await exportProject({ project: 'can', data, out: out('h'), preset: 'half' });
		expect([half?.endsWith('half-tin.png'), (await sharp(half).metadata()).width]).toEqual([true, 64]);
		const [zip] = await exportProject({ project: 'can', data, out: out('z'), zip: 'all.zip', size: '32,16' });
		expect(Object.keys((await JSZip.loadAsync(readFileSync(zip as string))).files).length).toBe(4);
		for (const [asked, text] of [
			[{ file: 'tga' }, /png or webp/],
			[{ size: '0,9999' }, /1 to 8192/],
			[{ preset: 'none' }, /no preset.*Half/],
			[{ bleed: 'x' }, /takes a number/],
			[{ of: 'mask', sheet: 'Leather' }, /no masks/],
		] as const)
			await expect(exportProject({ project: 'can', data, out: out('x'), ...asked })).rejects.toThrow(text);
	});
});

test('models, layers and a page are written; the page takes nothing from elsewhere', async () => {
	const models = await writeModels({ project: 'can', data, out: out('m'), as: 'obj' });
	expect(models.map((file) => file.split('/').at(-1)).sort()).toEqual(['can.mtl', 'can.obj', 'leather.png', 'tin.png']);
	await expect(writeModels({ project: 'can', data, out: out('m'), as: 'max' })).rejects.toThrow(/glb, gltf, obj, ply/);
	const { files } = await writeLayers({ project: 'can', data, out: out('o') });
	expect(files.length).toBe(2);
	const [page] = await writeShowPage({ project: 'can', data, out: out('p'), turns: '4', title: 'A <can>' });
	const html = readFileSync(page as string, 'utf8');
	expect(html.includes('<h1>A &#60;can&#62;</h1>')).toBe(true);
	expect([...html.matchAll(/(?:src|href)="([^"]*)"/g)].every(([, at]) => at?.startsWith('data:'))).toBe(true);
	expect(/https?:|[("']\/\//.test(html)).toBe(false);
	const parsed = new DOMParser({ onError: () => undefined }).parseFromString(html, 'text/html');
	const frames = JSON.parse(parsed.getElementById('turn0')?.textContent ?? '[]') as string[];
	expect(frames.length).toBe(4);
	const first = await sharp(Buffer.from(frames[0]?.split(',')[1] as string, 'base64')).metadata();
	expect([first.format, first.width]).toEqual(['webp', 560]);
	await expect(writeShowPage({ project: 'can', data, out: out('p'), turns: '1' })).rejects.toThrow(/4 to 72/);
});

describe('beginning from a file', () => {
	test('a whole project as an open ZIP opens elsewhere to the same texels, editable', async () => {
		const [zip] = await writeWhole({ project: 'can', data, out: out('w') });
		const inside = await JSZip.loadAsync(readFileSync(zip as string));
		expect(Object.keys(inside.files)).toEqual(
			expect.arrayContaining(['project.json', 'read-me.txt', 'surfaces/p.png', 'surfaces/pm.png']),
		);
		const elsewhere = join(folder, 'elsewhere.db');
		const { id, notes } = await beginProject(zip as string, elsewhere);
		expect(notes).toEqual([]);
		const [before] = await exportProject({ project: 'can', data, out: out('w1'), sheet: 'Tin' });
		const [after] = await exportProject({ project: id, data: elsewhere, out: out('w2'), sheet: 'Tin' });
		expect(readFileSync(before as string).equals(readFileSync(after as string))).toBe(true);
		expect(
			openSourceStore(elsewhere)
				.load(id)
				.project.sheets[0]?.layers.map(({ kind }) => kind),
		).toEqual(['wash', 'paint', 'text']);
	});
	test('what is damaged in it is named and left out, or refused', async () => {
		const [zip] = await writeWhole({ project: 'can', data, out: out('w') });
		const inside = await JSZip.loadAsync(readFileSync(zip as string));
		const files = await Promise.all(
			Object.keys(inside.files).map(
				async (path) => [path, (await inside.file(path)?.async('uint8array')) as Uint8Array] as const,
			),
		);
		const changed = (change: (path: string, bytes: Uint8Array) => Uint8Array | null): string => {
			const file = join(folder, `bad-${Math.random()}.zip`);
			writeFileSync(
				file,
				zipOf(
					files.flatMap(([path, bytes]) => {
						const next = change(path, bytes);
						return next ? [[path, next] as const] : [];
					}),
				),
			);
			return file;
		};
		const hurt = await beginProject(
			changed((path, bytes) => (path === 'surfaces/p.png' ? bytes.subarray(0, 60) : bytes)),
			join(folder, 'bad.db'),
		);
		expect(hurt.notes.join()).toMatch(/surfaces\/p\.png/);
		const wrong = [
			[(path: string, bytes: Uint8Array) => (path.startsWith('files/') ? null : bytes), /lacks the file can\.glb/],
			[
				(path: string, bytes: Uint8Array) =>
					path === 'project.json' ? new TextEncoder().encode('{"format":"other"}') : bytes,
				/another program/,
			],
			[(path: string, bytes: Uint8Array) => (path === 'project.json' ? bytes.subarray(0, 50) : bytes), /damaged/],
			[(path: string, bytes: Uint8Array) => (path === 'project.json' ? null : bytes), /no whole project/],
		] as const;
		for (const [change, text] of wrong)
			await expect(beginProject(changed(change), join(folder, 'bad.db'))).rejects.toThrow(text);
	});
	test('OpenRaster becomes a project that looks the same', async () => {
		const { files } = await writeLayers({ project: 'can', data, out: out('o') });
		const { id } = await beginProject(files[0] as string, join(folder, 'ora.db'));
		const [before] = await exportProject({ project: 'can', data, out: out('o1'), sheet: 'Tin' });
		const [after] = await exportProject({ project: id, data: join(folder, 'ora.db'), out: out('o2') });
		expect((await raw(after as string)).equals(await raw(before as string))).toBe(true);
	});
});

test('the stand-in saves a whole file in each of its ways, with and without our attributes', async () => {
	const { files } = await writeLayers({ project: 'can', data, out: out('s'), sheet: 'Tin' });
	const file = files[0] as string;
	const before = readFileSync(file);
	const names = async (): Promise<string> => {
		const zip = await JSZip.loadAsync(readFileSync(file));
		return (await zip.file('stack.xml')?.async('string')) ?? '';
	};
	for (const [seed, way] of savingWays.entries()) {
		const bytes = await standIn({ file, way, seed: seed + 1, keeps: way !== 'rename' });
		expect(readFileSync(file).equals(Buffer.from(bytes))).toBe(true);
		expect(readFileSync(file).equals(before)).toBe(false);
		expect((await names()).includes('eppu:')).toBe(way === 'in-place');
	}
});

test('layers of a file are taken into a kept project as one more revision, once', async () => {
	const kept = join(folder, 'take.db');
	copyFileSync(data, kept);
	const { files } = await writeLayers({ project: 'can', data: kept, out: out('t'), sheet: 'Tin' });
	const file = files[0] as string;
	expect(await takeFile({ project: 'can', data: kept, file, sheet: 'Tin' })).toMatchObject({ changed: false });
	await standIn({ file, way: 'in-place', seed: 2, keeps: true });
	const [before] = await exportProject({ project: 'can', data: kept, out: out('t1'), sheet: 'Tin' });
	expect(await takeFile({ project: 'can', data: kept, file })).toMatchObject({ sheet: 'Tin', changed: true });
	const [after] = await exportProject({ project: 'can', data: kept, out: out('t2'), sheet: 'Tin' });
	expect((await raw(after as string)).equals(await raw(before as string))).toBe(false);
	expect(await takeFile({ project: 'can', data: kept, file })).toMatchObject({ changed: false });
	const store = openSourceStore(kept);
	expect(store.load('can').revision).toBe(openSourceStore(data).load('can').revision + 1);
	expect(store.problemsOf('can')).toEqual([]);
	await expect(takeFile({ project: 'can', data: kept, file, sheet: 'Leather' })).resolves.toMatchObject({
		changed: true,
	});
	await expect(takeFile({ project: 'can', data: kept, file: 'none.ora' })).rejects.toThrow(/no file none/);
	await expect(takeFile({ project: 'can', data: kept, file: kept })).rejects.toThrow(/not a ZIP/);
});

describe('the command', () => {
	test('says what it did as lines or JSON, nothing when asked to be quiet, and ends with 1 where checks find something', () => {
		expect(command('export', 'Tin can', '--out', out('c')).trim().split('\n').length).toBe(2);
		expect(JSON.parse(command('export', 'can', '--out', out('c'), '--json')).files.length).toBe(2);
		expect(command('export', 'can', '--out', out('c'), '--quiet')).toBe('');
		const status = (args: string[]): number | null => {
			try {
				command(...args);
				return 0;
			} catch (error) {
				return (error as { status: number }).status;
			}
		};
		expect(status(['findings', 'can', '--json'])).toBe(1);
		expect(status(['export', 'can', '--out', out('c'), '--nonsense'])).toBe(2);
		expect(status(['export', 'can'])).toBe(2);
		expect(status(['begin', 'can', '--watch'])).toBe(2);
	});
	test('--watch writes again when the project changes, and ends when it is asked to', async () => {
		const watched = join(folder, 'watched.db');
		copyFileSync(data, watched);
		const file = join(out('watch'), 'tin-can-leather.png');
		const child: ChildProcess = spawn(
			process.execPath,
			[...main, 'export', 'can', '--out', out('watch'), '--watch', '--data', watched],
			{ stdio: 'ignore' },
		);
		const until = async (what: () => boolean): Promise<void> => {
			for (let i = 0; i < 600 && !what(); i++) await new Promise((done) => setTimeout(done, 50));
			expect(what()).toBe(true);
		};
		try {
			await until(() => existsSync(file) && statSync(file).size > 0);
			const before = readFileSync(file);
			const store = openSourceStore(watched);
			const { project, revision } = store.load('can');
			const next = {
				...project,
				sheets: project.sheets.map((sheet) =>
					sheet.id === 'b' ? { ...sheet, layers: [washLayer('l', 'Hide', '#ff0000')] } : sheet,
				),
			};
			store.save('can', { base: revision, save: 'a-save-of-its-own', content: 'x', project: next, tiles: [] });
			await until(() => !readFileSync(file).equals(before) && statSync(file).size > 0);
			expect([...(await raw(file)).subarray(0, 3)]).toEqual([255, 0, 0]);
		} finally {
			child.kill('SIGTERM');
		}
		expect(await new Promise((done) => child.once('exit', done))).toBe(0);
	}, 90_000);
});
