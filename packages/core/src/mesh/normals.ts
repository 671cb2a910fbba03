import type { Mesh } from './mesh.ts';

type Vec = readonly [number, number, number];

/** Each face's unit normal, 3 a face, and its area; no normal where there is no area. */
export function faceNormals({ positions, indices }: Mesh): {
	readonly normals: Float32Array;
	readonly areas: Float32Array;
} {
	const faces = indices.length / 3;
	const [normals, areas] = [new Float32Array(faces * 3), new Float32Array(faces)];
	for (let face = 0; face < faces; face++) {
		const at = (k: number, axis: number): number => positions[(indices[face * 3 + k] as number) * 3 + axis] as number;
		const [e, f] = [1, 2].map((k) => [0, 1, 2].map((axis) => at(k, axis) - at(0, axis))) as unknown as readonly [
			Vec,
			Vec,
		];
		const n = [e[1] * f[2] - e[2] * f[1], e[2] * f[0] - e[0] * f[2], e[0] * f[1] - e[1] * f[0]];
		const length = Math.hypot(...n);
		areas[face] = length / 2;
		for (let axis = 0; axis < 3; axis++) normals[face * 3 + axis] = (n[axis] as number) / (length || 1);
	}
	return { normals, areas };
}
