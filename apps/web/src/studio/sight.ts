import type { Camera, Reach, Sight } from '@eppu/core/projection';
import { useStudio } from './store.ts';

/** How the model is seen by the brush; the same words for the same view, so that what was made ready for it serves. */
export const sightOf = (camera: Camera, width: number, height: number, reach: Reach, fade: number): Sight => ({
	camera,
	width,
	height,
	...(reach === 'seen' ? (fade > 0 ? { fade } : {}) : { reach }),
});

/** How the model is seen now; null where its view is not shown. */
export function sightShown(): Sight | null {
	const view = document.querySelector('[data-view="model"]');
	const { reach, fade, camera } = useStudio.getState().desk;
	return view?.clientWidth
		? sightOf(camera, Math.floor(view.clientWidth), Math.floor(view.clientHeight), reach, fade)
		: null;
}
