/** Pixel sheets and bundles in the browser: texels land where they are drawn, stay in their colours, and go out as they are seen. */
import { mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { expect, type Page, test } from '@playwright/test';
import { unzipSync, zipSync } from 'fflate';
import sharp from 'sharp';
import { canvasPixel, kept, settled } from './artist.ts';
import { root } from './paths.ts';
import { decodePng } from './png.ts';
import { createServer, type TestServer } from './server.ts';

let server: TestServer;
test.beforeAll(async () => {
	server = createServer('pixels');
	await server.start();
});
test.afterAll(() => server.stop());

/** Where a texel of a sheet of so many is on the screen, as the sheet fills its view. */
async function placer(page: Page, side: number): Promise<(x: number, y: number) => readonly [number, number]> {
	const box = await page.locator('[data-view="sheet"]').boundingBox();
	if (!box) throw new Error('There is no sheet view.');
	const zoom = Math.min((box.width - 40) / side, (box.height - 90) / side);
	return (x, y) => [
		box.x + box.width / 2 + (x + 0.5 - side / 2) * zoom,
		box.y + box.height / 2 + (y + 0.5 - side / 2) * zoom,
	];
}

async function drag(page: Page, points: readonly (readonly [number, number])[]): Promise<void> {
	const [first, ...rest] = points;
	await page.mouse.move(...(first as [number, number]));
	await page.mouse.down();
	for (const point of rest) await page.mouse.move(point[0], point[1], { steps: 10 });
	await page.mouse.up();
}

/** The texels of the sheet as it goes out, row by row: '.' where nothing is, else a letter a colour in the order of `inks`. */
async function handedOff(page: Page, inks: readonly string[]): Promise<string[]> {
	await page.getByRole('link', { name: /Hand off/ }).click();
	const [download] = await Promise.all([
		page.waitForEvent('download'),
		page.getByRole('button', { name: 'Write PNG' }).first().click(),
	]);
	const { width, height, data } = await decodePng(readFileSync(await download.path()));
	await page.getByRole('link', { name: /Paint/ }).click();
	await settled(page);
	return Array.from({ length: height }, (_, y) =>
		Array.from({ length: width }, (_, x) => {
			const [r, g, b, a] = data.subarray((y * width + x) * 4, (y * width + x) * 4 + 4);
			if (a === 0) return '.';
			const hex = `#${[r, g, b].map((v) => (v as number).toString(16).padStart(2, '0')).join('')}`;
			return a === 255 && inks.includes(hex) ? 'abcdefgh'[inks.indexOf(hex)] : '?';
		}).join(''),
	);
}

test('a pixel sheet is begun, drawn on with pencil, shape and outline, checked, mended, and goes out as it is seen', async ({
	page,
}) => {
	await page.goto(server.url);
	await page.getByRole('button', { name: 'Begin without a file' }).click();
	await page.getByRole('menuitem', { name: 'A pixel sheet…' }).click();
	await page.getByLabel('Width').fill('3');
	await expect(page.getByRole('alert')).toHaveText('8 to 512 each');
	await page.getByRole('radio', { name: '8', exact: true }).click();
	await page.getByRole('button', { name: 'Begin drawing' }).click();
	await settled(page);
	const at = await placer(page, 8);
	const color = (hex: string) => page.getByRole('option', { name: hex, exact: true }).click();
	await color('#b85a33');
	// Along a side and down: the corner between is left out.
	await drag(page, [at(1, 1), at(3, 1), at(3, 3)]);
	await kept(page);
	const inks = ['#b85a33', '#2b2d30', '#e8b345'];
	expect(await handedOff(page, inks)).toEqual([
		'........',
		'.aa.....',
		'...a....',
		'...a....',
		'........',
		'........',
		'........',
		'........',
	]);
	await page.getByRole('radio', { name: 'Shape', exact: true }).click();
	await page.getByRole('radio', { name: 'Rectangle', exact: true }).click();
	await color('#e8b345');
	await drag(page, [at(3, 3), at(5, 5)]);
	await page.getByRole('radio', { name: 'Outline', exact: true }).click();
	await page.getByRole('radio', { name: 'Ring around' }).click();
	await color('#2b2d30');
	await page.getByRole('button', { name: 'Add in the front pot' }).click();
	await kept(page);
	const ringed = ['.bb.....', 'baab....', '.bbabb..', '..bcccb.', '..bcccb.', '..bcccb.', '...bbb..', '........'];
	expect(await handedOff(page, inks)).toEqual(ringed);
	// A texel that stands apart is found and taken away.
	await page.getByRole('radio', { name: 'Draw', exact: true }).click();
	await page.mouse.click(...at(0, 7));
	await page.getByRole('button', { name: 'Findings', exact: true }).click();
	await page.getByRole('button', { name: 'Take them away' }).click();
	await expect(page.getByRole('heading', { name: 'Stray texels' })).toHaveCount(0);
	await kept(page);
	await page.reload();
	await settled(page);
	expect(await handedOff(page, inks)).toEqual(ringed);
	for (let i = 0; i < 2; i++) await page.keyboard.press('Control+z');
	await page.keyboard.press('Control+z');
	await kept(page);
	expect((await handedOff(page, inks)).join('')).not.toContain('b');
});

test('texels point at entries: one is turned and its texels follow, paint becomes an entry; undone, kept, let go', async ({
	page,
}) => {
	await page.goto(`${server.url}/project/demo-items/paint`);
	await settled(page);
	const small = page.getByTitle('On light ground').locator('canvas').first();
	/** How many texels have each colour at a game's size. */
	const counts = (): Promise<Record<string, number>> =>
		small.evaluate((canvas: HTMLCanvasElement) => {
			const { data } = (canvas.getContext('2d') as CanvasRenderingContext2D).getImageData(0, 0, 16, 16);
			const out: Record<string, number> = {};
			for (let i = 0; i < data.length; i += 4) {
				const [r, g, b] = data.subarray(i, i + 3);
				const hex = `#${[r, g, b].map((v) => (v as number).toString(16).padStart(2, '0')).join('')}`;
				out[hex] = (out[hex] ?? 0) + 1;
			}
			return out;
		});
	const before = await counts();
	await page.getByRole('button', { name: 'Colours', exact: true }).click();
	await page.getByRole('button', { name: 'Point "Texels" at entries' }).click();
	await expect(page.getByLabel('Points at entries')).toBeVisible();
	expect(await counts()).toEqual(before);
	await page.getByRole('button', { name: 'Entry 6, #523521, 37 texels' }).click();
	const hue = page.locator('[data-drawer]').getByRole('slider', { name: 'Hue', exact: true });
	await hue.focus();
	for (let i = 0; i < 12; i++) await page.keyboard.press('ArrowRight');
	await expect(page.getByRole('button', { name: /^Entry 6, #\w+, 37 texels/ })).not.toHaveAccessibleName(/#523521/);
	const name = await page.getByRole('button', { name: /^Entry 6, / }).getAttribute('aria-label');
	const turned = /#\w{6}/.exec(name ?? '')?.[0] ?? '';
	await expect.poll(async () => (await counts())[turned]).toBe(37);
	expect((await counts())['#523521'] ?? 0).toBe(0);
	// The pot holds what no entry is any more: what is drawn with it becomes the nearest entry.
	const at = await placer(page, 16);
	await page.mouse.click(...at(1, 1));
	const entries = await page
		.getByRole('button', { name: /^Entry \d+, / })
		.evaluateAll((all) => all.map((each) => /#\w{6}/.exec(each.getAttribute('aria-label') ?? '')?.[0]));
	const onSheet = async (): Promise<string[]> =>
		(await page
			.getByRole('group', { name: 'Colours used' })
			.getByRole('button')
			.evaluateAll((all) =>
				all.map((each) => /#\w{6}/.exec(each.getAttribute('aria-label') ?? '')?.[0] ?? ''),
			)) as string[];
	await expect(page.getByText(/^9 colours, 0 not in the palette|^10 colours, 0 not in the palette/)).toBeVisible();
	expect((await onSheet()).filter((hex) => !entries.includes(hex))).toEqual([]);
	await kept(page);
	await page.keyboard.press('Control+z');
	const now = await counts();
	await kept(page);
	await page.reload();
	await settled(page);
	await expect(page.getByLabel('Points at entries')).toBeVisible();
	expect(await counts()).toEqual(now);
	for (let i = 0; i < 14 && (await page.getByLabel('Points at entries').count()); i++) {
		await page.keyboard.press('Control+z');
		await kept(page);
	}
	await expect.poll(counts).toEqual(before);
});

test('an item is seen as it was while a key is held, and moved by whole texels only', async ({ page }) => {
	await page.goto(`${server.url}/project/demo-items/paint`);
	await settled(page);
	const heldView = page.locator('[data-view="held"] canvas');
	const small = page.getByTitle('On light ground').locator('canvas').first();
	/** What is shown at a game's size, texel by texel. */
	const texels = (): Promise<string> =>
		small.evaluate((canvas: HTMLCanvasElement) =>
			[...(canvas.getContext('2d') as CanvasRenderingContext2D).getImageData(0, 0, 16, 16).data].join(),
		);
	const inHand = (): Promise<string> =>
		heldView.evaluate(async (canvas: HTMLCanvasElement) => {
			const bytes = new TextEncoder().encode(canvas.toDataURL());
			return [...new Uint8Array(await crypto.subtle.digest('SHA-1', bytes))].join();
		});
	const [before, handBefore] = [await texels(), await inHand()];
	await page.keyboard.press('m');
	const knob = page.locator('[data-box="sheet"] [data-move="turn"]');
	const box = await knob.boundingBox();
	const around = await page.locator('[data-box="sheet"] [data-move="inside"]').boundingBox();
	if (!box || !around) throw new Error('no box');
	// Nearly to the right: a quarter turn.
	await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
	await page.mouse.down();
	await page.mouse.move(around.x + around.width, around.y + around.height * 0.35, { steps: 6 });
	await page.mouse.up();
	await expect(page.getByRole('slider', { name: 'Turn' })).toHaveAttribute('aria-valuenow', '90');
	await expect.poll(texels).not.toBe(before);
	await kept(page);
	const turned = (await texels()).split(',').map(Number);
	// Each texel is one of those that were there, a quarter turn on: the same colours, as often.
	const colors = (list: readonly number[]): string[] =>
		Array.from({ length: 256 }, (_, i) => list.slice(i * 4, i * 4 + 4).join()).sort();
	expect(colors(turned)).toEqual(colors(before.split(',').map(Number)));
	await expect.poll(inHand).not.toBe(handBefore);
	await page.keyboard.down('o');
	await expect.poll(texels).toBe(before);
	await expect.poll(inHand).toBe(handBefore);
	await page.keyboard.up('o');
	await expect.poll(texels).toBe(turned.join());
	await page.getByRole('button', { name: 'As it was' }).click();
	await expect.poll(texels).toBe(before);
	await page.getByRole('button', { name: 'As it was' }).click();
	await page.keyboard.press('Control+z');
	await expect.poll(texels).toBe(before);
});

test('tools that mix colours are refused in words, with the way out; the colour of a whole item is replaced', async ({
	page,
}) => {
	await page.goto(`${server.url}/project/demo-items/paint`);
	await settled(page);
	await expect(page.getByRole('radio', { name: 'Smear', exact: true })).toHaveCount(0);
	await page.getByRole('button', { name: 'Colours', exact: true }).click();
	await page.getByRole('button', { name: /^#e8b345, \d+ texels/ }).click();
	await page.getByRole('option', { name: '#cbd7a8', exact: true }).click();
	await page.getByRole('button', { name: 'Replace it with the front pot' }).click();
	await expect(page.getByRole('button', { name: /^#cbd7a8, \d+ texels/ })).toBeVisible();
	await expect(page.getByRole('button', { name: /^#e8b345, \d+ texels/ })).toHaveCount(0);
	await page.keyboard.press('Control+z');
	await expect(page.getByRole('button', { name: /^#e8b345, \d+ texels/ })).toBeVisible();
});

test('the steps of a ramp are put in another order by hand and by key, and the hand stays where it was', async ({
	page,
}) => {
	await page.goto(`${server.url}/project/demo-items/paint`);
	await settled(page);
	await page.getByRole('button', { name: 'Colours', exact: true }).click();
	const rows = page.getByRole('group', { name: /^Steps of / });
	// The palette has ramps of as many steps already: the last is the new one only once it is there.
	await expect(rows).not.toHaveCount(0);
	const before = await rows.count();
	await page.getByRole('button', { name: 'Add the ramp' }).click();
	await expect(rows).toHaveCount(before + 1);
	const steps = rows.last().getByRole('button');
	await expect(steps).toHaveCount(6);
	const order = (): Promise<string[]> =>
		steps.evaluateAll((all) => all.map((each) => (each.getAttribute('aria-label') ?? '').split(': ')[1] ?? ''));
	const [a, b, c, ...rest] = (await order()) as [string, string, string, ...string[]];
	await steps.first().focus();
	await page.keyboard.press('Alt+ArrowRight');
	await expect.poll(order).toEqual([b, a, c, ...rest]);
	await page.keyboard.press('Alt+ArrowRight');
	await expect.poll(order).toEqual([b, c, a, ...rest]);
	const [from, to] = [await steps.nth(2).boundingBox(), await steps.nth(0).boundingBox()];
	if (!from || !to) throw new Error('no steps');
	await page.mouse.move(from.x + from.width / 2, from.y + from.height / 2);
	await page.mouse.down();
	await page.mouse.move(from.x - 4, from.y + 8, { steps: 4 });
	await page.mouse.move(to.x + to.width / 2, to.y + to.height / 2, { steps: 8 });
	await page.mouse.up();
	await expect.poll(order).toEqual([a, b, c, ...rest]);
	await page.keyboard.press('Control+z');
	await expect.poll(order).toEqual([b, c, a, ...rest]);
	await kept(page);
	await page.reload();
	await settled(page);
	await page.getByRole('button', { name: 'Colours', exact: true }).click();
	await expect.poll(order).toEqual([b, c, a, ...rest]);
});

test('a ZIP of textures is opened, one is drawn on, and written back with all else as it was', async ({ page }) => {
	const demo = unzipSync(readFileSync(join(root, 'demo/out/mossbarrow-textures.zip')));
	const many = Object.fromEntries(
		Array.from({ length: 400 }, (_, i) => [`many/leaf-${i}.png`, demo['textures/yard/grass.png'] as Uint8Array]),
	);
	const zip = zipSync({ ...demo, ...many, 'sound.ogg': new Uint8Array(3000).fill(7), '../out.png': new Uint8Array(8) });
	await page.goto(server.url);
	await page
		.getByLabel('Model or picture')
		.setInputFiles({ name: 'yard.zip', mimeType: 'application/zip', buffer: Buffer.from(zip) });
	await page.waitForURL(/\/paint$/);
	await settled(page);
	await expect(page.getByText(`${Object.keys(demo).length + 402} of ${Object.keys(demo).length + 402}`)).toBeVisible();
	await page.getByLabel('Look for textures').fill('yard comb');
	await page.getByRole('button', { name: /comb\.png/ }).click();
	await expect(page.getByText('open, as it was')).toBeVisible();
	await settled(page);
	const at = await placer(page, 16);
	await drag(page, [at(2, 2), at(9, 2)]);
	await expect(page.getByText(/^changed · /)).toBeVisible();
	// A colour of four hundred textures at once: seen before it is done, undone and done again.
	await page.getByLabel('Look for textures').fill('many leaf');
	await page.getByRole('button', { name: 'All colours' }).click();
	await expect(page.getByText(/colours in 400 textures/)).toBeVisible();
	await page.getByRole('group', { name: 'Colours of all textures' }).getByRole('button').first().click();
	await expect(page.getByText(/^would be changed/).first()).toBeVisible();
	await page.getByRole('button', { name: 'Replace it with the front pot in 400 textures' }).click();
	await expect(page.getByText(/^recoloured/).first()).toBeVisible();
	await page.getByRole('button', { name: 'Undo' }).click();
	await expect(page.getByText(/^as it was/).first()).toBeVisible();
	await page.getByRole('button', { name: 'Redo' }).click();
	await expect(page.getByText(/^recoloured/).first()).toBeVisible();
	await kept(page);
	await page.reload();
	await settled(page);
	const [download] = await Promise.all([
		page.waitForEvent('download'),
		page.getByRole('button', { name: 'Write the bundle' }).click(),
	]);
	const after = unzipSync(readFileSync(await download.path()));
	const before = unzipSync(zip);
	expect(Object.keys(after)).toEqual(Object.keys(before));
	for (const path of Object.keys(before)) {
		const same = Buffer.compare(before[path] as Uint8Array, after[path] as Uint8Array) === 0;
		expect([path, same]).toEqual([path, path !== 'textures/yard/comb.png' && !path.startsWith('many/')]);
	}
	const texels = async (bytes?: Uint8Array): Promise<Buffer> => sharp(bytes).ensureAlpha().raw().toBuffer();
	const [was, now] = [await texels(before['many/leaf-7.png']), await texels(after['many/leaf-7.png'])];
	const became = new Map<string, string>();
	for (let i = 0; i < was.length; i += 4) {
		const [from, to] = [was, now].map((all) => all.subarray(i, i + 4).toString('hex')) as [string, string];
		expect(became.get(from) ?? to).toBe(to);
		became.set(from, to);
	}
	expect([...became].filter(([from, to]) => from !== to)).toHaveLength(1);
});

test('a folder of textures is taken as the ZIP that it would be', async ({ page }) => {
	const demo = unzipSync(readFileSync(join(root, 'demo/out/mossbarrow-textures.zip')));
	const folder = join(mkdtempSync(join(tmpdir(), 'eppu-folder-')), 'Yard set');
	for (const [path, bytes] of Object.entries({ ...demo, 'sounds/bee.ogg': new Uint8Array(300).fill(7) })) {
		if (path.endsWith('/')) continue;
		mkdirSync(dirname(join(folder, path)), { recursive: true });
		writeFileSync(join(folder, path), bytes);
	}
	await page.goto(server.url);
	await page.getByLabel('Folder of textures').setInputFiles(folder);
	await page.waitForURL(/\/paint$/);
	await settled(page);
	await page.getByLabel('Look for textures').fill('yard comb');
	await expect(page.getByRole('button', { name: /comb\.png/ })).toBeVisible();
	const [download] = await Promise.all([
		page.waitForEvent('download'),
		page.getByRole('button', { name: 'Write the bundle' }).click(),
	]);
	expect(download.suggestedFilename()).toContain('ard set');
	const after = unzipSync(readFileSync(await download.path()));
	for (const [path, bytes] of Object.entries(demo))
		if (!path.endsWith('/')) expect(Buffer.compare(after[path] as Uint8Array, bytes)).toBe(0);
	expect([...(after['sounds/bee.ogg'] as Uint8Array)]).toEqual(Array(300).fill(7));
	rmSync(dirname(folder), { recursive: true });
});

test('a colour grid: a part is put in a cell on the model, the cell is moved and its users go along; all is undone and stays', async ({
	page,
}) => {
	await page.goto(`${server.url}/project/demo-yard/paint`);
	await settled(page);
	await page.getByRole('radio', { name: 'Cells', exact: true }).click();
	const at = await placer(page, 8);
	const model = await page.locator('[data-view="model"]').boundingBox();
	if (!model) throw new Error('There is no model view.');
	const water = [model.x + model.width / 2, model.y + model.height / 2 + 30] as const;
	const color = async (): Promise<string> => {
		const [r, g, b] = await canvasPixel(page, 'model', [0.5, (water[1] - model.y) / model.height]);
		return `#${[r, g, b].map((v) => (v as number).toString(16).padStart(2, '0')).join('')}`;
	};
	await page.mouse.click(...at(2, 2));
	await expect(page.getByLabel('Name of the cell')).toHaveValue('Rust red');
	await page.getByRole('button', { name: 'Who uses it' }).click();
	await expect(page.getByText(/unused, \d+ nearly as another, 52 spare/)).toBeVisible();
	await page.keyboard.press('Escape');
	await page.mouse.click(...water);
	await expect.poll(color).toBe('#b85a33');
	await expect(page.getByRole('button', { name: 'Who uses it' })).toHaveText('Used by 1');
	await page.getByRole('button', { name: 'Move', exact: true }).click();
	await page.mouse.click(...at(6, 7));
	await expect(page.getByLabel('Name of the cell')).toHaveValue('Rust red');
	await expect(page.getByRole('button', { name: 'Who uses it' })).toHaveText('Used by 1');
	await expect.poll(color).toBe('#b85a33');
	// The old place is spare, and can be another colour without the bucket minding.
	await page.mouse.click(...at(2, 2));
	await page.getByRole('button', { name: 'Fill it with the front pot' }).click();
	await expect.poll(color).toBe('#b85a33');
	await kept(page);
	await page.reload();
	await settled(page);
	await expect.poll(color).toBe('#b85a33');
	for (let i = 0; i < 3; i++) await page.keyboard.press('Control+z');
	await expect.poll(color).not.toBe('#b85a33');
	// From the model to a cell, from that cell to another, both by dragging, and from a cell to the model; then by its name.
	await page.getByRole('radio', { name: 'Cells', exact: true }).click();
	const drag = async (from: readonly [number, number], to: readonly [number, number], words: string | RegExp) => {
		await page.mouse.move(...from);
		await page.mouse.down();
		await page.mouse.move((from[0] + to[0]) / 2, (from[1] + to[1]) / 2);
		await page.mouse.move(...to);
		await expect(page.locator('output').filter({ hasText: words })).toBeVisible();
		await page.mouse.up();
	};
	await drag(water, at(2, 2), 'The part to "Rust red"');
	await expect.poll(color).toBe('#b85a33');
	await drag(at(2, 2), at(0, 4), /^The part to /);
	await expect.poll(color).not.toBe('#b85a33');
	await expect(page.getByRole('button', { name: 'Who uses it' })).not.toHaveText('Used by none');
	await drag(at(7, 7), at(4, 4), 'Nothing of a model lies where this began');
	await drag(at(2, 2), water, 'The part here goes to "Rust red"');
	await expect.poll(color).toBe('#b85a33');
	for (let i = 0; i < 3; i++) await page.keyboard.press('Control+z');
	await expect.poll(color).not.toBe('#b85a33');
	await page.mouse.click(...at(2, 2));
	await page.getByRole('button', { name: 'Who uses it' }).click();
	await page.getByRole('button', { name: 'Bucket: Inside' }).press('Enter');
	await page.keyboard.press('Escape');
	await expect.poll(color).toBe('#b85a33');
	await page.keyboard.press('Control+z');
	// Along a line across the water, from one end of a cell's colours to the other.
	await page.mouse.click(...at(0, 4));
	await page.getByRole('radio', { name: 'Along a line' }).click();
	await page.mouse.click(water[0] - 90, water[1]);
	await expect(page.getByText('Now click its end')).toBeVisible();
	await page.mouse.click(water[0] + 90, water[1]);
	const light = async (by: number): Promise<number> => {
		const place = [0.5 + by / model.width, (water[1] - model.y) / model.height] as const;
		return (await canvasPixel(page, 'model', place)).slice(0, 3).reduce((sum, v) => sum + v, 0);
	};
	await expect.poll(async () => (await light(-70)) - (await light(70))).toBeGreaterThan(60);
	const [start, middle, end] = [await light(-70), await light(0), await light(70)];
	expect(middle).toBeLessThan(start);
	expect(end).toBeLessThan(middle);
});

test('a suit is begun, painted on the figure texel by texel, and repeated on its twin', async ({ page }) => {
	await page.goto(server.url);
	await page.getByRole('button', { name: 'Begin without a file' }).click();
	await page.getByRole('menuitem', { name: 'A suit worn by a figure of boxes' }).click();
	await page.waitForURL(/\/paint$/);
	await settled(page);
	await page.keyboard.press('Alt+1');
	await page.waitForTimeout(400);
	await page.getByRole('option', { name: '#b85a33', exact: true }).click();
	const box = await page.locator('[data-view="model"]').boundingBox();
	if (!box) throw new Error('There is no model view.');
	// Over the arm that is at the left hand of whoever looks, and a little onto the body beside it.
	const y = box.y + box.height * 0.53;
	await drag(page, [
		[box.x + box.width * 0.25, y],
		[box.x + box.width * 0.45, y],
	]);
	await kept(page);
	const row = async (): Promise<string> => (await handedOff(page, ['#b85a33'])).join('\n');
	const one = await row();
	const count = (text: string): number => text.split('a').length - 1;
	expect(count(one)).toBeGreaterThanOrEqual(4);
	expect(one).not.toContain('?');
	await page.getByRole('button', { name: 'Texels', exact: true }).click();
	await page.getByRole('button', { name: 'Left arm → Right arm' }).click();
	await page.keyboard.press('Escape');
	await kept(page);
	const both = await row();
	expect(count(both)).toBeGreaterThan(count(one));
	await page.keyboard.press('Control+z');
	await kept(page);
	expect(await row()).toBe(one);
});

test('a figure walks while its sheet is painted, is at rest before it is painted on, and its boxes are changed with their paint', async ({
	page,
}) => {
	await page.goto(`${server.url}/project/demo-suit/paint`);
	await settled(page);
	const view = page.locator('[data-view="model"]');
	const look = async (): Promise<string> => (await view.screenshot()).toString('base64');
	await page.getByRole('button', { name: 'Preview' }).click();
	await page.getByRole('radio', { name: 'Arms out' }).click();
	await page.keyboard.press('Escape');
	await page.waitForTimeout(900);
	const out = await look();
	await page.getByRole('button', { name: 'Preview' }).click();
	await page.getByRole('radio', { name: 'Walking' }).click();
	await page.keyboard.press('Escape');
	const steps = new Set<string>();
	for (let i = 0; i < 4; i++) {
		await page.waitForTimeout(170);
		steps.add(await look());
	}
	expect(steps.size).toBeGreaterThan(2);
	expect(steps.has(out)).toBe(false);
	// The first press only has it at rest: nothing is painted where it was not seen coming.
	const undo = page.getByRole('button', { name: 'Undo', exact: true });
	const box = await view.boundingBox();
	if (!box) throw new Error('There is no model view.');
	const at = [box.x + box.width * 0.5, box.y + box.height * 0.6] as const;
	await page.mouse.click(...at);
	await page.waitForTimeout(900);
	const [one, other] = [await look(), await look()];
	expect(one).toBe(other);
	await expect(undo).toBeDisabled();
	await page.mouse.click(...at);
	await expect(undo).toBeEnabled();
	// As it was when the visit began, on the figure too, while its key is held.
	await page.mouse.move(640, 20);
	await page.waitForTimeout(900);
	const painted = await look();
	await page.keyboard.down('o');
	await expect.poll(look).not.toBe(painted);
	await page.keyboard.up('o');
	await expect.poll(look).toBe(painted);
	await page.keyboard.press('Control+z');
	await kept(page);

	const inks = ['#e3cf9b', '#cfa963', '#a9753c', '#7b5230', '#523521'];
	const before = await handedOff(page, inks);
	await page.goto(`${server.url}/project/demo-suit/lay-out`);
	await settled(page);
	await page.getByRole('button', { name: 'More of Beekeeper' }).click();
	await page.getByRole('menuitem', { name: 'Boxes of the figure…' }).click();
	await page.getByRole('button', { name: 'Hat brim' }).click();
	const top = page.getByLabel('On the sheet: from the top');
	await top.fill('60');
	await expect(page.getByText(/"Hat brim": its sides do not fit on the sheet/)).toBeVisible();
	await expect(page.getByRole('button', { name: 'Take it over' })).toBeDisabled();
	await top.fill('46');
	await page.getByRole('radio', { name: 'Arms out' }).click();
	await page.getByLabel('Name of the pose').fill('Scarecrow');
	await page.getByRole('button', { name: 'Take it over' }).click();
	await kept(page);
	await page.goto(`${server.url}/project/demo-suit/paint`);
	await settled(page);
	const after = await handedOff(page, inks);
	// The brim's fifteen rows stand ten lower, all else is as it was.
	const brim = (rows: readonly string[], from: number): string[] =>
		rows.slice(from, from + 15).map((row) => row.slice(0, 56));
	expect(brim(after, 46)).toEqual(brim(before, 36));
	expect(after.slice(0, 36)).toEqual(before.slice(0, 36));
	expect(after.map((row) => row.slice(56))).toEqual(before.map((row) => row.slice(56)));
	await page.getByRole('button', { name: 'Preview' }).click();
	await expect(page.getByRole('radio', { name: 'Scarecrow' })).toBeVisible();
});
