import { eachLayer } from '../../document/index.ts';
import type { SourceKind } from './kind.ts';

export const group: SourceKind = {
	kind: 'group',
	words: 'Each group',
	none: 'no groups',
	parts: true,
	list: ({ layers }) => [...eachLayer(layers)].filter((each) => 'layers' in each),
	picture: (engine, { id }, part) => engine.layerPicture(id, part),
};
