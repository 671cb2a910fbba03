/** The running app, for rows that are measured in it. */
import { spawn } from 'node:child_process';
import { fileURLToPath } from 'node:url';
import { type Browser, chromium } from '@playwright/test';

/** Serves a data file by the built server, and opens a browser; both end with `use`. */
export async function inBrowser<T>(
	file: string,
	port: number,
	use: (browser: Browser, url: string) => Promise<T>,
): Promise<T> {
	const url = `http://127.0.0.1:${port}`;
	const server = spawn(process.execPath, [fileURLToPath(new URL('../apps/server/dist/main.js', import.meta.url))], {
		env: { ...process.env, EPPU_DATA: file, EPPU_PORT: String(port) },
		stdio: 'ignore',
	});
	const browser = await chromium.launch({
		executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium',
		args: ['--no-sandbox', '--disable-gpu', '--enable-unsafe-swiftshader', '--disable-background-networking'],
	});
	try {
		for (let i = 0; i < 100; i++) {
			if (
				await fetch(`${url}/api/health`)
					.then((r) => r.ok)
					.catch(() => false)
			)
				break;
			await new Promise((done) => setTimeout(done, 100));
		}
		return await use(browser, url);
	} finally {
		await browser.close();
		server.kill('SIGKILL');
	}
}
