import { CliError, cardOf, open } from './commands.ts';

/** How often it is looked whether a project was changed, ms. */
const LOOK_MS = 300;

const revisionOf = (project: string, data: string | undefined): number => {
	const store = open(data);
	try {
		return cardOf(store, project).revision;
	} finally {
		store.close();
	}
};

/** Whether the process was asked to end, which is told as well as it comes. */
export function untilStopped(told: () => void = () => undefined): () => boolean {
	let ended = false;
	const end = (): void => {
		ended = true;
		told();
	};
	process.once('SIGINT', end);
	process.once('SIGTERM', end);
	return () => ended;
}

/**
 * Does something now and whenever a project has another revision, until the process is asked to end. What goes wrong
 * later is told and waited out; a project that is not there from the beginning is refused.
 */
export async function whenChanged(
	project: string,
	data: string | undefined,
	work: () => Promise<void>,
	tell: (words: string) => void,
): Promise<void> {
	let wake = (): void => undefined;
	const ended = untilStopped(() => wake());
	let done = -1;
	for (let first = true; !ended(); first = false) {
		try {
			const now = revisionOf(project, data);
			if (now !== done) {
				await work();
				done = now;
				tell(`Written at revision ${now}. Waiting for the next change.`);
			}
		} catch (error) {
			if (first || !(error instanceof CliError)) throw error;
			tell(error.message);
		}
		await new Promise<void>((resolve) => {
			const timer = setTimeout(resolve, LOOK_MS);
			wake = () => {
				clearTimeout(timer);
				resolve();
			};
		});
	}
}
