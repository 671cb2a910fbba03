/** What it takes from another editor's saving to what the page says of it: a sheet with its layers, out and back. */
import { execFileSync } from 'node:child_process';
import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { standIn } from '../apps/cli/src/standIn.ts';
import { inBrowser } from './browser.ts';
import type { Report } from './rows.ts';

/** Milliseconds that a saving may take to be here. */
const MOST = 1000;
const SAVINGS = 12;

export async function exchangeRows(report: Report): Promise<void> {
	const folder = mkdtempSync(join(tmpdir(), 'eppu-exchange-'));
	const file = join(folder, 'exchange.db');
	const root = fileURLToPath(new URL('..', import.meta.url));
	execFileSync('npx', ['--no-install', 'tsx', 'demo/seed.ts', file], { cwd: root, stdio: 'ignore' });
	await inBrowser(file, 4902, async (browser, url) => {
		for (const project of ['smoker', 'hive']) {
			const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
			if (process.env.TIMES) page.on('console', (_m) => {});
			await page.goto(`${url}/project/demo-${project}/paint`);
			await page.waitForFunction(() => document.documentElement.dataset.settled !== undefined, undefined, {
				timeout: 60_000,
			});
			await page.keyboard.press('Control+k');
			await page.keyboard.type('Send the sheet with its layers');
			await page.keyboard.press('Enter');
			const said = await page.getByText(/ is in the exchange folder/).textContent({ timeout: 60_000 });
			const name = /^(\S+\.ora) is in/.exec(said ?? '')?.[1] ?? '';
			// The words of each saving are counted as they appear.
			await page.evaluate(() => {
				const told: number[] = [];
				Object.assign(window, { told });
				let last = '';
				new MutationObserver(() => {
					const all = [...document.querySelectorAll('[data-sonner-toast]')].filter((each) =>
						each.textContent?.includes('was saved elsewhere'),
					);
					const now = all.map((each) => each.getAttribute('data-index')).join();
					if (all.length && now !== last) told.push(Date.now());
					last = now;
				}).observe(document.body, { childList: true, subtree: true, attributes: true });
			});
			const times: number[] = [];
			for (let seed = 1; times.length < SAVINGS && seed <= 2 * SAVINGS; seed++) {
				await page.waitForFunction(() => !document.querySelector('[data-sonner-toast]'), undefined, {
					timeout: 30_000,
				});
				await page.evaluate(() => void ((window as unknown as { told: number[] }).told.length = 0));
				await standIn({ file: join(folder, 'exchange', name), way: 'rename', seed, keeps: true });
				const saved = Date.now();
				const told = await page
					.waitForFunction(() => (window as unknown as { told: number[] }).told[0], undefined, {
						timeout: 6000,
						polling: 20,
					})
					.then((found) => found.jsonValue())
					.catch(() => null);
				// A mask that was full where it is painted is no other: nothing is said of it.
				if (told) times.push(told - saved);
				else if (process.env.TIMES) console.log(`nothing said of ${seed}`);
			}
			const sorted = [...times].sort((a, b) => a - b);
			await report(
				`exchange.${project}`,
				async () => Math.max(...times),
				{ ms: MOST },
				`the slowest of ${SAVINGS} savings; the first ${times[0]} ms, the middle one ${sorted[SAVINGS >> 1]} ms`,
			);
			if (process.env.TIMES) console.log(times.join(' '));
			await page.close();
		}
	});
}
