import { eachLayer } from '../../document/index.ts';
import { grayPicture } from '../gray.ts';
import type { SourceKind } from './kind.ts';

export const mask: SourceKind = {
	kind: 'mask',
	words: 'Each mask',
	none: 'no masks',
	parts: true,
	list: ({ layers }) => [...eachLayer(layers)].filter((each) => each.mask !== null),
	picture(engine, { id, width, height }, part) {
		const found = engine.maskPicture(id, part);
		return found ? grayPicture(found) : { width, height, data: new Uint8Array(width * height * 4) };
	},
};
