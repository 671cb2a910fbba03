/** What the keeper is told, and tells. */
import type { Id, Project } from '@eppu/core/document';
import type { KeptStep, KeptTile } from '@eppu/core/engine';
import type { Said } from './protocol.ts';
import type { HeldPack } from './told.ts';

export type ToKeeper =
	| { readonly say: 'settle'; readonly project: Id }
	| { readonly say: 'studio'; readonly port: MessagePort }
	| { readonly say: 'said'; readonly project: Id; readonly said: Said }
	/** Whether the page could note what it said. */
	| { readonly say: 'journal'; readonly works: boolean }
	/** The artist knows that the work goes on as this project. */
	| { readonly say: 'told'; readonly project: Id }
	| { readonly say: 'try-again' };

/** The steps that lead to what is kept, oldest first, by their numbers: those that lie in the browser already, and new ones. */
export interface KeptSteps {
	readonly here: readonly number[];
	readonly added: readonly (readonly [number, KeptStep])[];
}

/** From the studio, over its own port. */
export type StudioToKeeper =
	| { readonly say: 'based'; readonly project: Id; readonly revision: number }
	/** All that was said up to number `upTo` is in these tiles and this document. */
	| {
			readonly say: 'keep';
			readonly project: Project;
			readonly tiles: readonly KeptTile[];
			readonly upTo: number;
			readonly steps: KeptSteps;
	  }
	/** What was said up to `upTo` changed nothing that is not kept. */
	| { readonly say: 'nothing'; readonly project: Id; readonly upTo: number }
	| { readonly say: 'left'; readonly project: Id }
	| { readonly say: 'cover'; readonly project: Id; readonly png: Uint8Array<ArrayBuffer> };

export type Keeping =
	| { readonly state: 'kept'; readonly at: number }
	/** `words`: some of it is in the journal as it was said only, not as texels yet. */
	| { readonly state: 'keeping'; readonly strokes: number; readonly words: boolean }
	/** Not taken by the server: `in` says where it is. */
	| {
			readonly state: 'held';
			readonly strokes: number;
			readonly words: boolean;
			readonly why: string;
			readonly in: 'browser' | 'tab';
	  }
	/** Refused for what it is, so that trying again changes nothing. */
	| {
			readonly state: 'refused';
			readonly strokes: number;
			readonly words: boolean;
			readonly why: string;
			readonly in: 'browser' | 'tab';
	  };

export type FromKeeper =
	| {
			readonly say: 'settled';
			/** The project to open: a copy where the one asked for was changed elsewhere. */
			readonly project: Id;
			readonly asked: Id;
			readonly held: readonly HeldPack[];
			readonly said: readonly Said[];
			/** The number that the next change is said under. */
			readonly next: number;
			readonly given: number;
			readonly moved: Moved | null;
	  }
	/** The open project was changed elsewhere: what is painted here goes on as a copy. */
	| { readonly say: 'moved'; readonly moved: Moved }
	/** The project has another name now. */
	| { readonly say: 'named'; readonly project: Id; readonly name: string }
	| { readonly say: 'left'; readonly project: Id }
	| { readonly say: 'keeping'; readonly keeping: Keeping };

export interface Moved {
	readonly from: Id;
	readonly to: Id;
	readonly name: string;
	/** The copy is of what it went out from; else of the project as it is now. */
	readonly exact: boolean;
}
