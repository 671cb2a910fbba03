import type { Kernels, Ptr } from '@eppu/kernels';
import { slopeOf } from './dab.ts';

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
}

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

function createTips({ heap, run }: Kernels): Tips {
	const all = new Map<number, Round[]>();
	let bytes = 0;
	let last: Round | null = null;

	const drop = (): void => {
		for (const list of all.values())
			for (const each of list) for (const at of each.at) if (at) heap.free(at, each.bytes);
		all.clear();
		last = null;
		bytes = 0;
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
				);
			}
			return { at: round.at[place] as number, side: round.side, x: x - half, y: y - half };
		},
	};
}
