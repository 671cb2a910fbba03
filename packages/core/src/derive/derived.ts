import {
	belowOf,
	kindOf,
	type Layer,
	layerOf,
	layersIn,
	type Project,
	raisedUnder,
	type Sheet,
	spanOf,
} from '../document/index.ts';
import { finishKindOf } from '../finish/index.ts';
import type { Bake } from '../light/index.ts';
import { tapsOf } from '../recipe/index.ts';
import type { SurfaceId } from '../surface/index.ts';
import { bakeNode, missedNode } from './bake.ts';
import { contentNode } from './content.ts';
import { finishNode } from './finish.ts';
import { maskNode } from './mask.ts';
import type { Means } from './means.ts';
import { heightsNode } from './relief.ts';
import { slopesNode } from './slopes.ts';
import type { Derived } from './spec.ts';

/** The bakes of the model that lies on a sheet. */
const bakesOn = ({ models }: Project, sheet: Sheet): readonly Bake[] =>
	models.find(({ parts }) => parts.some((part) => part.sheet === sheet.id))?.bakes ?? [];

/** All computed surfaces of a sheet, each after those that it reads. */
export function derivedOf(means: Means, project: Project, sheet: Sheet): Derived[] {
	const made = new Map<SurfaceId, Derived | null>();
	for (const bake of bakesOn(project, sheet)) {
		const node = bakeNode(means, sheet, bake);
		made.set(node.id, node);
	}
	const there = new Set(made.keys());
	for (const bake of bakesOn(project, sheet)) {
		const node = missedNode(means, sheet, bake);
		if (node) made.set(node.id, node);
	}
	const add = (node: Derived | null, first: () => void): void => {
		if (!node || made.has(node.id)) return;
		made.set(node.id, null);
		first();
		made.delete(node.id);
		made.set(node.id, node);
	};
	const mask = (layer: Layer): void => {
		if (!layer.mask?.recipe?.length) return;
		const node = maskNode(means, sheet, layer, there);
		add(node, () => {
			for (const tap of tapsOf(layer.mask?.recipe ?? [])) {
				const other = layerOf(sheet, tap.layer);
				if (other) (tap.of === 'mask' ? mask : image)(other);
			}
		});
	};
	const image = (layer: Layer): void => {
		mask(layer);
		for (const inner of layersIn(layer)) image(inner);
		const content = kindOf(layer).content?.(layer);
		const raised = content?.relief ? raisedUnder(sheet, layer.id) : [];
		if (spanOf(raised) > 0) {
			add(heightsNode(means, sheet, raised), () => {
				for (const { layer: own, bases, groups } of raised) {
					for (const each of [own, ...bases]) image(each);
					for (const group of groups) mask(group);
				}
			});
			add(slopesNode(means, sheet, raised), () => undefined);
		}
		if (content)
			add(contentNode(means, sheet, layer, content, there), () => {
				if (content.below) for (const lower of belowOf(sheet, layer.id)) image(lower);
			});
		for (const finish of layer.finishes ?? []) {
			const texels = finish.on ? finishKindOf(finish).texels?.(finish) : undefined;
			if (texels) add(finishNode(means, sheet, layer, finish, texels), () => undefined);
		}
	};
	for (const layer of sheet.layers) image(layer);
	return [...made.values()].filter((node): node is Derived => node !== null);
}
