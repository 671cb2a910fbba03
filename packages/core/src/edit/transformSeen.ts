import { texelOfPx } from '../projection/index.ts';
import { type Affine, type Block, inverseOf, isEmptyRect, readBlock, writeBlock } from '../raster/index.ts';
import { createRecord, type TileRecord } from '../surface/index.ts';
import { EditError } from './kind.ts';
import { gateOf, layTexel, type SeenModel, type SeenSheet } from './lay.ts';

/** What was lifted off a sheet. */
interface Lifted {
	readonly block: Block;
	/** How much of each texel was lifted, 0..255. */
	readonly share: Uint8Array;
	/** Px of the view around all that was: left, top, right, bottom. */
	readonly box: Box;
}

type Box = readonly [number, number, number, number];

/** Places along a texel's side that are read for what lies there after a move. */
const TAPS = 2;

/** Takes what is selected and seen off a sheet's block; what stays is left in it. */
function lift({ scope, seen: { rect, share, places, span } }: SeenSheet, block: Block): Lifted {
	const gate = gateOf(scope, rect);
	const lifted = { ...block, data: block.data.slice() };
	const taken = new Uint8Array(share.length);
	const { bytes } = block;
	let [x0, y0, x1, y1] = [Infinity, Infinity, -Infinity, -Infinity];
	for (let i = 0; i < share.length; i++) {
		if (!share[i] || (gate && !gate[i])) {
			lifted.data[i * bytes + bytes - 1] = 0;
			continue;
		}
		const own = gate ? Math.round(((share[i] as number) * (gate[i] as number)) / 255) : (share[i] as number);
		const at = i * bytes + bytes - 1;
		taken[i] = own && lifted.data[at] ? own : 0;
		lifted.data[at] = Math.round(((lifted.data[at] as number) * own) / 255);
		block.data[at] = Math.round(((block.data[at] as number) * (255 - own)) / 255);
		if (!taken[i]) continue;
		// The texel's own width, and a px for what lies between texels.
		const by = (span[i] as number) + 1;
		const [x, y] = [places[i * 2] as number, places[i * 2 + 1] as number];
		if (x - by < x0) x0 = x - by;
		if (x + by > x1) x1 = x + by;
		if (y - by < y0) y0 = y - by;
		if (y + by > y1) y1 = y + by;
	}
	return { block: lifted, share: taken, box: [x0, y0, x1, y1] };
}

/** Red, green, blue by alpha, and alpha; of one channel only the last. Added up over taps. */
type Sum = [number, number, number, number];

/** Adds what a lifted block has at a place, between four of its texels where it is to be smooth. */
function addAt({ rect, bytes, data }: Block, x: number, y: number, smooth: boolean, sum: Sum): void {
	const tap = (tx: number, ty: number, weight: number): void => {
		const [cx, cy] = [tx - rect.x, ty - rect.y];
		if (weight === 0 || cx < 0 || cy < 0 || cx >= rect.width || cy >= rect.height) return;
		const at = (cy * rect.width + cx) * bytes;
		const alpha = weight * (data[at + bytes - 1] as number);
		for (let k = 0; k < bytes - 1; k++) sum[k] = (sum[k] as number) + alpha * (data[at + k] as number);
		sum[3] += alpha;
	};
	if (!smooth) return tap(Math.floor(x), Math.floor(y), 1);
	const [u, v] = [x - 0.5, y - 0.5];
	const [x0, y0] = [Math.floor(u), Math.floor(v)];
	const [s, t] = [u - x0, v - y0];
	tap(x0, y0, (1 - s) * (1 - t));
	tap(x0 + 1, y0, s * (1 - t));
	tap(x0, y0 + 1, (1 - s) * t);
	tap(x0 + 1, y0 + 1, s * t);
}

/**
 * What is selected and seen of a model's sheets, lifted off, moved in the plane of the view and laid over what is seen
 * where it comes to lie, on whichever sheet that is. Each texel asks which px it is moved from, and which texel shows
 * there, so that nothing goes through a picture of the view's own fineness. One record a sheet.
 */
export function transformSeen(
	{ map, smooth }: { readonly map: Affine; readonly smooth: boolean },
	sheets: readonly SeenSheet[],
	model: SeenModel,
): TileRecord[] {
	const back = inverseOf(map);
	if (!back) throw new EditError('That would press what is moved flat, to nothing. Scale it to at least a texel.');
	const blocks = sheets.map(({ scope, seen }) => readBlock(scope.kernels, scope.surface, seen.rect));
	const lifted = sheets.map((sheet, i) => lift(sheet, blocks[i] as Block));
	const [a, b, c, d, e, f] = back;
	const taps = smooth ? TAPS : 1;
	const x0 = Math.min(...lifted.map(({ box }) => box[0]));
	const y0 = Math.min(...lifted.map(({ box }) => box[1]));
	const x1 = Math.max(...lifted.map(({ box }) => box[2]));
	const y1 = Math.max(...lifted.map(({ box }) => box[3]));
	const wide = Math.max(Math.hypot(a, d), Math.hypot(b, e));
	/** What lies at a px of the view before the move. */
	const add = (px: number, py: number, sum: Sum): void => {
		const [cx, cy] = [Math.floor(px), Math.floor(py)];
		if (cx < 0 || cy < 0 || cx >= model.width || cy >= model.height) return;
		const face = model.faces[cy * model.width + cx] as number;
		const from = face < 0 ? -1 : model.sheetOf(face);
		if (from < 0) return;
		const texel = texelOfPx((sheets[from] as SeenSheet).bins, face, px, py);
		if (texel) addAt((lifted[from] as Lifted).block, texel[0], texel[1], smooth, sum);
	};
	return sheets.map(({ scope, seen }, n) => {
		const record = createRecord(scope.surface);
		if (isEmptyRect(seen.rect)) return record;
		const block = blocks[n] as Block;
		const changed = (lifted[n] as Lifted).share;
		for (let i = 0; i < seen.share.length; i++) {
			if (!seen.share[i]) continue;
			const [x, y, span] = [seen.places[i * 2] as number, seen.places[i * 2 + 1] as number, seen.span[i] as number];
			// Where nothing was lifted a texel's width around, nothing comes from.
			const [ox, oy, by] = [a * x + b * y + c, d * x + e * y + f, span * wide];
			if (ox < x0 - by || oy < y0 - by || ox > x1 + by || oy > y1 + by) continue;
			const sum: Sum = [0, 0, 0, 0];
			for (let k = 0; k < taps * taps; k++) {
				const px = x + (((k % taps) + 0.5) / taps - 0.5) * span;
				const py = y + ((Math.floor(k / taps) + 0.5) / taps - 0.5) * span;
				add(a * px + b * py + c, d * px + e * py + f, sum);
			}
			if (sum[3] <= 0) continue;
			const alpha = sum[3] / (taps * taps);
			changed[i] = 1;
			if (block.bytes !== 4) block.data[i] = Math.max(block.data[i] as number, Math.round(alpha));
			else layTexel(block.data, i, 4, sum[0] / sum[3], sum[1] / sum[3], sum[2] / sum[3], alpha / 255, false);
		}
		writeBlock(scope.kernels, record, block, changed);
		return record;
	});
}
