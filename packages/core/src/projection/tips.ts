import type { Kernels, Ptr } from '@eppu/kernels';
import { axesOf, type Dab, slopeOf, type TipPicture } from './dab.ts';

/** A tip picture set so that its centre falls where it was asked for: its address, and the texel of its corner. */
export interface PlacedTip {
	readonly at: Ptr;
	readonly side: number;
	readonly x: number;
	readonly y: number;
}

/** Tip pictures made once and kept: strokes set the same few again and again. */
export interface Tips {
	/** The picture of a round dab centred at cx, cy. The centre is kept to a quarter texel, the radius to 1/64 octave. */
	round(cx: number, cy: number, radius: number, edge: number): PlacedTip;
	/** The picture of an oval dab or of one with a picture; it holds until the next call. */
	shaped(dab: Dab): PlacedTip;
	/** A square of whole texels, as long as the dab is wide; it holds until the next call. */
	square(dab: Dab): PlacedTip;
}

/** Puts an A8 picture of side by side into the kernels' memory; it stays as long as the kernels do. */
export function tipPicture({ heap }: Kernels, tone: Uint8Array, side: number, pixel = false): TipPicture {
	if (tone.length !== side * side) throw new RangeError(`A tip picture of side ${side} needs ${side * side} bytes.`);
	const levels: Ptr[] = [];
	for (let level = tone, s = side; ; ) {
		const at = heap.alloc(s * s);
		heap.u8.set(level, at);
		levels.push(at);
		if (s % 2 || s <= 8) return { side, levels, pixel };
		s /= 2;
		const from = level;
		level = new Uint8Array(s * s).map((_, i) => {
			const at = 4 * s * Math.floor(i / s) + 2 * (i % s);
			const [a, b, c, d] = [from[at], from[at + 1], from[at + 2 * s], from[at + 2 * s + 1]] as number[];
			return ((a as number) + (b as number) + (c as number) + (d as number) + 2) >> 2;
		});
	}
}

/** The version of a tip picture that suits a dab of a radius: no less than one texel of it a texel or px. */
export function levelFor(picture: TipPicture, radius: number): { readonly at: Ptr; readonly side: number } {
	let level = 0;
	while (level + 1 < picture.levels.length && picture.side >> (level + 1) >= 2 * radius) level++;
	return { at: picture.levels[level] as Ptr, side: picture.side >> level };
}

/** The rim of a picture's dab: none where its edge is whole; the picture's corners count then. */
export const pictureSlope = (side: number, edge: number): number =>
	edge >= 1 ? 0 : 1 / Math.max(1, ((1 - edge) * side) / 2);

/** Places within a texel, along each axis. */
const PLACES = 4;

/** Bytes of pictures kept; past that all are made again. */
const MOST_BYTES = 32 * 1024 * 1024;

const known = new WeakMap<Kernels, Tips>();

/** The tips of a kernels instance. */
export function tipsOf(kernels: Kernels): Tips {
	let tips = known.get(kernels);
	if (!tips) known.set(kernels, (tips = createTips(kernels)));
	return tips;
}

/** The pictures of one radius and softness, by place within the texel. */
interface Round {
	readonly radius: number;
	readonly edge: number;
	readonly side: number;
	readonly bytes: number;
	readonly at: Uint32Array;
}

// biome-ignore lint/complexity/noExcessiveLinesPerFunction: a table of tips that is made once, and who asks it.
function createTips({ heap, run }: Kernels): Tips {
	const all = new Map<number, Round[]>();
	let bytes = 0;
	let last: Round | null = null;
	let shapedAt = 0;
	let shapedBytes = 0;
	let shapedKey = '';

	const drop = (): void => {
		for (const list of all.values())
			for (const each of list) for (const at of each.at) if (at) heap.free(at, each.bytes);
		all.clear();
		last = null;
		bytes = 0;
	};
	const roomFor = (side: number): void => {
		const need = side * (side + 16) * 2 + 32;
		if (need <= shapedBytes) return;
		if (shapedBytes) heap.free(shapedAt, shapedBytes);
		shapedBytes = need * 2;
		shapedAt = heap.alloc(shapedBytes);
	};
	const find = (radius: number, edge: number): Round => {
		if (last?.radius === radius && last.edge === edge) return last;
		let list = all.get(radius);
		if (!list) all.set(radius, (list = []));
		last = list.find((each) => each.edge === edge) ?? null;
		if (!last) {
			const side = 2 * Math.ceil(radius) + 3;
			last = {
				radius,
				edge,
				side,
				bytes: Math.ceil((side * (side + 16) * 2 + 32) / 1024) * 1024,
				at: new Uint32Array(PLACES * PLACES),
			};
			list.push(last);
		}
		return last;
	};
	return {
		round(cx, cy, radius, edge) {
			// Radii in steps of 1/64 octave or finer: no step is seen, and a pen's trembling finds the same pictures.
			const grid = 2 ** (Math.floor(Math.log2(radius)) - 6);
			const round = find(Math.max(0.5, Math.round(radius / grid) * grid), edge);
			const half = (round.side - 1) / 2;
			const qx = Math.round(cx * PLACES);
			const qy = Math.round(cy * PLACES);
			const [x, y] = [Math.floor(qx / PLACES), Math.floor(qy / PLACES)];
			const place = (qy - y * PLACES) * PLACES + qx - x * PLACES;
			if (!round.at[place]) {
				if (bytes + round.bytes > MOST_BYTES) {
					drop();
					return this.round(cx, cy, radius, edge);
				}
				const at = heap.alloc(round.bytes);
				bytes += round.bytes;
				round.at[place] = at;
				run.roundTip(
					at,
					round.side,
					half + (qx - x * PLACES) / PLACES,
					half + (qy - y * PLACES) / PLACES,
					round.radius,
					slopeOf(round.radius, edge),
					1,
					0,
					0,
					1,
				);
			}
			return { at: round.at[place] as number, side: round.side, x: x - half, y: y - half };
		},
		square(dab) {
			const side = Math.max(1, Math.round(2 * dab.radius));
			shapedKey = '';
			roomFor(side);
			const stride = side + 16;
			const start = shapedAt >> 1;
			heap.u16.fill(0, start, start + side * stride);
			for (let y = 0; y < side; y++) heap.u16.fill(65535, start + y * stride + 8, start + y * stride + 8 + side);
			return { at: shapedAt, side, x: Math.round(dab.x - side / 2), y: Math.round(dab.y - side / 2) };
		},
		shaped(dab) {
			const { picture, radius } = dab;
			if (picture?.pixel) return this.square(dab);
			const reach = picture ? radius * Math.SQRT2 : radius;
			const side = 2 * Math.ceil(reach) + 3;
			const half = (side - 1) / 2;
			const qx = Math.round(dab.x * PLACES);
			const qy = Math.round(dab.y * PLACES);
			const [x, y] = [Math.floor(qx / PLACES), Math.floor(qy / PLACES)];
			const [cx, cy] = [half + (qx - x * PLACES) / PLACES, half + (qy - y * PLACES) / PLACES];
			const placed = { side, x: x - half, y: y - half };
			const key = `${picture?.levels[0]} ${radius} ${dab.edge} ${dab.roundness} ${dab.angle} ${dab.flip} ${cx} ${cy}`;
			if (key === shapedKey) return { at: shapedAt, ...placed };
			shapedKey = key;
			roomFor(side);
			if (picture) {
				const level = levelFor(picture, radius);
				const axes = axesOf(dab, level.side / (2 * radius));
				const slope = pictureSlope(level.side, dab.edge);
				run.pictureTip(shapedAt, side, cx, cy, level.at, level.side, level.side / 2, slope, ...axes);
			} else run.roundTip(shapedAt, side, cx, cy, radius, slopeOf(radius, dab.edge), ...axesOf(dab));
			return { at: shapedAt, ...placed };
		},
	};
}
