/** Undo goes on after a reload and after the tab died, and stops where another hand went on. */
import { expect, type Page, test } from '@playwright/test';
import { canvasPixel, crash, kept, layerMenu, openPaint, settled, stroke } from './artist.ts';
import { createServer } from './server.ts';

const server = createServer('undo');
test.beforeAll(() => server.start());
test.afterAll(() => server.kill());
test.setTimeout(180_000);

const places = [
	[0.2, 0.3],
	[0.4, 0.3],
	[0.6, 0.3],
] as const;
const shown = async (page: Page): Promise<string> =>
	(await Promise.all(places.map((place) => canvasPixel(page, 'sheet', place)))).join(' ');
const becomes = (page: Page, colors: string) => expect.poll(() => shown(page), { timeout: 10_000 }).toBe(colors);
const undoButton = (page: Page) => page.getByRole('button', { name: 'Undo', exact: true });

test('strokes, a layer taken away and what a dead tab only said are undone at the next visits', async ({ browser }) => {
	const context = await browser.newContext();
	let page = await context.newPage();
	await openPaint(page, server.url);
	await page.getByRole('button', { name: 'Template' }).click();
	await page.locator('[data-layer="Edge light"]').click({ position: { x: 80, y: 10 } });
	await page.getByRole('option', { name: '#e8b345' }).click();
	const states = [await shown(page)];
	for (const [u, v] of places) {
		await stroke(page, 'sheet', [
			[u - 0.03, v],
			[u + 0.03, v],
		]);
		await expect.poll(() => shown(page)).not.toBe(states.at(-1));
		await page.waitForTimeout(200);
		states.push(await shown(page));
	}
	await layerMenu(page, 'Edge light', 'Delete');
	await expect(page.locator('[data-layer="Edge light"]')).toHaveCount(0);
	await kept(page);

	await page.reload();
	await settled(page);
	await page.getByRole('button', { name: 'Template' }).click();
	await expect(undoButton(page)).toBeEnabled();
	await undoButton(page).click();
	await expect(page.locator('[data-layer="Edge light"]')).toBeVisible();
	await becomes(page, states[3] as string);
	await undoButton(page).click();
	await becomes(page, states[2] as string);

	// One more stroke, and the tab dies before anything but its words is kept.
	await page.locator('[data-layer="Edge light"]').click({ position: { x: 80, y: 10 } });
	await page.getByRole('option', { name: '#e8b345' }).click();
	await stroke(page, 'sheet', [
		[0.77, 0.3],
		[0.83, 0.3],
	]);
	await crash(page);
	page = await context.newPage();
	await openPaint(page, server.url);
	await page.getByRole('button', { name: 'Template' }).click();
	for (const state of [states[2], states[1], states[0]]) {
		await undoButton(page).click();
		await becomes(page, state as string);
	}
	await expect(undoButton(page)).toBeDisabled();
	await page.keyboard.press('Shift+Control+Z');
	await becomes(page, states[1] as string);
	await kept(page);

	// Another browser goes on: what was done here before it is no longer taken back here.
	const elsewhere = await browser.newContext();
	const other = await elsewhere.newPage();
	await page.close();
	await openPaint(other, server.url);
	await expect(undoButton(other)).toBeDisabled();
	await stroke(other, 'sheet', [
		[0.2, 0.5],
		[0.3, 0.5],
	]);
	await kept(other);
	await other.close();
	page = await context.newPage();
	await openPaint(page, server.url);
	await expect(undoButton(page)).toBeDisabled();
	await context.close();
	await elsewhere.close();
});
