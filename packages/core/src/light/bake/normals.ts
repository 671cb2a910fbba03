import { one } from '../../shape/index.ts';
import { type BakeBase, type BakeKind, bakeShape, colorBytes } from './kind.ts';

/** Which way the surface looks, as colours: X, Y and Z of the model from -1 to 1 as red, green and blue. */
export interface NormalsBake extends BakeBase {
	readonly bake: 'normals';
}

export const normals: BakeKind<NormalsBake> = {
	bake: 'normals',
	shape: bakeShape({ bake: one('normals') }),
	format: 'color',
	dear: () => false,
	words: () => 'Normals of the object',
	make(bake, ground) {
		const fields = normals.fields(bake, ground);
		return fields && ground.surface ? colorBytes(ground.planes, fields, ground.surface.face) : null;
	},
	fields(_bake, { planes, surface }) {
		if (!surface) return null;
		const cells = surface.face.length;
		return surface.normal.map((plane) => {
			const to = planes.take(cells);
			planes.run.rampCells(surface.cells, plane, cells, 0.5, 0.5, to);
			return to;
		});
	},
};
