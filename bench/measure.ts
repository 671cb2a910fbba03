/** One row of the report: a time, its ratio to the floor of the same run, and the bar that it should keep under. */
export interface Row {
	readonly name: string;
	readonly ms: number;
	readonly floorMs: number;
	readonly ratio: number;
	/** Ratio (or for undo.bytes megabytes, or milliseconds where it is a time) not to pass; null where it is only reported. */
	readonly bar: number | { readonly ms: number } | null;
	readonly holds: boolean | null;
	readonly note?: string;
}

/** The fastest tenth of times: what a run takes that nothing disturbs. */
export const undisturbedOf = (times: readonly number[]): number =>
	[...times].sort((a, b) => a - b)[Math.floor(times.length / 10)] as number;

/**
 * Time of an undisturbed run: the fastest tenth of `runs`. A shared machine takes processor time away for whole
 * seconds, which the middle of the runs shows and the work does not cause; the floor is measured the same way.
 * `before` is not timed. Runs of at least 400 ms come first and do not count: the engine compiles WebAssembly and
 * script twice, quickly and then well, and only the second is what an artist works with.
 */
export async function undisturbed(
	runs: number,
	work: () => void | Promise<void>,
	before: () => void | Promise<void> = () => {},
): Promise<number> {
	const times: number[] = [];
	const warm = performance.now() + 400;
	for (let i = 0; times.length < runs; i++) {
		await before();
		const start = performance.now();
		await work();
		if (i >= 2 && start > warm) times.push(performance.now() - start);
	}
	return undisturbedOf(times);
}
