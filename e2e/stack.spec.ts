import { expect, type Page, test } from '@playwright/test';
import { at, canvasPixel, chooseOf, kept, layerMenu, openPaint, settled, stroke } from './artist.ts';
import { createServer } from './server.ts';

const server = createServer('stack');
test.beforeAll(() => server.start());
test.afterAll(() => server.kill());

const names = (page: Page): Promise<(string | null)[]> =>
	page.locator('[data-layer]').evaluateAll((rows) => rows.map((row) => row.getAttribute('data-layer')));
const row = (page: Page, name: string) => page.locator(`[data-layer="${name}"]`);

test('layers are added, renamed, moved by drag, made clearer by drag, blended, hidden, copied and deleted, and each is undone by name', async ({
	page,
}) => {
	await openPaint(page, server.url, 'demo-hive');
	const start = await names(page);
	await row(page, 'Moss').click({ position: { x: 80, y: 10 } });
	await page.getByRole('button', { name: 'Add a layer' }).click();
	await expect(row(page, 'Paint')).toHaveAttribute('aria-current', 'true');
	await row(page, 'Paint').locator('p').first().dblclick();
	await page.getByLabel('Layer name').fill('Honey drips');
	await page.getByLabel('Layer name').press('Enter');
	await expect(row(page, 'Honey drips')).toBeVisible();

	// The thumbnail is the handle: down two places.
	const before = (await names(page)).indexOf('Honey drips');
	const handle = await page.getByRole('button', { name: 'Move Honey drips' }).boundingBox();
	if (!handle) throw new Error('no handle');
	await page.mouse.move(handle.x + 10, handle.y + 10);
	await page.mouse.down();
	await page.mouse.move(handle.x + 10, handle.y + 60, { steps: 6 });
	await page.mouse.move(handle.x + 10, handle.y + 98, { steps: 6 });
	await page.mouse.up();
	await expect.poll(async () => (await names(page)).indexOf('Honey drips')).toBe(before + 2);

	// Along the row: opacity.
	const box = await row(page, 'Honey drips').boundingBox();
	if (!box) throw new Error('no row');
	await page.mouse.move(box.x + 120, box.y + 8);
	await page.mouse.down();
	await page.mouse.move(box.x + 120 - box.width * 0.4, box.y + 8, { steps: 8 });
	await page.mouse.up();
	await expect
		.poll(async () => Number(await row(page, 'Honey drips').getAttribute('aria-valuenow')))
		.toBeGreaterThanOrEqual(58);
	await expect
		.poll(async () => Number(await row(page, 'Honey drips').getAttribute('aria-valuenow')))
		.toBeLessThanOrEqual(62);

	const menu = (item: string): Promise<void> => layerMenu(page, 'Honey drips', item);
	await chooseOf(page, 'Blend of Honey drips', 'Multiply');
	await expect(row(page, 'Honey drips')).toContainText('Multiply');
	await menu('Clip to the layer below');
	await expect(row(page, 'Honey drips')).toContainText('clipped');
	await menu('Copy beside it');
	await expect(row(page, 'Honey drips 2')).toHaveAttribute('aria-current', 'true');
	await page.keyboard.press('Delete');
	await expect(row(page, 'Honey drips 2')).toHaveCount(0);

	await page.getByRole('button', { name: 'History' }).click();
	for (const words of [
		'Delete "Honey drips 2"',
		'Copy "Honey drips 2"',
		'Clip "Honey drips"',
		'Blend "Honey drips" Multiply',
		'Move "Honey drips"',
		'Rename "Paint" to "Honey drips"',
		'Add "Paint"',
	])
		await expect(page.getByRole('button', { name: words })).toBeVisible();
	await page.getByRole('button', { name: 'As it was opened' }).click();
	await expect.poll(() => names(page)).toEqual(start);
	await page.getByRole('button', { name: 'Clip "Honey drips"' }).click();
	await expect(row(page, 'Honey drips')).toContainText('clipped');
	await kept(page);
	await page.reload();
	await settled(page);
	await expect(row(page, 'Honey drips')).toContainText(/Multiply\s*clipped/);
});

test('the keys work: tools, tip, pots, views, straight views, undo, asking', async ({ page }) => {
	await openPaint(page, server.url);
	const checked = (name: string) => expect(page.getByRole('radio', { name })).toHaveAttribute('aria-checked', 'true');
	await page.keyboard.press('w');
	await checked('Wipe');
	await page.keyboard.press('f');
	await checked('Fill');
	await page.keyboard.press('d');
	await checked('Draw');
	const size = async () =>
		Number(await page.getByRole('slider', { name: 'Size', exact: true }).getAttribute('aria-valuenow'));
	const was = await size();
	await page.keyboard.press('e');
	await page.keyboard.press('e');
	expect(await size()).toBeGreaterThan(was * 1.2);
	// A figure is typed on the dial that has the focus; Escape leaves it.
	await page.getByRole('slider', { name: 'Size', exact: true }).focus();
	await page.keyboard.press('Enter');
	await page.keyboard.type('80');
	await page.keyboard.press('Enter');
	expect(await size()).toBe(80);
	await page.keyboard.press('Enter');
	await page.keyboard.type('12');
	await page.keyboard.press('Escape');
	expect(await size()).toBe(80);
	await expect(page.getByRole('slider', { name: 'Size', exact: true })).toBeFocused();
	// With nothing in focus Tab goes round the views; else it moves the focus on.
	await page.getByRole('slider', { name: 'Size', exact: true }).blur();
	const front = page.getByRole('img', { name: /^Front pot/ });
	const [a] = [await front.getAttribute('aria-label')];
	await page.keyboard.press('z');
	expect(await front.getAttribute('aria-label')).not.toBe(a);
	await page.keyboard.press('7');
	await expect(front).toHaveAttribute('aria-label', 'Front pot #e8b345');
	await page.keyboard.press('Alt+1');
	await expect(page.getByText('Straight', { exact: true })).toBeVisible();
	await page.keyboard.press('Alt+0');
	await expect(page.getByText(/^Perspective/)).toBeVisible();
	await page.keyboard.press('Tab');
	await expect(page.getByLabel('Sheet view')).toHaveCount(0);
	await page.keyboard.press('Tab');
	await expect(page.getByLabel('Model view')).toHaveCount(0);
	await page.keyboard.press('Tab');
	await expect(page.getByLabel('Model view')).toBeVisible();
	await page.waitForTimeout(500);
	const before = await canvasPixel(page, 'model', [0.3, 0.6]);
	await stroke(page, 'model', [
		[0.25, 0.6],
		[0.4, 0.6],
	]);
	await page.waitForTimeout(500);
	expect(await canvasPixel(page, 'model', [0.3, 0.6])).not.toEqual(before);
	await page.keyboard.press('Control+z');
	await page.waitForTimeout(600);
	expect(await canvasPixel(page, 'model', [0.3, 0.6])).toEqual(before);
	await page.keyboard.press('Control+k');
	await page.getByRole('textbox', { name: 'Ask for a command' }).fill('wash');
	await page.keyboard.press('Enter');
	await expect(page.locator('[data-layer="Wash"]')).toBeVisible();
});

test('sampling takes the colour that is seen; holding A does it while drawing', async ({ page }) => {
	await openPaint(page, server.url, 'demo-hive');
	await page.getByRole('button', { name: 'Template' }).click();
	const [x, y] = await at(page, 'sheet', [0.3, 0.3]);
	await page.mouse.move(x, y);
	await page.keyboard.down('a');
	await page.mouse.down();
	await page.mouse.up();
	await page.keyboard.up('a');
	await page.waitForTimeout(300);
	const label = await page.getByRole('img', { name: /^Front pot/ }).getAttribute('aria-label');
	const rgb = [1, 3, 5].map((i) => Number.parseInt((label ?? '').slice(-7).slice(i, i + 2), 16));
	const seen = await canvasPixel(page, 'sheet', [0.3, 0.3]);
	// The view averages texels when far away: near is right.
	rgb.forEach((v, i) => expect(Math.abs(v - (seen[i] as number))).toBeLessThan(40));
	expect(await page.getByRole('button', { name: 'Undo' }).isDisabled()).toBe(true);
});

test('pointing in one view shows the place in the other', async ({ page }) => {
	await openPaint(page, server.url);
	const partners = page.locator('[data-mark="partner"] g');
	const [x, y] = await at(page, 'model', [0.35, 0.6]);
	await page.mouse.move(x, y, { steps: 3 });
	await expect(partners.nth(1)).toBeVisible();
	await expect(page.getByText(/^Body · island 1 · sheet Can/)).toBeVisible();
	const [u, v] = await at(page, 'sheet', [0.2, 0.3]);
	await page.mouse.move(u, v, { steps: 3 });
	await expect(partners.nth(1)).toBeHidden();
});

test('every control has a name, and the keyboard reaches them', async ({ page }) => {
	await openPaint(page, server.url);
	const nameless = await page.evaluate(() =>
		[...document.querySelectorAll('button, input, a, [role="slider"]')]
			.filter(
				(e) =>
					e instanceof HTMLElement &&
					e.offsetParent !== null &&
					!(e.textContent?.trim() || e.getAttribute('aria-label') || (e as HTMLInputElement).labels?.length),
			)
			.map((e) => e.outerHTML.slice(0, 120)),
	);
	expect(nameless).toEqual([]);
	await page.getByRole('link', { name: 'All projects' }).focus();
	const reached = new Set<string>();
	for (let i = 0; i < 140; i++) {
		await page.keyboard.press('Tab');
		reached.add(
			await page.evaluate(
				() =>
					(document.activeElement as HTMLElement | null)?.ariaLabel ??
					document.activeElement?.textContent?.trim() ??
					'',
			),
		);
	}
	for (const wanted of ['Paint', 'Hand off', 'Soot streaks: opacity', 'Add a layer', 'Draw', 'Size', 'Hue', 'History'])
		expect(
			[...reached].some((each) => each.includes(wanted)),
			wanted,
		).toBe(true);
});

test('hints, lists and menus come by pointer and by keys, and give the focus back', async ({ page }) => {
	await openPaint(page, server.url);
	const hint = page.locator('#hint');
	const smear = page.getByRole('radio', { name: 'Smear', exact: false }).first();
	await smear.hover();
	await expect(hint).toHaveText('Pull paint along');
	await expect(smear).toHaveAttribute('aria-describedby', 'hint');
	await page.mouse.move(600, 300);
	await expect(hint).toBeHidden();
	await expect(smear).not.toHaveAttribute('aria-describedby', 'hint');
	// The keyboard is told at once; Escape takes it away.
	await smear.focus();
	await page.keyboard.press('Tab');
	await page.keyboard.press('Shift+Tab');
	await expect(hint).toBeVisible();
	await page.keyboard.press('Escape');
	await expect(hint).toBeHidden();

	const blend = page.getByRole('combobox', { name: 'Blend of Soot streaks' });
	await expect(blend).toHaveText('Multiply');
	await blend.focus();
	await page.keyboard.press('ArrowDown');
	await expect(page.getByRole('option', { name: 'Multiply' })).toBeFocused();
	await page.keyboard.press('Escape');
	await expect(page.getByRole('option', { name: 'Multiply' })).toBeHidden();
	await expect(blend).toBeFocused();
	await page.keyboard.press('Enter');
	await expect(page.getByRole('option', { name: 'Multiply' })).toBeFocused();
	await page.keyboard.press('ArrowDown');
	await expect(page.getByRole('option', { name: 'Darken' })).toBeFocused();
	await page.keyboard.press('Enter');
	await expect(blend).toHaveText('Darken');
	await expect(page.getByRole('option', { name: 'Darken' })).toBeHidden();
	await expect(blend).toBeFocused();

	const more = page.getByRole('button', { name: 'More for Soot streaks' });
	await more.focus();
	await page.keyboard.press('Enter');
	await expect(page.getByRole('menuitem', { name: 'Rename' })).toBeFocused();
	await page.keyboard.press('Escape');
	await expect(page.getByRole('menu')).toBeHidden();
	await expect(more).toBeFocused();
	// What it opens takes the focus.
	await page.keyboard.press('ArrowDown');
	await expect(page.getByRole('menuitem', { name: 'Rename' })).toBeFocused();
	await page.keyboard.press('Enter');
	await expect(page.getByRole('textbox', { name: 'Layer name' })).toBeFocused();
});
