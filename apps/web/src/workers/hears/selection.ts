/** What is selected. */
import { sheetOf } from '@eppu/core/document';
import type { Engine } from '@eppu/core/engine';
import { renderModel } from '@eppu/core/projection';
import { type Clinging, clingFrom, edgeStrength } from '@eppu/core/select';
import type { Picture } from '@eppu/core/surface';
import type { ModelSeen } from '../../studio/protocol.ts';
import type { Place } from '../../studio/told.ts';
import type { Ears } from './ear.ts';
import { landing } from './ear.ts';

let clinging: { readonly key: string; readonly strength: Float32Array; from: Clinging | null } | null = null;

/** The way along contrast edges of a picture; how strong they are is found once for it. */
function cling(key: string, picture: () => Picture, size: Size, from: Place | null, to: Place): number[] {
	if (clinging?.key !== key) clinging = { key, strength: edgeStrength(picture()), from: null };
	if (from || !clinging.from)
		clinging.from = clingFrom(clinging.strength, size.width, size.height, (from ?? to).x, (from ?? to).y);
	return clinging.from.to(to.x, to.y);
}

interface Size {
	readonly width: number;
	readonly height: number;
}

/** A model as a view shows it, unlit. */
function pictureSeen(open: Engine, { model, sight }: ModelSeen): Picture {
	const scene = open.scene(model);
	if (!scene) return { width: 1, height: 1, data: new Uint8Array(4) };
	const sheets = new Map(scene.model.parts.map((part) => [part.sheet, open.composite(part.sheet)]));
	const pictures = scene.model.parts.map((part) => sheets.get(part.sheet) ?? null);
	return renderModel(scene.mesh, pictures, sight.camera, sight.width, sight.height);
}

export const selection: Ears<
	| 'select'
	| 'select-seen'
	| 'pick'
	| 'selection'
	| 'move-selection'
	| 'cling'
	| 'cling-seen'
	| 'bounds'
	| 'bounds-seen'
	| 'spots'
> = {
	select: {
		endsStroke: true,
		hear(at, message) {
			return at.edited(at.engine.select(message.sheet, message.by, message.joining));
		},
	},
	pick: {
		endsStroke: true,
		hear(at, message) {
			const place = landing(at.engine, message.place);
			if (!place) return;
			const { x, y, sheet } = place;
			const { by } = message;
			const layer = message.layers?.[sheet] ?? null;
			return at.edited(
				at.engine.select(sheet, by.by === 'piece' ? { ...by, x, y } : { ...by, x, y, layer }, message.joining),
			);
		},
	},
	selection: {
		endsStroke: true,
		hear(at, message) {
			return at.edited(at.engine.changeSelection(message.sheet, message.change, message.also));
		},
	},
	'move-selection': {
		endsStroke: true,
		hear(at, message) {
			return at.edited(at.engine.moveSelection(message.sheet, message.map, message.gesture));
		},
	},
	cling: {
		hear({ engine, tell }, { ask, sheet, from, to }) {
			const size = sheetOf(engine.project, sheet) ?? { width: 1, height: 1 };
			const key = `${engine.project.id} ${sheet} ${engine.turn}`;
			return tell({ say: 'told', ask, answer: cling(key, () => engine.composite(sheet), size, from, to) });
		},
	},
	'cling-seen': {
		hear({ engine, tell }, message) {
			const { ask, model, sight, from, to } = message;
			const key = `${engine.project.id} ${model} ${JSON.stringify(sight)} ${engine.turn}`;
			return tell({ say: 'told', ask, answer: cling(key, () => pictureSeen(engine, message), sight, from, to) });
		},
	},
	'select-seen': {
		endsStroke: true,
		hear(at, { model, sight, by, joining }) {
			return at.edited(at.engine.selectSeen(model, sight, by, joining));
		},
	},
	'bounds-seen': {
		hear({ engine, tell }, { ask, model, sight, layers, options }) {
			return tell({ say: 'told', ask, answer: engine.boundsSeen(model, sight, layers, options) });
		},
	},
	spots: {
		hear({ engine, tell }, { ask, model, sight, points }) {
			return tell({ say: 'told', ask, answer: engine.spotsSeen(model, sight, points) });
		},
	},
	bounds: {
		hear(at, message) {
			return at.tell({
				say: 'told',
				ask: message.ask,
				answer: at.engine.bounds(message.sheet, message.layer, message.onMask),
			});
		},
	},
};
