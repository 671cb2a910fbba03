import { mkdtempSync, readdirSync, readFileSync, renameSync, rmSync, unlinkSync, writeFileSync } from 'node:fs';
import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { encodePng, zipOf } from '@eppu/core/format';
import { loadPngWriter } from '@eppu/kernels/node';
import { afterEach, beforeAll, expect, test } from '@jest/globals';
import express from 'express';
import fc from 'fast-check';
import { exchangeFolder } from '../src/exchange/folder.ts';
import { createApp } from '../src/http/app.ts';
import { exchangeRoutes } from '../src/http/exchange.ts';
import { openSourceStore, type Store } from '../src/store/index.ts';
import { projectOf } from './fixture.ts';

let picture: (seed: number, side?: number) => Uint8Array;
beforeAll(async () => {
	const write = await loadPngWriter();
	picture = (seed, side = 8) =>
		encodePng(write, {
			width: side,
			height: side,
			data: new Uint8Array(side * side * 4).map((_, i) => (i * 31 + seed * 17) & 255),
		});
});

const ends: (() => void)[] = [];
afterEach(() => {
	for (const end of ends.splice(0)) end();
});

/** A folder over a store, looked at by hand: time goes on as the test says. */
function opened() {
	const place = mkdtempSync(join(tmpdir(), 'eppu-exchange-'));
	const file = join(place, 'data.db');
	const path = join(place, 'exchange');
	const project = { ...projectOf(), models: [] };
	let store: Store = openSourceStore(file);
	store.create(project, []);
	let now = 1_800_000_000_000;
	const begin = () => {
		const folder = exchangeFolder(store, path, (error) => {
			throw error;
		});
		folder.stop();
		return folder;
	};
	let folder = begin();
	return {
		path,
		project: project.id,
		get store() {
			return store;
		},
		get folder() {
			return folder;
		},
		/** Time goes on, with looks in between as the clock would take them. */
		pass(ms: number): void {
			for (const until = now + ms; now < until; ) folder.lookAtAll((now += 100));
		},
		/** The process ends without a word, and another begins over the same file. */
		kill(): void {
			store = openSourceStore(file);
			folder = begin();
		},
	};
}

test('random savings in every way, over killed servers: each waits once, in its order, whole', () => {
	fc.assert(
		fc.property(
			fc.array(
				fc.oneof(
					{
						weight: 6,
						arbitrary: fc.record({
							do: fc.constantFrom('in-place' as const, 'rename' as const, 'slow' as const, 'gone-first' as const),
							rest: fc.integer({ min: 300, max: 900 }),
						}),
					},
					{ weight: 1, arbitrary: fc.constant({ do: 'kill' as const, rest: 0 }) },
					{ weight: 1, arbitrary: fc.constant({ do: 'again' as const, rest: 400 }) },
					{ weight: 2, arbitrary: fc.constant({ do: 'take' as const, rest: 0 }) },
				),
				{ minLength: 1, maxLength: 30 },
			),
			(acts) => {
				const at = opened();
				const { id, file } = at.folder.send(at.project, { of: 'layer' }, 'coat.png', picture(0));
				const place = join(at.path, file);
				let seed = 0;
				const want: Buffer[] = [];
				const got: Buffer[] = [];
				const take = (): void => {
					for (const n of at.store.exchanges.waiting(id)) {
						got.push(at.store.exchanges.saving(id, n));
						at.folder.taken(id, n);
						// Said twice, it is still taken once.
						at.folder.taken(id, n);
					}
				};
				at.pass(400);
				for (const act of acts) {
					if (act.do === 'kill') at.kill();
					else if (act.do === 'take') take();
					else if (act.do === 'again') writeFileSync(place, readFileSync(place));
					else {
						const bytes = picture(++seed);
						want.push(Buffer.from(bytes));
						if (act.do === 'in-place') writeFileSync(place, bytes);
						if (act.do === 'rename') {
							writeFileSync(`${place}.tmp`, bytes);
							renameSync(`${place}.tmp`, place);
						}
						if (act.do === 'gone-first') {
							unlinkSync(place);
							at.pass(500);
							writeFileSync(place, bytes);
						}
						if (act.do === 'slow') {
							// It rests longer than a whole file would have to, and is not taken for one.
							writeFileSync(place, bytes.subarray(0, 50));
							at.pass(700);
							writeFileSync(place, bytes);
						}
					}
					at.pass(act.rest);
				}
				at.pass(400);
				take();
				expect(got.map((each) => each.toString('hex'))).toEqual(want.map((each) => each.toString('hex')));
				expect(at.store.exchanges.agreed(id).equals(want.at(-1) ?? Buffer.from(picture(0)))).toBe(true);
			},
		),
		{ numRuns: process.env.LONG ? 400 : 25 },
	);
});

test('what is gone, renamed, half written or of another kind is said, and taken when it is whole again', () => {
	const at = opened();
	const { id, file } = at.folder.send(
		at.project,
		{ of: 'sheet' },
		'Tin Can.ora',
		zipOf([['stack.xml', new Uint8Array(40)]]),
	);
	expect(file).toBe('tin-can.ora');
	const place = join(at.path, file);
	const state = () => at.folder.states(at.project)[0];
	at.pass(400);
	expect(state()?.state).toBe('away');
	renameSync(place, join(at.path, 'other.ora'));
	at.pass(200);
	expect(state()?.state).toBe('gone');
	writeFileSync(place, 'no picture at all');
	at.pass(400);
	expect(state()?.state).toBe('saving');
	at.pass(6000);
	expect(state()?.state).toBe('strange');
	writeFileSync(place, zipOf([['stack.xml', new Uint8Array(41)]]));
	at.pass(400);
	expect([state()?.state, state()?.waiting.length]).toEqual(['away', 1]);
	// Strangers in the folder are nobody's.
	writeFileSync(join(at.path, 'stranger.ora'), 'x');
	at.pass(400);
	expect(at.folder.states(at.project).length).toBe(1);
	// Called back, what was not taken in stays where it is.
	expect(at.folder.end(id)).toEqual({ kept: true });
	expect(readdirSync(at.path)).toContain(file);
	expect(at.folder.states(at.project)).toEqual([]);
	const next = at.folder.send(at.project, { of: 'sheet' }, 'Tin Can.ora', zipOf([['stack.xml', new Uint8Array(40)]]));
	expect(next.file).toBe('tin-can-2.ora');
	expect(at.folder.end(next.id)).toEqual({ kept: false });
	expect(readdirSync(at.path)).not.toContain(next.file);
});

test('a saving whose sums hold waits at the first look; what may still be written has to rest', () => {
	const at = opened();
	const layers = (n: number): Buffer =>
		Buffer.from(
			zipOf([
				['stack.xml', new Uint8Array(40)],
				['data/0.png', Uint8Array.from({ length: 4000 }, (_, i) => (i * n) & 255)],
			]),
		);
	const { id, file } = at.folder.send(at.project, { of: 'sheet' }, 'Can.ora', layers(1));
	const place = join(at.path, file);
	const waiting = (): number => at.folder.states(at.project)[0]?.waiting.length ?? 0;
	at.pass(400);
	writeFileSync(`${place}.tmp`, layers(3));
	renameSync(`${place}.tmp`, place);
	at.pass(60);
	expect(waiting()).toBe(1);
	// In place, with its beginning new and its end still that of before.
	const mixed = layers(5);
	layers(3).copy(mixed, mixed.length >> 1, mixed.length >> 1);
	writeFileSync(place, mixed);
	at.pass(60);
	expect([at.folder.states(at.project)[0]?.state, waiting()]).toEqual(['saving', 1]);
	writeFileSync(place, layers(5));
	at.pass(60);
	expect(waiting()).toBe(2);
	expect(at.store.exchanges.saving(id, at.folder.states(at.project)[0]?.waiting[1] as number).equals(layers(5))).toBe(
		true,
	);
});

test('over HTTP: a line that tells of each saving, its bytes, and that it was taken; bad calls are answered', async () => {
	const place = mkdtempSync(join(tmpdir(), 'eppu-exchange-'));
	const store = openSourceStore(join(place, 'data.db'));
	const project = { ...projectOf(), models: [] };
	store.create(project, []);
	const folder = exchangeFolder(store, join(place, 'exchange'), () => undefined);
	const app = createApp({
		store,
		exchange: folder,
		site: null,
		hosts: ['127.0.0.1'],
		token: null,
		log: () => undefined,
	});
	const server = createServer(app);
	await new Promise<void>((done) => server.listen(0, '127.0.0.1', done));
	ends.push(() => {
		folder.stop();
		server.closeAllConnections();
		server.close();
		rmSync(place, { recursive: true, force: true });
	});
	const base = `http://127.0.0.1:${(server.address() as AddressInfo).port}/api/exchange`;
	const send = (name: string, body: Uint8Array, what = '{"of":"layer"}'): Promise<Response> =>
		fetch(`${base}/projects/${project.id}?name=${encodeURIComponent(name)}&what=${encodeURIComponent(what)}`, {
			method: 'POST',
			headers: { 'Content-Type': 'application/octet-stream' },
			body: new Blob([body.slice()]),
		});
	expect((await send('x.exe', picture(1))).status).toBe(400);
	expect((await send('x.png', new Uint8Array(30))).status).toBe(400);
	expect((await send('x.png', picture(1), '{')).status).toBe(400);
	expect((await send('../../x.png', picture(1))).status).toBe(201);
	expect(readdirSync(join(place, 'exchange'))).toEqual(['x.png']);
	const line = await fetch(`${base}/projects/${project.id}/line`);
	const reader = (line.body as ReadableStream<Uint8Array>).getReader();
	let heard = '';
	const until = async (what: RegExp): Promise<RegExpExecArray> => {
		for (;;) {
			const found = what.exec(heard);
			if (found) return found;
			const { value, done } = await reader.read();
			if (done) throw new Error('the line ended');
			heard += new TextDecoder().decode(value);
		}
	};
	const [, id] = await until(/"id":"([^"]+)"/);
	writeFileSync(join(place, 'exchange', 'x.png'), picture(2));
	const [, n] = await until(/"waiting":\[(\d+)\]/);
	const saving = Buffer.from(await (await fetch(`${base}/${id}/savings/${n}`)).arrayBuffer());
	expect(saving.equals(Buffer.from(picture(2)))).toBe(true);
	heard = '';
	expect((await fetch(`${base}/${id}/savings/${n}/taken`, { method: 'POST' })).status).toBe(200);
	await until(/"waiting":\[\]/);
	expect(Buffer.from(await (await fetch(`${base}/${id}/agreed`)).arrayBuffer()).equals(saving)).toBe(true);
	expect(Buffer.from(await (await fetch(`${base}/${id}/sent`)).arrayBuffer()).equals(Buffer.from(picture(1)))).toBe(
		true,
	);
	expect((await fetch(`${base}/${id}/savings/${n}`)).status).toBe(404);
	expect((await fetch(`${base}/nobody/sent`)).status).toBe(404);
	// A second browser hears of nothing to take in while the first is there, and of all when that is gone.
	const second = ((await fetch(`${base}/projects/${project.id}/line`)).body as ReadableStream<Uint8Array>).getReader();
	writeFileSync(join(place, 'exchange', 'x.png'), picture(3));
	heard = '';
	await until(/"waiting":\[\d+\]/);
	let told = '';
	const more = async (): Promise<void> => {
		told += new TextDecoder().decode((await second.read()).value);
	};
	await more();
	expect(told).not.toMatch(/"waiting":\[\d/);
	await reader.cancel();
	while (!/"waiting":\[\d+\]/.test(told)) await more();
	await second.cancel();
	// What cannot be put into the folder is not out.
	const before = folder.states(project.id).length;
	rmSync(join(place, 'exchange'), { recursive: true });
	writeFileSync(join(place, 'exchange'), 'a file where the folder was');
	expect((await send('y.png', picture(4))).status).toBeGreaterThanOrEqual(400);
	expect(folder.states(project.id).length).toBe(before);
});

test('what another process sends out or takes in is told here, and a saving that both see waits once', () => {
	const at = opened();
	const there = openSourceStore(join(at.path, '..', 'data.db'));
	const other = exchangeFolder(there, at.path, (error) => {
		throw error;
	});
	other.stop();
	let told = 0;
	ends.push(at.folder.listen(() => told++));
	at.pass(500);
	const before = told;
	at.pass(500);
	expect(told).toBe(before);

	const out = other.send(at.project, { of: 'sheet', sheet: 's' }, 'There.png', picture(1));
	at.pass(500);
	expect(told).toBeGreaterThan(before);
	expect(at.folder.states(at.project)).toMatchObject([{ id: out.id, file: 'there.png', waiting: [] }]);

	writeFileSync(join(at.path, out.file), picture(2));
	at.pass(1000);
	for (let now = 1_800_000_100_000; now < 1_800_000_101_000; now += 100) other.lookAtAll(now);
	const [{ waiting } = { waiting: [] }] = at.folder.states(at.project);
	expect(waiting.length).toBe(1);
	const waited = told;
	other.taken(out.id, waiting[0] as number);
	at.pass(200);
	expect(told).toBeGreaterThan(waited);
	expect(at.folder.states(at.project)[0]?.waiting).toEqual([]);
	there.close();
});

test('a page that vanished without a word keeps nothing waiting: the next is asked, once', async () => {
	const at = opened();
	const app = express();
	app.use('/exchange', exchangeRoutes(at.store, at.folder, 300));
	const server = createServer(app);
	await new Promise<void>((done) => server.listen(0, '127.0.0.1', done));
	ends.push(() => {
		server.closeAllConnections();
		server.close();
	});
	const url = `http://127.0.0.1:${(server.address() as AddressInfo).port}/exchange/projects/${at.project}/line`;
	/** How many of the last words of each line say that something waits, as they come. */
	const line = async () => {
		const told: boolean[] = [];
		const reader = ((await fetch(url)).body as ReadableStream<Uint8Array>).getReader();
		const hear = async (): Promise<void> => {
			for (let part = await reader.read(); !part.done; part = await reader.read())
				for (const [, waiting] of new TextDecoder().decode(part.value).matchAll(/"waiting":\[(\d*)\]/g))
					told.push(waiting !== '');
		};
		hear().catch(() => undefined);
		return told;
	};
	const out = at.folder.send(at.project, { of: 'layer' }, 'x.png', picture(1));
	const [first, second] = [await line(), await line()];
	const until = async (done: () => boolean): Promise<void> => {
		for (let i = 0; i < 100 && !done(); i++) await new Promise((rest) => setTimeout(rest, 50));
		expect(done()).toBe(true);
	};
	writeFileSync(join(at.path, out.file), picture(2));
	at.pass(1000);
	await until(() => first.at(-1) === true);
	expect(second.includes(true)).toBe(false);
	await until(() => second.at(-1) === true);
	expect(first.at(-1)).toBe(false);
	// It does not go round: there is none left that was not asked.
	const heard = first.length;
	await new Promise((rest) => setTimeout(rest, 2500));
	expect(first.slice(heard)).toEqual([]);
	expect(second.at(-1)).toBe(true);
});
