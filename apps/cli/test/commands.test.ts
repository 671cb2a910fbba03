import { createHash } from 'node:crypto';
import { mkdtempSync, readFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { deflateRawSync } from 'node:zlib';
import { apiaryPalette } from '@eppu/core/color';
import { type Project, paintLayer, washLayer } from '@eppu/core/document';
import { packPicture, paletteOfHexList, paletteOfTokens } from '@eppu/core/format';
import { writeObj } from '@eppu/core/mesh';
import { newStep } from '@eppu/core/recipe';
import { openSourceStore, packDelta } from '@eppu/server/store';
import { beforeAll, expect, test } from '@jest/globals';
import LibSql from 'libsql';
import sharp from 'sharp';
import { smokerMesh } from '../../../demo/mesh/smoker.ts';
import { writeBuildUps, writePalette } from '../src/besides.ts';
import { checkData, listProjects, reportProject, templateProject } from '../src/commands.ts';
import { exportProject } from '../src/textures.ts';

const folder = mkdtempSync(join(tmpdir(), 'eppu-cli-'));
const data = join(folder, 'test.db');

beforeAll(() => {
	const sheet = (id: string, name: string) => ({
		id,
		name,
		width: 64,
		height: 32,
		bleed: 4,
		base: null,
		guide: null,
		layers: [washLayer(`${id}-w`, 'Wash', '#336699')],
	});
	const project: Project = {
		schema: 1,
		id: 'jar',
		name: 'Honey jar',
		palette: apiaryPalette,
		models: [],
		sheets: [sheet('a', 'Glass'), sheet('b', 'Label')],
	};
	const store = openSourceStore(data);
	store.create(project, []);
	store.close();
});

test('writes every sheet by the project’s name, at its own size', async () => {
	const files = await exportProject({ project: 'honey JAR', out: join(folder, 'out'), data });
	expect(files.map((file) => file.split('/').at(-1))).toEqual(['honey-jar-glass.png', 'honey-jar-label.png']);
	const { data: texels, info } = await sharp(readFileSync(files[0] as string))
		.raw()
		.toBuffer({ resolveWithObject: true });
	expect([info.width, info.height]).toEqual([64, 32]);
	expect(texels.every((v, i) => v === [0x33, 0x66, 0x99, 255][i % 4])).toBe(true);
});

test('one sheet, smaller, under a name of the caller’s pattern', async () => {
	const files = await exportProject({
		project: 'jar',
		out: folder,
		data,
		sheet: 'label',
		size: '16',
		pattern: '{sheet}_{size}',
	});
	expect(files).toEqual([join(folder, 'label_16.png')]);
	expect(await sharp(files[0]).metadata()).toMatchObject({ width: 16, height: 8 });
});

test('what is not there, or does not fit, is told in words', async () => {
	expect(listProjects(data).map((card) => card.name)).toEqual(['Honey jar']);
	await expect(exportProject({ project: 'lamp', out: folder, data })).rejects.toThrow(/no project "lamp".*Honey jar/);
	await expect(exportProject({ project: 'jar', out: folder, data, sheet: 'lid' })).rejects.toThrow(/no sheet "lid"/);
	await expect(exportProject({ project: 'jar', out: folder, data, size: '9000' })).rejects.toThrow(/1 to 8192/);
	await expect(exportProject({ project: 'jar', out: folder, data: join(folder, 'none.db') })).rejects.toThrow(
		/no data file/,
	);
});

test('pictures of the artist’s own come along: a pattern made of one is not left out', async () => {
	const own = join(folder, 'own.db');
	const store = openSourceStore(own);
	const red = Uint8Array.from({ length: 16 * 16 * 4 }, (_, i) => [200, 30, 20, 255][i % 4] as number);
	store.library.put({ id: 'mine', kind: 'stencil', name: 'Mine' }, packPicture({ width: 16, height: 16, data: red }));
	const fill = { fill: 'picture', picture: 'mine', scale: 16, turn: 0, x: 0, y: 0, tint: null } as const;
	store.create(
		{
			schema: 1,
			id: 'cloth',
			name: 'Cloth',
			palette: apiaryPalette,
			models: [],
			sheets: [
				{
					id: 's',
					name: 'Cloth',
					width: 64,
					height: 64,
					bleed: 4,
					base: null,
					guide: null,
					layers: [washLayer('w', 'Weave', '#000000', { fill })],
				},
			],
		},
		[],
	);
	store.close();
	const [file] = await exportProject({ project: 'Cloth', out: join(folder, 'cloth'), data: own });
	const { data: shown } = await sharp(file).raw().ensureAlpha().toBuffer({ resolveWithObject: true });
	expect([...shown.subarray(0, 4)]).toEqual([200, 30, 20, 255]);
});

test('threads write the bytes that one writes; how many must be a number', async () => {
	const worn = join(folder, 'worn.db');
	const store = openSourceStore(worn);
	const masked = (['clouds', 'scratches', 'speckle'] as const).map((step, i) =>
		washLayer(`w${i}`, `Wash ${i}`, '#a8452b', {
			opacity: 0.5,
			mask: { surface: `w${i}-m`, on: true, recipe: [newStep(step, 's')] },
		}),
	);
	store.create(
		{
			schema: 1,
			id: 'worn',
			name: 'Worn',
			palette: apiaryPalette,
			models: [],
			sheets: [
				{ id: 's', name: 'S', width: 320, height: 200, bleed: 4, base: '#cfe0a0', guide: null, layers: masked },
				{ id: 't', name: 'T', width: 130, height: 70, bleed: 4, base: null, guide: null, layers: [] },
			],
		},
		[],
	);
	store.close();
	const written = async (jobs: string): Promise<Buffer[]> =>
		(await exportProject({ project: 'Worn', out: join(folder, `worn-${jobs}`), data: worn, jobs })).map((file) =>
			readFileSync(file),
		);
	// Threads first: what they made is kept, so the other must not find it.
	const many = await written('3');
	const db = new LibSql(worn);
	expect(db.prepare('select count(*) as n from made').get()).toMatchObject({ n: masked.length });
	db.exec('delete from made');
	db.close();
	expect((await written('1')).map((file, i) => Buffer.compare(file, many[i] as Buffer))).toEqual([0, 0]);
	expect(new Set((await sharp(many[0]).stats()).channels.map(({ stdev }) => stdev > 2))).toContain(true);
	await expect(exportProject({ project: 'Worn', out: folder, data: worn, jobs: 'all' })).rejects.toThrow(
		/1 to 64; not "all"/,
	);
}, 60_000);

test('a report and a template tell of the project’s models; one without models has none; an unknown one is told', async () => {
	expect(await reportProject('jar', data)).toEqual([]);
	await expect(reportProject('lamp', data)).rejects.toThrow(/no project "lamp".*Honey jar/);
	const file = join(folder, 'report.db');
	const store = openSourceStore(file);
	const mesh = smokerMesh();
	const bytes = new TextEncoder().encode(writeObj(mesh));
	const hash = createHash('sha256').update(bytes).digest('hex');
	const parts = mesh.parts.map(({ name }) => ({ name, sheet: 's', shown: true }));
	store.create(
		{
			schema: 1,
			id: 'can',
			name: 'Can',
			palette: apiaryPalette,
			models: [{ id: 'm', name: 'Smoker', asset: { hash, name: 'can.obj' }, parts }],
			sheets: [{ id: 's', name: 'S', width: 512, height: 256, bleed: 4, base: null, guide: null, layers: [] }],
		},
		[{ name: 'can.obj', bytes }],
	);
	store.close();
	const [report, ...others] = await reportProject('Can', file);
	expect(others).toEqual([]);
	expect(report?.model).toBe('Smoker');
	expect(report?.parts.map(({ name }) => name)).toEqual(mesh.parts.map(({ name }) => name));
	// All parts of two sheets lie on one here, which is told.
	expect(report?.findings.map(({ kind }) => kind)).toContain('overlap');
	expect(JSON.parse(JSON.stringify(report))).toEqual(report);
	// Its template, at the sheet's own shape.
	const out = join(folder, 'template');
	const [png, ...more] = await templateProject({ project: 'Can', out, size: '128', data: file });
	expect([png, ...more]).toEqual([join(out, 'can-s-template.png')]);
	expect(await sharp(png).metadata()).toMatchObject({ width: 128, height: 64, channels: 4 });
	const [svg] = await templateProject({ project: 'Can', out, svg: true, data: file });
	expect(readFileSync(svg as string, 'utf8')).toMatch(/^<svg [^>]*viewBox="0 0 512 256"/);
	await expect(templateProject({ project: 'Can', out, size: '9', data: file })).rejects.toThrow(/16 to 8192 px/);
	await expect(templateProject({ project: 'jar', out, data })).rejects.toThrow(/no template/);
});

test('check finds a whole file whole, and names what is wrong with one that is not', async () => {
	expect(await checkData(data)).toEqual([]);
	const odd = join(folder, 'odd.db');
	const store = openSourceStore(odd);
	const layers = [paintLayer('l', 'Paint')];
	const texels = new Uint8Array(16384).map((_, i) => i % 251);
	store.create(
		{
			schema: 1,
			id: 'tin',
			name: 'Tin',
			palette: apiaryPalette,
			models: [],
			sheets: [{ id: 's', name: 'S', width: 128, height: 128, bleed: 4, base: null, guide: null, layers }],
		},
		[],
		{ tiles: packDelta({ project: {} as Project, tiles: [{ surface: 'l', index: 1, value: null, texels }] }) },
	);
	expect(await checkData(odd)).toEqual([]);
	const db = new LibSql(odd);
	// Two parameters: the driver takes one that is an object for names.
	db.prepare('update blob set bytes = ? where hash = (select hash from tile where idx = ?)').run(
		deflateRawSync(new Uint8Array(16384)),
		1,
	);
	db.exec("insert into tile (project, surface, idx, value) values ('tin', 'l', 9, 7)");
	const problems = await checkData(odd);
	expect(problems.join('\n')).toMatch(/"Tin": Tile 1 of "l" is not what it was/);
	expect(problems.join('\n')).toMatch(/"Tin": Tile 9 of "l" lies beyond its sheet/);
	await expect(checkData(join(folder, 'none.db'))).rejects.toThrow(/no data file/);
});

test('a palette goes out in three kinds that are read again the same, a build-up ends with what the sheet shows', async () => {
	const out = join(folder, 'besides');
	const kinds = { json: paletteOfTokens, txt: paletteOfHexList } as const;
	for (const [as, read] of Object.entries(kinds)) {
		const [file] = await writePalette({ project: 'Honey jar', out, as, data });
		const found = read(readFileSync(file as string, 'utf8'), file as string);
		expect(found.ok && found.palette.colors).toEqual(apiaryPalette.colors);
	}
	const [strip] = await writePalette({ project: 'Honey jar', out, as: 'png', data });
	const { data: texels, info } = await sharp(strip).removeAlpha().raw().toBuffer({ resolveWithObject: true });
	expect(info.width).toBe(apiaryPalette.colors.length * 16);
	expect(`#${texels.subarray(0, 3).toString('hex')}`).toBe(apiaryPalette.colors[0]);
	await expect(writePalette({ project: 'Honey jar', out, as: 'odd', data })).rejects.toThrow(
		/--as takes json, txt, png/,
	);
	const [jar, ...more] = await writeBuildUps({ project: 'Honey jar', out, sheet: 'glass', data });
	expect(more).toEqual([]);
	const seen = await sharp(jar).removeAlpha().raw().toBuffer({ resolveWithObject: true });
	const colors = new Set<string>();
	for (let i = 0; i < seen.data.length; i += 3) colors.add(seen.data.subarray(i, i + 3).toString('hex'));
	expect(colors).toEqual(new Set(['777777', '336699']));
	expect(await writeBuildUps({ project: 'Honey jar', out, data })).toHaveLength(2);
	await expect(writeBuildUps({ project: 'Honey jar', out, sheet: 'lid', data })).rejects.toThrow(/no sheet "lid"/);
});
