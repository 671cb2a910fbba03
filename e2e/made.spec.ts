/** A project opens as it was left: what was computed is kept, here and with the server, and nothing is computed again. */
import { expect, type Page, test } from '@playwright/test';
import { beforeWorker, canvasPixel, computed, kept, layerMenu, openPaint, settled } from './artist.ts';
import { createServer } from './server.ts';

const server = createServer('made');
test.beforeAll(() => server.start());
test.afterAll(() => server.kill());
test.setTimeout(180_000);

/** Notes whether the page ever said that it computes, from its start on. */
const watch = async (page: Page): Promise<void> => {
	await page.addInitScript(() => {
		const state = window as unknown as { computing: boolean };
		state.computing = false;
		new MutationObserver(() => {
			if (document.body?.textContent?.includes('Computing masks')) state.computing = true;
		}).observe(document, { childList: true, subtree: true, characterData: true });
	});
};
const saidComputing = (page: Page): Promise<boolean> =>
	page.evaluate(() => (window as unknown as { computing: boolean }).computing);
const places = Array.from({ length: 16 }, (_, i) => [0.2 + 0.2 * (i % 4), 0.25 + 0.15 * Math.floor(i / 4)] as const);
/** What the sheet shows at places over all of it. */
const shown = async (page: Page): Promise<number[]> =>
	(await Promise.all(places.map((place) => canvasPixel(page, 'sheet', place)))).flat();
/** The view is drawn smaller than its texels, a part at a time: a level of two is no other picture. */
const apart = (a: readonly number[], b: readonly number[]): number =>
	Math.max(...a.map((v, i) => Math.abs(v - (b[i] as number))));
const names = (page: Page): Promise<number> =>
	page.evaluate(
		() =>
			new Promise<number>((resolve) => {
				const asking = indexedDB.open('eppu-made');
				asking.onsuccess = () => {
					const db = asking.result;
					if (!db.objectStoreNames.contains('packs')) return resolve(0);
					const count = db.transaction('packs').objectStore('packs').count();
					count.onsuccess = () => {
						db.close();
						resolve(count.result);
					};
				};
				asking.onerror = () => resolve(0);
			}),
	);

/** Waits until more than so many pictures are kept, and no more come. */
async function rested(page: Page, least: number): Promise<number> {
	let last = -1;
	const settledNow = async (): Promise<boolean> => {
		const [now, was] = [await names(page), last];
		last = now;
		return now > least && now === was;
	};
	await expect.poll(settledNow, { timeout: 20_000, intervals: [500] }).toBe(true);
	return last;
}

test('nothing is computed at a second visit, nor at a first one of what the server keeps', async ({ page }) => {
	await watch(page);
	// The demo was painted by a script; what it computed was kept with it.
	await openPaint(page, server.url, 'demo-hive');
	await page.waitForTimeout(600);
	expect(await saidComputing(page)).toBe(false);
	const before = await rested(page, 0);
	const first = await shown(page);

	// What the server does not know: the browser keeps it.
	await page.getByRole('button', { name: 'Mask recipe', exact: true }).click();
	await page.locator('[data-layer="Moss"]').click({ position: { x: 80, y: 10 } });
	await layerMenu(page, 'Moss', 'Add a mask', 'That shows all');
	await page.getByRole('button', { name: /^Hand dirt/ }).click();
	await computed(page);
	await kept(page);
	await rested(page, before);
	const left = await shown(page);
	expect(apart(left, first)).toBeGreaterThan(10);

	await page.reload();
	await settled(page);
	await page.getByRole('button', { name: 'Mask recipe', exact: true }).click();
	await page.waitForTimeout(600);
	expect(await saidComputing(page)).toBe(false);
	await expect.poll(async () => apart(await shown(page), left)).toBeLessThanOrEqual(2);
});

test('a full disk keeps no computed pictures: the work is kept all the same, and they are computed again', async ({
	page,
	context,
}) => {
	// Whatever is put beside the work finds no room.
	await beforeWorker(
		context,
		'studio.worker',
		"IDBObjectStore.prototype.put=()=>{throw new DOMException('No room.','QuotaExceededError')}",
	);
	await openPaint(page, server.url, 'demo-hive');
	await page.getByRole('button', { name: 'Mask recipe', exact: true }).click();
	await page.getByRole('button', { name: 'Add another kind of layer' }).click();
	await page.getByRole('menuitem', { name: 'Wash', exact: true }).click();
	await page.waitForTimeout(500);
	const plain = await shown(page);
	await page.getByRole('button', { name: /^Hand dirt/ }).click();
	await computed(page);
	await kept(page);
	const left = await shown(page);
	expect(apart(left, plain)).toBeGreaterThan(10);
	// Long enough for the hand to rest and all to be put down.
	await page.waitForTimeout(4500);
	expect(await names(page)).toBe(0);
	await expect(page.getByText(/could not|failed/i)).toHaveCount(0);
	await page.reload();
	await settled(page);
	await computed(page);
	expect(apart(await shown(page), left)).toBeLessThanOrEqual(2);
});
