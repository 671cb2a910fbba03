/** Documents of derived surfaces on a small box, for the tests of what is computed from the document. */
import type { Kernels } from '@eppu/kernels';
import {
	adjustLayer,
	groupLayer,
	type Layer,
	lightLayer,
	paintLayer,
	textLayer,
	washLayer,
} from '../../src/document/index.ts';
import { type Engine, type KeptTile, openEngine } from '../../src/engine/index.ts';
import { newFinish } from '../../src/finish/index.ts';
import { type LightPreset, lightPresets } from '../../src/light/index.ts';
import { newStep, type RecipeStep, type StepName } from '../../src/recipe/index.ts';
import type { Text } from '../../src/text/index.ts';
import { box, projectOf } from './meshes.ts';
import { seeded } from './surfaces.ts';

export const SIDE = 160;
export const mesh = box();
export const meshes = new Map([['m', mesh]]);
/** Opens layers on the box's sheet. */
export const openOn = (kernels: Kernels, layers: readonly Layer[], tiles: readonly KeptTile[] = []): Engine =>
	openEngine(kernels, projectOf(mesh, SIDE, layers), tiles, meshes);
export const masked = (layer: Layer, steps: readonly RecipeStep[]): Layer => ({
	...layer,
	mask: { surface: `${layer.id}-m`, on: true, recipe: steps },
});
export const step = (name: StepName, change: object = {}): RecipeStep =>
	({ ...newStep(name, name), ...change }) as RecipeStep;
export const text: Text = {
	text: 'Heather\nhoney',
	font: 'signboard',
	size: 30,
	color: '#2b2d30',
	spacing: 0.05,
	leading: 1,
	align: 'middle',
	box: null,
	x: 80,
	y: 70,
	turn: 12,
	mirrored: false,
	along: null,
};
export const paint = (engine: Engine, layer: string, on: 'color' | 'mask', seed: number): void => {
	const random = seeded(seed);
	const bytes = on === 'color' ? 4 : 1;
	const blots = Array.from(
		{ length: 5 },
		() => [random() * SIDE, random() * SIDE, 8 + random() * 30, random() * 255] as const,
	);
	const data = new Uint8Array(SIDE * SIDE * bytes);
	for (let i = 0; i < SIDE * SIDE; i++)
		for (const [x, y, r, v] of blots)
			if (Math.hypot((i % SIDE) - x, Math.floor(i / SIDE) - y) < r)
				data.set(bytes === 4 ? [v, 255 - v, (v * 3) % 255, 255] : [v], i * bytes);
	engine.lay('s', layer, on, { width: SIDE, height: SIDE, data }, 'Blots');
};
export const picture = (engine: Engine): Buffer => Buffer.from(engine.composite('s').data);
export const alphaAt = (engine: Engine, x: number, y: number): number => engine.sample('s', x, y)[3];

const sun = (lightPresets[0] as LightPreset).rig;

/** Layers of every kind that is computed, each reading another. */
export const everything = (): Layer[] => [
	washLayer('ground', 'Ground', '#8899aa', {
		fill: {
			fill: 'gradient',
			way: 'round',
			from: [80, 80],
			to: [150, 80],
			colors: ['#aa8844', '#223344'],
			fade: false,
		},
	}),
	paintLayer('a', 'A', {
		relief: { from: 'tone', height: 1.5, soft: 2 },
		finishes: [
			newFinish('outline', 'o1'),
			{ ...newFinish('tint', 't1'), mode: 'multiply' },
			{ ...newFinish('stitch', 's1'), inset: 4 } as ReturnType<typeof newFinish>,
		],
	}),
	masked(washLayer('dirt', 'Dirt', '#332211'), [
		step('tap', { layer: 'a', of: 'shape', mix: 'replace' }),
		step('grow', { by: 5 }),
		step('clouds', { mix: 'multiply' }),
		step('blur', { radius: 3 }),
	]),
	groupLayer('g', 'Group', [
		masked(paintLayer('b', 'B'), [
			step('painted', { mix: 'replace' }),
			step('tap', { layer: 'dirt', of: 'mask', mix: 'subtract' }),
		]),
		adjustLayer('soft', 'Soft', { op: 'blur', radius: 4 }),
	]),
	textLayer('words', 'Words', text, {
		finishes: [{ ...newFinish('outline', 'o2'), side: 'middle' } as ReturnType<typeof newFinish>],
	}),
	adjustLayer('sharp', 'Sharp', { op: 'sharpen', amount: 1, radius: 1.2 }),
	lightLayer('sun', 'Sun', sun, { mode: 'multiply' }),
];
