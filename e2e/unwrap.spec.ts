/** Models are laid out otherwise, and what was painted on them goes along; sheets come, grow, are shared and split. */
import { layOut, layoutOf } from '@eppu/core/layout';
import { writeObj } from '@eppu/core/mesh';
import { expect, type Page, test } from '@playwright/test';
import { smokerMesh } from '../demo/mesh/smoker.ts';
import {
	at,
	canvasPixel,
	chooseOf,
	computed,
	crash,
	engineOf,
	exportByCommand,
	exportPng,
	kept,
	projectsOf,
	pxApart,
	pxOnGrid,
	settled,
	stroke,
} from './artist.ts';
import { decodePng } from './png.ts';
import { createServer } from './server.ts';

// Each stands by itself: shared between the workers, with a server of its own in each.
test.describe.configure({ mode: 'parallel' });

const server = createServer('unwrap');
test.beforeAll(() => server.start());
test.afterAll(() => server.kill());

const open = async (page: Page, project = 'demo-smoker'): Promise<void> => {
	await page.goto(`${server.url}/project/${project}/lay-out`);
	await settled(page);
	await expect(page.getByRole('region', { name: 'What to know of this model' })).toBeVisible();
};
const press = (page: Page, name: string): Promise<void> => page.getByRole('button', { name, exact: true }).click();
const proposed = async (page: Page): Promise<string> => {
	await expect(page.getByRole('button', { name: 'Lay it out so' })).toBeEnabled({ timeout: 30_000 });
	return page.getByRole('status', { name: 'A layout to look at' }).innerText();
};
const take = async (page: Page): Promise<void> => {
	await press(page, 'Lay it out so');
	await expect(page.getByText('The paint went along').last()).toBeVisible({ timeout: 30_000 });
	await computed(page);
};
const undo = async (page: Page): Promise<void> => {
	await page.keyboard.press('Control+z');
	await computed(page);
};

/** A project of the smoker's own file on one small sheet, with two strokes over it. */
async function ownProject(page: Page, name: string): Promise<string> {
	await page.goto(server.url);
	await page.getByLabel('Model or picture').setInputFiles({
		name: `${name}.obj`,
		mimeType: 'text/plain',
		buffer: Buffer.from(writeObj(layOut(smokerMesh(), apart(smokerMesh())))),
	});
	await page.getByRole('button', { name: '512', exact: true }).click();
	await page.getByRole('button', { name: 'Begin painting' }).click();
	await settled(page);
	for (const v of [0.45, 0.6])
		await stroke(page, 'model', [
			[0.35, v],
			[0.5, v + 0.04],
			[0.65, v],
		]);
	await kept(page);
	await page.getByRole('link', { name: 'Lay out' }).click();
	await expect(page.getByRole('region', { name: 'What to know of this model' })).toBeVisible();
	await chooseOf(page, 'Colour the faces by', 'Paint');
	await page.waitForTimeout(600);
	return page.url().split('/')[4] as string;
}

/** The smoker's two sheets beside each other on one. */
const apart = (mesh: ReturnType<typeof smokerMesh>): { readonly uvs: Float32Array } => {
	const bellows = mesh.parts.find(({ name }) => name === 'Bellows')?.firstFace as number;
	return {
		uvs: layoutOf(mesh).uvs.map((v, i) => v / 2 + (i % 2 === 0 && i >= bellows * 6 ? 0.5 : 0)),
	};
};

test('unwrapped anew the model looks as it did: shown first, then taken, undone, kept, and exported the same everywhere', async ({
	page,
}) => {
	const id = await ownProject(page, 'unwrapped');
	const [model, sheet] = [await pxOnGrid(page, 'model'), await pxOnGrid(page, 'sheet')];
	await press(page, 'Unwrap');
	expect(await proposed(page)).toMatch(/\d+ islands, \d+% of the sheet covered; angles off by/);
	// Looking changes nothing: left, it is as before.
	await press(page, 'Leave it as it was');
	await press(page, 'Unwrap');
	await proposed(page);
	// Another dial, another proposal, without asking anew.
	const seams = page.getByRole('slider', { name: 'Seams' });
	await seams.focus();
	for (let i = 0; i < 6; i++) await seams.press('PageUp');
	await expect(seams).toHaveAttribute('aria-valuenow', '1');
	await page.waitForTimeout(400);
	await proposed(page);
	await take(page);
	const parts = page.getByRole('region', { name: /^Sheet / }).first();
	await expect(parts).toContainText(/532 faces, [3-9] islands/);
	await page.waitForTimeout(700);
	expect(pxApart(await pxOnGrid(page, 'sheet'), sheet)).toBeGreaterThan(3);
	// The model shows the same paint: only rims of what is drawn may differ.
	await expect.poll(async () => pxApart(await pxOnGrid(page, 'model'), model)).toBeLessThan(9);
	await kept(page);
	const name = projectsOf(server.data).find((each) => each.id === id)?.name as string;
	const sheetName = (await engineOf(server.data, id)).project.sheets[0]?.name as string;
	const shown = Buffer.from((await decodePng(await exportPng(page, server.url, sheetName, id))).data);
	expect(shown.equals((await decodePng(exportByCommand(server.data, name, sheetName))).data)).toBe(true);
	// A second visit shows it so, and one step takes all of it back.
	await open(page, id);
	await expect(parts).toContainText(/532 faces, [3-9] islands/);
	await undo(page);
	await expect(parts).toContainText('532 faces, 2 islands');
	await chooseOf(page, 'Colour the faces by', 'Paint');
	await expect.poll(async () => pxApart(await pxOnGrid(page, 'sheet'), sheet)).toBe(0);
	await kept(page);
});

test('seams are marked where it is clicked, and the sheet is cut there', async ({ page }) => {
	await open(page);
	await page.getByRole('radio', { name: 'Seams' }).click();
	const [x, y] = await at(page, 'model', [0.4, 0.62]);
	const marked = (): Promise<number> =>
		engineOf(server.data, 'demo-smoker').then((engine) => {
			const count = engine.seams(engine.project.models[0]?.id as string).filter(Boolean).length;
			engine.close();
			return count;
		});
	await page.mouse.click(x, y);
	await expect(page.getByRole('button', { name: 'Undo' })).toBeEnabled();
	await kept(page);
	// Both sides of one edge.
	expect(await marked()).toBe(2);
	await page.waitForTimeout(600);
	// The first of two clicks takes the mark away, and the second those of its loop; once more, and all are there.
	for (let i = 0; i < 2; i++) {
		await page.mouse.dblclick(x, y);
		await page.waitForTimeout(700);
	}
	await kept(page);
	await expect.poll(marked).toBeGreaterThan(2);
	// Cut at once, and sewn again at the same marks, which go with it: a step each.
	const layout = (): Promise<string | undefined> =>
		engineOf(server.data, 'demo-smoker').then((engine) => {
			const found = engine.project.models[0]?.layout?.surface;
			engine.close();
			return found;
		});
	const asItWas = await layout();
	await press(page, 'Cut');
	await proposed(page);
	await press(page, 'Lay it out so');
	await kept(page);
	await expect.poll(layout).not.toBe(asItWas);
	const cut = await layout();
	if (await page.getByRole('button', { name: 'Sew', exact: true }).isVisible()) {
		await press(page, 'Sew');
		await expect(page.getByRole('status', { name: 'A layout to look at' })).toContainText(/islands?,|nothing to sew/);
		await page.getByRole('button', { name: /^(Leave it as it was|Close)$/ }).click();
	}
	await undo(page);
	await kept(page);
	await expect.poll(layout).toBe(asItWas);
	expect(cut).not.toBe(asItWas);
	await expect.poll(marked).toBeGreaterThan(2);
	await chooseOf(page, 'Way to unwrap', 'Along seams');
	await press(page, 'Unwrap');
	const along = Number.parseInt(await proposed(page), 10);
	await press(page, 'Leave it as it was');
	await page.getByRole('button', { name: 'Marks' }).click();
	await page.getByRole('menuitem', { name: 'Mark the islands’ borders' }).click();
	await press(page, 'Unwrap');
	expect(await proposed(page)).toMatch(/islands/);
	await press(page, 'Leave it as it was');
	await page.getByRole('button', { name: 'Marks' }).click();
	await page.getByRole('menuitem', { name: 'Clear all marks' }).click();
	await expect(page.getByText('None marked yet')).toBeVisible();
	await kept(page);
	expect(await marked()).toBe(0);
	expect(along).toBeGreaterThan(1);
	for (let i = 0; i < 5; i++) await page.keyboard.press('Control+z');
	await kept(page);
});

test('what is chosen is meant: one island laid flat, the rest left in place', async ({ page }) => {
	await open(page);
	const [x, y] = await at(page, 'sheet', [0.5, 0.3]);
	await page.mouse.click(x, y);
	await expect(page.getByRole('heading', { name: 'Unwrap 1 island' })).toBeVisible();
	await chooseOf(page, 'What else lies there', 'Leave the rest in place');
	await chooseOf(page, 'Way to unwrap', 'Cylinder');
	await press(page, 'Unwrap');
	expect(await proposed(page)).toMatch(/island/);
	await press(page, 'Leave it as it was');
	// Dragged on the sheet it is another layout to look at; taken, its paint goes along texel by texel.
	const uvsNow = async (): Promise<number[]> => {
		const engine = await engineOf(server.data, 'demo-smoker');
		const uvs = [...(engine.scene(engine.project.models[0]?.id as string)?.mesh.uvs ?? [])];
		engine.close();
		return uvs;
	};
	const lay = await uvsNow();
	await page.mouse.move(x, y);
	await page.mouse.down();
	await page.mouse.move(x + 8, y + 20, { steps: 4 });
	await page.mouse.up();
	await expect(page.getByText('Moved by hand.')).toBeVisible();
	await page.getByRole('group', { name: 'By hand' }).getByRole('button', { name: 'Turn right' }).click();
	await page.keyboard.press('Shift+ArrowDown');
	await take(page);
	await kept(page);
	// Looked at in a copy of the file, which may be taken between two of its pages: so more than once.
	const asBefore = (): Promise<boolean> => uvsNow().then((uvs) => uvs.join() === lay.join());
	await expect.poll(asBefore).toBe(false);
	await undo(page);
	await kept(page);
	await expect.poll(asBefore).toBe(true);
	await page.mouse.click(x, y);
	await page.getByRole('region', { name: 'Click takes' }).getByRole('button', { name: 'None' }).click();
	await expect(page.getByRole('heading', { name: 'Unwrap all faces' })).toBeVisible();
	// A part is chosen by its row, from the keyboard.
	await page.getByRole('button', { name: /^Lid 336 faces/ }).focus();
	await page.keyboard.press('Enter');
	await expect(page.getByRole('heading', { name: 'Unwrap 336 faces' })).toBeVisible();
});

test('sheets are added, sized, shared, merged and renamed; paint goes along, and each is a step', async ({ page }) => {
	const id = await ownProject(page, 'shared');
	const model = await pxOnGrid(page, 'model');
	const like = (): Promise<void> =>
		expect.poll(async () => pxApart(await pxOnGrid(page, 'model'), model)).toBeLessThan(9);
	const first = page.getByRole('region', { name: /^Sheet (?!Sheet 2|Lid)/ }).first();
	await page.getByRole('button', { name: 'More of Lid' }).click();
	await page.getByRole('menuitem', { name: 'Onto a sheet of its own' }).click();
	const own = page.getByRole('region', { name: 'Sheet Sheet 2' });
	await expect(own).toContainText('Lid');
	await computed(page);
	await like();
	await expect(first).not.toContainText('Lid');
	// Twice as large, and under another name.
	await page.getByRole('button', { name: 'More of sheet Sheet 2' }).click();
	await page.getByRole('menuitem', { name: 'Name, size and bleed…' }).click();
	await page.getByRole('textbox', { name: 'Name' }).fill('Lid');
	await page.getByRole('textbox', { name: 'Width' }).fill('1024');
	await page.getByRole('textbox', { name: 'Height' }).fill('1024');
	await page.keyboard.press('Enter');
	await expect(page.getByRole('region', { name: 'Sheet Lid' })).toContainText('1024 × 1024');
	await computed(page);
	await like();
	await kept(page);
	const [, lid] = (await engineOf(server.data, id)).project.sheets;
	expect([lid?.name, lid?.width, lid?.height]).toEqual(['Lid', 1024, 1024]);
	// Dragged back onto the sheet that it came from; the empty sheet can go then.
	await page.getByRole('button', { name: /^Lid 336 faces/ }).dragTo(first.getByText('512 × 512'));
	await expect(first).toContainText('Lid');
	await computed(page);
	await like();
	await page.getByRole('button', { name: 'More of sheet Lid' }).click();
	await page.getByRole('menuitem', { name: 'Remove the sheet' }).click();
	await expect(page.getByRole('region', { name: 'Sheet Lid' })).toHaveCount(0);
	await undo(page);
	// One that is full is merged; undone step by step all is as it was.
	await undo(page);
	await page.getByRole('button', { name: 'More of sheet Lid' }).click();
	await page.getByRole('menuitem', { name: 'Merge into' }).hover();
	await page.getByRole('menuitem', { name: 'shared' }).click();
	await expect(page.getByRole('region', { name: 'Sheet Lid' })).toHaveCount(0);
	await expect(first).toContainText('Lid');
	await computed(page);
	await like();
	for (let i = 0; i < 3; i++) await undo(page);
	await expect(first).toContainText('Lid');
	await like();
	await kept(page);
	const { project } = await engineOf(server.data, id);
	expect(project.sheets).toHaveLength(1);
});

test('a model without UVs is unwrapped by itself and can be painted at once', async ({ page }) => {
	const mesh = smokerMesh();
	const obj = writeObj(mesh)
		.split('\n')
		.filter((line) => !line.startsWith('vt '))
		.join('\n')
		.replace(/(\d+)\/\d+\/(\d+)/g, '$1//$2');
	await page.goto(server.url);
	await page
		.getByLabel('Model or picture')
		.setInputFiles({ name: 'bare.obj', mimeType: 'text/plain', buffer: Buffer.from(obj) });
	await expect(page.getByRole('dialog')).toContainText('has no UVs: it is unwrapped by itself', { timeout: 30_000 });
	await page.getByRole('button', { name: '512', exact: true }).click();
	await page.getByRole('button', { name: 'Begin painting' }).click();
	await settled(page);
	const before = await canvasPixel(page, 'model', [0.5, 0.6]);
	await stroke(page, 'model', [
		[0.4, 0.6],
		[0.6, 0.6],
	]);
	await expect.poll(async () => (await canvasPixel(page, 'model', [0.5, 0.6])).join()).not.toBe(before.join());
	await kept(page);
	await page.reload();
	await settled(page);
	await expect.poll(async () => (await canvasPixel(page, 'model', [0.5, 0.6])).join()).not.toBe(before.join());
	await page.getByRole('link', { name: 'Lay out' }).click();
	await expect(page.getByRole('region', { name: 'What to know of this model' })).not.toContainText(
		'no area on a sheet',
	);
});

test('a project begins with a shape that is seen beforehand, laid out and painted', async ({ page }) => {
	await page.goto(server.url);
	await page.getByRole('button', { name: 'Begin without a file' }).click();
	await page.getByRole('menuitem', { name: 'A shape…' }).click();
	await page.getByRole('radio', { name: 'Lathe' }).click();
	await expect(page.getByRole('img', { name: 'A lathe' })).toBeVisible();
	// The line that is turned is drawn by hand, or from the keyboard.
	const point = page.getByRole('slider', { name: 'Point 2', exact: true });
	await point.focus();
	await point.press('ArrowRight');
	await expect(point).toHaveAttribute('aria-valuetext', 'radius 0.52, height 0.25');
	await page.getByRole('radio', { name: '512', exact: true }).click();
	await page.getByRole('button', { name: 'Begin painting' }).click();
	await settled(page);
	const before = (await canvasPixel(page, 'model', [0.5, 0.6])).join();
	await stroke(page, 'model', [
		[0.4, 0.6],
		[0.6, 0.6],
	]);
	await expect.poll(async () => (await canvasPixel(page, 'model', [0.5, 0.6])).join()).not.toBe(before);
	await kept(page);
	await page.getByRole('link', { name: 'Lay out' }).click();
	await expect(page.getByText('Nothing: it can be painted as it is.')).toBeVisible();
});

test('a tab that dies while the paint is taken along: the next visit has the new layout, and the paint on it', async ({
	page,
	context,
}) => {
	const id = await ownProject(page, 'cut off');
	const model = await pxOnGrid(page, 'model');
	await press(page, 'Unwrap');
	await proposed(page);
	await press(page, 'Lay it out so');
	// It is in the browser's journal as it was said; nothing of it is anywhere else yet.
	await page.waitForTimeout(60);
	await crash(page);
	const next = await context.newPage();
	await open(next, id);
	const parts = next.getByRole('region', { name: /^Sheet / }).first();
	await expect(parts).not.toContainText('532 faces, 2 islands');
	await chooseOf(next, 'Colour the faces by', 'Paint');
	await expect.poll(async () => pxApart(await pxOnGrid(next, 'model'), model)).toBeLessThan(9);
	await kept(next);
	await undo(next);
	await expect(parts).toContainText('532 faces, 2 islands');
});

test('what the stage does can be asked for, while it is open', async ({ page }) => {
	const ask = async (words: string): Promise<void> => {
		await page.keyboard.press('Control+k');
		await page.getByRole('textbox', { name: 'Ask for a command' }).fill(words);
		await page.keyboard.press('Enter');
	};
	await open(page);
	await ask('lay the model flat');
	await expect(page.getByRole('slider', { name: 'Unfold' })).toHaveAttribute('aria-valuenow', '1');
	await ask('fold the model up');
	await expect(page.getByRole('slider', { name: 'Unfold' })).toHaveAttribute('aria-valuenow', '0');
	await ask('colour the faces density');
	await expect(page.getByRole('combobox', { name: 'Colour the faces by' })).toHaveText('Texel density');
	await ask('unwrap box');
	await proposed(page);
	await ask('leave the layout');
	await expect(page.getByRole('button', { name: 'Lay it out so' })).toBeHidden();
	// Elsewhere it is not offered.
	await page.getByRole('link', { name: 'Paint' }).click();
	await expect(page.getByRole('slider', { name: 'Unfold' })).toBeHidden();
	await page.keyboard.press('Control+k');
	await page.getByRole('textbox', { name: 'Ask for a command' }).fill('lay the model flat');
	await expect(page.getByRole('listbox', { name: 'Commands' }).getByRole('option')).toHaveCount(0);
});
