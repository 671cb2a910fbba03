/** Layers cut, pictures put down, and masks that begin hidden. */
import type { Kernels } from '@eppu/kernels';
import { loadKernels } from '@eppu/kernels/node';
import { beforeAll, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { type Layer, type Project, paintLayer, washLayer } from '../src/document/index.ts';
import { pictureClip } from '../src/edit/index.ts';
import { type Engine, openEngine } from '../src/engine/index.ts';
import { seeded } from './oracle/surfaces.ts';

let kernels: Kernels;
beforeAll(async () => {
	kernels = await loadKernels();
});
const [WIDTH, HEIGHT] = [160, 96];
const project = (layers: readonly Layer[]): Project => ({
	schema: 1,
	id: 'p',
	name: 'Clips',
	models: [],
	sheets: [{ id: 's', name: 'Sheet', width: WIDTH, height: HEIGHT, bleed: 4, base: null, layers, guide: null }],
	palette: { name: 'Few', colors: ['#000000'] },
});
const open = (...layers: readonly Layer[]): Engine => openEngine(kernels, project(layers), [], new Map());
const look = (engine: Engine): Buffer => Buffer.from(engine.composite('s').data);
const noise = (seed: number): Uint8Array => {
	const chance = seeded(seed);
	return Uint8Array.from({ length: WIDTH * HEIGHT * 4 }, () => Math.floor(chance() * 256));
};
const rectangle = (x: number, y: number, width: number, height: number) =>
	({ by: 'shape', shape: { kind: 'rectangle', x, y, width, height, radius: 0 } }) as const;

test('what is cut and what stays make up the layer that was, and one undo takes all of it back', () => {
	fc.assert(
		fc.property(
			fc.nat(99),
			fc.nat(WIDTH - 2),
			fc.nat(HEIGHT - 2),
			fc.integer({ min: 1, max: 120 }),
			(seed, x, y, side) => {
				const engine = open(
					washLayer('w', 'Ground', '#808080'),
					paintLayer('p', 'Coat', { mask: { surface: 'm', on: true } }),
				);
				engine.lay(
					's',
					'p',
					'mask',
					{ width: WIDTH, height: HEIGHT, data: noise(seed + 1).slice(0, WIDTH * HEIGHT) },
					'Mask',
				);
				engine.lay('s', 'p', 'color', { width: WIDTH, height: HEIGHT, data: noise(seed) }, 'Noise');
				engine.select('s', rectangle(x, y, side, side), 'replace');
				const before = look(engine);
				const [cut, stays] = ['n', 'p'];
				engine.cut('s', 'p', cut);
				expect(engine.history.done.at(-1)?.words).toBe('Cut from "Coat"');
				const [inside, outside] = [
					[x, y],
					[(x + side + 3) % WIDTH, (y + side + 3) % HEIGHT],
				] as const;
				expect(engine.sample('s', inside[0], inside[1], stays)[3]).toBe(0);
				if (outside[0] > x + side && outside[1] > y + side)
					expect(engine.sample('s', outside[0], outside[1], cut)[3]).toBe(0);
				// Whole texels are cut: the picture stays the same.
				expect(look(engine).equals(before)).toBe(true);
				engine.undo();
				expect(look(engine).equals(before)).toBe(true);
				expect(engine.project.sheets[0]?.layers).toHaveLength(2);
				engine.redo();
				expect(look(engine).equals(before)).toBe(true);
				engine.close();
			},
		),
		{ numRuns: 25 },
	);
});

test('a cut of nothing says why and changes nothing', () => {
	const engine = open(washLayer('w', 'Ground', '#808080'), paintLayer('p', 'Coat', { locked: true }));
	expect(() => engine.cut('s', 'p', 'n')).toThrow('Nothing is selected');
	expect(() => engine.cut('s', 'w', 'n')).toThrow('Only a paint layer has pixels to cut');
	engine.select('s', rectangle(0, 0, 20, 20), 'replace');
	expect(() => engine.cut('s', 'p', 'n')).toThrow('"Coat" is locked');
	engine.run({ do: 'layer.change', sheet: 's', layer: 'p', change: { locked: false } });
	const steps = engine.history.done.length;
	expect(() => engine.cut('s', 'p', 'n')).toThrow('There is nothing on "Coat" where it is selected');
	expect(engine.history.done).toHaveLength(steps);
	engine.close();
});

test('a picture is put down in the middle texel by texel, or made to fit', () => {
	const engine = open(paintLayer('p', 'Coat'));
	const [sheet] = engine.project.sheets;
	if (!sheet) throw new Error('no sheet');
	const picture = { width: 3, height: 2, data: Uint8Array.from({ length: 24 }, (_, i) => (i % 4 === 3 ? 255 : i * 9)) };
	const small = engine.paste(pictureClip(picture, 'Small', sheet), 's', 1, null, () => 'small');
	for (let i = 0; i < 6; i++)
		expect(engine.sample('s', 79 + (i % 3), 47 + Math.floor(i / 3), small.layer)).toEqual([
			...picture.data.slice(i * 4, i * 4 + 4),
		]);
	expect(engine.sample('s', 78, 47, small.layer)[3]).toBe(0);
	const wide = { width: 640, height: 192, data: new Uint8Array(640 * 192 * 4).fill(255) };
	const large = engine.paste(pictureClip(wide, 'Large', sheet), 's', 2, null, () => 'large');
	expect(engine.sample('s', 0, 48, large.layer)[3]).toBe(255);
	expect(engine.sample('s', 159, 48, large.layer)[3]).toBe(255);
	expect(engine.sample('s', 80, 20, large.layer)[3]).toBe(0);
	expect(engine.project.sheets[0]?.layers.map(({ name }) => name)).toEqual(['Coat', 'Small', 'Large']);
	engine.close();
});

test('a mask that begins hidden hides all, also when it is opened anew', () => {
	const engine = open(washLayer('w', 'Wash', '#ff0000'));
	const command = { do: 'layer.change', sheet: 's', layer: 'w', change: { mask: { surface: 'm', on: true } } } as const;
	engine.run({ ...command, hidden: true });
	expect(engine.sample('s', 5, 5)).toEqual([0, 0, 0, 0]);
	const { project: kept, tiles } = engine.whole();
	const anew = openEngine(kernels, kept, tiles, new Map());
	expect(anew.sample('s', 5, 5)).toEqual([0, 0, 0, 0]);
	anew.close();
	engine.undo();
	expect(engine.sample('s', 5, 5)).toEqual([255, 0, 0, 255]);
	engine.close();
});

test('strokes on a wash are led to its mask', () => {
	const engine = open(washLayer('w', 'Wash', '#ff0000'));
	const refused = (): unknown => {
		const result = engine.edit('s', 'w', { do: 'fill', color: '#00ff00' });
		return result.ok ? null : result.refusal.mend;
	};
	expect(refused()).toEqual({ label: 'Add a mask', addMask: 'w', sheet: 's' });
	engine.run({ do: 'layer.change', sheet: 's', layer: 'w', change: { mask: { surface: 'm', on: true } } });
	expect(refused()).toEqual({ label: 'Paint on its mask', paintMask: 'w', sheet: 's' });
	engine.close();
});
