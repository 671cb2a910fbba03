import { randomBytes } from 'node:crypto';
import { mkdirSync } from 'node:fs';
import { createServer } from 'node:http';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { pino } from 'pino';
import { createApp } from './http/app.ts';
import { dataFile, openStore } from './store/index.ts';

const here = dirname(fileURLToPath(import.meta.url));
const host = process.env.EPPU_HOST ?? '127.0.0.1';
const port = Number(process.env.EPPU_PORT ?? 4310);
const loopback = ['127.0.0.1', '::1', 'localhost'].includes(host);
const token = loopback ? null : (process.env.EPPU_TOKEN ?? randomBytes(24).toString('base64url'));
const log = pino({ level: process.env.EPPU_LOG ?? 'warn' });

const file = dataFile();
mkdirSync(dirname(file), { recursive: true });
const store = openStore(file, join(here, '../drizzle'));
store.sweep();

const app = createApp({
	store,
	site: join(here, '../../web/dist'),
	hosts: loopback
		? ['127.0.0.1', 'localhost', '::1']
		: [host.toLowerCase(), ...(process.env.EPPU_NAMES ?? '').split(',').filter(Boolean)],
	token,
	log: (error) => log.error(error),
});
const server = createServer(app);
server.on('error', (error: NodeJS.ErrnoException) => {
	console.error(
		error.code === 'EADDRINUSE' ? `Port ${port} is taken. Stop what uses it, or set EPPU_PORT.` : error.message,
	);
	process.exit(1);
});
server.listen(port, host, () => console.log(`Eppu is ready: http://${host}:${port}/${token ? `?token=${token}` : ''}`));
for (const signal of ['SIGINT', 'SIGTERM'] as const)
	process.on(signal, () => {
		server.close();
		store.close();
		process.exit(0);
	});
