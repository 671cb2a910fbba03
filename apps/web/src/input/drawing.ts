import { contourOf } from '@eppu/core/raster';
import { type Repeat, type Shape, shapePath, texelCover } from '@eppu/core/select';
import type { Gradient } from '@eppu/core/wash';
import { pots, type StudioState } from '../studio/store.ts';
import type { Board } from './boards.ts';

export type Point = readonly [number, number];

interface Held {
	readonly ctrlKey: boolean;
	readonly metaKey: boolean;
}

const box = (
	[ax, ay]: Point,
	[bx, by]: Point,
	{ ctrlKey, metaKey }: Held,
): { x: number; y: number; width: number; height: number } => {
	let [width, height] = [bx - ax, by - ay];
	if (ctrlKey || metaKey) {
		const side = Math.max(Math.abs(width), Math.abs(height));
		[width, height] = [Math.sign(width || 1) * side, Math.sign(height || 1) * side];
	}
	return { x: ax, y: ay, width, height };
};

/** A shape with its borders between texels; a line from the middle of one to the middle of another. */
export function onTexels(shape: Shape): Shape {
	if (shape.kind === 'polygon' || shape.kind === 'curve') return shape;
	if (shape.kind === 'line') {
		const middle = ([x, y]: Point): Point => [Math.floor(x) + 0.5, Math.floor(y) + 0.5];
		return { ...shape, from: middle(shape.from), to: middle(shape.to) };
	}
	const [x0, x1] = [Math.min(shape.x, shape.x + shape.width), Math.max(shape.x, shape.x + shape.width)].map(Math.floor);
	const [y0, y1] = [Math.min(shape.y, shape.y + shape.height), Math.max(shape.y, shape.y + shape.height)].map(
		Math.floor,
	);
	const [left, right, top, bottom] = [x0, x1, y0, y1] as [number, number, number, number];
	return { ...shape, x: left, y: top, width: right - left + 1, height: bottom - top + 1 };
}

/** What of a shape is drawn on a pixel sheet: the lines around its texels. */
export function texelLines(
	shape: Shape,
	outline: number | null,
	repeat: Repeat | null,
	[width, height]: readonly [number, number],
): readonly Int32Array[] {
	return contourOf(texelCover(shape, outline, repeat, { x: 0, y: 0, width, height }), width, height);
}

/** The shape that is dragged out from one place to another, as the tool in the hand draws it; `points` is the freehand line. */
export function draggedShape(state: StudioState, from: Point, to: Point, points: readonly number[], held: Held): Shape {
	const { tool, selecting, shaping } = state;
	const rect = box(from, to, held);
	if (tool === 'select') {
		if (selecting.way === 'freehand') return { kind: 'polygon', points };
		return selecting.way === 'ellipse'
			? { kind: 'ellipse', ...rect }
			: { kind: 'rectangle', ...rect, radius: selecting.radius };
	}
	if (shaping.kind === 'line') return { kind: 'line', from, to, thick: shaping.thick };
	return shaping.kind === 'ellipse'
		? { kind: 'ellipse', ...rect }
		: { kind: 'rectangle', ...rect, radius: shaping.radius };
}

const sizeOf = (shape: Shape): { readonly width: number; readonly height: number } => {
	if (shape.kind === 'polygon') {
		const xs = shape.points.filter((_, i) => i % 2 === 0);
		const ys = shape.points.filter((_, i) => i % 2 === 1);
		return { width: Math.max(...xs) - Math.min(...xs), height: Math.max(...ys) - Math.min(...ys) };
	}
	if (shape.kind === 'curve') {
		const { from, to, over, thick } = shape;
		const across = [from[0], to[0], over[0]];
		return { width: Math.max(...across) - Math.min(...across) + thick, height: thick };
	}
	if (shape.kind === 'line') return { width: Math.abs(shape.to[0] - shape.from[0]) + shape.thick, height: shape.thick };
	return { width: Math.abs(shape.width), height: Math.abs(shape.height) };
};

/** How a drawn shape is set several times: in a row a fifth of its width apart, or in a ring around the board's middle. */
export function repeatOf({ tool, selecting, shaping }: StudioState, shape: Shape, board: Board): Repeat | null {
	const [count, way] = tool === 'select' ? [selecting.repeat, 'row' as const] : [shaping.repeat, shaping.way];
	if (count <= 1) return null;
	return way === 'ring' ? { way, count, around: board.middle } : { way, count, step: [sizeOf(shape).width * 1.2, 0] };
}

/** Whether a drawn shape may have round corners now. */
export const hasCorners = ({ tool, selecting, shaping }: StudioState): boolean =>
	tool === 'select' ? selecting.way === 'rectangle' : shaping.kind === 'rectangle';

/** The dials of a shape that is being drawn, turned by an arrow key: corners up and down, repeats left and right. */
export function turned(state: StudioState, key: string, coarse: boolean): Partial<StudioState> | null {
	const own = state.tool === 'select' ? state.selecting : state.shaping;
	const by = coarse ? 8 : 1;
	const clamp = (v: number, least: number, most: number): number => Math.min(most, Math.max(least, v));
	const corner = key === 'ArrowUp' ? by : key === 'ArrowDown' ? -by : 0;
	const more = key === 'ArrowRight' ? 1 : key === 'ArrowLeft' ? -1 : 0;
	if (!more && !(corner && hasCorners(state))) return null;
	const change = {
		radius: clamp(own.radius + (hasCorners(state) ? corner : 0), 0, 256),
		repeat: clamp(own.repeat + more, 1, 64),
	};
	return state.tool === 'select'
		? { selecting: { ...state.selecting, ...change } }
		: { shaping: { ...state.shaping, ...change } };
}

/** The curve whose places were pressed: its start, its end, and what it is drawn towards. */
export function pressedCurve(places: readonly number[], thick: number): Shape {
	const [ax, ay, bx, by, cx = bx, cy = by] = places as [number, number, number, number, number?, number?];
	return { kind: 'curve', from: [ax, ay], to: [bx, by], over: [cx, cy], thick };
}

/** The gradient between two places, as the bay says. */
export function drawnGradient(state: StudioState, from: Point, to: Point): Gradient {
	const { way, fade, colors } = state.grading;
	const { front, back } = pots(state);
	const own = state.outline?.project.palette.colors.slice(0, 8) ?? [];
	return {
		fill: 'gradient',
		way,
		from,
		to,
		colors: colors === 'palette' && own.length > 1 ? own : fade ? [front] : [front, back],
		fade,
	};
}

/** A line between places with places of its own, so near that it follows a surface that it is laid on. */
export function alongLine(shape: Shape): readonly number[] {
	if (shape.kind !== 'line') return shape.kind === 'polygon' ? shape.points : [...(shapePath(shape)[0] ?? [])];
	const { from, to } = shape;
	const count = Math.max(1, Math.min(64, Math.ceil(Math.hypot(to[0] - from[0], to[1] - from[1]) / 6)));
	return Array.from({ length: count + 1 }, (_, i) => [
		from[0] + ((to[0] - from[0]) * i) / count,
		from[1] + ((to[1] - from[1]) * i) / count,
	]).flat();
}
