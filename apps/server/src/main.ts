import { randomBytes } from 'node:crypto';
import { mkdirSync, readFileSync } from 'node:fs';
import { createServer } from 'node:http';
import { createServer as createSecureServer } from 'node:https';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { pino } from 'pino';
import { exchangeFolder, exchangePath } from './exchange/folder.ts';
import { createApp } from './http/app.ts';
import { dataFile, openStore } from './store/index.ts';

const here = dirname(fileURLToPath(import.meta.url));
const host = process.env.EPPU_HOST ?? '127.0.0.1';
const port = Number(process.env.EPPU_PORT ?? 4310);
const loopback = ['127.0.0.1', '::1', 'localhost'].includes(host);
if (!loopback && process.env.EPPU_TOKEN?.trim() === '') {
	console.error('EPPU_TOKEN is empty, which would let everybody in. Give it a value, or leave it out and one is made.');
	process.exit(1);
}
const token = loopback ? null : (process.env.EPPU_TOKEN ?? randomBytes(24).toString('base64url'));
const { EPPU_KEY, EPPU_CERT } = process.env;
const log = pino({ level: process.env.EPPU_LOG ?? 'warn' });

const file = dataFile();
mkdirSync(dirname(file), { recursive: true });
const store = openStore(file, join(here, '../drizzle'));
store.sweep();
// A limit for the data file, where the disk is shared with others.
if (process.env.EPPU_MOST_MB) store.limitTo(Number(process.env.EPPU_MOST_MB) * 1024 * 1024);

const logged = (error: unknown): void => log.error(error);
const exchange = exchangeFolder(store, exchangePath(file), logged);
const app = createApp({
	store,
	exchange,
	site: join(here, '../../web/dist'),
	hosts: loopback
		? ['127.0.0.1', 'localhost', '::1']
		: [host.toLowerCase(), ...(process.env.EPPU_NAMES ?? '').split(',').filter(Boolean)],
	token,
	log: logged,
});
const tls = EPPU_KEY && EPPU_CERT ? { key: readFileSync(EPPU_KEY), cert: readFileSync(EPPU_CERT) } : null;
const server = tls ? createSecureServer(tls, app) : createServer(app);
server.on('error', (error: NodeJS.ErrnoException) => {
	console.error(
		error.code === 'EADDRINUSE' ? `Port ${port} is taken. Stop what uses it, or set EPPU_PORT.` : error.message,
	);
	process.exit(1);
});
const address = `${tls ? 'https' : 'http'}://${host.includes(':') ? `[${host}]` : host}:${port}/`;
server.listen(port, host, () => {
	console.log(`Eppu is ready: ${address}${token ? `?token=${encodeURIComponent(token)}` : ''}`);
	if (!loopback && !tls)
		console.log(
			'Browsers on other machines paint only over https: give EPPU_KEY and EPPU_CERT the files of a key and its certificate.',
		);
});
// A server that runs for weeks lets go of what is old, too.
setInterval(() => store.sweep(), 24 * 3600 * 1000).unref();
for (const signal of ['SIGINT', 'SIGTERM'] as const)
	process.on(signal, () => {
		exchange.stop();
		server.close();
		store.close();
		process.exit(0);
	});
