import type { Id } from '@eppu/core/document';
import type { Reading } from '@eppu/core/regions';
import type { ShownModel } from './told.ts';

/** Asked of the worker that reads templates: a picture first, then the same with other dials. */
export type TemplateAsked = {
	readonly ask: number;
	readonly sheet: Id;
	/** Null reads as suits the picture. */
	readonly reading: Reading | null;
} & ({ readonly picture: Blob; readonly width: number; readonly height: number } | { readonly again: true });

/** Islands of a template, as a flat model to look at and as the file that it makes. */
export interface FoundIslands {
	readonly reading: Reading;
	readonly islands: number;
	/** Specks that are smaller than an island may be. */
	readonly specks: number;
	readonly shown: ShownModel | null;
	readonly file: Uint8Array | null;
}
