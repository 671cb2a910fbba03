import { expect, type Page, test } from '@playwright/test';
import { activeName, canvasPixel, kept, layerMenu, openPaint, settled } from './artist.ts';
import { createServer } from './server.ts';

const server = createServer('clips');
test.beforeAll(() => server.start());
test.afterAll(() => server.kill());
test.setTimeout(180_000);

const names = (page: Page): Promise<(string | null)[]> =>
	page.locator('[data-layer]').evaluateAll((rows) => rows.map((each) => each.getAttribute('data-layer')));
/** Asks for something in the search box. */
async function ask(page: Page, words: string): Promise<void> {
	await page.keyboard.press('Control+k');
	await page.getByRole('dialog').getByRole('textbox').fill(words);
	await page.keyboard.press('Enter');
}
/** A rectangle drawn on the sheet with the selection tool, in shares of the view. */
async function select(page: Page, [x0, y0, x1, y1]: readonly [number, number, number, number]): Promise<void> {
	const box = await page.locator('[data-view="sheet"]').boundingBox();
	if (!box) throw new Error('no sheet view');
	await page.keyboard.press('c');
	await page.mouse.move(box.x + x0 * box.width, box.y + y0 * box.height);
	await page.mouse.down();
	await page.mouse.move(box.x + x1 * box.width, box.y + y1 * box.height, { steps: 4 });
	await page.mouse.up();
	await page.waitForTimeout(300);
}
const place = [0.5, 0.5] as const;

test('what is selected is cut to a layer of its own in one step, or taken away and pasted after a reload', async ({
	page,
}) => {
	await openPaint(page, server.url);
	await page.locator('[data-layer="Stove black"]').click({ position: { x: 80, y: 10 } });
	const before = await canvasPixel(page, 'sheet', place);
	await select(page, [0.4, 0.4, 0.6, 0.6]);

	const list = await names(page);
	await ask(page, 'Cut what is selected to a new layer');
	await expect(page.locator('[data-layer="Stove black 2"]')).toHaveAttribute('aria-current', 'true');
	expect(await names(page)).toHaveLength(list.length + 1);
	await page.getByRole('button', { name: 'Hide Stove black 2' }).click();
	await expect.poll(() => canvasPixel(page, 'sheet', place)).not.toEqual(before);
	await page.keyboard.press('Control+z');
	await page.keyboard.press('Control+z');
	await expect(page.locator('[data-layer="Stove black 2"]')).toHaveCount(0);
	await expect.poll(() => canvasPixel(page, 'sheet', place)).toEqual(before);

	await page.locator('[data-layer="Stove black"]').click({ position: { x: 80, y: 10 } });
	await page.keyboard.press('Control+x');
	await expect.poll(() => canvasPixel(page, 'sheet', place)).not.toEqual(before);
	await kept(page);
	await page.reload();
	await settled(page);
	await page.locator('[data-layer="Stove black"]').click({ position: { x: 80, y: 10 } });
	await page.locator('[data-view="sheet"]').hover();
	await page.keyboard.press('Control+v');
	const pasted = page.locator('[data-layer][aria-current="true"]');
	await expect(pasted).toHaveAttribute('data-layer', 'Stove black 2');
	await page.waitForTimeout(500);
	expect(await canvasPixel(page, 'sheet', place)).toEqual(before);
});

test('a picture in the clipboard becomes a layer in the middle of the sheet', async ({ page }) => {
	await openPaint(page, server.url);
	const list = await names(page);
	await page.evaluate(async () => {
		const canvas = new OffscreenCanvas(90, 60);
		const context = canvas.getContext('2d') as OffscreenCanvasRenderingContext2D;
		context.fillStyle = '#ff00ff';
		context.fillRect(0, 0, 90, 60);
		const data = new DataTransfer();
		data.items.add(new File([await canvas.convertToBlob()], 'moss.png', { type: 'image/png' }));
		document.dispatchEvent(new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true }));
	});
	await expect(page.locator('[data-layer="moss"]')).toHaveAttribute('aria-current', 'true');
	await ask(page, 'See the active layer alone');
	await page.waitForTimeout(500);
	expect(await canvasPixel(page, 'sheet', place)).toEqual([255, 0, 255, 255]);
	expect(await names(page)).toHaveLength(list.length + 1);
	await page.keyboard.press('Control+z');
	await expect(page.locator('[data-layer="moss"]')).toHaveCount(0);
});

test('a new mask may hide all, and white paints it in', async ({ page }) => {
	await openPaint(page, server.url);
	const before = await canvasPixel(page, 'sheet', place);
	await page.getByRole('button', { name: 'Add a layer', exact: true }).click();
	await page.keyboard.press('f');
	const box = await page.locator('[data-view="sheet"]').boundingBox();
	if (!box) throw new Error('no sheet view');
	const [x, y] = [box.x + place[0] * box.width, box.y + place[1] * box.height];
	await page.mouse.click(x, y);
	await expect(page.locator('[data-layer^="Rust fill"]')).toBeVisible();
	await settled(page);
	const filled = await canvasPixel(page, 'sheet', place);
	expect(filled).not.toEqual(before);
	const name = await activeName(page);
	expect(name).toMatch(/^Rust fill/);
	await layerMenu(page, name, 'Add a mask', 'That hides all');
	await expect(page.getByRole('heading', { name: `Fill on the mask of “${name}”` })).toBeVisible();
	await expect.poll(() => canvasPixel(page, 'sheet', place)).toEqual(before);
	await page.keyboard.press('d');
	await page.mouse.move(x - 20, y);
	await page.mouse.down();
	await page.mouse.move(x + 20, y, { steps: 4 });
	await page.mouse.up();
	await page.waitForTimeout(500);
	// A soft tip at its usual strength: most of the way to what is below the mask.
	const [now, goal] = [await canvasPixel(page, 'sheet', place), filled];
	for (const [k, v] of before.slice(0, 3).entries())
		expect(Math.abs((now[k] as number) - (goal[k] as number))).toBeLessThanOrEqual(
			Math.abs(v - (goal[k] as number)) * 0.6,
		);
	expect(now).not.toEqual(before);
});
