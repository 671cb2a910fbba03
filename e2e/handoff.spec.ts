/** What leaves for elsewhere and comes back: files, presets, layers to another editor, a page, the whole project. */
import { execFileSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { mkdtempSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect, type Page, test } from '@playwright/test';
import JSZip from 'jszip';
import sharp from 'sharp';
import { standIn } from '../apps/cli/src/standIn.ts';
import { exportByCommand, openPaint } from './artist.ts';
import { root, runFile } from './paths.ts';
import { createServer } from './server.ts';

const server = createServer('handoff');
test.beforeAll(() => server.start());
test.afterAll(() => server.stop());

const handOff = async (page: Page, output: RegExp, project = 'demo-smoker'): Promise<void> => {
	await openPaint(page, server.url, project);
	await page.getByRole('link', { name: 'Hand off' }).click();
	await page.getByRole('complementary', { name: 'Outputs' }).getByRole('button', { name: output }).click();
};
/** Presses a button and gives what the browser saves: its name and its bytes. */
const written = async (
	page: Page,
	button: string | RegExp,
): Promise<{ readonly name: string; readonly bytes: Buffer }> => {
	const waiting = page.waitForEvent('download', { timeout: 90_000 });
	await page.getByRole('button', { name: button }).click();
	const download = await waiting;
	return { name: download.suggestedFilename(), bytes: readFileSync(await download.path()) };
};
const raw = (bytes: Buffer | Uint8Array): Promise<Buffer> => sharp(bytes).ensureAlpha().raw().toBuffer();

test('textures: seen before they are written, several sizes and names in one ZIP, a preset for all projects', async ({
	page,
}) => {
	await handOff(page, /^Textures/);
	const cards = page.getByRole('list', { name: 'Files that will be written' }).getByRole('listitem');
	await expect(cards.first().getByRole('img')).toBeVisible({ timeout: 30_000 });
	const shown = await cards
		.first()
		.getByRole('img')
		.evaluate(async (image) => {
			const { naturalWidth: width, naturalHeight: height } = image as HTMLImageElement;
			const context = Object.assign(document.createElement('canvas'), { width, height }).getContext('2d');
			context?.drawImage(image as HTMLImageElement, 0, 0);
			const { data } = (context as CanvasRenderingContext2D).getImageData(0, 0, width, height);
			// Four million numbers on their way here would take most of a minute.
			return [...new Uint8Array(await crypto.subtle.digest('SHA-256', data))];
		});
	const waiting = page.waitForEvent('download');
	await cards.first().getByRole('button', { name: 'Write PNG' }).click();
	const png = readFileSync(await (await waiting).path());
	// What is seen is what is written, and the command line writes the same bytes.
	expect(shown).toEqual([
		...createHash('sha256')
			.update(await raw(png))
			.digest(),
	]);
	expect(png.equals(exportByCommand(server.data, 'demo-smoker', 'Can'))).toBe(true);
	await page.getByRole('radio', { name: 'WebP' }).click();
	await page.getByRole('button', { name: '256', exact: true }).click();
	await page.getByRole('button', { name: 'Its own' }).click();
	await page.getByRole('button', { name: '64', exact: true }).click();
	await page.getByRole('textbox', { name: 'Names by a pattern' }).fill('{sheet}/{size}');
	await expect(page.getByText('Such as can/256.webp')).toBeVisible();
	const zip = await written(page, 'Write 4 files');
	expect(zip.name).toBe('Mossbarrow smoker textures.zip');
	const inside = await JSZip.loadAsync(zip.bytes);
	expect(
		Object.keys(inside.files)
			.filter((path) => path.endsWith('.webp'))
			.sort(),
	).toEqual(['bellows/256.webp', 'bellows/64.webp', 'can/256.webp', 'can/64.webp']);
	const small = await sharp((await inside.file('can/64.webp')?.async('nodebuffer')) as Buffer).metadata();
	expect([small.format, small.width, small.height]).toEqual(['webp', 64, 64]);
	await expect(page.getByRole('status').getByText('4 files')).toBeVisible();
	// One by one they go into a folder that is chosen, in folders as their names say; the browser's own stands in for it.
	await page.evaluate(() => {
		Object.assign(window, { showDirectoryPicker: () => Promise.reject(new DOMException('', 'AbortError')) });
	});
	await page.getByRole('checkbox', { name: 'Together in one ZIP' }).click();
	await page.getByRole('button', { name: 'Write 4 files' }).click();
	await expect(page.getByText('No folder was chosen. Nothing was written.')).toBeVisible();
	await page.evaluate(() => Object.assign(window, { showDirectoryPicker: () => navigator.storage.getDirectory() }));
	await page.getByRole('button', { name: 'Write 4 files' }).click();
	await expect(page.getByText(/^4 files are in/)).toBeVisible({ timeout: 30_000 });
	const inFolder = await page.evaluate(async () => {
		const folder = await (await navigator.storage.getDirectory()).getDirectoryHandle('can');
		const file = await (await folder.getFileHandle('64.webp')).getFile();
		return [...new Uint8Array(await file.arrayBuffer())];
	});
	expect(Buffer.from(inFolder).equals((await inside.file('can/64.webp')?.async('nodebuffer')) as Buffer)).toBe(true);
	// A wrong name is answered, and nothing can be written by it.
	await page.getByRole('textbox', { name: 'Names by a pattern' }).fill('{sheets}');
	await expect(page.getByText('There is no {sheets}.').first()).toBeVisible();
	await expect(page.getByRole('button', { name: /^Write \d* ?files?/ })).toBeDisabled();
	await page.getByRole('textbox', { name: 'Names by a pattern' }).fill('{sheet}/{size}');
	await page.getByRole('button', { name: 'Keep these as a preset' }).click();
	await page.getByRole('textbox', { name: 'Name of the preset' }).fill('Two sizes');
	await page.getByRole('textbox', { name: 'Name of the preset' }).press('Enter');
	await page.getByRole('button', { name: 'Keep for all projects' }).click();
	await expect(page.getByText('It is kept for all projects.')).toBeVisible();
	await page.keyboard.press('Escape');
	// A second visit: what went out is remembered, the preset is there.
	await page.reload();
	await expect(page.getByRole('region', { name: 'What went out' }).getByText('Textures as WebP').first()).toBeVisible({
		timeout: 30_000,
	});
	await page.getByRole('combobox', { name: 'Preset' }).click();
	await page.getByRole('option', { name: 'Two sizes' }).click();
	await expect(page.getByText('Such as can/256.webp')).toBeVisible();
});

test('another editor: every saving comes back as one step, also over a server that was killed, and stays', async ({
	page,
}) => {
	await handOff(page, /^Exchange/);
	await page.getByRole('button', { name: /^Send “Can”/ }).click();
	await expect(page.getByText(/is in the exchange folder/)).toBeVisible({ timeout: 60_000 });
	const folder = await page.getByRole('region', { name: 'Folder' }).locator('p').first().innerText();
	const file = readdirSync(folder).find((each) => /smoker-can(-\d+)?\.ora$/.test(each)) as string;
	const savedBy = (...args: string[]): void =>
		void execFileSync(
			process.execPath,
			['--import', 'tsx', 'apps/cli/src/main.ts', 'stand-in', join(folder, file), ...args],
			{ cwd: root, stdio: 'ignore' },
		);
	const before = exportByCommand(server.data, 'demo-smoker', 'Can');
	const back = page.getByText('was saved elsewhere, and is here');
	savedBy('--way', 'rename', '--seed', '2');
	await expect(back.first()).toBeVisible({ timeout: 30_000 });
	await expect(back).toHaveCount(0, { timeout: 30_000 });
	savedBy('--way', 'slow', '--seed', '3', '--forgets');
	await expect(back.first()).toBeVisible({ timeout: 30_000 });
	// A saving while the server is away is not lost either.
	await server.kill();
	await expect(back).toHaveCount(0, { timeout: 30_000 });
	savedBy('--way', 'in-place', '--seed', '4');
	await server.start();
	await expect(back.first()).toBeVisible({ timeout: 60_000 });
	await expect(page.getByRole('region', { name: 'Out there' }).getByText('each saving comes back')).toBeVisible({
		timeout: 30_000,
	});
	await expect(page.getByText(/^Kept/)).toBeVisible({ timeout: 30_000 });
	const after = exportByCommand(server.data, 'demo-smoker', 'Can');
	expect(after.equals(before)).toBe(false);
	const { data, info } = await sharp(after).ensureAlpha().raw().toBuffer({ resolveWithObject: true });
	expect(info.width).toBe(1024);
	expect(data.length).toBe(1024 * 1024 * 4);
	// Three savings are three steps, and taken back they are gone.
	for (let i = 0; i < 3; i++) await page.getByRole('button', { name: 'Undo' }).click();
	await expect(page.getByRole('button', { name: 'Undo' })).toBeDisabled();
	await page.waitForTimeout(1500);
	await expect(page.getByText(/^Kept/)).toBeVisible({ timeout: 30_000 });
	expect((await raw(exportByCommand(server.data, 'demo-smoker', 'Can'))).equals(await raw(before))).toBe(true);
	await page.getByRole('button', { name: 'Call back' }).click();
	await expect(page.getByText('Nothing is out.')).toBeVisible();
});

test('a project as an open ZIP and a sheet as OpenRaster open as projects that look the same; a page turns by itself', async ({
	page,
}) => {
	await handOff(page, /^Project/);
	const zip = await written(page, 'Write the project');
	await page.getByRole('button', { name: /^Layers/ }).click();
	const ora = await written(page, 'Write “Can”');
	await page.getByRole('button', { name: /^Page/ }).click();
	await page.getByRole('radio', { name: '12', exact: true }).click();
	const html = await written(page, 'Write the page');
	const before = await raw(exportByCommand(server.data, 'demo-smoker', 'Can'));
	for (const { name, bytes } of [zip, ora]) {
		await page.goto(server.url);
		await page
			.locator('input[type=file]')
			.first()
			.setInputFiles({ name, mimeType: 'application/octet-stream', buffer: bytes });
		await page.waitForURL(/\/project\/[^/]+\/paint/, { timeout: 60_000 });
		const id = /project\/([^/]+)/.exec(page.url())?.[1] as string;
		expect(id).not.toBe('demo-smoker');
		const sheet = name.endsWith('.ora') ? 'Mossbarrow smoker Can' : 'Can';
		const after = await raw(exportByCommand(server.data, id, sheet));
		// Light is computed on a model, and the one in layers has none: there it comes as pixels of eight bits.
		const far = after.reduce((most, v, i) => Math.max(most, Math.abs(v - (before[i] as number))), 0);
		expect(far).toBeLessThanOrEqual(name.endsWith('.ora') ? 3 : 0);
	}
	const out = runFile('page.html');
	writeFileSync(out, html.bytes);
	// What the project's own page still asked for is not this page's.
	await page.goto('about:blank');
	const asked: string[] = [];
	page.on('request', (request) => asked.push(request.url()));
	await page.setViewportSize({ width: 390, height: 800 });
	await page.goto(`file://${out}`);
	const turn = page.getByRole('slider', { name: /turned/ });
	const first = await turn.locator('img').getAttribute('src');
	await turn.focus();
	await page.keyboard.press('ArrowRight');
	expect(await turn.locator('img').getAttribute('src')).not.toBe(first);
	expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBe(390);
	expect(asked.filter((url) => !/^(file|data):/.test(url))).toEqual([]);
});

test('layers are taken into a sheet: what is said to be here is kept, whatever happens to the tab', async ({
	page,
}) => {
	const before = exportByCommand(server.data, 'demo-smoker', 'Can');
	await handOff(page, /^Layers/);
	const { bytes } = await written(page, /^Write “Can”/);
	const file = join(mkdtempSync(join(tmpdir(), 'eppu-in-')), 'again.ora');
	writeFileSync(file, bytes);
	await standIn({ file, way: 'in-place', seed: 2, keeps: true });
	await page.getByLabel('OpenRaster file').setInputFiles(file);
	await page.getByText('again.ora is here.').waitFor({ timeout: 60_000 });
	await page.close();
	expect((await raw(exportByCommand(server.data, 'demo-smoker', 'Can'))).equals(await raw(before))).toBe(false);
});

test('bakes go out with 16 bits, templates as they are shown, and the page is looked at and turned beforehand', async ({
	page,
}) => {
	await handOff(page, /^Bakes/, 'demo-lantern');
	await page.getByLabel('Hollows').uncheck();
	const bakes = await JSZip.loadAsync((await written(page, 'Write 2 pictures')).bytes);
	expect(Object.keys(bakes.files)).toEqual(['Lantern Ambient occlusion 16 bit.png', 'Lantern Edges 16 bit.png']);
	for (const file of Object.values(bakes.files)) {
		const { width, height, depth } = await sharp(await file.async('nodebuffer')).metadata();
		expect([width, height, depth]).toEqual([512, 512, 'ushort']);
	}
	await page
		.getByRole('complementary', { name: 'Outputs' })
		.getByRole('button', { name: /^Templates/ })
		.click();
	const seen = page.getByRole('img', { name: 'Template of Lantern' });
	await expect(seen).toBeVisible();
	const first = await seen.getAttribute('src');
	await page.getByRole('radio', { name: 'In tints' }).click();
	await expect.poll(() => seen.getAttribute('src')).not.toBe(first);
	await page.getByRole('button', { name: '128', exact: true }).click();
	const templates = await JSZip.loadAsync((await written(page, 'Write 2 templates')).bytes);
	const sizes = await Promise.all(
		Object.values(templates.files).map(async (file) => (await sharp(await file.async('nodebuffer')).metadata()).width),
	);
	expect(sizes).toEqual([512, 128]);
	// What is shown is what is written, wherever it is not clear.
	const shown = await seen.evaluate((image: HTMLImageElement) => {
		const { naturalWidth: width, naturalHeight: height } = image;
		const context = Object.assign(document.createElement('canvas'), { width, height }).getContext('2d');
		context?.drawImage(image, 0, 0);
		return [...(context?.getImageData(0, 0, width, height).data ?? [])];
	});
	const own = await raw((await Object.values(templates.files)[0]?.async('nodebuffer')) as Buffer);
	expect(shown).toHaveLength(own.length);
	let solid = 0;
	for (let i = 0; i < own.length; i += 4) {
		if (own[i + 3] !== 255) continue;
		solid++;
		for (let k = 0; k < 4; k++)
			if (shown[i + k] !== own[i + k]) expect([i, k, shown[i + k]]).toEqual([i, k, own[i + k]]);
	}
	expect(solid).toBeGreaterThan(1000);

	// The page is looked at before it goes out, and can be turned there.
	await page.getByRole('complementary', { name: 'Outputs' }).getByRole('button', { name: /^Page/ }).click();
	await page.getByRole('radio', { name: '12', exact: true }).click();
	await page.getByRole('button', { name: 'See it here' }).click();
	const frame = page.frameLocator('iframe[title="The page"]');
	await expect(frame.getByRole('heading', { name: 'Mossbarrow lantern' })).toBeVisible({ timeout: 60_000 });
	const turn = frame.locator('.turn img').first();
	const before = await turn.getAttribute('src');
	const place = await turn.boundingBox();
	if (!place) throw new Error('There is no turntable.');
	await page.mouse.move(place.x + 200, place.y + 100);
	await page.mouse.down();
	await page.mouse.move(place.x + 420, place.y + 100, { steps: 6 });
	await page.mouse.up();
	await expect.poll(() => turn.getAttribute('src')).not.toBe(before);
	await page.getByLabel('Title').fill('A lantern');
	await expect(page.getByRole('button', { name: 'See it here' })).toBeVisible();
});
