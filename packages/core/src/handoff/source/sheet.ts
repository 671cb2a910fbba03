import type { SourceKind } from './kind.ts';

export const sheet: SourceKind = {
	kind: 'sheet',
	words: 'The whole sheet',
	none: 'no sheets',
	parts: false,
	list: ({ name }) => [{ id: '', name }],
	picture: (engine, { id }) => engine.composite(id),
};
