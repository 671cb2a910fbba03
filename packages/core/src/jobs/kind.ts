import type { Kernels } from '@eppu/kernels';

/** Where a job is done: kernels on the owner's memory, with room of its own. */
export interface JobHost {
	readonly kernels: Kernels;
}

/** Work as plain data, done the same by whoever takes it: a browser's worker, a thread of Node, or whoever asked. */
export interface Work {
	readonly job: string;
}

/** One kind of job. Throws where it cannot be done, for want of room say: whoever asked does it then. */
export interface JobKind<W extends Work, Made> {
	readonly job: W['job'];
	/** Makes whoever does it ready; what it gives is handed to each job. */
	begin(host: JobHost): (work: W) => Made;
	/** What of the result is handed over and not copied. */
	handsOver(made: Made): ArrayBuffer[];
}
