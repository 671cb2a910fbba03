import { composite } from './composite.ts';
import type { JobHost, JobKind, Work } from './kind.ts';

/** All kinds of jobs: a new one is a line here. */
export const jobKinds = [composite] as const;

type WorkOf<K> = K extends JobKind<infer W, unknown> ? W : never;
type MadeOf<K> = K extends JobKind<infer _W extends Work, infer M> ? M : never;
export type AnyWork = WorkOf<(typeof jobKinds)[number]>;
export type AnyMade = MadeOf<(typeof jobKinds)[number]>;

/** Does jobs one after the other; each kind is made ready when it is first asked for. */
export function createWorker(
	host: JobHost,
): (work: AnyWork) => { readonly made: AnyMade; readonly over: ArrayBuffer[] } {
	const ready = new Map<string, (work: AnyWork) => AnyMade>();
	return (work) => {
		const kind = jobKinds.find((each) => each.job === work.job) as unknown as JobKind<Work, AnyMade>;
		let does = ready.get(work.job);
		if (!does) ready.set(work.job, (does = kind.begin(host) as (work: AnyWork) => AnyMade));
		const made = does(work);
		return { made, over: kind.handsOver(made) };
	};
}
