import { count, type FindingKind, partNames } from '../kind.ts';

/** Faces that lie in one another, seen from either side. */
export const doubled: FindingKind = {
	kind: 'doubled',
	find(ground, measures) {
		const { indices } = ground.mesh;
		const { place } = ground.topology;
		const first = new Map<string, number>();
		const faces = new Set<number>();
		for (let face = 0; face < measures.areas.length; face++) {
			const corners = [0, 1, 2].map((k) => place[indices[face * 3 + k] as number] as number);
			if (new Set(corners).size < 3) continue;
			const key = corners.sort((a, b) => a - b).join();
			const before = first.get(key);
			if (before === undefined) first.set(key, face);
			else {
				faces.add(before);
				faces.add(face);
			}
		}
		if (!faces.size) return [];
		return [
			{
				kind: 'doubled',
				words: `${count(faces.size, 'face')} of ${partNames(ground, measures, faces)} lie in one another.`,
				todo: 'They flicker where both are drawn. Keep one of each, unless a sheet is to be seen from both sides.',
				faces: Uint32Array.from(faces).sort(),
				grave: false,
			},
		];
	},
};
