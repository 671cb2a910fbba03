import { belowOf, type Layer, layerOf, type Sheet } from '../document/index.ts';
import { tapsOf } from '../recipe/index.ts';
import type { SurfaceId } from '../surface/index.ts';
import { contentNode } from './content.ts';
import { isComputed } from './derivedId.ts';
import { finishNode } from './finish.ts';
import { maskNode } from './mask.ts';
import type { Means } from './means.ts';
import type { Derived } from './spec.ts';

/** All computed surfaces of a sheet, each after those that it reads. */
export function derivedOf(means: Means, sheet: Sheet): Derived[] {
	const made = new Map<SurfaceId, Derived | null>();
	const add = (node: Derived | null, first: () => void): void => {
		if (!node || made.has(node.id)) return;
		made.set(node.id, null);
		first();
		made.delete(node.id);
		made.set(node.id, node);
	};
	const mask = (layer: Layer): void => {
		if (!layer.mask?.recipe?.length) return;
		const node = maskNode(means, sheet, layer);
		add(node, () => {
			for (const tap of tapsOf(layer.mask?.recipe ?? [])) {
				const other = layerOf(sheet, tap.layer);
				if (other) (tap.of === 'mask' ? mask : image)(other);
			}
		});
	};
	const image = (layer: Layer): void => {
		mask(layer);
		if (layer.kind === 'group') for (const inner of layer.layers) image(inner);
		if (isComputed(layer))
			add(contentNode(means, sheet, layer), () => {
				if (layer.kind === 'adjust') for (const lower of belowOf(sheet, layer.id)) image(lower);
			});
		for (const finish of layer.finishes ?? [])
			if (finish.on) add(finishNode(means, sheet, layer, finish), () => undefined);
	};
	for (const layer of sheet.layers) image(layer);
	return [...made.values()].filter((node): node is Derived => node !== null);
}
