import { luma } from '../color/index.ts';
import type { StackLayer } from '../composite/index.ts';
import { type Layer, type Raised, type Sheet, spanOf } from '../document/index.ts';
import { LEVEL, type Relief, STEEPEST } from '../light/index.ts';
import { blurReach, boxRadii, grownRect, type Rect, readBlock } from '../raster/index.ts';
import { type Planes, withPlanes } from '../recipe/index.ts';
import { sceneOfSheet } from '../scene/index.ts';
import type { Surface, SurfaceId } from '../surface/index.ts';
import { heightsIdOf, maskIdOf } from './derivedId.ts';
import { imageInputs, outlineOf } from './inputs.ts';
import { alone, alphaOf, layersBlock, toneOf } from './layerPicture.ts';
import { stackOf } from './layerStack.ts';
import { type Means, saysOfSheet } from './means.ts';
import type { Derived } from './spec.ts';

/** 1 for each texel of a rectangle that is the surface's own, else 0; all of the sheet where no model lies on it. */
export function insideOf(means: Means, sheet: Sheet, rect: Rect): Uint8Array {
	const faces = sceneOfSheet(means.scenes, sheet.id)?.mapOf(sheet).faceOfTexel;
	const out = new Uint8Array(rect.width * rect.height);
	const [left, right] = [Math.max(0, -rect.x), Math.min(rect.width, sheet.width - rect.x)];
	for (let y = Math.max(0, -rect.y); y < Math.min(rect.height, sheet.height - rect.y); y++) {
		const [to, from] = [y * rect.width, (rect.y + y) * sheet.width + rect.x];
		if (!faces) out.fill(1, to + left, to + right);
		else for (let x = left; x < right; x++) out[to + x] = faces[from + x] ? 1 : 0;
	}
	return out;
}

/** A layer's tone or shape, read from the surface that it is where it is no more than that; null where it is composited. */
function plainAmount(
	{ kernels }: Means,
	stack: readonly StackLayer[],
	from: Relief['from'],
	rect: Rect,
): Uint8Array | null {
	const [only] = stack;
	if (stack.length !== 1 || !only || typeof only.source === 'number' || !('kinds' in only.source)) return null;
	const { data } = readBlock(kernels, only.source as Surface, rect);
	const mask = only.mask && readBlock(kernels, only.mask, rect).data;
	const out = new Uint8Array(rect.width * rect.height);
	for (let i = 0, at = 0; i < out.length; i++, at += 4) {
		let amount = data[at + 3] as number;
		if (amount === 0) continue;
		if (mask) amount = (amount * (mask[i] as number)) / 255;
		if (from === 'tone') amount *= luma(data[at] as number, data[at + 1] as number, data[at + 2] as number) / 255;
		out[i] = Math.round(amount);
	}
	return out;
}

/** How much of a layer there is, 0..255 a texel. */
function amountOf(means: Means, sheet: Sheet, layer: Layer, from: Relief['from'], rect: Rect): Uint8Array {
	const { layers } = stackOf({ ...sheet, base: null, layers: [alone(layer)] }, means.surfaces);
	return (
		plainAmount(means, layers, from, rect) ??
		(from === 'tone' ? toneOf : alphaOf)(layersBlock(means, sheet, [alone(layer)], rect))
	);
}

/** Adds what one layer stands out by to heights of a rectangle; rims are rounded among texels of the surface alone. */
function raise(
	means: Means,
	planes: Planes,
	sheet: Sheet,
	{ layer, relief, bases, groups }: Raised,
	rect: Rect,
	heights: Float32Array,
): void {
	const grow = blurReach(relief.soft);
	const wide = grownRect(rect, grow);
	const count = wide.width * wide.height;
	const amount = amountOf(means, sheet, layer, relief.from, wide);
	if (!amount.some((v) => v > 0)) return;
	const held: Uint8Array[] = bases.map((base) => amountOf(means, sheet, base, 'shape', wide));
	for (const group of groups) {
		const mask = means.surfaces.get(maskIdOf(group));
		if (mask) held.push(readBlock(means.kernels, mask, wide).data);
	}
	const inside = insideOf(means, sheet, wide);
	const [at, weight] = [planes.take(count), planes.take(count)];
	const lines = planes.take(8 * Math.max(wide.width, wide.height));
	const [amounts, weights] = [planes.floats(at, count), planes.floats(weight, count)];
	for (let i = 0; i < count; i++) {
		weights[i] = inside[i] as number;
		let much = ((amount[i] as number) / 255) * (inside[i] as number);
		for (const by of held) much *= (by[i] as number) / 255;
		amounts[i] = much;
	}
	for (const r of boxRadii(relief.soft))
		for (const field of [at, weight]) planes.run.boxField(field, wide.width, wide.height, r, lines);
	for (let y = 0, to = 0; y < rect.height; y++)
		for (let x = 0, i = (y + grow) * wide.width + grow; x < rect.width; x++, i++, to++)
			if (inside[i])
				heights[to] = (heights[to] as number) + (relief.height * (amounts[i] as number)) / (weights[i] as number);
}

/** How high layers stand out together on texels of a rectangle, in hundredths of the model's size; 0 beside the surface. */
export function heightsIn(means: Means, sheet: Sheet, raised: readonly Raised[], rect: Rect): Float32Array {
	const heights = new Float32Array(rect.width * rect.height);
	for (const each of raised) withPlanes(means.kernels, (planes) => raise(means, planes, sheet, each, rect, heights));
	return heights;
}

const inputsOf = ({ layer, bases, groups }: Raised): SurfaceId[] => [
	...[layer, ...bases].flatMap((each) => imageInputs(alone(each))),
	...groups.flatMap((group) => maskIdOf(group) || []),
];

/** Heights as they are kept: numbers of 16 bits about the level, shares of all that layers can stand out by; 0 is level, too. */
export function heightsNode(means: Means, sheet: Sheet, raised: readonly Raised[]): Derived {
	const span = spanOf(raised);
	return {
		id: heightsIdOf(raised),
		format: 'deep',
		key: JSON.stringify([
			raised.map(({ relief, layer, bases, groups }) => [
				relief,
				[layer, ...bases].map((each) => outlineOf(alone(each))),
				groups.map(({ id, mask }) => [id, mask?.on]),
			]),
			saysOfSheet(means, sheet),
		]),
		inputs: [...new Set(raised.flatMap(inputsOf))],
		reach: Math.max(...raised.map(({ relief }) => blurReach(relief.soft))),
		make(rect) {
			const heights = heightsIn(means, sheet, raised, rect);
			const kept = new Uint16Array(heights.length).fill(LEVEL);
			let level = true;
			for (let i = 0; i < kept.length; i++) {
				const height = heights[i] as number;
				if (height === 0) continue;
				kept[i] = LEVEL + Math.round((height / span) * STEEPEST);
				level = false;
			}
			return level ? null : new Uint8Array(kept.buffer);
		},
	};
}

/** Kept heights of a rectangle, as shares of all that layers can stand out by. */
export function keptHeights({ kernels, surfaces }: Means, raised: readonly Raised[], rect: Rect): Float32Array {
	const out = new Float32Array(rect.width * rect.height);
	const surface = surfaces.get(heightsIdOf(raised));
	if (!surface) return out;
	const { data } = readBlock(kernels, surface, rect);
	const kept = new Uint16Array(data.buffer, data.byteOffset, out.length);
	for (let i = 0; i < out.length; i++) if (kept[i]) out[i] = ((kept[i] as number) - LEVEL) / STEEPEST;
	return out;
}
