import type { StrokePlace } from '@eppu/core/document';
import type { Sample } from '@eppu/core/stroke';
import { type PointerEvent, useRef } from 'react';
import { isHeld } from '../app/held.ts';
import { rememberPress, setDesk, tell } from '../studio/client.ts';
import type { Pointing } from '../studio/protocol.ts';
import { activeLayers, useStudio } from '../studio/store.ts';

/** What a view gives the hand: its own space, and what dragging with other intents does. */
export interface HandView {
	/** Client place to the view's own space (texels on a sheet, px of the viewport on the model). */
	toSpace(clientX: number, clientY: number): { readonly x: number; readonly y: number };
	place(): StrokePlace | null;
	pointing(x: number, y: number): Pointing | null;
	pan(dx: number, dy: number): void;
	turn(dx: number, dy: number): void;
	mark(x: number, y: number): void;
	leave(): void;
}

type Doing = 'stroke' | 'pan' | 'turn' | 'tip' | 'sample' | null;

const clamp = (v: number, a: number, b: number): number => Math.min(b, Math.max(a, v));

/** Pointer handling that both views share: strokes with pressure and coalesced events, pan, turn, tip by drag. */
export function useHand(view: HandView) {
	const doing = useRef<Doing>(null);
	const last = useRef({ x: 0, y: 0 });
	const pointed = useRef(0);

	const sampleOf = (event: { clientX: number; clientY: number; pressure: number; pointerType: string }): Sample => {
		const { x, y } = view.toSpace(event.clientX, event.clientY);
		return { x, y, pressure: event.pointerType === 'pen' ? event.pressure : 1 };
	};
	const point = (event: PointerEvent): void => {
		const { x, y } = view.toSpace(event.clientX, event.clientY);
		view.mark(x, y);
		if (pointed.current) return;
		// Once a frame is enough for what lies under the brush.
		pointed.current = requestAnimationFrame(() => {
			pointed.current = 0;
			tell({ say: 'point', place: view.pointing(x, y) });
		});
	};
	const sampleColor = (event: PointerEvent): void => {
		const { x, y } = view.toSpace(event.clientX, event.clientY);
		const place = view.pointing(x, y);
		if (place) tell({ say: 'sample', place });
	};

	const down = (event: PointerEvent): void => {
		const state = useStudio.getState();
		if (state.status !== 'open' || doing.current) return;
		event.currentTarget.setPointerCapture(event.pointerId);
		last.current = { x: event.clientX, y: event.clientY };
		rememberPress(event.clientX, event.clientY);
		if (state.refusal) useStudio.setState({ refusal: null });
		const { x, y } = view.toSpace(event.clientX, event.clientY);
		if (event.button === 2) doing.current = 'turn';
		else if (event.button === 1 || isHeld('Space')) doing.current = 'pan';
		else if (event.button !== 0) return;
		else if (isHeld('KeyR')) doing.current = 'tip';
		else if (isHeld('KeyA') || state.tool === 'sample') {
			doing.current = 'sample';
			sampleColor(event);
		} else if (state.tool === 'fill') {
			const place = view.pointing(x, y);
			if (place) tell({ say: 'fill', place, layers: activeLayers(state), color: state.desk.front });
		} else {
			const place = view.place();
			if (!place) return;
			doing.current = 'stroke';
			const { tip, front } = state.desk;
			tell({
				say: 'begin',
				spec: { tool: state.tool === 'wipe' ? 'wipe' : 'draw', tip, color: front, place, layers: activeLayers(state) },
				samples: [sampleOf(event)],
			});
		}
	};
	const move = (event: PointerEvent): void => {
		point(event);
		const { x, y } = last.current;
		const [dx, dy] = [event.clientX - x, event.clientY - y];
		if (doing.current !== null) last.current = { x: event.clientX, y: event.clientY };
		if (doing.current === 'pan') view.pan(dx, dy);
		else if (doing.current === 'turn') view.turn(dx, dy);
		else if (doing.current === 'sample') sampleColor(event);
		else if (doing.current === 'tip') {
			const { tip } = useStudio.getState().desk;
			setDesk({
				tip: {
					...tip,
					size: clamp(Math.round(tip.size * 1.012 ** dx * 10) / 10, 1, 1000),
					strength: clamp(Math.round((tip.strength - dy * 0.005) * 1000) / 1000, 0, 1),
				},
			});
		} else if (doing.current === 'stroke') {
			const events = event.nativeEvent.getCoalescedEvents?.() ?? [];
			tell({ say: 'extend', samples: (events.length ? events : [event.nativeEvent]).map(sampleOf) });
		}
	};
	const up = (event: PointerEvent): void => {
		if (doing.current === 'stroke') tell({ say: 'end' });
		doing.current = null;
		point(event);
	};
	return {
		onPointerDown: down,
		onPointerMove: move,
		onPointerUp: up,
		onPointerCancel: () => {
			if (doing.current === 'stroke') tell({ say: 'cancel' });
			doing.current = null;
		},
		onPointerLeave: () => {
			if (doing.current) return;
			view.leave();
			tell({ say: 'point', place: null });
		},
		onContextMenu: (event: { preventDefault(): void }) => event.preventDefault(),
	};
}
