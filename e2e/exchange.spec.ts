/** The exchange folder under a server that is killed again and again, with the stand-in editor saving in all its ways. */
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { encodePng } from '@eppu/core/format';
import { loadPngWriter } from '@eppu/kernels/node';
import { expect, test } from '@playwright/test';
import { savingWays, standIn } from '../apps/cli/src/standIn.ts';
import { createServer } from './server.ts';

/** More of them in the long run. */
const SAVINGS = Number(process.env.SAVINGS ?? 12);
const SEED = Number(process.env.SEED ?? 7);
const PROJECT = 'demo-smoker';

interface Out {
	readonly id: string;
	readonly file: string;
	readonly waiting: readonly number[];
}

const pause = (ms: number): Promise<void> => new Promise((done) => setTimeout(done, ms));
/** Numbers from 0 to below 1 that follow from a seed (G. Marsaglia, "Xorshift RNGs", 2003). */
function chances(seed: number): () => number {
	let state = seed * 2654435761 || 1;
	return () => {
		state ^= state << 13;
		state ^= state >>> 17;
		state ^= state << 5;
		return (state >>> 0) / 2 ** 32;
	};
}

test(`${SAVINGS} savings with the server killed in between: each is taken in once, none is lost, in their order`, async () => {
	test.setTimeout(60_000 + SAVINGS * 5000);
	const server = createServer('exchange');
	const folder = mkdtempSync(join(tmpdir(), 'eppu-out-'));
	const start = (): Promise<void> => server.start({ EPPU_EXCHANGE: folder });
	const random = chances(SEED);
	const api = `${server.url}/api/exchange`;
	const states = async (): Promise<readonly Out[]> =>
		((await (await fetch(`${api}/projects/${PROJECT}`)).json()) as { out: readonly Out[] }).out;
	/** Savings as they were taken in, by their numbers: one that comes again under its number is known. */
	const taken = new Map<number, string>();
	const hex = (bytes: Uint8Array): string => Buffer.from(bytes).toString('hex');
	let kills = 0;
	const kill = async (): Promise<void> => {
		kills++;
		await server.kill();
	};
	/** Takes in what waits, as a page does; the server may die between the bytes and the word that they are taken. */
	const take = async (): Promise<void> => {
		for (const { id, waiting } of await states())
			for (const n of waiting) {
				const bytes = hex(new Uint8Array(await (await fetch(`${api}/${id}/savings/${n}`)).arrayBuffer()));
				if (taken.has(n)) expect(bytes).toBe(taken.get(n));
				taken.set(n, bytes);
				if (random() < 0.12) {
					await kill();
					await start();
				}
				await fetch(`${api}/${id}/savings/${n}/taken`, { method: 'POST' });
			}
	};
	await start();
	try {
		const write = await loadPngWriter();
		const picture = { width: 64, height: 64, data: new Uint8Array(64 * 64 * 4).fill(200) };
		const sent = await fetch(`${api}/projects/${PROJECT}?name=coat.png&what=${encodeURIComponent('{"of":"layer"}')}`, {
			method: 'POST',
			headers: { 'Content-Type': 'application/octet-stream' },
			body: new Blob([encodePng(write, picture).slice()]),
		});
		expect(sent.status).toBe(201);
		const { file } = (await sent.json()) as Out;
		const place = join(folder, file);
		// What is no part of it lies beside it, and is none of the server's business.
		writeFileSync(join(folder, 'notes.txt'), 'not ours');
		const want: string[] = [];
		for (let seed = 1; seed <= SAVINGS; seed++) {
			const way = savingWays[Math.floor(random() * savingWays.length)] as (typeof savingWays)[number];
			const when = random();
			const saving = standIn({ file: place, way, seed, keeps: true });
			// While it is being saved, or before it was looked at.
			if (when < 0.3) {
				await pause(random() * 250);
				await kill();
			}
			want.push(hex(await saving));
			if (when < 0.3) {
				await pause(random() * 200);
				await start();
			}
			/** The next saving over it comes once the server has this one: what stood there for a moment only nobody could see. */
			const kept = async (): Promise<boolean> =>
				(await states()).some(({ waiting }) => waiting.length + taken.size === want.length);
			await expect.poll(kept, { timeout: 15_000, intervals: [100] }).toBe(true);
			if (random() < 0.15) {
				await kill();
				await start();
			}
			if (random() < 0.6) await take();
		}
		await take();
		expect([...taken.entries()].sort(([a], [b]) => a - b).map(([, bytes]) => bytes)).toEqual(want);
		expect((await states()).map(({ waiting }) => waiting)).toEqual([[]]);
		expect(kills).toBeGreaterThan(SAVINGS / 6);
	} finally {
		await server.kill();
		rmSync(folder, { recursive: true, force: true });
	}
});
