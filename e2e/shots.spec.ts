/** The pictures of docs/screenshots, made from the demo data. Run by `npm run shots`. */
import { fileURLToPath } from 'node:url';
import { expect, type Page, test } from '@playwright/test';
import sharp from 'sharp';
import { gridIds } from '../demo/grid.ts';
import { itemIds } from '../demo/items.ts';
import { demoIds } from '../demo/projects.ts';
import { suitIds } from '../demo/suit.ts';
import { at, computed, openPaint, settled, stroke } from './artist.ts';
import { createServer } from './server.ts';

const server = createServer('shots');
test.beforeAll(() => server.start());
test.afterAll(() => server.kill());

const shot = (page: Page, name: string): Promise<unknown> =>
	page.screenshot({ path: fileURLToPath(new URL(`../docs/screenshots/${name}.png`, import.meta.url)) });

test('projects', async ({ page }) => {
	await page.goto(server.url);
	await expect(page.locator('img')).toHaveCount(demoIds.length + itemIds.length + gridIds.length + suitIds.length);
	await page.waitForTimeout(500);
	await shot(page, 'projects');
});

test('paint', async ({ page }) => {
	await openPaint(page, server.url);
	await page.getByRole('option', { name: '#b85a33' }).click();
	await stroke(page, 'model', [
		[0.27, 0.62],
		[0.34, 0.56],
		[0.45, 0.6],
	]);
	const [x, y] = await at(page, 'model', [0.42, 0.66]);
	await page.mouse.move(x, y, { steps: 4 });
	await page.waitForTimeout(900);
	await shot(page, 'paint');
});

test('paint, dark', async ({ page }) => {
	await page.emulateMedia({ colorScheme: 'dark' });
	await openPaint(page, server.url, 'demo-hive');
	await page.getByRole('button', { name: 'History' }).click();
	await page.getByRole('option', { name: '#e8b345' }).click();
	await stroke(page, 'model', [
		[0.45, 0.55],
		[0.55, 0.6],
		[0.6, 0.52],
	]);
	await page.waitForTimeout(900);
	await shot(page, 'paint-dark');
	await page.keyboard.press('Control+z');
	await page.waitForTimeout(900);
});

test('references beside the work', async ({ page }) => {
	await openPaint(page, server.url, 'demo-hive');
	const picture = await page.locator('[data-view="model"] canvas').screenshot();
	await page.getByRole('button', { name: 'References', exact: true }).click();
	const chooser = page.waitForEvent('filechooser');
	await page.getByRole('button', { name: 'Add pictures…' }).click();
	await (await chooser).setFiles({ name: 'The hive in spring.png', mimeType: 'image/png', buffer: picture });
	await page.getByRole('button', { name: 'Colours of The hive in spring' }).click();
	await page.waitForTimeout(1200);
	await shot(page, 'references');
	await page.getByRole('button', { name: 'Take The hive in spring away' }).click();
});

test('lay out', async ({ page }) => {
	await page.goto(`${server.url}/project/demo-smoker/lay-out`);
	await settled(page);
	await page.getByRole('button', { name: /^Texels of "Lid"/ }).click();
	await page.waitForTimeout(900);
	await shot(page, 'lay-out');
	await page.getByRole('button', { name: /^Texels of "Lid"/ }).click();
	await page.getByRole('button', { name: 'Unwrap', exact: true }).click();
	await expect(page.getByRole('button', { name: 'Lay it out so' })).toBeEnabled({ timeout: 30_000 });
	await page.waitForTimeout(1200);
	await shot(page, 'unwrap');
	await page.getByRole('button', { name: 'Leave it as it was' }).click();
});

test('islands of a template', async ({ page }) => {
	const shapes = Array.from({ length: 9 }, (_, i) => {
		const [x, y] = [170 + 340 * (i % 3), 170 + 340 * Math.floor(i / 3)];
		return i % 2
			? `<rect x="${x - 120}" y="${y - 90}" width="240" height="180" rx="${i * 8}"/>`
			: `<path d="M${x - 130} ${y} L${x} ${y - 130} L${x + 130} ${y} L${x + 60} ${y + 120} L${x - 60} ${y + 120} Z"/>`;
	}).join('');
	const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="1024" height="1024"><rect width="1024" height="1024" fill="#fff"/><g fill="none" stroke="#224" stroke-width="3">${shapes}</g></svg>`;
	await page.goto(server.url);
	await page.getByLabel('Model or picture').setInputFiles({
		name: 'shingle-plan.jpg',
		mimeType: 'image/jpeg',
		buffer: await sharp(Buffer.from(svg)).jpeg({ quality: 70 }).toBuffer(),
	});
	await page.getByRole('button', { name: 'Find its islands' }).click();
	await expect(page.getByText('9 islands found.')).toBeVisible({ timeout: 30_000 });
	await page.waitForTimeout(1500);
	await shot(page, 'template-islands');
});

test('hand off', async ({ page }) => {
	await openPaint(page, server.url);
	await page.getByRole('link', { name: 'Hand off' }).click();
	await settled(page);
	await page.waitForTimeout(500);
	await shot(page, 'hand-off');
});

test('a mask recipe, and what is selected', async ({ page }) => {
	await openPaint(page, server.url, 'demo-hive');
	await computed(page);
	await page.locator('[data-layer="Worn to the wood"]').click({ position: { x: 70, y: 10 } });
	await page.getByRole('button', { name: 'Mask recipe', exact: true }).click();
	await page.keyboard.press('c');
	await page.getByRole('radio', { name: 'Island', exact: true }).click();
	const [x, y] = await at(page, 'model', [0.36, 0.66]);
	await page.mouse.click(x, y);
	await page.waitForTimeout(2500);
	await shot(page, 'mask-recipe');
	await page.keyboard.press('Shift+Control+A');
	await page.waitForTimeout(900);
});

test('finishes of a layer', async ({ page }) => {
	await openPaint(page, server.url, 'demo-hive');
	await computed(page);
	await page.locator('[data-layer="Red linen"]').click({ position: { x: 70, y: 10 } });
	await page.getByRole('button', { name: 'Layer', exact: true }).click();
	await page.waitForTimeout(1500);
	await shot(page, 'finishes');
});

test('the painting hand: a stencil printed straight on, a mirror, leaves', async ({ page }) => {
	await openPaint(page, server.url, 'demo-hive');
	await page.getByRole('button', { name: 'Add a layer' }).click();
	await page.keyboard.press('Alt+1');
	await page.keyboard.press('Home');
	await page.getByRole('button', { name: 'Mirror on the model' }).click();
	await page.getByLabel('Left to right (X)').check();
	await page.keyboard.press('Escape');
	await page.getByRole('button', { name: 'Choose a tip' }).click();
	await page.getByRole('dialog').getByRole('button', { name: 'Leaf', exact: true }).click();
	await page.keyboard.press('Escape');
	await page.getByRole('option', { name: '#4b653f' }).click();
	await stroke(page, 'model', [
		[0.29, 0.66],
		[0.34, 0.58],
		[0.36, 0.48],
		[0.44, 0.42],
	]);
	await page.getByRole('button', { name: 'Stencil Shingles' }).click();
	await page.waitForTimeout(800);
	const [x, y] = await at(page, 'model', [0.4, 0.3]);
	await page.mouse.move(x, y, { steps: 4 });
	await page.waitForTimeout(900);
	await shot(page, 'paint-hand');
});

test('tips', async ({ page }) => {
	await openPaint(page, server.url);
	await page.getByRole('button', { name: 'Choose a tip' }).click();
	await page.waitForTimeout(2500);
	await shot(page, 'tips');
});

test('not kept, and away', async ({ page }) => {
	const other = createServer('shots-away');
	await other.start();
	await openPaint(page, other.url);
	// The page keeps itself a few seconds after it is there.
	await page.waitForTimeout(5500);
	await other.kill();
	for (const v of [0.5, 0.58, 0.66])
		await stroke(page, 'model', [
			[0.3, v],
			[0.42, v + 0.03],
		]);
	await page.waitForTimeout(2500);
	await shot(page, 'not-kept');
	await page.goto(other.url);
	await expect(page.getByRole('heading', { name: 'The server is away' })).toBeVisible({ timeout: 15_000 });
	await shot(page, 'away');
});

test('light: lamps, bakes and light layers', async ({ page }) => {
	await page.goto(`${server.url}/project/demo-lantern/light`);
	await settled(page);
	await computed(page);
	await page.locator('[data-light="Light"] button').first().click();
	await page.waitForTimeout(900);
	await shot(page, 'light');
});

test('pixel items, their colours, and one in the hand', async ({ page }) => {
	await openPaint(page, server.url, 'demo-items');
	await page.getByRole('button', { name: 'Lit', exact: true }).click();
	await page.getByRole('button', { name: 'Colours', exact: true }).click();
	await page.getByRole('button', { name: 'Point "Texels" at entries' }).click();
	await page.getByRole('button', { name: /^Entry 9, / }).click();
	await page.waitForTimeout(1200);
	await shot(page, 'pixels');
});

test('a bundle of textures', async ({ page }) => {
	await openPaint(page, server.url, 'demo-bundle');
	await page.getByRole('button', { name: /honey-jar\.png/ }).waitFor();
	await page.getByRole('option', { name: '#cbd7a8', exact: true }).click();
	await page.getByRole('radio', { name: 'Fill', exact: true }).click();
	await page.getByRole('radio', { name: 'All texels of that colour' }).click();
	const [x, y] = await at(page, 'sheet', [0.5, 0.47]);
	await page.mouse.click(x, y);
	// What would become of a colour of all of them.
	await page.getByRole('button', { name: 'All colours' }).click();
	await page.getByRole('group', { name: 'Colours of all textures' }).getByRole('button').nth(3).click();
	await page.waitForTimeout(1200);
	await shot(page, 'bundle');
});

test('props on a colour grid', async ({ page }) => {
	await openPaint(page, server.url, 'demo-yard');
	await page.getByRole('radio', { name: 'Cells', exact: true }).click();
	const box = await page.locator('[data-view="sheet"]').boundingBox();
	if (!box) throw new Error('There is no sheet view.');
	const zoom = Math.min((box.width - 40) / 256, (box.height - 90) / 256);
	await page.mouse.click(box.x + box.width / 2 + (16 - 128) * zoom, box.y + box.height / 2 + (16 - 128) * zoom);
	await page.waitForTimeout(1200);
	await shot(page, 'cells');
});
