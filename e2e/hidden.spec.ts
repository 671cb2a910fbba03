/** Nothing hidden: what is painted is seen, what is opened is in view, what is left out is said. */
import { writeObj } from '@eppu/core/mesh';
import { type CDPSession, expect, type Page, test } from '@playwright/test';
import { smokerMesh } from '../demo/mesh/smoker.ts';
import { at, deskOf, engineOf, kept, openPaint, projectsOf, record, recorded, settled, stroke } from './artist.ts';
import { decodePng } from './png.ts';
import { createServer } from './server.ts';

const server = createServer('hidden');
test.beforeAll(() => server.start());
test.afterAll(() => server.kill());

const give = (page: Page, ...files: { name: string; text: string | Buffer }[]) =>
	page
		.getByLabel('Model or picture')
		.setInputFiles(
			files.map(({ name, text }) => ({ name, mimeType: 'application/octet-stream', buffer: Buffer.from(text) })),
		);
const scaled = (by: number): string => {
	const mesh = smokerMesh();
	return writeObj({ ...mesh, positions: mesh.positions.map((v) => v * by) });
};
/** The share of a view's canvas that is not its own grey. */
async function filled(page: Page): Promise<number> {
	const shot = await decodePng(await page.locator('[data-view="model"]').screenshot());
	const [r, g, b] = shot.data.subarray(0, 3);
	let other = 0;
	for (let i = 0; i < shot.data.length; i += 4)
		if (
			Math.abs((shot.data[i] as number) - (r as number)) +
				Math.abs((shot.data[i + 1] as number) - (g as number)) +
				Math.abs((shot.data[i + 2] as number) - (b as number)) >
			12
		)
			other++;
	return other / (shot.data.length / 4);
}

test('a new model fills the view, whatever its unit, and paint lands on it', async ({ page }) => {
	for (const [name, unit] of [
		['tiny', 0.00001],
		['huge', 100_000],
	] as const) {
		await page.goto(server.url);
		await give(page, { name: `${name}.obj`, text: scaled(unit) });
		await page.getByRole('button', { name: 'Begin painting' }).click();
		await settled(page);
		expect(await filled(page)).toBeGreaterThan(0.15);
		await stroke(page, 'model', [
			[0.45, 0.55],
			[0.55, 0.6],
		]);
		await kept(page);
		await expect(page.getByRole('button', { name: 'Undo' })).toBeEnabled();
	}
});

test('several files at once: models one after the other, materials and pictures beside them, notes before it begins', async ({
	page,
}) => {
	await page.goto(server.url);
	const quad =
		'v 0 0 0\nv 1 0 0\nv 1 1 0\nv 0 1 0\nvt 0.2 0.2\nvt 1.6 0.2\nvt 1.6 0.8\nvt 0.2 0.8\no Sign\nf 1/1 2/2 3/3 4/4\no Plug\nf 1 2 3\n';
	await give(
		page,
		{ name: 'sign.obj', text: quad },
		{ name: 'sign.mtl', text: 'newmtl a' },
		{ name: 'crate.obj', text: quad.replace('Plug', 'Nail') },
	);
	await expect(page.getByText('Materials (MTL) are left out')).toBeVisible();
	const dialog = page.getByRole('dialog');
	await expect(dialog).toContainText('run over the sheet’s border');
	await expect(dialog).toContainText('"Plug" has no UVs');
	await dialog.getByRole('button', { name: 'Cancel' }).click();
	await expect(dialog).toContainText('"Nail" has no UVs');
	await dialog.getByRole('button', { name: 'Begin painting' }).click();
	await settled(page);
	await expect(page.locator('[data-view="model"]')).toBeVisible();
});

test('files let go of over any stage are taken there, never opened in place of the page', async ({ page }) => {
	await openPaint(page, server.url);
	const picture = await page.locator('[data-view="sheet"]').screenshot();
	const drop = (files: { name: string; type: string; bytes: number[] }[]) =>
		page.evaluate((list) => {
			const data = new DataTransfer();
			for (const { name, type, bytes } of list) data.items.add(new File([new Uint8Array(bytes)], name, { type }));
			const event = new DragEvent('drop', { dataTransfer: data, bubbles: true, cancelable: true });
			document.querySelector('[data-view="model"]')?.dispatchEvent(event);
			return event.defaultPrevented;
		}, files);
	expect(
		await drop([
			{ name: 'mood.png', type: 'image/png', bytes: [...picture] },
			{ name: 'other.obj', type: '', bytes: [35] },
			{ name: 'song.mp3', type: 'audio/mpeg', bytes: [1] },
		]),
	).toBe(true);
	await expect(page.getByRole('heading', { name: 'References' })).toBeVisible();
	await expect(page.getByText('mood', { exact: true })).toBeVisible();
	await expect(page.getByText('other.obj: a new project begins with it')).toBeVisible();
	await expect(page.getByText('song.mp3 cannot be taken in here.')).toBeVisible();
	await page.getByRole('link', { name: 'Hand off' }).click();
	expect(await drop([{ name: 'a.png', type: 'image/png', bytes: [...picture] }])).toBe(false);
	expect(
		await page.evaluate(() => {
			const data = new DataTransfer();
			data.items.add(new File(['x'], 'x.png'));
			const event = new DragEvent('dragover', { dataTransfer: data, bubbles: true, cancelable: true });
			document.body.dispatchEvent(event);
			return event.defaultPrevented;
		}),
	).toBe(true);
});

test('one click on a figure types it; renaming has the focus; a new layer’s row has it and is in view; Shift takes a range', async ({
	page,
}) => {
	await page.goto(server.url);
	await page.getByRole('button', { name: 'More for Mossbarrow hive' }).click();
	await page.getByRole('menuitem', { name: 'Rename' }).click();
	await expect(page.getByLabel('Project name')).toBeFocused();
	await page.keyboard.type('Spring hive');
	await page.keyboard.press('Enter');
	await expect(page.getByText('Spring hive')).toBeVisible();
	// The whole card is its button: also its name.
	await page.getByText('Spring hive').click({ force: true });
	await settled(page);
	await page.getByRole('button', { name: 'Type size' }).click();
	await page.keyboard.type('77');
	await page.keyboard.press('Enter');
	expect((await deskAfter(page)).tip.size).toBe(77);
	const list = page.getByRole('list', { name: 'Layers, topmost first' });
	await list.evaluate((element) => element.scrollTo(0, 99999));
	for (let i = 0; i < 6; i++) await page.getByRole('button', { name: 'Add a layer', exact: true }).click();
	const row = page.locator('[data-layer="Paint 6"]');
	await expect(row).toBeFocused();
	await expect(row).toBeInViewport({ ratio: 1 });
	await page.locator('[data-layer="Paint 3"]').click({ modifiers: ['Shift'], position: { x: 90, y: 6 } });
	await page.getByRole('button', { name: 'Group', exact: true }).click();
	await expect(page.locator('[data-layer="Group"]')).toBeFocused();
	await page.keyboard.press('Control+z');
	for (const name of ['Paint 6', 'Paint 5', 'Paint 4', 'Paint 3'])
		await expect(page.locator(`[data-layer="${name}"]`)).toBeVisible();
});
const deskAfter = async (page: Page) => {
	await page.waitForTimeout(800);
	return deskOf(page, 'demo-hive');
};

test('a layer that was just added takes what comes next: fill does not land on another', async ({ page }) => {
	await record(page);
	await openPaint(page, server.url);
	await page.keyboard.press('f');
	const [x, y] = await at(page, 'sheet', [0.5, 0.5]);
	await page.getByRole('button', { name: 'Add a layer', exact: true }).click({ noWaitAfter: true });
	await page.mouse.click(x, y);
	const said = await recorded(page);
	const added = said.find((each) => each.say === 'run' && each.command.do === 'layer.add');
	const filled = said.find((each) => each.say === 'fill');
	if (added?.say !== 'run' || added.command.do !== 'layer.add' || filled?.say !== 'fill') throw new Error('not said');
	expect(filled.layers.can).toBe(added.command.layer.id);
	await kept(page);
	await expect(page.getByRole('button', { name: 'Undo' })).toBeEnabled();
});

test('two fingers pan and zoom, and never paint; one finger does', async ({ browser }) => {
	const context = await browser.newContext({ hasTouch: true, viewport: { width: 1280, height: 800 } });
	const page = await context.newPage();
	await openPaint(page, server.url, 'demo-hive');
	const session: CDPSession = await context.newCDPSession(page);
	const touch = (type: 'touchStart' | 'touchMove' | 'touchEnd', points: readonly (readonly [number, number])[]) =>
		session.send('Input.dispatchTouchEvent', { type, touchPoints: points.map(([x, y], id) => ({ x, y, id })) });
	const before = await page.getByRole('button', { name: 'Undo' }).isEnabled();
	const [x, y] = await at(page, 'sheet', [0.5, 0.5]);
	await touch('touchStart', [[x, y]]);
	await touch('touchStart', [
		[x, y],
		[x + 60, y],
	]);
	for (let i = 1; i <= 10; i++)
		await touch('touchMove', [
			[x - i * 4, y + i * 2],
			[x + 60 + i * 4, y + i * 2],
		]);
	await touch('touchEnd', []);
	await page.waitForTimeout(900);
	expect(await page.getByRole('button', { name: 'Undo' }).isEnabled()).toBe(before);
	const { places } = await deskOf(page, 'demo-hive');
	expect(places.hive?.zoom).toBeGreaterThan(0.5);
	await touch('touchStart', [[x, y]]);
	for (let i = 1; i <= 6; i++) await touch('touchMove', [[x + i * 6, y]]);
	await touch('touchEnd', []);
	await expect(page.getByRole('button', { name: 'Undo' })).toBeEnabled();
	await context.close();
});

test('from a straight view the faces that lie edge-on take no paint, and a stroke that changes nothing says why', async ({
	page,
}) => {
	await page.goto(server.url);
	const box = ['v -1 -1 -1', 'v 1 -1 -1', 'v 1 1 -1', 'v -1 1 -1', 'v -1 -1 1', 'v 1 -1 1', 'v 1 1 1', 'v -1 1 1'];
	const faces = [
		[5, 6, 7, 8],
		[6, 2, 3, 7],
		[2, 1, 4, 3],
		[1, 5, 8, 4],
		[8, 7, 3, 4],
		[1, 2, 6, 5],
	];
	const uvs = faces.flatMap((_, i) => {
		const [u, v] = [(i % 3) * 0.33 + 0.02, i < 3 ? 0.1 : 0.6];
		return [`vt ${u} ${v}`, `vt ${u + 0.28} ${v}`, `vt ${u + 0.28} ${v + 0.28}`, `vt ${u} ${v + 0.28}`];
	});
	const text = [
		...box,
		...uvs,
		'o Crate',
		...faces.map((face, i) => `f ${face.map((p, k) => `${p}/${i * 4 + k + 1}`).join(' ')}`),
	].join('\n');
	await give(page, { name: 'crate.obj', text });
	await page.getByRole('button', { name: 'Begin painting' }).click();
	await settled(page);
	await page.keyboard.press('Alt+2');
	await stroke(page, 'model', [
		[0.1, 0.5],
		[0.5, 0.3],
		[0.9, 0.7],
		[0.5, 0.9],
		[0.1, 0.1],
		[0.9, 0.1],
	]);
	await kept(page);
	const id = /project\/([^/]+)/.exec(page.url())?.[1] ?? '';
	const engine = await engineOf(server.data, id);
	const sheet = engine.project.sheets[0];
	const layer = sheet?.layers.at(-1);
	if (!sheet || layer?.kind !== 'paint') throw new Error('no paint layer');
	const scene = engine.scene(engine.project.models[0]?.id ?? '');
	const map = scene?.mapOf(sheet);
	const painted = new Map<number, number>();
	for (let y = 0; y < sheet.height; y += 3)
		for (let x = 0; x < sheet.width; x += 3) {
			const face = (map?.faceOfTexel[y * sheet.width + x] ?? 0) - 1;
			if (face < 0 || engine.sample(sheet.id, x, y, layer.id)[3] === 0) continue;
			painted.set(Math.floor(face / 2), (painted.get(Math.floor(face / 2)) ?? 0) + 1);
		}
	expect(painted.size).toBe(1);
	await stroke(page, 'model', [
		[0.03, 0.93],
		[0.05, 0.94],
	]);
	await page.waitForTimeout(500);
	await expect(page.getByText(/beside the model/)).toBeVisible();
	expect(projectsOf(server.data).some((each) => each.id === id)).toBe(true);
});
