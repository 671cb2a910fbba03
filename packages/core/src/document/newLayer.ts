import type { Hex, ToneOp } from '../color/index.ts';
import type { Text } from '../text/index.ts';
import type { WashFill } from '../wash/index.ts';
import type { AdjustLayer, GroupLayer, Id, Layer, LayerBase, PaintLayer, TextLayer, WashLayer } from './types.ts';

const base = {
	shown: true,
	opacity: 1,
	mode: 'normal',
	clip: false,
	locked: false,
	lockAlpha: false,
	mask: null,
} as const;

/** A new paint layer; its surface bears the layer's id. */
export const paintLayer = (id: Id, name: string, with_: Partial<LayerBase> = {}): PaintLayer => ({
	...base,
	...with_,
	id,
	name,
	kind: 'paint',
	surface: id,
});

export const washLayer = (
	id: Id,
	name: string,
	color: Hex,
	with_: Partial<LayerBase> & { readonly fill?: WashFill } = {},
): WashLayer => ({
	...base,
	...with_,
	id,
	name,
	kind: 'wash',
	color,
});

export const textLayer = (id: Id, name: string, text: Text, with_: Partial<LayerBase> = {}): TextLayer => ({
	...base,
	...with_,
	id,
	name,
	kind: 'text',
	text,
});

export const adjustLayer = (id: Id, name: string, tone: ToneOp, with_: Partial<LayerBase> = {}): AdjustLayer => ({
	...base,
	...with_,
	id,
	name,
	kind: 'adjust',
	tone,
});

export const groupLayer = (
	id: Id,
	name: string,
	layers: readonly Layer[],
	with_: Partial<LayerBase> & { readonly isolated?: boolean } = {},
): GroupLayer => ({ ...base, isolated: false, ...with_, id, name, kind: 'group', layers });

/** A bleed that suits a sheet: 1/128 of its larger side, 4 at the least. */
export const usualBleed = (width: number, height: number): number =>
	Math.min(32, Math.max(4, Math.round(Math.max(width, height) / 128)));
