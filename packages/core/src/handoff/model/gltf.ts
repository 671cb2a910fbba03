import { writeGltfFiles } from '../../mesh/index.ts';
import type { ModelKind } from './kind.ts';

export const gltf: ModelKind = {
	kind: 'gltf',
	words: 'glTF and files',
	textures: ['beside'],
	ups: ['y'],
	colored: false,
	write: (mesh, looks, stem) => writeGltfFiles(mesh, looks, stem),
};
