/** Changes of the document, and steps taken back. */
import type { Engine } from '@eppu/core/engine';
import { type Ears, KEEP_MS, type Studio } from './ear.ts';

/** A step taken back or made again is in the journal only as a word: it is kept at once. */
function turn(at: Studio, turned: ReturnType<Engine['undo']>): void {
	if (turned) at.changed(turned.dirty, 0);
	else at.keepSoon(KEEP_MS);
}

export const document: Ears<
	| 'run'
	| 'run-all'
	| 'undo'
	| 'redo'
	| 'mask'
	| 'merge'
	| 'flatten'
	| 'recolor'
	| 'point-entries'
	| 'entry-uses'
	| 'adopt'
> = {
	run: {
		endsStroke: true,
		hear(at, message) {
			return at.changed(at.engine.run(message.command, message.gesture), message.gesture ? KEEP_MS : 60);
		},
	},
	'run-all': {
		endsStroke: true,
		hear(at, { commands, words, gesture }) {
			return at.changed(at.engine.runAll(commands, words, gesture), gesture ? KEEP_MS : 60);
		},
	},
	undo: {
		endsStroke: true,
		hear: (at) => turn(at, at.engine.undo()),
	},
	redo: {
		endsStroke: true,
		hear: (at) => turn(at, at.engine.redo()),
	},
	mask: {
		endsStroke: true,
		hear(at, message) {
			return at.changed(at.engine.changeMask(message.sheet, message.layer, message.change), 60);
		},
	},
	recolor: {
		endsStroke: true,
		hear(at, { sheets, pairs, palette, only, gesture, turned }) {
			at.changed(at.engine.recolor(sheets, pairs, palette, only, gesture, turned), 60);
		},
	},
	'point-entries': {
		endsStroke: true,
		hear(at, { sheet, layer, newId }) {
			at.changed(at.engine.pointAtEntries(sheet, layer, newId), 60);
		},
	},
	'entry-uses': {
		hear: ({ engine, tell }, { ask, sheet }) => tell({ say: 'told', ask, answer: engine.entryUses(sheet) }),
	},
	merge: {
		endsStroke: true,
		hear(at, message) {
			return at.changed(at.engine.mergeDown(message.sheet, message.layer, message.newId), 60);
		},
	},
	flatten: {
		endsStroke: true,
		hear(at, message) {
			return at.changed(at.engine.flatten(message.sheet, message.layer, message.newId), 60);
		},
	},
	adopt: {
		hear(at, message) {
			at.engine.adopt(message.project, message.name);
			return at.tell({ say: 'outline', outline: at.outline() });
		},
	},
};
