/** Bundles from the command line: of a kept project, with only its changed textures different, and recoloured. */
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { apiaryPalette } from '@eppu/core/color';
import { emptyDesk } from '@eppu/core/document';
import type { Engine } from '@eppu/core/engine';
import { readModel } from '@eppu/core/mesh';
import { openSourceStore, packDelta } from '@eppu/server/store';
import { afterAll, beforeAll, expect, test } from '@jest/globals';
import { unzipSync } from 'fflate';
import sharp from 'sharp';
import { makeGridProjects } from '../../../demo/grid.ts';
import { makeItemProjects } from '../../../demo/items.ts';
import { recolorBundle, writeProjectBundle } from '../src/bundle.ts';
import { writeGrids } from '../src/grid.ts';

const folder = mkdtempSync(join(tmpdir(), 'eppu-bundle-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));
const [data, zip] = [join(folder, 'data.db'), join(folder, 'set.zip')];
const at = (name: string): string => join(folder, name);
const files = (name: string): Record<string, Uint8Array> => unzipSync(readFileSync(at(name)));

beforeAll(async () => {
	const store = openSourceStore(data);
	for (const { engine, desk, files: own } of [
		...(await makeItemProjects(() => true)),
		...(await makeGridProjects(() => true)),
	]) {
		const jar = engine.project.sheets.find(({ name }) => name === 'Honey jar');
		if (engine.project.bundle && jar)
			engine.edit(jar.id, jar.layers[0]?.id, { do: 'recolor', pairs: [['#e8b345', '#cbd7a8']] });
		const delta = engine.takeDelta();
		store.create(engine.project, own, { desk, tiles: delta ? packDelta(delta) : [] });
		if (own[0]?.name.endsWith('.zip')) writeFileSync(zip, own[0].bytes);
		engine.close();
	}
	store.close();
}, 60_000);

test('a kept project’s bundle comes with its changed texture alone different', async () => {
	const written = await writeProjectBundle({ project: 'Mossbarrow textures', out: at('out.zip'), data });
	expect(written).toEqual({ changed: ['textures/items/honey-jar.png'], files: 16 });
	const [before, after] = [unzipSync(readFileSync(zip)), files('out.zip')];
	expect(Object.keys(after)).toEqual(Object.keys(before));
	for (const path of Object.keys(before)) {
		const same = Buffer.compare(before[path] as Uint8Array, after[path] as Uint8Array) === 0;
		expect([path, same]).toEqual([path, path !== 'textures/items/honey-jar.png']);
	}
	const { data: texels } = await sharp(after['textures/items/honey-jar.png'])
		.raw()
		.toBuffer({ resolveWithObject: true });
	expect(texels.includes(Buffer.from([0xcb, 0xd7, 0xa8, 255]))).toBe(true);
	expect(texels.includes(Buffer.from([0xe8, 0xb3, 0x45, 255]))).toBe(false);
	await expect(writeProjectBundle({ project: 'Mossbarrow items', out: at('no.zip'), data })).rejects.toThrow(
		/has no bundle/,
	);
});

test('what was recoloured of a project’s bundle is in every texture that was meant, painted on or not', async () => {
	const store = openSourceStore(data);
	const card = store.list().find(({ name }) => name === 'Mossbarrow textures');
	if (!card) throw new Error('no textures');
	const { engine } = (await makeItemProjects((id) => id === card.id))[0] as { engine: Engine };
	const from = '#f3e9d2';
	engine.recolor([], [[from, '#010203']], null, 'items');
	expect(engine.project.recolors).toEqual([{ pairs: [[from, '#010203']], only: 'items' }]);
	engine.undo();
	expect(engine.project.recolors).toEqual([]);
	engine.redo();
	store.create(
		{ ...engine.project, id: 'again', name: 'Recoloured' },
		[{ name: 'set.zip', bytes: readFileSync(zip) }],
		{
			desk: emptyDesk,
			tiles: [],
		},
	);
	engine.close();
	store.close();
	const { changed } = await writeProjectBundle({ project: 'Recoloured', out: at('colors.zip'), data });
	const [before, after] = [unzipSync(readFileSync(zip)), files('colors.zip')];
	const has = async (bytes: Uint8Array | undefined, rgb: number[]): Promise<boolean> =>
		(await sharp(bytes).ensureAlpha().raw().toBuffer()).includes(Buffer.from([...rgb, 255]));
	const sheets = new Set(engine.project.sheets.map(({ path }) => path));
	let meant = 0;
	for (const path of Object.keys(before).filter((each) => each.endsWith('.png') && !sheets.has(each))) {
		const touched = path.includes('items') && (await has(before[path], [0xf3, 0xe9, 0xd2]));
		meant += Number(touched);
		expect([path, changed.includes(path)]).toEqual([path, touched]);
		expect([path, await has(after[path], [1, 2, 3])]).toEqual([path, touched]);
	}
	expect(meant).toBeGreaterThan(1);
});

test('a bundle is brought onto a palette: every colour is of it, alpha is as it was, other files are untouched', async () => {
	const own = (apiaryPalette.ramps?.[2]?.colors ?? []).map((hex) => hex.slice(1));
	writeFileSync(at('tin.txt'), own.join('\n'));
	const written = await recolorBundle({ bundle: zip, palette: at('tin.txt'), out: at('tin.zip'), only: 'items/' });
	expect(written.changed.every((path) => path.includes('items/'))).toBe(true);
	const [before, after] = [unzipSync(readFileSync(zip)), files('tin.zip')];
	for (const path of Object.keys(before)) {
		if (!path.includes('items/')) {
			expect(Buffer.compare(before[path] as Uint8Array, after[path] as Uint8Array)).toBe(0);
			continue;
		}
		const [was, now] = await Promise.all([before, after].map((all) => sharp(all[path]).ensureAlpha().raw().toBuffer()));
		for (let i = 0; i < (now as Buffer).length; i += 4) {
			expect((now as Buffer)[i + 3]).toBe((was as Buffer)[i + 3]);
			if ((now as Buffer)[i + 3]) expect(own).toContain((now as Buffer).subarray(i, i + 3).toString('hex'));
		}
	}
	await expect(recolorBundle({ bundle: zip, palette: at('none.txt'), out: at('x.zip') })).rejects.toThrow(/no file/);
	await expect(recolorBundle({ bundle: zip, palette: at('tin.txt'), out: at('x.zip'), way: 'odd' })).rejects.toThrow(
		/near or light/,
	);
});

test('a colour grid goes out at every size, and each face of its models shows the colour of its cell there', async () => {
	const written = await writeGrids({ project: 'Mossbarrow yard', out: at('yard'), size: '16', data });
	expect(written.filter((file) => file.endsWith('.glb'))).toHaveLength(5);
	expect(written.filter((file) => file.endsWith('.obj'))).toHaveLength(5);
	const { data: texels, info } = await sharp(written[0]).ensureAlpha().raw().toBuffer({ resolveWithObject: true });
	expect([info.width, info.height]).toEqual([16, 16]);
	for (const file of written.filter((each) => each.endsWith('.obj'))) {
		const read = await readModel(new Uint8Array(readFileSync(file)), 'prop.obj');
		if (!read.ok) throw new Error(read.error.text);
		const { uvs, indices } = read.mesh;
		for (let face = 0; face < indices.length / 3; face++) {
			const corners = [0, 1, 2].map((k) => indices[face * 3 + k] as number);
			const cells = corners.map((v) =>
				[uvs[v * 2] as number, uvs[v * 2 + 1] as number].map((share) => Math.floor(share * 8)).join(),
			);
			// All of it in one cell, and there is a colour there, at the smallest size.
			expect(new Set(cells).size).toBe(1);
			for (const v of corners) {
				const [x, y] = [uvs[v * 2] as number, uvs[v * 2 + 1] as number].map((share) => Math.floor(share * 16)) as [
					number,
					number,
				];
				expect(texels[(y * 16 + x) * 4 + 3]).toBe(255);
			}
		}
	}
	await expect(writeGrids({ project: 'Mossbarrow items', out: at('no'), data })).rejects.toThrow(/no colour grid/);
	await expect(writeGrids({ project: 'Mossbarrow yard', out: at('no'), size: '9', data })).rejects.toThrow(
		/16 to 1024/,
	);
});
