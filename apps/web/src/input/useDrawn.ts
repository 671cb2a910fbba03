import type { Sheet } from '@eppu/core/document';
import type { Joining, Repeat, Shape } from '@eppu/core/select';
import { type PointerEvent, useEffect, useRef, useState } from 'react';
import { joiningOf, pick } from '../actions/picking.ts';
import { rememberPress } from '../studio/hears.ts';
import { question, tell } from '../studio/line.ts';
import { edit, run } from '../studio/say.ts';
import { activeLayer, pots, useStudio } from '../studio/store.ts';
import { toolOf } from '../tools/list.ts';
import { isHeld } from './held.ts';

type Point = readonly [number, number];

/** What is being drawn on the sheet, in texels: a line, closed or not, and single places on it. */
export interface Draft {
	readonly points: readonly number[];
	readonly closed: boolean;
	readonly anchors: readonly number[];
	/** A shape as it will be. */
	readonly shape: Shape | null;
}

const pickWays = ['similar', 'tones', 'island', 'part', 'face'];
/** A click this near the first place closes a polygon, px. */
const CLOSE = 9;

const box = (
	[ax, ay]: Point,
	[bx, by]: Point,
	square: boolean,
): { x: number; y: number; width: number; height: number } => {
	let [width, height] = [bx - ax, by - ay];
	if (square) {
		const side = Math.max(Math.abs(width), Math.abs(height));
		[width, height] = [Math.sign(width || 1) * side, Math.sign(height || 1) * side];
	}
	return { x: ax, y: ay, width, height };
};

/**
 * Selections, shapes and gradients drawn on the sheet. `down` and its like return whether the event is theirs; what is
 * not goes to the painting hand.
 */
export function useDrawn(
	sheet: Sheet | undefined,
	zoom: number,
	toSpace: (x: number, y: number) => { x: number; y: number },
) {
	const [draft, setDraft] = useState<Draft | null>(null);
	const start = useRef<Point | null>(null);
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
		points.current = [];
		anchors.current = [];
		setDraft(null);
	};
	const many = (): boolean => {
		const state = useStudio.getState();
		return state.tool === 'select'
			? state.selecting.way === 'polygon' || state.selecting.way === 'cling'
			: state.tool === 'shape' && state.shaping.kind === 'polygon';
	};
	const put = (shape: Shape): void => {
		const state = useStudio.getState();
		if (!sheet) return;
		if (state.tool === 'select') {
			const repeat = repeated(shape, state.selecting.repeat, 'row', sheet);
			tell({ say: 'select', sheet: sheet.id, by: { by: 'shape', shape, repeat }, joining: joining.current });
			return;
		}
		const layer = activeLayer(state);
		if (layer?.kind === 'text' && (shape.kind === 'line' || shape.kind === 'polygon')) {
			// Lettering runs along a line that is drawn while it is chosen.
			const along = shape.kind === 'line' ? [...shape.from, ...shape.to] : [...shape.points];
			run({ do: 'layer.change', sheet: sheet.id, layer: layer.id, change: { text: { ...layer.text, along } } });
			return;
		}
		const { outline, thick, repeat: count, way: how } = state.shaping;
		const repeat = repeated(shape, count, how, sheet);
		edit({ do: 'shape', shape, outline: outline ? thick : null, repeat, color: pots(state).front });
	};
	const finish = (): void => {
		const places = points.current.slice();
		clear();
		const lettering = activeLayer(useStudio.getState())?.kind === 'text' && useStudio.getState().tool === 'shape';
		if (places.length >= (lettering ? 4 : 6)) put({ kind: 'polygon', points: places });
	};

	useEffect(clear, [tool, way, kind, sheet?.id]);
	useEffect(() => {
		const key = (event: KeyboardEvent): void => {
			if (!anchors.current.length && !start.current) return;
			if (event.key === 'Escape') clear();
			else if (event.key === 'Enter' && many()) finish();
			else if (event.key === 'Backspace' && many()) {
				anchors.current.splice(-2);
				points.current = anchors.current.slice();
				setDraft({ points: points.current, closed: false, anchors: anchors.current, shape: null });
			} else return;
			event.preventDefault();
			event.stopPropagation();
		};
		addEventListener('keydown', key, true);
		return () => removeEventListener('keydown', key, true);
	});

	const shapeTo = (at: Point, event: { ctrlKey: boolean; metaKey: boolean; shiftKey: boolean }): Shape | null => {
		const from = start.current;
		if (!from) return null;
		const state = useStudio.getState();
		const square = event.ctrlKey || event.metaKey;
		if (state.tool === 'select') {
			if (state.selecting.way === 'freehand') return { kind: 'polygon', points: points.current };
			const rect = box(from, at, square);
			return state.selecting.way === 'ellipse'
				? { kind: 'ellipse', ...rect }
				: { kind: 'rectangle', ...rect, radius: state.selecting.radius };
		}
		const { kind: form, thick, radius } = state.shaping;
		if (form === 'line') return { kind: 'line', from, to: at, thick };
		const rect = box(from, at, square);
		return form === 'ellipse' ? { kind: 'ellipse', ...rect } : { kind: 'rectangle', ...rect, radius };
	};

	const follow = (at: Point): void => {
		const state = useStudio.getState();
		if (!sheet || !anchors.current.length) return;
		if (state.tool === 'select' && state.selecting.way === 'cling') {
			// One question at a time: a hand moves faster than long ways are found.
			if (seeking.current) return;
			seeking.current = true;
			const turn = ++asked.current;
			void question<'cling'>({ say: 'cling', sheet: sheet.id, from: null, to: { x: at[0], y: at[1] } }).then((way_) => {
				seeking.current = false;
				if (turn !== asked.current || !anchors.current.length) return;
				setDraft({ points: [...points.current, ...way_], closed: false, anchors: anchors.current, shape: null });
			});
		} else setDraft({ points: [...points.current, ...at], closed: false, anchors: anchors.current, shape: null });
	};
	const anchor = (at: Point): void => {
		if (!sheet) return;
		const state = useStudio.getState();
		const [fx, fy] = anchors.current;
		if (
			fx !== undefined &&
			fy !== undefined &&
			anchors.current.length >= 6 &&
			Math.hypot(at[0] - fx, at[1] - fy) * zoom < CLOSE
		)
			return finish();
		const cling = state.tool === 'select' && state.selecting.way === 'cling';
		if (!cling) {
			anchors.current.push(...at);
			points.current.push(...at);
			setDraft({ points: points.current.slice(), closed: false, anchors: anchors.current, shape: null });
			return;
		}
		const turn = ++asked.current;
		const first = anchors.current.length === 0;
		anchors.current.push(...at);
		void (
			first
				? Promise.resolve<readonly number[]>(at)
				: question<'cling'>({ say: 'cling', sheet: sheet.id, from: null, to: { x: at[0], y: at[1] } })
		).then((way_) => {
			points.current.push(...way_);
			// From here on the way is sought anew.
			void question<'cling'>({
				say: 'cling',
				sheet: sheet.id,
				from: { x: at[0], y: at[1] },
				to: { x: at[0], y: at[1] },
			});
			if (turn === asked.current)
				setDraft({ points: points.current.slice(), closed: false, anchors: anchors.current, shape: null });
		});
	};

	const theirs = (event: PointerEvent): boolean => {
		const state = useStudio.getState();
		return (
			event.button === 0 &&
			state.status === 'open' &&
			toolOf(state.tool).draws === true &&
			!isHeld('Space') &&
			!isHeld('KeyA') &&
			!(isHeld('KeyT') && state.desk.stencil.picture !== null)
		);
	};
	return {
		draft,
		down(event: PointerEvent): boolean {
			if (!sheet || !theirs(event)) return false;
			const state = useStudio.getState();
			event.currentTarget.setPointerCapture(event.pointerId);
			rememberPress(event.clientX, event.clientY);
			if (state.refusal) useStudio.setState({ refusal: null });
			const { x, y } = toSpace(event.clientX, event.clientY);
			if (!anchors.current.length) joining.current = joiningOf(event);
			if (state.tool === 'select' && pickWays.includes(state.selecting.way)) {
				pick({ on: 'sheet', sheet: sheet.id, sight: null, x, y }, joining.current);
				return true;
			}
			if (many()) {
				anchor([x, y]);
				return true;
			}
			start.current = [x, y];
			points.current = [x, y];
			return true;
		},
		move(event: PointerEvent): boolean {
			if (anchors.current.length) {
				const { x, y } = toSpace(event.clientX, event.clientY);
				follow([x, y]);
				return false;
			}
			const from = start.current;
			if (!from) return false;
			const { x, y } = toSpace(event.clientX, event.clientY);
			const state = useStudio.getState();
			if (state.tool === 'gradient') {
				setDraft({ points: [...from, x, y], closed: false, anchors: [...from, x, y], shape: null });
				return true;
			}
			if (state.tool === 'select' && state.selecting.way === 'freehand') points.current.push(x, y);
			setDraft({ points: points.current, closed: true, anchors: [], shape: shapeTo([x, y], event) });
			return true;
		},
		up(event: PointerEvent): boolean {
			const from = start.current;
			if (!from || !sheet) return false;
			const { x, y } = toSpace(event.clientX, event.clientY);
			const shape = shapeTo([x, y], event);
			const moved = Math.hypot(x - from[0], y - from[1]) * zoom > 3;
			const state = useStudio.getState();
			clear();
			if (!moved && state.tool === 'select') {
				// A click beside lets go of what is selected.
				if (joining.current === 'replace') tell({ say: 'selection', sheet: sheet.id, change: { to: 'none' } });
			} else if (moved && state.tool === 'gradient') lay(sheet, from, [x, y]);
			else if (moved && shape) put(shape);
			return true;
		},
	};
}

/** Lays the gradient of the pots; a wash that is chosen takes it as its own. */
function lay(sheet: Sheet, from: Point, to: Point): void {
	const state = useStudio.getState();
	const { way, fade, colors } = state.grading;
	const { front, back } = pots(state);
	const own = state.outline?.project.palette.colors.slice(0, 8) ?? [];
	const gradient = {
		fill: 'gradient',
		way,
		from,
		to,
		colors: colors === 'palette' && own.length > 1 ? own : fade ? [front] : [front, back],
		fade,
	} as const;
	const layer = activeLayer(state);
	if (layer?.kind === 'wash' && !state.desk.onMask)
		run({ do: 'layer.change', sheet: sheet.id, layer: layer.id, change: { fill: gradient } });
	else edit({ do: 'gradient', gradient });
}

/** A shape set several times: in a row a fifth of its width apart, or in a ring around the sheet's middle. */
function repeated(shape: Shape, count: number, way: 'row' | 'ring', sheet: Sheet): Repeat | null {
	if (count <= 1) return null;
	return way === 'ring'
		? { way, count, around: [sheet.width / 2, sheet.height / 2] }
		: { way, count, step: [sizeOf(shape).width * 1.2, 0] };
}

const sizeOf = (shape: Shape): { readonly width: number; readonly height: number } => {
	if (shape.kind === 'polygon') {
		const xs = shape.points.filter((_, i) => i % 2 === 0);
		const ys = shape.points.filter((_, i) => i % 2 === 1);
		return { width: Math.max(...xs) - Math.min(...xs), height: Math.max(...ys) - Math.min(...ys) };
	}
	if (shape.kind === 'line') return { width: Math.abs(shape.to[0] - shape.from[0]) + shape.thick, height: shape.thick };
	return { width: Math.abs(shape.width), height: Math.abs(shape.height) };
};
