/** Light: bakes and light layers on a model of one's own, to the file; and looking at it lit, as values, going round. */
import { readFileSync } from 'node:fs';
import { writeObj } from '@eppu/core/mesh';
import { expect, type Page, test } from '@playwright/test';
import sharp from 'sharp';
import { hiveMesh } from '../demo/mesh/hive.ts';
import {
	at,
	canvasPixel,
	computed,
	crash,
	engineOf,
	exportByCommand,
	exportPng,
	kept,
	openPaint,
	pxApart,
	pxOnGrid,
	settled,
	stroke,
} from './artist.ts';
import { decodePng } from './png.ts';
import { createServer } from './server.ts';

const server = createServer('light');
test.beforeAll(() => server.start());
test.afterAll(() => server.kill());

const lightRow = (page: Page, name: string) => page.locator(`[data-light="${name}"]`);

/** A new project of the hive's model, with nothing painted, on the Light stage. */
async function begin(page: Page): Promise<string> {
	await page.goto(server.url);
	const buffer = Buffer.from(writeObj(hiveMesh()));
	await page.getByLabel('Model or picture').setInputFiles({ name: 'hive.obj', mimeType: 'text/plain', buffer });
	await page.getByRole('button', { name: '512', exact: true }).click();
	await page.getByRole('button', { name: 'Begin painting' }).click();
	await settled(page);
	const id = page.url().split('/')[4] as string;
	await page.getByRole('link', { name: 'Light', exact: true }).click();
	await expect(page.getByRole('region', { name: 'Bakes' })).toBeVisible();
	return id;
}

test('a base and light are laid, a lamp goes round, what was before is held against it; all of it comes out as it is seen', async ({
	page,
}) => {
	const id = await begin(page);
	const bare = await pxOnGrid(page, 'model');
	await page.getByRole('button', { name: 'Make a base for the model' }).click();
	await expect.poll(async () => pxApart(bare, await pxOnGrid(page, 'model')), { timeout: 30_000 }).toBeGreaterThan(5);
	await computed(page);
	await expect(page.getByRole('button', { name: /^Ambient occlusion 512, 16 bits/ })).toBeVisible();
	await expect(page.getByRole('button', { name: /^Edges 512, 16 bits/ })).toBeVisible();
	const lit = await pxOnGrid(page, 'model');
	// The key is dragged to the other side of the dome.
	const key = page.getByRole('slider', { name: 'Key: arrow keys move it' });
	const [box, dome] = [
		await key.boundingBox(),
		await page.getByRole('group', { name: /^Where light stands/ }).boundingBox(),
	];
	if (!box || !dome) throw new Error('no dome');
	await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
	await page.mouse.down();
	await page.mouse.move(dome.x + dome.width * 0.85, dome.y + dome.height * 0.5, { steps: 8 });
	await page.mouse.up();
	await computed(page);
	const turned = await pxOnGrid(page, 'model');
	expect(pxApart(lit, turned)).toBeGreaterThan(3);
	// One drag is one step.
	await page.keyboard.press('Control+z');
	await computed(page);
	expect(pxApart(lit, await pxOnGrid(page, 'model'))).toBe(0);
	await page.keyboard.press('Control+Shift+Z');
	await computed(page);
	// What was before is only looked at: the file is whole.
	const before = lightRow(page, 'Warm').getByRole('slider', { name: 'Before' });
	await before.focus();
	for (let i = 0; i < 12; i++) await page.keyboard.press('PageUp');
	await expect.poll(async () => pxApart(turned, await pxOnGrid(page, 'model'))).toBeGreaterThan(3);
	await before.dblclick();
	await expect.poll(async () => pxApart(turned, await pxOnGrid(page, 'model'))).toBe(0);
	await kept(page);
	const png = await exportPng(page, server.url, 'hive', id);
	expect(Buffer.compare(png, exportByCommand(server.data, id, 'hive'))).toBe(0);
	const picture = await decodePng(png);
	const engine = await engineOf(server.data, id);
	expect(
		Buffer.compare(
			Buffer.from(engine.composite(engine.project.sheets[0]?.id as string).data),
			Buffer.from(picture.data),
		),
	).toBe(0);
	engine.close();
	// A second visit has the same light.
	await page.goto(`${server.url}/project/${id}/light`);
	await settled(page);
	await computed(page);
	expect(pxApart(turned, await pxOnGrid(page, 'model'))).toBeLessThan(3);
	await lightRow(page, 'Warm').getByRole('button', { name: 'Warm', exact: true }).click();
	// Pressing the model has the chosen lamp stand where that place looks.
	const [x, y] = await at(page, 'model', [0.5, 0.6]);
	await page.mouse.click(x, y);
	await computed(page);
	expect(pxApart(turned, await pxOnGrid(page, 'model'))).toBeGreaterThan(3);
});

test('a bake is seen alone, changed, written with 16 bits, and made again after the tab died in the middle of it', async ({
	page,
	context,
}) => {
	const id = await begin(page);
	await page.getByRole('button', { name: 'Add a bake' }).click();
	await page.getByRole('menuitem', { name: 'Thickness', exact: true }).click();
	await computed(page);
	await page.getByRole('button', { name: 'See Thickness alone' }).click();
	const greys = (px: readonly number[][]): boolean =>
		px.every(([r, g, b]) => Math.abs((r as number) - (g as number)) < 3 && Math.abs((g as number) - (b as number)) < 3);
	await expect.poll(async () => greys(await pxOnGrid(page, 'sheet'))).toBe(true);
	const [first] = await Promise.all([
		page.waitForEvent('download'),
		page.getByRole('button', { name: 'PNG, 16 bits' }).click(),
	]);
	const bytes = readFileSync(await first.path());
	expect(await sharp(bytes).metadata()).toMatchObject({ width: 512, height: 512, depth: 'ushort' });
	const seen = await pxOnGrid(page, 'sheet');
	const reach = page.getByRole('slider', { name: 'Distance' });
	await reach.focus();
	for (let i = 0; i < 4; i++) await page.keyboard.press('PageUp');
	await computed(page);
	expect(pxApart(seen, await pxOnGrid(page, 'sheet'))).toBeGreaterThan(2);
	await kept(page);
	// On another stage the paint is seen again.
	await page.getByRole('link', { name: 'Paint' }).click();
	await expect.poll(async () => greys(await pxOnGrid(page, 'sheet'))).toBe(false);
	await page.getByRole('link', { name: 'Light', exact: true }).click();
	await page.getByRole('button', { name: /^Thickness 512/ }).click();
	await page.getByRole('slider', { name: 'Rays' }).focus();
	await page.keyboard.press('PageUp');
	await kept(page);
	await crash(page);
	const again = await context.newPage();
	await again.goto(`${server.url}/project/${id}/light`);
	await settled(again);
	await computed(again);
	await expect(again.getByRole('button', { name: /^Thickness 512, 16 bits · (ready|just now)/ })).toBeVisible();
	// Of a finer mesh it is another; and the file comes again with a later visit.
	await again.getByRole('button', { name: /^Thickness 512/ }).click();
	await again.getByRole('button', { name: 'See Thickness alone' }).click();
	await again.waitForTimeout(400);
	const own = await pxOnGrid(again, 'sheet');
	const chooser = again.waitForEvent('filechooser');
	await again.getByRole('button', { name: 'From a file…' }).click();
	const mesh = hiveMesh();
	// A shell within the walls: it is thinner everywhere.
	const hollow = { ...mesh, positions: mesh.positions.map((v) => v * 0.99) };
	await (await chooser).setFiles({ name: 'fine.obj', mimeType: 'text/plain', buffer: Buffer.from(writeObj(hollow)) });
	await expect(again.getByText('fine.obj')).toBeVisible();
	await computed(again);
	await expect.poll(async () => pxApart(own, await pxOnGrid(again, 'sheet'))).toBeGreaterThan(0);
	// What was seen first may be a draft.
	await computed(again);
	const fine = await pxOnGrid(again, 'sheet');
	await kept(again);
	await again.goto(`${server.url}/project/${id}/light`);
	await settled(again);
	await computed(again);
	// Its dials make the bench as high as it was: the sheet is as large.
	await again.getByRole('button', { name: /^Thickness 512/ }).click();
	await again.getByRole('button', { name: 'See Thickness alone' }).click();
	await expect.poll(async () => pxApart(fine, await pxOnGrid(again, 'sheet'))).toBe(0);
	// Taking it away is undone like everything else.
	await again.getByRole('button', { name: /^Thickness 512/ }).click();
	await again.getByRole('button', { name: 'Take the bake away' }).click();
	await expect(again.getByRole('button', { name: /^Thickness 512/ })).toHaveCount(0);
	await again.keyboard.press('Control+z');
	await expect(again.getByRole('button', { name: /^Thickness 512/ })).toBeVisible();
});

test('a part has the colour of ids that was chosen for it: seen, undone, kept, and in the file', async ({ page }) => {
	await begin(page);
	await page.getByRole('button', { name: 'Add a bake' }).click();
	await page.getByRole('menuitem', { name: 'Ids', exact: true }).click();
	await computed(page);
	await page.getByRole('button', { name: 'See Ids alone' }).click();
	const near = (want: readonly number[]) => async (): Promise<boolean> =>
		(await pxOnGrid(page, 'sheet')).some((px) => want.every((v, k) => Math.abs(v - (px[k] as number)) < 3));
	await page.getByRole('button', { name: 'Colours of the parts' }).click();
	const part = page.getByRole('button', { name: /^Roof: colour #/ });
	await part.click();
	const swatch = page.getByRole('button', { name: /^Take #/ }).nth(8);
	const color = (await swatch.getAttribute('aria-label'))?.slice(5) as string;
	const rgb = [1, 3, 5].map((i) => Number.parseInt(color.slice(i, i + 2), 16));
	await swatch.click();
	await page.keyboard.press('Escape');
	await expect(page.getByRole('button', { name: `Roof: colour ${color}` })).toBeVisible();
	await page.keyboard.press('Escape');
	await expect.poll(near(rgb)).toBe(true);
	await page.keyboard.press('Control+z');
	await expect.poll(near(rgb)).toBe(false);
	await page.keyboard.press('Control+Shift+z');
	await expect.poll(near(rgb)).toBe(true);
	await kept(page);
	await page.reload();
	await settled(page);
	await page.getByRole('button', { name: /^Ids 512/ }).click();
	await page.getByRole('button', { name: 'See Ids alone' }).click();
	await expect.poll(near(rgb)).toBe(true);
	const [file] = await Promise.all([
		page.waitForEvent('download'),
		page.getByRole('button', { name: 'PNG, 8 bits' }).click(),
	]);
	const { data, info } = await sharp(readFileSync(await file.path()))
		.raw()
		.toBuffer({ resolveWithObject: true });
	let count = 0;
	for (let i = 0; i < data.length; i += info.channels) if (rgb.every((v, k) => data[i + k] === v)) count++;
	expect(count).toBeGreaterThan(2000);
});

test('the model is looked at lit, as values only, and going round; a press stops it and paints nothing', async ({
	page,
}) => {
	await openPaint(page, server.url, 'demo-hive');
	await computed(page);
	const plain = await pxOnGrid(page, 'model');
	await page.getByRole('button', { name: 'Preview' }).click();
	await page.getByRole('radio', { name: 'Dusk' }).click();
	await expect.poll(async () => pxApart(plain, await pxOnGrid(page, 'model'))).toBeGreaterThan(10);
	const [turntable] = await Promise.all([
		page.waitForEvent('download', { timeout: 60_000 }),
		page.getByRole('button', { name: 'Animated PNG' }).click(),
	]);
	const bytes = readFileSync(await turntable.path());
	expect(await sharp(bytes).metadata()).toMatchObject({ width: 512, height: 512, format: 'png' });
	expect(bytes.indexOf('acTL')).toBeGreaterThan(0);
	await page.getByRole('radio', { name: 'Unlit' }).click();
	await page.getByRole('button', { name: 'Turn round' }).click();
	await page.keyboard.press('Escape');
	await expect.poll(async () => pxApart(plain, await pxOnGrid(page, 'model'))).toBeGreaterThan(5);
	const undo = page.getByRole('button', { name: 'Undo' });
	await expect(undo).toBeDisabled();
	const [x, y] = await at(page, 'model', [0.5, 0.5]);
	await page.mouse.click(x, y);
	await page.waitForTimeout(300);
	await expect(undo).toBeDisabled();
	// A screenshot goes through the filter, the canvas itself does not.
	const [left, top] = await at(page, 'sheet', [0.35, 0.35]);
	const grey = async (): Promise<boolean> => {
		const shot = await page.screenshot({ clip: { x: left, y: top, width: 100, height: 100 } });
		const { data, info } = await sharp(shot).raw().toBuffer({ resolveWithObject: true });
		let most = 0;
		for (let i = 0; i < data.length; i += info.channels)
			most = Math.max(most, Math.abs((data[i] as number) - (data[i + 2] as number)));
		return most < 8;
	};
	expect(await grey()).toBe(false);
	await page.keyboard.down('Shift');
	await page.keyboard.down('v');
	await expect.poll(grey).toBe(true);
	await page.keyboard.up('v');
	await page.keyboard.up('Shift');
	await expect.poll(grey).toBe(false);
	expect((await canvasPixel(page, 'sheet', [0.5, 0.5])).length).toBe(4);
});

test('a layer stands out: light over it shows that, on the views as in the file, and strokes lay it with their colour', async ({
	page,
}) => {
	const file = (): Promise<Buffer> => exportPng(page, server.url, 'Hive', 'demo-hive');
	/** The share of texels, 0..1, that are told apart. */
	const apart = async (one: Buffer, other: Buffer): Promise<number> => {
		const [a, b] = [(await decodePng(one)).data, (await decodePng(other)).data];
		return (
			a.reduce((sum, v, i) => sum + (i % 4 === 1 && Math.abs(v - (b[i] as number)) > 6 ? 1 : 0), 0) / (a.length / 4)
		);
	};
	await openPaint(page, server.url, 'demo-hive');
	await computed(page);
	const raised = await file();
	const drawer = page.locator('[data-drawer]');
	await page.locator('[data-layer="Plank joints"]').click({ position: { x: 80, y: 10 } });
	await page.getByRole('button', { name: 'Layer', exact: true }).click();
	await expect(drawer.getByRole('heading', { name: 'Plank joints' })).toBeVisible();
	await expect(drawer.getByText('“Soft light” shows it.')).toBeVisible();
	await drawer.getByRole('button', { name: 'Lay it flat' }).click();
	await computed(page);
	const flat = await file();
	expect(await apart(raised, flat)).toBeGreaterThan(0.01);
	// Of its colour nothing stays at opacity 0, and what it did to the light does.
	await page.keyboard.press('Control+z');
	await drawer.getByRole('button', { name: 'Relief alone' }).click();
	await computed(page);
	const alone = await file();
	const height = drawer.getByRole('slider', { name: 'Height' });
	await height.focus();
	await page.keyboard.press('Enter');
	await page.keyboard.type('-4');
	await page.keyboard.press('Enter');
	await expect(height).toHaveAttribute('aria-valuenow', '-4');
	await computed(page);
	expect(await apart(alone, await file())).toBeGreaterThan(0.01);
	await page.keyboard.press('Control+z');
	await page.keyboard.press('Control+z');
	await computed(page);
	expect((await file()).equals(raised)).toBe(true);
	// A stroke lays relief with its colour, in every host the same.
	await page.locator('[data-layer="Moss"]').click({ position: { x: 80, y: 10 } });
	await stroke(page, 'model', [
		[0.3, 0.55],
		[0.42, 0.62],
		[0.5, 0.66],
	]);
	await computed(page);
	await kept(page);
	const painted = await file();
	expect(await apart(raised, painted)).toBeGreaterThan(0.002);
	expect(painted.equals(exportByCommand(server.data, 'demo-hive', 'Hive'))).toBe(true);
	await page.reload();
	await settled(page);
	await computed(page);
	expect((await file()).equals(painted)).toBe(true);
});
