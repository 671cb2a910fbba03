import { adjust } from './adjust.ts';
import { group } from './group.ts';
import type { AnyLayer, LayerKind } from './kind.ts';
import { light } from './light.ts';
import { paint } from './paint.ts';
import { text } from './text.ts';
import { wash } from './wash.ts';

/** Kinds of layers that hold no others: a new one is a line here. */
export const leafKinds = [paint, wash, text, adjust, light] as const;

type LayerOfKind<K> = K extends LayerKind<infer L> ? L : never;
export type LeafLayer = LayerOfKind<(typeof leafKinds)[number]>;

/** Every kind of layer. */
export const layerKinds = [...leafKinds, group] as unknown as readonly LayerKind<AnyLayer>[];

/** The kind of a layer. */
export function kindOf(layer: AnyLayer): LayerKind<AnyLayer> {
	const found = layerKinds.find(({ kind }) => kind === layer.kind);
	if (!found) throw new Error(`There is no kind of layer "${layer.kind}".`);
	return found;
}
