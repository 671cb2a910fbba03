/** What opening the demo's hive costs in the running app: from the page's scripts to everything shown, nothing left to compute. */
import { execFileSync } from 'node:child_process';
import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { inBrowser } from './browser.ts';
import { undisturbedOf } from './measure.ts';
import type { Report } from './rows.ts';

/** Seconds that the second visit may take. */
const MOST_SECOND = 1.2;
/** Second visits that are looked at. */
const VISITS = 15;

export async function openRows(report: Report): Promise<void> {
	const file = join(mkdtempSync(join(tmpdir(), 'eppu-open-')), 'open.db');
	const root = fileURLToPath(new URL('..', import.meta.url));
	execFileSync('npx', ['--no-install', 'tsx', 'demo/seed.ts', file], { cwd: root, stdio: 'ignore' });
	await inBrowser(file, 4901, async (browser, url) => {
		const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
		const visit = async (): Promise<number> => {
			await page.goto('about:blank');
			await page.goto(`${url}/project/demo-hive/paint`);
			await page.waitForFunction(() => document.documentElement.dataset.settled !== undefined, undefined, {
				timeout: 60_000,
				polling: 10,
			});
			return page.evaluate(() => {
				const [entry] = performance.getEntriesByType('navigation') as PerformanceNavigationTiming[];
				return performance.now() - (entry?.domContentLoadedEventEnd ?? 0);
			});
		};
		const first = await visit();
		await report(
			'open.hive.first',
			async () => first,
			null,
			`${(first / 1000).toFixed(2)} s, with what the server keeps`,
		);
		// What was computed is put down when the hand rests.
		await page.waitForTimeout(5000);
		const visits: number[] = [];
		while (visits.length < VISITS) visits.push(await visit());
		const middle = [...visits].sort((a, b) => a - b)[VISITS >> 1] as number;
		await report(
			'open.hive.second',
			async () => undisturbedOf(visits),
			{ ms: MOST_SECOND * 1000 },
			`of ${VISITS} visits; the middle one ${(middle / 1000).toFixed(2)} s`,
		);
	});
}
