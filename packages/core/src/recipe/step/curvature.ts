import { among, one, real } from '../../shape/index.ts';
import { type SourceKind, sourceShape } from './kind.ts';

/** How the surface bends: edges that stand out, hollows, or both about a mid-grey. */
export interface Curvature {
	readonly step: 'curvature';
	readonly of: 'edges' | 'hollows' | 'both';
	/** Edges that turn less than so many degrees are smooth. */
	readonly angle: number;
	/** How far from a hard edge it is seen, in hundredths of the model. */
	readonly width: number;
	readonly strength: number;
	/** What the width is in: hundredths of the model, or texels of the sheet. */
	readonly unit?: 'model' | 'texels';
}

export const curvature: SourceKind<Curvature> = {
	step: 'curvature',
	words: 'Curvature',
	takes: 'source',
	dear: true,
	shape: sourceShape(
		{
			step: one('curvature'),
			of: among(['edges', 'hollows', 'both']),
			angle: real(1, 179),
			width: real(0.05, 50),
			strength: real(0.05, 16),
			unit: among(['model', 'texels']),
		},
		['unit'],
	),
	usual: { step: 'curvature', of: 'edges', angle: 40, width: 3, strength: 1, unit: 'model' },
	dials: [
		{ of: 'width', label: 'Width', least: 0.2, most: 20, ratio: true },
		{ of: 'strength', label: 'Strength', least: 0.1, most: 8, ratio: true },
		{ of: 'angle', label: 'Hard from', least: 1, most: 120, unit: '°' },
	],
	choices: [
		{
			of: 'of',
			label: 'Which',
			options: [
				['edges', 'Edges'],
				['hollows', 'Hollows'],
				['both', 'Both'],
			],
		},
		{
			of: 'unit',
			label: 'Width in',
			options: [
				['model', 'Hundredths'],
				['texels', 'Texels'],
			],
		},
	],
	field({ of, angle, width, strength, unit }, { surface, planes }) {
		if (!surface) return null;
		const { out, into } = surface.bend(angle, unit === 'texels' ? Math.max(0.02, width * surface.perTexel) : width);
		const cells = surface.face.length;
		// An edge of a right angle is full.
		const by = strength / (Math.PI / 2);
		if (of !== 'both') {
			const field = of === 'edges' ? out : into;
			planes.run.rampCells(surface.cells, field, cells, by, 0, field);
			return field;
		}
		const [up, down] = [planes.floats(out, cells), planes.floats(into, cells)];
		for (let i = 0; i < cells; i++) up[i] = (up[i] as number) - (down[i] as number);
		planes.run.rampCells(surface.cells, out, cells, by / 2, 0.5, out);
		return out;
	},
};
