/** What the bench works on: layer stacks, dense and painted, and a model of about 5,000 faces. */

import type { BlendMode, StackLayer } from '@eppu/core/composite';
import type { Layer, Project } from '@eppu/core/document';
import type { LaidMesh } from '@eppu/core/mesh';
import { createSurface, pictureIntoSurface, type Surface } from '@eppu/core/surface';
import type { Kernels } from '@eppu/kernels';
import { addBox, around, createMeshBuilder, type Rect } from '../demo/mesh/shapes.ts';

export const seeded = (seed: number): (() => number) => {
	let a = seed >>> 0;
	return () => {
		a = (Math.imul(a, 1664525) + 1013904223) >>> 0;
		return a / 4294967296;
	};
};

/** Smooth value noise 0..1 with cells of `cell` texels. */
function noise(size: number, cell: number, seed: number): Float32Array {
	const random = seeded(seed);
	const n = Math.ceil(size / cell) + 2;
	const knots = Float32Array.from({ length: n * n }, random);
	const out = new Float32Array(size * size);
	for (let y = 0; y < size; y++) {
		const iy = Math.floor(y / cell);
		const v = y / cell - iy;
		for (let x = 0; x < size; x++) {
			const ix = Math.floor(x / cell);
			const u = x / cell - ix;
			const p = iy * n + ix;
			const a = (knots[p] as number) + ((knots[p + 1] as number) - (knots[p] as number)) * u;
			const b = (knots[p + n] as number) + ((knots[p + n + 1] as number) - (knots[p + n] as number)) * u;
			out[y * size + x] = a + (b - a) * v;
		}
	}
	return out;
}

/** Ten layers of mixed modes: masks on half of them, one clipped. */
const spec: readonly (readonly [BlendMode, number, boolean, boolean])[] = [
	['normal', 1, false, false],
	['multiply', 0.8, true, false],
	['normal', 0.9, false, false],
	['overlay', 0.7, true, false],
	['screen', 0.6, true, false],
	['normal', 0.85, false, true],
	['soft-light', 0.75, true, false],
	['multiply', 0.5, false, false],
	['normal', 1, true, false],
	['overlay', 0.4, false, false],
];

export interface BenchStack {
	readonly layers: readonly StackLayer[];
	/** The same as pictures, for what is measured beside. */
	readonly pictures: readonly { readonly rgba: Uint8Array; readonly mask: Uint8Array | null }[];
}

/** Every texel of every layer half clear (dense), or an opaque ground with strokes over a third of it (painted). */
export function benchStack(kernels: Kernels, size: number, kind: 'dense' | 'painted'): BenchStack {
	const pictures = spec.map(([, , masked], index) => {
		const rgba = new Uint8Array(size * size * 4);
		const seed = 100 + index * 17;
		if (kind === 'dense' || index === 0) {
			const [r, g, b, a] = [97, 41, 23, 61].map((cell, k) => noise(size, cell, seed + k)) as [
				Float32Array,
				Float32Array,
				Float32Array,
				Float32Array,
			];
			for (let i = 0; i < size * size; i++) {
				rgba[i * 4] = (r[i] as number) * 255;
				rgba[i * 4 + 1] = (g[i] as number) * 255;
				rgba[i * 4 + 2] = (b[i] as number) * 255;
				rgba[i * 4 + 3] = kind === 'painted' ? 255 : Math.min(254, (index === 0 ? 120 : 30) + (a[i] as number) * 200);
			}
		} else paintBlobs(rgba, size, seed);
		const mask = masked ? new Uint8Array(size * size).fill(255) : null;
		if (mask && kind === 'dense') noise(size, 41, seed + 9).forEach((v, i) => (mask[i] = 20 + v * 235));
		else if (mask) maskHoles(mask, size, seed + 9);
		return { rgba, mask };
	});
	const surface = (format: 'color' | 'mask', data: Uint8Array): Surface => {
		const made = createSurface('bench', format, size, size);
		pictureIntoSurface(kernels, { width: size, height: size, data }, made);
		return made;
	};
	return {
		pictures,
		layers: spec.map(([mode, opacity, , clip], i) => {
			const { rgba, mask } = pictures[i] as (typeof pictures)[0];
			return { mode, opacity, clip, source: surface('color', rgba), mask: mask && surface('mask', mask) };
		}),
	};
}

/** Wandering soft strokes until they touch a third of the tiles. */
function paintBlobs(rgba: Uint8Array, size: number, seed: number): void {
	const random = seeded(seed);
	const touched = new Set<number>();
	while (touched.size < (size / 64) ** 2 / 3) {
		const radius = (size / 2048) * (20 + 130 * random() * random());
		let [x, y, turn] = [random() * size, random() * size, random() * 6.28];
		const color = [random() * 255, random() * 255, random() * 255];
		for (let step = 0; step < (60 + random() * 600) / (radius * 0.35) + 3; step++) {
			turn += (random() - 0.5) * 0.5;
			x += Math.cos(turn) * radius * 0.35;
			y += Math.sin(turn) * radius * 0.35;
			for (let yy = Math.max(0, Math.floor(y - radius)); yy < Math.min(size, y + radius); yy++)
				for (let xx = Math.max(0, Math.floor(x - radius)); xx < Math.min(size, x + radius); xx++) {
					const far = Math.hypot(xx - x, yy - y) / radius;
					if (far >= 1) continue;
					const i = (yy * size + xx) * 4;
					const a = Math.round(255 * Math.min(1, (1 - far) * 1.6));
					if (a <= (rgba[i + 3] as number)) continue;
					touched.add((yy >> 6) * 1000 + (xx >> 6));
					rgba[i] = color[0] as number;
					rgba[i + 1] = color[1] as number;
					rgba[i + 2] = color[2] as number;
					rgba[i + 3] = a;
				}
		}
	}
}

function maskHoles(mask: Uint8Array, size: number, seed: number): void {
	const random = seeded(seed);
	for (let hole = 0; hole < 6; hole++) {
		const [cx, cy, radius] = [random() * size, random() * size, size * (0.05 + 0.1 * random())];
		for (let y = Math.max(0, Math.floor(cy - radius)); y < Math.min(size, cy + radius); y++)
			for (let x = Math.max(0, Math.floor(cx - radius)); x < Math.min(size, cx + radius); x++) {
				const far = Math.hypot(x - cx, y - cy) / radius;
				if (far < 1) mask[y * size + x] = Math.min(mask[y * size + x] as number, 255 * Math.max(0, (far - 0.5) * 2));
			}
	}
}

/** A figure of balls, tubes and boxes, about 5,000 faces, its islands set out on a grid. */
export function benchMesh(): LaidMesh {
	const builder = createMeshBuilder();
	const pad = 0.006;
	let next = 0;
	const cell = (): Rect => {
		const at = next++;
		return { x: (at % 5) / 5 + pad, y: Math.floor(at / 5) / 5 + pad, w: 1 / 5 - 2 * pad, h: 1 / 5 - 2 * pad };
	};
	const ball = (x: number, y: number, z: number, r: number, nu: number, nv: number): void => {
		builder.part('Ball');
		builder.grid(
			nu,
			nv,
			(u, v) =>
				around(u, r * Math.sin((0.02 + 0.96 * v) * Math.PI), y + r * Math.cos((0.02 + 0.96 * v) * Math.PI), x, z),
			cell(),
		);
	};
	const tube = (x: number, y: number, z: number, r: number, h: number, nu: number, nv: number): void => {
		builder.part('Tube');
		builder.grid(nu, nv, (u, v) => around(u, r, y + h * (0.5 - v), x, z), cell());
		builder.fan(nu, [x, y + h / 2, z], (t) => around(t, r, y + h / 2, x, z), cell());
	};
	ball(0, 1.1, 0, 0.62, 40, 24);
	ball(-1.5, 0.2, 0.4, 0.4, 26, 16);
	ball(1.5, 0.3, 0.2, 0.38, 26, 16);
	tube(0, -0.25, 0, 0.5, 1.3, 32, 10);
	tube(-0.95, -0.1, 0.1, 0.17, 1.5, 20, 8);
	tube(0.95, -0.1, 0.1, 0.17, 1.5, 20, 8);
	tube(-0.3, -1.5, 0, 0.2, 1.3, 20, 8);
	tube(0.3, -1.5, 0, 0.2, 1.3, 20, 8);
	builder.part('Box');
	addBox(builder, [0, -2.25, 0], [3.2, 0.16, 2.2], Array.from({ length: 6 }, cell), 4);
	return builder.mesh();
}

/** A project of the bench's model on one square sheet with the given layers. */
export function benchProject(mesh: LaidMesh, size: number, layers: readonly Layer[]): Project {
	return {
		schema: 1,
		id: 'bench',
		name: 'Bench',
		palette: { name: 'None', colors: [] },
		models: [
			{
				id: 'm',
				name: 'Body',
				asset: { hash: '0'.repeat(64), name: 'body.glb' },
				parts: mesh.parts.map((part) => ({ name: part.name, sheet: 's', shown: true })),
			},
		],
		sheets: [{ id: 's', name: 'S', width: size, height: size, bleed: 16, base: null, guide: null, layers }],
	};
}
