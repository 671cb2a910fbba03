import { type ChildProcess, spawn } from 'node:child_process';
import { copyFileSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { root, runFile, seedFile } from './paths.ts';

/** The built server as a process of its own, on a data file of its own. */
export interface TestServer {
	readonly url: string;
	readonly data: string;
	start(): Promise<void>;
	/** SIGKILL: nothing is said, nothing is closed. */
	kill(): Promise<void>;
}

let nextPort = 4400 + (process.pid % 500);

export function createServer(name: string): TestServer {
	const port = nextPort++;
	const data = runFile(`${name}.db`);
	// A server that was killed left its log beside the file: read with another file it would spoil that.
	for (const end of ['-wal', '-shm']) rmSync(data + end, { force: true });
	copyFileSync(seedFile, data);
	const url = `http://127.0.0.1:${port}`;
	let child: ChildProcess | null = null;
	return {
		url,
		data,
		async start() {
			child = spawn(process.execPath, [join(root, 'apps/server/dist/main.js')], {
				env: { ...process.env, EPPU_DATA: data, EPPU_PORT: String(port) },
				stdio: 'inherit',
			});
			for (let i = 0; i < 100; i++) {
				const up = await fetch(`${url}/api/health`).then(
					(r) => r.ok,
					() => false,
				);
				if (up) return;
				await new Promise((done) => setTimeout(done, 100));
			}
			throw new Error('the server did not start');
		},
		async kill() {
			const dying = child;
			child = null;
			if (!dying || dying.exitCode !== null) return;
			const gone = new Promise((done) => dying.once('exit', done));
			dying.kill('SIGKILL');
			await gone;
		},
	};
}
