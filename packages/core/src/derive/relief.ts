import { gutterOfTile } from '../atlas/index.ts';
import { type Layer, type Raised, raisedUnder, type Sheet, spanOf } from '../document/index.ts';
import { type Relief, type Slopes, STEEPEST, slopeWord } from '../light/index.ts';
import { blurReach, boxRadii, grownRect, isTile, type Rect, readBlock, tilesOfRect } from '../raster/index.ts';
import { type Planes, withPlanes } from '../recipe/index.ts';
import { sceneOfSheet } from '../scene/index.ts';
import { hasTexels, Kind, type Surface, type SurfaceId, TILE, tileState } from '../surface/index.ts';
import { maskIdOf, reliefIdOf } from './derivedId.ts';
import { imageInputs, outlineOf } from './inputs.ts';
import { alone, alphaOf, layersBlock, toneOf } from './layerPicture.ts';
import { type Means, saysOfSheet } from './means.ts';
import type { Derived } from './spec.ts';

/** How much of a height a step of slope is kept as, hundredths a texel. */
export const slopeStep = (raised: readonly Raised[]): number => spanOf(raised) / STEEPEST;

const inputsOf = ({ layer, bases, groups }: Raised): SurfaceId[] => [
	...[layer, ...bases].flatMap((each) => imageInputs(alone(each))),
	...groups.flatMap((group) => maskIdOf(group) || []),
];

/** Which texels of a rectangle are the surface's own; all of the sheet where no model lies on it. */
function insideOf(means: Means, sheet: Sheet, rect: Rect): (x: number, y: number) => boolean {
	const faces = sceneOfSheet(means.scenes, sheet.id)?.mapOf(sheet).faceOfTexel;
	return (x, y) => {
		const [u, v] = [rect.x + x, rect.y + y];
		if (u < 0 || v < 0 || u >= sheet.width || v >= sheet.height) return false;
		return faces?.[v * sheet.width + u] !== 0;
	};
}

/** How much of a layer there is, 0..1 a texel, held to what it is clipped to and to the groups around it. */
function amountOf(means: Means, sheet: Sheet, { layer, relief, bases, groups }: Raised, rect: Rect): Float32Array {
	const pictured = (each: Layer, from: Relief['from']): Uint8Array =>
		(from === 'tone' ? toneOf : alphaOf)(layersBlock(means, sheet, [alone(each)], rect));
	const out = Float32Array.from(pictured(layer, relief.from), (v) => v / 255);
	const held = (by: Uint8Array): void => {
		for (let i = 0; i < out.length; i++) out[i] = ((out[i] as number) * (by[i] as number)) / 255;
	};
	for (const base of bases) held(pictured(base, 'shape'));
	for (const group of groups) {
		const mask = means.surfaces.get(maskIdOf(group));
		if (mask) held(readBlock(means.kernels, mask, rect).data);
	}
	return out;
}

/** Adds what one layer stands out by to heights of a rectangle; rims are rounded among texels of the surface alone. */
function raise(means: Means, planes: Planes, sheet: Sheet, each: Raised, rect: Rect, heights: Float32Array): void {
	const { height, soft } = each.relief;
	const grow = blurReach(soft);
	const wide = grownRect(rect, grow);
	const count = wide.width * wide.height;
	const inside = insideOf(means, sheet, wide);
	const amount = amountOf(means, sheet, each, wide);
	if (amount.every((v) => v === 0)) return;
	const [at, weight] = [planes.take(count), planes.take(count)];
	const [amounts, weights] = [planes.floats(at, count), planes.floats(weight, count)];
	for (let i = 0; i < count; i++) {
		weights[i] = inside(i % wide.width, Math.floor(i / wide.width)) ? 1 : 0;
		amounts[i] = (amount[i] as number) * (weights[i] as number);
	}
	const lines = planes.take(8 * Math.max(wide.width, wide.height));
	for (const r of boxRadii(soft))
		for (const field of [at, weight]) planes.run.boxField(field, wide.width, wide.height, r, lines);
	// The kernels' memory may have grown.
	const [sums, shares] = [planes.floats(at, count), planes.floats(weight, count)];
	for (let y = 0; y < rect.height; y++)
		for (let x = 0, i = (y + grow) * wide.width + grow; x < rect.width; x++, i++) {
			const share = shares[i] as number;
			if (share > 1e-4)
				heights[y * rect.width + x] = (heights[y * rect.width + x] as number) + (height * (sums[i] as number)) / share;
		}
}

/** How high layers stand out together on texels of a rectangle, in hundredths of the model's size; 0 beside the surface. */
function reliefHeights(means: Means, sheet: Sheet, raised: readonly Raised[], rect: Rect): Float32Array {
	const heights = new Float32Array(rect.width * rect.height);
	for (const each of raised) withPlanes(means.kernels, (planes) => raise(means, planes, sheet, each, rect, heights));
	return heights;
}

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
		places.forEach((place, n) => {
			const [x, y] = [left + (place % TILE), top + Math.floor(place / TILE)];
			if (x < 0 || y < 0 || x >= rect.width || y >= rect.height) return;
			const source = sources[n] as number;
			visit(y * rect.width + x, source % sheet.width, Math.floor(source / sheet.width));
		});
	}
}

/** Heights on a whole rectangle, in the bleed as at the border. */
export function heightsOver(means: Means, sheet: Sheet, raised: readonly Raised[], rect: Rect): Float32Array {
	const wide = grownRect(rect, sheet.bleed);
	const heights = reliefHeights(means, sheet, raised, wide);
	const at = (x: number, y: number): number => heights[(y - wide.y) * wide.width + x - wide.x] as number;
	const out = Float32Array.from({ length: rect.width * rect.height }, (_, i) =>
		at(rect.x + (i % rect.width), rect.y + Math.floor(i / rect.width)),
	);
	eachGutter(means, sheet, rect, (to, x, y) => {
		out[to] = at(x, y);
	});
	return out;
}

/** The height's change from texel to texel, between neighbours of the same surface. */
function slopeAt(heights: Float32Array, i: number, by: number, before: boolean, after: boolean): number {
	const [from, to] = [before ? i - by : i, after ? i + by : i];
	return from === to ? 0 : ((heights[to] as number) - (heights[from] as number)) / ((to - from) / by);
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
	const edge = sheet.bleed + 1;
	const wide = grownRect(rect, edge);
	const heights = reliefHeights(means, sheet, raised, wide);
	const inside = insideOf(means, sheet, wide);
	const [level, span] = [slopeWord(0, 0), spanOf(raised)];
	const words = new Uint32Array(rect.width * rect.height).fill(level);
	let flat = true;
	/** Gives a texel of the rectangle the slopes of one of the wider. */
	const put = (to: number, x: number, y: number): void => {
		const i = y * wide.width + x;
		const word = slopeWord(
			slopeAt(heights, i, 1, inside(x - 1, y), inside(x + 1, y)) / span,
			slopeAt(heights, i, wide.width, inside(x, y - 1), inside(x, y + 1)) / span,
		);
		words[to] = word;
		if (word !== level) flat = false;
	};
	for (let y = 0, i = 0; y < rect.height; y++)
		for (let x = 0; x < rect.width; x++, i++) if (inside(x + edge, y + edge)) put(i, x + edge, y + edge);
	eachGutter(means, sheet, rect, (to, x, y) => put(to, x - wide.x, y - wide.y));
	return flat ? null : words;
}

/** The slopes of what stands out under a layer, as a surface of their words; null where nothing does. */
export function reliefNode(means: Means, sheet: Sheet, layer: Layer): Derived | null {
	const raised = raisedUnder(sheet, layer.id);
	if (spanOf(raised) === 0) return null;
	return {
		id: reliefIdOf(raised),
		format: 'color',
		key: JSON.stringify([
			raised.map(({ relief, layer: own, bases, groups }) => [
				relief,
				[own, ...bases].map((each) => outlineOf(alone(each))),
				groups.map(({ id, mask }) => [id, mask?.on]),
			]),
			sheet.bleed,
			saysOfSheet(means, sheet),
		]),
		inputs: [...new Set(raised.flatMap(inputsOf))],
		reach: sheet.bleed + 1 + Math.max(...raised.map(({ relief }) => blurReach(relief.soft))),
		make(rect) {
			const words = slopeWords(means, sheet, raised, rect);
			return words && new Uint8Array(words.buffer);
		},
	};
}

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
