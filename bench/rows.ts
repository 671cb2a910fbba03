/** What is measured, each row on its own. */
import { createCompositor, type StackLayer } from '@eppu/core/composite';
import { encodePng } from '@eppu/core/format';
import type { CompositeWork, Pool } from '@eppu/core/jobs';
import type { Kernels } from '@eppu/kernels';
import { loadPngWriter } from '@eppu/kernels/node';
import { openPool } from '@eppu/server/jobs';
import sharp from 'sharp';
import { undisturbed } from './measure.ts';
import { type BenchStack, benchStack } from './scenes.ts';

export const SIZE = 2048;
/** A ratio to the floor that is not to be passed, or a time where a bar is one; null where a row is only reported. */
export type Bar = number | { readonly ms: number } | null;
export type Report = (name: string, measure: () => Promise<number>, bar: Bar, note?: string) => Promise<void>;

/** Milliseconds to copy a 2048x2048 RGBA8 buffer: the floor of all ratios. */
export function floor(): Promise<number> {
	const [from, to] = [new Uint8Array(SIZE * SIZE * 4).fill(7), new Uint8Array(SIZE * SIZE * 4)];
	return undisturbed(40, () => to.set(from));
}

const run = (kernels: Kernels, layers: readonly StackLayer[], tiles: readonly number[]): (() => void) => {
	const compositor = createCompositor(kernels);
	const out = kernels.heap.alloc(16384);
	return () => {
		for (const tile of tiles) compositor.tile(layers, tile, out);
	};
};

export const upTo = (n: number): number[] => Array.from({ length: n }, (_, i) => i);

/** The same stack through libvips, its masks worked into the alphas beforehand. */
async function throughSharp({ layers, pictures }: BenchStack): Promise<number> {
	const raw = { width: SIZE, height: SIZE, channels: 4 as const };
	const ready = pictures.map(({ rgba, mask }, i) => {
		const data = Buffer.from(rgba);
		const opacity = layers[i]?.opacity ?? 1;
		for (let p = 0; p < SIZE * SIZE; p++)
			data[p * 4 + 3] = Math.round(((data[p * 4 + 3] as number) * opacity * (mask ? (mask[p] as number) : 255)) / 255);
		return data;
	});
	const blend = (mode: string): 'over' =>
		(mode === 'normal' ? 'over' : mode === 'color-dodge' ? 'colour-dodge' : mode) as 'over';
	return undisturbed(3, async () => {
		await sharp(ready[0] as Buffer, { raw })
			.composite(ready.slice(1).map((input, i) => ({ input, raw, blend: blend(layers[i + 1]?.mode ?? 'normal') })))
			.raw()
			.toBuffer();
	});
}

const workOf = (layers: readonly StackLayer[], tiles: readonly number[]): CompositeWork => ({
	job: 'composite',
	layers,
	tiles,
});

/** A pool that does all tiles, in jobs of 48. */
const inPool = (pool: Pool, layers: readonly StackLayer[], tiles: number) => (): Promise<unknown> =>
	Promise.all(upTo(Math.ceil(tiles / 48)).map((n) => pool.do(workOf(layers, upTo(tiles).slice(n * 48, n * 48 + 48)))));

/** Half of the tiles each: this thread, and one of the pool. */
async function twoRow(
	kernels: Kernels,
	{ layers }: BenchStack,
	tiles: number,
	kind: string,
	bar: number,
	report: Report,
): Promise<void> {
	const pool = await openPool(kernels, 1);
	const other = upTo(tiles).slice(tiles / 2);
	const half = run(kernels, layers, upTo(tiles / 2));
	await pool.do(workOf(layers, other));
	await report(
		`composite.full.${kind}.two`,
		() =>
			undisturbed(30, async () => {
				const there = pool.do(workOf(layers, other));
				half();
				await there;
			}),
		bar,
		'two threads',
	);
	pool.end();
}

/** One and two threads of the pool on one memory. */
async function poolRows(kernels: Kernels, { layers }: BenchStack, tiles: number, report: Report): Promise<void> {
	const taken: number[] = [];
	for (const count of [1, 2]) {
		const pool = await openPool(kernels, count);
		await inPool(pool, layers, tiles)();
		await report(
			`composite.pool.dense.${count === 1 ? 'one' : 'two'}`,
			async () => {
				const ms = await undisturbed(20, () => inPool(pool, layers, tiles)().then(() => {}));
				taken[count] = Math.min(taken[count] ?? Infinity, ms);
				return ms;
			},
			null,
			'jobs of 48 tiles, their texels handed over',
		);
		pool.end();
	}
	await report(
		'composite.pool.two',
		async () => ((taken[1] as number) / (taken[2] as number)) * (await floor()),
		null,
		'ratio is how many times as fast two threads are as one; at least 1.8 is wanted',
	);
}

/** The 4 by 4 tiles that are covered most nearly as much as the whole stack. */
function typicalRegion(layers: readonly StackLayer[]): number[] {
	const side = SIZE / 64;
	const filled = (tiles: readonly number[]): number =>
		layers.reduce(
			(sum, { source }) =>
				sum +
				(typeof source === 'number' || !('kinds' in source) ? 0 : tiles.filter((tile) => source.kinds[tile]).length),
			0,
		) / tiles.length;
	const mean = filled(upTo(side * side));
	const regions = upTo((side / 4) ** 2).map((r) =>
		upTo(16).map((i) => (Math.floor(r / (side / 4)) * 4 + (i >> 2)) * side + (r % (side / 4)) * 4 + (i % 4)),
	);
	return regions.sort((a, b) => Math.abs(filled(a) - mean) - Math.abs(filled(b) - mean))[0] as number[];
}

export async function compositeRows(kernels: Kernels, report: Report): Promise<void> {
	const tiles = (SIZE / 64) ** 2;
	for (const [kind, one, two] of [
		['dense', 90, 45],
		['painted', 19, 9],
	] as const) {
		const stack = benchStack(kernels, SIZE, kind);
		await report(
			`composite.full.${kind}`,
			() => undisturbed(20, run(kernels, stack.layers, upTo(tiles))),
			one,
			'one thread',
		);
		await twoRow(kernels, stack, tiles, kind, two, report);
		if (kind === 'dense') await poolRows(kernels, stack, tiles, report);
		sharp.concurrency(1);
		await report(
			`composite.full.${kind}.sharp`,
			() => throughSharp(stack),
			null,
			'libvips, one thread, masks applied before',
		);
		if (kind === 'painted') {
			const region = typicalRegion(stack.layers);
			await report('composite.dirty256', () => undisturbed(60, run(kernels, stack.layers, region)), 0.15);
			await stackRows(kernels, stack.layers, report);
			await pngRows(stack, report);
		}
		for (const { source, mask } of stack.layers)
			for (const surface of [source, mask])
				if (surface && typeof surface !== 'number' && 'kinds' in surface)
					surface.data.forEach(
						(at, i) =>
							(surface.kinds[i] as number) >= 2 && kernels.heap.free(at, surface.format === 'color' ? 16384 : 4096),
					);
	}
}

/** Thirty layers, each of the painted ones three times; and the painted ones under a change of tones. */
async function stackRows(kernels: Kernels, layers: readonly StackLayer[], report: Report): Promise<void> {
	const thirty = [...layers, ...layers.slice(1), ...layers.slice(1), ...layers.slice(1, 3)];
	const third = thirty[2]?.source;
	const touched = upTo((SIZE / 64) ** 2).filter(
		(tile) => third !== undefined && typeof third !== 'number' && 'kinds' in third && third.kinds[tile],
	);
	await report(
		'stack.toggle.30',
		() => undisturbed(12, run(kernels, thirty, touched)),
		40,
		`${thirty.length} layers; the ${touched.length} tiles of the third`,
	);
	const curves: StackLayer = {
		mode: 'normal',
		opacity: 1,
		clip: false,
		mask: null,
		source: { adjust: { op: 'curves', all: [0, 0.2, 0.55, 0.8, 1], red: [0, 1], green: [0, 1], blue: [0.1, 0.9] } },
	};
	await report(
		'adjust.curves.2048',
		() => undisturbed(10, run(kernels, [...layers, curves], upTo((SIZE / 64) ** 2))),
		null,
		'the painted stack under curves, every tile',
	);
}

async function pngRows({ pictures }: BenchStack, report: Report): Promise<void> {
	const data = (pictures[0] as { rgba: Uint8Array }).rgba;
	const write = await loadPngWriter();
	await report(
		'png.encode',
		() => undisturbed(3, () => void encodePng(write, { width: SIZE, height: SIZE, data })),
		60,
		'the ground of the painted stack',
	);
	await report(
		'png.encode.sharp',
		() =>
			undisturbed(
				3,
				async () =>
					void (await sharp(Buffer.from(data), { raw: { width: SIZE, height: SIZE, channels: 4 } })
						.png({ compressionLevel: 1 })
						.toBuffer()),
			),
		null,
	);
}
