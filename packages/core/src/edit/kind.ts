import type { TileRecord } from '../surface/index.ts';
import type { EditScope, SeenModel, SeenSheet } from './lay.ts';

/** A change of the pixels of a paint layer or a mask at once, told by its name. */
export interface Changing {
	readonly do: string;
}

/** An edit that cannot be as it is asked for, in the artist's words. Nothing was changed. */
export class EditError extends Error {
	override readonly name = 'EditError';
}

/** One kind of edit; a selection limits each of them. Whoever edits reads this and knows none by name. */
export interface EditKind<E extends Changing> {
	readonly do: E['do'];
	/** The step as the history names it; `on` is what it changes. */
	words(edit: E, on: string): string;
	/** What a layer is called that the edit is the first thing on; nothing where it lays nothing of its own. */
	called?(edit: E): string;
	/** What is selected moves along with what is in it, and alpha is never locked. */
	readonly moves?: boolean;
	/** The record is the undo step. Throws EditError, changing nothing, where the edit cannot be. */
	apply(edit: E, scope: EditScope): TileRecord;
	/** The same in the plane of a view, where it needs all sheets of the model at once. */
	applySeen?(edit: E, sheets: readonly SeenSheet[], model: SeenModel): readonly TileRecord[];
}
