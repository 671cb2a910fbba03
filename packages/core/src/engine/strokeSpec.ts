import { colorWords, type Hex } from '../color/index.ts';
import { type Guard, type Id, type Layer, ownSurfaceOf } from '../document/index.ts';
import type { Plane, SheetMirror, Sight } from '../projection/index.ts';
import type { Pencil, StencilUse, Tip, Tool } from '../stroke/index.ts';
import type { SurfaceId } from '../surface/index.ts';

export type StrokePlace =
	| { readonly on: 'sheet'; readonly sheet: Id }
	/** `sheet` is painted where the stroke begins beside the model; else the sheet under its first sample is. */
	| { readonly on: 'model'; readonly model: Id; readonly sight: Sight; readonly sheet?: Id };

/** Everything that says what a stroke will do, but its samples: with them it replays to the same pixels anywhere. */
export interface StrokeSpec {
	readonly tool: Tool;
	readonly tip: Tip;
	readonly color: Hex;
	readonly place: StrokePlace;
	/** The active layer of each sheet. */
	readonly layers: Readonly<Record<Id, Id>>;
	/** Paint goes on the active layer's mask: black hides, white shows. */
	readonly onMask?: boolean;
	/** Rules what chance does; 0 where it is left out. */
	readonly seed?: number;
	/** How far a tone tool goes, -1..1; 1 where it is left out. */
	readonly amount?: number;
	readonly stencil?: StencilUse | null;
	readonly guard?: Guard | null;
	/** Planes of the model, for strokes on it, and lines of the sheet, for strokes there. */
	readonly mirrors?: { readonly planes: readonly Plane[]; readonly lines: readonly SheetMirror[] };
	/** A placed stamp: its first two samples are press and release. */
	/** On a pixel sheet: texels are drawn, not dabs of the tip. */
	readonly pencil?: Pencil | null;
	readonly stamp?: { readonly repeat: number; readonly way: 'row' | 'ring' } | null;
}

/** The surface that paint lands on: a layer's mask, or its own pixels. */
export const surfaceFor = (layer: Layer, onMask: boolean): SurfaceId =>
	(onMask ? layer.mask?.surface : ownSurfaceOf(layer)) ?? '';

const toolWords: Readonly<Record<StrokeSpec['tool'], string>> = {
	draw: 'Stroke',
	wipe: 'Wipe',
	soften: 'Soften',
	smear: 'Smear',
	lighten: 'Lighten',
	darken: 'Darken',
	contrast: 'Contrast',
	saturate: 'Saturate',
	hue: 'Hue shift',
	scrape: 'Scrape',
	mend: 'Mend',
};

/** A stroke as the history names it. */
export const strokeWords = (spec: StrokeSpec, layer: Layer): string =>
	spec.tool === 'scrape' || spec.tool === 'mend'
		? `${toolWords[spec.tool]} the coats`
		: `${spec.stamp ? 'Stamp' : toolWords[spec.tool]} on ${spec.onMask ? 'the mask of ' : ''}"${layer.name}"`;

/** What a layer is called that a stroke is the first thing on; null where it lays nothing of its own. */
export const strokeCalled = ({ tool, stamp, color }: StrokeSpec): string | null =>
	tool === 'draw' ? `${colorWords(color)} ${stamp ? 'stamps' : 'strokes'}` : null;
