import type { StrokePlace } from '@eppu/core/engine';
import type { Sample } from '@eppu/core/stroke';
import { type PointerEvent, useEffect, useRef } from 'react';
import { setDesk } from '../studio/desk.ts';
import { rememberPress } from '../studio/hears.ts';
import { tell } from '../studio/line.ts';
import type { Pointing } from '../studio/protocol.ts';
import { activeLayers, useStudio } from '../studio/store.ts';
import type { Place } from '../studio/told.ts';
import { toolOf } from '../tools/list.ts';
import { carryTo, dropNothing, landsIn, letGo, takeUp } from './carrying.ts';
import { isHeld } from './held.ts';
import { strokeSpec, type ViewFrame } from './strokeSpec.ts';
import { setStrokesOn } from './strokesOn.ts';
import { type FingerView, useFingers } from './useFingers.ts';

/** What a view gives the hand: its own space, and what dragging with other intents does. */
export interface HandView extends FingerView {
	/** Client place to the view's own space (texels on a sheet, px of the viewport on the model). */
	toSpace(clientX: number, clientY: number): Place;
	frame(): ViewFrame;
	/** Width over height of the stencil that is taken up. */
	stencilAspect(): number;
	place(): StrokePlace | null;
	pointing(x: number, y: number): Pointing | null;
	mark(x: number, y: number): void;
	/** Shows a straight stroke before it is made; null takes it away. */
	line(from: Place | null, to: Place | null): void;
	leave(): void;
}

type Doing =
	| 'stroke'
	| 'line'
	| 'stamp'
	| 'pan'
	| 'islands'
	| 'turn'
	| 'roll'
	| 'tip'
	| 'sample'
	| 'stencil'
	| 'stencil-turn'
	| 'carry'
	| null;

const clamp = (v: number, a: number, b: number): number => Math.min(b, Math.max(a, v));
/** Straight strokes turn in steps of this many degrees while Ctrl is held too. */
const ANGLE_STEP = 15;

/** A press that moves less is a click. */
const STILL_PX = 4;

/** Where the last stroke of each view ended: a Shift-click goes on from there in a straight line. */
const lastEnd = new Map<string, Place>();

function stepped(from: Place, to: Place): Place {
	const [dx, dy] = [to.x - from.x, to.y - from.y];
	const step = (ANGLE_STEP * Math.PI) / 180;
	const angle = Math.round(Math.atan2(dy, dx) / step) * step;
	const long = Math.hypot(dx, dy);
	return { x: from.x + long * Math.cos(angle), y: from.y + long * Math.sin(angle) };
}

/** Samples along a straight line, so many that spacing and rules run along it as on any other. */
function alongTo(from: Place, to: Place): Sample[] {
	const count = Math.max(1, Math.ceil(Math.hypot(to.x - from.x, to.y - from.y) / 8));
	return Array.from({ length: count + 1 }, (_, i) => ({
		x: from.x + ((to.x - from.x) * i) / count,
		y: from.y + ((to.y - from.y) * i) / count,
		pressure: 1,
	}));
}

/** The pen's lean as 0 upright .. 1 flat and its direction, whichever pair of angles the browser tells. */
function leanOf(event: globalThis.PointerEvent): { tilt: number; azimuth: number } {
	if (event.altitudeAngle !== undefined && event.azimuthAngle !== undefined)
		return { tilt: clamp(1 - event.altitudeAngle / (Math.PI / 2), 0, 1), azimuth: event.azimuthAngle };
	const [tx, ty] = [Math.tan((event.tiltX * Math.PI) / 180), Math.tan((event.tiltY * Math.PI) / 180)];
	return { tilt: clamp(Math.atan(Math.hypot(tx, ty)) / (Math.PI / 2), 0, 1), azimuth: Math.atan2(ty, tx) };
}

/** Pointer handling that both views share: strokes with pressure, tilt and coalesced events, and all other drags. */
// biome-ignore lint/complexity/noExcessiveLinesPerFunction: one gesture: what its handlers share is what the hand is doing.
export function useHand(name: 'model' | 'sheet', view: HandView) {
	const doing = useRef<Doing>(null);
	const last = useRef({ x: 0, y: 0 });
	const press = useRef<Place>({ x: 0, y: 0 });
	const moved = useRef(false);
	const travelled = useRef(0);
	const clicked = useRef({ time: 0, x: 0, y: 0, count: 0 });
	const pointed = useRef(0);
	const stamped = useRef(0);

	const sampleOf = (event: globalThis.PointerEvent): Sample => {
		const { x, y } = view.toSpace(event.clientX, event.clientY);
		const time = Math.round(event.timeStamp * 10) / 10;
		return event.pointerType === 'pen'
			? { x, y, pressure: event.pressure, ...leanOf(event), time }
			: { x, y, pressure: 1, time };
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
	/** How often it was clicked here, one click after the other. */
	const countClick = ({ timeStamp, clientX, clientY }: PointerEvent): number => {
		const { time, x, y, count } = clicked.current;
		const again = timeStamp - time < 450 && Math.hypot(clientX - x, clientY - y) < 6;
		clicked.current = { time: timeStamp, x: clientX, y: clientY, count: again ? count + 1 : 1 };
		return clicked.current.count;
	};
	const sampleColor = (event: PointerEvent): void => {
		const { x, y } = view.toSpace(event.clientX, event.clientY);
		const place = view.pointing(x, y);
		const state = useStudio.getState();
		const { size, from } = state.desk.sampling;
		if (place) tell({ say: 'sample', place, size, layers: from === 'layer' ? activeLayers(state) : null });
	};
	const begin = (samples: readonly Sample[]): boolean => {
		const place = view.place();
		if (!place) return false;
		tell({ say: 'begin', spec: strokeSpec(useStudio.getState(), place, view.frame(), view.stencilAspect()), samples });
		return true;
	};
	const lineEnd = (event: PointerEvent): Place => {
		const to = view.toSpace(event.clientX, event.clientY);
		return event.ctrlKey || event.metaKey ? stepped(press.current, to) : to;
	};
	const moveStencil = (dx: number, dy: number): void => {
		const { stencil } = useStudio.getState().desk;
		const { height } = view.frame();
		setDesk({ stencil: { ...stencil, x: stencil.x + dx / height, y: stencil.y + dy / height } });
	};

	const fingers = useFingers(view, () => {
		if (doing.current === 'stroke' || doing.current === 'stamp') tell({ say: 'cancel' });
		dropNothing();
		view.line(null, null);
		doing.current = null;
	});
	// The views' own functions are new at each drawing: what lands in them is the latest.
	useEffect(() => landsIn(name, view));

	const down = (event: PointerEvent): void => {
		if (fingers.down(event) || fingers.moving) return;
		const state = useStudio.getState();
		if (state.status !== 'open' || doing.current) return;
		event.currentTarget.setPointerCapture(event.pointerId);
		last.current = { x: event.clientX, y: event.clientY };
		moved.current = false;
		travelled.current = 0;
		rememberPress(event.clientX, event.clientY);
		if (state.refusal) useStudio.setState({ refusal: null });
		const at = view.toSpace(event.clientX, event.clientY);
		const pointing = view.pointing(at.x, at.y);
		const tool = toolOf(state.tool);
		const stencilHeld = isHeld('KeyT') && state.desk.stencil.picture !== null;
		if (event.button === 2) doing.current = stencilHeld ? 'stencil-turn' : event.shiftKey ? 'roll' : 'turn';
		else if (event.button === 1 || isHeld('Space')) doing.current = 'pan';
		else if (event.button !== 0) return;
		// Where a model is laid out nothing is painted: the hand turns it, and moves the sheet.
		else if (state.shading) {
			press.current = at;
			const taken = name === 'sheet' && state.shading.grab(pointing);
			doing.current = taken ? 'islands' : name === 'model' ? 'turn' : 'pan';
		} else if (stencilHeld) doing.current = 'stencil';
		else if (isHeld('KeyR')) doing.current = 'tip';
		else if (isHeld('KeyA') || tool.samples) {
			doing.current = 'sample';
			sampleColor(event);
		} else if (tool.press) {
			const { shiftKey, altKey, clientX, clientY } = event;
			const pressed = { view: name, pointing, state, shiftKey, altKey, clientX, clientY };
			if (tool.carry) {
				takeUp(tool, pressed);
				doing.current = 'carry';
			} else tool.press(pressed);
		} else if (tool.placed) {
			press.current = at;
			if (
				begin([
					{ ...at, pressure: 1 },
					{ ...at, pressure: 1 },
				])
			)
				doing.current = 'stamp';
		} else if (event.shiftKey) {
			// A straight stroke: from here to where the button is let go, or, on a click, from the last stroke's end.
			press.current = at;
			doing.current = 'line';
		} else if (begin([sampleOf(event.nativeEvent)])) doing.current = 'stroke';
		setStrokesOn(doing.current === 'stroke' ? name : null);
	};
	const move = (event: PointerEvent): void => {
		if (fingers.move(event)) return;
		point(event);
		const { x, y } = last.current;
		const [dx, dy] = [event.clientX - x, event.clientY - y];
		if (doing.current !== null) {
			last.current = { x: event.clientX, y: event.clientY };
			travelled.current += Math.abs(dx) + Math.abs(dy);
			if (travelled.current > 0) moved.current = true;
		}
		const { desk } = useStudio.getState();
		if (doing.current === 'islands') {
			const to = view.toSpace(event.clientX, event.clientY);
			if (travelled.current >= STILL_PX)
				useStudio.getState().shading?.drag(to.x - press.current.x, to.y - press.current.y);
		} else if (doing.current === 'carry') carryTo(event.clientX, event.clientY);
		else if (doing.current === 'pan') view.pan(dx, dy);
		else if (doing.current === 'turn') view.turn(dx, dy);
		else if (doing.current === 'roll') view.roll(dx * 0.4);
		else if (doing.current === 'sample') sampleColor(event);
		else if (doing.current === 'stencil') moveStencil(dx, dy);
		else if (doing.current === 'stencil-turn')
			setDesk({ stencil: { ...desk.stencil, turn: (desk.stencil.turn + dx * 0.4) % 360 } });
		else if (doing.current === 'tip')
			setDesk({
				tip: {
					...desk.tip,
					size: clamp(Math.round(desk.tip.size * 1.012 ** dx * 10) / 10, 1, 1000),
					strength: clamp(Math.round((desk.tip.strength - dy * 0.005) * 1000) / 1000, 0, 1),
				},
			});
		else if (doing.current === 'line') view.line(press.current, lineEnd(event));
		else if (doing.current === 'stamp') {
			const to = lineEnd(event);
			// The stamp is really set while it is dragged out, once a frame, and taken back before it is set anew.
			cancelAnimationFrame(stamped.current);
			stamped.current = requestAnimationFrame(() => {
				stamped.current = 0;
				if (doing.current !== 'stamp') return;
				tell({ say: 'cancel' });
				begin([
					{ ...press.current, pressure: 1 },
					{ ...to, pressure: 1 },
				]);
			});
		} else if (doing.current === 'stroke') {
			const events = event.nativeEvent.getCoalescedEvents?.() ?? [];
			tell({ say: 'extend', samples: (events.length ? events : [event.nativeEvent]).map(sampleOf) });
		}
	};
	const up = (event: PointerEvent): void => {
		if (fingers.up(event)) return;
		const was = doing.current;
		doing.current = null;
		setStrokesOn(null);
		const at = view.toSpace(event.clientX, event.clientY);
		if (was === 'carry') letGo(event.clientX, event.clientY);
		else if (was === 'stroke') {
			tell({ say: 'end' });
			lastEnd.set(name, at);
		} else if (was === 'line') {
			view.line(null, null);
			const from = moved.current ? press.current : (lastEnd.get(name) ?? at);
			const to = moved.current ? lineEnd(event) : at;
			const along = alongTo(from, to);
			if (begin(along.slice(0, 1))) {
				tell({ say: 'extend', samples: along.slice(1) });
				tell({ say: 'end' });
				lastEnd.set(name, to);
			}
		} else if (
			(was === 'turn' || was === 'pan' || was === 'islands') &&
			event.button === 0 &&
			travelled.current < STILL_PX
		) {
			const pointing = view.pointing(at.x, at.y);
			const { shading } = useStudio.getState();
			if (pointing) shading?.press({ pointing, shiftKey: event.shiftKey, count: countClick(event) });
		} else if (was === 'stamp') {
			if (stamped.current) {
				cancelAnimationFrame(stamped.current);
				stamped.current = 0;
				tell({ say: 'cancel' });
				begin([
					{ ...press.current, pressure: 1 },
					{ ...lineEnd(event), pressure: 1 },
				]);
			}
			tell({ say: 'end' });
		}
		point(event);
	};
	return {
		onPointerDown: down,
		onPointerMove: move,
		onPointerUp: up,
		onPointerCancel: (event: PointerEvent) => {
			if (fingers.up(event)) return;
			if (doing.current === 'stroke' || doing.current === 'stamp') tell({ say: 'cancel' });
			dropNothing();
			setStrokesOn(null);
			view.line(null, null);
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
