/** Strokes as they are made. */

import type { Ears } from './ear.ts';
import { KEEP_MS } from './ear.ts';

export const strokes: Ears<'begin' | 'extend' | 'end' | 'cancel'> = {
	begin: {
		hear(at, message, n) {
			const begun = at.engine.begin(message.spec, message.samples);
			if (!begun.ok) {
				at.keepSoon(KEEP_MS);
				return at.tell({ say: 'refused', refusal: begun.refusal });
			}
			at.strokeBegins(n);
			at.tell({ say: 'stroke', sheet: begun.sheet });
			return at.pump.addNow(begun.dirty);
		},
	},
	extend: {
		hear(at, message) {
			return at.pump.addNow(at.engine.extend(message.samples));
		},
	},
	end: {
		hear(at) {
			return at.engine.stroking ? at.endStroke() : at.keepSoon(KEEP_MS);
		},
	},
	cancel: {
		hear(at) {
			at.keepSoon(KEEP_MS);
			return at.pump.add(at.engine.cancel());
		},
	},
};
