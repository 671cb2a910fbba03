import { expect, type Page, test } from '@playwright/test';
import { crash, engineOf, exportPng, kept, openPaint, record, recorded, replay, settled, stroke } from './artist.ts';
import { seedFile } from './paths.ts';
import { decodePng } from './png.ts';
import { createServer } from './server.ts';

/** The can's texture as it must be after what was said, made by the engine in Node from the seed. */
const wanted = async (said: Awaited<ReturnType<typeof recorded>>): Promise<Buffer> => {
	const engine = await engineOf(seedFile, 'demo-smoker');
	replay(engine, said);
	return Buffer.from(engine.composite('can').data);
};
const shown = async (page: Page, url: string): Promise<Buffer> =>
	Buffer.from((await decodePng(await exportPng(page, url, 'Can'))).data);

const across = (v: number) =>
	[
		[0.22, v],
		[0.3, v + 0.03],
		[0.42, v],
	] as const;

test('a server killed between strokes loses nothing: the strokes are held and given back', async ({ page }) => {
	const server = createServer('killed-between');
	await server.start();
	await record(page);
	await openPaint(page, server.url);
	await stroke(page, 'model', across(0.5));
	await kept(page);
	await server.kill();
	await stroke(page, 'model', across(0.6));
	await stroke(page, 'model', across(0.7));
	await expect(page.locator('[data-trouble]')).toContainText(/the server is away, [23] strokes held here/, {
		timeout: 15_000,
	});
	await server.start();
	await kept(page);
	const said = await recorded(page);
	await page.reload();
	await settled(page);
	expect(Buffer.compare(await shown(page, server.url), await wanted(said))).toBe(0);
	await server.kill();
});

test('a server killed while it saves keeps a whole revision, and the rest comes from the journal of the next visit', async ({
	page,
}) => {
	const server = createServer('killed-saving');
	await server.start();
	await record(page);
	await openPaint(page, server.url);
	// The save follows a stroke by a few hundred ms: kill at different moments around it.
	for (const wait of [180, 260, 320, 400]) {
		await stroke(page, 'model', across(0.4 + wait / 1000));
		await page.waitForTimeout(wait);
		await server.kill();
		await page.waitForTimeout(150);
		await server.start();
	}
	await stroke(page, 'model', across(0.55));
	await page.waitForTimeout(120);
	await server.kill();
	await page.waitForTimeout(700);
	const said = await recorded(page);
	// The page goes away with the server still down; what it held waits in the journal.
	await page.goto('about:blank');
	await server.start();
	await openPaint(page, server.url);
	expect(Buffer.compare(await shown(page, server.url), await wanted(said))).toBe(0);
	await kept(page);
	await server.kill();
});

test('a tab killed in the middle of a stroke gives the stroke back at the next visit', async ({ context }) => {
	const server = createServer('killed-tab');
	await server.start();
	const page = await context.newPage();
	await record(page);
	await openPaint(page, server.url);
	const box = await page.locator('[data-view="model"]').boundingBox();
	if (!box) throw new Error('no model view');
	await page.mouse.move(box.x + box.width * 0.25, box.y + box.height * 0.6);
	await page.mouse.down();
	await page.mouse.move(box.x + box.width * 0.4, box.y + box.height * 0.66, { steps: 12 });
	await page.waitForTimeout(400);
	await page.mouse.move(box.x + box.width * 0.42, box.y + box.height * 0.66, { steps: 2 });
	await page.waitForTimeout(400);
	const said = await recorded(page);
	await crash(page);
	const next = await context.newPage();
	await openPaint(next, server.url);
	await expect(next.getByText('The stroke that was cut off is back.')).toBeVisible();
	expect(Buffer.compare(await shown(next, server.url), await wanted([...said, { say: 'end' }]))).toBe(0);
	await kept(next);
	await server.kill();
});

test('a second tab is told and waits until it takes over', async ({ context }) => {
	const server = createServer('two-tabs');
	await server.start();
	const one = await context.newPage();
	await openPaint(one, server.url);
	const other = await context.newPage();
	await other.goto(`${server.url}/project/demo-smoker/paint`);
	await expect(other.getByText('Open in another tab')).toBeVisible();
	await other.getByRole('button', { name: 'Take it over here' }).click();
	await settled(other);
	await expect(one.getByText('Open in another tab')).toBeVisible();
	await stroke(other, 'model', across(0.5));
	await kept(other);
	await server.kill();
});
