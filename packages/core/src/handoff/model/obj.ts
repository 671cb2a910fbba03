import { writeObjFiles } from '../../mesh/index.ts';
import type { ModelKind } from './kind.ts';

export const obj: ModelKind = {
	kind: 'obj',
	words: 'OBJ and MTL',
	textures: ['beside'],
	ups: ['y', 'z'],
	colored: false,
	write: async (mesh, looks, stem) => writeObjFiles(mesh, looks, stem),
};
