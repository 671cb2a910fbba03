import { type Word, type Work, wordKey } from './kind.ts';

/** One who does jobs elsewhere. */
export interface Member {
	post(message: ToMember): void;
	/** Called with each answer, and with null where it died. */
	hear(answer: (message: FromMember | null) => void): void;
	end(): void;
}
export type ToMember =
	/** `patient` where others come first. */
	{ readonly n: number; readonly work: Work<unknown>; readonly patient: boolean } | { readonly word: Word };
/** What was made, or null where it could not be. */
export type FromMember = { readonly n: number; readonly made: unknown };

/** Workers that do jobs beside whoever asks. */
export interface Pool {
	/** How many could begin a job now. */
	readonly idle: number;
	/**
	 * Does a job: the lower its `rank`, the sooner. Null where no member could do it: whoever asked does it then. A member
	 * that dies is replaced and its job made again, once.
	 */
	do<Made>(work: Work<Made>, rank?: number): Promise<Made | null>;
	/** Tells all members, and whoever comes in their place; a later word of a kind stands for the earlier. */
	tell(word: Word): void;
	/** Drops all that waits; what is being made is forgotten when it comes. */
	drop(): void;
	end(): void;
}

interface Job {
	readonly work: Work<unknown>;
	readonly rank: number;
	readonly done: (made: unknown) => void;
	deaths: number;
}

/** A pool of `count` members as `open` makes them. */
export function createPool(count: number, open: () => Member): Pool {
	const waiting: Job[] = [];
	const words = new Map<string, Word>();
	const places: { member: Member; n: number; job: Job | null }[] = [];
	let n = 0;
	const next = (): void => {
		for (const place of places) {
			if (place.job) continue;
			const job = waiting.shift();
			if (!job) return;
			place.job = job;
			place.n = ++n;
			place.member.post({ n, work: job.work, patient: job.rank > 0 });
		}
	};
	const take = (place: (typeof places)[number]): void => {
		const { member } = place;
		for (const word of words.values()) member.post({ word });
		member.hear((answer) => {
			if (place.member !== member) return;
			const { job } = place;
			if (answer) {
				if (answer.n !== place.n) return;
				place.job = null;
				job?.done(answer.made);
				return next();
			}
			// It died: another comes in its place, and the job is made again unless it was its second.
			member.end();
			place.job = null;
			place.member = open();
			take(place);
			if (job && ++job.deaths < 2) waiting.unshift(job);
			else job?.done(null);
			next();
		});
	};
	for (let i = 0; i < count; i++) {
		const place = { member: open(), n: 0, job: null };
		places.push(place);
		take(place);
	}
	return {
		get idle() {
			return Math.max(0, places.filter(({ job }) => !job).length - waiting.length);
		},
		tell(word) {
			words.set(wordKey(word), word);
			for (const { member } of places) member.post({ word });
		},
		do: <Made>(work: Work<Made>, rank = 0) =>
			new Promise<Made | null>((resolve) => {
				const done = (made: unknown): void => resolve(made as Made | null);
				const at = waiting.findIndex((each) => each.rank > rank);
				waiting.splice(at < 0 ? waiting.length : at, 0, { work, rank, done, deaths: 0 });
				next();
			}),
		drop() {
			for (const job of waiting.splice(0)) job.done(null);
		},
		end() {
			for (const job of waiting.splice(0)) job.done(null);
			for (const { member, job } of places) {
				member.end();
				job?.done(null);
			}
			places.length = 0;
		},
	};
}
