import type { Id } from '@eppu/core/document';
import { useStudio } from './store.ts';

const get = useStudio.getState;
const rest = (ms: number): Promise<void> => new Promise((resolve) => setTimeout(resolve, ms));

/** So long nothing new may be heard of keeping, until all is kept that was done before, ms. */
const SURE_MS = 120;

/**
 * Waits until all that was done is kept by the server, or for so many milliseconds at most; false where it is not, or the
 * project is closed before.
 */
export async function allKept(project: Id, most = Number.POSITIVE_INFINITY): Promise<boolean> {
	const end = performance.now() + most;
	for (let sure = false; get().outline?.project.id === project && performance.now() < end; ) {
		if (sure && get().keeping.state === 'kept') return true;
		sure = get().keeping.state === 'kept';
		await rest(sure ? SURE_MS : 30);
	}
	return false;
}
