/** Groups, masks and adjust layers in the browser; what is handed off equals the engine in Node. */
import { copyFileSync } from 'node:fs';
import { expect, type Page, test } from '@playwright/test';
import {
	canvasPixel,
	chooseOf,
	engineOf,
	exportByCommand,
	exportPng,
	kept,
	layerMenu,
	openPaint,
	record,
	recorded,
	replay,
	settled,
	stroke,
} from './artist.ts';
import { runFile, seedFile } from './paths.ts';
import { decodePng } from './png.ts';
import { createServer } from './server.ts';

const server = createServer('groups');
test.beforeAll(() => server.start());
test.afterAll(() => server.kill());
test.setTimeout(240_000);

const row = (page: Page, name: string) => page.locator(`[data-layer="${name}"]`);
const names = (page: Page): Promise<(string | null)[]> =>
	page.locator('[data-layer]').evaluateAll((rows) => rows.map((each) => each.getAttribute('data-layer')));

test('layers are grouped, masked, painted on the mask, changed in tone, merged and handed off; Node makes the same', async ({
	page,
}) => {
	await record(page);
	await openPaint(page, server.url);
	const place = [0.3, 0.6] as const;
	const before = await canvasPixel(page, 'model', place);

	await row(page, 'Red primer').click({ position: { x: 80, y: 10 } });
	await row(page, 'Stove black').click({ position: { x: 80, y: 10 }, modifiers: ['Control'] });
	await page.keyboard.press('Control+g');
	await expect(row(page, 'Group')).toBeVisible();
	const list = await names(page);
	expect(list.slice(list.indexOf('Group')).slice(0, 3)).toEqual(['Group', 'Stove black', 'Red primer']);
	await page.getByRole('button', { name: 'Fold Group' }).click();
	expect(await names(page)).not.toContain('Stove black');
	await page.getByRole('button', { name: 'Unfold Group' }).click();

	// Black on the mask of the stove black lets the primer through.
	await page.getByRole('button', { name: 'Mask of Stove black' }).click();
	await expect(page.getByRole('button', { name: 'Mask of Stove black' })).toHaveAttribute('aria-pressed', 'true');
	await page.keyboard.press('z');
	await expect(page.getByRole('img', { name: 'Front pot #000000' })).toBeVisible();
	await stroke(page, 'model', [
		[0.24, 0.6],
		[0.36, 0.6],
	]);
	await page.waitForTimeout(500);
	const worn = await canvasPixel(page, 'model', place);
	expect((worn[0] as number) - (worn[2] as number)).toBeGreaterThan((before[0] as number) - (before[2] as number) + 20);

	// The group takes a mask of its own; hiding all of it shows the bare tin.
	await layerMenu(page, 'Group', 'Add a mask', 'That shows all');
	await layerMenu(page, 'Group', 'Mask', 'Hide all');
	await page.waitForTimeout(600);
	const bare = await canvasPixel(page, 'model', place);
	expect(Math.abs((bare[0] as number) - (bare[2] as number))).toBeLessThan(30);
	await page.getByRole('button', { name: 'Undo' }).click();

	// An adjust layer in the group turns the hue; one drag of its dial is one step.
	await row(page, 'Group').click({ position: { x: 60, y: 10 } });
	await page.getByRole('button', { name: 'Add another kind of layer' }).click();
	await page.getByRole('menuitem', { name: 'Hue, chroma, lightness' }).click();
	await expect(row(page, 'Hue, chroma, lightness')).toBeVisible({ timeout: 15_000 });
	await page.getByRole('button', { name: 'Dials of Hue, chroma, lightness' }).click();
	const dial = page.getByRole('dialog').getByRole('slider', { name: 'Hue' });
	const box = await dial.boundingBox();
	if (!box) throw new Error('no dial');
	await page.mouse.move(box.x + box.width * 0.5, box.y + 8);
	await page.mouse.down();
	await page.mouse.move(box.x + box.width * 0.85, box.y + 8, { steps: 6 });
	await page.mouse.up();
	await expect.poll(async () => Number(await dial.getAttribute('aria-valuenow'))).toBeGreaterThan(100);
	await page.keyboard.press('Escape');
	await page.waitForTimeout(1500);
	const turned = await canvasPixel(page, 'model', place);
	expect(turned[1] as number).toBeGreaterThan(turned[0] as number);

	// Alone and back.
	await page.getByRole('button', { name: 'Mask of Stove black' }).click({ modifiers: ['Alt'] });
	await page.waitForTimeout(600);
	const alone = await canvasPixel(page, 'model', [0.3, 0.75]);
	expect(Math.max(...alone.slice(0, 3)) - Math.min(...alone.slice(0, 3))).toBe(0);
	await page.getByRole('button', { name: 'Mask of Stove black' }).click({ modifiers: ['Alt'] });

	await layerMenu(page, 'Tin brushing', 'Merge down');
	await expect(row(page, 'Tin brushing')).toHaveCount(0);
	await chooseOf(page, 'Blend of Group', 'Normal');
	await kept(page);

	const said = await recorded(page);
	const start = runFile('groups-start.db');
	copyFileSync(seedFile, start);
	const engine = await engineOf(start, 'demo-smoker');
	replay(engine, said);
	const want = engine.composite('can');
	const png = await exportPng(page, server.url, 'Can');
	const shown = await decodePng(png);
	expect(Buffer.compare(Buffer.from(shown.data), Buffer.from(want.data))).toBe(0);
	expect(Buffer.compare(exportByCommand(server.data, 'demo-smoker', 'Can'), png)).toBe(0);

	const listed = await names(page);
	await page.reload();
	await settled(page);
	expect(await names(page)).toEqual(listed);
	expect(Buffer.compare(await exportPng(page, server.url, 'Can'), png)).toBe(0);
});

test('painting where a mask is missing or a group is hidden says so in place, and one click mends it', async ({
	page,
}) => {
	await openPaint(page, server.url, 'demo-hive');
	await page.getByRole('button', { name: 'Hide Lights' }).click();
	await row(page, 'Edge light').click({ position: { x: 70, y: 10 } });
	await stroke(page, 'model', [[0.5, 0.5]]);
	const note = page.getByRole('alert');
	await expect(note).toContainText('The group "Lights" is hidden');
	await note.getByRole('button', { name: 'Show it' }).click();
	await expect(page.getByRole('button', { name: 'Hide Lights' })).toBeVisible();
	await row(page, 'Pull together').click({ position: { x: 70, y: 10 } });
	await stroke(page, 'model', [[0.5, 0.5]]);
	await expect(note).toContainText('has no pixels of its own');
	await note.getByRole('button', { name: 'Add a layer above' }).click();
	await stroke(page, 'model', [
		[0.45, 0.5],
		[0.5, 0.55],
	]);
	await page.getByRole('button', { name: 'History' }).click();
	await expect(page.getByRole('button', { name: /^Stroke on/ })).toHaveCount(1);
});

test('a layer is dragged into a group and out again', async ({ page }) => {
	await openPaint(page, server.url, 'demo-hive');
	const drag = async (name: string, onto: string): Promise<void> => {
		const [from, to] = [page.getByRole('button', { name: `Move ${name}`, exact: true }), row(page, onto)];
		const [a, b] = [await from.boundingBox(), await to.boundingBox()];
		if (!a || !b) throw new Error('no rows');
		await page.mouse.move(a.x + a.width / 2, a.y + a.height / 2);
		await page.mouse.down();
		await page.mouse.move(a.x + a.width / 2, (a.y + b.y) / 2, { steps: 4 });
		await page.mouse.move(a.x + a.width / 2, b.y + b.height / 2, { steps: 6 });
		await page.waitForTimeout(200);
		await page.mouse.up();
		await page.waitForTimeout(500);
	};
	await drag('Moss', 'Edge light');
	const inside = await page.evaluate(() =>
		[...document.querySelectorAll('li:has(> [data-layer])')].map((each) => [
			each.querySelector('[data-layer]')?.getAttribute('data-layer'),
			Number.parseInt((each as HTMLElement).style.paddingLeft || '0', 10),
		]),
	);
	expect(inside.find(([name]) => name === 'Moss')?.[1]).toBeGreaterThan(0);
	await page.getByRole('button', { name: 'Undo' }).click();
	await page.waitForTimeout(300);
	expect(
		await row(page, 'Moss').evaluate((each) =>
			Number.parseInt((each.parentElement as HTMLElement).style.paddingLeft || '0', 10),
		),
	).toBe(0);
});

test('the build-up scrub takes the sheet back to its first layer and forth again, and is written as one picture', async ({
	page,
}) => {
	await openPaint(page, server.url, 'demo-hive');
	const scrub = page.getByRole('slider', { name: /^Build-up/ });
	const whole = await canvasPixel(page, 'model', [0.45, 0.55]);
	await scrub.focus();
	await page.keyboard.press('End');
	await page.keyboard.press('ArrowUp');
	await expect(scrub).toHaveAttribute('aria-valuetext', /^1 of/);
	await page.waitForTimeout(900);
	const bare = await canvasPixel(page, 'model', [0.45, 0.55]);
	// Bare pine: a warm brown where the finished hive is blue.
	expect((bare[0] as number) - (bare[2] as number)).toBeGreaterThan(40);
	await page.keyboard.press('Home');
	await page.waitForTimeout(900);
	const again = await canvasPixel(page, 'model', [0.45, 0.55]);
	again.forEach((v, i) => expect(Math.abs(v - (whole[i] as number))).toBeLessThanOrEqual(2));
	// What is looked at in part is whole again at the next stage.
	const onSheet = await canvasPixel(page, 'sheet', [0.35, 0.3]);
	await scrub.focus();
	await page.keyboard.press('End');
	await page.waitForTimeout(700);
	expect(await canvasPixel(page, 'sheet', [0.35, 0.3])).not.toEqual(onSheet);
	await page.getByRole('link', { name: 'Hand off' }).click();
	await page.waitForTimeout(900);
	await page.getByRole('link', { name: 'Paint' }).click();
	await page.waitForTimeout(900);
	await expect.poll(() => canvasPixel(page, 'sheet', [0.35, 0.3]), { timeout: 10_000 }).toEqual(onSheet);
	await page.getByRole('link', { name: 'Hand off' }).click();
	await page.getByRole('button', { name: /^Build-up/ }).click();
	const waiting = page.waitForEvent('download');
	await page.getByRole('button', { name: 'Build-up as a picture' }).click();
	expect((await waiting).suggestedFilename()).toMatch(/build-up\.png$/);
});
