import { one } from '../../shape/index.ts';
import { type BakeBase, type BakeKind, bakeShape, colorBytes } from './kind.ts';

/** The colours of a mesh's own vertices: of the model's file, or of a finer mesh. Empty where it has none. */
export interface VertexBake extends BakeBase {
	readonly bake: 'vertex';
}

export const vertex: BakeKind<VertexBake> = {
	bake: 'vertex',
	shape: bakeShape({ bake: one('vertex') }),
	format: 'color',
	dear: () => false,
	words: () => 'Colours of the vertices',
	make(bake, ground) {
		const fields = vertex.fields(bake, ground);
		return fields && ground.surface ? colorBytes(ground.planes, fields, ground.surface.face) : null;
	},
	fields: (_, { surface }) => surface?.colors() ?? null,
};
