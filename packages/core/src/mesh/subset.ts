import type { LaidMesh } from './mesh.ts';

/** Some parts of a mesh, by their places, with only the vertices that they use. */
export function partsOf(mesh: LaidMesh, keep: readonly number[]): LaidMesh {
	if (keep.length === mesh.parts.length) return mesh;
	const place = new Map<number, number>();
	const indices: number[] = [];
	const parts = keep.flatMap((at) => {
		const part = mesh.parts[at];
		if (!part) return [];
		const firstFace = indices.length / 3;
		for (const vertex of mesh.indices.subarray(part.firstFace * 3, (part.firstFace + part.faces) * 3)) {
			if (!place.has(vertex)) place.set(vertex, place.size);
			indices.push(place.get(vertex) as number);
		}
		return [{ ...part, firstFace }];
	});
	const gather = (from: Float32Array, size: number): Float32Array => {
		const out = new Float32Array(place.size * size);
		for (const [vertex, to] of place) out.set(from.subarray(vertex * size, vertex * size + size), to * size);
		return out;
	};
	return {
		positions: gather(mesh.positions, 3),
		normals: mesh.normals && gather(mesh.normals, 3),
		uvs: gather(mesh.uvs, 2),
		...(mesh.colors ? { colors: gather(mesh.colors, 4) } : {}),
		indices: Uint32Array.from(indices),
		parts,
	};
}

/** A mesh at another scale, and with Z upwards where it is wanted: a quarter turn about the X axis. */
export function oriented(mesh: LaidMesh, scale: number, up: 'y' | 'z'): LaidMesh {
	if (scale === 1 && up === 'y') return mesh;
	const turned = (from: Float32Array, by: number): Float32Array => {
		const out = from.map((v) => v * by);
		if (up === 'z')
			for (let i = 0; i < out.length; i += 3)
				[out[i + 1], out[i + 2]] = [-(out[i + 2] as number), out[i + 1] as number];
		return out;
	};
	return { ...mesh, positions: turned(mesh.positions, scale), normals: mesh.normals && turned(mesh.normals, 1) };
}
