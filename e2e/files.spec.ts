import { writeGlb, writeObj } from '@eppu/core/mesh';
import { expect, test } from '@playwright/test';
import sharp from 'sharp';
import { gridIds } from '../demo/grid.ts';
import { itemIds } from '../demo/items.ts';
import { smokerMesh } from '../demo/mesh/smoker.ts';
import { demoIds } from '../demo/projects.ts';
import { suitIds } from '../demo/suit.ts';
import { canvasPixel, kept, openPaint, settled, stroke } from './artist.ts';
import { createServer } from './server.ts';

const server = createServer('files');
test.beforeAll(() => server.start());
test.afterAll(() => server.kill());

const cube = 'v 0 0 0\nv 1 0 0\nv 1 1 0\nv 0 1 0\nvt 0 0\nvt 1 0\nvt 1 1\nvt 0 1\nf 1/1 2/2 3/3 4/4\n';
const wide = (() => {
	const bytes = Buffer.alloc(64);
	Buffer.from([137, 80, 78, 71, 13, 10, 26, 10, 0, 0, 0, 13]).copy(bytes);
	bytes.write('IHDR', 12, 'latin1');
	bytes.writeUInt32BE(30000, 16);
	bytes.writeUInt32BE(100, 20);
	return bytes;
})();

test('files that cannot be opened are answered in words, and no project is made', async ({ page }) => {
	await page.goto(server.url);
	const glb = Buffer.from(await writeGlb(smokerMesh()));
	const bad: readonly (readonly [string, Buffer, RegExp])[] = [
		['no-faces.obj', Buffer.from('v 0 0 0\nvt 0 0\n'), /no-faces\.obj holds no faces/],
		['nan.obj', Buffer.from(cube.replace('v 1 1 0', 'v NaN 1 0')), /nan\.obj holds a coordinate that is not a number/],
		[
			'million.obj',
			Buffer.from(`${cube.replace(/f .*/, '')}${'f 1/1 2/2 3/3\n'.repeat(1_000_000)}`),
			/million\.obj has 1,000,000 faces/,
		],
		['wrong.obj', glb, /wrong\.obj is named \.obj but holds GLB/],
		['cut.glb', glb.subarray(0, 4000), /cut\.glb is cut short/],
		['text.glb', Buffer.from('hello'), /text\.glb does not read as a GLB model/],
		['empty.png', Buffer.alloc(0), /empty\.png is empty/],
		['wide.png', wide, /wide\.png is 30000 by 100 px/],
		['wrong.png', Buffer.from(cube), /wrong\.png is not a picture that Eppu opens/],
		[
			'broken.png',
			Buffer.concat([
				(
					await sharp({ create: { width: 64, height: 64, channels: 3, background: '#888' } })
						.png()
						.toBuffer()
				).subarray(0, 60),
			]),
			/broken\.png is damaged/,
		],
		['cut.ply', Buffer.from('ply\nformat ascii 1.0\nelement vertex 3\n'), /cut\.ply has no end of its header/],
		['song.mp3', Buffer.from('x'), /neither a model .* a picture .* nor a bundle/],
		['cut.zip', Buffer.from('PK\u0003\u0004 and no end'), /cut\.zip is not a ZIP, or its end is missing/],
		['plain.json', Buffer.from('{"figure": 2}'), /plain\.json is no figure that can be worn: it does not say/],
	];
	for (const [name, buffer, words] of bad) {
		await page.getByLabel('Model or picture').setInputFiles({ name, mimeType: 'application/octet-stream', buffer });
		await expect(page.getByRole('alert')).toContainText(words, { timeout: 20_000 });
		await expect(page.getByRole('alert')).toContainText('No project was made');
		await page.getByRole('alert').getByRole('button', { name: 'Close' }).click();
	}
	await expect(page.getByRole('link', { name: /^Open / })).toHaveCount(
		demoIds.length + itemIds.length + gridIds.length + suitIds.length,
	);
});

test('a model of the artist’s own is opened, painted, kept, renamed, copied, deleted and brought back', async ({
	page,
}) => {
	await page.goto(server.url);
	await page
		.getByLabel('Model or picture')
		.setInputFiles({ name: 'my_can.obj', mimeType: 'text/plain', buffer: Buffer.from(writeObj(smokerMesh())) });
	await expect(page.getByRole('dialog')).toContainText('4 parts');
	await page.getByRole('button', { name: '512', exact: true }).click();
	await page.getByRole('button', { name: 'Begin painting' }).click();
	await settled(page);
	const before = await canvasPixel(page, 'model', [0.5, 0.6]);
	await stroke(page, 'model', [
		[0.4, 0.6],
		[0.5, 0.6],
		[0.6, 0.6],
	]);
	await page.waitForTimeout(400);
	expect(await canvasPixel(page, 'model', [0.5, 0.6])).not.toEqual(before);
	await kept(page);
	await page.getByRole('link', { name: 'All projects' }).click();
	const card = page.getByRole('listitem').filter({ hasText: 'my can' });
	await card.getByRole('button', { name: 'More for my can' }).click();
	await page.getByRole('menuitem', { name: 'Copy' }).click();
	await expect(page.getByText('my can copy')).toBeVisible();
	await page.getByRole('button', { name: 'More for my can copy' }).click();
	await page.getByRole('menuitem', { name: 'Rename' }).click();
	await page.getByLabel('Project name').fill('Second can');
	await page.getByLabel('Project name').press('Enter');
	await expect(page.getByText('Second can')).toBeVisible();
	await page.getByRole('button', { name: 'More for Second can' }).click();
	await page.getByRole('menuitem', { name: 'Delete' }).click();
	await expect(page.getByRole('link', { name: 'Open Second can' })).toHaveCount(0);
	await page.getByRole('button', { name: 'Bring it back' }).first().click();
	await expect(page.getByRole('link', { name: 'Open Second can' })).toBeVisible();
});

test('a template picture alone becomes a sheet to paint on, and is never handed off', async ({ page }) => {
	await page.goto(server.url);
	const template = await sharp({ create: { width: 300, height: 200, channels: 3, background: '#ff00ff' } })
		.png()
		.toBuffer();
	await page
		.getByLabel('Model or picture')
		.setInputFiles({ name: 'template.png', mimeType: 'image/png', buffer: template });
	await page.getByRole('button', { name: 'Begin painting' }).click();
	await settled(page);
	await page.waitForTimeout(500);
	const [r, g, b] = await canvasPixel(page, 'sheet', [0.5, 0.5]);
	// The guide lies over the ground at a little over half strength.
	expect((r as number) - (g as number)).toBeGreaterThan(60);
	expect((b as number) - (g as number)).toBeGreaterThan(60);
	await page.getByRole('link', { name: 'Hand off' }).click();
	const waiting = page.waitForEvent('download');
	await page.getByRole('button', { name: 'Write PNG' }).click();
	const { data, info } = await sharp(await (await waiting).path())
		.raw()
		.toBuffer({ resolveWithObject: true });
	expect([info.width, info.height]).toEqual([300, 200]);
	expect([...data.subarray(0, 3)]).toEqual([0xb4, 0xa5, 0x8c]);
});

test('paint that cannot land says why where the brush came down, with a way out', async ({ page }) => {
	await openPaint(page, server.url);
	await page.getByRole('button', { name: 'Hide Soot streaks' }).click();
	await stroke(page, 'model', [
		[0.3, 0.6],
		[0.4, 0.6],
	]);
	await expect(page.getByRole('alert')).toContainText('"Soot streaks" is hidden');
	await page.getByRole('button', { name: 'Show it' }).click();
	await expect(page.getByRole('button', { name: 'Hide Soot streaks' })).toBeVisible();
	await page.locator('[data-layer="Bare tin"]').click({ position: { x: 90, y: 8 } });
	await stroke(page, 'model', [
		[0.3, 0.6],
		[0.4, 0.6],
	]);
	await expect(page.getByRole('alert')).toContainText('is a wash');
	await page.getByRole('button', { name: 'Add a mask' }).click();
	await expect(page.getByRole('heading', { name: 'Draw on the mask of “Bare tin”' })).toBeVisible();
	await expect(page.locator('[data-layer="Bare tin"]')).toHaveAttribute('aria-current', 'true');
});
