import { triangleSpans } from '../atlas/index.ts';
import type { LaidMesh } from '../mesh/index.ts';
import type { Picture } from '../surface/index.ts';
import { type Camera, projectionOf } from './camera.ts';
import { createView } from './view.ts';

/** Each px is the mean of this many by this many. */
const FINE = 2;

/**
 * The model as the colour-only game shows it, unlit, with its sheets on it: for covers and pages, where there is no
 * graphics card. `sheetOfPart` gives the picture of a part, null where there is none. Where the model is not, the
 * result is clear; where a sheet is clear, `bare` shows.
 */
export function renderModel(
	mesh: LaidMesh,
	sheetOfPart: readonly (Picture | null)[],
	camera: Camera,
	width: number,
	height: number,
	bare: readonly [number, number, number] = [176, 172, 164],
): Picture {
	const [w, h] = [width * FINE, height * FINE];
	const view = createView(mesh, projectionOf(camera, w, h));
	const fine = new Uint8Array(w * h * 4);
	const { indices, uvs, parts } = mesh;
	parts.forEach((part, index) => {
		const sheet = sheetOfPart[index] ?? null;
		for (let face = part.firstFace; face < part.firstFace + part.faces; face++) {
			if (!view.front[face]) continue;
			const corner = [0, 1, 2].map((k) => indices[face * 3 + k] as number) as [number, number, number];
			const W = corner.map((v) => view.W[v] as number) as [number, number, number];
			if (Math.min(...W) < view.projection.nearest) continue;
			const x = corner.map((v, k) => (view.X[v] as number) / (W[k] as number)) as [number, number, number];
			const y = corner.map((v, k) => (view.Y[v] as number) / (W[k] as number)) as [number, number, number];
			const area = (x[1] - x[0]) * (y[2] - y[0]) - (x[2] - x[0]) * (y[1] - y[0]);
			triangleSpans(x[0], y[0], x[1], y[1], x[2], y[2], w, h, (row, from, to) => {
				for (let column = from; column < to; column++) {
					const b1 = ((column + 0.5 - x[0]) * (y[2] - y[0]) - (x[2] - x[0]) * (row + 0.5 - y[0])) / area;
					const b2 = ((x[1] - x[0]) * (row + 0.5 - y[0]) - (column + 0.5 - x[0]) * (y[1] - y[0])) / area;
					const p = [(1 - b1 - b2) / W[0], b1 / W[1], b2 / W[2]] as const;
					const sum = p[0] + p[1] + p[2];
					let [u, v, n] = [0, 0, 0];
					for (let k = 0; k < 3; k++) {
						u += ((p[k] as number) / sum) * (uvs[(corner[k] as number) * 2] as number);
						v += ((p[k] as number) / sum) * (uvs[(corner[k] as number) * 2 + 1] as number);
						n += (p[k] as number) * (view.N[corner[k] as number] as number);
					}
					const at = row * w + column;
					if (n < (view.nearness[at] as number) * 0.9999) continue;
					let [r, g, b] = bare;
					if (sheet) {
						const tx = Math.max(0, Math.min(sheet.width - 1, Math.floor(u * sheet.width)));
						const ty = Math.max(0, Math.min(sheet.height - 1, Math.floor(v * sheet.height)));
						const i = (ty * sheet.width + tx) * 4;
						const a = (sheet.data[i + 3] as number) / 255;
						r += a * ((sheet.data[i] as number) - r);
						g += a * ((sheet.data[i + 1] as number) - g);
						b += a * ((sheet.data[i + 2] as number) - b);
					}
					fine[at * 4] = r;
					fine[at * 4 + 1] = g;
					fine[at * 4 + 2] = b;
					fine[at * 4 + 3] = 255;
				}
			});
		}
	});
	const data = new Uint8Array(width * height * 4);
	for (let i = 0; i < width * height; i++) {
		const [px, py] = [(i % width) * FINE, Math.floor(i / width) * FINE];
		const sum = [0, 0, 0, 0];
		for (let k = 0; k < FINE * FINE; k++) {
			const from = ((py + Math.floor(k / FINE)) * w + px + (k % FINE)) * 4;
			const a = fine[from + 3] as number;
			for (let c = 0; c < 3; c++) sum[c] = (sum[c] as number) + (a / 255) * (fine[from + c] as number);
			sum[3] = (sum[3] as number) + a;
		}
		const alpha = (sum[3] as number) / (FINE * FINE);
		if (alpha === 0) continue;
		for (let c = 0; c < 3; c++) data[i * 4 + c] = Math.round(((sum[c] as number) * 255) / (sum[3] as number));
		data[i * 4 + 3] = Math.round(alpha);
	}
	return { width, height, data };
}

/** A camera like `from` that has a ball of `radius` around `center` whole in view. */
export function framing(
	from: Camera,
	center: readonly [number, number, number],
	radius: number,
	width: number,
	height: number,
): Camera {
	const half = (from.fov * Math.PI) / 360;
	const narrow = Math.atan(Math.tan(half) * Math.min(1, width / height));
	return { ...from, target: center, distance: (radius * 1.04) / Math.sin(narrow) };
}
