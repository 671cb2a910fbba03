import { among, one, real, share } from '../../shape/index.ts';
import { type SourceKind, sourceShape, unitDial } from './kind.ts';

/** A band along the model's edges that are sharper than `angle` degrees: those that stand out, or hollows. */
export interface Edges {
	readonly step: 'edges';
	readonly of: 'edges' | 'hollows';
	readonly angle: number;
	readonly width: number;
	readonly soft: number;
}

export const edges: SourceKind<Edges> = {
	step: 'edges',
	words: 'Edges of the model',
	takes: 'source',
	shape: sourceShape({
		step: one('edges'),
		of: among(['edges', 'hollows']),
		angle: real(0, 180),
		width: real(0, 256),
		soft: share,
	}),
	usual: { step: 'edges', of: 'edges', angle: 30, width: 10, soft: 0.6 },
	dials: [
		{ of: 'angle', label: 'Sharper than', least: 0, most: 170, unit: '°' },
		{ of: 'width', label: 'Width', least: 0, most: 128, unit: ' px' },
		unitDial('soft', 'Soft'),
	],
	choices: [
		{
			of: 'of',
			label: 'Which',
			options: [
				['edges', 'Edges'],
				['hollows', 'Hollows'],
			],
		},
	],
	field({ of, angle, width, soft }, { planes, surface }) {
		if (!surface) return null;
		const reach = width * (1 + soft);
		const inner = width * (1 - soft);
		const field = surface.edges(of, angle, reach);
		planes.run.bandField(field, surface.face.length, inner, Math.max(reach, inner + 0.7), reach);
		return field;
	},
};
