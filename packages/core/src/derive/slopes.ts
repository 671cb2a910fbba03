import { gutterOfTile, type TexelMap } from '../atlas/index.ts';
import { type Raised, type Sheet, spanOf } from '../document/index.ts';
import { type Slopes, STEEPEST, slopeWord } from '../light/index.ts';
import { grownRect, isTile, type Rect, readBlock, tilesOfRect } from '../raster/index.ts';
import type { Planes } from '../recipe/index.ts';
import { sceneOfSheet } from '../scene/index.ts';
import { hasTexels, Kind, type Surface, TILE, tileState } from '../surface/index.ts';
import { heightsIdOf, slopesIdOf } from './derivedId.ts';
import { type Means, saysOfSheet } from './means.ts';
import { heightsIn, insideOf, keptHeights } from './relief.ts';
import type { Derived } from './spec.ts';

/** How much of a height a step of slope is kept as, hundredths a texel. */
export const slopeStep = (raised: readonly Raised[]): number => spanOf(raised) / STEEPEST;

/** Visits the texels of a rectangle that lie beside islands, each with the place on the sheet of the texel that it continues. */
function eachGutter(
	means: Means,
	sheet: Sheet,
	rect: Rect,
	visit: (index: number, x: number, y: number) => void,
): void {
	const map = sceneOfSheet(means.scenes, sheet.id)?.mapOf(sheet);
	if (!map) return;
	const size = { cols: Math.ceil(sheet.width / TILE), rows: Math.ceil(sheet.height / TILE) };
	for (const tile of tilesOfRect(size, rect)) {
		const { places, sources } = gutterOfTile(map, tile);
		const [left, top] = [(tile % size.cols) * TILE - rect.x, Math.floor(tile / size.cols) * TILE - rect.y];
		for (let n = 0; n < places.length; n++) {
			const [place, source] = [places[n] as number, sources[n] as number];
			const [x, y] = [left + (place % TILE), top + Math.floor(place / TILE)];
			if (x < 0 || y < 0 || x >= rect.width || y >= rect.height) continue;
			visit(y * rect.width + x, source % sheet.width, Math.floor(source / sheet.width));
		}
	}
}

/** Heights on a whole rectangle, in the bleed as at the border. */
export function heightsOver(means: Means, sheet: Sheet, raised: readonly Raised[], rect: Rect): Float32Array {
	const wide = grownRect(rect, sheet.bleed);
	const heights = heightsIn(means, sheet, raised, wide);
	const at = (x: number, y: number): number => heights[(y - wide.y) * wide.width + x - wide.x] as number;
	const out = Float32Array.from({ length: rect.width * rect.height }, (_, i) =>
		at(rect.x + (i % rect.width), rect.y + Math.floor(i / rect.width)),
	);
	eachGutter(means, sheet, rect, (to, x, y) => {
		out[to] = at(x, y);
	});
	return out;
}

/** What the bleed on a rectangle continues: how far around it heights are read, and in which tiles. */
interface Continued {
	readonly edge: number;
	readonly tiles: readonly number[];
}
/** Of whole tiles it is remembered as long as the map of the sheet. */
const known = new WeakMap<TexelMap, Map<string, Continued>>();

function continuedOn(means: Means, sheet: Sheet, rect: Rect): Continued {
	const map = sceneOfSheet(means.scenes, sheet.id)?.mapOf(sheet);
	const all = (map && known.get(map)) ?? new Map<string, Continued>();
	if (map) known.set(map, all);
	const key = `${rect.x} ${rect.y} ${rect.width} ${rect.height}`;
	const before = all.get(key);
	if (before) return before;
	const tiles = new Set<number>();
	const size = { cols: Math.ceil(sheet.width / TILE), rows: Math.ceil(sheet.height / TILE) };
	eachGutter(means, sheet, rect, (_, x, y) => {
		for (const tile of tilesOfRect(size, { x: x - 1, y: y - 1, width: 3, height: 3 })) tiles.add(tile);
	});
	const made = { edge: tiles.size ? sheet.bleed + 1 : 1, tiles: [...tiles] };
	if (isTile(rect)) all.set(key, made);
	return made;
}

/** The slopes of heights, given as shares of `spanOf` on a rectangle that is wider by `edge`: a word a texel; null where all is level. */
function wordsOf(
	means: Means,
	sheet: Sheet,
	rect: Rect,
	edge: number,
	heights: Float32Array,
): Uint32Array<ArrayBuffer> | null {
	const wide = grownRect(rect, edge);
	const inside = insideOf(means, sheet, wide);
	/** The change from texel to texel, between neighbours of the same surface. */
	const slopeAt = (i: number, by: number): number => {
		const from = inside[i - by] ? i - by : i;
		const to = inside[i + by] ? i + by : i;
		if (from === to) return 0;
		const change = (heights[to] as number) - (heights[from] as number);
		return to - from > by ? change / 2 : change;
	};
	const level = slopeWord(0, 0);
	const words = new Uint32Array(rect.width * rect.height).fill(level);
	let flat = true;
	const put = (to: number, i: number): void => {
		const across = slopeAt(i, 1);
		const down = slopeAt(i, wide.width);
		if (across === 0 && down === 0) return;
		words[to] = slopeWord(across, down);
		flat = false;
	};
	for (let y = 0, to = 0; y < rect.height; y++)
		for (let x = 0, i = (y + edge) * wide.width + edge; x < rect.width; x++, i++, to++) if (inside[i]) put(to, i);
	eachGutter(means, sheet, rect, (to, x, y) => put(to, (y - wide.y) * wide.width + x - wide.x));
	return flat ? null : words;
}

/**
 * The slopes of what stands out on texels of a rectangle, a word each (see `slopeWord`); beside the islands they go on as
 * at their border. Null where all is level.
 */
export function slopeWords(
	means: Means,
	sheet: Sheet,
	raised: readonly Raised[],
	rect: Rect,
): Uint32Array<ArrayBuffer> | null {
	const [span, edge] = [spanOf(raised), continuedOn(means, sheet, rect).edge];
	const heights = heightsIn(means, sheet, raised, grownRect(rect, edge)).map((v) => v / span);
	return wordsOf(means, sheet, rect, edge, heights);
}

/** The slopes of what stands out as a surface of their words, from the surface of its heights. */
export const slopesNode = (means: Means, sheet: Sheet, raised: readonly Raised[]): Derived => ({
	id: slopesIdOf(raised),
	format: 'color',
	key: JSON.stringify([sheet.bleed, saysOfSheet(means, sheet)]),
	inputs: [heightsIdOf(raised)],
	reach: 1,
	far: (rect) => continuedOn(means, sheet, rect).tiles,
	make(rect) {
		const { edge } = continuedOn(means, sheet, rect);
		const heights = keptHeights(means, raised, grownRect(rect, edge));
		const words = wordsOf(means, sheet, rect, edge, heights);
		return words && new Uint8Array(words.buffer);
	},
});

/** The slopes of a rectangle as light is leaned by them; null where all is level. */
export function slopesIn(planes: Planes, slopes: Surface, rect: Rect, step: number): Slopes | null {
	if (isTile(rect)) {
		const { kind, data } = tileState(slopes, (rect.y / TILE) * slopes.cols + rect.x / TILE);
		if (kind === Kind.empty) return null;
		if (hasTexels(kind)) return { words: data, step };
	}
	const words = planes.take(rect.width * rect.height);
	planes.bytes(words, rect.width * rect.height * 4).set(readBlock(planes.kernels, slopes, rect).data);
	return { words, step };
}
