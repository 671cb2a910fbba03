import type { Kernels } from '@eppu/kernels';
import { picturesOf } from '../derive/index.ts';
import type { Project } from '../document/index.ts';
import type { AnyJobKind, Codecs, JobHost, Known, Word, Work } from './kind.ts';

/** What was made, and what of it is handed over. */
export interface Done<Made> {
	readonly made: Made;
	readonly over: ArrayBuffer[];
}

/** One that does jobs one after the other; each kind is made ready when it is first asked for. */
export interface JobWorker {
	hear(word: Word): void;
	/** Throws where it cannot be done. */
	work<Made>(work: Work<Made>): Promise<Done<Made>>;
}

/** A project as it is told again: models that did not change are the same objects as before. */
function told(before: Project | null, now: Project): Project {
	const known = new Map(before?.models.map((model) => [JSON.stringify(model), model]));
	return { ...now, models: now.models.map((model) => known.get(JSON.stringify(model)) ?? model) };
}

/** What `bring` gives, asked for once; again where it failed. */
export function once<T>(bring: () => Promise<T>): () => Promise<T> {
	let known: Promise<T> | null = null;
	return () => {
		known ??= bring().catch((error) => {
			known = null;
			throw error;
		});
		return known;
	};
}

export function createWorker(kernels: Kernels, kinds: readonly AnyJobKind[], codecs: Codecs): JobWorker {
	let known: Known = { project: null, meshes: new Map() };
	const host: JobHost = {
		kernels,
		codecs: { png: once(codecs.png), readPng: once(codecs.readPng), webp: once(codecs.webp) },
		get known() {
			return known;
		},
	};
	const ready = new Map<string, (work: unknown) => unknown>();
	return {
		hear(word) {
			if (word.say === 'picture' || word.say === 'map') {
				if (word.say === 'picture') picturesOf(kernels).put(word.id, word.picture);
				else picturesOf(kernels).maps.set(word.id, word.map);
				// What is made with it is made anew.
				known = { ...known, project: known.project && { ...known.project } };
			} else if (word.say === 'meshes') known = { ...known, meshes: word.meshes };
			else known = { ...known, project: told(known.project, word.project) };
		},
		async work<Made>(work: Work<Made>): Promise<Done<Made>> {
			const kind = kinds.find((each) => each.job === work.job);
			if (!kind) throw new RangeError(`There are no jobs "${work.job}".`);
			let does = ready.get(work.job);
			if (!does) ready.set(work.job, (does = kind.begin(host)));
			const made = (await does(work)) as Made;
			return { made, over: kind.handsOver(made) };
		},
	};
}
