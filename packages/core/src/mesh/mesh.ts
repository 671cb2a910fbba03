/** A piece of a model with a name of its own: a run of faces. */
export interface Part {
	readonly name: string;
	readonly firstFace: number;
	readonly faces: number;
}

/** A triangle mesh. Vertices are split where normals differ; `normals` is null where the file has none. */
export interface Mesh {
	/** 3 a vertex */
	readonly positions: Float32Array;
	/** 3 a vertex */
	readonly normals: Float32Array | null;
	/** 4 a vertex: sRGB and alpha, 0..1; not there where the file has no colours. */
	readonly colors?: Float32Array;
	/** 3 a face, counter-clockwise seen from outside */
	readonly indices: Uint32Array;
	readonly parts: readonly Part[];
}

/**
 * A mesh as painting needs it, laid out on its sheets: vertices are split where UVs differ too. UVs run from the
 * sheet's upper left corner, v downwards, 0..1.
 */
export interface LaidMesh extends Mesh {
	/** 2 a vertex */
	readonly uvs: Float32Array;
}

/** A mesh that has no place on a sheet yet. */
export const layingNowhere = (mesh: Mesh): LaidMesh => ({
	...mesh,
	uvs: new Float32Array((mesh.positions.length / 3) * 2),
});

/** More faces than this are refused: Eppu is for low-poly models. */
export const MOST_FACES = 200_000;

/** Why a model file could not be read, in words for the artist. */
export interface MeshError {
	readonly code: 'unsupported' | 'empty' | 'broken' | 'no-faces' | 'bad-number' | 'too-many-faces' | 'unknown-format';
	readonly text: string;
}

/** A mesh as the file lays it out, with what the artist is to know of how it was read; or why there is none. */
export type MeshResult =
	| {
			readonly ok: true;
			readonly mesh: LaidMesh;
			readonly notes: readonly string[];
			/** It has no UVs at all: nothing of it has a place on a sheet until it is unwrapped. */
			readonly bare?: boolean;
	  }
	| { readonly ok: false; readonly error: MeshError };

export const meshError = (code: MeshError['code'], text: string): MeshResult => ({ ok: false, error: { code, text } });

/** The part of each face, by its index. */
export function partOfFaces(mesh: Mesh): Uint16Array {
	const out = new Uint16Array(mesh.indices.length / 3);
	mesh.parts.forEach((part, i) => out.fill(i, part.firstFace, part.firstFace + part.faces));
	return out;
}

/** Index of the part that a face belongs to. */
export function partOfFace(mesh: Mesh, face: number): number {
	return mesh.parts.findIndex((part) => face >= part.firstFace && face < part.firstFace + part.faces);
}

/** Smallest ball-ish bounds: centre of the box around all vertices and the largest distance from it. */
export function meshBounds(mesh: Mesh): {
	readonly center: readonly [number, number, number];
	readonly radius: number;
} {
	const low = [Infinity, Infinity, Infinity];
	const high = [-Infinity, -Infinity, -Infinity];
	const { positions } = mesh;
	for (let i = 0; i < positions.length; i++) {
		const v = positions[i] as number;
		low[i % 3] = Math.min(low[i % 3] as number, v);
		high[i % 3] = Math.max(high[i % 3] as number, v);
	}
	const center = low.map((v, i) => (v + (high[i] as number)) / 2) as [number, number, number];
	let far = 0;
	for (let i = 0; i < positions.length; i += 3) {
		const d =
			((positions[i] as number) - center[0]) ** 2 +
			((positions[i + 1] as number) - center[1]) ** 2 +
			((positions[i + 2] as number) - center[2]) ** 2;
		far = Math.max(far, d);
	}
	return { center, radius: Math.sqrt(far) || 1 };
}
