import { type RefObject, useEffect, useRef } from 'react';

/** Wheel turns over an element, without the page's own scrolling: React's listeners cannot say no to that. */
export function useWheel(ref: RefObject<HTMLElement | null>, turn: (event: WheelEvent) => void): void {
	const latest = useRef(turn);
	latest.current = turn;
	useEffect(() => {
		const element = ref.current;
		if (!element) return;
		const heard = (event: WheelEvent): void => {
			event.preventDefault();
			latest.current(event);
		};
		element.addEventListener('wheel', heard, { passive: false });
		return () => element.removeEventListener('wheel', heard);
	}, [ref]);
}
