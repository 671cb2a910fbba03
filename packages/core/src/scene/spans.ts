import type { LaidMesh, Mesh } from '../mesh/index.ts';
import { meshBounds } from '../mesh/index.ts';
import type { Scene } from './scene.ts';

type Axis = 0 | 1 | 2;

/** Lowest and highest place of a part along an axis. */
export function partSpan(
	{ positions, indices, parts }: LaidMesh,
	part: number,
	axis: 0 | 1 | 2,
): readonly [number, number] {
	const { firstFace, faces } = parts[part] ?? { firstFace: 0, faces: 0 };
	let [least, most] = [Infinity, -Infinity];
	for (const v of indices.subarray(firstFace * 3, (firstFace + faces) * 3)) {
		const at = positions[v * 3 + axis] as number;
		[least, most] = [Math.min(least, at), Math.max(most, at)];
	}
	return [least, most];
}

const known = new WeakMap<Mesh, readonly [low: readonly number[], high: readonly number[]]>();

function corners(mesh: Mesh): readonly [low: readonly number[], high: readonly number[]] {
	let found = known.get(mesh);
	if (!found) {
		const [low, high] = [
			[Infinity, Infinity, Infinity],
			[-Infinity, -Infinity, -Infinity],
		];
		mesh.positions.forEach((v, i) => {
			low[i % 3] = Math.min(low[i % 3] as number, v);
			high[i % 3] = Math.max(high[i % 3] as number, v);
		});
		known.set(mesh, (found = [low, high]));
	}
	return found;
}

/** Lowest and highest place of all models along an axis, in the hundredths of one of them, from its middle. */
export function modelsSpan(all: Iterable<Scene>, { mesh }: Scene, axis: Axis): readonly [number, number] {
	let [least, most] = [Infinity, -Infinity];
	for (const scene of all) {
		const [low, high] = corners(scene.mesh);
		[least, most] = [Math.min(least, low[axis] as number), Math.max(most, high[axis] as number)];
	}
	const { center, radius } = meshBounds(mesh);
	const at = (v: number): number => ((v - center[axis]) * 50) / radius;
	return [at(least), at(most)];
}
