/** Pixel sheets and colour grids as they are asked for on the page: what is snapped, what is said, what is marked. */
import './browser.ts';
import { type Layer, paintLayer, textLayer, washLayer } from '@eppu/core/document';
import { heldMove } from '@eppu/core/pixel';
import type { Shape } from '@eppu/core/select';
import { type Cells, cellsOfRamps } from '@eppu/core/wash';
import { beforeEach, describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { assignAt, carryOver, changeCell, dropInCell, pressCell } from '../src/actions/cells.ts';
import { moveBy, movingMap } from '../src/actions/moving.ts';
import { ditherNow, mixingNow, pencilNow } from '../src/actions/pixels.ts';
import { onTexels, pressedCurve, texelLines } from '../src/input/drawing.ts';
import { strokeSpec } from '../src/input/strokeSpec.ts';
import type { ToStudio } from '../src/studio/protocol.ts';
import { cellsShown, drawsTexels, heldShown, modelShown, twoViews, useStudio } from '../src/studio/store.ts';
import type { ShownModel } from '../src/studio/told.ts';
import type { Press } from '../src/tools/kind.ts';
import { openWith, saidTo } from './page.ts';

const get = useStudio.getState;

/** A project of one sheet, a pixel sheet or not, with such layers. */
function open(layers: readonly Layer[], pixel: boolean): void {
	openWith(layers);
	const { outline } = get();
	if (!outline) throw new Error('nothing is open');
	const sheets = outline.project.sheets.map((sheet) => ({ ...sheet, pixel, width: 64, height: 64 }));
	useStudio.setState({
		outline: { ...outline, project: { ...outline.project, sheets } },
		models: [],
		cell: null,
		movingCell: false,
		tool: 'draw',
		pixeling: { ...get().pixeling, size: 2, corners: false, dither: null, share: 0.25, between: false },
	});
}
const sheetId = (): string => get().outline?.project.sheets[0]?.id as string;

describe('what is moved on a pixel sheet', () => {
	const box = { x: 3, y: 5, width: 7, height: 4 };
	const move = {
		sheet: 's',
		layer: 'p',
		seen: null,
		box,
		x: 0,
		y: 0,
		scaleX: 1,
		scaleY: 1,
		turn: 0,
		skew: 0,
		gesture: 'g',
	};
	test('is held to whole texels: each becomes a block of them, and none a piece of one', () => {
		const side = fc.integer({ min: 1, max: 24 });
		const by = fc.double({ min: -40, max: 40, noNaN: true });
		const scale = fc.double({ min: 0.5, max: 4.4, noNaN: true });
		fc.assert(
			fc.property(
				side,
				side,
				by,
				by,
				scale,
				scale,
				fc.boolean(),
				fc.double({ min: -400, max: 400, noNaN: true }),
				by,
				(width, height, x, y, kx, ky, flipped, turn, skew) => {
					const asked = {
						box: { x: 2, y: 9, width, height },
						x,
						y,
						scaleX: flipped ? -kx : kx,
						scaleY: ky,
						turn,
						skew,
					};
					const held = heldMove(asked);
					const map = movingMap({ ...move, ...held });
					const at = (u: number, v: number): [number, number] => [
						map[0] * u + map[1] * v + map[2],
						map[3] * u + map[4] * v + map[5],
					];
					const whole = (v: number): boolean => Math.abs(v - Math.round(v)) < 1e-6;
					const corners = [at(2, 9), at(2 + width, 9 + height)] as const;
					// The least corner lies between texels.
					for (const k of [0, 1] as const) expect(whole(Math.min(corners[0][k], corners[1][k]))).toBe(true);
					expect(held.turn % 90 === 0 && Math.abs(held.turn) <= 180 && held.skew === 0).toBe(true);
					if (Math.abs(held.scaleX) < 1 || Math.abs(held.scaleY) < 1) return;
					for (let u = 0; u <= width; u++)
						for (let v = 0; v <= height; v++) expect(at(2 + u, 9 + v).every(whole)).toBe(true);
					// It goes where it was asked to, to half a texel.
					const middle = at(2 + width / 2, 9 + height / 2);
					expect(Math.abs(middle[0] - (2 + width / 2 + x))).toBeLessThanOrEqual(0.5 + 1e-9);
					expect(Math.abs(middle[1] - (9 + height / 2 + y))).toBeLessThanOrEqual(0.5 + 1e-9);
					expect(heldMove(held)).toEqual(held);
				},
			),
		);
	});
	const lettering = textLayer('p', 'P', {
		text: 'Honey',
		font: 'pixel',
		size: 8,
		color: '#2b2d30',
		spacing: 0,
		leading: 1.2,
		align: 'middle',
		box: null,
		x: 8,
		y: 8,
		turn: 0,
		mirrored: false,
		along: null,
	});
	const [held, free] = [
		{ scaleX: 3, turn: 90, skew: 0 },
		{ scaleX: 2.6, turn: 50, skew: 12 },
	];
	test.each([
		['a layer of it', true, paintLayer('p', 'P'), held],
		['a loose layer', true, { ...paintLayer('p', 'P'), loose: true }, free],
		['lettering, which is set anew', true, lettering, free],
		['a painted sheet', false, paintLayer('p', 'P'), free],
	] as const)('by the move box: %s', (_, pixel, layer, want) => {
		open([layer], pixel);
		useStudio.setState({ moves: { sheet: { ...move, sheet: sheetId() }, model: null }, movingOn: 'sheet' });
		// No frame comes: only what the box says is looked at.
		Object.assign(globalThis, { requestAnimationFrame: () => 0 });
		moveBy({ scaleX: 2.6, turn: 50, skew: 12 });
		expect(get().moves.sheet).toMatchObject(want);
		useStudio.setState({ moves: { sheet: null, model: null } });
	});
});

describe('what is drawn on a pixel sheet', () => {
	beforeEach(() => open([paintLayer('p', 'P')], true));
	test('shapes have their borders between texels, lines go from middle to middle, curves and polygons stay', () => {
		const box: Shape = { kind: 'ellipse', x: 7.9, y: 3.2, width: -4.1, height: 2 };
		expect(onTexels(box)).toEqual({ kind: 'ellipse', x: 3, y: 3, width: 5, height: 3 });
		expect(onTexels({ kind: 'line', from: [1.2, 1.9], to: [6.7, 2.1], thick: 3 })).toEqual({
			kind: 'line',
			from: [1.5, 1.5],
			to: [6.5, 2.5],
			thick: 3,
		});
		const curve = pressedCurve([1, 2, 8, 9, 4, 0], 2);
		expect(curve).toEqual({ kind: 'curve', from: [1, 2], to: [8, 9], over: [4, 0], thick: 2 });
		expect(onTexels(curve)).toBe(curve);
		// Until it is drawn towards a place it is a line.
		expect(pressedCurve([1, 2, 8, 9], 2)).toMatchObject({ over: [8, 9] });
	});
	test('what is seen of a shape while it is drawn is the border of the texels that it will lay', () => {
		const square: Shape = { kind: 'rectangle', x: 2, y: 3, width: 4, height: 2, radius: 0 };
		const [line, ...more] = texelLines(square, null, null, [64, 64]);
		expect(more).toEqual([]);
		const corners = new Set(
			Array.from({ length: (line as Int32Array).length / 2 }, (_, i) => `${line?.[i * 2]} ${line?.[i * 2 + 1]}`),
		);
		expect(corners).toEqual(new Set(['2 3', '6 3', '6 5', '2 5']));
		// An outline has a border on its inside too.
		expect(texelLines({ ...square, width: 6, height: 6 }, 1, null, [64, 64])).toHaveLength(2);
	});
	test('a stroke is of texels, with its pattern for tools that lay or take; stamps and loose layers have dabs', () => {
		const frame = { scale: 1, x: 0, y: 0, width: 100, height: 100 };
		const spec = () => strokeSpec(get(), { on: 'sheet', sheet: sheetId() }, frame, 1);
		expect(drawsTexels(get())).toBe(true);
		expect(spec().pencil).toEqual({ size: 2, corners: false, mixing: null });
		expect(ditherNow(get())).toBe('ordered-4');
		useStudio.setState({ pixeling: { ...get().pixeling, dither: 'rows', between: true } });
		expect(spec().pencil?.mixing).toEqual({ dither: 'rows', share: 0.25, between: get().desk.back });
		expect(ditherNow(get())).toBe('rows');
		useStudio.setState({ tool: 'lighten' });
		expect(spec().pencil).toMatchObject({ mixing: null });
		useStudio.setState({ tool: 'stamp' });
		expect(spec().pencil).toBeNull();
		open([paintLayer('p', 'P', { loose: true })], true);
		expect([drawsTexels(get()), pencilNow(get(), 'draw'), ditherNow(get())]).toEqual([false, null, null]);
		open([paintLayer('p', 'P')], false);
		expect([drawsTexels(get()), pencilNow(get(), 'draw'), mixingNow(get())]).toEqual([false, null, null]);
	});
	test('an item is seen in the hand where no model lies on its sheet', () => {
		expect([heldShown(get()), twoViews(get())]).toEqual([true, true]);
		const model = (id: string, sheet: string): ShownModel => ({ id, parts: [{ sheet }] }) as unknown as ShownModel;
		useStudio.setState({ models: [model('m', 'elsewhere')] });
		expect(heldShown(get())).toBe(true);
		useStudio.setState({ models: [model('m', sheetId()), model('n', sheetId())], modelPicked: null });
		expect([heldShown(get()), twoViews(get()), modelShown(get())?.id]).toEqual([false, true, 'm']);
		useStudio.setState({ modelPicked: 'n' });
		expect(modelShown(get())?.id).toBe('n');
		open([paintLayer('p', 'P')], false);
		expect([heldShown(get()), twoViews(get())]).toEqual([false, false]);
	});
});

describe('cells of a colour grid', () => {
	const fill: Cells = cellsOfRamps([{ name: 'Straw', colors: ['#f3e9d2', '#7d5431'] }], 4, 4);
	beforeEach(() => open([washLayer('w', 'Cells', '#b4a58c', { fill })], false));
	const said = (): Extract<ToStudio, { say: 'cells' }> => saidTo('cells').at(-1) as never;
	test('a press chooses a place; a spare one is filled with the front pot under a name of its own', () => {
		expect(cellsShown(get())).toEqual(fill);
		pressCell(40, 20);
		expect(get().cell).toEqual({ col: 2, row: 1 });
		changeCell({});
		expect(said().cells.cells.at(-1)).toEqual({
			col: 2,
			row: 1,
			name: 'Cell 7',
			colors: [get().desk.front],
			of: 'flat',
			along: 'down',
		});
		expect(said()).toMatchObject({ words: 'New cell "Cell 7"', moves: [] });
		pressCell(-1, 5);
		expect(get().cell).toEqual({ col: 2, row: 1 });
	});
	test('a cell that is there keeps what is not changed', () => {
		pressCell(2, 2);
		changeCell({ of: 'blend', colors: ['#f3e9d2', '#7d5431'] });
		expect(said().cells.cells).toEqual([
			{ ...fill.cells[0], of: 'blend', colors: ['#f3e9d2', '#7d5431'] },
			fill.cells[1],
		]);
		expect(said().words).toBe('Cell "Straw 1"');
	});
	test('a cell moves to a spare place, or changes places with the one that stands there', () => {
		pressCell(2, 2);
		useStudio.setState({ movingCell: true });
		pressCell(60, 60);
		expect(said().moves).toEqual([
			[
				{ col: 0, row: 0 },
				{ col: 3, row: 3 },
			],
		]);
		expect(said().cells.cells[0]).toMatchObject({ name: 'Straw 1', col: 3, row: 3 });
		expect(get()).toMatchObject({ cell: { col: 3, row: 3 }, movingCell: false });
		useStudio.setState({ cell: { col: 0, row: 0 }, movingCell: true });
		pressCell(20, 2);
		expect(said().moves).toEqual([
			[
				{ col: 0, row: 0 },
				{ col: 1, row: 0 },
			],
			[
				{ col: 1, row: 0 },
				{ col: 0, row: 0 },
			],
		]);
		expect(said().cells.cells.map(({ name, col }) => [name, col])).toEqual([
			['Straw 1', 1],
			['Straw 2', 0],
		]);
		// Where it stands already nothing is said.
		const before = saidTo('cells').length;
		useStudio.setState({ movingCell: true });
		pressCell(20, 2);
		expect(saidTo('cells')).toHaveLength(before);
	});
	test('what a press on the model takes goes to the chosen cell; with none chosen nothing is said', () => {
		const place = { on: 'model' as const, model: 'm', sight: {} as never, x: 1, y: 2, radius: 0, planes: [] };
		const before = saidTo('assign-cell').length;
		assignAt(place);
		expect(saidTo('assign-cell')).toHaveLength(before);
		pressCell(2, 2);
		useStudio.setState({ celling: { by: 'island', along: 'height' } });
		assignAt(place);
		expect(saidTo('assign-cell').at(-1)).toMatchObject({
			sheet: sheetId(),
			by: 'island',
			along: 'height',
			cell: { col: 0, row: 0 },
			place,
		});
	});
	test('what is dragged goes where the words say: to another cell, from a cell to the model, or nowhere', () => {
		const on = { sheet: sheetId(), sight: null, on: 'sheet' as const };
		const model = { on: 'model' as const, model: 'm', sight: {} as never, x: 1, y: 2, radius: 0, planes: [] };
		const press = (pointing: Press['pointing']): Press => ({
			view: pointing?.on === 'model' ? 'model' : 'sheet',
			pointing,
			state: get(),
			shiftKey: false,
			altKey: false,
			clientX: 0,
			clientY: 0,
		});
		const sheet = (x: number, y: number): Press => press({ ...on, x, y });
		useStudio.setState({ celling: { by: 'part', along: 'middle' } });
		const mesh = {
			id: 'm',
			parts: [{ name: 'Roof', sheet: sheetId(), firstFace: 0, faces: 1 }],
			indices: Uint32Array.from([0, 1, 2]),
			uvs: Float32Array.from([0.02, 0.02, 0.1, 0.02, 0.02, 0.1]),
		};
		useStudio.setState({ models: [mesh as unknown as ShownModel] });
		expect(carryOver(press(model), sheet(20, 2))).toBe('The part to "Straw 2"');
		expect(get().cellOver).toEqual({ col: 1, row: 0 });
		dropInCell(press(model), sheet(20, 2));
		expect(get().cell).toEqual({ col: 1, row: 0 });
		expect(saidTo('assign-cell').at(-1)).toMatchObject({ place: model, cell: { col: 1, row: 0 }, by: 'part' });
		expect(carryOver(sheet(2, 2), sheet(20, 2))).toBe('The part to "Straw 2"');
		dropInCell(sheet(2, 2), sheet(20, 2));
		expect(saidTo('assign-cell').at(-1)).toMatchObject({ place: { ...on, x: 2, y: 2 }, cell: { col: 1, row: 0 } });
		expect(carryOver(sheet(2, 2), press(model))).toBe('The part here goes to "Straw 1"');
		dropInCell(sheet(2, 2), press(model));
		expect(saidTo('assign-cell').at(-1)).toMatchObject({ place: model, cell: { col: 0, row: 0 } });
		// Nothing goes: within one cell, from where nothing lies, while a cell is moved, beside everything.
		const before = saidTo('assign-cell').length;
		expect(carryOver(sheet(2, 2), sheet(5, 5))).toBeNull();
		dropInCell(sheet(2, 2), sheet(5, 5));
		expect(carryOver(sheet(40, 40), sheet(2, 2))).toMatch(/^Nothing of a model/);
		dropInCell(sheet(40, 40), sheet(2, 2));
		dropInCell(sheet(2, 2), sheet(-3, 5));
		dropInCell(press(null), sheet(2, 2));
		useStudio.setState({ movingCell: true });
		dropInCell(sheet(2, 2), sheet(20, 2));
		expect(saidTo('assign-cell')).toHaveLength(before);
		useStudio.setState({ movingCell: false, celling: { by: 'part', along: 'line' } });
		dropInCell(press(model), press({ ...model, x: 9 }));
		expect(saidTo('assign-cell').at(-1)).toMatchObject({ along: 'line', place: model, end: { ...model, x: 9 } });
		expect(carryOver(sheet(2, 2), sheet(20, 2))).toBe('A line is drawn on the model');
	});
});
