import type { Id, Project, Sheet } from '../../document/index.ts';
import type { Engine } from '../../engine/index.ts';
import type { Picture } from '../../surface/index.ts';

/** One thing of a sheet that is a picture by itself. */
export interface Part {
	/** Empty for the sheet itself. */
	readonly id: Id;
	readonly name: string;
}

/** What pictures can be of. */
export interface SourceKind {
	readonly kind: string;
	/** As it is offered: "Each layer". */
	readonly words: string;
	/** What it is called when there is none of it: "no masks". */
	readonly none: string;
	/** Of one sheet there may be several, each with a name of its own. */
	readonly parts: boolean;
	list(sheet: Sheet, project: Project): readonly Part[];
	/** RGBA8 of the sheet's size. */
	picture(engine: Engine, sheet: Sheet, part: Id): Picture;
}
