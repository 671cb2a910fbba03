/** Selections, moves, shapes, gradients, recipes, finishes, lettering and scraping in the browser; Node makes the same of it. */
import { copyFileSync } from 'node:fs';
import { expect, type Page, test } from '@playwright/test';
import {
	activeName,
	at,
	canvasPixel,
	chooseOf,
	computed,
	engineOf,
	exportByCommand,
	exportPng,
	kept,
	layerMenu,
	openPaint,
	record,
	recorded,
	replay,
	stroke,
} from './artist.ts';
import { runFile, seedFile } from './paths.ts';
import { decodePng } from './png.ts';
import { createServer } from './server.ts';

const server = createServer('select');
test.beforeAll(() => server.start());
test.afterAll(() => server.kill());
test.setTimeout(240_000);

const row = (page: Page, name: string) => page.locator(`[data-layer="${name}"]`);
const choose = (page: Page, name: string) => row(page, name).click({ position: { x: 80, y: 10 } });
const way = (page: Page, name: string) => page.getByRole('radio', { name, exact: true }).click();
const outline = (page: Page) => page.locator('[data-selection="outline"]');
const apart = (a: readonly number[], b: readonly number[]): number =>
	Math.max(...a.slice(0, 3).map((v, i) => Math.abs(v - (b[i] as number))));

test('what is selected on the sheet limits strokes, shapes and gradients; all of it is named, undone, kept and handed off alike', async ({
	page,
}) => {
	const start = runFile('select-start.db');
	copyFileSync(seedFile, start);
	await record(page);
	await openPaint(page, server.url);
	await page.getByRole('button', { name: 'Template' }).click();
	await choose(page, 'Edge light');
	await page.keyboard.press('c');
	await way(page, 'Ellipse');
	const [inside, beside] = [
		[0.4, 0.35],
		[0.75, 0.3],
	] as const;
	const before = [await canvasPixel(page, 'sheet', inside), await canvasPixel(page, 'sheet', beside)] as const;
	await stroke(page, 'sheet', [
		[0.3, 0.25],
		[0.5, 0.45],
	]);
	await expect(outline(page)).toHaveCount(1);

	// A shape over both places lands only in what is selected.
	await page.keyboard.press('Shift+F');
	await stroke(page, 'sheet', [
		[0.2, 0.2],
		[0.85, 0.5],
	]);
	await page.waitForTimeout(500);
	expect(apart(await canvasPixel(page, 'sheet', inside), before[0])).toBeGreaterThan(30);
	expect(apart(await canvasPixel(page, 'sheet', beside), before[1])).toBe(0);

	// Shift adds a rectangle; a stroke from one into the other is whole in both.
	await page.keyboard.press('c');
	await way(page, 'Rectangle');
	await page.keyboard.down('Shift');
	await stroke(page, 'sheet', [
		[0.65, 0.25],
		[0.85, 0.42],
	]);
	await page.keyboard.up('Shift');
	await page.getByRole('button', { name: 'Soften', exact: true }).last().click();
	await page.keyboard.press('d');
	await page.getByRole('option', { name: '#e8b345' }).click();
	await stroke(page, 'sheet', [
		[0.75, 0.3],
		[0.8, 0.36],
	]);
	await page.waitForTimeout(500);
	expect(apart(await canvasPixel(page, 'sheet', beside), before[1])).toBeGreaterThan(30);

	// A stroke wholly beside says so, with the way out.
	await stroke(page, 'sheet', [
		[0.3, 0.8],
		[0.34, 0.82],
	]);
	const note = page.getByRole('alert');
	await expect(note).toContainText('Nothing here is selected');

	await page.keyboard.press('g');
	await stroke(page, 'sheet', [
		[0.3, 0.3],
		[0.5, 0.4],
	]);
	await page.keyboard.press('Shift+Control+I');
	await page.keyboard.press('Shift+Control+A');
	await expect(outline(page)).toHaveCount(0);
	await page.getByRole('button', { name: 'History' }).click();
	for (const step of [
		'Select',
		'Rectangle on "Edge light"',
		'Soften the selection',
		'Gradient on "Edge light"',
		'Select nothing',
	])
		await expect(page.getByRole('button', { name: step, exact: true }).first()).toBeVisible();
	await page.getByRole('button', { name: 'History' }).click();
	await page.keyboard.press('Control+z');
	await expect(outline(page)).toHaveCount(1);

	await kept(page);
	const engine = await engineOf(start, 'demo-smoker');
	replay(engine, await recorded(page));
	const shown = await decodePng(await exportPng(page, server.url, 'Can'));
	const own = engine.composite('can');
	expect(Buffer.compare(Buffer.from(shown.data), Buffer.from(own.data))).toBe(0);
	const written = await decodePng(exportByCommand(server.data, 'Mossbarrow smoker', 'Can'));
	expect(Buffer.compare(Buffer.from(written.data), Buffer.from(own.data))).toBe(0);

	// A second visit finds the selection as it was.
	await openPaint(page, server.url);
	await expect(outline(page)).toHaveCount(1);
});

test('recipes, finishes and lettering are made on the screen, change live, and are the same from the command line', async ({
	page,
}) => {
	await openPaint(page, server.url, 'demo-hive');
	await computed(page);
	await choose(page, 'Moss');
	await page.getByRole('button', { name: 'Add another kind of layer' }).click();
	await page.getByRole('menuitem', { name: 'Wash', exact: true }).click();
	await expect(row(page, 'Wash')).toBeVisible();
	await page.waitForTimeout(800);
	const whole = await canvasPixel(page, 'model', [0.42, 0.62]);
	await page.getByRole('button', { name: 'Mask recipe', exact: true }).click();
	await page.getByRole('button', { name: /^Ground dirt/ }).click();
	await expect(page.locator('[data-step]')).toHaveCount(5);
	await expect(page.locator('[data-step] img').first()).toBeVisible({ timeout: 20_000 });
	await computed(page);
	const dirty = await canvasPixel(page, 'model', [0.42, 0.62]);
	expect(apart(whole, dirty)).toBeGreaterThan(25);
	// A step off is one undoable change, and the picture follows.
	await page.getByRole('button', { name: 'Switch off step 1' }).click();
	await computed(page);
	await page.keyboard.press('Control+z');
	await computed(page);
	expect(apart(await canvasPixel(page, 'model', [0.42, 0.62]), dirty)).toBeLessThanOrEqual(2);
	// A tap follows another layer.
	await page.getByRole('button', { name: 'Add a source' }).click();
	await page.getByRole('menuitem', { name: 'Tap another layer' }).click();
	await expect(page.locator('[data-step]')).toHaveCount(6);
	await chooseOf(page, 'Layer that is tapped', 'Moss');
	await page.waitForTimeout(300);

	await page.getByRole('button', { name: 'Layer', exact: true }).click();
	await page.getByRole('button', { name: '+ Stitched line' }).click();
	await expect(page.locator('[data-finish="stitch"]')).toBeVisible();
	await page.getByRole('button', { name: 'Add another kind of layer' }).click();
	await page.getByRole('menuitem', { name: 'Lettering', exact: true }).click();
	const words = page.getByRole('textbox', { name: 'Words' });
	await words.fill('Tansy');
	await page.getByRole('radio', { name: 'Pixel grid' }).click();
	await page.waitForTimeout(400);
	// The move box turns it; typing is one step for each pause, and the name in history says what.
	await page.getByRole('button', { name: 'Layer', exact: true }).click();
	await page.keyboard.press('m');
	const knob = page.locator('[data-move="turn"]');
	await expect(knob).toBeVisible();
	const box = await knob.boundingBox();
	if (!box) throw new Error('no knob');
	await page.mouse.move(box.x + 6, box.y + 6);
	await page.mouse.down();
	await page.mouse.move(box.x + 80, box.y + 40, { steps: 5 });
	await page.mouse.up();
	await page.waitForTimeout(400);
	await page.getByRole('button', { name: 'Layer', exact: true }).click();
	await expect(page.getByRole('slider', { name: 'Turn' }).last()).not.toHaveAttribute('aria-valuenow', '0');
	await kept(page);
	const shown = await decodePng(await exportPng(page, server.url, 'Hive', 'demo-hive'));
	const written = await decodePng(exportByCommand(server.data, 'Mossbarrow hive', 'Hive'));
	expect(Buffer.compare(Buffer.from(written.data), Buffer.from(shown.data))).toBe(0);
});

test('computing is stopped half way and goes on; meanwhile the layer stays seen, and what a question needs is shown', async ({
	page,
}) => {
	await openPaint(page, server.url);
	await page.getByRole('button', { name: /^Can/ }).click();
	await computed(page);
	await page.keyboard.press('Shift+Control+A');
	await page.getByRole('button', { name: 'Add another kind of layer' }).click();
	await page.getByRole('menuitem', { name: 'Wash', exact: true }).click();
	await page.waitForTimeout(800);
	// The last tiles of the sheet are computed last.
	const last = [0.5, 0.8] as const;
	const whole = await canvasPixel(page, 'sheet', last);
	await page.getByRole('button', { name: 'Mask recipe', exact: true }).click();
	/** Presses Stop as soon as it is there. */
	const stopSoon = (): Promise<void> =>
		page.evaluate(() => {
			const look = (): void => {
				const stop = [...document.querySelectorAll('button')].find((each) => each.textContent === 'Stop');
				if (stop) stop.click();
				else requestAnimationFrame(look);
			};
			look();
		});
	const told = page.getByText(/^Stopped: \d+% of masks and finishes computed$/);
	/** Does something and stops its computing; where it was done before that it is taken back and done again. */
	const stopped = async (act: () => Promise<void>, steps: number): Promise<void> => {
		for (let tries = 0; tries < 8; tries++) {
			await stopSoon();
			await act();
			const there = await told.waitFor({ timeout: 2500 }).then(
				() => true,
				() => false,
			);
			// What others were at is taken in; then it stands.
			await page.waitForTimeout(500);
			if (there && (await told.isVisible())) return;
			await computed(page);
			for (let i = 0; i < steps; i++) await page.keyboard.press('Control+z');
			await computed(page);
		}
		throw new Error('It was always done before it could be stopped.');
	};
	await stopped(() => page.getByRole('button', { name: /^Ground dirt/ }).click(), 1);
	const share = async (): Promise<number> => Number(/\d+/.exec((await told.textContent()) ?? '')?.[0]);
	const [standing, seen] = [await share(), await canvasPixel(page, 'sheet', last)];
	await page.waitForTimeout(1500);
	expect(standing).toBeLessThan(100);
	expect(await share()).toBe(standing);
	expect(apart(await canvasPixel(page, 'sheet', last), seen)).toBe(0);
	await page.getByRole('button', { name: 'Go on', exact: true }).click();
	await computed(page);
	const done = await canvasPixel(page, 'sheet', last);
	expect(apart(done, whole)).toBeGreaterThan(20);
	// Selecting by colour looks at all of the sheet: it is computed, and the view follows.
	await stopped(async () => {
		await page.getByRole('button', { name: 'Switch off step 4' }).click();
		await page.getByRole('button', { name: 'Switch off step 1' }).click();
	}, 2);
	await page.keyboard.press('c');
	await way(page, 'Similar');
	const [x, y] = await at(page, 'sheet', [0.2, 0.5]);
	await page.mouse.click(x, y);
	await computed(page);
	await expect(told).toHaveCount(0);
	await page.keyboard.press('Shift+Control+A');
	await page.keyboard.press('d');
	// The tests share a project: the next one finds it as it was.
	await layerMenu(page, 'Wash', 'Delete');
	await kept(page);
});

test('paint is moved by its box in one step; a copied layer goes to another sheet', async ({ page }) => {
	await openPaint(page, server.url);
	await page.getByRole('button', { name: /^Can/ }).click();
	await page.keyboard.press('Shift+Control+A');
	await page.getByRole('button', { name: 'Add a layer', exact: true }).click();
	await page.keyboard.press('Shift+F');
	await way(page, 'Ellipse');
	await stroke(page, 'sheet', [
		[0.2, 0.75],
		[0.3, 0.85],
	]);
	await page.keyboard.press('m');
	const box = await page.locator('[data-box="sheet"] [data-move="inside"]').boundingBox();
	if (!box) throw new Error('no box');
	const target = [0.6, 0.825] as const;
	const before = await canvasPixel(page, 'sheet', target);
	const [x, y] = await at(page, 'sheet', target);
	await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
	await page.mouse.down();
	await page.mouse.move(x, y, { steps: 8 });
	await page.mouse.up();
	await page.waitForTimeout(700);
	const moved = await canvasPixel(page, 'sheet', target);
	expect(apart(moved, before)).toBeGreaterThan(20);
	await page.keyboard.press('Control+z');
	await page.waitForTimeout(500);
	expect(apart(await canvasPixel(page, 'sheet', target), before)).toBe(0);
	await page.keyboard.press('Shift+Control+Z');
	await page.waitForTimeout(300);
	await page.keyboard.press('Control+c');
	await page.getByRole('button', { name: /^Bellows/ }).click();
	await page.waitForTimeout(800);
	const bellows = await canvasPixel(page, 'sheet', target);
	await page.keyboard.press('Control+v');
	await expect(page.locator('[data-layer*=" ellipse"]')).toBeVisible();
	await page.waitForTimeout(800);
	expect(apart(await canvasPixel(page, 'sheet', target), bellows)).toBeGreaterThan(20);
});

test('a scrape cuts rings through the coats of the smoker and is mended', async ({ page }) => {
	await openPaint(page, server.url);
	await page.getByRole('button', { name: /^Can/ }).click();
	await page.keyboard.press('Shift+Control+A');
	await page.getByRole('button', { name: 'Template' }).click();
	await page.keyboard.press('x');
	const place = [0.62, 0.2] as const;
	const black = await canvasPixel(page, 'sheet', place);
	await stroke(page, 'sheet', [
		[0.55, 0.2],
		[0.7, 0.2],
	]);
	await page.waitForTimeout(500);
	const tin = await canvasPixel(page, 'sheet', place);
	expect(Math.min(...tin.slice(0, 3)) - Math.min(...black.slice(0, 3))).toBeGreaterThan(25);
	// Between tin and black lies a ring of primer: redder than both.
	const red = (p: number[]): number => (p[0] as number) - (p[2] as number);
	let most = 0;
	for (let i = 0; i < 24; i++) most = Math.max(most, red(await canvasPixel(page, 'sheet', [0.62, 0.2 + i * 0.003])));
	expect(most).toBeGreaterThan(Math.max(red(tin), red(black)) + 20);
	await page.keyboard.press('Shift+X');
	for (let i = 0; i < 3; i++)
		await stroke(page, 'sheet', [
			[0.55, 0.2],
			[0.7, 0.2],
		]);
	await page.waitForTimeout(500);
	expect(apart(await canvasPixel(page, 'sheet', place), black)).toBeLessThan(40);
});

test('Delete clears what is selected, and without a selection takes the layer away; tones are changed once beside a histogram', async ({
	page,
}) => {
	await openPaint(page, server.url);
	await page.getByRole('button', { name: /^Can/ }).click();
	await page.keyboard.press('Shift+Control+A');
	await page.getByRole('button', { name: 'Template' }).click();
	await choose(page, 'Edge light');
	await page.getByRole('button', { name: 'Add a layer', exact: true }).click();
	await page.keyboard.press('Shift+F');
	await way(page, 'Rectangle');
	await page.getByRole('option', { name: '#e8b345' }).click();
	await stroke(page, 'sheet', [
		[0.3, 0.2],
		[0.7, 0.4],
	]);
	await page.waitForTimeout(500);
	const [left, right] = [
		[0.4, 0.3],
		[0.6, 0.3],
	] as const;
	const yellow = await canvasPixel(page, 'sheet', right);
	const name = await activeName(page);
	expect(name).toMatch(/^Amber rectangle/);

	// Darker by levels, seen while the dial moves; taken back by its own button.
	await page.getByRole('button', { name: 'Layer', exact: true }).click();
	await expect(page.getByRole('img', { name: /^Histogram/ })).toBeVisible();
	await chooseOf(page, 'Change once', 'Brightness and contrast');
	const dial = await page.getByRole('slider', { name: 'Brightness' }).boundingBox();
	if (!dial) throw new Error('no dial');
	await page.mouse.click(dial.x + dial.width * 0.2, dial.y + 8);
	await page.waitForTimeout(700);
	expect(apart(await canvasPixel(page, 'sheet', left), yellow)).toBeGreaterThan(40);
	await page.getByRole('button', { name: 'Take back' }).click();
	await expect.poll(async () => apart(await canvasPixel(page, 'sheet', left), yellow)).toBeLessThanOrEqual(1);
	await page.getByRole('button', { name: 'Layer', exact: true }).click();

	await page.keyboard.press('c');
	await stroke(page, 'sheet', [
		[0.35, 0.15],
		[0.5, 0.45],
	]);
	await expect(outline(page)).toHaveCount(1);
	await page.keyboard.press('Delete');
	await page.waitForTimeout(500);
	expect(apart(await canvasPixel(page, 'sheet', left), yellow)).toBeGreaterThan(40);
	expect(apart(await canvasPixel(page, 'sheet', right), yellow)).toBeLessThanOrEqual(1);
	await expect(row(page, name)).toBeVisible();
	await page.keyboard.press('Shift+Control+A');
	await page.waitForTimeout(300);
	await page.keyboard.press('Delete');
	await expect(row(page, name)).toHaveCount(0);
});
