import type { Layer, Sheet } from '@eppu/core/document';
import { type PointerEvent, useRef } from 'react';
import { choose, chooseRange, chooseToo, type LayerChangeOf } from '../actions/layers.ts';

/** A row as its layer's opacity bar: dragged across it changes it, clicked it chooses the layer. */
export function useOpacityDrag(sheet: Sheet, layer: Layer, change: (what: LayerChangeOf, gesture?: string) => void) {
	const drag = useRef<{ x: number; opacity: number; gesture: string; moved: boolean } | null>(null);
	const down = (event: PointerEvent<HTMLElement>): void => {
		if (event.button !== 0 || (event.target as HTMLElement).closest('button, input')) return;
		drag.current = { x: event.clientX, opacity: layer.opacity, gesture: crypto.randomUUID(), moved: false };
	};
	const move = (event: PointerEvent<HTMLElement>): void => {
		const from = drag.current;
		if (!from) return;
		const dx = event.clientX - from.x;
		if (!from.moved && Math.abs(dx) < 4) return;
		// Captured only now: a capture at the press would swallow double-clicks on name and figure.
		if (!from.moved) event.currentTarget.setPointerCapture(event.pointerId);
		from.moved = true;
		const opacity =
			Math.round(100 * Math.min(1, Math.max(0, from.opacity + dx / event.currentTarget.clientWidth))) / 100;
		if (opacity !== layer.opacity) change({ opacity }, from.gesture);
	};
	const up = (event: PointerEvent<HTMLElement>): void => {
		if (drag.current && !drag.current.moved) {
			if (event.shiftKey) chooseRange(sheet, layer.id);
			else if (event.ctrlKey || event.metaKey) chooseToo(layer.id);
			else choose(sheet, layer.id);
		}
		drag.current = null;
	};
	return {
		onPointerDown: down,
		onPointerMove: move,
		onPointerUp: up,
		onPointerCancel: () => {
			drag.current = null;
		},
	};
}
