import type { Ptr } from '@eppu/kernels';
import type { OcclusionOf } from '../bake/index.ts';
import type { LaidMesh } from '../mesh/index.ts';
import type { mapReader } from '../surface/index.ts';
import type { Field, Planes, Triple } from './planes.ts';

/** What a tap reads of a layer: its tone where it has any paint, its shape, or its mask. */
export type TapOf = 'tone' | 'shape' | 'mask';

/**
 * The cells that a recipe is computed for: texels of a region, or coarse cells of a whole sheet for a small picture of
 * it. Lists have one entry a cell, row by row.
 */
export interface Ground {
	readonly width: number;
	readonly height: number;
	/** Texels along a cell's side. */
	readonly scale: number;
	/** Texel place of the first cell's corner, and the sheet's size. */
	readonly x: number;
	readonly y: number;
	readonly sheet: { readonly width: number; readonly height: number };
	readonly surface: SurfaceGround | null;
	/** Where its fields lie; they last as long as it does. */
	readonly planes: Planes;
	/** Cells beside an island that show what lies over its seams; null where none do. */
	readonly over: OverSeams | null;
	/** A8 of a layer, or null where it is not there. */
	tap(layer: string, of: TapOf): Uint8Array | null;
	/** A8 of this mask as it is painted. */
	painted(): Uint8Array | null;
	/**
	 * Lowest and highest place of all models of the project along an axis, in the hundredths of the surface's own; null
	 * where it has none.
	 */
	models(axis: 0 | 1 | 2): readonly [number, number] | null;
	/** A tone that was baked, 0..1 a cell; null where it is not there. */
	baked(id: string): Field | null;
	/** A picture's tone at u, v (repeating), 0..1; 1 where the picture is not there. */
	picture(id: string): ((u: number, v: number, perCell: number) => number) | null;
	/** Reads a map that was baked elsewhere, by the hash of its file; null where it is not there. */
	map(hash: string): ReturnType<typeof mapReader> | null;
	/** A picture's colour at u, v from 0 to 1, as red, green, blue, alpha of 0..255; null where it is not there. */
	color(id: string): ((u: number, v: number, perCell: number) => readonly [number, number, number, number]) | null;
}

/** Cells that show another place than their own: their numbers, and the texel places whose tone they show. */
export interface OverSeams {
	readonly cell: Uint32Array;
	readonly x: Float32Array;
	readonly y: Float32Array;
}

/** What of the model lies under the cells. Faces are -1 where there is nothing. */
export interface SurfaceGround {
	/** Planes of x, y and z, in hundredths of the model's size from its middle; made when they are first asked for. */
	readonly place: Triple;
	readonly normal: Triple;
	readonly face: Int32Array;
	/** Names the cells where they are a whole tile, so that what is made of them can be remembered; null where they are not. */
	readonly tile: string | null;
	/** No cell has a face. */
	readonly bare: boolean;
	/** A plane of whole numbers: below 0 where there is no face. */
	readonly cells: Ptr;
	/** Six numbers a face, in the order in which `cells` number them: see `risesOver` in light/relief.ts. */
	rises(): Field;
	readonly islandOf: (face: number) => number;
	readonly partOf: (face: number) => number;
	/** What the model's parts are called, in their order. */
	readonly partNames: readonly string[];
	/** Red, green and blue of the mesh's own vertices, 0..1; null where it has no colours. */
	colors(): Triple | null;
	/** What a texel measures on the model, in the same hundredths: the mean of the sheet. */
	readonly perTexel: number;
	/** Lowest and highest place of the model along each axis. */
	readonly low: readonly [number, number, number];
	readonly high: readonly [number, number, number];
	/**
	 * Squares of the distances, in texels, to the nearest sharp edge of the model on the cell's own island, as far as
	 * `reach` at least: those that stand out, or hollows, sharper than `angle` degrees. Infinity beyond.
	 */
	edges(of: 'edges' | 'hollows', angle: number, reach: number): Field;
	/**
	 * How much of what each cell could see the model hides, 0..1; `reach` in hundredths of its size. Cells without a face,
	 * and those where `only` is 0, have 0.
	 */
	hidden(of: HiddenOf, only: Field | null): Field;
	/**
	 * How far the surface turns within `width` of each cell, radians: what stands out, less what is hollow. Edges that turn
	 * less than `angle` degrees are smooth.
	 */
	bend(angle: number, width: number): { readonly out: Field; readonly into: Field };
	/** Lowest and highest place of a part along an axis. */
	partSpan(part: number, axis: 0 | 1 | 2): readonly [number, number];
	/** The model in the same hundredths, with its normals. */
	readonly solid: LaidMesh;
	/**
	 * The way that the sheet's u goes on the model's own surface, its normal there, both as they lie between vertices and not
	 * made one long, and 1 or -1 where v goes to the left of u or to its right.
	 */
	frame(): { readonly tangent: Triple; readonly normal: Triple; readonly side: Field };
	/**
	 * The surface of a finer mesh of the same model, as rays meet it that go from `cage` hundredths outside straight through
	 * this one to as far inside; cells whose rays meet nothing have no face. With `byParts` only what has the part's name.
	 */
	finer(mesh: LaidMesh, cage: number, byParts: boolean): SurfaceGround;
}

/** What of the model hides, and which way is looked. */
export interface HiddenOf extends OcclusionOf {
	/** Only the cell's own part hides. */
	readonly own?: boolean;
	/** A level ground hides, on which the model stands. */
	readonly ground?: boolean;
	/** Through the model instead of away from it. */
	readonly inward?: boolean;
}

/** Calls with each cell and the texel place whose tone it shows. */
export function eachCell(ground: Ground, visit: (cell: number, x: number, y: number) => void): void {
	const { width, height, scale, over } = ground;
	for (let row = 0, cell = 0; row < height; row++)
		for (let column = 0; column < width; column++, cell++)
			visit(cell, ground.x + (column + 0.5) * scale, ground.y + (row + 0.5) * scale);
	for (let i = 0; over && i < over.cell.length; i++)
		visit(over.cell[i] as number, over.x[i] as number, over.y[i] as number);
}
