/**
 * Random rounds against the running app: an artist paints, takes back, deletes and merges while servers are killed and
 * stopped, tabs crash, close and reload, the network goes, the disk fills. After each round all is made whole again, and
 * what is kept must be, to the texel, what was finished on the screen.
 */

import type { Project } from '@eppu/core/document';
import { type Engine, openEngine } from '@eppu/core/engine';
import { readPack, writePack } from '@eppu/core/format';
import { type BrowserContext, expect, type Page } from '@playwright/test';
import type { ToStudio } from '../apps/web/src/studio/protocol.ts';
import { crash, engineOf, openPaint, record, replay } from './artist.ts';
import type { TestServer } from './server.ts';

const SHEET = 'can';

/** A small random source: the same seed, the same rounds. */
export function chances(seed: number): { below(n: number): number; one<T>(list: readonly T[]): T } {
	let state = seed >>> 0 || 1;
	const next = (): number => {
		state ^= state << 13;
		state ^= state >>> 17;
		state ^= state << 5;
		state >>>= 0;
		return state / 4294967296;
	};
	return {
		below: (n) => Math.floor(next() * n),
		one: (list) => list[Math.floor(next() * list.length)] as (typeof list)[number],
	};
}

export type Fault =
	| 'none'
	| 'server-killed'
	| 'server-stopped'
	| 'crash'
	| 'close'
	| 'reload'
	| 'offline'
	| 'disk-full'
	| 'quota'
	| 'other-hand';
export const faults: readonly Fault[] = [
	'none',
	'server-killed',
	'server-stopped',
	'crash',
	'close',
	'reload',
	'offline',
	'disk-full',
	'quota',
	'other-hand',
];

export interface Campaign {
	/** A round with a fault, and with another hand on the project too where `other` says so. */
	round(fault: Fault, other?: boolean): Promise<string>;
	close(): Promise<void>;
}

const pixels = (engine: Engine): Buffer => Buffer.from(engine.composite(SHEET).data);

export async function createCampaign(context: BrowserContext, server: TestServer, seed: number): Promise<Campaign> {
	const chance = chances(seed);
	/** The project that is painted: a copy from when another hand was on it. */
	let project = 'demo-smoker';
	/** The project as it must be; made by the engine in Node from the same words. */
	let engine = await engineOf(server.data, project);
	let page: Page | null = null;
	/** What was said in this visit, as the page said it: sent out at once, so that a crash does not take it along. */
	let said: ToStudio[] = [];
	let taken = 0;
	await context.exposeBinding('noteSaid', (_source, message: ToStudio) => void said.push(message));

	/** The artist goes back to the project that the page showed last. */
	const known = (now: Page): void => {
		project = /\/project\/([^/]+)/.exec(now.url())?.[1] ?? project;
	};
	/** Does in Node what was said since. */
	const follow = (): void => {
		const more = said.slice(taken);
		taken = said.length;
		replay(engine, more);
	};
	const visit = async (): Promise<Page> => {
		if (page && !page.isClosed()) return page;
		page = await context.newPage();
		await record(page);
		await openPaint(page, server.url, project);
		return page;
	};
	/** A new visit knows nothing of earlier steps, and so has nothing to take back. */
	const forget = async (): Promise<void> => {
		follow();
		if (engine.stroking) engine.end();
		await reopened();
		said = [];
		taken = 0;
	};
	const reopened = async (): Promise<void> => {
		const { project, tiles } = engine.whole();
		const meshes = new Map(
			project.models.flatMap((model) => {
				const scene = engine.scene(model.id);
				return scene ? [[model.id, scene.mesh] as const] : [];
			}),
		);
		const next = openEngine(engine.kernels, project, tiles, meshes);
		engine.close();
		engine = next;
	};

	/** Another browser paints a tile of the same project at the same time. */
	const otherHand = async (): Promise<{ readonly project: string; readonly layer: string }> => {
		const at = `${server.url}/api/projects/${project}`;
		const bytes = new Uint8Array(await (await fetch(at)).arrayBuffer());
		const { head } = readPack<{ project: Project; revision: number }>(bytes);
		const layer = head.project.sheets
			.find((sheet) => sheet.id === SHEET)
			?.layers.findLast((each) => each.kind === 'paint');
		if (layer?.kind !== 'paint') throw new Error('no paint layer');
		const value = (1 | (2 << 8) | (3 << 16) | (255 << 24)) >>> 0;
		const tile = { surface: layer.surface, index: 0, count: 1, value, hash: null, blob: null };
		const save = `other-${Date.now()}-${chance.below(1e6)}`;
		const answer = await fetch(`${at}/revisions/${head.revision + 1}`, {
			method: 'PUT',
			headers: { 'Content-Type': 'application/octet-stream' },
			body: writePack({ head: { project: head.project, save }, tiles: [tile] }),
		});
		if (!answer.ok) throw new Error(await answer.text());
		return { project, layer: layer.id };
	};
	/**
	 * Steps of this visit that can be taken back: a stroke may have changed nothing, and what the page did again from its
	 * journal could be taken back there, but is no step here.
	 */
	const stepsHere = async (): Promise<number> => {
		await new Promise((settled) => setTimeout(settled, 30));
		follow();
		return engine.history.done.length;
	};
	/** A step taken back needs history, which a new visit does not have: it outlives the tab once it is packed. */
	const packed = async (now: Page): Promise<void> => {
		await expect(now.locator('[data-keeping]')).toHaveAttribute('data-words', 'false', { timeout: 20_000 });
	};
	const act = async (now: Page): Promise<string> => {
		const box = await now.locator('[data-view="sheet"]').boundingBox();
		if (!box) throw new Error('no sheet view');
		const what = chance.below(10);
		if (what === 0 && (await stepsHere()) > 0) {
			await now.keyboard.press('Control+z');
			await packed(now);
			return 'undo';
		}
		if (what === 1) {
			// A layer of this sheet goes, and comes back.
			await now.keyboard.press('Shift+Delete');
			await now.waitForTimeout(chance.below(500));
			await now.keyboard.press('Control+z');
			await packed(now);
			return 'delete and undo';
		}
		// A colour of the palette, so that strokes over strokes change something.
		await now.keyboard.press(String(1 + chance.below(8)));
		const [u, v] = [0.25 + chance.below(40) / 100, 0.25 + chance.below(45) / 100];
		await now.mouse.move(box.x + u * box.width, box.y + v * box.height);
		await now.mouse.down();
		await now.mouse.move(box.x + (u + 0.12) * box.width, box.y + (v + 0.02) * box.height, { steps: 2 });
		await now.mouse.up();
		return 'stroke';
	};

	return {
		async round(fault, other = fault === 'other-hand') {
			let now = await visit();
			const done: string[] = [other && fault !== 'other-hand' ? `${fault} and another hand` : fault];
			if (fault === 'offline') await context.setOffline(true);
			if (fault === 'disk-full') {
				await server.stop();
				await server.start({ EPPU_MOST_MB: '1' });
			}
			const others = other && fault !== 'disk-full' ? await otherHand() : null;
			if (fault === 'quota') {
				const session = await context.newCDPSession(now);
				await session.send('Storage.overrideQuotaForOrigin', { origin: server.url, quotaSize: 1 });
				await session.detach();
			}
			follow();
			const before = engine.history.done.length + engine.history.undone.length;
			const count = 2 + chance.below(5);
			const at = chance.below(count);
			for (let i = 0; i < count; i++) {
				done.push(await act(now));
				if (i !== at) {
					await now.waitForTimeout(chance.below(900));
					continue;
				}
				if (fault === 'server-killed') await server.kill();
				if (fault === 'server-stopped') await server.stop();
				if (fault === 'crash') {
					await now.waitForTimeout(chance.below(300));
					known(now);
					await crash(now);
					break;
				}
				if (fault === 'close') {
					known(now);
					await now.close();
					break;
				}
				if (fault === 'reload') {
					await now.reload();
					break;
				}
			}
			// "Kept" is never said of what is not.
			if (!now.isClosed() && fault !== 'reload') {
				await now.waitForTimeout(chance.below(700));
				const state = await now.locator('[data-keeping]').getAttribute('data-keeping');
				if (state === 'kept' && !others) {
					await new Promise((settled) => setTimeout(settled, 20));
					follow();
					if (Buffer.compare(pixels(await engineOf(server.data, project)), pixels(engine)) !== 0)
						throw new Error(`"Kept" was false: ${done.join(', ')}`);
				}
			}
			if (fault === 'offline') await context.setOffline(false);
			if (fault === 'server-killed' || fault === 'server-stopped') await server.start();
			if (fault === 'disk-full') {
				await server.stop();
				await server.start();
			}
			if (fault === 'quota') {
				const session = await context.newCDPSession(now);
				await session.send('Storage.overrideQuotaForOrigin', { origin: server.url });
				await session.detach();
			}
			if (fault === 'crash' || fault === 'close' || fault === 'reload') {
				await forget();
				if (fault === 'reload') page = now;
				else page = null;
			}
			now = await visit();
			await expect(now.locator('[data-view="sheet"]')).toBeVisible({ timeout: 20_000 });
			await now.waitForTimeout(500);
			// It may go by itself while it is being clicked.
			const again = now.getByRole('button', { name: 'Try now' });
			if (await again.isVisible()) await again.click({ timeout: 2000 }).catch(() => undefined);
			await expect(now.locator('[data-keeping]')).toHaveAttribute('data-keeping', 'kept', { timeout: 30_000 });
			follow();
			known(now);
			if (others) {
				// Strokes that all change nothing make no save, and so part from nobody.
				const still = engine.history.done.length + engine.history.undone.length === before;
				const stays = !['crash', 'close', 'reload'].includes(fault);
				const strokesOnly = stays && done.slice(1).every((each) => each === 'stroke');
				if (project === others.project && !(still && strokesOnly))
					throw new Error(`another hand was painted over: ${done.join(', ')}`);
				const theirs = await engineOf(server.data, others.project);
				if (theirs.sample(SHEET, 3, 3, others.layer).join() !== '1,2,3,255')
					throw new Error(`what another hand painted is gone: ${done.join(', ')}`);
				theirs.close();
			}
			const kept = await engineOf(server.data, project);
			const fits = Buffer.compare(pixels(kept), pixels(engine)) === 0;
			kept.close();
			if (!fits) throw new Error(`what is kept is not what was painted: ${done.join(', ')}`);
			return done.join(', ');
		},
		async close() {
			await page?.close().catch(() => undefined);
			engine.close();
		},
	};
}
