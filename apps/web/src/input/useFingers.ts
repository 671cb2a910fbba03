import { type PointerEvent, useRef } from 'react';
import type { Place } from '../studio/told.ts';

/** What fingers do to a view. */
export interface FingerView {
	pan(dx: number, dy: number): void;
	turn(dx: number, dy: number): void;
	roll(by: number): void;
	/** Nearer or farther about a client place. */
	zoom(by: number, clientX: number, clientY: number): void;
}

/**
 * Fingers on a view: one paints, two pan, zoom and turn, three turn the model. Each of `down`, `move`, `up` returns
 * whether fingers move the view, so that nothing else is done with the event; `second` is told of another finger: what the
 * first began is taken back, since it was no stroke.
 */
export function useFingers(view: FingerView, second: () => void) {
	const fingers = useRef(new Map<number, Place>());
	const moving = useRef(false);
	const middle = (): { x: number; y: number; span: number; angle: number } => {
		const list = [...fingers.current.values()];
		const [a, b] = list as [Place, Place];
		return {
			x: list.reduce((sum, each) => sum + each.x, 0) / list.length,
			y: list.reduce((sum, each) => sum + each.y, 0) / list.length,
			span: Math.hypot(b.x - a.x, b.y - a.y),
			angle: (Math.atan2(b.y - a.y, b.x - a.x) * 180) / Math.PI,
		};
	};
	return {
		get moving() {
			return moving.current;
		},
		down(event: PointerEvent): boolean {
			if (event.pointerType !== 'touch') return false;
			fingers.current.set(event.pointerId, { x: event.clientX, y: event.clientY });
			if (fingers.current.size < 2) return false;
			event.currentTarget.setPointerCapture(event.pointerId);
			second();
			moving.current = true;
			return true;
		},
		move(event: PointerEvent): boolean {
			if (!fingers.current.has(event.pointerId)) return false;
			const before = fingers.current.size > 1 ? middle() : null;
			fingers.current.set(event.pointerId, { x: event.clientX, y: event.clientY });
			if (!moving.current || !before) return moving.current;
			const now = middle();
			if (fingers.current.size > 2) view.turn(now.x - before.x, now.y - before.y);
			else {
				view.pan(now.x - before.x, now.y - before.y);
				if (before.span > 8 && now.span > 8) {
					view.zoom(now.span / before.span, now.x, now.y);
					view.roll(((now.angle - before.angle + 540) % 360) - 180);
				}
			}
			return true;
		},
		/** No finger paints until all are lifted. */
		up(event: PointerEvent): boolean {
			if (!fingers.current.delete(event.pointerId) || !moving.current) return false;
			if (fingers.current.size === 0) moving.current = false;
			return true;
		},
	};
}
