import { type LaidMesh, type MeshResult, MOST_FACES, meshError } from './mesh.ts';
import { repeatUvs } from './repeat.ts';

/** The refusal of a model with more faces than are painted. */
export const tooManyFaces = (file: string, faces: number): MeshResult =>
	meshError(
		'too-many-faces',
		`${file} has ${faces.toLocaleString('en')} faces; Eppu paints models of up to ${MOST_FACES.toLocaleString('en')}. Export the low-poly version.`,
	);

/** Checks what every reader must deliver; returns the mesh or what is wrong with the file named. */
export function checkMesh(mesh: LaidMesh, file: string, notes: readonly string[] = [], bare = false): MeshResult {
	const faces = mesh.indices.length / 3;
	if (faces === 0)
		return meshError(
			'no-faces',
			`${file} holds no faces, so there is nothing to paint on. Export the model with its geometry.`,
		);
	if (faces > MOST_FACES) return tooManyFaces(file, faces);
	for (const list of [mesh.positions, mesh.uvs])
		for (const v of list)
			if (!Number.isFinite(v))
				return meshError(
					'bad-number',
					`${file} holds a coordinate that is not a number. Export it again; some exporters write these for degenerate faces.`,
				);
	const vertices = mesh.positions.length / 3;
	for (const i of mesh.indices)
		if (i >= vertices)
			return meshError('broken', `${file} names a vertex that it does not hold. It may be cut short; export it again.`);
	const repeated = repeatUvs(mesh);
	return { ok: true, mesh: repeated.mesh, notes: [...notes, ...repeated.notes], ...(bare ? { bare } : {}) };
}
