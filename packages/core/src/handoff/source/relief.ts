import { raisedOn } from '../../document/index.ts';
import { reliefLooks } from '../../light/index.ts';
import type { SourceKind } from './kind.ts';

export const relief: SourceKind = {
	kind: 'relief',
	words: 'Relief',
	none: 'nothing that stands out',
	parts: true,
	list: (sheet) => (raisedOn(sheet).length ? reliefLooks.map(({ look, name }) => ({ id: look, name })) : []),
	picture(engine, { id }, look) {
		const { width, height, data } = engine.reliefPicture(id, look);
		return { width, height, data: Uint8Array.from(data, (v) => Math.round(v / 257)) };
	},
};
