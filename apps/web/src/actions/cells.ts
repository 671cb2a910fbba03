import { type CellPlace, cellOfCorner, facesUnder } from '@eppu/core/grid';
import { type Cell, type Cells, cellAt } from '@eppu/core/wash';
import { tell } from '../studio/line.ts';
import type { Pointing, ToStudio } from '../studio/protocol.ts';
import { activeSheet, cellsShown, useStudio } from '../studio/store.ts';

const get = useStudio.getState;

type Asked = Extract<ToStudio, { readonly say: 'assign-cell' }>;

/** Puts other cells in the place of the active grid's. */
export function changeCells(
	cells: Cells,
	words: string,
	moves: readonly (readonly [CellPlace, CellPlace])[] = [],
	gesture?: string,
): void {
	const sheet = activeSheet(get());
	const seed = crypto.randomUUID();
	if (sheet) tell({ say: 'cells', sheet: sheet.id, cells, moves, words, seed, ...(gesture ? { gesture } : {}) });
}

const isAt = (cell: CellPlace, { col, row }: CellPlace): boolean => cell.col === col && cell.row === row;

/** Changes the chosen cell; a spare place becomes one in the front pot. */
export function changeCell(change: Partial<Omit<Cell, 'col' | 'row'>>): void {
	const { cell: place, desk } = get();
	const cells = cellsShown(get());
	if (!cells || !place) return;
	const known = cellAt(cells, place.col, place.row);
	const next: Cell = {
		col: place.col,
		row: place.row,
		name: `Cell ${place.row * cells.cols + place.col + 1}`,
		colors: [desk.front],
		of: 'flat',
		along: 'down',
		...known,
		...change,
	};
	const list = known ? cells.cells.map((cell) => (isAt(cell, place) ? next : cell)) : [...cells.cells, next];
	changeCells({ ...cells, cells: list }, known ? `Cell "${next.name}"` : `New cell "${next.name}"`);
}

/** A press on the sheet: chooses the cell there, or moves the chosen one to it. */
export function pressCell(x: number, y: number): void {
	const state = get();
	const [sheet, cells] = [activeSheet(state), cellsShown(state)];
	if (!sheet || !cells || x < 0 || y < 0 || x >= sheet.width || y >= sheet.height) return;
	const place = cellOfCorner(cells, x / sheet.width, y / sheet.height);
	const chosen = state.cell && cellAt(cells, state.cell.col, state.cell.row);
	if (!state.movingCell || !chosen || !state.cell) return useStudio.setState({ cell: place, movingCell: false });
	const from = state.cell;
	const other = cellAt(cells, place.col, place.row);
	useStudio.setState({ cell: place, movingCell: false });
	if (isAt(place, from)) return;
	// A cell that stands there changes places with it: nothing is lost.
	const list = cells.cells.map((cell) =>
		cell === chosen ? { ...cell, ...place } : cell === other ? { ...cell, ...from } : cell,
	);
	const moves = [[from, place] as const, ...(other ? [[place, from] as const] : [])];
	changeCells({ ...cells, cells: list }, `Move "${chosen.name}"`, moves);
}

/** A place of a view that something is taken from, or let go at. */
interface Press {
	readonly view: 'model' | 'sheet';
	readonly pointing: Pointing | null;
}

/** The cell of the active grid that a press is on, and its place; null beside the grid. */
function cellPressed(to: Press | null): { readonly place: CellPlace; readonly cell: Cell | undefined } | null {
	const [sheet, cells] = [activeSheet(get()), cellsShown(get())];
	if (!sheet || !cells || to?.pointing?.on !== 'sheet') return null;
	const { x, y } = to.pointing;
	if (x < 0 || y < 0 || x >= sheet.width || y >= sheet.height) return null;
	const place = cellOfCorner(cells, x / sheet.width, y / sheet.height);
	return { place, cell: cellAt(cells, place.col, place.row) };
}

/** Whether anything of a model lies at a place of the grid's sheet. */
function liesAt({ pointing }: Press): boolean {
	const { models } = get();
	const [sheet, cells] = [activeSheet(get()), cellsShown(get())];
	if (!sheet || !cells || pointing?.on !== 'sheet') return false;
	const meshes = models.map((mesh) => ({ mesh, takes: (part: number) => mesh.parts[part]?.sheet === sheet.id }));
	return facesUnder(meshes, cells, pointing.x / sheet.width, pointing.y / sheet.height).some((list) => list.length);
}

const things = { part: 'part', island: 'island', face: 'faces' } as const;

/**
 * What letting go there would do, in words. From the model or the sheet what lies there goes to another cell; from a cell
 * to the model what lies there goes into it.
 */
export function carryOver(from: Press, to: Press | null): string | null {
	const { celling, movingCell } = get();
	const [begun, over] = [cellPressed(from), cellPressed(to)];
	const thing = things[celling.by];
	useStudio.setState({ cellOver: over?.place ?? null });
	if (movingCell || !from.pointing) return null;
	if (celling.along === 'line')
		return from.view === 'sheet' ? 'A line is drawn on the model' : to?.view === 'model' ? 'The line ends here' : null;
	if (to?.view === 'model')
		return begun?.cell && to.pointing?.on === 'model' ? `The ${thing} here goes to "${begun.cell.name}"` : null;
	if (!over) return `The ${thing}: let it go over a cell`;
	if (begun && isAt(begun.place, over.place)) return null;
	if (from.view === 'sheet' && !liesAt(from)) return 'Nothing of a model lies where this began';
	return over.cell ? `The ${thing} to "${over.cell.name}"` : 'A spare place: give it a colour first';
}

/** Puts what was carried where it is let go: see `carryOver`. */
export function dropInCell(from: Press, to: Press): void {
	const { celling, movingCell } = get();
	const [begun, over] = [cellPressed(from), cellPressed(to)];
	if (movingCell || !from.pointing) return;
	if (celling.along === 'line') {
		if (from.view === 'sheet') return;
		if (to.view !== 'model' || !to.pointing) return useStudio.setState({ cellLine: null });
		useStudio.setState({ cellLine: from.pointing });
		return assignAt(to.pointing);
	}
	if (to.view === 'model') {
		if (!begun?.cell || to.pointing?.on !== 'model') return;
		useStudio.setState({ cell: begun.place });
		return assignAt(to.pointing);
	}
	if (!over || (begun && isAt(begun.place, over.place))) return;
	useStudio.setState({ cell: over.place });
	if (from.view === 'model' || liesAt(from)) assign(from.pointing);
}

/** Puts a part in the chosen cell. */
export const assignPart = (model: string, part: number): void => assign({ on: 'part', model, part });

function assign(place: Asked['place'], end?: Pointing): void {
	const { cell, celling } = get();
	const sheet = activeSheet(get());
	if (!sheet || !cell) return;
	const seed = crypto.randomUUID();
	tell({ say: 'assign-cell', sheet: sheet.id, ...celling, cell, place, ...(end ? { end } : {}), seed });
}

/** A press on a model: what lies there is put in the chosen cell. */
export function assignAt(place: Pointing): void {
	const state = get();
	if (!state.cell) return;
	if (state.celling.along !== 'line') return assign(place);
	// The first press is where the line begins, and says what is meant; the second where it ends.
	useStudio.setState({ cellLine: state.cellLine ? null : place });
	if (state.cellLine) assign(state.cellLine, place);
}
