import { mkdtempSync, readFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { apiaryPalette } from '@eppu/core/color';
import { type Project, washLayer } from '@eppu/core/document';
import { openSourceStore } from '@eppu/server/store';
import { beforeAll, expect, test } from '@jest/globals';
import sharp from 'sharp';
import { exportProject, listProjects } from '../src/commands.ts';

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
	await expect(exportProject({ project: 'jar', out: folder, data, size: '4096' })).rejects.toThrow(/takes 1 to 64/);
	await expect(exportProject({ project: 'jar', out: folder, data: join(folder, 'none.db') })).rejects.toThrow(
		/no data file/,
	);
});
