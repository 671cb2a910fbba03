import { one, real, whole } from '../../shape/index.ts';
import { type SourceKind, sourceShape } from './kind.ts';

/** How far it is through the model: 0 where it is thin, 1 where it is as thick as `reach` or more. */
export interface Thickness {
	readonly step: 'thickness';
	/** Hundredths of the model. */
	readonly reach: number;
	/** Half the angle of the cone that is looked through, degrees: 1 is straight through. */
	readonly spread: number;
	readonly rays: number;
}

export const thickness: SourceKind<Thickness> = {
	step: 'thickness',
	words: 'Thickness',
	takes: 'source',
	dear: true,
	shape: sourceShape({ step: one('thickness'), reach: real(0.5, 400), spread: real(1, 90), rays: whole(1, 1024) }),
	usual: { step: 'thickness', reach: 40, spread: 40, rays: 32 },
	dials: [
		{ of: 'reach', label: 'Distance', least: 1, most: 200, unit: '%', ratio: true },
		{ of: 'spread', label: 'Spread', least: 1, most: 90, unit: '°' },
		{ of: 'rays', label: 'Rays', least: 4, most: 256, whole: true, ratio: true },
	],
	field({ reach, spread, rays }, { surface, planes }, only) {
		if (!surface) return null;
		const field = surface.hidden({ reach, fades: true, spread, rays, inward: true }, only);
		// What hides falls off with distance: what is left of it is how far it is on average.
		planes.run.rampCells(surface.cells, field, surface.face.length, -1, 1, field);
		return field;
	},
};
