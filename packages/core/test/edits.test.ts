/** Selections and what is done at once: shapes, gradients, tones, moves; and scraping through coats. */
import type { Kernels } from '@eppu/kernels';
import { loadKernels } from '@eppu/kernels/node';
import { beforeAll, describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { type Layer, type Project, paintLayer, washLayer } from '../src/document/index.ts';
import type { Edit } from '../src/edit/index.ts';
import { type Engine, openEngine, type StrokeSpec } from '../src/engine/index.ts';
import { type Affine, after, inverseOf } from '../src/raster/index.ts';
import type { Shape } from '../src/select/index.ts';
import { coatGone, defaultTip, unruled } from '../src/stroke/index.ts';
import { pictureOfSurface, type Surface } from '../src/surface/index.ts';
import { box, projectOf } from './oracle/meshes.ts';
import { seeded } from './oracle/surfaces.ts';

let kernels: Kernels;
beforeAll(async () => {
	kernels = await loadKernels();
});

const SIDE = 128;
const mesh = box();
const open = (layers: readonly Layer[] = [paintLayer('p', 'P')]): Engine =>
	openEngine(kernels, projectOf(mesh, SIDE, layers), [], new Map([['m', mesh]]));
const picture = (engine: Engine): Buffer => Buffer.from(engine.composite('s').data);
const texels = (engine: Engine, id: string): Uint8Array =>
	pictureOfSurface(kernels, engine.surface(id) as Surface).data;
const selected = (engine: Engine): Uint8Array | null => {
	const id = engine.project.sheets[0]?.selection;
	return id ? texels(engine, id) : null;
};
const rectangle = (x: number, y: number, width: number, height: number): Shape => ({
	kind: 'rectangle',
	x,
	y,
	width,
	height,
	radius: 0,
});
const area = (tone: Uint8Array | null): number => tone?.reduce((sum, v) => sum + v / 255, 0) ?? 0;
const blot = (engine: Engine, seed: number, layer = 'p'): void => {
	const random = seeded(seed);
	const data = Uint8Array.from({ length: SIDE * SIDE * 4 }, (_, i) => {
		const [x, y] = [(i >> 2) % SIDE, Math.floor((i >> 2) / SIDE)];
		if (x < 30 || y < 30 || x >= 90 || y >= 80) return 0;
		return i % 4 === 3 ? 255 : Math.floor(random() * 256);
	});
	engine.lay('s', layer, 'color', { width: SIDE, height: SIDE, data }, 'Blot');
};

const spec = (tool: StrokeSpec['tool'], change: Partial<StrokeSpec> = {}): StrokeSpec => ({
	tool,
	tip: { ...defaultTip, ...unruled, size: 40, strength: 1, edge: 0 },
	color: '#ff0000',
	place: { on: 'sheet', sheet: 's' },
	layers: { s: 'p' },
	...change,
});
const line = (engine: Engine, how: StrokeSpec, points: readonly (readonly [number, number])[]): void => {
	const [first, ...rest] = points.map(([x, y]) => ({ x, y, pressure: 1 }));
	if (!first) return;
	const begun = engine.begin(how, [first]);
	if (!begun.ok) throw new Error(begun.refusal.text);
	engine.extend(rest);
	engine.end();
};

describe('selections', () => {
	test('they join, change, are named steps, and undo and redo bring each back', () => {
		const engine = open();
		const seen: (Buffer | null)[] = [null];
		const note = (): void => {
			const tone = selected(engine);
			seen.push(tone && Buffer.from(tone));
		};
		engine.select('s', { by: 'shape', shape: rectangle(10, 10, 40, 40) }, 'replace');
		note();
		expect(area(selected(engine))).toBe(1600);
		engine.select('s', { by: 'shape', shape: rectangle(30, 30, 40, 40) }, 'add');
		note();
		expect(area(selected(engine))).toBe(2800);
		engine.changeSelection('s', { to: 'grown', by: 3 });
		note();
		engine.changeSelection('s', { to: 'none' });
		note();
		expect(engine.project.sheets[0]?.selection).toBeNull();
		expect(engine.selectionLines('s')).toEqual([]);
		expect(engine.history.done.map((each) => each.words)).toEqual([
			'Select',
			'Add to the selection',
			'Grow the selection',
			'Select nothing',
		]);
		for (let i = seen.length - 2; i >= 0; i--) {
			engine.undo();
			const tone = selected(engine);
			expect(tone && Buffer.from(tone)).toEqual(seen[i]);
		}
		for (let i = 1; i < seen.length; i++) {
			engine.redo();
			const tone = selected(engine);
			expect(tone && Buffer.from(tone)).toEqual(seen[i]);
		}
		engine.close();
	});
	test('they are kept: a document opened anew has the same', () => {
		const engine = open();
		engine.select('s', { by: 'shape', shape: { kind: 'ellipse', x: 10, y: 10, width: 70, height: 50 } }, 'replace');
		const kept = engine.takeDelta();
		const anew = openEngine(kernels, kept?.project as Project, kept?.tiles ?? [], new Map());
		expect(Buffer.from(selected(anew) as Uint8Array)).toEqual(Buffer.from(selected(engine) as Uint8Array));
		anew.close();
		engine.close();
	});
	test('pieces of the model, similar colours, tones, and what a layer holds', () => {
		const engine = open([washLayer('w', 'W', '#202020'), paintLayer('p', 'P')]);
		const side = Math.round(0.26 * SIDE);
		engine.select('s', { by: 'piece', of: 'island', x: 20, y: 20 }, 'replace');
		// The island and its bleed of six texels.
		expect(area(selected(engine))).toBeGreaterThan(side * side);
		expect(area(selected(engine))).toBeLessThan((side + 14) ** 2);
		const island = area(selected(engine));
		engine.select('s', { by: 'piece', of: 'face', x: 20, y: 20 }, 'replace');
		expect(area(selected(engine))).toBeLessThan(island / 2);
		engine.select('s', { by: 'piece', of: 'part', x: 20, y: 20 }, 'replace');
		expect(area(selected(engine))).toBeGreaterThan(5 * island);
		const off = engine.select('s', { by: 'piece', of: 'island', x: 126, y: 126 }, 'replace');
		expect(off).toMatchObject({ ok: false, refusal: { code: 'off-model' } });
		blot(engine, 4);
		engine.select('s', { by: 'layer', layer: 'p', of: 'shape' }, 'replace');
		expect(area(selected(engine))).toBe(60 * 50);
		engine.select('s', { by: 'similar', x: 5, y: 5, reach: 0, together: true, layer: null }, 'replace');
		expect(area(selected(engine))).toBe(SIDE * SIDE - 60 * 50);
		engine.select('s', { by: 'tones', low: 0, high: 0.2, soft: 0, layer: 'w' }, 'replace');
		expect(area(selected(engine))).toBe(SIDE * SIDE);
		expect(engine.select('s', { by: 'layer', layer: 'p', of: 'mask' }, 'replace').ok).toBe(false);
		engine.close();
	});
	test('strokes, fills, shapes, gradients, tones and clearing stay within what is selected, in proportion where it is soft', () => {
		const acts: readonly ((engine: Engine) => unknown)[] = [
			(engine) =>
				line(engine, spec('draw'), [
					[20, 20],
					[110, 110],
				]),
			(engine) => engine.fill('s', 'p', 60, 60, '#00ff00'),
			(engine) =>
				engine.edit('s', 'p', {
					do: 'shape',
					shape: rectangle(0, 0, 128, 60),
					outline: null,
					repeat: null,
					color: '#0000ff',
				}),
			(engine) =>
				engine.edit('s', 'p', {
					do: 'gradient',
					gradient: {
						fill: 'gradient',
						way: 'linear',
						from: [0, 0],
						to: [128, 0],
						colors: ['#ff0000', '#0000ff'],
						fade: true,
					},
				}),
			(engine) => engine.edit('s', 'p', { do: 'tone', tone: { op: 'contrast', brightness: 1, contrast: 0 } }),
			(engine) => engine.edit('s', 'p', { do: 'tone', tone: { op: 'blur', radius: 5 } }),
			(engine) => engine.edit('s', 'p', { do: 'clear' }),
		];
		for (const act of acts) {
			const engine = open();
			blot(engine, 7);
			const before = picture(engine);
			engine.select('s', { by: 'shape', shape: { kind: 'ellipse', x: 40, y: 40, width: 50, height: 40 } }, 'replace');
			const tone = selected(engine) as Uint8Array;
			act(engine);
			const now = picture(engine);
			let inside = 0;
			for (let i = 0; i < SIDE * SIDE; i++) {
				const same = now.readUInt32LE(i * 4) === before.readUInt32LE(i * 4);
				if (tone[i] === 0 && !same) throw new Error(`${act} changed what is not selected`);
				if (!same) inside++;
			}
			expect(inside).toBeGreaterThan(200);
			engine.undo();
			expect(Buffer.compare(picture(engine), before)).toBe(0);
			engine.close();
		}
	});
	test('a mask from the selection shows just that', () => {
		const engine = open([washLayer('w', 'W', '#ff0000', { mask: { surface: 'w-m', on: true } })]);
		engine.select('s', { by: 'shape', shape: rectangle(20, 20, 30, 30) }, 'replace');
		engine.changeMask('s', 'w', { to: 'selection' });
		const data = picture(engine);
		expect(data.filter((v, i) => i % 4 === 3 && v > 0)).toHaveLength(900);
		engine.close();
	});
});

describe('edits', () => {
	test('a gesture is one step: each edit of it replaces the one before', () => {
		const engine = open();
		blot(engine, 2);
		const before = picture(engine);
		const move = (dx: number): Edit => ({ do: 'transform', map: [1, 0, dx, 0, 1, 0], smooth: false });
		for (const dx of [3, 9, -4, 12]) engine.edit('s', 'p', move(dx), { gesture: 'drag' });
		const moved = picture(engine);
		expect(engine.history.done.map((each) => each.words)).toEqual(['Blot', 'Transform "P"']);
		for (let y = 30; y < 80; y++)
			for (let x = 30; x < 90; x++)
				if (moved.readUInt32LE((y * SIDE + x + 12) * 4) !== before.readUInt32LE((y * SIDE + x) * 4))
					throw new Error('not moved');
		engine.undo();
		expect(Buffer.compare(picture(engine), before)).toBe(0);
		engine.redo();
		expect(Buffer.compare(picture(engine), moved)).toBe(0);
		engine.close();
	});
	test('a move over the border and back within a gesture loses nothing', () => {
		const engine = open();
		blot(engine, 2);
		const before = picture(engine);
		for (const dx of [100, 200, 0])
			engine.edit('s', 'p', { do: 'transform', map: [1, 0, dx, 0, 1, 0], smooth: true }, { gesture: 'drag' });
		expect(Buffer.compare(picture(engine), before)).toBe(0);
		engine.close();
	});
	test('only what is selected moves, and the selection with it', () => {
		const engine = open();
		blot(engine, 3);
		const before = picture(engine);
		engine.select('s', { by: 'shape', shape: rectangle(40, 40, 10, 10) }, 'replace');
		engine.edit('s', 'p', { do: 'transform', map: [1, 0, 50, 0, 1, 0], smooth: false });
		const now = picture(engine);
		for (let y = 40; y < 50; y++)
			for (let x = 40; x < 50; x++) {
				expect(now[(y * SIDE + x) * 4 + 3]).toBe(0);
				expect(now.readUInt32LE((y * SIDE + x + 50) * 4)).toBe(before.readUInt32LE((y * SIDE + x) * 4));
			}
		expect(now.readUInt32LE((35 * SIDE + 35) * 4)).toBe(before.readUInt32LE((35 * SIDE + 35) * 4));
		const tone = selected(engine) as Uint8Array;
		expect([tone[45 * SIDE + 45], tone[45 * SIDE + 95], area(tone)]).toEqual([0, 255, 100]);
		engine.undo();
		expect(area(selected(engine))).toBe(100);
		expect((selected(engine) as Uint8Array)[45 * SIDE + 45]).toBe(255);
		engine.close();
	});
	test('turned by any angle and back, smoothly, a soft picture stays near itself', () => {
		fc.assert(
			fc.property(fc.double({ min: -3, max: 3, noNaN: true }), (angle) => {
				const engine = open();
				const data = new Uint8Array(SIDE * SIDE * 4);
				for (let i = 0; i < SIDE * SIDE; i++) {
					const d = Math.hypot((i % SIDE) - 64, Math.floor(i / SIDE) - 60);
					data.set([120 + 60 * Math.sin(d / 9), 90, 160, Math.min(255, Math.max(0, (40 - d) * 16))], i * 4);
				}
				engine.lay('s', 'p', 'color', { width: SIDE, height: SIDE, data }, 'Rings');
				const before = picture(engine);
				const [c, s] = [Math.cos(angle), Math.sin(angle)];
				const map: Affine = [c, -s, 64 - 64 * c + 60 * s, s, c, 60 - 64 * s - 60 * c];
				engine.edit('s', 'p', { do: 'transform', map, smooth: true });
				engine.edit('s', 'p', { do: 'transform', map: inverseOf(map) as Affine, smooth: true });
				const now = picture(engine);
				let sum = 0;
				for (let i = 0; i < now.length; i++)
					sum +=
						Math.abs((now[i] as number) - (before[i] as number)) * (i % 4 === 3 ? 1 : (before[i | 3] as number) / 255);
				engine.close();
				expect(after(map, inverseOf(map) as Affine)[0]).toBeCloseTo(1, 9);
				return sum / (Math.PI * 40 * 40) < 6;
			}),
			{ numRuns: 12 },
		);
	});
	test('what would be pressed flat is refused in words', () => {
		const engine = open();
		blot(engine, 3);
		expect(() => engine.edit('s', 'p', { do: 'transform', map: [0, 0, 5, 0, 0, 5], smooth: true })).toThrow(
			/at least a texel/,
		);
		engine.close();
	});
	test('a gradient from pot to pot goes through its middle in OKLab, and round and angle go as they say', () => {
		const engine = open();
		const lay = (
			way: 'linear' | 'round' | 'angle',
			to: readonly [number, number],
		): ((x: number, y: number) => number) => {
			engine.edit('s', 'p', {
				do: 'gradient',
				gradient: { fill: 'gradient', way, from: [64, 64], to, colors: ['#000000', '#ffffff'], fade: false },
			});
			return (x, y) => engine.sample('s', x, y)[0];
		};
		const linear = lay('linear', [124, 64]);
		expect([linear(10, 5), linear(64, 99) < 3, linear(127, 3)]).toEqual([0, true, 255]);
		// Half way OKLab has lightness 0.5, which sRGB writes as 99.
		expect(Math.abs(linear(94, 20) - 99)).toBeLessThan(4);
		const round = lay('round', [64, 104]);
		expect(Math.abs(round(64, 84) - round(84, 64))).toBeLessThanOrEqual(1);
		expect(round(64, 110)).toBe(255);
		const angle = lay('angle', [100, 64]);
		expect(angle(100, 66)).toBeLessThan(20);
		expect(angle(100, 61)).toBeGreaterThan(235);
		engine.close();
	});
	test('on a mask shapes lay their tone; a locked shape keeps its alpha', () => {
		const engine = open([paintLayer('p', 'P', { mask: { surface: 'p-m', on: true }, lockAlpha: true })]);
		blot(engine, 5);
		engine.edit(
			's',
			'p',
			{ do: 'shape', shape: rectangle(0, 0, 50, 128), outline: null, repeat: null, color: '#000000' },
			{ onMask: true },
		);
		expect(texels(engine, 'p-m')[40 * SIDE + 20]).toBe(0);
		engine.edit('s', 'p', {
			do: 'shape',
			shape: rectangle(0, 0, 128, 128),
			outline: null,
			repeat: null,
			color: '#00ff00',
		});
		const data = texels(engine, 'p');
		expect([...data.slice((40 * SIDE + 40) * 4, (40 * SIDE + 40) * 4 + 4)]).toEqual([0, 255, 0, 255]);
		expect(data[(10 * SIDE + 10) * 4 + 3]).toBe(0);
		engine.close();
	});
	test('where there is nothing to change it is said', () => {
		const engine = open();
		expect(engine.edit('s', 'p', { do: 'clear' })).toMatchObject({ ok: false, refusal: { code: 'nothing-there' } });
		expect(engine.edit('s', undefined, { do: 'clear' })).toMatchObject({ ok: false, refusal: { code: 'no-layer' } });
		engine.close();
	});
});

describe('scraping', () => {
	const coat = (id: string, color: string, depth: number): Layer =>
		washLayer(id, id, color, { mask: { surface: `${id}-m`, on: true }, coat: { depth, falloff: 0.2 } });
	const coats = (): Engine => {
		const engine = open([
			washLayer('tin', 'Tin', '#c0c0c0'),
			coat('primer', '#c04030', 0.4),
			coat('black', '#181818', 0.4),
		]);
		for (const id of ['primer', 'black']) engine.changeMask('s', id, { to: 'value', value: 255 });
		return engine;
	};
	test('one stroke shows the coats in rings: metal inside primer inside black, wider at the top', () => {
		const engine = coats();
		line(engine, spec('scrape'), [
			[20, 64],
			[108, 64],
		]);
		const across = Array.from({ length: 40 }, (_, i) => engine.sample('s', 64, 44 + i).slice(0, 3) as number[]);
		const kind = ([r, g]: number[]): string =>
			(r as number) > 150 && (g as number) > 150 ? 'tin' : (r as number) > 100 ? 'primer' : 'black';
		const runs = across.map(kind).filter((each, i, all) => each !== all[i - 1]);
		expect(runs).toEqual(['black', 'primer', 'tin', 'primer', 'black']);
		const gone = (id: string): number => texels(engine, `${id}-m`).reduce((sum, v) => sum + (255 - v) / 255, 0);
		expect(gone('black')).toBeGreaterThan(1.3 * gone('primer'));
		expect(engine.history.done.at(-1)?.words).toBe('Scrape the coats');
		const scraped = picture(engine);
		engine.undo();
		expect(engine.sample('s', 64, 64)[0]).toBeLessThan(40);
		engine.redo();
		expect(Buffer.compare(picture(engine), scraped)).toBe(0);
		engine.close();
	});
	test('mending along a scrape puts all coats back and leaves no rim; at any strength the top coat comes back', () => {
		const along = [
			[20, 64],
			[108, 64],
		] as const;
		for (const edge of [0, 0.4, 1]) {
			const engine = coats();
			const whole = picture(engine);
			const shape = { ...spec('scrape').tip, edge, size: 40 };
			line(engine, spec('scrape', { tip: shape }), along);
			expect(engine.sample('s', 64, 64)[0]).toBeGreaterThan(150);
			line(engine, spec('mend', { tip: shape }), along);
			const mended = picture(engine);
			let worst = 0;
			for (let i = 0; i < mended.length; i++)
				worst = Math.max(worst, Math.abs((mended[i] as number) - (whole[i] as number)));
			expect(worst).toBeLessThanOrEqual(10);
			engine.undo();
			engine.undo();
			expect(Buffer.compare(picture(engine), whole)).toBe(0);
			line(engine, spec('scrape', { tip: shape }), along);
			const top = (): number => texels(engine, 'black-m')[64 * SIDE + 64] as number;
			let before = top();
			for (const strength of [0.1, 0.3, 0.6]) {
				line(engine, spec('mend', { tip: { ...shape, strength } }), along);
				expect(top()).toBeGreaterThan(before + 10);
				before = top();
			}
			engine.close();
		}
	});
	test('a deeper scrape never leaves more of a coat, and a selection limits it', () => {
		fc.assert(
			fc.property(
				fc.double({ min: 0, max: 1, noNaN: true }),
				fc.double({ min: 0, max: 1, noNaN: true }),
				fc.double({ min: 0, max: 1, noNaN: true }),
				(a, b, falloff) => coatGone(Math.min(a, b), 0.3, 0.4, falloff) <= coatGone(Math.max(a, b), 0.3, 0.4, falloff),
			),
		);
		expect([coatGone(0.3, 0.3, 0.4, 0.5), coatGone(0.7, 0.3, 0.4, 0.5)]).toEqual([0, 1]);
		const engine = coats();
		engine.select('s', { by: 'shape', shape: rectangle(0, 0, 64, 128) }, 'replace');
		line(engine, spec('scrape'), [
			[20, 64],
			[108, 64],
		]);
		expect(engine.sample('s', 50, 64)[0]).toBeGreaterThan(150);
		expect(engine.sample('s', 80, 64)[0]).toBeLessThan(40);
		engine.close();
	});
	test('with no coat the reason is said', () => {
		const engine = open();
		const begun = engine.begin(spec('scrape'), [{ x: 5, y: 5, pressure: 1 }]);
		expect(begun).toMatchObject({ ok: false, refusal: { code: 'no-coats' } });
		engine.close();
	});
});

test('a stroke wholly beside what is selected changes nothing, makes no step, and says so with the way out', () => {
	const engine = open();
	blot(engine, 6);
	engine.select('s', { by: 'shape', shape: rectangle(100, 100, 20, 20) }, 'replace');
	const before = picture(engine);
	const steps = engine.history.done.length;
	line(engine, spec('draw'), [
		[20, 20],
		[60, 40],
	]);
	expect(engine.missed).toMatchObject({ code: 'guarded', mend: { label: 'Select nothing' } });
	expect(engine.history.done).toHaveLength(steps);
	expect(Buffer.compare(picture(engine), before)).toBe(0);
	line(engine, spec('draw'), [
		[20, 20],
		[110, 110],
	]);
	expect(engine.missed).toBeNull();
	expect(engine.history.done).toHaveLength(steps + 1);
	engine.close();
});

test('the border of a whole island lies on its seams on the model; of all there is next to none', () => {
	const engine = open();
	engine.select('s', { by: 'piece', of: 'island', x: 20, y: 20 }, 'replace');
	const places = engine.selectionOnModel('s');
	expect(places.length).toBeGreaterThan(60);
	// The island is one side of the box from -1 to 1: its border runs along the box's edges.
	for (let i = 0; i < places.length; i += 3) {
		const near = [0, 1, 2].filter((k) => Math.abs(Math.abs(places[i + k] as number) - 1) < 0.08).length;
		if (near < 2) throw new Error(`a border within the side at ${places.slice(i, i + 3)}`);
	}
	engine.changeSelection('s', { to: 'all' });
	// But for single texels at corners, where three islands meet.
	expect(engine.selectionOnModel('s').length).toBeLessThan(places.length / 10);
	engine.close();
});

test('lettering stands upright on each side of the box, and is turned over where the island is mirrored', () => {
	const engine = open();
	const place = engine.letterPlace('s', 20, 20);
	expect(place).toMatchObject({ mirrored: false });
	expect(Math.abs((place?.box ?? 0) - 0.26 * SIDE)).toBeLessThan(1);
	const flipped = { ...mesh, uvs: mesh.uvs.map((v, i) => (i % 2 ? v : 1 - v)) };
	const other = openEngine(kernels, projectOf(flipped, SIDE), [], new Map([['m', flipped]]));
	const there = other.letterPlace('s', SIDE - 20, 20);
	expect(there).toMatchObject({ mirrored: true, turn: place?.turn });
	expect(engine.letterPlace('s', 126, 126)).toBeNull();
	other.close();
	engine.close();
});

test('a layer copied goes to another sheet of another size, with its mask, its recipe and what is within it', () => {
	const project: Project = {
		...projectOf(mesh, SIDE, [paintLayer('p', 'P', { mask: { surface: 'p-m', on: true } })]),
	};
	const two: Project = {
		...project,
		sheets: [
			...project.sheets,
			{ id: 't', name: 'T', width: 64, height: 64, bleed: 4, base: null, guide: null, layers: [] },
		],
	};
	const engine = openEngine(kernels, two, [], new Map([['m', mesh]]));
	engine.edit('s', 'p', {
		do: 'shape',
		shape: rectangle(32, 32, 64, 64),
		outline: null,
		repeat: null,
		color: '#ff0000',
	});
	engine.changeMask('s', 'p', { to: 'value', value: 128 });
	let n = 0;
	const { layer } = engine.paste(engine.clip('s', 'p'), 't', 0, null, () => `n${n++}`);
	expect(engine.project.sheets[1]?.layers[0]).toMatchObject({
		id: layer,
		name: 'P',
		kind: 'paint',
		mask: { on: true },
	});
	expect(engine.sample('t', 32, 32)).toEqual([255, 0, 0, 128]);
	expect(engine.sample('t', 10, 32)[3]).toBe(0);
	engine.select('s', { by: 'shape', shape: rectangle(0, 0, 64, 128) }, 'replace');
	engine.paste(engine.clip('s', 'p'), 's', 1, null, () => `n${n++}`);
	const pasted = engine.project.sheets[0]?.layers[1]?.id ?? '';
	expect([engine.sample('s', 50, 50, pasted)[3], engine.sample('s', 80, 50, pasted)[3]]).toEqual([255, 0]);
	engine.undo();
	expect(engine.project.sheets[0]?.layers).toHaveLength(1);
	engine.close();
});
