import { eachCell, type Ground } from './ground.ts';

export const clamp = (v: number): number => (v < 0 ? 0 : v > 1 ? 1 : v);
/** Hermite from 0 at `a` to 1 at `b`. */
export const smooth = (a: number, b: number, v: number): number => {
	const t = clamp((v - a) / (b - a || 1e-6));
	return t * t * (3 - 2 * t);
};
export const contrasted = (v: number, contrast: number): number => clamp(0.5 + (v - 0.5) * (1 + 7 * contrast));

type At = (x: number, y: number, z: number) => number;

/** Runs a function of space over all cells: of the model's places where it has any, else of the sheet, in hundredths. */
export function spread(ground: Ground, space: 'model' | 'sheet', only: Float32Array | null, f: At): Float32Array {
	const { surface, sheet } = ground;
	const out = new Float32Array(ground.width * ground.height);
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

/**
 * Places along the surface, in hundredths: u across, v down; the third value tells sheets of the surface apart that lie
 * behind each other. On a flat sheet its own axes.
 */
export function along(
	ground: Ground,
	space: 'model' | 'sheet',
	only: Float32Array | null,
	f: (u: number, v: number, w: number) => number,
): Float32Array {
	const { surface } = ground;
	if (!surface || space === 'sheet') return spread(ground, 'sheet', only, (x, y) => f(x, y, 0));
	const { face, place, normal } = surface;
	const out = new Float32Array(ground.width * ground.height);
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
