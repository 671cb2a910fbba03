/** A bundle of thousands of textures in the running app: the longest that the page stands still while it is looked through. */
import { createHash } from 'node:crypto';
import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { apiaryPalette } from '@eppu/core/color';
import { emptyDesk, type Project, paintLayer } from '@eppu/core/document';
import { openSourceStore } from '@eppu/server/store';
import { inBrowser } from './browser.ts';
import type { Report } from './rows.ts';

/** Ms that no frame may take. */
const LONGEST = 100;

/** Notes the longest time between two frames from now on; a text, since the compiler's own words are not known in the page. */
const watch = `
	var longest = 0, last = performance.now();
	requestAnimationFrame(function frame(now) {
		longest = Math.max(longest, now - last);
		last = now;
		requestAnimationFrame(frame);
	});
`;
/** What was noted, which begins anew. */
const noted = '[longest, (longest = 0)][0]';

export async function bundleRow(report: Report, zip: Uint8Array<ArrayBuffer>, textures: number): Promise<void> {
	const file = join(mkdtempSync(join(tmpdir(), 'eppu-bundle-')), 'bundle.db');
	const asset = { hash: createHash('sha256').update(zip).digest('hex'), name: 'set.zip' };
	const sheet = { id: 's', name: 'S', width: 16, height: 16, bleed: 0, base: null, guide: null, pixel: true };
	const project: Project = {
		schema: 1,
		id: 'bundle',
		name: 'Bundle',
		palette: apiaryPalette,
		bundle: asset,
		models: [],
		sheets: [{ ...sheet, layers: [paintLayer('p', 'P')] }],
	};
	const store = openSourceStore(file);
	store.create(project, [{ name: asset.name, bytes: zip }], { desk: { ...emptyDesk, sheet: 's' }, tiles: [] });
	store.close();
	await inBrowser(file, 4903, async (browser, url) => {
		const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
		const look = async (): Promise<number> => {
			await page.goto(`${url}/project/bundle/paint`);
			await page.waitForFunction(() => document.documentElement.dataset.settled !== undefined);
			await page.getByText(`${textures} of ${textures}`).waitFor();
			await page.waitForTimeout(1500);
			await page.evaluate(watch);
			const field = page.getByLabel('Look for textures');
			for (const words of ['1', '19', '199', '']) {
				await field.fill(words);
				await page.waitForTimeout(250);
			}
			const list = page.getByRole('button', { name: /\.png/ }).first();
			await list.hover();
			for (let i = 0; i < 12; i++) {
				await page.mouse.wheel(0, 4000);
				await page.waitForTimeout(60);
			}
			const listed = await page.evaluate<number>(noted);
			await page.getByRole('button', { name: 'All colours' }).click();
			await page.getByText(`in ${textures} textures`).first().waitFor();
			const counted = await page.evaluate<number>(noted);
			times.push([listed, counted]);
			return Math.max(listed, counted);
		};
		const times: [number, number][] = [];
		await report(
			'bundle.frame.2000',
			look,
			{ ms: LONGEST },
			'the longest frame, searching, scrolling, counting colours',
		);
		console.log(times.map((each) => each.map(Math.round).join(' / ')).join(', '), 'ms: listed / counted');
	});
}
