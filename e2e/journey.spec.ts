import { copyFileSync, readFileSync } from 'node:fs';
import { expect, test } from '@playwright/test';
import {
	canvasPixel,
	deskOf,
	engineOf,
	exportByCommand,
	exportPng,
	kept,
	openPaint,
	type Point,
	pxApart,
	pxOnGrid,
	record,
	recorded,
	replay,
	settled,
	stroke,
} from './artist.ts';
import { runFile, seedFile } from './paths.ts';
import { decodePng } from './png.ts';
import { createServer } from './server.ts';

const server = createServer('journey');
test.beforeAll(() => server.start());
test.afterAll(() => server.kill());

/** Strokes on the body across its upright seam, on lid and spout, and on the bellows, which lie on another sheet. */
const onModel: readonly (readonly Point[])[] = [
	[
		[0.2, 0.5],
		[0.3, 0.55],
		[0.45, 0.5],
	],
	[
		[0.22, 0.6],
		[0.29, 0.66],
		[0.4, 0.62],
	],
	[
		[0.24, 0.7],
		[0.3, 0.72],
		[0.36, 0.8],
		[0.44, 0.7],
	],
	[
		[0.1, 0.8],
		[0.3, 0.82],
		[0.5, 0.84],
	],
	[
		[0.25, 0.42],
		[0.35, 0.4],
		[0.5, 0.43],
	],
	[
		[0.34, 0.25],
		[0.38, 0.2],
		[0.34, 0.15],
	],
	[
		[0.58, 0.6],
		[0.66, 0.66],
		[0.72, 0.6],
	],
	[
		[0.74, 0.6],
		[0.78, 0.68],
		[0.7, 0.78],
	],
	[
		[0.3, 0.58],
		[0.3, 0.78],
	],
	[
		[0.21, 0.52],
		[0.27, 0.76],
	],
];
const onSheet: readonly (readonly Point[])[] = Array.from({ length: 10 }, (_, i): Point[] => [
	[0.12 + 0.05 * i, 0.25],
	[0.2 + 0.05 * i, 0.32 + 0.02 * i],
	[0.16 + 0.06 * i, 0.4],
]);

test.setTimeout(300_000);

test('twenty strokes on both views, undone and redone, reloaded and handed off, equal the engine run in Node', async ({
	page,
}) => {
	await record(page);
	await openPaint(page, server.url);
	await page.getByRole('button', { name: 'Add a layer' }).click();
	const colors = ['#e8b345', '#9fb07c', '#64899d', '#c49bb0', '#f3e9d2'];
	for (const [i, places] of onModel.entries()) {
		await page.getByRole('option', { name: colors[i % 5] as string }).click();
		await stroke(page, 'model', places);
	}
	await page.getByRole('button', { name: /^Can/ }).click();
	for (const [i, places] of onSheet.entries()) {
		await page.keyboard.press(i === 4 ? 'w' : 'd');
		await page.getByRole('option', { name: colors[(i + 2) % 5] as string }).click();
		await stroke(page, 'sheet', places);
	}
	for (let i = 0; i < 5; i++) await page.getByRole('button', { name: 'Undo' }).click();
	for (let i = 0; i < 2; i++) await page.getByRole('button', { name: 'Redo' }).click();
	await kept(page);
	const said = await recorded(page);
	expect(said.filter((message) => message.say === 'begin')).toHaveLength(20);

	const before = {
		can: await exportPng(page, server.url, 'Can'),
		bellows: await exportPng(page, server.url, 'Bellows'),
	};
	const start = runFile('journey-start.db');
	copyFileSync(seedFile, start);
	const engine = await engineOf(start, 'demo-smoker');
	const untouched = engine.composite('can').data.slice();
	replay(engine, said);
	for (const sheet of ['can', 'bellows'] as const) {
		const shown = await decodePng(before[sheet]);
		const want = engine.composite(sheet);
		expect([shown.width, shown.height]).toEqual([want.width, want.height]);
		expect(Buffer.compare(Buffer.from(shown.data), Buffer.from(want.data))).toBe(0);
	}
	const painted = engine.composite('can').data.filter((v, i) => v !== untouched[i]).length;
	expect(painted).toBeGreaterThan(40_000);

	// A second visit shows the same pixels, layers, active layer, camera and palette.
	const look = () =>
		page.evaluate(() => ({
			layers: [...document.querySelectorAll('[data-layer]')].map((row) => [
				row.getAttribute('data-layer'),
				row.getAttribute('aria-current'),
			]),
			palette: document.querySelectorAll('[aria-label="Palette"] [role="option"]').length,
		}));
	const lookBefore = await look();
	// The view is drawn finely once it has rested.
	await page.waitForTimeout(700);
	const modelBefore = await canvasPixel(page, 'model', [0.3, 0.55]);
	await page.waitForTimeout(600);
	await page.reload();
	await settled(page);
	expect(await look()).toEqual(lookBefore);
	await page.waitForTimeout(700);
	const modelAfter = await canvasPixel(page, 'model', [0.3, 0.55]);
	modelAfter.forEach((v, i) => expect(Math.abs(v - (modelBefore[i] as number))).toBeLessThanOrEqual(4));
	expect(Buffer.compare(await exportPng(page, server.url, 'Can'), before.can)).toBe(0);
	expect(Buffer.compare(exportByCommand(server.data, 'demo-smoker', 'Can'), before.can)).toBe(0);
	expect(Buffer.compare(exportByCommand(server.data, 'demo-smoker', 'Bellows'), before.bellows)).toBe(0);
});

test('the sheet view shows the very texels that are handed off', async ({ page }) => {
	await openPaint(page, server.url, 'demo-hive');
	const box = await page.locator('[data-view="sheet"]').boundingBox();
	if (!box) throw new Error('no sheet view');
	await page.getByRole('button', { name: 'Template' }).click();
	await page.mouse.move(box.x + box.width * 0.4, box.y + box.height * 0.4);
	for (let i = 0; i < 12; i++) await page.mouse.wheel(0, -200);
	await page.waitForTimeout(400);
	const where = await page.evaluate(() => {
		const state = document.querySelector('[data-view="sheet"] canvas') as HTMLCanvasElement;
		return [state.width, state.height];
	});
	await page.waitForTimeout(600);
	const desk = await deskOf(page, 'demo-hive');
	const place = desk.places.hive ?? { x: 0, y: 0, zoom: 0 };
	expect(place.zoom).toBeGreaterThan(2);
	const spots = [
		[0.2, 0.3],
		[0.5, 0.5],
		[0.7, 0.8],
		[0.31, 0.62],
	] as const;
	const seen: number[][] = [];
	for (const spot of spots) seen.push(await canvasPixel(page, 'sheet', spot));
	const file = await exportPng(page, server.url, 'Hive', 'demo-hive');
	const shot = await decodePng(file);
	// The smaller file takes longer and has the same texels.
	await page.getByRole('link', { name: 'Hand off' }).click();
	await page.getByRole('checkbox', { name: 'Smaller files, slower' }).check();
	const waiting = page.waitForEvent('download', { timeout: 60_000 });
	await page.getByRole('button', { name: 'Write PNG' }).click();
	const small = readFileSync(await (await waiting).path());
	expect(small.length).toBeLessThan(file.length);
	expect(Buffer.compare(Buffer.from((await decodePng(small)).data), Buffer.from(shot.data))).toBe(0);
	spots.forEach(([u, v], i) => {
		const x = Math.floor(place.x + (Math.floor(u * (where[0] as number)) + 0.5 - box.width / 2) / place.zoom);
		const y = Math.floor(place.y + (Math.floor(v * (where[1] as number)) + 0.5 - box.height / 2) / place.zoom);
		expect(seen[i]).toEqual([...shot.data.subarray((y * shot.width + x) * 4, (y * shot.width + x) * 4 + 4)]);
	});
});

test('the page is drawn while the paint is on its way, waits for it, and opens the same where that cannot be', async ({
	page,
}) => {
	let letGo = (): void => {};
	const waiting = new Promise<void>((resolve) => {
		letGo = resolve;
	});
	await page.route('**/api/projects/demo-smoker?texels=bare', async (route) => {
		await waiting;
		await route.continue();
	});
	await page.goto(`${server.url}/project/demo-smoker/paint`);
	const stack = page.getByRole('list', { name: 'Layers, topmost first' });
	await expect(stack.getByRole('listitem').first()).toBeVisible();
	// Nothing can be done to what is not here yet, by pointer or by key.
	await expect(page.locator('[aria-busy="true"]')).toHaveAttribute('inert', '');
	const names = await stack.innerText();
	await page.keyboard.press('Control+z');
	letGo();
	await settled(page);
	await expect(page.locator('[aria-busy="true"]')).toHaveCount(0);
	expect(await stack.innerText()).toBe(names);
	const shown = await pxOnGrid(page, 'sheet');
	await page.route('**/api/projects/demo-smoker/head', (route) => route.abort());
	await page.reload();
	await settled(page);
	expect(pxApart(await pxOnGrid(page, 'sheet'), shown)).toBe(0);
});
