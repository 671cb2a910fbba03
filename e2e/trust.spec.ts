import { readFileSync } from 'node:fs';
import type { Engine } from '@eppu/core/engine';
import { type BrowserContext, expect, type Page, test } from '@playwright/test';
import { gridIds } from '../demo/grid.ts';
import { itemIds } from '../demo/items.ts';
import { demoIds } from '../demo/projects.ts';
import { suitIds } from '../demo/suit.ts';
import {
	beforeWorker,
	crash,
	engineOf,
	kept,
	layerMenu,
	openPaint,
	projectsOf,
	record,
	recorded,
	replay,
	settled,
} from './artist.ts';
import { chances, createCampaign, type Fault, faults } from './campaign.ts';
import { seedFile } from './paths.ts';
import { createServer, type TestServer } from './server.ts';

// Each test has a server of its own: the longest file is not left to one worker.
test.describe.configure({ mode: 'parallel' });

const servers: TestServer[] = [];
const serve = async (name: string, settings?: Record<string, string>): Promise<TestServer> => {
	const server = createServer(`trust-${name}`);
	servers.push(server);
	await server.start(settings);
	return server;
};
test.afterEach(async () => {
	for (const server of servers.splice(0)) await server.kill();
});

const pixels = (engine: Engine, sheet = 'can'): Buffer => Buffer.from(engine.composite(sheet).data);
const same = (a: Engine, b: Engine): boolean => Buffer.compare(pixels(a), pixels(b)) === 0;
/** The demo smoker after what was said, made by the engine in Node. */
const wanted = async (...said: Awaited<ReturnType<typeof recorded>>[]): Promise<Engine> => {
	const engine = await engineOf(seedFile, 'demo-smoker');
	for (const each of said) replay(engine, each);
	return engine;
};
const quick = async (page: Page, v: number): Promise<void> => {
	const box = await page.locator('[data-view="sheet"]').boundingBox();
	if (!box) throw new Error('no sheet view');
	await page.mouse.move(box.x + box.width * 0.4, box.y + box.height * v);
	await page.mouse.down();
	await page.mouse.move(box.x + box.width * 0.55, box.y + box.height * (v + 0.01));
	await page.mouse.up();
};
const keptNow = (page: Page) =>
	expect(page.locator('[data-keeping]')).toHaveAttribute('data-keeping', 'kept', { timeout: 20_000 });
const visit = async (context: BrowserContext, server: TestServer, project = 'demo-smoker'): Promise<Page> => {
	const page = await context.newPage();
	await record(page);
	await openPaint(page, server.url, project);
	return page;
};

test('hatching without a pause, and a tab that dies: every finished stroke is back', async ({ context }) => {
	const server = await serve('hatching');
	const page = await visit(context, server);
	for (let i = 0; i < 30; i++) await quick(page, 0.25 + i * 0.015);
	const said = await recorded(page);
	expect(said.filter((each) => each.say === 'end')).toHaveLength(30);
	await crash(page);
	const next = await visit(context, server);
	await keptNow(next);
	expect(same(await engineOf(server.data, 'demo-smoker'), await wanted(said))).toBe(true);
});

test('reloaded or closed as the pen lifts, or with the next stroke held: nothing is lost', async ({ context }) => {
	const server = await serve('reload');
	let page = await visit(context, server);
	const all: Awaited<ReturnType<typeof recorded>>[] = [];
	await quick(page, 0.3);
	all.push(await recorded(page));
	await page.reload();
	await settled(page);
	await quick(page, 0.35);
	all.push(await recorded(page));
	await page.close();
	page = await visit(context, server);
	await quick(page, 0.4);
	await page.mouse.down();
	const box = await page.locator('[data-view="sheet"]').boundingBox();
	await page.mouse.move((box?.x ?? 0) + 260, (box?.y ?? 0) + 300, { steps: 4 });
	// The first is kept while the second is still held.
	await expect(page.locator('[data-keeping]')).toContainText('Keeping 1 stroke', { timeout: 5000 });
	const before = await recorded(page);
	await crash(page);
	page = await visit(context, server);
	await keptNow(page);
	all.push([...before, { say: 'end' }]);
	expect(same(await engineOf(server.data, 'demo-smoker'), await wanted(...all))).toBe(true);
});

test('left and opened again at once: nothing is lost, and it opens', async ({ context }) => {
	const server = await serve('leave');
	const page = await visit(context, server);
	for (let i = 0; i < 4; i++) {
		await quick(page, 0.3 + i * 0.05);
		await page.getByRole('link', { name: 'All projects' }).click();
		await page.goBack();
		await expect(page.locator('[data-view="sheet"]')).toBeVisible({ timeout: 10_000 });
		await page.waitForTimeout(600);
	}
	const said = await recorded(page);
	await keptNow(page);
	expect(same(await engineOf(server.data, 'demo-smoker'), await wanted(said))).toBe(true);
});

test('two browsers on one project: both keep all that they painted, the later one in a copy that it is told of', async ({
	browser,
}) => {
	const server = await serve('two');
	const [one, other] = [await browser.newContext(), await browser.newContext()];
	const a = await visit(one, server);
	const b = await visit(other, server);
	await quick(a, 0.3);
	await kept(a);
	await quick(b, 0.5);
	await quick(b, 0.55);
	await expect(b.getByText(/What you painted here goes on as "Mossbarrow smoker \(painted here\)"/)).toBeVisible({
		timeout: 10_000,
	});
	await quick(b, 0.6);
	await kept(b);
	await expect(b).toHaveURL(/\/project\/here-/);
	await quick(a, 0.7);
	await kept(a);
	const [saidA, saidB] = [await recorded(a), await recorded(b)];
	const list = projectsOf(server.data);
	const copy = list.find((each) => each.name === 'Mossbarrow smoker (painted here)');
	expect(list.filter((each) => each.name.includes('smoker'))).toHaveLength(2);
	expect(same(await engineOf(server.data, 'demo-smoker'), await wanted(saidA))).toBe(true);
	expect(same(await engineOf(server.data, copy?.id ?? ''), await wanted(saidB))).toBe(true);
	// The copy is open in its own right: a reload goes on with it.
	await b.reload();
	await settled(b);
	await expect(b.getByRole('banner').first()).toContainText('(painted here)');
	await one.close();
	await other.close();
});

test('a stroke that only the journal has, and another hand on the project: it goes on as a copy at the next visit', async ({
	context,
}) => {
	const campaign = await createCampaign(context, await serve('spoken'), 3);
	for (let i = 0; i < 3; i++) await campaign.round('close', true);
	await campaign.close();
});

test('a new name from elsewhere is taken over, and makes no copy', async ({ context }) => {
	const server = await serve('rename');
	const page = await visit(context, server);
	await page.request.patch(`${server.url}/api/projects/demo-smoker`, { data: { name: 'Old tin smoker' } });
	await quick(page, 0.4);
	await kept(page);
	await expect(page.getByRole('banner').first()).toContainText('Old tin smoker');
	expect(projectsOf(server.data)).toHaveLength(demoIds.length + itemIds.length + gridIds.length + suitIds.length);
});

test('a layer deleted, the server started anew, and undo: all of its paint is back and kept', async ({ context }) => {
	const server = await serve('undo');
	const page = await visit(context, server);
	const before = await wanted();
	await layerMenu(page, 'Soot streaks', 'Delete');
	await kept(page);
	await server.kill();
	await server.start();
	await page.keyboard.press('Control+z');
	await kept(page);
	expect(same(await engineOf(server.data, 'demo-smoker'), before)).toBe(true);
});

test('a browser that keeps nothing: the server does; without it the words are true, and the work goes into a file', async ({
	context,
}) => {
	const server = await serve('nothing');
	await context.addInitScript(() => Object.defineProperty(window, 'indexedDB', { get: () => undefined }));
	await beforeWorker(context, 'keeper.worker', "Object.defineProperty(self,'indexedDB',{get:()=>undefined})");
	const page = await visit(context, server);
	await quick(page, 0.3);
	await keptNow(page);
	await server.kill();
	await quick(page, 0.4);
	await expect(page.locator('[data-trouble]')).toContainText(
		'the server is away, 1 stroke held in this tab only: do not close it',
		{ timeout: 10_000 },
	);
	const waiting = page.waitForEvent('download');
	await page.getByRole('button', { name: 'Save the work as a file' }).click();
	const file = await (await waiting).path();
	const said = await recorded(page);
	await server.start();
	await keptNow(page);
	await expect(page.locator('[data-trouble]')).toHaveCount(0);
	expect(same(await engineOf(server.data, 'demo-smoker'), await wanted(said))).toBe(true);
	await page.getByRole('link', { name: 'All projects' }).click();
	await page
		.getByLabel('Model or picture')
		.setInputFiles({ name: 'work.eppu', mimeType: 'application/octet-stream', buffer: readFileSync(file) });
	await expect(page.getByText('is here again, as a project of its own')).toBeVisible();
	await page.waitForURL(/\/project\/[0-9a-f-]{36}\//);
	const id = /project\/([^/]+)/.exec(page.url())?.[1] ?? '';
	expect(same(await engineOf(server.data, id), await wanted(said))).toBe(true);
});

test('the server’s disk full: said as that; at the next visit the project is no older than what is held; then all is kept', async ({
	context,
}) => {
	const server = await serve('full');
	let page = await visit(context, server);
	await kept(page);
	await server.stop();
	await server.start({ EPPU_MOST_MB: '1' });
	await quick(page, 0.3);
	await quick(page, 0.5);
	await expect(page.locator('[data-trouble]')).toContainText('the disk of the server is full, 2 strokes held here', {
		timeout: 10_000,
	});
	const said = await recorded(page);
	await page.close();
	page = await visit(context, server);
	await expect(page.locator('[data-trouble]')).toContainText('the disk of the server is full, 2 strokes held here', {
		timeout: 10_000,
	});
	await quick(page, 0.7);
	await page.waitForTimeout(800);
	const more = await recorded(page);
	await server.stop();
	await server.start();
	await keptNow(page);
	expect(same(await engineOf(server.data, 'demo-smoker'), await wanted(said, more))).toBe(true);
	expect(projectsOf(server.data)).toHaveLength(demoIds.length + itemIds.length + gridIds.length + suitIds.length);
});

test('no server from the start: a page of ours says so, names what is held, and goes on by itself', async ({
	context,
}) => {
	const server = await serve('away');
	let page = await visit(context, server);
	await page.waitForTimeout(4600);
	await server.kill();
	await quick(page, 0.4);
	await page.waitForTimeout(700);
	const said = await recorded(page);
	await page.close();
	page = await context.newPage();
	await page.goto(server.url);
	await expect(page.getByRole('heading', { name: 'The server is away' })).toBeVisible({ timeout: 15_000 });
	await expect(page.getByRole('region', { name: 'Held in this browser' })).toContainText('Mossbarrow smoker');
	await expect(page.getByRole('region', { name: 'Held in this browser' })).toContainText('1 stroke');
	const waiting = page.waitForEvent('download');
	await page.getByRole('button', { name: 'Save as a file' }).click();
	const file = await (await waiting).path();
	await server.start();
	await expect(page.getByRole('link', { name: 'Open Mossbarrow smoker' })).toBeVisible({ timeout: 15_000 });
	// The file gives the same back, also in another browser.
	const fresh = await (context.browser() as NonNullable<ReturnType<BrowserContext['browser']>>).newContext();
	const other = await fresh.newPage();
	await other.goto(server.url);
	await other
		.getByLabel('Model or picture')
		.setInputFiles({ name: 'held.eppu', mimeType: 'application/octet-stream', buffer: readFileSync(file) });
	await settled(other);
	await keptNow(other);
	expect(same(await engineOf(server.data, 'demo-smoker'), await wanted(said))).toBe(true);
	await fresh.close();
	// Here it was held too: the same save is no second one.
	await page.getByRole('link', { name: 'Open Mossbarrow smoker' }).click();
	await settled(page);
	await keptNow(page);
	expect(projectsOf(server.data)).toHaveLength(demoIds.length + itemIds.length + gridIds.length + suitIds.length);
	expect(same(await engineOf(server.data, 'demo-smoker'), await wanted(said))).toBe(true);
});

test('taking over waits for the other tab’s last strokes; trying again works', async ({ context }) => {
	const server = await serve('take');
	const one = await visit(context, server);
	const other = await context.newPage();
	await other.goto(`${server.url}/project/demo-smoker/paint`);
	await expect(other.getByText('Open in another tab')).toBeVisible();
	await quick(one, 0.3);
	await quick(one, 0.4);
	await other.getByRole('button', { name: 'Take it over here' }).click();
	await settled(other);
	await expect(one.getByText('Open in another tab')).toBeVisible();
	const said = await recorded(one);
	await keptNow(other);
	expect(same(await engineOf(server.data, 'demo-smoker'), await wanted(said))).toBe(true);
	// Back again, three times.
	for (let i = 0; i < 3; i++) {
		const [from, to] = i % 2 ? [one, other] : [other, one];
		await to.getByRole('button', { name: 'Take it over here' }).click();
		await expect(to.locator('[data-view="sheet"]')).toBeVisible({ timeout: 10_000 });
		await expect(from.getByText('Open in another tab')).toBeVisible();
	}
	// When the tab that has it is closed, the one that waits opens it by itself.
	await one.close();
	await expect(other.locator('[data-view="sheet"]')).toBeVisible({ timeout: 15_000 });
});

test.describe('random rounds', () => {
	// A long run is made in two halves beside each other, each with its own server and chances.
	for (const half of process.env.ROUNDS ? [0, 1] : [0])
		test(`random rounds of faults: nothing lost, nothing doubled, "Kept" never false${half ? ' (second half)' : ''}`, async ({
			context,
		}) => {
			const rounds = process.env.ROUNDS ? Math.ceil(Number(process.env.ROUNDS) / 2) : 4;
			const seed = Number(process.env.SEED ?? 7) + half * 1000;
			test.setTimeout(60_000 + rounds * 50_000);
			const campaign = await createCampaign(context, await serve(`rounds-${half}`), seed);
			const chance = chances(seed + 1);
			for (let i = 0; i < rounds; i++) {
				const fault = i < faults.length ? (faults[i] as Fault) : chance.one(faults);
				const other = fault === 'other-hand' || (i >= faults.length && chance.below(4) === 0);
				const done = await campaign.round(fault, other);
				if (process.env.ROUNDS) console.log(`${half ? 'second' : 'first'} half, round ${i + 1}: ${done}`);
			}
			await campaign.close();
		});
});

test('workers whose scripts do not load are told, and trying again opens', async ({ context }) => {
	const server = await serve('scripts');
	let broken = true;
	await context.route('**/assets/*.worker*', (route) => (broken ? route.abort() : route.continue()));
	const page = await context.newPage();
	await page.goto(`${server.url}/project/demo-smoker/paint`);
	await expect(page.getByText('This project is not open')).toBeVisible({ timeout: 10_000 });
	for (let i = 0; i < 2; i++) {
		await page.getByRole('button', { name: 'Try again' }).click();
		await expect(page.getByText('This project is not open')).toBeVisible({ timeout: 10_000 });
	}
	broken = false;
	await page.getByRole('button', { name: 'Try again' }).click();
	await settled(page);
	await expect(page.locator('[data-view="sheet"]')).toBeVisible();
});
