/** Models come into a project, are exchanged for newer versions with their paint, and go. */
import { readFileSync } from 'node:fs';
import { layOut, layoutOf } from '@eppu/core/layout';
import { readModel, writeObj } from '@eppu/core/mesh';
import { Document, WebIO } from '@gltf-transform/core';
import { expect, type Page, test } from '@playwright/test';
import sharp from 'sharp';
import { smokerMesh } from '../demo/mesh/smoker.ts';
import {
	canvasPixel,
	chooseOf,
	computed,
	crash,
	engineOf,
	exportByCommand,
	exportPng,
	kept,
	pxApart,
	pxOnGrid,
	settled,
	stroke,
} from './artist.ts';
import { decodePng } from './png.ts';
import { createServer } from './server.ts';

const server = createServer('models');
test.beforeAll(() => server.start());
test.afterAll(() => server.kill());

/** The smoker with its bellows beside the can, as a file; laid out turned, where it is the newer one. */
const file = (name: string, turned: boolean): { name: string; mimeType: string; buffer: Buffer } => {
	const mesh = smokerMesh();
	const bellows = mesh.parts.find(({ name }) => name === 'Bellows')?.firstFace as number;
	const { uvs } = layoutOf(mesh);
	const beside = uvs.map((v, i) => v / 2 + (i % 2 === 0 && i >= bellows * 6 ? 0.5 : 0));
	const laid = turned
		? beside.map((_, i) => (i % 2 ? (beside[i - 1] as number) : 1 - (beside[i + 1] as number)))
		: beside;
	return { name, mimeType: 'text/plain', buffer: Buffer.from(writeObj(layOut(mesh, { uvs: laid }))) };
};
const onLayOut = async (page: Page): Promise<void> => {
	await page.getByRole('link', { name: 'Lay out' }).click();
	await expect(page.getByRole('region', { name: 'What to know of this model' })).toBeVisible();
	await chooseOf(page, 'Colour the faces by', 'Paint');
	await page.waitForTimeout(500);
};

test('a newer version takes the place of a model with its paint; another comes in with a sheet of its own', async ({
	page,
}) => {
	await page.goto(server.url);
	await page.getByLabel('Model or picture').setInputFiles(file('smoker.obj', false));
	await page.getByRole('button', { name: '512', exact: true }).click();
	await page.getByRole('button', { name: 'Begin painting' }).click();
	await settled(page);
	for (const v of [0.45, 0.6])
		await stroke(page, 'model', [
			[0.35, v],
			[0.5, v + 0.04],
			[0.65, v],
		]);
	await kept(page);
	const id = page.url().split('/')[4] as string;
	await onLayOut(page);
	const before = await pxOnGrid(page, 'model');
	const written = async (): Promise<Buffer> => {
		const png = await exportPng(page, server.url, 'smoker', id);
		await onLayOut(page);
		return png;
	};
	const first = await written();

	await page.getByRole('button', { name: 'More of smoker', exact: true }).click();
	const chooser = page.waitForEvent('filechooser');
	await page.getByRole('menuitem', { name: 'Newer version from a file…' }).click();
	await (await chooser).setFiles(file('smoker-2.obj', true));
	await expect(page.getByText('The paint went along').last()).toBeVisible({ timeout: 30_000 });
	await computed(page);
	await page.waitForTimeout(500);
	expect(pxApart(before, await pxOnGrid(page, 'model'))).toBeLessThanOrEqual(2);
	await expect(page.getByText('smoker-2.obj')).toBeVisible();
	await kept(page);
	const second = await written();
	expect(second.equals(first)).toBe(false);

	// The next visit has the newer one, and takes it back too.
	await page.reload();
	await settled(page);
	await computed(page);
	await chooseOf(page, 'Colour the faces by', 'Paint');
	await page.waitForTimeout(600);
	expect(pxApart(before, await pxOnGrid(page, 'model'))).toBeLessThanOrEqual(2);
	const byCommand = await decodePng(exportByCommand(server.data, id, 'smoker'));
	expect(Buffer.compare(byCommand.data, (await decodePng(second)).data)).toBe(0);
	await page.keyboard.press('Control+z');
	await computed(page);
	await expect(page.getByText('smoker.obj', { exact: false })).toBeVisible();
	expect((await written()).equals(first)).toBe(true);

	// Another model: a sheet of its own, shown and painted by itself.
	const another = page.waitForEvent('filechooser');
	await page.getByRole('button', { name: 'Bring in another model…' }).click();
	await (await another).setFiles({
		name: 'plate.obj',
		mimeType: 'text/plain',
		buffer: Buffer.from('o Plate\nv -1 -1 0\nv 1 -1 0\nv 1 1 0\nv -1 1 0\nf 1 2 3 4\n'),
	});
	await page.getByRole('button', { name: /^plate/ }).click();
	await expect(page.getByRole('button', { name: /^plate/ })).toHaveAttribute('aria-pressed', 'true');
	await page.getByRole('link', { name: 'Paint', exact: true }).click();
	await settled(page);
	const ground = await canvasPixel(page, 'model', [0.5, 0.5]);
	await stroke(page, 'model', [
		[0.4, 0.5],
		[0.6, 0.5],
	]);
	await expect.poll(async () => (await canvasPixel(page, 'model', [0.5, 0.5])).join()).not.toBe(ground.join());
	await kept(page);
	await page.reload();
	await settled(page);
	await page.getByRole('link', { name: 'Lay out' }).click();
	await expect(page.getByRole('button', { name: /^plate/ })).toHaveAttribute('aria-pressed', 'true');
	await page.getByRole('button', { name: 'More of plate', exact: true }).click();
	await page.getByRole('menuitem', { name: 'Take it away' }).click();
	await expect(page.getByRole('button', { name: /^plate/ })).toHaveCount(0);

	// What is no model is answered, and nothing is changed.
	const wrong = page.waitForEvent('filechooser');
	await page.getByRole('button', { name: 'Bring in another model…' }).click();
	await (await wrong).setFiles({ name: 'bad.obj', mimeType: 'text/plain', buffer: Buffer.from('v 1 2\nnothing') });
	await expect(page.getByText(/bad\.obj/)).toBeVisible();
	await expect(page.getByRole('button', { name: /^smoker/ })).toBeVisible();
});

test('a tab that dies while a model is exchanged: the next visit has the newer one with the paint, and undo the first', async ({
	page,
	context,
}) => {
	await page.goto(server.url);
	await page.getByLabel('Model or picture').setInputFiles(file('smoker.obj', false));
	await page.getByRole('button', { name: '512', exact: true }).click();
	await page.getByRole('button', { name: 'Begin painting' }).click();
	await settled(page);
	await stroke(page, 'model', [
		[0.35, 0.5],
		[0.65, 0.54],
	]);
	await kept(page);
	const id = page.url().split('/')[4] as string;
	await onLayOut(page);
	const before = await pxOnGrid(page, 'model');
	await page.getByRole('button', { name: 'More of smoker', exact: true }).click();
	const chooser = page.waitForEvent('filechooser');
	await page.getByRole('menuitem', { name: 'Newer version from a file…' }).click();
	await (await chooser).setFiles(file('smoker-2.obj', true));
	await expect(page.getByText('Taking the paint along')).toBeVisible();
	await crash(page);
	const next = await context.newPage();
	await next.goto(`${server.url}/project/${id}/lay-out`);
	await settled(next);
	await expect(next.getByText('smoker-2.obj')).toBeVisible({ timeout: 20_000 });
	await chooseOf(next, 'Colour the faces by', 'Paint');
	await expect.poll(async () => pxApart(await pxOnGrid(next, 'model'), before)).toBeLessThanOrEqual(2);
	await kept(next);
	await next.keyboard.press('Control+z');
	await expect(next.getByText('smoker.obj')).toBeVisible();
	await expect.poll(async () => pxApart(await pxOnGrid(next, 'model'), before)).toBeLessThanOrEqual(2);
});

/** A plate as a GLB with a picture, vertex colours and two UV sets. */
async function richPlate(): Promise<Buffer> {
	const document = new Document();
	const buffer = document.createBuffer();
	const list = (type: 'VEC2' | 'VEC3' | 'VEC4', values: readonly number[]) =>
		document.createAccessor().setType(type).setArray(new Float32Array(values)).setBuffer(buffer);
	const picture = await sharp({ create: { width: 8, height: 8, channels: 3, background: '#3060c0' } })
		.png()
		.toBuffer();
	const primitive = document
		.createPrimitive()
		.setAttribute('POSITION', list('VEC3', [-1, -1, 0, 1, -1, 0, 1, 1, 0, -1, 1, 0]))
		.setAttribute('TEXCOORD_0', list('VEC2', [0.1, 0.9, 0.9, 0.9, 0.9, 0.1, 0.1, 0.1]))
		.setAttribute('TEXCOORD_1', list('VEC2', [0.1, 0.5, 0.5, 0.5, 0.5, 0.1, 0.1, 0.1]))
		.setAttribute('COLOR_0', list('VEC4', [1, 0, 0, 1, 1, 0, 0, 1, 1, 0, 0, 1, 1, 0, 0, 1]))
		.setIndices(
			document
				.createAccessor()
				.setType('SCALAR')
				.setArray(new Uint32Array([0, 1, 2, 0, 2, 3]))
				.setBuffer(buffer),
		)
		.setMaterial(
			document
				.createMaterial('Tin')
				.setBaseColorTexture(document.createTexture('Blue').setImage(picture).setMimeType('image/png')),
		);
	document.createScene().addChild(document.createNode('Plate').setMesh(document.createMesh().addPrimitive(primitive)));
	return Buffer.from(await new WebIO().writeBinary(document));
}

test('what a GLB holds beside its geometry: picture and vertex colours become layers, another UV set its layout', async ({
	page,
}) => {
	await page.goto(server.url);
	await page
		.getByLabel('Model or picture')
		.setInputFiles({ name: 'plate.glb', mimeType: 'model/gltf-binary', buffer: await richPlate() });
	await expect(page.getByText('vertex colours: Lay out makes a layer')).toBeVisible();
	await page.getByRole('button', { name: '256', exact: true }).click();
	await page.getByRole('button', { name: 'Begin painting' }).click();
	await settled(page);
	const id = page.url().split('/')[4] as string;
	await onLayOut(page);
	const choose = async (...path: readonly string[]): Promise<void> => {
		await page.getByRole('button', { name: 'More of plate', exact: true }).click();
		for (const [i, label] of path.entries()) {
			const item = page.getByRole('menuitem', { name: label, exact: true });
			if (i + 1 < path.length) await item.press('ArrowRight');
			else await item.click();
		}
	};
	const shows = (color: readonly number[]) =>
		expect
			.poll(async () => {
				const px = await canvasPixel(page, 'sheet', [0.5, 0.5]);
				return px.slice(0, 3).every((v, k) => Math.abs(v - (color[k] as number)) < 6);
			})
			.toBe(true);
	await choose('Layer of its colour picture', 'Blue');
	await shows([0x30, 0x60, 0xc0]);
	await choose('Layer of its vertex colours');
	await shows([255, 0, 0]);
	await kept(page);
	const download = page.waitForEvent('download');
	await choose('Write with vertex colours', 'PLY');
	const written = await readModel(new Uint8Array(readFileSync(await (await download).path())), 'plate.ply');
	expect(written.ok && [...(written.mesh.colors ?? []).slice(0, 4)]).toEqual([1, 0, 0, 1]);
	await choose('Lie by UV set', '2');
	await expect(page.getByText('The paint went along').last()).toBeVisible({ timeout: 30_000 });
	await kept(page);
	const { layers } = (await engineOf(server.data, id)).project.sheets[0] as { layers: readonly { name: string }[] };
	expect(layers.map(({ name }) => name)).toEqual(['Ground', 'First coat', 'Blue', 'Vertex colours']);
	await page.keyboard.press('Control+z');
	await page.keyboard.press('Control+z');
	await computed(page);
	await shows([0x30, 0x60, 0xc0]);
});
