import type { Picture } from '../surface/index.ts';

/**
 * Finds the way between two places that keeps to contrast edges: least cost over texels, where a step costs little on
 * a strong edge. Source: E. Mortensen and W. Barrett, "Interactive Segmentation with Intelligent Scissors" (1998),
 * with gradient strength and direction as cost; Dijkstra over a bucket queue.
 */
export interface Clinging {
	/** Places x, y, x, y … from the last anchor to x, y; both ends are among them. */
	to(x: number, y: number): number[];
}

/** Gradient strength of each texel, 0..1 of the strongest, over colour and alpha. */
export function edgeStrength({ width, height, data }: Picture): Float32Array {
	const out = new Float32Array(width * height);
	let most = 0;
	const at = (x: number, y: number, k: number): number => {
		const i = (Math.min(height - 1, Math.max(0, y)) * width + Math.min(width - 1, Math.max(0, x))) * 4;
		return ((data[i + k] as number) * (k < 3 ? (data[i + 3] as number) : 255)) / 255;
	};
	for (let y = 0; y < height; y++)
		for (let x = 0; x < width; x++) {
			let strongest = 0;
			for (let k = 0; k < 4; k++) {
				const gx =
					at(x + 1, y - 1, k) +
					2 * at(x + 1, y, k) +
					at(x + 1, y + 1, k) -
					at(x - 1, y - 1, k) -
					2 * at(x - 1, y, k) -
					at(x - 1, y + 1, k);
				const gy =
					at(x - 1, y + 1, k) +
					2 * at(x, y + 1, k) +
					at(x + 1, y + 1, k) -
					at(x - 1, y - 1, k) -
					2 * at(x, y - 1, k) -
					at(x + 1, y - 1, k);
				strongest = Math.max(strongest, gx * gx + gy * gy);
			}
			const strength = Math.sqrt(strongest);
			out[y * width + x] = strength;
			most = Math.max(most, strength);
		}
	if (most > 0) for (let i = 0; i < out.length; i++) out[i] = (out[i] as number) / most;
	return out;
}

/** Costs are whole numbers, so that equal ones share a bucket. */
const COST = 60;
/** A box around both ends, grown by this share of their distance, is searched. */
const ROOM = 0.6;

/** The way from an anchor over `strength` (see `edgeStrength`). */
export function clingFrom(
	strength: Float32Array,
	width: number,
	height: number,
	anchorX: number,
	anchorY: number,
): Clinging {
	const clampX = (x: number): number => Math.min(width - 1, Math.max(0, Math.floor(x)));
	const clampY = (y: number): number => Math.min(height - 1, Math.max(0, Math.floor(y)));
	const [ax, ay] = [clampX(anchorX), clampY(anchorY)];
	return {
		to(toX, toY) {
			const [bx, by] = [clampX(toX), clampY(toY)];
			const room = Math.ceil(ROOM * Math.hypot(bx - ax, by - ay)) + 12;
			const x0 = Math.max(0, Math.min(ax, bx) - room);
			const y0 = Math.max(0, Math.min(ay, by) - room);
			const w = Math.min(width, Math.max(ax, bx) + room + 1) - x0;
			const h = Math.min(height, Math.max(ay, by) + room + 1) - y0;
			const cost = new Float64Array(w * h).fill(Infinity);
			const from = new Int32Array(w * h).fill(-1);
			const done = new Uint8Array(w * h);
			const buckets: number[][] = [];
			const put = (i: number, c: number): void => {
				const bucket = buckets[Math.floor(c)];
				if (bucket) bucket.push(i);
				else buckets[Math.floor(c)] = [i];
			};
			const start = (ay - y0) * w + ax - x0;
			const end = (by - y0) * w + bx - x0;
			cost[start] = 0;
			put(start, 0);
			for (let level = 0; level < buckets.length && !done[end]; level++) {
				const bucket = buckets[level];
				if (!bucket) continue;
				for (let n = 0; n < bucket.length; n++) {
					const i = bucket[n] as number;
					if (done[i]) continue;
					done[i] = 1;
					const x = i % w;
					const y = (i - x) / w;
					for (let dy = -1; dy <= 1; dy++)
						for (let dx = -1; dx <= 1; dx++) {
							const [nx, ny] = [x + dx, y + dy];
							if ((dx === 0 && dy === 0) || nx < 0 || ny < 0 || nx >= w || ny >= h) continue;
							const j = ny * w + nx;
							if (done[j]) continue;
							const edge = strength[(ny + y0) * width + nx + x0] as number;
							const step = (1 + COST * (1 - edge) ** 2) * (dx !== 0 && dy !== 0 ? Math.SQRT2 : 1);
							const c = (cost[i] as number) + step;
							if (c >= (cost[j] as number)) continue;
							cost[j] = c;
							from[j] = i;
							put(j, c);
						}
				}
			}
			const places: number[] = [];
			for (let i = end; i >= 0; i = from[i] as number) {
				places.unshift((i % w) + x0 + 0.5, Math.floor(i / w) + y0 + 0.5);
				if (i === start) break;
			}
			return places;
		},
	};
}
