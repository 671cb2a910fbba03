/** The pictures of docs/screenshots, made from the demo data. Run by `npm run shots`. */
import { fileURLToPath } from 'node:url';
import { expect, type Page, test } from '@playwright/test';
import { at, openPaint, settled, stroke } from './artist.ts';
import { createServer } from './server.ts';

const server = createServer('shots');
test.beforeAll(() => server.start());
test.afterAll(() => server.kill());

const shot = (page: Page, name: string): Promise<unknown> =>
	page.screenshot({ path: fileURLToPath(new URL(`../docs/screenshots/${name}.png`, import.meta.url)) });

test('projects', async ({ page }) => {
	await page.goto(server.url);
	await expect(page.locator('img')).toHaveCount(2);
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
});

test('hand off', async ({ page }) => {
	await openPaint(page, server.url);
	await page.getByRole('link', { name: 'Hand off' }).click();
	await settled(page);
	await page.waitForTimeout(500);
	await shot(page, 'hand-off');
});
