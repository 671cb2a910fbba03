import type { RimOf } from '@eppu/core/edit';
import type { Along, AlongLine } from '@eppu/core/grid';
import type { DitherName } from '@eppu/core/pixel';
import type { Joining } from '@eppu/core/select';

/** How the selection tool works. */
export interface Selecting {
	readonly way:
		| 'rectangle'
		| 'ellipse'
		| 'polygon'
		| 'freehand'
		| 'cling'
		| 'similar'
		| 'tones'
		| 'island'
		| 'part'
		| 'face';
	readonly joining: Joining;
	/** Corners of rectangles, texels. */
	readonly radius: number;
	/** Shapes are set so many times in a row. */
	readonly repeat: number;
	/** 0..255 */
	readonly reach: number;
	readonly together: boolean;
	readonly ofLayer: boolean;
	/** Tones from .. to, 0..1, and how softly they end. */
	readonly low: number;
	readonly high: number;
	readonly soft: number;
	/** Texels that grow, shrink, soften and border go by. */
	readonly by: number;
}

/** How shapes are drawn. */
export interface Shaping {
	readonly kind: 'rectangle' | 'ellipse' | 'polygon' | 'line' | 'curve';
	readonly outline: boolean;
	readonly thick: number;
	readonly radius: number;
	readonly repeat: number;
	readonly way: 'row' | 'ring';
}

export interface Grading {
	readonly way: 'linear' | 'round' | 'angle';
	readonly fade: boolean;
	/** Between the pots, or along the palette's ramp from front to back through its colours. */
	readonly colors: 'pots' | 'palette';
}

/** How texels are drawn and looked at on a pixel sheet. */
export interface Pixeling {
	/** Texels along a side of the pencil. */
	readonly size: number;
	readonly corners: boolean;
	/** The pattern in which texels are laid; null lays all. */
	readonly dither: DitherName | null;
	/** Share of texels that are laid. */
	readonly share: number;
	/** The back pot stands between them. */
	readonly between: boolean;
	readonly grid: boolean;
	readonly guides: 'none' | 'halves' | 'quarters';
	/** The sheet is seen with itself around it. */
	readonly repeat: boolean;
	/** What the outline tool takes, and by what it touches. */
	readonly rim: RimOf;
	readonly touching: 4 | 8;
	/** The side that light comes from: -1, 0 or 1 across and down; all sides where it is none. */
	readonly side: readonly [number, number] | null;
	/** How many texels light and dark passes are deep. */
	readonly deep: number;
}

export type ViewLayout = 'both' | 'model' | 'sheet';

/** How the artist works: it stays from project to project. */
export interface Habits {
	readonly show: { readonly seams: boolean; readonly wire: boolean; readonly lit: boolean; readonly template: boolean };
	/** How the model is looked at where it is lit: at which time, on what. */
	readonly preview: { readonly time: string; readonly ground: boolean; readonly backdrop: number };
	readonly layout: ViewLayout;
	/** Drawers that the artist put beside the views, or over them, and how wide they are, px. */
	readonly rail: { readonly beside: Readonly<Record<string, boolean>>; readonly width: number };
	readonly largeThumbnails: boolean;
	readonly selecting: Selecting;
	readonly shaping: Shaping;
	readonly grading: Grading;
	/** Moving is smooth, or by nearest texels. */
	readonly smooth: boolean;
	/** How the fill tool goes: an island, or joined texels that differ by so much at the most. */
	readonly filling: { readonly by: 'island' | 'part' | 'region'; readonly reach: number; readonly everywhere: boolean };
	readonly pixeling: Pixeling;
	/** From where on checks find something, by their names; as usual where there is none. */
	/** What a click with the Cells tool takes on a model, and how it lies in the cell. */
	readonly celling: { readonly by: 'part' | 'island' | 'face'; readonly along: Exclude<Along, AlongLine> | 'line' };
	readonly thresholds: Readonly<Record<string, number>>;
}

export const habits: Habits = {
	show: { seams: true, wire: false, lit: false, template: true },
	preview: { time: 'studio', ground: false, backdrop: 0.467 },
	layout: 'both',
	rail: { beside: {}, width: 300 },
	largeThumbnails: false,
	selecting: {
		way: 'rectangle',
		joining: 'replace',
		radius: 0,
		repeat: 1,
		reach: 24,
		together: true,
		ofLayer: false,
		low: 0.5,
		high: 1,
		soft: 0.1,
		by: 4,
	},
	shaping: { kind: 'rectangle', outline: false, thick: 6, radius: 0, repeat: 1, way: 'row' },
	grading: { way: 'linear', fade: false, colors: 'pots' },
	smooth: true,
	filling: { by: 'island', reach: 24, everywhere: false },
	thresholds: {},
	celling: { by: 'part', along: 'middle' },
	pixeling: {
		size: 1,
		corners: false,
		dither: null,
		share: 0.5,
		between: false,
		grid: true,
		guides: 'none',
		repeat: false,
		rim: 'outline',
		touching: 4,
		side: null,
		deep: 1,
	},
};
