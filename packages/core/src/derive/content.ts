import { isAreaTone, rgbOfHex } from '../color/index.ts';
import { areaBlock, areaReach, type Compositor } from '../composite/index.ts';
import { belowOf, type Layer, type Sheet } from '../document/index.ts';
import { grownRect, isEmptyRect, meet, pathCoverage, pathRect } from '../raster/index.ts';
import type { SurfaceId } from '../surface/index.ts';
import { textPath } from '../text/index.ts';
import { fillBlock, type WashFill } from '../wash/index.ts';
import { fillIdOf } from './derivedId.ts';
import { imageInputs, outlineOf } from './inputs.ts';
import { alone, stackBlock } from './layerPicture.ts';
import { stackOf } from './layerStack.ts';
import type { Means } from './means.ts';
import type { Derived } from './spec.ts';

export function contentNode(means: Means, sheet: Sheet, layer: Layer): Derived | null {
	const plain = { id: fillIdOf(layer), format: 'color' as const, inputs: [] as SurfaceId[], reach: 0 };
	if (layer.kind === 'wash' && layer.fill) {
		const fill: WashFill = layer.fill;
		const picture = fill.fill === 'gradient' ? true : Boolean(means.pictures.stencil(fill.picture));
		return {
			...plain,
			key: JSON.stringify([fill, picture]),
			make: (rect) => fillBlock(fill, rect, means.pictures.stencil),
		};
	}
	if (layer.kind === 'text') {
		const { text } = layer;
		const path = textPath(text);
		const box = pathRect(path);
		const [r, g, b] = rgbOfHex(text.color);
		const word = (r | (g << 8) | (b << 16)) >>> 0;
		return {
			...plain,
			key: JSON.stringify(text),
			make(rect) {
				if (isEmptyRect(meet(box, rect))) return null;
				const cover = pathCoverage(path, rect);
				const out = new Uint32Array(cover.length);
				for (let i = 0; i < out.length; i++) if (cover[i]) out[i] = (word | ((cover[i] as number) << 24)) >>> 0;
				return new Uint8Array(out.buffer);
			},
		};
	}
	if (layer.kind === 'adjust' && isAreaTone(layer.tone)) {
		const { tone } = layer;
		const below = belowOf(sheet, layer.id);
		const lowest = layer.clip ? below.map((each, i) => (i === 0 ? alone(each) : each)) : below;
		const stack = (): Parameters<Compositor['tile']>[0] =>
			stackOf({ ...sheet, base: layer.clip ? null : sheet.base, layers: lowest }, means.surfaces).layers;
		return {
			...plain,
			inputs: below.flatMap(imageInputs),
			key: JSON.stringify([tone, sheet.base, layer.clip, below.map(outlineOf)]),
			reach: areaReach(tone),
			make(rect) {
				const wide = grownRect(rect, areaReach(tone));
				return areaBlock(tone, stackBlock(means.kernels, means.compositor, sheet, stack(), wide), rect);
			},
		};
	}
	return null;
}
