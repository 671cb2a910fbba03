import { planeThrough, type Sight } from '@eppu/core/projection';
import { type PointerEvent, useEffect, useRef } from 'react';
import { setDesk } from '../studio/desk.ts';
import { useStudio } from '../studio/store.ts';
import type { Place } from '../studio/told.ts';

/** A mirror plane drawn across the view of the model: it stands as the eye looks along it. */
export function useSlant(
	sight: Sight,
	toSpace: (clientX: number, clientY: number) => Place,
	show: (from: Place | null, to: Place | null) => void,
) {
	const start = useRef<Place | null>(null);
	const leave = (): void => {
		start.current = null;
		show(null, null);
	};
	useEffect(() => {
		const key = (event: KeyboardEvent): void => {
			if (event.key !== 'Escape' || !useStudio.getState().slanting) return;
			useStudio.setState({ slanting: false });
			leave();
			event.stopPropagation();
		};
		addEventListener('keydown', key, true);
		return () => removeEventListener('keydown', key, true);
	});
	return {
		down(event: PointerEvent): boolean {
			if (!useStudio.getState().slanting || event.button !== 0) return false;
			event.currentTarget.setPointerCapture(event.pointerId);
			start.current = toSpace(event.clientX, event.clientY);
			return true;
		},
		move(event: PointerEvent): boolean {
			if (!start.current) return false;
			show(start.current, toSpace(event.clientX, event.clientY));
			return true;
		},
		up(event: PointerEvent): boolean {
			const from = start.current;
			if (!from) return false;
			const to = toSpace(event.clientX, event.clientY);
			leave();
			const plane = planeThrough(sight.camera, sight.width, sight.height, [from.x, from.y], [to.x, to.y]);
			if (!plane || Math.hypot(to.x - from.x, to.y - from.y) < 8) return true;
			const { mirror } = useStudio.getState().desk;
			setDesk({ mirror: { ...mirror, slant: { on: true, ...plane } } });
			useStudio.setState({ slanting: false });
			return true;
		},
	};
}
