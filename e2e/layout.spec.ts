/** Lay out: what a model is like on its sheets is told, and shown on both views; nothing is painted there. */
import { readFileSync } from 'node:fs';
import { writeObj } from '@eppu/core/mesh';
import { expect, type Page, test } from '@playwright/test';
import sharp from 'sharp';
import { smokerMesh } from '../demo/mesh/smoker.ts';
import { canvasPixel, chooseOf, exportPng, kept, settled, stroke } from './artist.ts';
import { decodePng } from './png.ts';
import { createServer } from './server.ts';

const server = createServer('layout');
test.beforeAll(() => server.start());
test.afterAll(() => server.kill());

const open = async (page: Page, project: string): Promise<void> => {
	await page.goto(`${server.url}/project/${project}/lay-out`);
	await settled(page);
};
/** Whether a px is the amber of what is pointed out, over whatever lies below. */
const amber = ([r = 0, g = 0, b = 0]: readonly number[]): boolean => r > g + 30 && g > b + 40;
const places = Array.from({ length: 81 }, (_, i) => [0.1 + 0.1 * (i % 9), 0.1 + 0.1 * Math.floor(i / 9)] as const);
/** Where the lid is on the model. */
const band = Array.from({ length: 60 }, (_, i) => [0.25 + 0.05 * (i % 10), 0.34 + 0.025 * Math.floor(i / 10)] as const);
const ambers = async (
	page: Page,
	view: 'model' | 'sheet',
	at: readonly (readonly [number, number])[] = places,
): Promise<number> => (await Promise.all(at.map((place) => canvasPixel(page, view, place)))).filter(amber).length;
const tints = async (page: Page): Promise<number> =>
	new Set(
		(await Promise.all(places.map((place) => canvasPixel(page, 'sheet', place)))).map((px) =>
			px.map((v) => v >> 4).join(),
		),
	).size;

test('parts with their figures and findings are listed; each is shown on both views, and the faces are coloured', async ({
	page,
}) => {
	await open(page, 'demo-smoker');
	const can = page.getByRole('region', { name: 'Sheet Can' });
	await expect(can.getByRole('button', { name: /^Body 532 faces, 2 islands, 309 texels a unit/ })).toBeVisible();
	await expect(can).toContainText('1024 × 1024 · 67% covered');
	await chooseOf(page, 'Colour the faces by', 'Stretch');
	await expect(page.getByRole('list', { name: 'What the colours mean' })).toContainText('up to twice');
	expect(await ambers(page, 'sheet')).toBe(0);
	const lid = page.getByRole('button', { name: /Texels of "Lid" are 1.6 times as long as wide/ });
	await lid.click();
	await expect(lid).toHaveAttribute('aria-pressed', 'true');
	await expect.poll(() => ambers(page, 'sheet')).toBeGreaterThan(1);
	await expect.poll(() => ambers(page, 'model', band)).toBeGreaterThan(1);
	// The same again points nothing out; by keyboard as well.
	await lid.press('Enter');
	await expect.poll(() => ambers(page, 'sheet')).toBe(0);
	await chooseOf(page, 'Colour the faces by', 'Paint');
	const plain = await tints(page);
	await chooseOf(page, 'Colour the faces by', 'Islands');
	await expect.poll(() => tints(page)).not.toBe(plain);
	// Laid flat the model is another picture, and nothing is pointed at on it; folded up it is as before.
	const model = (): Promise<number[][]> => Promise.all(places.map((place) => canvasPixel(page, 'model', place)));
	/** Places that show something else than before; rims are drawn finer once the view rests. */
	const others = async (): Promise<number> =>
		(await model()).filter((px, i) => px.some((v, k) => Math.abs(v - (folded[i]?.[k] as number)) > 24)).length;
	const folded = await model();
	const unfold = page.getByRole('slider', { name: 'Unfold' });
	await unfold.focus();
	for (let i = 0; i < 12; i++) await unfold.press('ArrowRight');
	await expect.poll(others).toBeGreaterThan(9);
	const box = (await page.locator('[data-view="model"]').boundingBox()) as {
		x: number;
		y: number;
		width: number;
		height: number;
	};
	await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
	await expect(page.getByText(/· island \d+ · sheet/)).toHaveCount(0);
	for (let i = 0; i < 12; i++) await unfold.press('ArrowLeft');
	await expect.poll(others).toBeLessThan(2);
	// Another sheet is seen from its parts.
	await page.getByRole('region', { name: 'Sheet Bellows' }).getByRole('button', { name: 'Show it' }).click();
	await expect(
		page.getByRole('region', { name: 'Sheet Bellows' }).getByRole('button', { name: 'Shown', exact: true }),
	).toBeDisabled();
});

test('a drag turns the model and moves the sheet, and paints nothing; Paint paints as before', async ({ page }) => {
	await open(page, 'demo-smoker');
	const before = await canvasPixel(page, 'model', [0.5, 0.6]);
	for (const view of ['model', 'sheet'] as const)
		await stroke(page, view, [
			[0.4, 0.6],
			[0.5, 0.62],
			[0.6, 0.6],
		]);
	await expect(page.getByRole('button', { name: 'Undo' })).toBeDisabled();
	expect(await canvasPixel(page, 'model', [0.5, 0.6])).toHaveLength(before.length);
	await page.getByRole('link', { name: 'Paint' }).click();
	await page.locator('[data-layer="Edge light"]').click({ position: { x: 80, y: 10 } });
	await stroke(page, 'sheet', [
		[0.4, 0.5],
		[0.6, 0.5],
	]);
	await kept(page);
	await expect(page.getByRole('button', { name: 'Undo' })).toBeEnabled();
});

test('parts are hidden, shown and seen alone; each is a step that is undone, and is there after a reload', async ({
	page,
}) => {
	await open(page, 'demo-smoker');
	const grey = async (): Promise<number> =>
		(await Promise.all(places.map((place) => canvasPixel(page, 'model', place)))).filter(
			([r, g, b]) => r === g && g === b,
		).length;
	const all = await grey();
	await page.getByRole('button', { name: 'Only Lid' }).click();
	await expect.poll(grey).toBeGreaterThan(all + 8);
	await expect(page.getByRole('button', { name: 'Body shown' })).toHaveAttribute('aria-pressed', 'false');
	const alone = await grey();
	await page.getByRole('button', { name: 'Body shown' }).click();
	await expect.poll(grey).toBeLessThan(alone);
	await kept(page);
	await page.reload();
	await settled(page);
	await expect(page.getByRole('button', { name: 'Body shown' })).toHaveAttribute('aria-pressed', 'true');
	await expect(page.getByRole('button', { name: 'Bellows shown' })).toHaveAttribute('aria-pressed', 'false');
	await page.keyboard.press('Control+z');
	await page.keyboard.press('Control+z');
	await expect.poll(grey).toBe(all);
	await expect(page.getByRole('button', { name: 'Bellows shown' })).toHaveAttribute('aria-pressed', 'true');
	await kept(page);
});

test('a model of one’s own tells what costs paint, with the part and a way out', async ({ page }) => {
	const mesh = smokerMesh();
	const part = mesh.parts.find(({ name }) => name === 'Lid');
	if (!part) throw new Error('no lid');
	// Three faces of the lid look inwards.
	const indices = mesh.indices.slice();
	for (let face = part.firstFace + 40; face < part.firstFace + 43; face++)
		indices.set([indices[face * 3 + 1] as number, indices[face * 3] as number], face * 3);
	await page.goto(server.url);
	await page.getByLabel('Model or picture').setInputFiles({
		name: 'turned.obj',
		mimeType: 'text/plain',
		buffer: Buffer.from(writeObj({ ...mesh, indices })),
	});
	await page.getByRole('button', { name: 'Begin painting' }).click();
	await settled(page);
	await page.getByRole('link', { name: 'Lay out' }).click();
	const turned = page.getByRole('button', { name: /Costs paint.*of "Lid" look another way than their neighbours/ });
	await expect(turned).toContainText('Turn their normals in your modelling program');
	await expect(page.getByRole('region', { name: 'What to know of this model' })).toContainText('lie over others');
});

test('the template of a sheet is written as PNG and SVG, with what was chosen', async ({ page }) => {
	await open(page, 'demo-smoker');
	// The sheet that was shown last is shown again.
	const show = page.getByRole('region', { name: 'Sheet Can' }).getByRole('button', { name: /^Show(n| it)$/ });
	if (await show.isEnabled()) await show.click();
	await page.getByRole('button', { name: 'Template of the sheet' }).click();
	await page.getByRole('radio', { name: 'In tints' }).click();
	await page.getByRole('checkbox', { name: 'Names of parts' }).check();
	await page.getByRole('radio', { name: '512', exact: true }).click();
	const written = async (button: string): Promise<Buffer> => {
		const waiting = page.waitForEvent('download');
		await page.getByRole('button', { name: button }).click();
		const download = await waiting;
		expect(download.suggestedFilename()).toMatch(/^mossbarrow-smoker-can-template\.(png|svg)$/);
		return readFileSync(await download.path());
	};
	const png = await decodePng(await written('Write PNG'));
	expect([png.width, png.height]).toEqual([512, 512]);
	const at = (u: number, v: number): number[] => [
		...png.data.subarray(
			(Math.floor(v * 512) * 512 + Math.floor(u * 512)) * 4,
			(Math.floor(v * 512) * 512 + Math.floor(u * 512)) * 4 + 4,
		),
	];
	// The lower right of this sheet is empty: grey there; the islands are in their tints.
	expect(at(0.95, 0.95)).toEqual([128, 128, 128, 255]);
	expect(new Set([at(0.3, 0.21), at(0.3, 0.53), at(0.84, 0.6)].map((px) => px.join())).size).toBe(3);
	const svg = (await written('Write SVG')).toString('utf8');
	expect(svg).toContain('>Spout</text>');
	expect(svg.match(/<title>Body<\/title>/g)).toHaveLength(2);
	await expect(page.getByText('your browser saves it')).toBeVisible();
});

test('a template picture: its islands are found, taken, filled one by one, and exported; a blank one has none', async ({
	page,
}) => {
	await page.goto(server.url);
	const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="256" height="256"><rect width="256" height="256" fill="#fff"/><g fill="none" stroke="#222" stroke-width="2"><rect x="20" y="20" width="90" height="90"/><circle cx="190" cy="70" r="40"/><path d="M40 150 L120 150 L120 230 L80 230 L80 190 L40 190 Z"/></g></svg>`;
	const drawn = await sharp(Buffer.from(svg)).jpeg({ quality: 70 }).toBuffer();
	await page.getByLabel('Model or picture').setInputFiles({ name: 'plan.jpg', mimeType: 'image/jpeg', buffer: drawn });
	await page.getByRole('button', { name: 'Find its islands' }).click();
	await expect(page.getByText('3 islands found.')).toBeVisible({ timeout: 20_000 });
	await page.getByRole('button', { name: 'Take these islands' }).click();
	await expect(page.getByRole('button', { name: /^Island 3 \d/ })).toBeVisible();
	await page.getByRole('button', { name: 'More of Island 1' }).click();
	await page.getByRole('menuitem', { name: 'Name…' }).click();
	await page.getByLabel('Name of Island 1').fill('Lid');
	await page.keyboard.press('Enter');
	await expect(page.getByRole('button', { name: /^Lid \d/ })).toBeVisible();
	await kept(page);
	await page.getByRole('link', { name: 'Paint', exact: true }).click();
	await settled(page);
	await page.keyboard.press('f');
	// The middle of the first island, wherever the sheet lies in its view.
	const box = await page.locator('[data-view="sheet"]').boundingBox();
	if (!box) throw new Error('no sheet view');
	const side = Math.min(box.width - 40, box.height - 90);
	const [x, y] = [box.x + box.width / 2 + (65 / 256 - 0.5) * side, box.y + box.height / 2 + (65 / 256 - 0.5) * side];
	await page.mouse.click(x, y);
	await kept(page);
	const id = page.url().split('/')[4] as string;
	const { data } = await decodePng(await exportPng(page, server.url, 'Sheet', id));
	const at = (u: number, v: number): number[] => [...data.subarray((v * 256 + u) * 4, (v * 256 + u) * 4 + 3)];
	expect(at(65, 65)).toEqual(at(100, 100));
	expect(at(65, 65)).not.toEqual(at(190, 70));
	expect(at(190, 70)).toEqual(at(100, 170));

	await page.goto(server.url);
	const blank = await sharp({ create: { width: 64, height: 64, channels: 3, background: '#ffffff' } })
		.png()
		.toBuffer();
	await page.getByLabel('Model or picture').setInputFiles({ name: 'blank.png', mimeType: 'image/png', buffer: blank });
	await page.getByRole('button', { name: 'Begin painting' }).click();
	await settled(page);
	await page.getByRole('link', { name: 'Lay out' }).click();
	await expect(page.getByText('Nothing that lines close was found')).toBeVisible();
	await expect(page.locator('[data-view="sheet"]')).toBeVisible();
});
