import { setDesk } from '../studio/desk.ts';
import { useStudio } from '../studio/store.ts';
import { isHeld } from './held.ts';

/** While T is held the wheel scales the stencil, with Shift it stretches it; false where it is not held. */
export function wheelOnStencil(event: WheelEvent): boolean {
	const { stencil } = useStudio.getState().desk;
	if (!isHeld('KeyT') || !stencil.picture) return false;
	const by = 1.0014 ** -(event.deltaY || event.deltaX);
	const held = (v: number): number => Math.min(50, Math.max(0.02, v));
	setDesk({
		stencil: event.shiftKey
			? { ...stencil, stretch: held(stencil.stretch * by) }
			: { ...stencil, scale: held(stencil.scale * by) },
	});
	return true;
}
