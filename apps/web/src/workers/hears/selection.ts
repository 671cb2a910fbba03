/** What is selected. */
import { type Id, sheetOf } from '@eppu/core/document';
import type { Engine } from '@eppu/core/engine';
import { type Clinging, clingFrom, edgeStrength } from '@eppu/core/select';
import type { Place } from '../../studio/protocol.ts';
import type { Ears } from './ear.ts';
import { landing } from './ear.ts';

let clinging: { readonly key: string; readonly strength: Float32Array; from: Clinging | null } | null = null;

/** The way along contrast edges; how strong they are is found once for a picture. */
function cling(open: Engine, sheet: Id, from: Place | null, to: Place): number[] {
	const key = `${open.project.id} ${sheet} ${open.turn}`;
	if (clinging?.key !== key) clinging = { key, strength: edgeStrength(open.composite(sheet)), from: null };
	const { width, height } = sheetOf(open.project, sheet) ?? { width: 1, height: 1 };
	if (from || !clinging.from)
		clinging.from = clingFrom(clinging.strength, width, height, (from ?? to).x, (from ?? to).y);
	return clinging.from.to(to.x, to.y);
}

export const selection: Ears<'select' | 'pick' | 'selection' | 'move-selection' | 'cling' | 'bounds'> = {
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
			return at.edited(at.engine.changeSelection(message.sheet, message.change));
		},
	},
	'move-selection': {
		endsStroke: true,
		hear(at, message) {
			return at.edited(at.engine.moveSelection(message.sheet, message.map, message.gesture));
		},
	},
	cling: {
		hear(at, message) {
			return at.tell({
				say: 'told',
				ask: message.ask,
				answer: cling(at.engine, message.sheet, message.from, message.to),
			});
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
