import type { Sheet } from '@eppu/core/document';
import type { DrawnShape, Edit } from '@eppu/core/edit';
import type { Sight } from '@eppu/core/projection';
import type { Joining } from '@eppu/core/select';
import { changeSelection } from '../actions/select.ts';
import { refused } from '../studio/hears.ts';
import { question, tell } from '../studio/line.ts';
import type { Pointing } from '../studio/protocol.ts';
import { edit } from '../studio/say.ts';
import { activeLayers, activeSheet, paintsMask, useStudio } from '../studio/store.ts';
import type { Place, ShownModel } from '../studio/told.ts';

/** What things are drawn on: a sheet, in texels, or the plane of a view of a model, in px of it. */
export interface Board {
	/** New where what is being drawn has lost its ground. */
	readonly key: string;
	/** Whole texels are drawn on it: how many it has, across and down. */
	readonly texels?: readonly [number, number] | null;
	/** Px of the screen for one of its own. */
	readonly zoom: number;
	/** Repeats in a ring stand around it. */
	readonly middle: readonly [number, number];
	toSpace(clientX: number, clientY: number): Place;
	pointing(at: Place): Pointing;
	select(by: DrawnShape, joining: Joining): void;
	selectNone(): void;
	edit(what: Edit): void;
	/** The way along contrast edges from the last anchor; an anchor begins a new one. */
	cling(from: Place | null, to: Place): Promise<readonly number[]>;
	/** Places as texels of the active sheet, on one island of it; null, and said, where they are not. */
	texelsAt(points: readonly number[]): Promise<readonly number[] | null>;
}

type ToSpace = Board['toSpace'];

export const sheetBoard = (sheet: Sheet, zoom: number, toSpace: ToSpace): Board => ({
	key: sheet.id,
	texels: sheet.pixel ? [sheet.width, sheet.height] : null,
	zoom,
	middle: [sheet.width / 2, sheet.height / 2],
	toSpace,
	pointing: (at) => ({ on: 'sheet', sheet: sheet.id, sight: null, ...at }),
	select: (by, joining) => tell({ say: 'select', sheet: sheet.id, by: { by: 'shape', ...by }, joining }),
	selectNone: () => changeSelection({ to: 'none' }),
	edit,
	cling: (from, to) => question<'cling'>({ say: 'cling', sheet: sheet.id, from, to }),
	texelsAt: (points) => Promise.resolve(points),
});

export const modelBoard = ({ id: model }: ShownModel, sight: Sight, toSpace: ToSpace): Board => ({
	key: `${model} ${JSON.stringify(sight)}`,
	zoom: 1,
	middle: [sight.width / 2, sight.height / 2],
	toSpace,
	pointing: (at) => ({ on: 'model', model, sight, ...at, radius: 0, planes: [] }),
	select: (by, joining) => tell({ say: 'select-seen', model, sight, by, joining }),
	selectNone: () => changeSelection({ to: 'none' }),
	edit(what) {
		const state = useStudio.getState();
		const options = { onMask: paintsMask(state), guard: state.desk.guard };
		tell({ say: 'edit-seen', model, sight, layers: activeLayers(state), edit: what, options });
	},
	cling: (from, to) => question<'cling-seen'>({ say: 'cling-seen', model, sight, from, to }),
	async texelsAt(points) {
		const spots = await question<'spots'>({ say: 'spots', model, sight, points });
		const [first] = spots;
		const sheet = activeSheet(useStudio.getState())?.id;
		if (first && spots.every((spot) => spot?.sheet === sheet && spot?.island === first.island))
			return spots.flatMap((spot) => (spot ? [spot.x, spot.y] : []));
		const text = 'That runs beside the island that it began on. Draw it on one island of the active sheet.';
		refused({ code: 'nothing-there', text, mend: null });
		return null;
	},
});
