import { writePly } from '../../mesh/index.ts';
import type { ModelKind } from './kind.ts';

export const ply: ModelKind = {
	kind: 'ply',
	words: 'PLY, colours at vertices',
	textures: [],
	ups: ['y', 'z'],
	colored: true,
	write: async (mesh, _looks, stem) => [[`${stem}.ply`, writePly(mesh)]],
};
