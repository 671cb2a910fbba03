/** What is packed comes back: computed pictures in the browser's store, and tiles that are inflated by several hands. */
import { deflateRawSync } from 'node:zlib';
import type { Made } from '@eppu/core/engine';
import type { PackedTile } from '@eppu/core/format';
import { type InflateWork, inflate, type Pool, type Work } from '@eppu/core/jobs';
import { expect, test } from '@jest/globals';
import fc from 'fast-check';
import { createInflating } from '../src/workers/inflating.ts';
import { packMade, unpackMade } from '../src/workers/madePack.ts';

const tileArb = fc.record({
	index: fc.nat(4000),
	count: fc.integer({ min: 1, max: 9 }),
	value: fc.option(fc.nat(0xffffffff)),
	texels: fc.option(fc.uint8Array({ minLength: 1, maxLength: 60 })),
});

test('a computed picture comes back from its pack as it was; damaged ones are told', async () => {
	const farArb = fc.array(fc.tuple(fc.nat(99), fc.array(fc.nat(99), { maxLength: 4 })), { maxLength: 4 });
	await fc.assert(
		fc.asyncProperty(fc.array(tileArb, { maxLength: 12 }), farArb, async (list, far) => {
			const tiles = list.map(({ texels, value, ...each }) => ({
				surface: '',
				...each,
				value: texels ? null : value,
				texels: texels && new Uint8Array(texels),
			}));
			const pack = await packMade({ tiles, far } as Made);
			const back = await unpackMade(pack);
			expect(back.far).toEqual(far);
			expect(back.tiles.map((tile) => ({ ...tile, texels: tile.texels && [...tile.texels] }))).toEqual(
				tiles.map((tile) => ({ ...tile, texels: tile.texels && [...tile.texels] })),
			);
			await expect(unpackMade(pack.slice(0, Math.floor(pack.length / 2)))).rejects.toThrow();
		}),
		{ numRuns: 30 },
	);
});

/** A pool of so many hands, each of which fails now and then; what it did is counted. */
function poolOf(hands: number, fails: () => boolean): { readonly pool: Pool; readonly did: () => number } {
	let [busy, did] = [0, 0];
	const begun = inflate.begin({} as never);
	const pool = {
		get idle() {
			return hands - busy;
		},
		async do<M>(work: Work<M>): Promise<M | null> {
			busy++;
			await new Promise((next) => setTimeout(next, 1));
			busy--;
			if (fails()) return null;
			did++;
			return (await begun(work as unknown as InflateWork)) as unknown as M;
		},
	} as unknown as Pool;
	return { pool, did: () => did };
}

const packed = (texels: Uint8Array | null, index: number): PackedTile => ({
	surface: 's',
	index,
	count: 1,
	value: texels ? null : index,
	hash: null,
	blob: texels && deflateRawSync(texels),
});

/** The same as it comes from a server of this machine. */
const bare = (texels: Uint8Array | null, index: number): PackedTile => ({
	...packed(null, index),
	value: texels ? null : index,
	...(texels ? { blob: texels, bare: true } : {}),
});

test('tiles that come as they are need nobody', async () => {
	const { pool, did } = poolOf(2, () => false);
	const inflation = createInflating(() => pool).begin([bare(Uint8Array.of(5, 6), 0), bare(null, 1)]);
	expect((await inflation.help()).map(({ texels, value }) => (texels ? [...texels] : value))).toEqual([[5, 6], 1]);
	expect(did()).toBe(0);
});

test('tiles come back in their order, whoever inflates them, and with nobody beside', async () => {
	const tiles = Array.from({ length: 400 }, (_, i) =>
		i % 7 ? Uint8Array.from({ length: 20 }, (_, k) => i + k) : null,
	);
	let n = 0;
	for (const [hands, fails] of [
		[0, () => false],
		[1, () => false],
		[3, () => n++ % 2 === 0],
	] as const) {
		const { pool, did } = poolOf(hands, fails);
		const inflating = createInflating(() => (hands ? pool : null));
		const begun = [tiles.slice(0, 300), tiles.slice(300), []].map((part, at) =>
			inflating.begin(part.map((texels, i) => (i % 5 ? packed : bare)(texels, at * 300 + i))),
		);
		const back = (await Promise.all(begun.map((each) => each.help()))).flat();
		expect(back.map(({ index }) => index)).toEqual(tiles.map((_, i) => i));
		expect(back.map(({ texels, value }) => (texels ? [...texels] : value))).toEqual(
			tiles.map((texels, i) => (texels ? [...texels] : i)),
		);
		if (hands) expect(did()).toBeGreaterThan(0);
	}
});

test('tiles that cannot be inflated are told where they are waited for, and there alone', async () => {
	const { pool } = poolOf(1, () => true);
	for (const beside of [null, pool]) {
		const inflating = createInflating(() => beside);
		const bad = inflating.begin([{ ...packed(Uint8Array.of(1), 0), blob: Uint8Array.of(7, 7, 7) }]);
		const good = inflating.begin([packed(Uint8Array.of(1, 2), 5)]);
		expect((await good.help()).map(({ index }) => index)).toEqual([5]);
		await expect(bad.help()).rejects.toThrow();
	}
});
