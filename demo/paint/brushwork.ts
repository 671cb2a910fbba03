/** What the demo's painters share: noise, per-texel painting by surface place, and seeded hand strokes. */
import { eachTexelOfFace } from '@eppu/core/atlas';
import { type Rgb8, rgbOfHex } from '@eppu/core/color';
import { type Id, layerOf, sheetOf } from '@eppu/core/document';
import type { Engine } from '@eppu/core/engine';
import { defaultTip, type Sample, straightCurve, type Tip, type Tool } from '@eppu/core/stroke';
import type { P3 } from '../mesh/shapes.ts';

export type Rgba = readonly [number, number, number, number];

/** A place on the surface, as a painter sees it. */
export interface Place {
	readonly p: P3;
	readonly n: P3;
	readonly part: string;
	/** 0..1 on the sheet */
	readonly u: number;
	readonly v: number;
}

export const seeded = (seed: number): (() => number) => {
	let a = seed >>> 0;
	return () => {
		a = (Math.imul(a ^ (a >>> 15), 0x2c1b3c6d) + 0x9e3779b9) >>> 0;
		return ((a ^ (a >>> 13)) >>> 0) / 4294967296;
	};
};

const knot = (x: number, y: number, z: number): number => {
	let h = Math.imul(x, 374761393) ^ Math.imul(y, 668265263) ^ Math.imul(z, 2147483647 - 1274126177);
	h = Math.imul(h ^ (h >>> 13), 1274126177);
	return ((h ^ (h >>> 16)) >>> 0) / 4294967296;
};
const ease = (t: number): number => t * t * (3 - 2 * t);
const mix = (a: number, b: number, t: number): number => a + (b - a) * t;

/** Noise of one plane of knots. */
function plane(ix: number, iy: number, k: number, tx: number, ty: number): number {
	return mix(mix(knot(ix, iy, k), knot(ix + 1, iy, k), tx), mix(knot(ix, iy + 1, k), knot(ix + 1, iy + 1, k), tx), ty);
}

/** Smooth noise 0..1 in space. */
export function noise(x: number, y: number, z: number): number {
	const ix = Math.floor(x),
		iy = Math.floor(y),
		iz = Math.floor(z);
	const tx = ease(x - ix),
		ty = ease(y - iy);
	return mix(plane(ix, iy, iz, tx, ty), plane(ix, iy, iz + 1, tx, ty), ease(z - iz));
}

/** Four octaves of noise, 0..1. */
export function clouds([x, y, z]: P3, scale: number): number {
	let sum = 0;
	for (let f = 1; f <= 8; f *= 2) sum += noise(x * scale * f + f * 7, y * scale * f, z * scale * f + 3) / f;
	return sum / 1.875;
}

export const clamp = (v: number): number => Math.max(0, Math.min(1, v));
/** 0 below a, 1 above b, smooth between. */
export const step = (a: number, b: number, v: number): number => ease(clamp((v - a) / (b - a)));
/** Colours as the painters mix them: hex is read once and remembered. */
const known = new Map<string, Rgb8>();
const rgbOf = (hex: string): Rgb8 => {
	let found = known.get(hex);
	if (!found) known.set(hex, (found = rgbOfHex(hex)));
	return found;
};
export type Paint = string | Rgb8;
export const blend = (a: Paint, b: Paint, t: number): Rgb8 => {
	const x = typeof a === 'string' ? rgbOf(a) : a;
	const y = typeof b === 'string' ? rgbOf(b) : b;
	return [mix(x[0], y[0], t), mix(x[1], y[1], t), mix(x[2], y[2], t)];
};
export const rgba = (color: Paint, a = 1): Rgba => {
	const [r, g, b] = typeof color === 'string' ? rgbOf(color) : color;
	return [Math.round(r), Math.round(g), Math.round(b), Math.round(255 * clamp(a))];
};

/** What three vertices of a list hold, weighted by 1-s-t, s, t. */
function between(list: Float32Array, a: number, b: number, c: number, s: number, t: number): P3 {
	const r = 1 - s - t;
	return [
		(list[a * 3] as number) * r + (list[b * 3] as number) * s + (list[c * 3] as number) * t,
		(list[a * 3 + 1] as number) * r + (list[b * 3 + 1] as number) * s + (list[c * 3 + 1] as number) * t,
		(list[a * 3 + 2] as number) * r + (list[b * 3 + 2] as number) * s + (list[c * 3 + 2] as number) * t,
	];
}

/** Paints every texel of a sheet's islands and bleed from its place on the surface; null leaves it clear. */
export function paintTexels(
	engine: Engine,
	sheetId: Id,
	layer: Id,
	on: 'color' | 'mask',
	words: string,
	paint: (place: Place) => Rgba | number | null,
): void {
	const sheet = sheetOf(engine.project, sheetId);
	if (!sheet) throw new Error(`no sheet ${sheetId}`);
	const { width, height } = sheet;
	const channels = on === 'color' ? 4 : 1;
	const data = new Uint8Array(width * height * channels);
	for (const model of engine.project.models) {
		const scene = engine.scene(model.id);
		if (!scene) continue;
		const { mesh } = scene;
		const map = scene.mapOf(sheet);
		mesh.parts.forEach((part, index) => {
			if (model.parts[index]?.sheet !== sheetId) return;
			for (let face = part.firstFace; face < part.firstFace + part.faces; face++) {
				const [a, b, c] = [0, 1, 2].map((k) => mesh.indices[face * 3 + k] as number) as [number, number, number];
				const uv = (v: number): [number, number] => [
					(mesh.uvs[v * 2] as number) * width,
					(mesh.uvs[v * 2 + 1] as number) * height,
				];
				const [A, B, C] = [uv(a), uv(b), uv(c)];
				const det = (B[0] - A[0]) * (C[1] - A[1]) - (C[0] - A[0]) * (B[1] - A[1]);
				const normals = mesh.normals as Float32Array;
				const put = (x: number, y: number): void => {
					const s = ((x + 0.5 - A[0]) * (C[1] - A[1]) - (C[0] - A[0]) * (y + 0.5 - A[1])) / det;
					const t = ((B[0] - A[0]) * (y + 0.5 - A[1]) - (x + 0.5 - A[0]) * (B[1] - A[1])) / det;
					const found = paint({
						p: between(mesh.positions, a, b, c, s, t),
						n: between(normals, a, b, c, s, t),
						part: part.name,
						u: (x + 0.5) / width,
						v: (y + 0.5) / height,
					});
					if (found === null) return;
					if (typeof found === 'number') data[y * width + x] = Math.round(255 * clamp(found));
					else for (let k = 0; k < 4; k++) data[(y * width + x) * 4 + k] = found[k] as number;
				};
				eachTexelOfFace(
					map,
					face,
					(y, x0, x1) => {
						for (let x = x0; x < x1; x++) put(x, y);
					},
					put,
				);
			}
		});
	}
	engine.lay(sheetId, layer, on, { width, height, data }, words);
}

/** A hand stroke on a sheet: points in texels, pressure swelling and thinning like a hand's. */
export function stroke(
	engine: Engine,
	sheet: Id,
	layer: Id,
	color: string,
	points: readonly (readonly [number, number])[],
	tip: Partial<Tip>,
	tool: Tool = 'draw',
): void {
	const samples: Sample[] = points.map(([x, y], i) => ({
		x,
		y,
		pressure: 0.25 + 0.75 * Math.sin((Math.PI * (i + 0.6)) / (points.length + 0.2)),
	}));
	const begun = engine.begin(
		{
			tool,
			color,
			tip: {
				...defaultTip,
				rules: [
					{ by: 'pressure', of: 'size', amount: 0.8, curve: straightCurve },
					{ by: 'pressure', of: 'strength', amount: 0.5, curve: straightCurve },
				],
				...tip,
			},
			place: { on: 'sheet', sheet },
			layers: { [sheet]: layer },
		},
		samples.slice(0, 1),
	);
	if (!begun.ok) throw new Error(`${layerOf(sheetOf(engine.project, sheet), layer)?.name}: ${begun.refusal.text}`);
	engine.extend(samples.slice(1));
	engine.end();
}
