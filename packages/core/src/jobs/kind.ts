import type { DeepPngReader, Kernels, PngWriter, WebpWriter } from '@eppu/kernels';
import type { Id, Project } from '../document/index.ts';
import type { LaidMesh } from '../mesh/index.ts';
import type { MapPicture, Picture } from '../surface/index.ts';

/** What whoever does jobs is told beforehand: each word stands until the next of its kind. */
export type Word =
	| { readonly say: 'project'; readonly project: Project }
	| { readonly say: 'meshes'; readonly meshes: ReadonlyMap<Id, LaidMesh> }
	/** A picture of the artist's own, under the id that it has. */
	| { readonly say: 'picture'; readonly id: string; readonly picture: Picture }
	/** A map that was baked elsewhere, by the hash of its file. */
	| { readonly say: 'map'; readonly id: string; readonly map: MapPicture };

/** What a later word stands in place of. */
export const wordKey = (word: Word): string => ('id' in word ? `${word.say} ${word.id}` : word.say);

/** What has been told. */
export interface Known {
	readonly project: Project | null;
	readonly meshes: ReadonlyMap<Id, LaidMesh>;
}

/** Modules that a host brings when they are first wanted. */
export interface Codecs {
	png(): Promise<PngWriter>;
	readPng(): Promise<DeepPngReader>;
	webp(): Promise<WebpWriter>;
}

/** Where a job is done: kernels on the owner's memory, with room of its own, and what has been told. */
export interface JobHost {
	readonly kernels: Kernels;
	readonly known: Known;
	readonly codecs: Codecs;
}

/** Work as plain data, done the same by whoever takes it: a browser's worker, a thread of Node, or whoever asked. */
export interface Work<Made> {
	readonly job: string;
	/** Never there: it says what is made of the work. */
	readonly makes?: Made;
}

/** One kind of job. Throws where it cannot be done, for want of room say: whoever asked does it then. */
export interface JobKind<W extends Work<Made>, Made> {
	readonly job: string;
	/** Makes whoever does it ready; what it gives is handed to each job. */
	begin(host: JobHost): (work: W) => Made | Promise<Made>;
	/** What of the result is handed over and not copied. */
	handsOver(made: Made): ArrayBuffer[];
}

/** Any kind of job, as a list has it. */
// biome-ignore lint/suspicious/noExplicitAny: what a kind takes and makes is known where its work is asked for.
export type AnyJobKind = JobKind<any, any>;
