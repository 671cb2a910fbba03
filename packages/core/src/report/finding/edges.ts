import { count, type FindingKind, facesOf, partNames } from '../kind.ts';

/** Edges with one face: the surface is open there. */
export const open: FindingKind = {
	kind: 'open',
	find(ground, measures) {
		const edges = ground.topology.seams.filter(({ other }) => !other);
		if (!edges.length) return [];
		const faces = facesOf(edges.map(({ one }) => one.face * 3 + one.corner));
		return [
			{
				kind: 'open',
				words: `${count(edges.length, 'edge')} of ${partNames(ground, measures, faces)} ${edges.length === 1 ? 'is' : 'are'} open.`,
				todo: 'Painting does not mind. Look whether a hole is meant there.',
				faces,
				grave: false,
			},
		];
	},
};

/** Edges at which three faces or more meet. */
export const forked: FindingKind = {
	kind: 'forked',
	find(ground, measures) {
		const faces = facesOf(ground.topology.forked);
		if (!faces.length) return [];
		return [
			{
				kind: 'forked',
				words: `Three faces or more meet at edges of ${partNames(ground, measures, faces)}: ${count(faces.length, 'face')}.`,
				todo: 'Paint cannot tell which way the surface goes on there. Take inner faces away in your modelling program.',
				faces,
				grave: false,
			},
		];
	},
};

/** Neighbours that look to different sides. */
export const turned: FindingKind = {
	kind: 'turned',
	find(ground, measures) {
		const faces = facesOf(ground.topology.turned);
		if (!faces.length) return [];
		return [
			{
				kind: 'turned',
				words: `${count(faces.length, 'face')} of ${partNames(ground, measures, faces)} look another way than their neighbours.`,
				todo: 'Some are seen from behind and take no paint. Turn their normals in your modelling program.',
				faces,
				grave: true,
			},
		];
	},
};
