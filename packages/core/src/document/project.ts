import type { Hex, Palette, ToneOp } from '../color/index.ts';
import type { BlendMode } from '../composite/index.ts';
import type { Finish } from '../finish/index.ts';
import type { Recipe } from '../recipe/index.ts';
import type { SurfaceId } from '../surface/index.ts';
import type { Text } from '../text/index.ts';
import type { WashFill } from '../wash/index.ts';

export type Id = string;

/** A file kept with the project, by the SHA-256 of its content. */
export interface Asset {
	readonly hash: string;
	readonly name: string;
}

export interface Mask {
	readonly surface: SurfaceId;
	/** Switched off, it stays but does nothing. */
	readonly on: boolean;
	/** Steps that compute it; what is painted by hand is then one of its sources. */
	readonly recipe?: Recipe | null;
}

/** What makes a layer a physical coat of paint. */
export interface Coat {
	/** How thick it lies, in shares of a whole scrape, 0.01..1. */
	readonly depth: number;
	/** How softly its rim breaks, 0 sharp .. 1. */
	readonly falloff: number;
}

interface LayerBase {
	readonly id: Id;
	readonly name: string;
	readonly shown: boolean;
	/** 0..1 */
	readonly opacity: number;
	readonly mode: BlendMode;
	/** Shaped by the nearest unclipped layer below. */
	readonly clip: boolean;
	readonly locked: boolean;
	/** Painting keeps the layer's alpha. */
	readonly lockAlpha: boolean;
	readonly mask: Mask | null;
	/** Lowest first. */
	readonly finishes?: readonly Finish[];
	/** A coat that the Scrape tool cuts through. */
	readonly coat?: Coat | null;
}

export interface PaintLayer extends LayerBase {
	readonly kind: 'paint';
	readonly surface: SurfaceId;
}

/** One colour, a gradient or a pattern everywhere, shaped only by its mask. */
export interface WashLayer extends LayerBase {
	readonly kind: 'wash';
	readonly color: Hex;
	/** What is laid instead of the plain colour. */
	readonly fill?: WashFill | null;
}

/** Lettering that stays editable. */
export interface TextLayer extends LayerBase {
	readonly kind: 'text';
	readonly text: Text;
}

/** Changes the tones of what lies below it, or of the layer that it is clipped to. */
export interface AdjustLayer extends LayerBase {
	readonly kind: 'adjust';
	readonly tone: ToneOp;
}

/** Layers that belong together, bottom first. */
export interface GroupLayer extends LayerBase {
	readonly kind: 'group';
	readonly layers: readonly Layer[];
	/** Blended on nothing and laid as one; else its layers blend with what lies below the group. */
	readonly isolated: boolean;
}

export type Layer = PaintLayer | WashLayer | TextLayer | AdjustLayer | GroupLayer;

/** One texture picture: its layers stand bottom first. */
export interface Sheet {
	readonly id: Id;
	readonly name: string;
	readonly width: number;
	readonly height: number;
	/** Texels that paint is carried on past an island's border. */
	readonly bleed: number;
	/** What lies under all layers; null is nothing. */
	readonly base: Hex | null;
	readonly layers: readonly Layer[];
	/** A picture laid over the sheet as a guide; never part of the texture. */
	readonly guide: Asset | null;
	/** The surface that says what is selected; nothing, and so all, where it is null. */
	readonly selection?: SurfaceId | null;
}

export interface ModelPart {
	readonly name: string;
	readonly sheet: Id;
	readonly shown: boolean;
}

export interface Model {
	readonly id: Id;
	readonly name: string;
	readonly asset: Asset;
	/** In the order of the mesh's parts. */
	readonly parts: readonly ModelPart[];
}

/** The whole of what is made: plain data; pixels by reference to surfaces. */
export interface Project {
	readonly schema: 1;
	readonly id: Id;
	readonly name: string;
	readonly models: readonly Model[];
	readonly sheets: readonly Sheet[];
	readonly palette: Palette;
}

/** Smallest and largest side of a sheet, texels. */
export const SHEET_SIDE = { least: 16, most: 8192 } as const;

export const sheetOf = (project: Project, id: Id): Sheet | undefined => project.sheets.find((sheet) => sheet.id === id);

/** All layers of a list, each before those within it. */
export function* eachLayer(layers: readonly Layer[]): Generator<Layer> {
	for (const layer of layers) {
		yield layer;
		if (layer.kind === 'group') yield* eachLayer(layer.layers);
	}
}

/** A layer of a sheet, in whatever group it is. */
export function layerOf(sheet: Sheet | undefined, id: Id | undefined): Layer | undefined {
	if (sheet && id !== undefined) for (const layer of eachLayer(sheet.layers)) if (layer.id === id) return layer;
	return undefined;
}

/** Where a layer stands: the group that it is in (null for the sheet itself), its neighbours and its place among them. */
export interface LayerPlace {
	readonly parent: GroupLayer | null;
	readonly among: readonly Layer[];
	readonly at: number;
	/** Groups around it, outermost first. */
	readonly path: readonly GroupLayer[];
}

export function placeOfLayer(sheet: Sheet, id: Id): LayerPlace | null {
	const within = (among: readonly Layer[], path: readonly GroupLayer[]): LayerPlace | null => {
		const at = among.findIndex((layer) => layer.id === id);
		if (at >= 0) return { parent: path.at(-1) ?? null, among, at, path };
		for (const layer of among) {
			const found = layer.kind === 'group' ? within(layer.layers, [...path, layer]) : null;
			if (found) return found;
		}
		return null;
	};
	return within(sheet.layers, []);
}

/** Every surface that a layer's pixels lie on, and those of the layers within it. */
export function surfacesOfLayer(layer: Layer): { readonly id: SurfaceId; readonly format: 'color' | 'mask' }[] {
	return [...eachLayer([layer])].flatMap((each) => [
		...(each.kind === 'paint' ? [{ id: each.surface, format: 'color' as const }] : []),
		...(each.mask ? [{ id: each.mask.surface, format: 'mask' as const }] : []),
	]);
}

/** Every surface of a sheet that is kept: its layers' and its selection. */
export const surfacesOfSheet = (sheet: Sheet): { readonly id: SurfaceId; readonly format: 'color' | 'mask' }[] => [
	...sheet.layers.flatMap(surfacesOfLayer),
	...(sheet.selection ? [{ id: sheet.selection, format: 'mask' as const }] : []),
];

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

/** A name not yet among `taken`: "Tin", "Tin 2", "Tin 3" … */
export function freeName(name: string, taken: readonly string[]): string {
	if (!taken.includes(name)) return name;
	const stem = name.replace(/ \d+$/, '');
	for (let n = 2; ; n++) if (!taken.includes(`${stem} ${n}`)) return `${stem} ${n}`;
}
