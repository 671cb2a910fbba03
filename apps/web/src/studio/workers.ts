/** The threads behind the page: the studio computes, the keeper keeps. */
export interface Workers {
	readonly studio: Worker;
	readonly keeper: Worker;
}

let running: Workers | null = null;
let failed = false;

/**
 * Starts both, or gives those that run. It knows nothing of what is said to them, so that the page can start them
 * before anything else of it is there.
 */
export function startWorkers(): Workers {
	if (running) return running;
	const workers: Workers = {
		studio: new Worker(new URL('../workers/studio.worker.ts', import.meta.url), { type: 'module' }),
		keeper: new Worker(new URL('../workers/keeper.worker.ts', import.meta.url), { type: 'module' }),
	};
	failed = false;
	for (const worker of [workers.studio, workers.keeper])
		worker.onerror = () => {
			failed = true;
		};
	running = workers;
	return workers;
}

/** Whether one of them failed before anybody listened. */
export const workersFailed = (): boolean => failed;

/** Ends both at once. */
export function endWorkers(): void {
	running?.studio.terminate();
	running?.keeper.terminate();
	running = null;
}
