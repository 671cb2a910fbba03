import { cloudsAt, latticeValue, noiseAt } from '../raster/index.ts';
import { withinTones } from '../select/index.ts';
import { eachCell, type Ground } from './ground.ts';
import type { Source } from './recipe.ts';

const clamp = (v: number): number => (v < 0 ? 0 : v > 1 ? 1 : v);
const smooth = (a: number, b: number, v: number): number => {
	const t = clamp((v - a) / (b - a || 1e-6));
	return t * t * (3 - 2 * t);
};
const axisNumber = { x: 0, y: 1, z: 2 } as const;
const contrasted = (v: number, contrast: number): number => clamp(0.5 + (v - 0.5) * (1 + 7 * contrast));

type At = (x: number, y: number, z: number) => number;

/** Runs a function of space over all cells: of the model's places where it has any, else of the sheet, in hundredths. */
function spread(
	ground: Ground,
	space: 'model' | 'sheet',
	only: Float32Array | null,
	out: Float32Array,
	f: At,
): Float32Array {
	const { surface, sheet } = ground;
	if (surface && space === 'model') {
		const { face, place } = surface;
		for (let i = 0; i < out.length; i++)
			if ((face[i] as number) >= 0 && only?.[i] !== 0)
				out[i] = f(place[i * 3] as number, place[i * 3 + 1] as number, place[i * 3 + 2] as number);
		return out;
	}
	const unit = 100 / Math.max(sheet.width, sheet.height);
	eachCell(ground, (cell, x, y) => {
		out[cell] = f(x * unit, y * unit, 0.5);
	});
	return out;
}

/** Dots: the nearest of the points that stand, one a cube, where chance has them, within their own radius. */
function speckleAt(x: number, y: number, z: number, seed: number, amount: number, soft: number, flat: boolean): number {
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

/**
 * Places along the surface, in hundredths: u across, v down; the third value tells sheets of the surface apart that lie
 * behind each other. On a flat sheet its own axes.
 */
function along(
	ground: Ground,
	space: 'model' | 'sheet',
	only: Float32Array | null,
	out: Float32Array,
	f: (u: number, v: number, w: number) => number,
): Float32Array {
	const { surface } = ground;
	if (!surface || space === 'sheet') return spread(ground, 'sheet', only, out, (x, y) => f(x, y, 0));
	const { face, place, normal } = surface;
	for (let i = 0; i < out.length; i++) {
		if ((face[i] as number) < 0 || only?.[i] === 0) continue;
		const x = place[i * 3] as number;
		const y = place[i * 3 + 1] as number;
		const z = place[i * 3 + 2] as number;
		const nx = normal[i * 3] as number;
		const ny = normal[i * 3 + 1] as number;
		const nz = normal[i * 3 + 2] as number;
		// Across: level, as a hand moves; on level ground it is the x axis. Down: along the surface, at right angles to it.
		const long = Math.sqrt(nx * nx + nz * nz);
		const away = nx * x + ny * y + nz * z;
		if (long < 0.05) {
			out[i] = f(x, -z, away);
			continue;
		}
		const ax = nz / long;
		const az = -nx / long;
		out[i] = f(ax * x + az * z, -(ny * az * x + (nz * ax - nx * az) * y - ny * ax * z), away);
	}
	return out;
}

/**
 * One tone, 0..1, for each cell; null where what it reads is not there. Cells where `only` is 0 may be left out: what is
 * made of chance is dear.
 */
export function sourceField(source: Source, ground: Ground, only: Float32Array | null = null): Float32Array | null {
	const out = new Float32Array(ground.width * ground.height);
	const bytes = (tone: Uint8Array | null): Float32Array | null => {
		if (!tone) return null;
		for (let i = 0; i < out.length; i++) out[i] = (tone[i] as number) / 255;
		return out;
	};
	const { surface } = ground;
	switch (source.step) {
		case 'tone':
			return out.fill(source.value);
		case 'painted':
			return bytes(ground.painted());
		case 'tap':
			return bytes(ground.tap(source.layer, source.of));
		case 'tones': {
			const tone = ground.tap(source.layer, 'tone');
			const shape = ground.tap(source.layer, 'shape');
			if (!tone || !shape) return null;
			for (let i = 0; i < out.length; i++) {
				const v = (tone[i] as number) / 255;
				out[i] = ((shape[i] as number) / 255) * withinTones(v, source.low, source.high, source.soft);
			}
			return out;
		}
		case 'noise':
		case 'clouds': {
			const k = 1 / Math.max(0.05, source.size);
			const { seed, contrast } = source;
			return source.step === 'noise'
				? spread(ground, source.space, only, out, (x, y, z) => contrasted(noiseAt(x * k, y * k, z * k, seed), contrast))
				: spread(ground, source.space, only, out, (x, y, z) =>
						contrasted(cloudsAt(x * k, y * k, z * k, seed, 5, 0.3 + 0.5 * source.rough), contrast),
					);
		}
		case 'speckle': {
			const k = 1 / Math.max(0.05, source.size);
			const flat = !surface || source.space === 'sheet';
			return spread(ground, source.space, only, out, (x, y, z) =>
				speckleAt(x * k, y * k, z * k, source.seed, source.dense, source.soft, flat),
			);
		}
		case 'scratches': {
			const k = 1 / Math.max(0.05, source.size);
			return along(ground, source.space, only, out, (u, v, w) => {
				let best = 0;
				// Three families of lines, each in cells that chance fills and turns.
				for (let n = 0; n < 3; n++) {
					const turn = ((source.turn + (latticeValue(n, 0, 0, source.seed) - 0.5) * 2 * source.spread) * Math.PI) / 180;
					const [c, s] = [Math.cos(turn), Math.sin(turn)];
					const p = (u * c + v * s) * k;
					const q = (-u * s + v * c) * k * 4 + 0.6 * noiseAt(p * 0.7, n * 9.1, w * 0.02, source.seed + 31);
					const row = Math.floor(q);
					const start = Math.floor(p + latticeValue(row, n, 1, source.seed) * 7);
					const cell = latticeValue(start, row, n, source.seed + 7);
					if (cell > source.dense) continue;
					const inCell = p + latticeValue(row, n, 1, source.seed) * 7 - start;
					const ends = smooth(0, 0.25, inCell) * smooth(1, 0.6, inCell);
					const thick = 0.16 * source.thick * (0.4 + cell / Math.max(0.01, source.dense)) * ends;
					best = Math.max(best, ends * (1 - smooth(thick * 0.5, thick + 0.02, Math.abs(q - row - 0.5))));
				}
				return best;
			});
		}
		case 'drips': {
			const k = 1 / Math.max(0.05, source.size);
			const fall = 1 / Math.max(0.1, source.length);
			return along(ground, source.space, only, out, (u, v, w) => {
				let best = 0;
				const p = u * k + 0.35 * (noiseAt(v * k * 0.35, u * k * 0.5, w * 0.02, source.seed + 17) - 0.5);
				const column = Math.floor(p);
				for (let c = column - 1; c <= column + 1; c++) {
					const depth = v * fall * k * 0.25 + latticeValue(c, 5, 0, source.seed) * 9;
					const run = Math.floor(depth);
					if (latticeValue(c, run, 1, source.seed) > source.dense) continue;
					const t = depth - run;
					const long = 0.35 + 0.6 * latticeValue(c, run, 2, source.seed);
					if (t > long) continue;
					const middle = c + 0.3 + 0.4 * latticeValue(c, run, 3, source.seed);
					// Thin as it runs, with a drop at its end.
					const s = t / long;
					const thick = 0.1 + 0.1 * (1 - s) + 0.14 * Math.exp(-(((s - 0.9) / 0.1) ** 2));
					best = Math.max(
						best,
						(1 - smooth(thick * 0.6, thick, Math.abs(p - middle))) * smooth(0, 0.06, t) * (0.55 + 0.45 * s),
					);
				}
				return best;
			});
		}
		case 'streaks': {
			const k = 1 / Math.max(0.05, source.size);
			const axis = axisNumber[source.axis];
			const thin = 1 / Math.max(1, source.stretch);
			return spread(ground, source.space, only, out, (x, y, z) => {
				const p = [x * k, y * k, z * k];
				p[axis] = (p[axis] as number) * thin;
				return contrasted(
					cloudsAt(p[0] as number, p[1] as number, p[2] as number, source.seed, 4, 0.6),
					source.contrast,
				);
			});
		}
		case 'strokes': {
			const k = 1 / Math.max(0.05, source.size);
			const turn = (source.turn * Math.PI) / 180;
			const [c, s] = [Math.cos(turn), Math.sin(turn)];
			const long = Math.max(1, source.length);
			return along(ground, source.space, only, out, (u, v, w) => {
				let [top, tone] = [-1, 0];
				const [p, q] = [((u * c + v * s) * k) / long, (-u * s + v * c) * k];
				const [ip, iq] = [Math.floor(p), Math.floor(q)];
				for (let dq = -1; dq <= 1; dq++)
					for (let dp = -1; dp <= 1; dp++) {
						const [a, b] = [ip + dp, iq + dq];
						const order = latticeValue(a, b, 0, source.seed);
						if (order < top) continue;
						const x = p - a - 0.5 - 0.8 * (latticeValue(a, b, 1, source.seed) - 0.5);
						const y = q - b - 0.5 - 0.8 * (latticeValue(a, b, 2, source.seed) - 0.5);
						if (Math.abs(x) > 0.78 || Math.abs(y) > 0.62) continue;
						// Bristles fray the ends.
						const fray = 0.3 * noiseAt(q * 7, a * 3.7, w * 0.02, source.seed + 5);
						if (Math.abs(x) > 0.78 - fray) continue;
						top = order;
						tone =
							0.15 +
							0.85 * latticeValue(a, b, 3, source.seed) -
							0.25 * noiseAt(p * 1.5, q * 9, w * 0.02, source.seed + 9);
					}
				return clamp(tone);
			});
		}
		case 'pieces': {
			if (!surface) return null;
			const of = source.by === 'island' ? surface.islandOf : source.by === 'part' ? surface.partOf : (f: number) => f;
			for (let i = 0; i < out.length; i++) {
				const face = surface.face[i] as number;
				if (face >= 0)
					out[i] = source.low + (source.high - source.low) * latticeValue(of(face), 11, source.by.length, source.seed);
			}
			return out;
		}
		case 'height': {
			if (!surface) return null;
			const axis = axisNumber[source.axis];
			const [low, high] = [surface.low[axis] as number, surface.high[axis] as number];
			const span = source.to - source.from || 1e-4;
			for (let i = 0; i < out.length; i++)
				if ((surface.face[i] as number) >= 0)
					out[i] = clamp((((surface.place[i * 3 + axis] as number) - low) / (high - low || 1) - source.from) / span);
			return out;
		}
		case 'facing': {
			if (!surface) return null;
			const axis = axisNumber[source.axis];
			const least = Math.cos((source.spread * Math.PI) / 180);
			for (let i = 0; i < out.length; i++)
				if ((surface.face[i] as number) >= 0)
					out[i] = clamp(((surface.normal[i * 3 + axis] as number) * source.way - least) / (1 - least || 1e-6));
			return out;
		}
		case 'edges': {
			const reach = source.width * (1 + source.soft);
			const distance = ground.edges(source.of, source.angle, reach);
			if (!distance) return null;
			for (let i = 0; i < out.length; i++)
				out[i] =
					1 -
					smooth(
						source.width * (1 - source.soft),
						Math.max(reach, source.width * (1 - source.soft) + 0.7),
						distance[i] as number,
					);
			return out;
		}
		case 'picture': {
			const read = ground.picture(source.picture);
			if (!read) return null;
			const turn = (source.turn * Math.PI) / 180;
			const [c, s] = [Math.cos(turn), Math.sin(turn)];
			const side = Math.max(1, source.scale);
			eachCell(ground, (cell, tx, ty) => {
				const [x, y] = [tx / side, ty / side];
				out[cell] = read(x * c + y * s, -x * s + y * c, ground.scale / side);
			});
			return out;
		}
	}
}
