import { type MeshResult, readModel } from '../mesh/index.ts';
import type { JobKind, Work } from './kind.ts';

/** Reads a model file. */
export interface ReadMeshWork extends Work<MeshResult> {
	readonly job: 'read-mesh';
	readonly bytes: Uint8Array;
	readonly name: string;
}

export const readMesh: JobKind<ReadMeshWork, MeshResult> = {
	job: 'read-mesh',
	begin:
		() =>
		({ bytes, name }) =>
			readModel(bytes, name),
	handsOver(read) {
		if (!read.ok) return [];
		const { positions, normals, indices, uvs } = read.mesh;
		return [
			...new Set([positions, normals, indices, uvs].flatMap((each) => (each ? [each.buffer as ArrayBuffer] : []))),
		];
	},
};
