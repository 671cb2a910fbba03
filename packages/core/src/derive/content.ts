import { belowOf, type Content, type Layer, type Sheet } from '../document/index.ts';
import type { Block, Rect } from '../raster/index.ts';
import { fillIdOf } from './derivedId.ts';
import { imageInputs, outlineOf } from './inputs.ts';
import { alone, stackBlock } from './layerPicture.ts';
import { stackOf } from './layerStack.ts';
import type { Means } from './means.ts';
import type { Derived } from './spec.ts';

/** A layer's own texels, computed as its kind says. */
export function contentNode(means: Means, sheet: Sheet, layer: Layer, content: Content): Derived {
	const { says, pictures, reach } = content;
	const picture = means.pictures.stencil;
	const here = pictures.map((id) => Boolean(picture(id)));
	const under = content.below ? belowOf(sheet, layer.id) : [];
	const lowest = layer.clip ? under.map((each, i) => (i === 0 ? alone(each) : each)) : under;
	const below = (rect: Rect): Block => {
		const part = { ...sheet, base: layer.clip ? null : sheet.base, layers: lowest };
		return stackBlock(means.kernels, means.compositor, sheet, stackOf(part, means.surfaces).layers, rect);
	};
	return {
		id: fillIdOf(layer),
		format: 'color',
		key: JSON.stringify([says, here, ...(content.below ? [sheet.base, layer.clip, under.map(outlineOf)] : [])]),
		inputs: under.flatMap(imageInputs),
		reach,
		make: (rect) => content.make(rect, { picture, below }),
	};
}
