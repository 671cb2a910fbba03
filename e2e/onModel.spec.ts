/** Selections, shapes, gradients and moves drawn on the model, in the plane of its view; Node makes the same of them. */
import { copyFileSync } from 'node:fs';
import { expect, type Page, test } from '@playwright/test';
import {
	canvasPixel,
	computed,
	engineOf,
	exportPng,
	kept,
	openPaint,
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

const server = createServer('on-model');
test.beforeAll(() => server.start());
test.afterAll(() => server.kill());
test.setTimeout(180_000);

const look = async (page: Page, name: string): Promise<void> => {
	if (process.env.LOOK) await page.screenshot({ path: `${process.env.LOOK}/${name}.png` });
};
const choose = (page: Page, name: string) =>
	page.locator(`[data-layer="${name}"]`).click({ position: { x: 80, y: 10 } });
const way = (page: Page, name: string) => page.getByRole('radio', { name, exact: true }).click();
/** How far a px of the model is from a colour: asked until the studio has shown what was done. */
const off = (page: Page, place: readonly [number, number], from: readonly number[]) =>
	expect.poll(async () => apart(await canvasPixel(page, 'model', place), from), { timeout: 10_000 });
const apart = (a: readonly number[], b: readonly number[]): number =>
	Math.max(...a.slice(0, 3).map((v, i) => Math.abs(v - (b[i] as number))));

test('what is drawn on the model lands where it is seen, is moved there, and is handed off as Node makes it', async ({
	page,
}) => {
	const start = runFile('on-model-start.db');
	copyFileSync(seedFile, start);
	await record(page);
	await openPaint(page, server.url);
	// A look without lights or lines: what the picture has is what is read.
	await page.getByRole('button', { name: 'Seams' }).click();
	await choose(page, 'Edge light');
	const [inside, beside] = [
		[0.5, 0.5],
		[0.5, 0.72],
	] as const;

	// An ellipse selected on the model: its outline shows there, and a shape beside it changes nothing.
	await page.keyboard.press('c');
	await way(page, 'Ellipse');
	await stroke(page, 'model', [
		[0.42, 0.42],
		[0.58, 0.58],
	]);
	await expect(page.locator('[data-selection="outline"]')).toHaveCount(1);
	await look(page, 'selected');
	const bare = [await canvasPixel(page, 'model', inside), await canvasPixel(page, 'model', beside)] as const;
	await page.keyboard.press('Shift+F');
	await page.getByRole('option', { name: '#e8b345' }).click();
	await stroke(page, 'model', [
		[0.36, 0.36],
		[0.64, 0.8],
	]);
	await off(page, inside, bare[0]).toBeGreaterThan(25);
	expect(apart(await canvasPixel(page, 'model', beside), bare[1])).toBeLessThan(3);
	await look(page, 'shape-in-selection');

	// Moved down in the view, paint and selection alike; the box shows in both views.
	await page.keyboard.press('m');
	await expect(page.getByRole('group', { name: 'Move box' })).toHaveCount(2);
	const painted = await canvasPixel(page, 'model', inside);
	const box = await page.locator('[data-view="model"]').boundingBox();
	const [x, y] = [(box?.x ?? 0) + 0.5 * (box?.width ?? 0), (box?.y ?? 0) + 0.5 * (box?.height ?? 0)];
	await page.mouse.move(x, y);
	await page.mouse.down();
	await page.mouse.move(x, y + 0.22 * (box?.height ?? 0), { steps: 6 });
	await look(page, 'mid-move');
	await page.mouse.up();
	await off(page, beside, painted).toBeLessThan(40);
	await off(page, inside, bare[0]).toBeLessThan(12);
	await look(page, 'moved');

	// Escape leaves off; arrow keys turn corners and repeats of what is being drawn.
	await page.keyboard.press('Shift+Control+a');
	await expect(page.locator('[data-selection="outline"]')).toHaveCount(0);
	await page.keyboard.press('Shift+F');
	await page.mouse.move((box?.x ?? 0) + 0.3 * (box?.width ?? 0), (box?.y ?? 0) + 0.4 * (box?.height ?? 0));
	await page.mouse.down();
	await page.mouse.move((box?.x ?? 0) + 0.38 * (box?.width ?? 0), (box?.y ?? 0) + 0.46 * (box?.height ?? 0), {
		steps: 3,
	});
	await page.keyboard.press('ArrowRight');
	await page.keyboard.press('ArrowRight');
	await page.keyboard.press('Shift+ArrowUp');
	await look(page, 'repeats');
	await page.mouse.up();
	await page.waitForTimeout(500);
	await look(page, 'three');

	// A gradient along the view.
	await page.keyboard.press('g');
	await stroke(page, 'model', [
		[0.3, 0.2],
		[0.7, 0.85],
	]);
	await computed(page);
	await look(page, 'gradient');
	await page.getByRole('button', { name: 'Undo' }).click();

	// Along an edge that is only there as it is seen.
	await page.keyboard.press('c');
	await way(page, 'Cling');
	for (const [u, v] of [
		[0.35, 0.3],
		[0.62, 0.33],
		[0.6, 0.62],
	] as const) {
		await page.mouse.click((box?.x ?? 0) + u * (box?.width ?? 0), (box?.y ?? 0) + v * (box?.height ?? 0));
		await page.waitForTimeout(1200);
	}
	await page.keyboard.press('Enter');
	await expect(page.locator('[data-selection="outline"]')).toHaveCount(1);
	await look(page, 'cling');

	await kept(page);
	const engine = await engineOf(start, 'demo-smoker');
	replay(engine, await recorded(page));
	for (const sheet of engine.project.sheets) {
		const shown = await decodePng(await exportPng(page, server.url, sheet.name));
		const made = engine.composite(sheet.id).data;
		expect(Buffer.compare(Buffer.from(shown.data), Buffer.from(made)), sheet.name).toBe(0);
	}
	engine.close();
});

test('a mirror plane drawn across the view: its cut shows, strokes land on both sides, and it is kept', async ({
	page,
}) => {
	await openPaint(page, server.url, 'demo-hive');
	await page.getByRole('button', { name: 'Seams' }).click();
	const menu = page.getByRole('button', { name: 'Mirror on the model' });
	await menu.click();
	await page.getByRole('button', { name: 'Draw it' }).click();
	await expect(menu).toHaveText('Draw the plane…');
	await page.keyboard.press('Escape');
	await expect(menu).toHaveText('Mirror');
	await menu.click();
	await page.getByRole('button', { name: 'Draw it' }).click();
	await stroke(page, 'model', [
		[0.36, 0.85],
		[0.5, 0.2],
	]);
	await expect(menu).toHaveText('Mirror slanted');
	await page.keyboard.press('d');
	await page.getByRole('option', { name: '#e8b345' }).click();
	const [own, image] = [
		[0.36, 0.5],
		[0.5, 0.555],
	] as const;
	const before = [await canvasPixel(page, 'model', own), await canvasPixel(page, 'model', image)] as const;
	await look(page, 'slant');
	await stroke(page, 'model', [
		[0.36, 0.48],
		[0.36, 0.52],
	]);
	await off(page, own, before[0]).toBeGreaterThan(20);
	await look(page, 'slant-painted');
	await kept(page);
});

test('a box drawn on either view is what lettering stands in, as it was drawn', async ({ page }) => {
	await openPaint(page, server.url);
	await page.getByRole('button', { name: 'Seams' }).click();
	await choose(page, 'Edge light');
	await page.getByRole('option', { name: '#e8b345' }).click();
	await page.getByRole('button', { name: 'Add another kind of layer' }).click();
	await page.getByRole('menuitem', { name: 'Lettering', exact: true }).click();
	const words = page.getByRole('textbox', { name: 'Words' });
	await words.fill('Tansy and heather');
	await words.blur();
	const value = async (name: string): Promise<number> =>
		Number(await page.getByRole('slider', { name, exact: true }).last().getAttribute('aria-valuenow'));
	await page.keyboard.press('Shift+F');
	await page.getByRole('radio', { name: 'Rectangle', exact: true }).click();
	/** Places of a grid over a part of the model's view that show the letters' colour. */
	const inked = async (left: number, top: number, right: number, bottom: number): Promise<number> => {
		let count = 0;
		for (let i = 0; i < 144; i++) {
			const [u, v] = [left + ((right - left) * (i % 12)) / 11, top + ((bottom - top) * Math.floor(i / 12)) / 11];
			if (apart(await canvasPixel(page, 'model', [u, v]), [0xe8, 0xb3, 0x45]) < 50) count++;
		}
		return count;
	};
	const before = await inked(0.25, 0.4, 0.45, 0.8);
	await stroke(page, 'model', [
		[0.25, 0.5],
		[0.45, 0.75],
	]);
	await expect(page.getByRole('checkbox', { name: 'In a box' })).toBeChecked();
	await expect.poll(() => inked(0.25, 0.4, 0.45, 0.8), { timeout: 15_000 }).toBeGreaterThan(before + 8);
	await look(page, 'box-on-model');
	expect(Math.abs(await value('Turn'))).toBeLessThan(15);
	await stroke(page, 'sheet', [
		[0.3, 0.3],
		[0.7, 0.5],
	]);
	await expect.poll(() => value('Across')).toBeCloseTo(512, -1);
	expect(await value('Turn')).toBe(0);
	await look(page, 'box-on-sheet');
	// Each box is one step.
	await page.keyboard.press('Control+z');
	await page.keyboard.press('Control+z');
	await expect(page.getByRole('checkbox', { name: 'In a box' })).not.toBeChecked();
});

test('a context that the browser takes away comes back with its paint, and takes strokes', async ({ page }) => {
	await openPaint(page, server.url, 'demo-hive');
	await settled(page);
	await page.waitForTimeout(900);
	const before = await pxOnGrid(page, 'model');
	const still = async (): Promise<number> => pxApart(before, await pxOnGrid(page, 'model'));
	expect(await still()).toBe(0);
	await page.evaluate(async () => {
		const canvas = document.querySelector('[data-view="model"] canvas') as HTMLCanvasElement;
		const lose = canvas.getContext('webgl2')?.getExtension('WEBGL_lose_context');
		const heard = (name: string) => new Promise((resolve) => canvas.addEventListener(name, resolve, { once: true }));
		const lost = heard('webglcontextlost');
		lose?.loseContext();
		await lost;
		await new Promise((resolve) => setTimeout(resolve, 50));
		const restored = heard('webglcontextrestored');
		lose?.restoreContext();
		await restored;
	});
	await expect.poll(still).toBeLessThan(3);
	await choose(page, 'Edge light');
	await page.keyboard.press('b');
	const place = [0.5, 0.6] as const;
	const dry = await canvasPixel(page, 'model', place);
	await stroke(page, 'model', [[0.42, 0.6], place, [0.55, 0.6]]);
	await off(page, place, dry).toBeGreaterThan(20);
});
