/** Layers without a name of the artist's are called by what they hold. */
import type { Kernels } from '@eppu/kernels';
import { loadKernels } from '@eppu/kernels/node';
import { beforeAll, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { hiveMesh } from '../../../demo/mesh/hive.ts';
import { colorWords, hexOfOklch } from '../src/color/index.ts';
import { type Layer, layerOf, paintLayer, textLayer, washLayer } from '../src/document/index.ts';
import { type Engine, openEngine, type StrokeSpec } from '../src/engine/index.ts';
import { homeCamera } from '../src/projection/index.ts';
import { defaultTip, unruled } from '../src/stroke/index.ts';
import type { Text } from '../src/text/index.ts';
import { box, projectOf } from './oracle/meshes.ts';

let kernels: Kernels;
beforeAll(async () => {
	kernels = await loadKernels();
});

const SIDE = 256;
const open = (layers: readonly Layer[], mesh = box()): Engine =>
	openEngine(kernels, projectOf(mesh, SIDE, layers), [], new Map([['m', mesh]]));
const nameOf = (engine: Engine, id: string): string | undefined => layerOf(engine.project.sheets[0], id)?.name;
const stroke = (engine: Engine, change: Partial<StrokeSpec> = {}, [x, y] = [60, 60]): void => {
	const spec: StrokeSpec = {
		tool: 'draw',
		tip: { ...unruled(defaultTip), size: 24, strength: 1, edge: 1 },
		color: '#e8b345',
		place: { on: 'sheet', sheet: 's' },
		layers: { s: 'p' },
		...change,
	};
	engine.begin(spec, [{ x: x as number, y: y as number, pressure: 1 }]);
	engine.extend([{ x: (x as number) + 20, y: y as number, pressure: 1 }]);
	engine.end();
};

test('the first stroke on a layer calls it, in its own step; a name of the artist stays', () => {
	const engine = open([paintLayer('p', 'Paint', { unnamed: true }), paintLayer('q', 'Glow')]);
	stroke(engine);
	expect(nameOf(engine, 'p')).toBe('Amber strokes');
	expect(engine.history.done.map(({ words }) => words)).toEqual(['Stroke on "Paint"']);
	stroke(engine, { color: '#2040c0' });
	expect(nameOf(engine, 'p')).toBe('Amber strokes');
	engine.undo();
	engine.undo();
	expect([nameOf(engine, 'p'), engine.project.sheets[0]?.layers[0]?.unnamed]).toEqual(['Paint', true]);
	engine.redo();
	expect(nameOf(engine, 'p')).toBe('Amber strokes');
	engine.undo();
	engine.run({ do: 'layer.change', sheet: 's', layer: 'p', change: { name: 'Honey' } });
	stroke(engine);
	expect(nameOf(engine, 'p')).toBe('Honey');
	stroke(engine, { layers: { s: 'q' } });
	expect(nameOf(engine, 'q')).toBe('Glow');
	engine.close();
});

test('what wipes or smears calls nothing; shapes, fills and gradients say what they are; names stay apart', () => {
	const engine = open(['a', 'b', 'c', 'd', 'e'].map((id) => paintLayer(id, id, { unnamed: true })));
	stroke(engine, { tool: 'smear', layers: { s: 'a' } });
	expect(nameOf(engine, 'a')).toBe('a');
	const shape = { kind: 'ellipse', x: 20, y: 20, width: 60, height: 60 } as const;
	engine.edit('s', 'a', { do: 'shape', shape, outline: null, repeat: null, color: '#304a20' });
	expect(nameOf(engine, 'a')).toBe('Dark green ellipse');
	engine.edit('s', 'b', { do: 'fill', color: '#b85a33' });
	engine.edit('s', 'c', { do: 'fill', color: '#b85a33' });
	expect([nameOf(engine, 'b'), nameOf(engine, 'c')]).toEqual(['Rust fill', 'Rust fill 2']);
	const sight = { camera: { ...homeCamera, distance: 6 }, width: 300, height: 300 };
	const gradient = {
		fill: 'gradient',
		way: 'linear',
		from: [0, 0],
		to: [300, 0],
		colors: ['#000000', '#ffffff'],
	} as const;
	engine.editSeen('m', sight, { s: 'd' }, { do: 'gradient', gradient: { ...gradient, fade: false } });
	expect(nameOf(engine, 'd')).toBe('Gradient');
	engine.fill('s', 'e', 40, 40, '#dde0da');
	expect(nameOf(engine, 'e')).toBe('Light grey fill');
	engine.close();
});

test('on a model of several parts the part is named too', () => {
	const mesh = hiveMesh();
	const engine = open([paintLayer('p', 'Paint', { unnamed: true })], mesh);
	const sight = { camera: { ...homeCamera, yaw: 0, pitch: 0, distance: 8 }, width: 300, height: 300 };
	const part = engine.scene('m')?.spotAt(engine.project.sheets, sight, 150, 150)?.part ?? 0;
	stroke(engine, { place: { on: 'model', model: 'm', sight } }, [150, 150]);
	expect(nameOf(engine, 'p')).toBe(`Amber strokes on ${mesh.parts[part]?.name}`);
	engine.close();
});

test('lettering and washes go on being called by what they are, until the artist names them', () => {
	const text: Text = {
		text: 'Mossbarrow',
		font: 'signboard',
		size: 20,
		color: '#000000',
		spacing: 0,
		leading: 1,
		align: 'middle',
		box: null,
		x: 60,
		y: 60,
		turn: 0,
		mirrored: false,
		along: null,
	};
	const engine = open([
		textLayer('t', 'Lettering', text, { unnamed: true }),
		washLayer('w', 'Wash', '#888888', { unnamed: true }),
	]);
	const change = (layer: string, what: object): void =>
		void engine.run({ do: 'layer.change', sheet: 's', layer, change: what });
	change('t', { text: { ...text, text: 'Honey\n  & wax' } });
	expect(nameOf(engine, 't')).toBe('Honey & wax');
	change('t', { opacity: 0.5 });
	change('t', { text: { ...text, text: 'Hive 7' } });
	expect(nameOf(engine, 't')).toBe('Hive 7');
	engine.undo();
	expect(nameOf(engine, 't')).toBe('Honey & wax');
	change('w', { color: '#2d485b' });
	expect(nameOf(engine, 'w')).toMatch(/wash$/);
	change('w', { name: 'Sky' });
	change('w', { color: '#b85a33' });
	expect(nameOf(engine, 'w')).toBe('Sky');
	engine.undo();
	engine.undo();
	change('w', { color: '#b85a33' });
	expect(nameOf(engine, 'w')).toBe('Rust wash');
	engine.close();
});

test('every colour has a word, greys none of a hue', () => {
	fc.assert(
		fc.property(
			fc.double({ min: 0, max: 1, noNaN: true }),
			fc.double({ min: 0, max: 0.3, noNaN: true }),
			fc.double({ min: 0, max: 360, noNaN: true }),
			(l, c, h) => /^[A-Z][a-z]+( [a-z]+)?$/.test(colorWords(hexOfOklch({ l, c, h }))),
		),
	);
	for (const [hex, words] of [
		['#ffffff', 'White'],
		['#000000', 'Black'],
		['#808080', 'Grey'],
		['#7d5431', 'Brown'],
		['#c9dde2', 'Light teal'],
		['#32482f', 'Dark green'],
	] as const)
		expect(colorWords(hex)).toBe(words);
});
