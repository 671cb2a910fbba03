/** The painting hand in the browser: tips, pen, tools, stencils, stamps, mirrors, guards, palettes, own pictures. */
import { copyFileSync, readFileSync } from 'node:fs';
import { encodePng } from '@eppu/core/format';
import { loadPngWriter } from '@eppu/kernels/node';
import { expect, type Page, test } from '@playwright/test';
import {
	at,
	deskOf,
	engineOf,
	exportPng,
	kept,
	openPaint,
	type Point,
	record,
	recorded,
	replay,
	settled,
	stroke,
} from './artist.ts';
import { runFile, seedFile } from './paths.ts';
import { decodePng } from './png.ts';
import { createServer } from './server.ts';

const server = createServer('hand');
test.beforeAll(() => server.start());
test.afterAll(() => server.kill());
test.setTimeout(300_000);

const tip = async (page: Page, label: string): Promise<void> => {
	await page.getByRole('button', { name: 'Choose a tip' }).click();
	await page.getByRole('dialog').getByRole('button', { name: label, exact: true }).click();
	await page.keyboard.press('Escape');
};
const color = (page: Page, hex: string): Promise<void> => page.getByRole('option', { name: hex }).click();
const tool = (page: Page, name: string): Promise<void> => page.getByRole('radio', { name, exact: true }).click();
const across: readonly Point[] = [
	[0.3, 0.5],
	[0.42, 0.58],
	[0.55, 0.5],
];

test('a pen, tips, tools, a stencil, a stamp, a mirror and a guard paint what the engine in Node paints of the same words', async ({
	page,
}) => {
	await record(page);
	await openPaint(page, server.url, 'demo-hive');
	await page.getByRole('button', { name: 'Add a layer' }).click();

	// The pen stand-in: real pointer events with pressure and lean.
	await color(page, '#b85a33');
	await tip(page, 'Bristle');
	await page.getByRole('button', { name: 'Pen', exact: true }).click();
	for (const name of ['Slow swell', 'Leaned shading']) {
		await page.getByRole('button', { name: `Play ${name}` }).click();
		await expect(page.getByRole('button', { name: `Play ${name}` })).toBeEnabled();
	}
	await page.getByRole('button', { name: 'Pen', exact: true }).click();

	await tip(page, 'Leaf');
	await color(page, '#6f8655');
	await page.getByRole('button', { name: 'Mirror on the model' }).click();
	await page.getByLabel('Left to right (X)').check();
	await page.keyboard.press('Escape');
	await stroke(page, 'model', across);
	await page.getByRole('button', { name: 'Mirror on the model' }).click();
	await page.getByLabel('Left to right (X)').uncheck();
	await page.keyboard.press('Escape');

	await tip(page, 'Round hard');
	await page.getByRole('button', { name: 'Stencil Shingles' }).click();
	await tool(page, 'Print');
	await stroke(page, 'sheet', [
		[0.2, 0.5],
		[0.4, 0.55],
	]);
	await page.getByRole('button', { name: 'Stencil Shingles' }).click();

	for (const name of ['Soften', 'Smear', 'Lighten', 'Hue']) {
		await tool(page, name);
		await stroke(page, 'model', across);
	}
	await tool(page, 'Stamp');
	await tip(page, 'Leaf');
	await stroke(page, 'sheet', [
		[0.6, 0.3],
		[0.66, 0.34],
	]);
	// A straight stroke with Shift.
	await tool(page, 'Draw');
	await page.keyboard.down('Shift');
	await stroke(page, 'model', [
		[0.35, 0.4],
		[0.6, 0.46],
	]);
	await page.keyboard.up('Shift');
	await kept(page);

	const said = await recorded(page);
	const begun = said.flatMap((message) => (message.say === 'begin' ? [message] : []));
	const penned = said.flatMap((message) => (message.say === 'extend' ? message.samples : []));
	expect(new Set(penned.map((sample) => sample.pressure)).size).toBeGreaterThan(20);
	expect(penned.some((sample) => (sample.tilt ?? 0) > 0.5)).toBe(true);
	expect(new Set(begun.map((message) => message.spec.tool)).size).toBeGreaterThanOrEqual(5);
	expect(begun.some((message) => message.spec.mirrors?.planes.length === 1)).toBe(true);
	expect(begun.some((message) => message.spec.stencil?.mode === 'print')).toBe(true);
	const straight = begun.at(-1);
	expect(straight?.spec.tip.shape).toBe('leaf');

	const start = runFile('hand-start.db');
	copyFileSync(seedFile, start);
	const engine = await engineOf(start, 'demo-hive');
	const untouched = engine.composite('hive').data.slice();
	replay(engine, said);
	const want = engine.composite('hive');
	const shown = await decodePng(await exportPng(page, server.url, 'Hive', 'demo-hive'));
	expect(Buffer.compare(Buffer.from(shown.data), Buffer.from(want.data))).toBe(0);
	expect(want.data.filter((v, i) => v !== untouched[i]).length).toBeGreaterThan(30_000);

	// A second visit finds the desk as it was left.
	await page.reload();
	await settled(page);
	await expect(page.getByRole('button', { name: 'Choose a tip' })).toContainText('Leaf');
	await expect(page.getByRole('radio', { name: 'Print', exact: true })).toHaveAttribute('aria-checked', 'true');
});

test('a guard dims the rest, keeps paint off it, says so in place, and is lifted by one click', async ({ page }) => {
	await openPaint(page, server.url, 'demo-hive');
	await page.getByRole('button', { name: 'Add a layer' }).click();
	const pixel = (place: Point): Promise<number[]> =>
		page.evaluate(
			([u, v]) => {
				const canvas = document.querySelector('[data-view="model"] canvas') as HTMLCanvasElement;
				const copy = Object.assign(document.createElement('canvas'), { width: 1, height: 1 });
				const context = copy.getContext('2d') as CanvasRenderingContext2D;
				context.drawImage(
					canvas,
					-Math.floor((u as number) * canvas.width),
					-Math.floor((v as number) * canvas.height),
				);
				return [...context.getImageData(0, 0, 1, 1).data];
			},
			[...place] as const,
		);
	const roof: Point = [0.5, 0.3];
	const before = await pixel(roof);
	await tool(page, 'Guard');
	const [x, y] = await at(page, 'model', [0.45, 0.5]);
	await page.mouse.click(x, y);
	await expect(page.getByRole('button', { name: 'The guard', exact: true })).toContainText('1');
	await page.waitForTimeout(400);
	const dimmed = await pixel(roof);
	expect(Math.abs((dimmed[0] as number) - 70)).toBeLessThan(Math.abs((before[0] as number) - 70) + 1);
	expect(dimmed).not.toEqual(before);
	await tool(page, 'Draw');
	const [rx, ry] = await at(page, 'model', roof);
	await page.mouse.move(rx, ry);
	await page.mouse.down();
	await page.mouse.up();
	const note = page.getByRole('alert');
	await expect(note).toContainText('The guard keeps paint off here');
	await note.getByRole('button', { name: 'Lift the guard' }).click();
	await expect(note).toHaveCount(0);
	await page.mouse.move(rx, ry);
	await page.mouse.down();
	await page.mouse.up();
	await expect(page.getByRole('button', { name: 'Undo' })).toBeEnabled();
	await page.getByRole('button', { name: 'History' }).click();
	await expect(page.getByRole('button', { name: /^Stroke on/ })).toHaveCount(1);
});

test('a picture of one’s own becomes a tip and a stencil for all projects; damaged ones are answered by name', async ({
	page,
}) => {
	const side = 64;
	const data = new Uint8Array(side * side * 4).fill(255);
	for (let i = 0; i < side * side; i++)
		if ((i % side) % 16 < 8 && i % side > 6 && i % side < 58 && i > side * 8 && i < side * 56)
			data.set([0, 0, 0], i * 4);
	const png = Buffer.from(encodePng(await loadPngWriter(), { width: side, height: side, data }));
	await openPaint(page, server.url, 'demo-hive');
	const bring = async (button: string, name: string, bytes: Buffer): Promise<void> => {
		const waiting = page.waitForEvent('filechooser');
		await page.getByRole('button', { name: button }).click();
		await (await waiting).setFiles({ name, mimeType: 'image/png', buffer: bytes });
	};
	await page.getByRole('button', { name: 'Choose a tip' }).click();
	await bring('Picture as a tip…', 'comb.png', png.subarray(0, 60));
	await expect(page.getByText(/comb\.png is damaged/)).toBeVisible();
	await bring('Picture as a tip…', 'comb.png', png);
	await expect(page.getByRole('dialog').getByRole('button', { name: 'comb', exact: true })).toHaveAttribute(
		'aria-pressed',
		'true',
	);
	await page.getByLabel('Name to keep this tip under').fill('Comb, wide');
	await page.getByRole('button', { name: 'Keep this tip', exact: true }).click();
	await expect(page.getByRole('button', { name: 'Comb, wide', exact: true })).toBeVisible();
	await page.keyboard.press('Escape');
	await page.getByRole('button', { name: 'All stencils, and the dials of this one' }).click();
	await bring('Picture as a stencil…', 'grate.png', png);
	await expect(page.getByRole('button', { name: 'Stencil grate' }).first()).toHaveAttribute('aria-pressed', 'true');
	await page.getByRole('button', { name: 'Put it down' }).click();
	await page.keyboard.press('Escape');

	// They are there in another project too, and paint.
	await page.waitForTimeout(600);
	await openPaint(page, server.url, 'demo-smoker');
	await page.getByRole('button', { name: 'Add a layer' }).click();
	await page.getByRole('button', { name: 'Choose a tip' }).click();
	await page.getByRole('button', { name: 'Comb, wide', exact: true }).click();
	await page.keyboard.press('Escape');
	await expect(page.getByRole('button', { name: 'Choose a tip' })).toContainText('comb');
	await page.waitForTimeout(500);
	await stroke(page, 'model', across);
	await page.getByRole('button', { name: 'History' }).click();
	await expect(page.getByRole('button', { name: /^Stroke on/ })).toHaveCount(1);
});

test('palettes go out as tokens, hex list and strip, come in again, and are kept for all projects', async ({
	page,
}) => {
	await openPaint(page, server.url, 'demo-hive');
	const more = page.getByRole('button', { name: 'Tones, ramps and palettes' });
	await more.click();
	const out = async (name: string): Promise<{ name: string; bytes: Buffer }> => {
		const waiting = page.waitForEvent('download');
		await page.getByRole('button', { name, exact: true }).click();
		const download = await waiting;
		return { name: download.suggestedFilename(), bytes: readFileSync(await download.path()) };
	};
	const files = [await out('Tokens'), await out('Hex list'), await out('PNG strip')];
	const places = page.getByRole('listbox', { name: 'Palette' }).getByRole('option');
	const count = await places.count();
	await page.getByRole('button', { name: 'Into the palette' }).click();
	await expect(places).not.toHaveCount(count);
	for (const { name, bytes } of files) {
		const waiting = page.waitForEvent('filechooser');
		await page.getByRole('button', { name: 'Open a file…' }).click();
		await (await waiting).setFiles({ name, mimeType: 'application/octet-stream', buffer: bytes });
		await expect(places).toHaveCount(count);
		await page.getByRole('button', { name: 'Into the palette' }).click();
		await expect(places).not.toHaveCount(count);
	}
	await page.getByRole('button', { name: 'Keep for all' }).click();
	await kept(page);
	await openPaint(page, server.url, 'demo-smoker');
	await more.click();
	await page.getByRole('dialog').getByRole('listitem').getByRole('button').first().click();
	await expect(places).not.toHaveCount(count);
});

test('straight views, roll, kept views and the stencil under T go where the hand sends them', async ({ page }) => {
	await openPaint(page, server.url, 'demo-hive');
	const desk = async () => {
		await page.waitForTimeout(700);
		return deskOf(page, 'demo-hive');
	};
	await page.getByRole('button', { name: 'Views', exact: true }).click();
	await page.getByRole('button', { name: 'Right', exact: true }).click();
	await page.getByRole('button', { name: 'Roll right' }).click();
	await page.getByRole('button', { name: 'Keep this view' }).click();
	await page.getByRole('button', { name: 'Front', exact: true }).click();
	await page.getByRole('button', { name: /^View 1$/ }).click();
	await page.keyboard.press('Escape');
	const view = await desk();
	expect(view.camera).toMatchObject({ yaw: 90, roll: 15, parallel: true });
	expect(view.views).toHaveLength(1);

	await page.getByRole('button', { name: 'Stencil Boards' }).click();
	const before = (await desk()).stencil;
	const [x, y] = await at(page, 'model', [0.5, 0.5]);
	await page.mouse.move(x, y);
	await page.keyboard.down('t');
	await page.mouse.down();
	await page.mouse.move(x + 60, y, { steps: 4 });
	await page.mouse.up();
	await page.mouse.wheel(0, -300);
	await page.mouse.down({ button: 'right' });
	await page.mouse.move(x + 100, y, { steps: 4 });
	await page.mouse.up({ button: 'right' });
	await page.keyboard.up('t');
	const after = (await desk()).stencil;
	expect(after.x - before.x).toBeGreaterThan(0.05);
	expect(after.scale).toBeGreaterThan(before.scale * 1.2);
	expect(after.turn - before.turn).toBeGreaterThan(8);
	expect((await desk()).camera).toMatchObject({ yaw: 90 });
});
