import type { StencilDesk } from '@eppu/core/document';
import type { StrokePlace, StrokeSpec } from '@eppu/core/engine';
import type { Plane, SheetMirror } from '@eppu/core/projection';
import type { StencilUse } from '@eppu/core/stroke';
import { pencilNow } from '../actions/pixels.ts';
import { activeLayers, paintsMask, pots, type StudioState, sheetIn } from '../studio/store.ts';
import { toolOf } from '../tools/list.ts';
import { isHeld } from './held.ts';

/** How a view's own space lies on its screen: px = scale·v + x (or y), in a view of width by height px. */
export interface ViewFrame {
	readonly scale: number;
	readonly x: number;
	readonly y: number;
	readonly width: number;
	readonly height: number;
}

/** A stencil's middle and half axes on a view, px. */
export function stencilFrame(
	{ x, y, scale, stretch, turn }: StencilDesk,
	aspect: number,
	width: number,
	height: number,
): { readonly cx: number; readonly cy: number; readonly w: number; readonly h: number; readonly angle: number } {
	const h = scale * height;
	return {
		cx: width / 2 + x * height,
		cy: height / 2 + y * height,
		w: h * aspect * stretch,
		h,
		angle: (turn * Math.PI) / 180,
	};
}

/** The stencil that is taken up, as a stroke in a view uses it. `aspect` is its picture's width over height. */
export function stencilUse(
	stencil: StencilDesk,
	aspect: number,
	view: ViewFrame,
	sheetHeight: number,
	sheetWidth: number,
): StencilUse | null {
	if (!stencil.picture || !stencil.shown) return null;
	const { tile, invert, soft, opacity, mode, space } = stencil;
	const sheet = space === 'sheet';
	const frame = sheet
		? stencilFrame(stencil, aspect, sheetWidth, sheetHeight)
		: stencilFrame(stencil, aspect, view.width, view.height);
	const [c, s] = [Math.cos(frame.angle), Math.sin(frame.angle)];
	// From px to the picture, then from the view's own space to px.
	const [k, ox, oy] = sheet ? [1, 0, 0] : [view.scale, view.x, view.y];
	const [px, py] = [ox - frame.cx, oy - frame.cy];
	return {
		picture: stencil.picture,
		place: [
			(c * k) / frame.w,
			(s * k) / frame.w,
			(c * px + s * py) / frame.w + 0.5,
			(-s * k) / frame.h,
			(c * k) / frame.h,
			(-s * px + c * py) / frame.h + 0.5,
		],
		space,
		tile,
		invert,
		soft,
		opacity,
		mode,
	};
}

const axes: readonly (readonly ['x' | 'y' | 'z', readonly [number, number, number]])[] = [
	['x', [1, 0, 0]],
	['y', [0, 1, 0]],
	['z', [0, 0, 1]],
];

/** Planes of the model over which strokes are mirrored now. */
export const mirrorPlanes = ({ desk: { mirror } }: StudioState): Plane[] =>
	isHeld('KeyB')
		? []
		: [
				...axes.flatMap(([axis, normal], i) => (mirror[axis] ? [{ normal, at: mirror.at[i] as number }] : [])),
				...(mirror.slant?.on ? [{ normal: mirror.slant.normal, at: mirror.slant.at }] : []),
			];

/** Lines of the sheet over which strokes are mirrored now. */
export function mirrorLines(state: StudioState, sheetId: string): SheetMirror[] {
	const { mirror } = state.desk;
	const sheet = sheetIn(state, sheetId);
	if (!sheet || isHeld('KeyB')) return [];
	return [
		...(mirror.sheetX ? [{ along: 'x' as const, at: sheet.width / 2 }] : []),
		...(mirror.sheetY ? [{ along: 'y' as const, at: sheet.height / 2 }] : []),
	];
}

/** Everything that the next stroke in a view is made with. */
export function strokeSpec(state: StudioState, place: StrokePlace, view: ViewFrame, aspect: number): StrokeSpec {
	const { tip, amounts, stencil, stamp, guard } = state.desk;
	const kind = toolOf(state.tool);
	const tool = kind.stroke?.(state) ?? 'draw';
	const sheet = place.sheet ? sheetIn(state, place.sheet) : undefined;
	return {
		tool,
		tip,
		color: pots(state).front,
		onMask: paintsMask(state),
		place,
		layers: activeLayers(state),
		seed: crypto.getRandomValues(new Uint32Array(1))[0] as number,
		amount: amounts[tool] ?? 1,
		stencil: stencilUse(stencil, aspect, view, sheet?.height ?? 1, sheet?.width ?? 1),
		guard,
		mirrors: { planes: mirrorPlanes(state), lines: place.on === 'sheet' ? mirrorLines(state, place.sheet) : [] },
		pencil: kind.placed ? null : pencilNow(state, tool),
		stamp: kind.placed ? { repeat: stamp.repeat, way: stamp.way } : null,
	};
}
