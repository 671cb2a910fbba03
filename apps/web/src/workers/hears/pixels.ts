/** Changes of pixels at once, and layers taken up and put down. */
import { type Id, sheetOf } from '@eppu/core/document';
import { type Clip, pictureClip } from '@eppu/core/edit';
import { keepClip, keptClip } from '../clipStore.ts';
import type { Ears, Studio } from './ear.ts';
import { landing } from './ear.ts';

let clip: Clip | null = null;

/** Puts a clip down as a layer, kept at once: what is in it is in no word. */
function put(
	at: Studio,
	what: Clip,
	to: { readonly sheet: Id; readonly at: number; readonly parent: Id | null },
): void {
	if (at.engine.stroking) at.endStroke();
	const { layer, dirty } = at.engine.paste(what, to.sheet, to.at, to.parent, () => crypto.randomUUID());
	at.changed(dirty, 0);
	at.tell({ say: 'pasted', sheet: to.sheet, layer });
}

export const pixels: Ears<
	'fill' | 'edit' | 'edit-seen' | 'copy' | 'cut' | 'paste' | 'paste-picture' | 'bring-sheet' | 'twin' | 'passes'
> = {
	fill: {
		endsStroke: true,
		hear(at, message) {
			const place = landing(at.engine, message.place);
			if (!place)
				return at.tell({
					say: 'refused',
					refusal: { code: 'off-model', text: 'There is nothing of the model here to fill.', mend: null },
				});
			const { onMask, guard, color } = message;
			if (message.reach !== null) {
				const { sheet, x, y } = place;
				const { reach, everywhere = false, mixing = null } = message;
				const flood = { do: 'flood', color, x, y, reach, everywhere, mixing } as const;
				return at.edited(at.engine.edit(sheet, message.layers[sheet], flood, { onMask, guard }));
			}
			const filled = at.engine.fill(place.sheet, message.layers[place.sheet], place.x, place.y, color, {
				guard,
				onMask,
				...(message.by ? { by: message.by } : {}),
			});
			return filled.ok ? at.changed(filled.dirty, 60) : at.tell({ say: 'refused', refusal: filled.refusal });
		},
	},
	edit: {
		endsStroke: true,
		hear(at, message) {
			return at.edited(at.engine.edit(message.sheet, message.layer, message.edit, message.options));
		},
	},
	'edit-seen': {
		endsStroke: true,
		hear(at, { model, sight, layers, edit, options }) {
			return at.edited(at.engine.editSeen(model, sight, layers, edit, options));
		},
	},
	copy: {
		hear(at, message) {
			clip = at.engine.clip(message.sheet, message.layer);
			void keepClip(clip);
			return;
		},
	},
	cut: {
		endsStroke: true,
		hear(at, message) {
			const { sheet, layer, newId } = message;
			at.changed(at.engine.cut(sheet, layer, newId), 60);
			return at.tell({ say: 'pasted', sheet, layer: newId });
		},
	},
	paste: {
		endsStroke: true,
		hear(at, message) {
			if (clip) return put(at, clip, message);
			void keptClip().then((kept) => {
				if (!at.current()) return;
				if (kept) put(at, kept, message);
				else at.tell({ say: 'failed', text: 'Nothing was copied yet: choose a layer and copy it first.' });
			});
			return;
		},
	},
	twin: {
		endsStroke: true,
		hear(at, { model, part, layers }) {
			return at.edited(at.engine.repeatOnTwin(model, part, layers));
		},
	},
	passes: {
		endsStroke: true,
		hear(at, { sheet, layer, spec, newIds }) {
			at.changed(at.engine.addPasses(sheet, layer, spec, newIds), 0);
		},
	},
	'bring-sheet': {
		endsStroke: true,
		hear(at, { sheet, picture }) {
			at.changed(at.engine.bringSheet(sheet, picture), 0);
			at.keepNow();
		},
	},
	'paste-picture': {
		endsStroke: true,
		hear(at, message) {
			const sheet = sheetOf(at.engine.project, message.sheet);
			return sheet && put(at, pictureClip(message.picture, message.name, sheet), message);
		},
	},
};
