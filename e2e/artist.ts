/** What an artist does in the browser, and how its traces are read back. */
import { execFileSync } from 'node:child_process';
import { copyFileSync, existsSync, mkdirSync, readFileSync } from 'node:fs';
import { openKept } from '@eppu/cli/commands';
import type { Desk } from '@eppu/core/document';
import type { Engine } from '@eppu/core/engine';
import { readPack } from '@eppu/core/format';
import { openSourceStore } from '@eppu/server/store';
import { type BrowserContext, expect, type Page } from '@playwright/test';
import { facesMeant } from '../apps/web/src/studio/cells.ts';
import { changing, type ToStudio } from '../apps/web/src/studio/protocol.ts';
import { namesFrom, relayingOf } from '../apps/web/src/studio/relaying.ts';
import { root, runFile } from './paths.ts';

export type Point = readonly [number, number];

/** Notes everything that is said to the studio, from the page's start on; also with `noteSaid` where the context has it. */
export async function record(page: Page): Promise<void> {
	await page.addInitScript((names: readonly string[]) => {
		const said: unknown[] = [];
		(window as unknown as { said: unknown[] }).said = said;
		const post = Worker.prototype.postMessage;
		Worker.prototype.postMessage = function (this: Worker, message: { say?: string }, transfer?: unknown) {
			if (names.includes(message?.say ?? '')) {
				said.push(structuredClone(message));
				(window as unknown as { noteSaid?: (message: unknown) => void }).noteSaid?.(structuredClone(message));
			}
			return (post as (message: unknown, transfer?: unknown) => void).call(this, message, transfer);
		};
	}, changing);
}

export const recorded = (page: Page): Promise<ToStudio[]> =>
	page.evaluate(() => (window as unknown as { said: ToStudio[] }).said);

export async function openPaint(page: Page, url: string, project = 'demo-smoker'): Promise<void> {
	await page.goto(`${url}/project/${project}/paint`);
	await settled(page);
}

/** Waits until every tile that was due is on the screen. */
export async function settled(page: Page): Promise<void> {
	await page.waitForFunction(
		() =>
			document.documentElement.dataset.settled !== undefined &&
			(!location.pathname.endsWith('/paint') || document.querySelector('[data-view] canvas') !== null),
	);
	// What was told is drawn with the next frames, which a busy machine makes late.
	await page.evaluate(
		() =>
			new Promise((drawn) => requestAnimationFrame(() => requestAnimationFrame(() => requestAnimationFrame(drawn)))),
	);
	await page.waitForTimeout(250);
}

/** Chooses from one of our lists of words. */
export async function chooseOf(page: Page, list: string, words: string): Promise<void> {
	await page.getByRole('combobox', { name: list, exact: true }).click();
	await page.getByRole('option', { name: words, exact: true }).click();
}

/** The name of the active layer; one that the artist gave none is called by what it holds. */
export const activeName = async (page: Page): Promise<string> =>
	(await page.locator('[data-layer][aria-current="true"]').getAttribute('data-layer')) ?? '';

/** Does what a layer's menu offers; a path of words leads through lists within it. */
export async function layerMenu(page: Page, layer: string, ...path: readonly string[]): Promise<void> {
	await page.getByRole('button', { name: `More for ${layer}`, exact: true }).click();
	for (const words of path) await page.getByRole('menuitem', { name: words, exact: true }).click();
}

/** Waits until what follows from the document is computed and shown. */
export async function computed(page: Page): Promise<void> {
	await page.waitForTimeout(450);
	await expect(page.getByText(/^Computing |^Stopped: /)).toHaveCount(0, { timeout: 60_000 });
	await page.waitForTimeout(250);
}

export async function kept(page: Page): Promise<void> {
	// The strip says "Keeping" from the word on: nothing is waited for but what the page has not heard yet.
	await page.waitForTimeout(120);
	await expect(page.locator('[data-keeping]')).toHaveAttribute('data-keeping', 'kept', { timeout: 40_000 });
}

/** A place in a view, 0..1 across and down. */
export async function at(page: Page, view: 'model' | 'sheet', [u, v]: Point): Promise<Point> {
	const box = await page.locator(`[data-view="${view}"]`).boundingBox();
	if (!box) throw new Error(`no ${view} view`);
	return [box.x + u * box.width, box.y + v * box.height];
}

/** One stroke of the mouse through places of a view. */
export async function stroke(page: Page, view: 'model' | 'sheet', places: readonly Point[]): Promise<void> {
	for (const [i, place] of places.entries()) {
		const [x, y] = await at(page, view, place);
		await page.mouse.move(x, y, { steps: i === 0 ? 1 : 5 });
		if (i === 0) await page.mouse.down();
	}
	await page.mouse.up();
}

export async function exportPng(page: Page, url: string, sheet: string, project = 'demo-smoker'): Promise<Buffer> {
	await page.getByRole('link', { name: 'Hand off' }).click();
	const row = page.getByRole('listitem').filter({ has: page.getByRole('button', { name: sheet, exact: true }) });
	const waiting = page.waitForEvent('download');
	await row.getByRole('button', { name: 'Write PNG' }).click();
	const file = await (await waiting).path();
	await page.getByRole('link', { name: 'Paint' }).click();
	await page.waitForURL(`${url}/project/${project}/paint`);
	return readFileSync(file);
}

/** The same sheet through the command line, with no browser. */
export function exportByCommand(data: string, project: string, sheet: string): Buffer {
	const out = runFile(`cli-${Math.random().toString(36).slice(2)}`);
	mkdirSync(out, { recursive: true });
	const printed = execFileSync(
		'npx',
		['--no-install', 'tsx', 'apps/cli/src/main.ts', 'export', project, '--out', out, '--sheet', sheet, '--data', data],
		{ cwd: root, encoding: 'utf8' },
	);
	return readFileSync(printed.trim().split('\n').at(-1) as string);
}

let copies = 0;
/** A copy of a data file with its log, to look into: the file itself may be a running server's. */
function copyOf(data: string): string {
	const to = runFile(`look-${process.pid}-${copies++}.db`);
	for (const end of ['', '-wal']) if (existsSync(data + end)) copyFileSync(data + end, to + end);
	return to;
}

/** A project of a data file in an engine in Node; copied anew where the server was just putting its log into the file. */
export async function engineOf(data: string, project: string): Promise<Engine> {
	for (let tries = 1; ; tries++)
		try {
			return await openKept(openSourceStore(copyOf(data)), project);
		} catch (error) {
			if (tries === 5) throw error;
			await new Promise((done) => setTimeout(done, 400));
		}
}

/** The projects of a data file by their names. */
export const projectsOf = (data: string): { readonly id: string; readonly name: string }[] =>
	openSourceStore(copyOf(data)).list();

/** The desk of a project as the server keeps it. */
export async function deskOf(page: Page, project: string): Promise<Desk> {
	const { origin } = new URL(page.url());
	const bytes = await (await page.request.get(`${origin}/api/projects/${project}`)).body();
	return readPack<{ desk: Desk }>(new Uint8Array(bytes)).head.desk;
}

/** The tab dies at once: nothing of it runs on. */
export async function crash(page: Page): Promise<void> {
	const crashed = page.waitForEvent('crash');
	const session = await page.context().newCDPSession(page);
	void session.send('Page.crash').catch(() => undefined);
	await crashed;
	await page.close().catch(() => undefined);
}

/** Does again in Node what was said to the studio. */
export function replay(engine: Engine, said: readonly ToStudio[]): void {
	for (const message of said) {
		if (message.say === 'run') engine.run(message.command, message.gesture);
		else if (message.say === 'run-all') engine.runAll(message.commands, message.words, message.gesture);
		else if (message.say === 'undo') engine.undo();
		else if (message.say === 'redo') engine.redo();
		else if (message.say === 'begin') engine.begin(message.spec, message.samples);
		else if (message.say === 'extend') engine.extend(message.samples);
		else if (message.say === 'end') engine.end();
		else if (message.say === 'cancel') engine.cancel();
		else if (message.say === 'mask') engine.changeMask(message.sheet, message.layer, message.change);
		else if (message.say === 'edit') engine.edit(message.sheet, message.layer, message.edit, message.options);
		else if (message.say === 'edit-seen')
			engine.editSeen(message.model, message.sight, message.layers, message.edit, message.options);
		else if (message.say === 'select-seen')
			engine.selectSeen(message.model, message.sight, message.by, message.joining);
		else if (message.say === 'select') engine.select(message.sheet, message.by, message.joining);
		else if (message.say === 'selection') engine.changeSelection(message.sheet, message.change, message.also);
		else if (message.say === 'passes') engine.addPasses(message.sheet, message.layer, message.spec, message.newIds);
		else if (message.say === 'twin') engine.repeatOnTwin(message.model, message.part, message.layers);
		else if (message.say === 'cells')
			engine.changeCells(message.sheet, message.cells, message.moves, message.words, namesFrom(message.seed));
		else if (message.say === 'assign-cell') {
			const meant = facesMeant(engine, message);
			if (typeof meant !== 'string')
				engine.assignCell(message.sheet, meant.taken, message.cell, meant.along, namesFrom(message.seed));
		} else if (message.say === 'recolor')
			engine.recolor(message.sheets, message.pairs, message.palette, message.only, message.gesture, message.turned);
		else if (message.say === 'point-entries') engine.pointAtEntries(message.sheet, message.layer, message.newId);
		else if (message.say === 'merge') engine.mergeDown(message.sheet, message.layer, message.newId);
		else if (message.say === 'cut') engine.cut(message.sheet, message.layer, message.newId);
		else if (message.say === 'relay') engine.relay(relayingOf(message.change), message.words, namesFrom(message.seed));
		else if (message.say === 'flatten') engine.flatten(message.sheet, message.layer, message.newId);
	}
}

/** Device px of a view's canvas at a place, as r, g, b, a. */
export function canvasPixel(page: Page, view: 'model' | 'sheet', [u, v]: Point): Promise<number[]> {
	return page.evaluate(
		([name, x, y]) => {
			const canvas = document.querySelector(`[data-view="${name}"] canvas`) as HTMLCanvasElement;
			const copy = Object.assign(document.createElement('canvas'), { width: 1, height: 1 });
			const context = copy.getContext('2d') as CanvasRenderingContext2D;
			context.drawImage(canvas, -Math.floor((x as number) * canvas.width), -Math.floor((y as number) * canvas.height));
			return [...context.getImageData(0, 0, 1, 1).data];
		},
		[view, u, v] as const,
	);
}

/** Has a worker run something of ours before its own script. */
export async function beforeWorker(context: BrowserContext, worker: string, first: string): Promise<void> {
	// Asked of the server once: a second worker may ask while it is away.
	let script: { readonly headers: Record<string, string>; readonly body: string } | null = null;
	await context.route(`**/assets/${worker}*`, async (route) => {
		if (!script) {
			const answer = await route.fetch();
			const body = `${first};${await answer.text()}`;
			const { 'content-encoding': _packed, 'content-length': _length, ...headers } = answer.headers();
			script = { headers, body };
		}
		return route.fulfill(script);
	});
}

/** Px on a grid over a view. */
export const pxOnGrid = (page: Page, view: 'model' | 'sheet'): Promise<number[][]> =>
	Promise.all(
		Array.from({ length: 100 }, (_, i) =>
			canvasPixel(page, view, [0.05 + 0.1 * (i % 10), 0.05 + 0.1 * Math.floor(i / 10)]),
		),
	);
/** How many px of two grids the eye tells apart. */
export const pxApart = (one: readonly number[][], other: readonly number[][]): number =>
	one.filter((px, i) => px.some((v, k) => Math.abs(v - (other[i]?.[k] as number)) > 28)).length;
