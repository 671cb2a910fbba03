/** The board of references beside the work: of this project or of all, colours taken and pulled out of it. */
import { expect, type Page, test } from '@playwright/test';
import sharp from 'sharp';
import { kept, openPaint, settled } from './artist.ts';
import { createServer } from './server.ts';

const server = createServer('references');
test.beforeAll(() => server.start());
test.afterAll(() => server.kill());
test.setTimeout(90_000);

const bands = ['#204060', '#c04020', '#e0c070', '#304020'];
const picture = async (): Promise<Buffer> => {
	const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="320" height="200">${bands
		.map((color, i) => `<rect x="${i * 80}" width="80" height="200" fill="${color}"/>`)
		.join('')}</svg>`;
	return sharp(Buffer.from(svg)).png().toBuffer();
};
const look = async (page: Page, name: string): Promise<void> => {
	if (process.env.LOOK) await page.screenshot({ path: `${process.env.LOOK}/${name}.png` });
};
const widthOf = async (page: Page, view: string): Promise<number> =>
	(await page.locator(`[data-view="${view}"]`).boundingBox())?.width ?? 0;

test('pictures stand beside the work, give their colours, and are seen in this project or in all', async ({ page }) => {
	await openPaint(page, server.url);
	const before = await widthOf(page, 'sheet');
	await page.getByRole('button', { name: 'References', exact: true }).click();
	const chooser = page.waitForEvent('filechooser');
	await page.getByRole('button', { name: 'Add pictures…' }).click();
	await (await chooser).setFiles({ name: 'Old smoker.png', mimeType: 'image/png', buffer: await picture() });
	const figure = page.locator('[data-reference="Old smoker"]');
	await expect(figure.locator('canvas')).toBeVisible();
	// Beside the views: they made room, so nothing of them is covered.
	expect(await widthOf(page, 'sheet')).toBeLessThan(before - 50);
	const drawer = page.getByRole('region', { name: 'References' });
	await expect(drawer).toHaveAttribute('data-drawer', 'beside');
	await look(page, 'references-beside');

	// A press takes the colour that is there.
	const box = await figure.locator('canvas').boundingBox();
	if (!box) throw new Error('no picture');
	await page.mouse.click(box.x + box.width * 0.375, box.y + box.height / 2);
	await expect(page.getByLabel('Front pot as hex')).toHaveValue('#c04020');

	// Pulled out of it: its four colours, and then the project's palette.
	await page.getByRole('button', { name: 'Colours of Old smoker' }).click();
	await page.getByRole('radio', { name: '4', exact: true }).click();
	const pulled = page.getByRole('region', { name: 'Colours of Old smoker' });
	for (const color of bands) await expect(pulled.getByRole('button', { name: color })).toBeVisible();
	await look(page, 'references-pulled');
	await page.getByRole('button', { name: 'As palette' }).click();
	await expect(page.getByRole('option', { name: '#304020' })).toBeVisible();
	await expect(page.getByText('Old smoker').nth(1)).toBeVisible();

	// Wider by its edge and by keys; both that and where it stands are kept for the next visit.
	const edge = page.getByRole('separator', { name: 'Width of the drawer' });
	await edge.focus();
	for (let i = 0; i < 5; i++) await page.keyboard.press('ArrowLeft');
	await kept(page);
	await page.waitForTimeout(1500);
	await page.reload();
	await settled(page);
	await page.getByRole('button', { name: 'References', exact: true }).click();
	await expect(figure.locator('canvas')).toBeVisible();
	expect(((await drawer.boundingBox())?.width ?? 0) - 400).toBeLessThan(2);
	expect((await drawer.boundingBox())?.width ?? 0).toBeGreaterThan(395);
	await page.getByRole('button', { name: 'Beside the views' }).click();
	await expect(drawer).toHaveAttribute('data-drawer', 'over');
	expect(await widthOf(page, 'sheet')).toBeCloseTo(before, -1);
	await look(page, 'references-over');

	// Another project does not show it until it is one of all.
	await openPaint(page, server.url, 'demo-hive');
	await page.getByRole('button', { name: 'References', exact: true }).click();
	await expect(page.getByRole('button', { name: 'Add pictures…' })).toBeVisible();
	await expect(figure).toHaveCount(0);
	await openPaint(page, server.url);
	await page.getByRole('button', { name: 'References', exact: true }).click();
	await page.getByRole('button', { name: 'Old smoker in all projects' }).click();
	await expect(page.getByRole('button', { name: 'Old smoker in all projects' })).toHaveAttribute(
		'aria-pressed',
		'true',
	);
	await openPaint(page, server.url, 'demo-hive');
	await page.getByRole('button', { name: 'References', exact: true }).click();
	await expect(figure.locator('canvas')).toBeVisible();
});
