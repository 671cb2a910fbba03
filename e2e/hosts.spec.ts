/** The server for others: no empty token, https where a key is given, and a page that says what is missing. */
import { spawnSync } from 'node:child_process';
import { join } from 'node:path';
import { expect, test } from '@playwright/test';
import sharp from 'sharp';
import { deskOf, settled } from './artist.ts';
import { root, runFile } from './paths.ts';
import { createServer } from './server.ts';

test('an empty token is no token: the server does not start for others, and says why', () => {
	const ran = spawnSync(process.execPath, [join(root, 'apps/server/dist/main.js')], {
		env: { ...process.env, EPPU_HOST: '0.0.0.0', EPPU_TOKEN: '', EPPU_DATA: runFile('hosts.db'), EPPU_PORT: '0' },
		timeout: 20_000,
		encoding: 'utf8',
	});
	expect(ran.status).toBe(1);
	expect(ran.stderr).toContain('EPPU_TOKEN is empty');
});

test('with a key and a certificate it is asked over https', async ({ browser }) => {
	const [key, cert] = [runFile('key.pem'), runFile('cert.pem')];
	const made = spawnSync('openssl', [
		'req',
		'-x509',
		'-newkey',
		'rsa:2048',
		'-nodes',
		'-keyout',
		key,
		'-out',
		cert,
		'-days',
		'2',
		'-subj',
		'/CN=localhost',
	]);
	test.skip(made.status !== 0, 'no openssl here to make a certificate with');
	const server = createServer('https');
	await server.start({ EPPU_KEY: key, EPPU_CERT: cert });
	const context = await browser.newContext({ ignoreHTTPSErrors: true });
	const page = await context.newPage();
	await page.goto(`${server.url}/project/demo-hive/paint`);
	await settled(page);
	await expect(page.locator('[data-view="model"]')).toBeVisible();
	await context.close();
	await server.kill();
});

test('where the browser gives no secure context the page says so, and how to get one', async ({ page }) => {
	const server = createServer('insecure');
	await server.start();
	await page.addInitScript(() => Object.defineProperty(window, 'isSecureContext', { get: () => false }));
	await page.goto(`${server.url}/project/demo-hive/paint`);
	await expect(page.getByRole('heading', { name: 'This browser does not trust the address' })).toBeVisible();
	await expect(page.getByRole('alert')).toContainText('EPPU_KEY');
	await server.kill();
});

test('a photograph held upright is a guide of its own shape', async ({ page }) => {
	const server = createServer('upright');
	await server.start();
	const photo = await sharp({ create: { width: 320, height: 200, channels: 3, background: '#808080' } })
		.withMetadata({ orientation: 6 })
		.jpeg()
		.toBuffer();
	await page.goto(server.url);
	await page.getByLabel('Model or picture').setInputFiles({ name: 'photo.jpg', mimeType: 'image/jpeg', buffer: photo });
	await expect(page.getByRole('dialog')).toContainText('200 by 320 px');
	await page.getByRole('button', { name: 'Begin painting' }).click();
	await settled(page);
	await expect(page.getByTitle(/200 by 320 texels/)).toBeVisible();
	expect(await deskOf(page, /project\/([^/]+)/.exec(page.url())?.[1] ?? '')).toBeDefined();
	await server.kill();
});
