import { type ChildProcess, spawn } from 'node:child_process';
import { copyFileSync, rmSync } from 'node:fs';
import { get } from 'node:http';
import { get as secureGet } from 'node:https';
import { join } from 'node:path';
import { root, runFile, seedFile } from './paths.ts';

/** The built server as a process of its own, on a data file of its own. */
export interface TestServer {
	readonly url: string;
	readonly data: string;
	/** With settings of its own, such as EPPU_MOST_MB. */
	start(settings?: Readonly<Record<string, string>>): Promise<void>;
	/** SIGTERM: it stops as it is meant to. */
	stop(): Promise<void>;
	/** SIGKILL: nothing is said, nothing is closed. */
	kill(): Promise<void>;
}

// Workers of one run each have ports of their own.
/** Whether a server answers, over http or, whoever signed its certificate, https. */
const isUp = (url: string): Promise<boolean> =>
	new Promise((resolve) => {
		const ask = url.startsWith('https:')
			? secureGet(url, { rejectUnauthorized: false }, (answer) => resolve(answer.resume().statusCode === 200))
			: get(url, (answer) => resolve(answer.resume().statusCode === 200));
		ask.on('error', () => resolve(false));
	});

let nextPort = 4400 + Number(process.env.TEST_PARALLEL_INDEX ?? 0) * 300 + (process.pid % 200);

export function createServer(name: string): TestServer {
	const port = nextPort++;
	// Each worker that runs a file has a server and a data file of its own.
	const data = runFile(`${name}-${process.env.TEST_WORKER_INDEX ?? 0}.db`);
	// A server that was killed left its log beside the file: read with another file it would spoil that.
	for (const end of ['-wal', '-shm']) rmSync(data + end, { force: true });
	copyFileSync(seedFile, data);
	let url = `http://127.0.0.1:${port}`;
	let child: ChildProcess | null = null;
	const end = async (signal: 'SIGKILL' | 'SIGTERM'): Promise<void> => {
		const dying = child;
		child = null;
		if (!dying || dying.exitCode !== null) return;
		const gone = new Promise((done) => dying.once('exit', done));
		dying.kill(signal);
		await gone;
	};
	return {
		get url() {
			return url;
		},
		data,
		async start(settings = {}) {
			child = spawn(process.execPath, [join(root, 'apps/server/dist/main.js')], {
				env: { ...process.env, EPPU_DATA: data, EPPU_PORT: String(port), ...settings },
				stdio: ['ignore', 'ignore', 'inherit'],
			});
			if (settings.EPPU_KEY) url = url.replace('http:', 'https:');
			for (let i = 0; i < 100; i++) {
				const up = await isUp(`${url}/api/health`);
				if (up) return;
				await new Promise((done) => setTimeout(done, 100));
			}
			throw new Error('the server did not start');
		},
		kill: () => end('SIGKILL'),
		stop: () => end('SIGTERM'),
	};
}
