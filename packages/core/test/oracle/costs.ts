/**
 * Watches what single readings of odd files cost. Only long campaigns judge it, since a timing has no place among the
 * tests of every change: no reading over 2 s, and the process's peak of memory not 1 GB above where it began.
 */
export function watchCosts(name: string): { of<T>(work: () => T | Promise<T>): Promise<T>; judge(): void } {
	const long = Boolean(process.env.LONG);
	const peak = (): number => process.resourceUsage().maxRSS * 1024;
	const before = long ? peak() : 0;
	let slowest = 0;
	return {
		async of(work) {
			const from = performance.now();
			try {
				return await work();
			} finally {
				slowest = Math.max(slowest, performance.now() - from);
			}
		},
		judge() {
			if (!long) return;
			const grown = peak() - before;
			process.stdout.write(
				`${name}: slowest ${Math.round(slowest)} ms, memory's peak +${Math.round(grown / 2 ** 20)} MB\n`,
			);
			if (slowest > 2000) throw new Error(`${name}: one reading took ${Math.round(slowest)} ms`);
			if (grown > 2 ** 30) throw new Error(`${name}: memory grew by ${Math.round(grown / 2 ** 20)} MB`);
		},
	};
}
