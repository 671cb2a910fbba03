/** Pen move to new picture in the running app: 2048², ten painted layers, model and sheet shown, in Chromium. */
import { createHash } from 'node:crypto';
import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { apiaryPalette } from '@eppu/core/color';
import { emptyDesk, type Project, paintLayer, type Sheet, washLayer } from '@eppu/core/document';
import { openEngine } from '@eppu/core/engine';
import { toneBake } from '@eppu/core/light';
import { meshBounds, writeGlb } from '@eppu/core/mesh';
import { framing, homeCamera } from '@eppu/core/projection';
import { presets } from '@eppu/core/recipe';
import type { Kernels } from '@eppu/kernels';
import { openSourceStore, packDelta } from '@eppu/server/store';
import { inBrowser } from './browser.ts';
import { benchMesh, benchStack } from './scenes.ts';

export interface InputTimes {
	/** Milliseconds from a pointer move to its patch in the page, and to the frame that shows it: 95th of a hundred. */
	readonly engine: number;
	readonly shown: number;
	/** Median time between frames while nothing is painted. */
	readonly frame: number;
	/** The longest time between two frames while strokes are made. */
	readonly longest: number;
	readonly moves: number;
}

const SIZE = 2048;
const quantile = (list: number[], share: number): number =>
	[...list].sort((a, b) => a - b)[Math.min(list.length - 1, Math.floor(list.length * share))] as number;

/** A sheet whose masks take the pool many seconds: nothing of it is kept beforehand. */
const busySheet = (): Sheet => {
	const steps = presets.find(({ name }) => name === 'Hand dirt')?.steps ?? [];
	return {
		...{ id: 'busy', name: 'Busy', width: 4096, height: 4096, bleed: 16, base: null, guide: null },
		layers: Array.from({ length: 12 }, (_, i) =>
			washLayer(`w${i}`, `Wash ${i}`, '#a8452b', {
				mask: {
					surface: `w${i}m`,
					on: true,
					recipe: steps.map((step) => ('seed' in step ? { ...step, seed: i } : step)),
				},
			}),
		),
	};
};

/** What the pool does while strokes are made: nothing, masks of another sheet, or bakes of the very sheet. */
export type Meanwhile = 'nothing' | 'masks' | 'bakes';

/** Bakes that take the pool many seconds. */
const longBakes = [
	toneBake('occlusion', 'Occlusion', 'occlusion', { rays: 512, reach: 40 }),
	toneBake('thickness', 'Thickness', 'thickness', { rays: 512 }),
];

async function makeProject(kernels: Kernels, file: string, meanwhile: Meanwhile): Promise<void> {
	const mesh = benchMesh();
	const bytes = await writeGlb(mesh);
	const { layers, pictures } = benchStack(kernels, SIZE, 'painted');
	const project: Project = {
		schema: 1,
		id: 'bench',
		name: 'Bench',
		palette: apiaryPalette,
		models: [
			{
				id: 'm',
				name: 'Figure',
				asset: { hash: createHash('sha256').update(bytes).digest('hex'), name: 'figure.glb' },
				parts: mesh.parts.map((part) => ({ name: part.name, sheet: 's', shown: true })),
			},
		],
		sheets: [
			{
				id: 's',
				name: 'Sheet',
				width: SIZE,
				height: SIZE,
				bleed: 16,
				base: null,
				guide: null,
				layers: layers.map(({ mode, opacity, clip, mask }, i) =>
					paintLayer(`l${i}`, `Layer ${i}`, {
						mode,
						opacity,
						clip,
						mask: mask ? { surface: `l${i}m`, on: true } : null,
					}),
				),
			},
		],
	};
	const engine = openEngine(kernels, project, [], new Map([['m', mesh]]));
	pictures.forEach(({ rgba, mask }, i) => {
		engine.lay('s', `l${i}`, 'color', { width: SIZE, height: SIZE, data: rgba }, 'Bench');
		if (mask) engine.lay('s', `l${i}`, 'mask', { width: SIZE, height: SIZE, data: mask }, 'Bench');
	});
	if (meanwhile === 'masks') Object.assign(project, { sheets: [...project.sheets, busySheet()] });
	if (meanwhile === 'bakes')
		Object.assign(project, { models: project.models.map((model) => ({ ...model, bakes: longBakes })) });
	const store = openSourceStore(file);
	const { center, radius } = meshBounds(mesh);
	const delta = engine.takeDelta();
	if (delta) {
		const tiles = packDelta(delta);
		const desk = {
			...emptyDesk,
			sheet: 's',
			layers: { s: 'l8' },
			camera: framing({ ...homeCamera, yaw: 20, pitch: 10 }, center, radius, 1, 1),
			tip: { ...emptyDesk.tip, size: 48 },
		};
		store.create(project, [{ name: 'figure.glb', bytes }], { desk, tiles });
	}
	store.close();
	engine.close();
}

/** Notes in the page when moves are sent, when their patches come, and when the next frame has been drawn. */
const watch = (): void => {
	const sent: number[] = [];
	const times = { engine: [] as number[], shown: [] as number[], frames: [] as number[] };
	(window as unknown as { times: typeof times }).times = times;
	const post = Worker.prototype.postMessage;
	const heard = new WeakSet<Worker>();
	Worker.prototype.postMessage = function (this: Worker, message: { say?: string }, transfer?: unknown) {
		if (message?.say === 'extend') {
			sent.push(performance.now());
			if (!heard.has(this)) {
				heard.add(this);
				this.addEventListener('message', (event: MessageEvent<{ say?: string }>) => {
					const from = sent.shift();
					if (event.data?.say !== 'patch' || from === undefined) {
						if (from !== undefined) sent.unshift(from);
						return;
					}
					times.engine.push(performance.now() - from);
					requestAnimationFrame(() => setTimeout(() => times.shown.push(performance.now() - from)));
				});
			}
		}
		return (post as (message: unknown, transfer?: unknown) => void).call(this, message, transfer);
	};
	let last = 0;
	const frame = (now: number): void => {
		if (last) times.frames.push(now - last);
		last = now;
		requestAnimationFrame(frame);
	};
	requestAnimationFrame(frame);
};

/** While the pool has nothing to do, or more than it can in that time. */
export async function inputTimes(kernels: Kernels, meanwhile: Meanwhile = 'nothing'): Promise<InputTimes> {
	const file = join(mkdtempSync(join(tmpdir(), 'eppu-bench-')), 'bench.db');
	await makeProject(kernels, file, meanwhile);
	const busy = meanwhile !== 'nothing';
	return inBrowser(file, 4900, async (browser, url) => {
		const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
		// The script runner names functions through this helper, which the page does not have.
		await page.addInitScript('globalThis.__name = (f) => f');
		await page.addInitScript(watch);
		await page.goto(`${url}/project/bench/paint`);
		if (busy) await page.getByText(/^Computing /).waitFor();
		else
			await page.waitForFunction(() => document.documentElement.dataset.settled !== undefined, undefined, {
				timeout: 60_000,
			});
		await page.waitForTimeout(2500);
		const frames = await page.evaluate(() =>
			(window as unknown as { times: { frames: number[] } }).times.frames.splice(0),
		);
		for (const view of ['model', 'sheet'] as const) {
			const box = await page.locator(`[data-view="${view}"]`).boundingBox();
			if (!box) throw new Error(`no ${view} view`);
			for (let k = 0; k < 4; k++) {
				const at = (t: number): [number, number] => [
					box.x + box.width * (0.36 + 0.28 * t),
					box.y + box.height * (0.4 + 0.06 * k + 0.05 * Math.sin(t * 7)),
				];
				await page.mouse.move(...at(0));
				await page.mouse.down();
				for (let i = 1; i <= 20; i++) {
					await page.mouse.move(...at(i / 20));
					await page.waitForTimeout(16);
				}
				await page.mouse.up();
				await page.waitForTimeout(400);
			}
		}
		if (busy && !(await page.getByText(/^Computing /).isVisible()))
			throw new Error('The pool was done before the strokes were.');
		const times = await page.evaluate(
			() => (window as unknown as { times: { engine: number[]; shown: number[]; frames: number[] } }).times,
		);
		return {
			engine: quantile(times.engine, 0.95),
			shown: quantile(times.shown, 0.95),
			frame: quantile(frames, 0.5),
			longest: Math.max(...times.frames),
			moves: times.engine.length,
		};
	});
}
