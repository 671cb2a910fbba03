import { id, one } from '../../shape/index.ts';
import { type SourceKind, sourceShape } from './kind.ts';

/** A bake that the model has. */
export interface Baked {
	readonly step: 'bake';
	readonly bake: string;
}

export const bake: SourceKind<Baked> = {
	step: 'bake',
	words: 'A bake',
	takes: 'source',
	shape: sourceShape({ step: one('bake'), bake: id }),
	usual: { step: 'bake', bake: 'none' },
	dials: [],
	field: ({ bake }, ground) => ground.baked(bake),
};
