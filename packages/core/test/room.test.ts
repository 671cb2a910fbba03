/** The end of the memory, and undo beyond it: known before anything is changed, and nothing lost. */
import { readFile } from 'node:fs/promises';
import { createHeap, createKernels, type Kernels, MemoryFullError } from '@eppu/kernels';
import { expect, test } from '@jest/globals';
import { CommandError, paintLayer } from '../src/document/index.ts';
import { type Engine, openEngine, type Spilled, type StrokeSpec } from '../src/engine/index.ts';
import { defaultTip } from '../src/stroke/index.ts';
import { box, projectOf } from './oracle/meshes.ts';

const wasm = await readFile(new URL('../../kernels/build/kernels.wasm', import.meta.url));
const kernelsOf = (pages: number): Promise<Kernels> => createKernels(wasm, createHeap(64, pages));
const SIDE = 1024;
const open = (kernels: Kernels, layers: number): Engine =>
	openEngine(
		kernels,
		projectOf(
			box(),
			SIDE,
			Array.from({ length: layers }, (_, i) => paintLayer(`l${i}`, `Layer ${i}`)),
		),
		[],
		new Map(),
	);
/** Paints that fills its tiles with texels of many colours. */
const noise = (engine: Engine, layer: string, seed: number): void => {
	const data = new Uint8Array(SIDE * SIDE * 4);
	for (let i = 0; i < data.length; i++) data[i] = Math.imul(i + seed * 7919, 2654435761) >>> 24;
	engine.lay('s', layer, 'color', { width: SIDE, height: SIDE, data }, `Noise ${seed}`);
};

test('a heap that is full says so, and is as it was', () => {
	const heap = createHeap(64, 128);
	const { used } = heap;
	expect(() => heap.reserve(128 * 65536)).toThrow(MemoryFullError);
	expect(() => heap.alloc(128 * 65536)).toThrow(MemoryFullError);
	expect(heap.used).toBe(used);
	expect(heap.alloc(65536)).toBeGreaterThan(0);
});

test('what there is no room for is refused before anything is changed, and the words say what holds most', async () => {
	const kernels = await kernelsOf(900);
	const engine = open(kernels, 12);
	const done: string[] = [];
	let words = '';
	for (let i = 0; i < 12 && !words; i++) {
		const before = Buffer.from(engine.composite('s').data);
		const steps = engine.history.done.length;
		try {
			noise(engine, `l${i}`, i);
			done.push(`l${i}`);
		} catch (error) {
			if (!(error instanceof CommandError)) throw error;
			words = error.message;
			expect(engine.history.done).toHaveLength(steps);
			expect(Buffer.compare(engine.composite('s').data, before)).toBe(0);
		}
	}
	expect(done.length).toBeGreaterThan(2);
	expect(words).toMatch(/memory of this tab is full.*"Layer \d+" on "Sheet" holds most, 4 MB/s);
	// Undo needs no more, and gives room again.
	while (engine.undo());
	engine.run({ do: 'layer.change', sheet: 's', layer: 'l0', change: { name: 'Again' } });
	noise(engine, 'l0', 1);
	engine.close();
});

test('a stroke that there is no room for goes no further; what is shown of it is a step', async () => {
	const kernels = await kernelsOf(1200);
	const engine = open(kernels, 3);
	const spec: StrokeSpec = {
		tool: 'draw',
		tip: { ...defaultTip, size: 300 },
		color: '#d07020',
		place: { on: 'sheet', sheet: 's' },
		layers: { s: 'l0' },
	};
	expect(engine.begin(spec, [{ x: 200, y: 200, pressure: 1 }]).ok).toBe(true);
	engine.extend([{ x: 400, y: 200, pressure: 1 }]);
	// Something else takes what is left.
	const taken: number[] = [];
	try {
		for (;;) taken.push(kernels.heap.alloc(1024 * 1024));
	} catch (error) {
		expect(error).toBeInstanceOf(MemoryFullError);
	}
	const shown = Buffer.from(engine.composite('s').data);
	expect(() => engine.extend([{ x: 900, y: 900, pressure: 1 }])).toThrow(CommandError);
	for (const at of taken) kernels.heap.free(at, 1024 * 1024);
	expect(Buffer.compare(engine.composite('s').data, shown)).toBe(0);
	engine.end();
	expect(engine.history.done).toHaveLength(1);
	engine.undo();
	expect(engine.composite('s').data.every((v) => v === 0)).toBe(true);
	engine.close();
});

test('steps of long ago are put away past a limit, and come back as they were', async () => {
	const engine = open(await kernelsOf(20_000), 1);
	const store: Uint8Array[] = [];
	let reads = 0;
	engine.history.spillTo(
		{
			write: (bytes): Spilled => ({ at: store.push(bytes.slice()) - 1, length: bytes.length }),
			read: ({ at }) => {
				reads++;
				return store[at] as Uint8Array;
			},
			clear: () => undefined,
		},
		8 * 1024 * 1024,
	);
	const looks: Buffer[] = [Buffer.from(engine.composite('s').data)];
	for (let i = 0; i < 20; i++) {
		noise(engine, 'l0', i);
		looks.push(Buffer.from(engine.composite('s').data));
		while (engine.history.tidy());
	}
	expect(store.length).toBeGreaterThan(100);
	// All that may be put away is: the latest steps stay as they are.
	expect(engine.history.bytes()).toBeLessThan(13 * 4 * 1024 * 1024 + 8 * 1024 * 1024);
	for (let i = 19; i >= 0; i--) {
		engine.undo();
		expect(Buffer.compare(engine.composite('s').data, looks[i] as Buffer)).toBe(0);
	}
	expect(reads).toBe(store.length);
	for (let i = 1; i <= 20; i++) engine.redo();
	expect(Buffer.compare(engine.composite('s').data, looks[20] as Buffer)).toBe(0);
	engine.close();
});
