/** Plain twins of what the kernels do for mask recipes, in double precision. */
import { latticeValue } from '../../src/raster/index.ts';

const clamp = (v: number): number => (v < 0 ? 0 : v > 1 ? 1 : v);
const smooth = (a: number, b: number, v: number): number => {
	const t = clamp((v - a) / (b - a || 1e-6));
	return t * t * (3 - 2 * t);
};
const ease = (t: number): number => t * t * t * (t * (6 * t - 15) + 10);

export function noiseAt(x: number, y: number, z: number, seed: number): number {
	const [ix, iy, iz] = [Math.floor(x), Math.floor(y), Math.floor(z)];
	const [tx, ty, tz] = [ease(x - ix), ease(y - iy), ease(z - iz)];
	let sum = 0;
	for (let k = 0; k < 8; k++) {
		const [dx, dy, dz] = [k & 1, (k >> 1) & 1, k >> 2];
		const share = (dx ? tx : 1 - tx) * (dy ? ty : 1 - ty) * (dz ? tz : 1 - tz);
		sum += share * latticeValue(ix + dx, iy + dy, iz + dz, seed);
	}
	return sum;
}

export function cloudsAt(x: number, y: number, z: number, seed: number, octaves: number, rough: number): number {
	let [sum, all] = [0, 0];
	for (let k = 0; k < octaves; k++) {
		const f = 2 ** k;
		sum += rough ** k * noiseAt(x * f, y * f, z * f, seed + k * 101);
		all += rough ** k;
	}
	return sum / all;
}

export const contrasted = (v: number, slope: number): number => clamp(0.5 + (v - 0.5) * slope);

/** Dots: of the points that stand, one a cube, where chance has them, the one that counts most. */
export function speckleAt(
	x: number,
	y: number,
	z: number,
	seed: number,
	amount: number,
	soft: number,
	flat: boolean,
): number {
	const [ix, iy, iz] = [Math.floor(x), Math.floor(y), Math.floor(z)];
	let best = 0;
	for (let dz = flat ? 0 : -1; dz <= (flat ? 0 : 1); dz++)
		for (let dy = -1; dy <= 1; dy++)
			for (let dx = -1; dx <= 1; dx++) {
				const [cx, cy, cz] = [ix + dx, iy + dy, iz + dz];
				if (latticeValue(cx, cy, cz, seed + 3) > amount) continue;
				const px = cx + latticeValue(cx, cy, cz, seed);
				const py = cy + latticeValue(cx, cy, cz, seed + 1);
				const pz = flat ? z : cz + latticeValue(cx, cy, cz, seed + 2);
				const r = 0.12 + 0.33 * latticeValue(cx, cy, cz, seed + 4);
				const d = Math.hypot(x - px, y - py, z - pz);
				best = Math.max(best, 1 - smooth(r * (1 - soft), r * (1 + 0.001 + 0.3 * soft), d));
			}
	return best;
}

export function dripsAt(u: number, v: number, w: number, k: number, fall: number, seed: number, dense: number): number {
	let best = 0;
	const p = u * k + 0.35 * (noiseAt(v * k * 0.35, u * k * 0.5, w * 0.02, seed + 17) - 0.5);
	const column = Math.floor(p);
	for (let c = column - 1; c <= column + 1; c++) {
		const depth = v * fall * k * 0.25 + latticeValue(c, 5, 0, seed) * 9;
		const run = Math.floor(depth);
		if (latticeValue(c, run, 1, seed) > dense) continue;
		const t = depth - run;
		const long = 0.35 + 0.6 * latticeValue(c, run, 2, seed);
		if (t > long) continue;
		const middle = c + 0.3 + 0.4 * latticeValue(c, run, 3, seed);
		// Thin as it runs, with a drop at its end.
		const s = t / long;
		const thick = 0.1 + 0.1 * (1 - s) + 0.14 * Math.exp(-(((s - 0.9) / 0.1) ** 2));
		best = Math.max(
			best,
			(1 - smooth(thick * 0.6, thick, Math.abs(p - middle))) * smooth(0, 0.06, t) * (0.55 + 0.45 * s),
		);
	}
	return best;
}

export function scratchesAt(
	u: number,
	v: number,
	w: number,
	k: number,
	turns: readonly number[],
	seed: number,
	dense: number,
	thickness: number,
): number {
	let best = 0;
	// Three families of lines, each in cells that chance fills and turns.
	for (let n = 0; n < 3; n++) {
		const [c, s] = [turns[n * 2] as number, turns[n * 2 + 1] as number];
		const p = (u * c + v * s) * k;
		const q = (-u * s + v * c) * k * 4 + 0.6 * noiseAt(p * 0.7, n * 9.1, w * 0.02, seed + 31);
		const row = Math.floor(q);
		const start = Math.floor(p + latticeValue(row, n, 1, seed) * 7);
		const cell = latticeValue(start, row, n, seed + 7);
		if (cell > dense) continue;
		const inCell = p + latticeValue(row, n, 1, seed) * 7 - start;
		const ends = smooth(0, 0.25, inCell) * smooth(1, 0.6, inCell);
		const thick = 0.16 * thickness * (0.4 + cell / Math.max(0.01, dense)) * ends;
		best = Math.max(best, ends * (1 - smooth(thick * 0.5, thick + 0.02, Math.abs(q - row - 0.5))));
	}
	return best;
}

export function strokesAt(
	u: number,
	v: number,
	w: number,
	k: number,
	c: number,
	s: number,
	long: number,
	seed: number,
): number {
	let [top, tone] = [-1, 0];
	const [p, q] = [((u * c + v * s) * k) / long, (-u * s + v * c) * k];
	const [ip, iq] = [Math.floor(p), Math.floor(q)];
	for (let dq = -1; dq <= 1; dq++)
		for (let dp = -1; dp <= 1; dp++) {
			const [a, b] = [ip + dp, iq + dq];
			const order = latticeValue(a, b, 0, seed);
			if (order < top) continue;
			const x = p - a - 0.5 - 0.8 * (latticeValue(a, b, 1, seed) - 0.5);
			const y = q - b - 0.5 - 0.8 * (latticeValue(a, b, 2, seed) - 0.5);
			if (Math.abs(x) > 0.78 || Math.abs(y) > 0.62) continue;
			// Bristles fray the ends.
			const fray = 0.3 * noiseAt(q * 7, a * 3.7, w * 0.02, seed + 5);
			if (Math.abs(x) > 0.78 - fray) continue;
			top = order;
			tone = 0.15 + 0.85 * latticeValue(a, b, 3, seed) - 0.25 * noiseAt(p * 1.5, q * 9, w * 0.02, seed + 9);
		}
	return clamp(tone);
}

/** Places along a surface: across, down, and which of those behind each other. */
export function alongAt(place: readonly number[], normal: readonly number[]): readonly [number, number, number] {
	const [x, y, z] = place as [number, number, number];
	const [nx, ny, nz] = normal as [number, number, number];
	const long = Math.hypot(nx, nz);
	const away = nx * x + ny * y + nz * z;
	if (long < 0.05) return [x, -z, away];
	const [ax, az] = [nz / long, -nx / long];
	return [ax * x + az * z, -(ny * az * x + (nz * ax - nx * az) * y - ny * ax * z), away];
}

/** How sources join: a is what was there. */
export const joins: Readonly<Record<string, (a: number, b: number) => number>> = {
	replace: (_, b) => b,
	multiply: (a, b) => a * b,
	divide: (a, b) => (b === 0 ? (a > 0 ? 1 : 0) : Math.min(1, a / b)),
	screen: (a, b) => 1 - (1 - a) * (1 - b),
	overlay: (a, b) => (a <= 0.5 ? 2 * a * b : 1 - 2 * (1 - a) * (1 - b)),
	max: Math.max,
	min: Math.min,
	add: (a, b) => Math.min(1, a + b),
	subtract: (a, b) => Math.max(0, a - b),
};
