import { writeGlb, writeGlbBeside } from '../../mesh/index.ts';
import type { ModelKind } from './kind.ts';

export const glb: ModelKind = {
	kind: 'glb',
	words: 'GLB, one file',
	textures: ['inside', 'beside'],
	// glTF 2.0 says that Y is up.
	ups: ['y'],
	colored: false,
	write: async (mesh, looks, stem, textures) => [
		[
			`${stem}.glb`,
			textures === 'beside' ? await writeGlbBeside(mesh, looks) : new Uint8Array(await writeGlb(mesh, looks)),
		],
	],
};
