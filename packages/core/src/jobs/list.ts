import type { Kernels } from '@eppu/kernels';
import { picturesOf } from '../derive/index.ts';
import type { Project } from '../document/index.ts';
import { composite } from './composite.ts';
import { derive } from './derive.ts';
import type { JobHost, JobKind, Known, Word, Work } from './kind.ts';
import { unwrap } from './unwrap.ts';

/** All kinds of jobs: a new one is a line here. */
export const jobKinds = [composite, derive, unwrap] as const;

type Kinds = (typeof jobKinds)[number];
type WorkOf<K> = K extends JobKind<infer W, infer _M> ? W : never;
export type AnyWork = WorkOf<Kinds>;
/** What is made of a kind of work. */
export type MadeOf<W extends AnyWork> = ReturnType<ReturnType<Extract<Kinds, { readonly job: W['job'] }>['begin']>>;
export type AnyMade = MadeOf<AnyWork>;

/** One that does jobs one after the other; each kind is made ready when it is first asked for. */
export interface JobWorker {
	hear(word: Word): void;
	/** What was made, and what of it is handed over. Throws where it cannot be done. */
	work<W extends AnyWork>(work: W): { readonly made: MadeOf<W>; readonly over: ArrayBuffer[] };
}

/** A project as it is told again: models that did not change are the same objects as before. */
function told(before: Project | null, now: Project): Project {
	const known = new Map(before?.models.map((model) => [JSON.stringify(model), model]));
	return { ...now, models: now.models.map((model) => known.get(JSON.stringify(model)) ?? model) };
}

export function createWorker(kernels: Kernels): JobWorker {
	let known: Known = { project: null, meshes: new Map() };
	const host: JobHost = {
		kernels,
		get known() {
			return known;
		},
	};
	const ready = new Map<string, (work: AnyWork) => unknown>();
	return {
		hear(word) {
			if (word.say === 'picture') {
				picturesOf(kernels).put(word.id, word.picture);
				// What is made with it is made anew.
				known = { ...known, project: known.project && { ...known.project } };
			} else if (word.say === 'meshes') known = { ...known, meshes: word.meshes };
			else known = { ...known, project: told(known.project, word.project) };
		},
		work<W extends AnyWork>(work: W) {
			const kind = jobKinds.find((each) => each.job === work.job) as unknown as JobKind<Work, unknown>;
			let does = ready.get(work.job);
			if (!does) ready.set(work.job, (does = kind.begin(host) as (work: AnyWork) => unknown));
			const made = does(work);
			return { made: made as MadeOf<W>, over: kind.handsOver(made) };
		},
	};
}
