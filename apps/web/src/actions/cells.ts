import type { CellPlace } from '@eppu/core/grid';
import { type Cell, type Cells, cellAt } from '@eppu/core/wash';
import { tell } from '../studio/line.ts';
import type { Pointing } from '../studio/protocol.ts';
import { activeSheet, cellsShown, useStudio } from '../studio/store.ts';

const get = useStudio.getState;

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
	const place = {
		col: Math.min(cells.cols - 1, Math.floor((x / sheet.width) * cells.cols)),
		row: Math.min(cells.rows - 1, Math.floor((y / sheet.height) * cells.rows)),
	};
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

/** A press on a model: what lies there is put in the chosen cell. */
export function assignAt(place: Pointing): void {
	const state = get();
	const sheet = activeSheet(state);
	if (!sheet || !state.cell) return;
	const { by, along } = state.celling;
	const said = { say: 'assign-cell', sheet: sheet.id, by, cell: state.cell, along, seed: crypto.randomUUID() } as const;
	if (along !== 'line') return tell({ ...said, place });
	// The first press is where the line begins, and says what is meant; the second where it ends.
	useStudio.setState({ cellLine: state.cellLine ? null : place });
	if (state.cellLine) tell({ ...said, place: state.cellLine, end: place });
}
