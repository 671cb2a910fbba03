/** Where the page may not share memory between threads, all works on one, and that is said once. */
import { expect, test } from '@playwright/test';
import { canvasPixel, computed, kept, openPaint, settled, stroke } from './artist.ts';
import { createServer } from './server.ts';

const server = createServer('alone');
test.beforeAll(() => server.start());
test.afterAll(() => server.kill());

test('without isolation the studio opens, computes, paints and keeps, and says so once', async ({ page }) => {
	await page.route(/\/paint$/, async (route) => {
		const response = await route.fetch();
		const headers = { ...response.headers() };
		for (const name of ['cross-origin-opener-policy', 'cross-origin-embedder-policy']) delete headers[name];
		await route.fulfill({ response, headers });
	});
	// The words go by themselves: they are looked for from the start on.
	const said = page.getByText(/on one thread/);
	const seen = said.first().waitFor({ timeout: 90_000 });
	await openPaint(page, server.url);
	await seen;
	expect(await said.count()).toBeLessThanOrEqual(1);
	expect(await page.evaluate(() => crossOriginIsolated)).toBe(false);
	await page.locator('[data-layer="Edge light"]').click({ position: { x: 80, y: 10 } });
	await page.getByRole('option', { name: '#e8b345' }).click();
	const before = await canvasPixel(page, 'sheet', [0.5, 0.3]);
	await stroke(page, 'sheet', [
		[0.45, 0.3],
		[0.55, 0.3],
	]);
	await expect.poll(() => canvasPixel(page, 'sheet', [0.5, 0.3])).not.toEqual(before);
	await computed(page);
	await kept(page);
	const after = await canvasPixel(page, 'sheet', [0.5, 0.3]);
	await page.reload();
	await settled(page);
	expect(await canvasPixel(page, 'sheet', [0.5, 0.3])).toEqual(after);
});
