import type { SourceKind } from './kind.ts';

export const bake: SourceKind = {
	kind: 'bake',
	words: 'Each bake',
	none: 'no bakes',
	parts: true,
	list: ({ id }, { models }) =>
		models.flatMap(({ parts, bakes }) => (parts.some((part) => part.sheet === id) ? (bakes ?? []) : [])),
	picture(engine, { id }, part) {
		const { width, height, data } = engine.bakePicture(id, part);
		return { width, height, data: Uint8Array.from(data, (v) => Math.round(v / 257)) };
	},
};
