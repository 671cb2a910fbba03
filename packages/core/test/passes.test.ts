/** Light and dark passes: where they fall, what colours they have, what they leave alone. */
import type { Kernels } from '@eppu/kernels';
import { loadKernels } from '@eppu/kernels/node';
import { beforeAll, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { apiaryPalette } from '../src/color/index.ts';
import { groupLayer, type Layer, type Project, paintLayer, projectProblem } from '../src/document/index.ts';
import { type Engine, openEngine } from '../src/engine/index.ts';
import { type PassSpec, packedOf, passMasks, pixelColors, type TexelMask } from '../src/pixel/index.ts';

let kernels: Kernels;
beforeAll(async () => {
	kernels = await loadKernels();
});

const [W, H] = [16, 12];
const gold = '#e8b345';
const project = (layers: readonly Layer[], pixel = true): Project => ({
	schema: 1,
	id: 'pr',
	name: 'P',
	models: [],
	palette: apiaryPalette,
	sheets: [
		{ id: 's', name: 'S', width: W, height: H, bleed: 0, base: null, guide: null, ...(pixel ? { pixel } : {}), layers },
	],
});
const open = (layers: readonly Layer[], pixel = true): Engine =>
	openEngine(kernels, project(layers, pixel), [], new Map());
const spec = (change: Partial<PassSpec> = {}): PassSpec => ({
	side: [-1, -1],
	touching: 4,
	deep: 1,
	within: false,
	...change,
});

/** How many rings lie around each texel, from the nearest that is out: by sides or by corners too. */
function depths({ width, height, data }: TexelMask, touching: 4 | 8): (x: number, y: number) => number {
	return (x, y) => {
		let least = Infinity;
		for (let v = -1; v <= height; v++)
			for (let u = -1; u <= width; u++) {
				const inside = u >= 0 && v >= 0 && u < width && v < height && data[v * width + u] === 1;
				if (inside) continue;
				const [a, b] = [Math.abs(u - x), Math.abs(v - y)];
				least = Math.min(least, touching === 4 ? a + b : Math.max(a, b));
			}
		return least - 1;
	};
}

test('what looks towards the light is lit, what looks away is not, ring by ring, as distances say', () => {
	const way = fc.constantFrom(-1 as const, 0 as const, 1 as const);
	fc.assert(
		fc.property(
			fc.array(fc.boolean(), { minLength: 63, maxLength: 63 }),
			fc.tuple(way, way).filter(([x, y]) => x !== 0 || y !== 0),
			fc.constantFrom(4 as const, 8 as const),
			fc.integer({ min: 1, max: 4 }),
			fc.boolean(),
			(cells, side, touching, deep, within) => {
				const held: TexelMask = { width: 9, height: 7, data: Uint8Array.from(cells, Number) };
				const { light, dark } = passMasks(held, { side, touching, deep, within });
				const depth = depths(held, touching);
				const first = within ? 1 : 0;
				for (let y = 0; y < 7; y++)
					for (let x = 0; x < 9; x++) {
						const own = depth(x, y);
						const looks = (k: 1 | -1): boolean => {
							if (own < first || own >= first + deep) return false;
							const [dx, dy] = [side[0] * k, side[1] * k];
							return (dx !== 0 && depth(x + dx, y) < own) || (dy !== 0 && depth(x, y + dy) < own);
						};
						const [to, away] = [looks(1), looks(-1)];
						expect([light.data[y * 9 + x], dark.data[y * 9 + x]]).toEqual([Number(to && !away), Number(away && !to)]);
					}
			},
		),
		{ numRuns: 200 },
	);
});

/** A filled box of one colour on a layer. */
function drawn(engine: Engine, layer: string): void {
	engine.edit('s', layer, {
		do: 'shape',
		shape: { kind: 'rectangle', x: 3, y: 2, width: 8, height: 6, radius: 0 },
		outline: null,
		repeat: null,
		color: gold,
	});
}

test('passes are layers above what they fall on, a step along its ramp, undone as one', () => {
	const engine = open([
		groupLayer('g', 'G', [paintLayer('p', 'P'), paintLayer('c', 'C', { clip: true })]),
		paintLayer('t', 'T'),
	]);
	drawn(engine, 'p');
	const before = engine.composite('s').data.slice();
	engine.addPasses('s', 'p', spec({ deep: 2 }), ['l', 'd']);
	expect(projectProblem(engine.project)).toBeNull();
	const [group] = engine.project.sheets[0]?.layers ?? [];
	expect(group && 'layers' in group && group.layers.map(({ id, name }) => [id, name])).toEqual([
		['p', 'P'],
		['c', 'C'],
		['l', 'Light pass'],
		['d', 'Dark pass'],
	]);
	const colors = pixelColors(apiaryPalette);
	const [up, down] = [1, -1].map((by) => colors.step(packedOf(gold), by as 1 | -1));
	const texel = (id: string, x: number, y: number): number =>
		new Uint32Array(engine.layerPicture('s', id).data.buffer)[y * W + x] as number;
	// The lightest of a ramp has no lighter: nothing is laid there.
	const lit = up === packedOf(gold) ? 0 : (0xff000000 | (up as number)) >>> 0;
	expect([texel('l', 5, 2), texel('l', 3, 5), texel('l', 5, 3), texel('l', 5, 4)]).toEqual([lit, lit, lit, 0]);
	expect([texel('d', 5, 7), texel('d', 10, 4), texel('d', 5, 4)]).toEqual([
		(0xff000000 | (down as number)) >>> 0,
		(0xff000000 | (down as number)) >>> 0,
		0,
	]);
	// The corner that sees both is in neither.
	expect([texel('l', 10, 2), texel('d', 10, 2)]).toEqual([0, 0]);
	engine.undo();
	expect(engine.composite('s').data).toEqual(before);
	expect(engine.project.sheets[0]?.layers).toHaveLength(2);
	engine.redo();
	expect(texel('d', 5, 7)).toBe((0xff000000 | (down as number)) >>> 0);
	engine.close();
});

test('where there is nothing to light, and on painted sheets, it is told and nothing changes', () => {
	const empty = open([paintLayer('p', 'P')]);
	expect(() => empty.addPasses('s', 'p', spec(), ['l', 'd'])).toThrow(/Nothing of "P" looks towards the light/);
	expect(() => empty.addPasses('s', 'gone', spec(), ['l', 'd'])).toThrow(/Choose one/);
	expect(empty.project.sheets[0]?.layers).toHaveLength(1);
	empty.close();
	const painted = open([paintLayer('p', 'P')], false);
	expect(() => painted.addPasses('s', 'p', spec(), ['l', 'd'])).toThrow(/pixel sheet/);
	painted.close();
});
