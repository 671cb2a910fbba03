import type { SurfaceId, TexelFormat } from '../../surface/index.ts';
import type { Id, Project } from '../types.ts';

/** A change of the document, apart from its pixels, told by its name. */
export interface Doing {
	readonly do: string;
}

/** A command that names what is not there, or asks for what cannot be. Nothing was changed. */
export class CommandError extends Error {
	override readonly name = 'CommandError';
}

export interface Applied {
	readonly project: Project;
	/** What takes the command back. */
	readonly inverse: Doing;
	/** The step in plain words, for the history. */
	readonly words: string;
}

/** A surface that must be there for what a command makes, and how it begins where it is not there yet. */
export interface NeededSurface {
	readonly id: SurfaceId;
	readonly format: TexelFormat;
	/** The sheet that it is as large as; null where it was made beside the document and is there already. */
	readonly sheet: Id | null;
	readonly start: 'empty' | 'white' | { readonly copyOf: SurfaceId };
}

/** What must be shown anew: nothing, everything, all of a sheet, where one layer of it shows, or how a model lies on its sheets. */
export type Touched = 'nothing' | 'everything' | { readonly sheet: Id; readonly layer?: Id } | { readonly model: Id };

/** One way in which the document changes. Whoever does commands reads this and knows none by name. */
export interface CommandKind<C extends Doing> {
	readonly do: C['do'];
	/** Throws CommandError in the artist's words, changing nothing, where it does not fit. */
	apply(project: Project, command: C): Applied;
	/** `project` is what the command is done on; null where only their ids are asked for. */
	surfaces?(command: C, project: Project | null): readonly NeededSurface[];
	touched(command: C): Touched;
}
