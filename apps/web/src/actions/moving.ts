import { isStrict, layerOf, type TextLayer } from '@eppu/core/document';
import { heldMove } from '@eppu/core/pixel';
import { type Affine, after, type Rect } from '@eppu/core/raster';
import { refused } from '../studio/hears.ts';
import { question, tell } from '../studio/line.ts';
import type { Pointing } from '../studio/protocol.ts';
import { edit, run } from '../studio/say.ts';
import { sightShown } from '../studio/sight.ts';
import {
	activeLayer,
	activeLayers,
	activeSheet,
	type Moving,
	type MovingOn,
	modelShown,
	paintsMask,
	type StudioState,
	sheetIn,
	useStudio,
} from '../studio/store.ts';

/** The map of a move, about the middle of what is moved. */
export function movingMap({ box, x, y, scaleX, scaleY, turn, skew }: Moving): Affine {
	const [cx, cy] = [box.x + box.width / 2, box.y + box.height / 2];
	const [c, s] = [Math.cos((turn * Math.PI) / 180), Math.sin((turn * Math.PI) / 180)];
	const k = Math.tan((skew * Math.PI) / 180);
	const shaped: Affine = [scaleX, k * scaleY, -cx * scaleX - cy * k * scaleY, 0, scaleY, -cy * scaleY];
	return after([c, -s, cx + x, s, c, cy + y], shaped);
}

/**
 * Whether a move keeps to whole texels: on a pixel sheet, but for layers that may hold soft edges. Lettering is set anew
 * where it is moved, at any size.
 */
export function movesWhole(state: StudioState, { sheet: id, layer: of, seen }: Moving): boolean {
	const sheet = sheetIn(state, id);
	const layer = layerOf(sheet, of);
	const lettering = layer?.kind === 'text' && !paintsMask(state);
	return Boolean(!seen && sheet && layer && !lettering && isStrict(sheet, layer));
}

const settled = (moving: Moving): Moving =>
	// Without turning or scaling, moves on a sheet go by whole texels: nothing is blurred.
	moving.scaleX === 1 && moving.scaleY === 1 && moving.turn === 0 && moving.skew === 0
		? { ...moving, x: Math.round(moving.x), y: Math.round(moving.y) }
		: // Nothing is made so thin that it is lost.
			{ ...moving, scaleX: moving.scaleX || 0.01, scaleY: moving.scaleY || 0.01 };

/** Counts for each box who asked for it or took it in hand last: an answer to an earlier question comes too late. */
const turns: Record<MovingOn, number> = { sheet: 0, model: 0 };

let due = 0;
/** A move that the studio has not shown yet: what the hand does meanwhile becomes one word, not a queue of them. */
let shown: Promise<void> = Promise.resolve();
/** Resolves when the studio has answered what was said last. */
const answer = (): Promise<void> =>
	new Promise((resolve) => {
		const done = (): void => {
			clearTimeout(late);
			stop();
			resolve();
		};
		const late = setTimeout(done, 2000);
		const stop = useStudio.subscribe((state, before) => {
			if (state.outline !== before.outline || state.refusal !== before.refusal) done();
		});
	});
/** The lettering as it was when its move began. */
let lettering: TextLayer | null = null;

const put = (on: MovingOn, moving: Moving | null): void =>
	useStudio.setState(({ moves }) => ({ moves: { ...moves, [on]: moving } }));

/** Lettering moved from where it was: it stays editable. */
function moveLettering(layer: TextLayer, now: Moving): void {
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
}

/**
 * Puts the chosen lettering where the model was pressed, upright there and set right on a mirrored island. On the sheet
 * its box moves it.
 */
export async function letteringTo(place: Pointing): Promise<void> {
	const [sheet, layer] = [activeSheet(useStudio.getState()), activeLayer(useStudio.getState())];
	if (place.on !== 'model' || !sheet || layer?.kind !== 'text' || layer.locked) return;
	const { model, sight, x, y } = place;
	const [spot] = await question<'spots'>({ say: 'spots', model, sight, points: [x, y] });
	if (spot?.sheet !== sheet.id)
		return refused({
			code: 'off-model',
			text: `"${layer.name}" lies on "${sheet.name}", which is not what the model shows here.`,
			mend: null,
		});
	const stands = await question<'letter-place'>({ say: 'letter-place', sheet: sheet.id, x: spot.x, y: spot.y });
	const { turn, mirrored } = stands ?? layer.text;
	const text = { ...layer.text, x: spot.x, y: spot.y, turn, mirrored, along: null };
	run({ do: 'layer.change', sheet: sheet.id, layer: layer.id, change: { text } });
}

/** Does what a box says by now. */
function carryOut(now: Moving): void {
	const state = useStudio.getState();
	const { smooth, outlineOnly } = state;
	const map = movingMap(now);
	const layer = layerOf(sheetIn(state, now.sheet), now.layer);
	// A layer without pixels of its own has nothing to move but the selection's outline.
	const bare = layer?.kind !== 'paint' && layer?.kind !== 'text' && !paintsMask(state);
	const outline = (outlineOnly || bare) && Boolean(sheetIn(state, now.sheet)?.selection);
	const transform = { do: 'transform', map, smooth } as const;
	if (now.seen) {
		const options = {
			onMask: paintsMask(state),
			guard: state.desk.guard,
			gesture: now.gesture,
			outlineOnly: outline,
			lifts: now.sheet,
		};
		return tell({ say: 'edit-seen', ...now.seen, layers: activeLayers(state), edit: transform, options });
	}
	if (outline) return tell({ say: 'move-selection', sheet: now.sheet, map, gesture: now.gesture });
	if (layer?.kind === 'text') return moveLettering(layer, now);
	edit(transform, now.gesture);
}

/** Moves on from where the move began; what is shown follows once a frame, and all of it is one step. */
export function moveBy(change: Partial<Moving>, on: MovingOn = useStudio.getState().movingOn): void {
	const moving = useStudio.getState().moves[on];
	if (!moving) return;
	turns[on]++;
	const next = { ...moving, ...change };
	put(on, movesWhole(useStudio.getState(), next) ? heldMove(next) : settled(next));
	useStudio.setState({ movingOn: on });
	if (due) return;
	due = 1;
	void shown.then(() =>
		requestAnimationFrame(() => {
			due = 0;
			const now = useStudio.getState().moves[on];
			if (!now) return;
			shown = answer();
			carryOut(now);
		}),
	);
}

const begun = (box: Rect | null, sheet: string, layer: string, seen: Moving['seen']): Moving | null =>
	box && {
		sheet,
		layer,
		seen,
		box,
		x: 0,
		y: 0,
		scaleX: 1,
		scaleY: 1,
		turn: 0,
		skew: 0,
		gesture: crypto.randomUUID(),
	};

/** Puts the boxes round what would be moved now, on the sheet and as it is seen on the model: what is selected, else all of the active layer. */
export async function takeUp(which: readonly MovingOn[] = ['sheet', 'model']): Promise<void> {
	const state = useStudio.getState();
	const [sheet, layer] = [activeSheet(state), activeLayer(state)];
	lettering = null;
	if (!sheet || !layer) return useStudio.setState({ moves: { sheet: null, model: null } });
	const onMask = paintsMask(state);
	const [model, sight] = [modelShown(state), sightShown()];
	const ask: Record<MovingOn, () => Promise<Moving | null>> = {
		sheet: async () =>
			begun(
				await question<'bounds'>({ say: 'bounds', sheet: sheet.id, layer: layer.id, onMask }),
				sheet.id,
				layer.id,
				null,
			),
		// Lettering lies on its sheet: there it is moved.
		model: async () => {
			if (!model || !sight || (layer.kind === 'text' && !onMask)) return null;
			const seen = { model: model.id, sight };
			const options = { onMask, guard: state.desk.guard, lifts: sheet.id };
			const layers = activeLayers(state);
			const box = await question<'bounds-seen'>({ say: 'bounds-seen', ...seen, layers, options });
			return begun(box, sheet.id, layer.id, seen);
		},
	};
	await Promise.all(
		which.map(async (on) => {
			const turn = ++turns[on];
			const moving = await ask[on]();
			if (useStudio.getState().tool === 'move' && turn === turns[on]) put(on, moving);
		}),
	);
}

const isMoved = ({ x, y, turn, skew, scaleX, scaleY }: Moving): boolean =>
	x !== 0 || y !== 0 || turn !== 0 || skew !== 0 || scaleX !== 1 || scaleY !== 1;

/** Keeps the boxes round what would be moved as layers, selections, steps and the view change; call to stop. */
export function watchMoving(): () => void {
	const key = (state: StudioState): string => {
		if (state.tool !== 'move' || !state.outline) return '';
		const { done } = state.outline;
		// A step of this very move leaves the box where it is.
		return `${activeSheet(state)?.id} ${activeLayer(state)?.id} ${paintsMask(state)} ${done.length} ${done.at(-1)}`;
	};
	let last = '';
	let mine = '';
	let turning = 0;
	return useStudio.subscribe((state, before) => {
		const now = key(state);
		if (now && state.desk.camera !== before.desk.camera) {
			// The box on the model is of one view: when the view rests, it is put anew.
			put('model', null);
			clearTimeout(turning);
			turning = window.setTimeout(() => void takeUp(['model']), 120);
		}
		if (now === last) return;
		last = now;
		if (!now) {
			if (before.moves.sheet || before.moves.model) useStudio.setState({ moves: { sheet: null, model: null } });
			return;
		}
		const on = (['sheet', 'model'] as const).find((each) => {
			const moving = state.moves[each];
			return moving && isMoved(moving) && state.outline?.gesture === moving.gesture;
		});
		const moving = on && state.moves[on];
		if (moving && mine !== moving.gesture && moving.layer === activeLayer(state)?.id) {
			mine = moving.gesture;
			void takeUp([on === 'sheet' ? 'model' : 'sheet']);
			return;
		}
		void takeUp();
	});
}
