import { squaredDistances } from '../raster/index.ts';
import { type Drawn, type Groups, groupsOf, outsideOf } from './groups.ts';

/** How a template is read. */
export interface Reading {
	/** Texels that a gap in a line may have and still be closed. */
	readonly gap: number;
	/** Texels that an island has at the least. */
	readonly least: number;
	/** What lies apart is one island, or each cell that lines close is. */
	readonly by: 'pieces' | 'cells';
}

/** The islands of a template: a number for each texel, 0 for the ground, and how many texels each has. */
export interface Regions {
	readonly width: number;
	readonly height: number;
	readonly region: Uint16Array;
	/** By the number less one; in the order in which they are met, row by row. */
	readonly texels: readonly number[];
	/** Specks that are smaller than an island may be. */
	readonly specks: number;
}

/** More islands than these are not told apart. */
const MOST = 4000;

/** Cells that lines close, inside what is not outside; lines go to the cell that is nearest. */
function cellsOf({ width, height, far, least }: Drawn, outside: Uint8Array, small: number): Groups {
	const inner = (i: number): boolean => !outside[i] && (far[i] as number) < least;
	const { group, sizes } = groupsOf(inner, width, height);
	const nearest = new Int32Array(width * height);
	squaredDistances(
		(i) => group[i] !== 0 && (sizes[(group[i] as number) - 1] as number) >= small,
		width,
		height,
		nearest,
	);
	const cells = group.map((_, i) => (outside[i] ? 0 : (group[nearest[i] as number] as number)));
	sizes.fill(0);
	for (const cell of cells) if (cell) sizes[cell - 1] = (sizes[cell - 1] as number) + 1;
	return { group: cells, sizes };
}

/** Deeper than this, in shares of the side, what is drawn is no line but filled. */
const FILLED = 0.006;

/** A frame around the whole picture is no island. */
function takeFrameOut({ width, height }: Drawn, { group, sizes }: Groups): void {
	const boxes = sizes.map(() => [width, height, -1, -1]);
	for (let i = 0; i < group.length; i++) {
		const box = boxes[(group[i] as number) - 1];
		if (!box) continue;
		const [x, y] = [i % width, Math.floor(i / width)];
		box[0] = Math.min(box[0] as number, x);
		box[1] = Math.min(box[1] as number, y);
		box[2] = Math.max(box[2] as number, x);
		box[3] = Math.max(box[3] as number, y);
	}
	boxes.forEach(([x0, y0, x1, y1], i) => {
		const wide = (x1 as number) - (x0 as number) > 0.95 * width && (y1 as number) - (y0 as number) > 0.95 * height;
		if (wide && (sizes[i] as number) < 0.15 * width * height) sizes[i] = 0;
	});
}

/** Of pieces that are filled, ground that they enclose is ground. */
function takeHolesOut({ width, height, far, least: drawnFrom }: Drawn, { group, sizes }: Groups, least: number): void {
	const drawn = (i: number): boolean => (far[i] as number) >= drawnFrom;
	const deep = squaredDistances((i) => !drawn(i), width, height);
	const thick = Math.max(6, FILLED * Math.max(width, height)) ** 2;
	const [inked, thickly] = [new Uint32Array(sizes.length + 1), new Uint32Array(sizes.length + 1)];
	for (let i = 0; i < deep.length; i++) {
		const piece = group[i] as number;
		if (drawn(i)) inked[piece] = (inked[piece] as number) + 1;
		if ((deep[i] as number) > thick) thickly[piece] = (thickly[piece] as number) + 1;
	}
	const filled = Uint8Array.from(inked, (count, piece) =>
		Number(piece > 0 && (thickly[piece] as number) > count * 0.2),
	);
	const holes = groupsOf((i) => filled[group[i] as number] === 1 && !drawn(i), width, height);
	for (let i = 0; i < group.length; i++) {
		const hole = holes.group[i] as number;
		if (!hole || (holes.sizes[hole - 1] as number) < least) continue;
		const piece = group[i] as number;
		sizes[piece - 1] = (sizes[piece - 1] as number) - 1;
		group[i] = 0;
	}
}

/**
 * Finds the islands of a template: what lies apart of each other on the ground, or what lines close. Texels of islands that
 * are smaller than they may be go to the ground.
 */
export function regionsOf(drawn: Drawn, { gap, least, by }: Reading): Regions {
	const { width, height } = drawn;
	const outside = outsideOf(drawn, gap);
	const cells = by === 'cells' ? cellsOf(drawn, outside, Math.max(4, least / 4)) : null;
	const { group, sizes } = cells ?? groupsOf((i) => !outside[i], width, height);
	if (!cells) {
		takeHolesOut(drawn, { group, sizes }, least);
		takeFrameOut(drawn, { group, sizes });
	}
	const number = new Uint16Array(sizes.length + 1);
	const texels: number[] = [];
	let specks = 0;
	sizes.forEach((size, i) => {
		if (size < least || texels.length >= MOST) specks += Number(size > 0);
		else {
			texels.push(size);
			number[i + 1] = texels.length;
		}
	});
	return { width, height, region: Uint16Array.from(group, (each) => number[each] as number), texels, specks };
}

/** Whether lines inside of pieces close cells of their own that are meant: few, so that they are no triangles of a wire. */
export function usualReading(drawn: Drawn): Reading {
	const { width, height } = drawn;
	const least = Math.max(12, Math.round(width * height * 0.0001));
	const gap = Math.max(2, Math.round(Math.min(width, height) / 256));
	const pieces = regionsOf(drawn, { gap, least, by: 'pieces' });
	const cells = regionsOf(drawn, { gap, least, by: 'cells' });
	const by =
		cells.texels.length > pieces.texels.length && cells.texels.length <= 2 * pieces.texels.length + 8
			? 'cells'
			: 'pieces';
	return { gap, least, by };
}
