/** The exchange folder with no browser: what goes out, what comes back, and what a process that is killed loses: nothing. */
import { type ChildProcess, execFileSync, spawn } from 'node:child_process';
import { copyFileSync, existsSync, mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { ExchangeWhat } from '@eppu/core/handoff';
import { loadPngReader } from '@eppu/kernels/node';
import { exchangeFolder, exchangePath } from '@eppu/server/exchange';
import { openSourceStore } from '@eppu/server/store';
import { beforeAll, expect, test } from '@jest/globals';
import sharp from 'sharp';
import { openKept } from '../src/commands.ts';
import { callBack, sendOut, type TakenSaving, takeAll, takeBytes, takeSavings, whatIsOut } from '../src/exchange.ts';
import { savingWays, standIn } from '../src/standIn.ts';
import { keepTinCan } from './tinCan.ts';

const folder = mkdtempSync(join(tmpdir(), 'eppu-away-'));
const first = join(folder, 'first.db');
const project = 'can';
beforeAll(() => keepTinCan(first));

/** A data file of its own, so that its exchange folder is its own too. */
function fresh(name: string): string {
	mkdirSync(join(folder, name));
	const data = join(folder, name, 'test.db');
	copyFileSync(first, data);
	return data;
}
const placeOf = (data: string, file: string): string => join(exchangePath(data), file);
const seen = async (data: string, sheet = 'a'): Promise<Uint8Array> => {
	const engine = await openKept(openSourceStore(data), project);
	try {
		return engine.composite(sheet).data.slice();
	} finally {
		engine.close();
	}
};
const revision = (data: string): number => openSourceStore(data).load(project).revision;
const taken = async (data: string): Promise<TakenSaving[]> => {
	const all: TakenSaving[] = [];
	await takeSavings({ project, data }, (each) => all.push(each));
	return all;
};

test.each(savingWays)('a sheet goes out, is saved %s, and is taken in as one revision, once', async (way) => {
	const data = fresh(`way-${way}`);
	const before = revision(data);
	const out = await sendOut({ project, data, sheet: 'Tin' });
	expect(out).toMatchObject({ file: 'tin-can-tin.ora', state: 'away', waiting: [] });
	const sent = new Uint8Array(readFileSync(placeOf(data, out.file)));
	expect(await taken(data)).toEqual([]);

	const saved = await standIn({ file: placeOf(data, out.file), way, seed: 5, keeps: way !== 'slow' });
	expect(await whatIsOut({ project, data })).toMatchObject([{ state: 'away', waiting: [expect.any(Number)] }]);
	// What the engine makes of the same bytes, with no store and no folder between.
	const engine = await openKept(openSourceStore(data), project);
	takeBytes(engine, out.what as ExchangeWhat, { sent, agreed: sent, saved }, out.file, await loadPngReader());
	const expected = engine.composite('a').data.slice();
	engine.close();
	expect(Buffer.compare(expected, await seen(data))).not.toBe(0);

	expect(await taken(data)).toMatchObject([{ file: out.file, changed: true }]);
	expect(revision(data)).toBe(before + 1);
	expect(Buffer.compare(expected, await seen(data))).toBe(0);
	expect(await taken(data)).toEqual([]);
	expect(revision(data)).toBe(before + 1);
	expect(openSourceStore(data).problemsOf(project)).toEqual([]);
});

test('a layer and a mask go out as pictures, and come back to where they were', async () => {
	const data = fresh('pictures');
	const layer = await sendOut({ project, data, layer: 'dabs' });
	const mask = await sendOut({ project, data, mask: 'Dabs' });
	expect([layer.file, mask.file]).toEqual(['tin-can-tin-dabs.png', 'tin-can-tin-dabs-mask.png']);
	const grey = await sharp({ create: { width: 128, height: 64, channels: 3, background: '#406080' } })
		.png()
		.toBuffer();
	writeFileSync(placeOf(data, mask.file), grey);
	const red = { width: 128, height: 64, channels: 4, background: '#ff0000' } as const;
	writeFileSync(placeOf(data, layer.file), await sharp({ create: red }).png().toBuffer());
	const all = await taken(data);
	expect(all.map(({ file, changed }) => [file, changed])).toEqual([
		[layer.file, true],
		[mask.file, true],
	]);
	const engine = await openKept(openSourceStore(data), project);
	expect([...engine.layerPicture('a', 'p', true).data.subarray(0, 4)]).toEqual([255, 0, 0, 255]);
	expect(engine.maskPicture('a', 'p')?.data[0]).toBe(0x60);
	engine.close();
});

test('what does not fit is said, waits and changes nothing; what is not there is named', async () => {
	const data = fresh('refused');
	const before = revision(data);
	const { file } = await sendOut({ project, data, layer: 'Dabs' });
	const small = { width: 32, height: 32, channels: 4, background: '#00ff00' } as const;
	writeFileSync(placeOf(data, file), await sharp({ create: small }).png().toBuffer());
	expect(await taken(data)).toMatchObject([{ file, changed: false, refused: expect.stringMatching(/32 by 32 now/) }]);
	expect(revision(data)).toBe(before);
	expect((await whatIsOut({ project, data }))[0]?.waiting.length).toBe(1);
	// The file holds what was never taken in, and so it stays.
	expect(await callBack({ project, data, file })).toEqual({ kept: true });
	expect(existsSync(placeOf(data, file))).toBe(true);

	const { file: other } = await sendOut({ project, data, sheet: 'Leather' });
	expect(await callBack({ project, data, file: other })).toEqual({ kept: false });
	expect(existsSync(placeOf(data, other))).toBe(false);
	await expect(callBack({ project, data, file: other })).rejects.toThrow(/not out.*none/);
	await expect(sendOut({ project, data, layer: 'Nothing' })).rejects.toThrow(/no layer "Nothing".*Dabs/);
	await expect(sendOut({ project, data, layer: 'Ground' })).rejects.toThrow(/not painted by hand/);
	await expect(sendOut({ project, data, layer: 'Dabs', mask: 'Dabs' })).rejects.toThrow(/not both/);

	const lost = await sendOut({ project, data, sheet: 'Tin' });
	rmSync(placeOf(data, lost.file));
	expect(await whatIsOut({ project, data })).toMatchObject([{ file: lost.file, state: 'gone' }]);
});

const main = ['--import', 'tsx', 'apps/cli/src/main.ts'];
const rest = (ms: number): Promise<void> => new Promise((done) => setTimeout(done, ms));

test('a saving that a page takes in first is the page’s; who follows goes on to the next', async () => {
	const data = fresh('page-first');
	const { id, file } = await sendOut({ project, data, layer: 'Dabs' });
	const { exchanges } = openSourceStore(data);
	const png = (background: string): Promise<Buffer> =>
		sharp({ create: { width: 128, height: 64, channels: 4, background } })
			.png()
			.toBuffer();
	const [first, second] = [await png('#ff0000'), await png('#0000ff')];
	exchanges.saved(id, first, 1);
	exchanges.saved(id, second, 2);
	writeFileSync(placeOf(data, file), second);
	const [one, two] = exchanges.waiting(id) as [number, number];
	const all: TakenSaving[] = [];
	await takeSavings({ project, data }, (each) => {
		// While the first is taken in here, a page takes the second.
		if (!all.length) exchanges.taken(id, two);
		all.push(each);
	});
	expect(one).toBeLessThan(two);
	expect(all.length).toBe(1);
	expect(exchanges.waiting(id)).toEqual([]);
	expect(await taken(data)).toEqual([]);
});

test.each([1, 2])(
	'%i at once who follow the folder and are killed again and again lose nothing, and take nothing twice',
	async (count) => {
		const data = fresh(`killed-${count}`);
		const before = revision(data);
		const said = execFileSync(process.execPath, [...main, 'send', project, '--sheet', 'Tin', '--data', data], {
			encoding: 'utf8',
		}).trim();
		const place = placeOf(data, 'tin-can-tin.ora');
		expect(said).toBe(place);
		const sent = new Uint8Array(readFileSync(place));
		const oracle = await openKept(openSourceStore(data), project);
		const follow = (): ChildProcess =>
			spawn(process.execPath, [...main, 'receive', project, '--follow', '--data', data], { stdio: 'ignore' });
		const children = Array.from({ length: count }, follow);
		let agreed = sent;
		const read = await loadPngReader();
		for (let seed = 1; seed <= 6; seed++) {
			await rest(seed % 2 ? 1500 : 150);
			const saved = await standIn({ file: place, way: savingWays[seed % 3] as 'slow', seed, keeps: true });
			takeBytes(oracle, { of: 'sheet', sheet: 'a' }, { sent, agreed, saved }, 'tin-can-tin.ora', read);
			agreed = saved as typeof sent;
			if (seed % 2 === 0) {
				children.shift()?.kill('SIGKILL');
				children.push(follow());
			}
		}
		const store = openSourceStore(data);
		const [out] = store.exchanges.list(project);
		const id = out?.id as string;
		for (let i = 0; i < 400 && !store.exchanges.agreed(id).equals(Buffer.from(agreed)); i++) await rest(50);
		for (const child of children) {
			child.kill('SIGTERM');
			await new Promise((done) => child.once('exit', done));
		}
		expect(revision(data)).toBeLessThanOrEqual(before + 6);
		expect(store.exchanges.agreed(id).equals(Buffer.from(agreed))).toBe(true);
		expect(store.exchanges.waiting(id)).toEqual([]);
		expect(Buffer.compare(oracle.composite('a').data, await seen(data))).toBe(0);
		expect(store.load(project).project.sheets[0]?.layers.length).toBe(oracle.project.sheets[0]?.layers.length);
		oracle.close();
	},
	120_000,
);

test('a full disk: who follows says it once, waits, and takes it in when there is room', async () => {
	const data = fresh('full');
	const out = await sendOut({ project, data, layer: 'dabs' });
	const place = placeOf(data, out.file);
	const before = await seen(data);
	const store = openSourceStore(data);
	const folder = exchangeFolder(store, exchangePath(data), () => undefined);
	const told: TakenSaving[] = [];
	let done = false;
	// Noise: what nothing makes small needs room.
	const { width = 0, height = 0 } = await sharp(place).metadata();
	const noise = Uint8Array.from({ length: width * height * 4 }, (_, i) => (Math.imul(i + 1, 2654435761) >>> 13) & 255);
	writeFileSync(
		place,
		await sharp(noise, { raw: { width, height, channels: 4 } })
			.png()
			.toBuffer(),
	);
	for (folder.lookAtAll(); !store.exchanges.waiting(out.id).length; folder.lookAtAll()) await rest(50);
	store.limitTo(1);
	// Pages that are free within the file are room as well.
	for (let size = 65536; size > 64; )
		try {
			store.exchanges.begin(project, '{}', `${size}.png`, new Uint8Array(size));
		} catch {
			size >>= 2;
		}
	const following = takeAll(
		store,
		folder,
		project,
		(each) => told.push(each),
		() => done,
	);
	for (let i = 0; i < 100 && !told.length; i++) await rest(50);
	await rest(2500);
	expect(told).toMatchObject([{ changed: false, waits: expect.stringMatching(/disk is full/) }]);
	expect(Buffer.compare(before, await seen(data))).toBe(0);
	store.limitTo(1e9);
	for (let i = 0; i < 100 && told.length < 2; i++) await rest(50);
	done = true;
	await following;
	folder.stop();
	expect(told).toHaveLength(2);
	expect(told[1]).toMatchObject({ changed: true });
	expect(Buffer.compare(before, await seen(data))).not.toBe(0);
	expect(store.exchanges.waiting(out.id)).toEqual([]);
}, 60_000);
