/** What is looked at, and what lies under the pointer. */
import { hexOfRgb } from '@eppu/core/color';
import { sheetOf } from '@eppu/core/document';
import { mirrorSets } from '@eppu/core/projection';
import { sceneReport } from '@eppu/core/scene';
import type { Ears } from './ear.ts';
import { landing } from './ear.ts';

export const views: Ears<
	'look' | 'point' | 'sample' | 'touch' | 'report' | 'histogram' | 'letter-place' | 'missed' | 'steps' | 'halt'
> = {
	look: {
		hear(at, message) {
			return at.pump.add(at.engine.look(message.sheet, message.look));
		},
	},
	point: {
		hear(at, message) {
			const { place } = message;
			if (!place) return at.tell({ say: 'spot', spot: null, from: 'model', mirrors: [] });
			if (place.on === 'model') {
				at.seenFrom(place.sight.camera);
				const scene = at.engine.scene(place.model);
				const spot = scene?.spotAt(at.engine.project.sheets, place.sight, place.x, place.y) ?? null;
				if (spot) at.engine.near(spot.sheet, spot.x, spot.y);
				at.tell({
					say: 'spot',
					spot,
					from: 'model',
					mirrors: scene?.mirrorsAt(place.sight, mirrorSets(place.planes).slice(1), place.x, place.y) ?? [],
				});
				return at.engine.stroking
					? undefined
					: at.engine.warm(place.model, place.sight, place.x, place.y, place.radius);
			}
			at.engine.near(place.sheet, place.x, place.y);
			const sheet = sheetOf(at.engine.project, place.sheet);
			const scene = at.engine.project.models
				.map((model) => at.engine.scene(model.id))
				.find((each) => each?.model.parts.some((part) => part.sheet === place.sheet));
			return at.tell({
				say: 'spot',
				spot: (sheet && scene?.spotOn(sheet, place.sight, place.x, place.y)) ?? null,
				from: 'sheet',
				mirrors: [],
			});
		},
	},
	sample: {
		hear(at, message) {
			const place = landing(at.engine, message.place);
			if (!place) return;
			const [r, g, b, a] = at.engine.sample(
				place.sheet,
				place.x,
				place.y,
				message.layers ? message.layers[place.sheet] : undefined,
				message.size,
			);
			return a > 0 ? at.tell({ say: 'sampled', color: hexOfRgb([r, g, b]) }) : undefined;
		},
	},
	touch: {
		hear(at, message) {
			const { place } = message;
			const scene =
				place.on === 'model'
					? at.engine.scene(place.model)
					: at.engine.project.models
							.map((model) => at.engine.scene(model.id))
							.find((each) => each?.model.parts.some((part) => part.sheet === place.sheet));
			const sheet = place.on === 'sheet' ? sheetOf(at.engine.project, place.sheet) : undefined;
			const spot =
				place.on === 'model'
					? scene?.spotAt(at.engine.project.sheets, place.sight, place.x, place.y)
					: sheet && scene?.spotOn(sheet, null, place.x, place.y);
			return spot ? at.tell({ say: 'touched', spot }) : undefined;
		},
	},
	report: {
		hear(at, message) {
			const scene = at.engine.scene(message.model);
			const answer = scene ? sceneReport(scene, at.engine.project.sheets) : null;
			return at.tell({ say: 'told', ask: message.ask, answer });
		},
	},
	histogram: {
		hear(at, message) {
			return at.settling.whole(() =>
				at.tell({ say: 'told', ask: message.ask, answer: at.engine.histogram(message.sheet, message.layer) }),
			);
		},
	},
	'letter-place': {
		hear(at, message) {
			return at.tell({
				say: 'told',
				ask: message.ask,
				answer: at.engine.letterPlace(message.sheet, message.x, message.y),
			});
		},
	},
	missed: {
		hear(at, message) {
			return at.tell({ say: 'told', ask: message.ask, answer: at.engine.bakeMissed(message.bake) });
		},
	},
	steps: {
		hear(at, message) {
			return at.settling.showSteps(message.of);
		},
	},
	halt: {
		hear(at, message) {
			return at.settling.halt(message.on);
		},
	},
};
