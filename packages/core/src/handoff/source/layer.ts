import { eachLayer, kindOf } from '../../document/index.ts';
import type { SourceKind } from './kind.ts';

export const layer: SourceKind = {
	kind: 'layer',
	words: 'Each layer',
	none: 'no layers with pixels',
	parts: true,
	// What only changes what lies below it has no picture by itself.
	list: ({ layers }) => [...eachLayer(layers)].filter((each) => !('layers' in each) && kindOf(each).finishes),
	picture: (engine, { id }, part) => engine.layerPicture(id, part),
};
