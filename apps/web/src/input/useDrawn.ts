import { type Joining, repeatedPath, type Shape, shapePath } from '@eppu/core/select';
import { type PointerEvent, useEffect, useRef, useState } from 'react';
import { joiningOf, pick } from '../actions/picking.ts';
import { ditherNow, mixingNow } from '../actions/pixels.ts';
import { rememberPress } from '../studio/hears.ts';
import { run } from '../studio/say.ts';
import { activeLayer, activeSheet, drawsTexels, pots, type StudioState, useStudio } from '../studio/store.ts';
import { toolOf } from '../tools/list.ts';
import type { Board } from './boards.ts';
import {
	draggedShape,
	drawnGradient,
	onTexels,
	type Point,
	pressedCurve,
	repeatOf,
	texelLines,
	turned,
} from './drawing.ts';
import { letteringBy, ofLettering } from './drawnLetters.ts';
import { isHeld } from './held.ts';

/** What is being drawn, in the board's own places: lines, closed or not, and single places on them. */
export interface Draft {
	readonly lines: readonly ArrayLike<number>[];
	readonly closed: boolean;
	readonly anchors: readonly number[];
}

interface Held {
	readonly ctrlKey: boolean;
	readonly metaKey: boolean;
}

const pickWays = ['similar', 'tones', 'island', 'part', 'face'];
/** A click this near the first place closes a polygon, px. */
const CLOSE = 9;

/** Whether the tool in the hand draws from place to place, not in one drag. */
function many(): boolean {
	const { tool, selecting, shaping } = useStudio.getState();
	return tool === 'select'
		? selecting.way === 'polygon' || selecting.way === 'cling'
		: tool === 'shape' && (shaping.kind === 'polygon' || shaping.kind === 'curve');
}

/** Whether a curve is drawn: by its start, its end, and a place that it is drawn towards. */
const curving = (): boolean => {
	const { tool, shaping } = useStudio.getState();
	return tool === 'shape' && shaping.kind === 'curve';
};

/** How thick the outline of a shape is; null where shapes are filled, and where one selects. */
function outlineNow(state: StudioState): number | null {
	const { tool, shaping, pixeling } = state;
	if (tool === 'select' || !shaping.outline) return null;
	return drawsTexels(state) ? pixeling.size : shaping.thick;
}

/** A shape as it lies on a board: on whole texels where those are drawn. */
function shapeOn({ texels }: Board, shape: Shape): Shape {
	if (!texels) return shape;
	const state = useStudio.getState();
	const snapped = onTexels(shape);
	return (snapped.kind === 'line' || snapped.kind === 'curve') && drawsTexels(state)
		? { ...snapped, thick: state.pixeling.size }
		: snapped;
}

/** Sets down a shape that was drawn: selected by, drawn, or what lettering stands in or runs along. */
function put(board: Board, shape: Shape, joining: Joining): void {
	const state = useStudio.getState();
	const repeat = repeatOf(state, shape, board);
	if (state.tool === 'select') return board.select({ shape, repeat }, joining);
	const layer = activeLayer(state);
	if (layer?.kind === 'text' && !state.desk.onMask && ofLettering(shape)) {
		const sheet = activeSheet(state)?.id as string;
		void letteringBy(shape, board).then((by) => {
			if (by) run({ do: 'layer.change', sheet, layer: layer.id, change: { text: { ...layer.text, ...by } } });
		});
		return;
	}
	const mixing = board.texels ? mixingNow(state) : null;
	board.edit({ do: 'shape', shape, outline: outlineNow(state), repeat, color: pots(state).front, mixing });
}

/** Lays the gradient of the pots; a wash that is chosen takes it as its own. */
function lay(board: Board, from: Point, to: Point): void {
	const state = useStudio.getState();
	const layer = activeLayer(state);
	if (layer?.kind !== 'wash' || state.desk.onMask)
		return board.edit({ do: 'gradient', gradient: drawnGradient(state, from, to), dither: ditherNow(state) });
	const sheet = activeSheet(state)?.id as string;
	void board.texelsAt([...from, ...to]).then((places) => {
		const [ax, ay, bx, by] = (places ?? []) as [number, number, number, number];
		const fill = drawnGradient(state, [ax, ay], [bx, by]);
		if (places) run({ do: 'layer.change', sheet, layer: layer.id, change: { fill } });
	});
}

/**
 * Selections, shapes and gradients drawn on a board. `down` and its like return whether the event is theirs; what is
 * not goes to the painting hand.
 */
// biome-ignore lint/complexity/noExcessiveLinesPerFunction: one gesture: what its handlers share is the line that is being drawn.
export function useDrawn(board: Board | null) {
	const [draft, setDraft] = useState<Draft | null>(null);
	const start = useRef<Point | null>(null);
	const last = useRef<{ readonly at: Point; readonly held: Held } | null>(null);
	const points = useRef<number[]>([]);
	const anchors = useRef<number[]>([]);
	const joining = useRef<Joining>('replace');
	const asked = useRef(0);
	const seeking = useRef(false);
	const tool = useStudio((state) => state.tool);
	const way = useStudio((state) => state.selecting.way);
	const kind = useStudio((state) => state.shaping.kind);

	const clear = (): void => {
		start.current = null;
		last.current = null;
		points.current = [];
		anchors.current = [];
		setDraft(null);
	};
	const finish = (): void => {
		const places = points.current.slice();
		clear();
		const lettering = activeLayer(useStudio.getState())?.kind === 'text' && useStudio.getState().tool === 'shape';
		if (board && places.length >= (lettering ? 4 : 6)) put(board, { kind: 'polygon', points: places }, joining.current);
	};
	const showLine = (line: readonly number[]): void =>
		setDraft({ lines: [line], closed: false, anchors: anchors.current });
	/** A curve so far: a line until its end is set. */
	const showCurve = (places: readonly number[]): void => {
		if (!board || places.length < 4) return showLine(places);
		const state = useStudio.getState();
		const shape = shapeOn(board, pressedCurve(places, state.shaping.thick));
		const lines = board.texels ? texelLines(shape, null, null, board.texels) : shapePath(shape);
		setDraft({ lines, closed: true, anchors: anchors.current.slice() });
	};
	/** What is dragged out now, with its repeats. */
	const showDragged = (): void => {
		const [from, now] = [start.current, last.current];
		if (!from || !now || !board) return;
		const state = useStudio.getState();
		const shape = shapeOn(board, draggedShape(state, from, now.at, points.current, now.held));
		const repeats = repeatOf(state, shape, board);
		if (board.texels)
			return setDraft({
				lines: texelLines(shape, outlineNow(state), repeats, board.texels),
				closed: true,
				anchors: [],
			});
		setDraft({ lines: repeatedPath(shapePath(shape), repeats), closed: true, anchors: [] });
	};

	useEffect(clear, [tool, way, kind, board?.key]);
	useEffect(() => {
		const key = (event: KeyboardEvent): void => {
			if (!anchors.current.length && !start.current) return;
			const change = start.current && last.current ? turned(useStudio.getState(), event.key, event.shiftKey) : null;
			if (event.key === 'Escape') clear();
			else if (event.key === 'Enter' && many()) finish();
			else if (event.key === 'Backspace' && many()) {
				anchors.current.splice(-2);
				points.current = anchors.current.slice();
				showLine(points.current);
			} else if (change) {
				useStudio.setState(change);
				showDragged();
			} else return;
			event.preventDefault();
			event.stopPropagation();
		};
		addEventListener('keydown', key, true);
		return () => removeEventListener('keydown', key, true);
	});

	const follow = (at: Point): void => {
		const state = useStudio.getState();
		if (!board || !anchors.current.length) return;
		if (curving()) return showCurve([...anchors.current, ...at]);
		if (state.tool !== 'select' || state.selecting.way !== 'cling') return showLine([...points.current, ...at]);
		// One question at a time: a hand moves faster than long ways are found.
		if (seeking.current) return;
		seeking.current = true;
		const turn = ++asked.current;
		void board.cling(null, { x: at[0], y: at[1] }).then((line) => {
			seeking.current = false;
			if (turn === asked.current && anchors.current.length) showLine([...points.current, ...line]);
		});
	};
	const anchor = (at: Point): void => {
		if (!board) return;
		const state = useStudio.getState();
		const [fx, fy] = anchors.current as [number?, number?];
		const near = (x: number, y: number): boolean => Math.hypot(at[0] - x, at[1] - y) * board.zoom < CLOSE;
		if (fx !== undefined && fy !== undefined && anchors.current.length >= 6 && near(fx, fy)) return finish();
		const cling = state.tool === 'select' && state.selecting.way === 'cling';
		const first = anchors.current.length === 0;
		anchors.current.push(...at);
		if (curving()) {
			const places = anchors.current.slice();
			if (places.length < 6) return showCurve(places);
			clear();
			return put(board, shapeOn(board, pressedCurve(places, state.shaping.thick)), joining.current);
		}
		if (!cling) {
			points.current.push(...at);
			return showLine(points.current.slice());
		}
		const turn = ++asked.current;
		const to = { x: at[0], y: at[1] };
		void (first ? Promise.resolve<readonly number[]>(at) : board.cling(null, to)).then((line) => {
			points.current.push(...line);
			// From here on the way is sought anew.
			void board.cling(to, to);
			if (turn === asked.current) showLine(points.current.slice());
		});
	};

	const theirs = (event: PointerEvent): boolean => {
		const state = useStudio.getState();
		return (
			event.button === 0 &&
			state.status === 'open' &&
			!state.shading &&
			toolOf(state.tool).draws === true &&
			!isHeld('Space') &&
			!isHeld('KeyA') &&
			!(isHeld('KeyT') && state.desk.stencil.picture !== null)
		);
	};
	const placeOf = (at: Board, event: PointerEvent): Point => {
		const { x, y } = at.toSpace(event.clientX, event.clientY);
		return [x, y];
	};
	return {
		draft,
		down(event: PointerEvent): boolean {
			if (!board || !theirs(event)) return false;
			const state = useStudio.getState();
			event.currentTarget.setPointerCapture(event.pointerId);
			rememberPress(event.clientX, event.clientY);
			if (state.refusal) useStudio.setState({ refusal: null });
			const at = placeOf(board, event);
			if (!anchors.current.length) joining.current = joiningOf(event);
			if (state.tool === 'select' && pickWays.includes(state.selecting.way))
				pick(board.pointing({ x: at[0], y: at[1] }), joining.current);
			else if (many()) anchor(at);
			else {
				start.current = at;
				points.current = [...at];
			}
			return true;
		},
		move(event: PointerEvent): boolean {
			if (!board) return false;
			const at = placeOf(board, event);
			if (anchors.current.length) {
				follow(at);
				return false;
			}
			const from = start.current;
			if (!from) return false;
			const state = useStudio.getState();
			if (state.tool === 'gradient') {
				setDraft({ lines: [[...from, ...at]], closed: false, anchors: [...from, ...at] });
				return true;
			}
			if (state.tool === 'select' && state.selecting.way === 'freehand') points.current.push(...at);
			last.current = { at, held: { ctrlKey: event.ctrlKey, metaKey: event.metaKey } };
			showDragged();
			return true;
		},
		up(event: PointerEvent): boolean {
			const from = start.current;
			if (!from || !board) return false;
			const to = placeOf(board, event);
			const state = useStudio.getState();
			const shape = shapeOn(board, draggedShape(state, from, to, points.current, event));
			const moved = Math.hypot(to[0] - from[0], to[1] - from[1]) * board.zoom > 3;
			clear();
			if (moved && state.tool === 'gradient') lay(board, from, to);
			else if (moved) put(board, shape, joining.current);
			// A click beside lets go of what is selected.
			else if (state.tool === 'select' && joining.current === 'replace') board.selectNone();
			return true;
		},
	};
}

type Handlers = Record<'onPointerDown' | 'onPointerMove' | 'onPointerUp', (event: PointerEvent) => void>;
/** Whoever may take a press before others; each says whether the event is its own. */
type First = Record<'down' | 'move' | 'up', (event: PointerEvent) => boolean>;

/** A view's handlers: what is drawn goes first, the painting hand has the rest. */
export const drawnFirst = <H extends Handlers>(drawn: First, hand: H): H => ({
	...hand,
	onPointerDown(event: PointerEvent) {
		if (!drawn.down(event)) hand.onPointerDown(event);
	},
	onPointerMove(event: PointerEvent) {
		drawn.move(event);
		hand.onPointerMove(event);
	},
	onPointerUp(event: PointerEvent) {
		if (!drawn.up(event)) hand.onPointerUp(event);
	},
});
