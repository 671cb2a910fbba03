import type { Id } from '@eppu/core/document';

/** How long another tab of this browser may take to give its last strokes away. */
const GIVE_MS = 6000;
/** A tab that was just closed or loaded anew lets go within a moment: only then it is said that another has it. */
const MOMENT_MS = 600;

interface Holder {
	/** Another tab asks for the project. */
	wanted(): void;
	/** Another tab took it without an answer. */
	lost(): void;
}

const held = new Map<Id, { readonly free: () => void; readonly line: BroadcastChannel }>();
const lockOf = (id: Id): string => `eppu-project-${id}`;

/** Lets go of a project, so that another tab may open it. */
export function letGo(id: Id): void {
	held.get(id)?.free();
	held.get(id)?.line.close();
	held.delete(id);
}

/**
 * One tab works on a project at a time: the browser's lock of its name says which. Waits until it is free, or until
 * `stop`; `waits` is called where that takes more than a moment. With `takeOver` the tab that has it is asked, gives its
 * last strokes away and lets go; only one that does not answer loses it.
 */
export async function holdProject(
	id: Id,
	takeOver: boolean,
	holder: Holder,
	stop: AbortSignal,
	waits: () => void,
): Promise<boolean> {
	if (held.has(id)) return true;
	const line = new BroadcastChannel(lockOf(id));
	const request = (options: LockOptions): Promise<boolean> =>
		new Promise((resolve) => {
			navigator.locks
				.request(lockOf(id), options, () => {
					const kept = new Promise<void>((free) => held.set(id, { free, line }));
					resolve(true);
					return kept;
				})
				.catch(() => {
					// Given up before it was had, or taken by another tab since.
					if (!held.has(id)) return resolve(false);
					held.delete(id);
					line.close();
					holder.lost();
				});
		});
	const given = new AbortController();
	stop.addEventListener('abort', () => given.abort());
	const timer = setTimeout(takeOver ? () => given.abort() : waits, takeOver ? GIVE_MS : MOMENT_MS);
	const asked = request({ signal: given.signal });
	if (takeOver) line.postMessage('wanted');
	let had = await asked;
	clearTimeout(timer);
	if (!had && takeOver && !stop.aborted) had = await request({ steal: true });
	if (had && stop.aborted) {
		letGo(id);
		return false;
	}
	if (had) line.onmessage = () => holder.wanted();
	else line.close();
	return had;
}
