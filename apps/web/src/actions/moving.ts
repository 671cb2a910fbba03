import { layerOf, type TextLayer } from '@eppu/core/document';
import { type Affine, after } from '@eppu/core/raster';
import { question, tell } from '../studio/line.ts';
import { edit, run } from '../studio/say.ts';
import { activeLayer, activeSheet, type Moving, paintsMask, sheetIn, useStudio } from '../studio/store.ts';

/** The map of a move, about the middle of what is moved. */
export function movingMap({ box, x, y, scaleX, scaleY, turn, skew }: Moving): Affine {
	const [cx, cy] = [box.x + box.width / 2, box.y + box.height / 2];
	const [c, s] = [Math.cos((turn * Math.PI) / 180), Math.sin((turn * Math.PI) / 180)];
	const k = Math.tan((skew * Math.PI) / 180);
	const shaped: Affine = [scaleX, k * scaleY, -cx * scaleX - cy * k * scaleY, 0, scaleY, -cy * scaleY];
	return after([c, -s, cx + x, s, c, cy + y], shaped);
}

const whole = (moving: Moving): Moving =>
	// Without turning or scaling, moves go by whole texels: nothing is blurred.
	moving.scaleX === 1 && moving.scaleY === 1 && moving.turn === 0 && moving.skew === 0
		? { ...moving, x: Math.round(moving.x), y: Math.round(moving.y) }
		: // Nothing is made so thin that it is lost.
			{ ...moving, scaleX: moving.scaleX || 0.01, scaleY: moving.scaleY || 0.01 };

let due = 0;
/** The lettering as it was when its move began. */
let lettering: TextLayer | null = null;

/** Moves on from where the move began; what is shown follows once a frame, and all of it is one step. */
export function moveBy(change: Partial<Moving>): void {
	const { moving } = useStudio.getState();
	if (!moving) return;
	useStudio.setState({ moving: whole({ ...moving, ...change }) });
	if (due) return;
	due = requestAnimationFrame(() => {
		due = 0;
		const { moving: now, smooth, outlineOnly } = useStudio.getState();
		if (!now) return;
		const layer = layerOf(sheetIn(useStudio.getState(), now.sheet), now.layer);
		// A layer without pixels of its own has nothing to move but the selection's outline.
		const bare = layer?.kind !== 'paint' && layer?.kind !== 'text' && !paintsMask(useStudio.getState());
		if ((outlineOnly || bare) && sheetIn(useStudio.getState(), now.sheet)?.selection)
			return tell({ say: 'move-selection', sheet: now.sheet, map: movingMap(now), gesture: now.gesture });
		if (layer?.kind !== 'text') return edit({ do: 'transform', map: movingMap(now), smooth }, now.gesture);
		lettering ??= layer;
		const { text } = lettering;
		run(
			{
				do: 'layer.change',
				sheet: now.sheet,
				layer: now.layer,
				change: {
					text: {
						...text,
						x: text.x + now.x,
						y: text.y + now.y,
						size: Math.min(4096, Math.max(1, Math.round(text.size * Math.abs(now.scaleY) * 10) / 10)),
						turn: Math.round(((((text.turn + now.turn + 180) % 360) + 360) % 360) * 10) / 10 - 180,
						mirrored: now.scaleX < 0 ? !text.mirrored : text.mirrored,
						along: text.along ? text.along.map((v, i) => v + (i % 2 ? now.y : now.x)) : null,
					},
				},
			},
			now.gesture,
		);
	});
}

/** Puts the box round what would be moved now: what is selected, else all of the active layer. */
export async function takeUp(): Promise<void> {
	const state = useStudio.getState();
	const [sheet, layer] = [activeSheet(state), activeLayer(state)];
	lettering = null;
	if (!sheet || !layer) return useStudio.setState({ moving: null });
	const box = await question<'bounds'>({ say: 'bounds', sheet: sheet.id, layer: layer.id, onMask: paintsMask(state) });
	if (useStudio.getState().tool !== 'move') return;
	useStudio.setState({
		moving: box && {
			sheet: sheet.id,
			layer: layer.id,
			box,
			x: 0,
			y: 0,
			scaleX: 1,
			scaleY: 1,
			turn: 0,
			skew: 0,
			gesture: crypto.randomUUID(),
		},
	});
}

/** Keeps the box round what would be moved as layers, selections and steps change; call to stop. */
export function watchMoving(): () => void {
	const key = (state: ReturnType<typeof useStudio.getState>): string => {
		if (state.tool !== 'move' || !state.outline) return '';
		const done = state.outline.done;
		// A step of this very move leaves the box where it is.
		return `${activeSheet(state)?.id} ${activeLayer(state)?.id} ${paintsMask(state)} ${done.length} ${done.at(-1)}`;
	};
	let last = '';
	let mine = '';
	return useStudio.subscribe((state, before) => {
		const now = key(state);
		if (now === last) return;
		last = now;
		if (!now) {
			if (before.moving) useStudio.setState({ moving: null });
			return;
		}
		const { moving } = state;
		const moved =
			moving && (moving.x || moving.y || moving.turn || moving.skew || moving.scaleX !== 1 || moving.scaleY !== 1);
		if (
			moving &&
			moved &&
			state.outline?.gesture === moving.gesture &&
			mine !== moving.gesture &&
			moving.layer === activeLayer(state)?.id
		) {
			mine = moving.gesture;
			return;
		}
		void takeUp();
	});
}
