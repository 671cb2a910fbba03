/** Colour grids: cells keep their places, faces lie within theirs and go along; all of it in one step each way. */
import type { Kernels } from '@eppu/kernels';
import { loadKernels } from '@eppu/kernels/node';
import { beforeAll, describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { apiaryPalette, rgbOfHex } from '../src/color/index.ts';
import { type Project, projectProblem, washLayer } from '../src/document/index.ts';
import { type Engine, gridOfSheet, openEngine } from '../src/engine/index.ts';
import { assignedUvs, cellOfCorner, cellUsers, facesUnder } from '../src/grid/index.ts';
import { layoutOf } from '../src/layout/index.ts';
import type { LaidMesh } from '../src/mesh/index.ts';
import { type Cells, cellColor, cellsBlock, cellsOfRamps } from '../src/wash/index.ts';
import { box } from './oracle/meshes.ts';

let kernels: Kernels;
beforeAll(async () => {
	kernels = await loadKernels();
});

const mesh = box();
const cells: Cells = cellsOfRamps(apiaryPalette.ramps ?? [], 8, 8);
const project = (): Project => ({
	schema: 1,
	id: 'g',
	name: 'G',
	palette: apiaryPalette,
	models: ['a', 'b'].map((id) => ({
		id,
		name: id.toUpperCase(),
		asset: { hash: id.repeat(64), name: `${id}.glb` },
		parts: mesh.parts.map(({ name }) => ({ name, sheet: 's', shown: true })),
	})),
	sheets: [
		{
			id: 's',
			name: 'Grid',
			width: 64,
			height: 64,
			bleed: 0,
			base: null,
			guide: null,
			layers: [washLayer('w', 'Cells', '#b4a58c', { fill: cells })],
		},
	],
});
const open = (): Engine =>
	openEngine(
		kernels,
		project(),
		[],
		new Map([
			['a', mesh],
			['b', mesh],
		]),
	);
let made = 0;
const newId = (): string => `n${++made}`;
const all = Array.from({ length: mesh.indices.length / 3 }, (_, face) => face);
const laid = (engine: Engine, model: string): LaidMesh => engine.scene(model)?.mesh as LaidMesh;
/** The cells that a model's faces lie in, as "col row". */
const lying = (engine: Engine, model: string, grid: Cells): Set<string> => {
	const users = cellUsers(laid(engine, model), () => true, grid);
	return new Set([...users.keys()].map((key) => `${key % grid.cols} ${Math.floor(key / grid.cols)}`));
};
const now = (engine: Engine): Cells => gridOfSheet(engine.project.sheets[0] as never)?.cells as Cells;
const seen = (engine: Engine, col: number, row: number): readonly number[] => {
	engine.refresh(() => false);
	const { data } = engine.composite('s');
	const at = ((row * 8 + 4) * 64 + col * 8 + 4) * 4;
	return [...data.subarray(at, at + 4)];
};

describe('cells', () => {
	test('each place shows its colour, ramps go in steps, gradients evenly, spare places are clear, at every size', () => {
		const grid: Cells = {
			fill: 'cells',
			cols: 4,
			rows: 2,
			cells: [
				{ col: 0, row: 0, name: 'A', colors: ['#b85a33'], of: 'flat', along: 'down' },
				{ col: 1, row: 0, name: 'B', colors: ['#ffffff', '#000000'], of: 'ramp', along: 'across' },
				{ col: 2, row: 1, name: 'C', colors: ['#ffffff', '#000000'], of: 'blend', along: 'down' },
			],
		};
		for (const side of [16, 64, 1000]) {
			const data = cellsBlock(grid, { x: 0, y: 0, width: side, height: side }, side, side);
			const at = (u: number, v: number): number[] => {
				const i = (Math.floor(v * side) * side + Math.floor(u * side)) * 4;
				return [...data.subarray(i, i + 4)];
			};
			expect(at(0.1, 0.1)).toEqual([...rgbOfHex('#b85a33'), 255]);
			expect([at(0.28, 0.2), at(0.45, 0.2)]).toEqual([
				[255, 255, 255, 255],
				[0, 0, 0, 255],
			]);
			expect(at(0.9, 0.9)).toEqual([0, 0, 0, 0]);
			const down = [0.51, 0.6, 0.7, 0.8, 0.9, 0.99].map((v) => at(0.6, v)[0] as number);
			expect([...down].sort((a, b) => b - a)).toEqual(down);
			expect(new Set(down).size).toBeGreaterThan(4);
		}
		expect(cellColor(grid.cells[2] as never, 0.5).every((v) => v > 90 && v < 110)).toBe(true);
	});
	test('faces put in a cell stay within it by half a texel of the smallest grid, whatever way they lie', () => {
		fc.assert(
			fc.property(
				fc.integer({ min: 1, max: 16 }),
				fc.integer({ min: 1, max: 16 }),
				fc.nat(255),
				fc.constantFrom('middle' as const, 'height' as const, 'facing' as const, {
					from: [-1, 0, 0.5] as const,
					to: [0.3, 2, 0] as const,
				}),
				fc.constantFrom('down' as const, 'across' as const),
				fc.uniqueArray(fc.constantFrom(...all), { minLength: 1 }),
				(cols, rows, n, along, way, faces) => {
					const cell = { col: n % cols, row: (n >> 4) % rows, along: way };
					const uvs = assignedUvs(mesh, layoutOf(mesh).uvs, faces, { cols, rows }, cell, along);
					const [mu, mv] = [Math.min(0.5 / 16, 0.5 / cols), Math.min(0.5 / 16, 0.5 / rows)];
					const before = layoutOf(mesh).uvs;
					for (let i = 0; i < uvs.length; i += 2) {
						if (!faces.includes(Math.floor(i / 6))) {
							expect([uvs[i], uvs[i + 1]]).toEqual([before[i], before[i + 1]]);
							continue;
						}
						expect(uvs[i] as number).toBeGreaterThanOrEqual(cell.col / cols + mu - 1e-6);
						expect(uvs[i] as number).toBeLessThanOrEqual((cell.col + 1) / cols - mu + 1e-6);
						expect(uvs[i + 1] as number).toBeGreaterThanOrEqual(cell.row / rows + mv - 1e-6);
						expect(uvs[i + 1] as number).toBeLessThanOrEqual((cell.row + 1) / rows - mv + 1e-6);
						if (mu < 0.5 / cols && mv < 0.5 / rows)
							expect(cellOfCorner({ cols, rows }, uvs[i] as number, uvs[i + 1] as number)).toEqual({
								col: cell.col,
								row: cell.row,
							});
					}
				},
			),
		);
	});
	test('along a ramp the highest lies at its upper end, the lowest at its lower one', () => {
		const uvs = assignedUvs(mesh, layoutOf(mesh).uvs, all, cells, { col: 2, row: 3, along: 'down' }, 'height');
		const by = mesh.indices.length;
		const ys = Array.from(
			{ length: by },
			(_, c) => [mesh.positions[(mesh.indices[c] as number) * 3 + 1] as number, uvs[c * 2 + 1] as number] as const,
		);
		const [low, high] = [Math.min(...ys.map(([y]) => y)), Math.max(...ys.map(([y]) => y))];
		for (const [y, v] of ys) expect(v).toBeCloseTo((3.25 + (1 - (y - low) / (high - low)) * 0.5) / 8, 5);
	});
	test('along a line what lies across its start has the ramp’s beginning, across its end the other; beyond it no more', () => {
		const line = { from: [-1, 0.2, 0], to: [1, 0.2, 0] } as const;
		const grid = { col: 2, row: 3, along: 'across' } as const;
		const uvs = assignedUvs(mesh, layoutOf(mesh).uvs, all, cells, grid, line);
		for (let c = 0; c < mesh.indices.length; c++) {
			const x = mesh.positions[(mesh.indices[c] as number) * 3] as number;
			const share = Math.min(1, Math.max(0, (x + 1) / 2));
			expect(uvs[c * 2]).toBeCloseTo((2.25 + share * 0.5) / 8, 5);
		}
		const back = assignedUvs(mesh, layoutOf(mesh).uvs, all, cells, grid, { from: line.to, to: line.from });
		for (let c = 0; c < mesh.indices.length; c++)
			expect((uvs[c * 2] as number) + (back[c * 2] as number)).toBeCloseTo(5 / 8, 5);
		// A line without a length leads nowhere: all stays within the cell.
		const none = assignedUvs(mesh, layoutOf(mesh).uvs, all, cells, grid, { from: line.to, to: line.to });
		expect(none.every((v) => Number.isFinite(v))).toBe(true);
	});
});

describe('what lies at a place of the grid', () => {
	const square = (at: number, size: number) => ({
		parts: [
			{ name: 'Lid', firstFace: 0, faces: 1 },
			{ name: 'Pot', firstFace: 1, faces: 1 },
		],
		indices: Uint32Array.from([0, 1, 2, 2, 1, 3]),
		uvs: Float32Array.from([at, at, at + size, at, at, at + size, at + size, at + size]),
	});
	const everything = (): boolean => true;
	test('the faces that cover it, of all models; in either winding; only of parts that are on the sheet', () => {
		const [a, b] = [square(0.3, 0.1), square(0.32, 0.1)];
		const under = (u: number, v: number, takes = everything) =>
			facesUnder(
				[
					{ mesh: a, takes },
					{ mesh: b, takes },
				],
				cells,
				u,
				v,
			);
		expect(under(0.31, 0.31)).toEqual([[0], []]);
		expect(under(0.33, 0.33)).toEqual([[0], [0]]);
		expect(under(0.395, 0.39)).toEqual([[1], [1]]);
		expect(under(0.39, 0.33)).toEqual([[1], [0]]);
		expect(under(0.33, 0.33, ((part: number) => part === 1) as never)).toEqual([[1], []]);
		expect(under(0.9, 0.9)).toEqual([[], []]);
	});
	test('where none covers it those whose middle is in the cell there: faces along its colours have no area', () => {
		const flat = { ...square(0.3, 0), uvs: Float32Array.from([0.3, 0.26, 0.3, 0.3, 0.3, 0.35, 0.3, 0.3]) };
		expect(facesUnder([{ mesh: flat, takes: everything }], cells, 0.26, 0.26)).toEqual([[0, 1]]);
		expect(facesUnder([{ mesh: flat, takes: everything }], cells, 0.2, 0.26)).toEqual([[]]);
	});
});

describe('a grid and its models', () => {
	test('models go to a cell together as one step', () => {
		const engine = open();
		const steps = engine.history.done.length;
		const taken = new Map([
			['a', all],
			['b', all.slice(0, 2)],
		]);
		engine.assignCell('s', taken, { col: 2, row: 1 }, 'middle', newId);
		expect(engine.history.done).toHaveLength(steps + 1);
		expect(lying(engine, 'a', cells)).toEqual(new Set(['2 1']));
		expect(lying(engine, 'b', cells).has('2 1')).toBe(true);
		engine.undo();
		expect(lying(engine, 'a', cells).has('2 1') && lying(engine, 'a', cells).size === 1).toBe(false);
	});
	test('two models share it; parts put in cells show their colours; each is a step that is undone', () => {
		const engine = open();
		expect(projectProblem(engine.project)).toBeNull();
		const before = layoutOf(laid(engine, 'a')).uvs;
		engine.assignCell('s', new Map([['a', all]]), { col: 2, row: 1 }, 'middle', newId);
		engine.assignCell('s', new Map([['b', all.slice(0, 4)]]), { col: 5, row: 4 }, 'height', newId);
		expect(lying(engine, 'a', cells)).toEqual(new Set(['2 1']));
		expect(lying(engine, 'b', cells).has('5 4')).toBe(true);
		expect(seen(engine, 2, 1)).toEqual([...rgbOfHex(apiaryPalette.ramps?.[1]?.colors[2] as string), 255]);
		engine.undo();
		engine.undo();
		expect(layoutOf(laid(engine, 'a')).uvs).toEqual(before);
		engine.redo();
		expect(lying(engine, 'a', cells)).toEqual(new Set(['2 1']));
		expect(() => engine.assignCell('s', new Map([['a', all]]), { col: 7, row: 7 }, 'middle', newId)).toThrow(/spare/);
	});
	test('a moved cell takes its users along; another count keeps every place; what would lose one is refused', () => {
		const engine = open();
		engine.assignCell('s', new Map([['a', all]]), { col: 2, row: 1 }, 'middle', newId);
		const [from, to] = [
			{ col: 2, row: 1 },
			{ col: 7, row: 6 },
		];
		const list = cells.cells.map((cell) => (cell.col === 2 && cell.row === 1 ? { ...cell, ...to } : cell));
		const steps = engine.history.done.length;
		engine.changeCells('s', { ...cells, cells: list }, [[from, to]], 'Move', newId);
		expect(engine.history.done).toHaveLength(steps + 1);
		expect(lying(engine, 'a', now(engine))).toEqual(new Set(['7 6']));
		expect(seen(engine, 7, 6)).toEqual([...rgbOfHex(apiaryPalette.ramps?.[1]?.colors[2] as string), 255]);
		expect(seen(engine, 2, 1)).toEqual([0, 0, 0, 0]);
		engine.changeCells('s', { ...now(engine), cols: 12, rows: 9 }, [], 'Count', newId);
		expect(lying(engine, 'a', now(engine))).toEqual(new Set(['7 6']));
		expect(() => engine.changeCells('s', { ...now(engine), cols: 7 }, [], 'Count', newId)).toThrow(
			/no place in 7 by 9/,
		);
		const two = [...now(engine).cells, { ...(now(engine).cells[0] as Cells['cells'][number]) }];
		expect(() => engine.changeCells('s', { ...now(engine), cells: two }, [], 'Two', newId)).toThrow(/one place/);
		engine.undo();
		engine.undo();
		expect(lying(engine, 'a', cells)).toEqual(new Set(['2 1']));
		expect(now(engine)).toEqual(cells);
	});
	test('counts that one drag goes through are one step, from what was before it; what is refused costs nothing', () => {
		const engine = open();
		engine.assignCell('s', new Map([['a', all]]), { col: 2, row: 1 }, 'middle', newId);
		const before = layoutOf(laid(engine, 'a')).uvs.slice();
		const steps = engine.history.done.length;
		for (const cols of [9, 12, 16, 11]) engine.changeCells('s', { ...now(engine), cols }, [], 'Count', newId, 'drag');
		expect(engine.history.done).toHaveLength(steps + 1);
		expect(() => engine.changeCells('s', { ...now(engine), cols: 2 }, [], 'Count', newId, 'drag')).toThrow(/no place/);
		expect(now(engine).cols).toBe(11);
		expect(lying(engine, 'a', now(engine))).toEqual(new Set(['2 1']));
		const straight = open();
		straight.assignCell('s', new Map([['a', all]]), { col: 2, row: 1 }, 'middle', newId);
		straight.changeCells('s', { ...cells, cols: 11 }, [], 'Count', newId);
		expect(layoutOf(laid(engine, 'a')).uvs).toEqual(layoutOf(laid(straight, 'a')).uvs);
		engine.undo();
		expect(layoutOf(laid(engine, 'a')).uvs).toEqual(before);
		expect(now(engine)).toEqual(cells);
		engine.redo();
		expect(now(engine).cols).toBe(11);
	});
	test('a colour that is changed changes the sheet alone', () => {
		const engine = open();
		const uvs = layoutOf(laid(engine, 'a')).uvs;
		const list = cells.cells.map((cell, i) => (i === 0 ? { ...cell, colors: ['#123456'] } : cell));
		engine.changeCells('s', { ...cells, cells: list }, [], 'Colour', newId);
		expect(layoutOf(laid(engine, 'a')).uvs).toEqual(uvs);
		expect(seen(engine, 0, 0)).toEqual([0x12, 0x34, 0x56, 255]);
	});
});
