import { useStudio } from '../studio/store.ts';

const stored = 'eppu-thumbnails';

/** How the layers were shown when this browser was last used. */
export function layerHabits(): void {
	try {
		useStudio.setState({ largeThumbnails: localStorage.getItem(stored) === 'large' });
	} catch {
		// A browser that keeps nothing shows them as usual.
	}
}

export function showLargeThumbnails(large: boolean): void {
	useStudio.setState({ largeThumbnails: large });
	try {
		localStorage.setItem(stored, large ? 'large' : 'small');
	} catch {
		// It is so for this tab.
	}
}
