/** The yard's small props, which share one colour grid: a bucket, a crate, a fence, a stool, a signpost. */
import type { LaidMesh } from '@eppu/core/mesh';
import { bar, block, unwrapped } from './pieces.ts';
import { around, createMeshBuilder, type MeshBuilder, type P3 } from './shapes.ts';

const rect = { x: 0.1, y: 0.1, w: 0.8, h: 0.8 };

/** A round thing turned about its axis, from radius and height at its foot up. */
function turned(builder: MeshBuilder, sides: number, outline: readonly (readonly [radius: number, y: number])[]): void {
	const last = outline.length - 1;
	builder.grid(
		sides,
		last,
		(u, v) => {
			const [radius, y] = outline[last - Math.round(v * last)] as readonly [number, number];
			return around(u, radius, y);
		},
		rect,
	);
}

const made = (build: (builder: MeshBuilder) => void): LaidMesh => {
	const builder = createMeshBuilder();
	build(builder);
	return unwrapped(builder.mesh(), 256);
};

export const yardProps: readonly { readonly name: string; readonly mesh: () => LaidMesh }[] = [
	{
		name: 'Bucket',
		mesh: () =>
			made((builder) => {
				builder.part('Staves');
				turned(builder, 12, [
					[0.34, 0],
					[0.38, 0.26],
					[0.42, 0.52],
					[0.385, 0.52],
					[0.38, 0.42],
				]);
				builder.part('Hoops');
				for (const [y, r] of [
					[0.1, 0.365],
					[0.42, 0.412],
				] as const)
					turned(builder, 12, [
						[r, y - 0.035],
						[r + 0.012, y],
						[r + 0.006, y + 0.035],
					]);
				builder.part('Inside');
				builder.fan(12, [0, 0.44, 0], (t) => around(t, 0.4, 0.44), rect);
				builder.part('Handle');
				bar(builder, (t): P3 => [0.42 * Math.cos(Math.PI * t), 0.5 + 0.34 * Math.sin(Math.PI * t), 0], 0.022, 8, 6);
			}),
	},
	{
		name: 'Crate',
		mesh: () =>
			made((builder) => {
				builder.part('Slats');
				for (const y of [0.14, 0.36, 0.58]) {
					for (const z of [-0.4, 0.4]) block(builder, [0, y, z], [0.9, 0.18, 0.05]);
					for (const x of [-0.43, 0.43]) block(builder, [x, y, 0], [0.05, 0.18, 0.76]);
				}
				builder.part('Posts');
				for (const x of [-0.42, 0.42]) for (const z of [-0.39, 0.39]) block(builder, [x, 0.36, z], [0.1, 0.72, 0.1]);
				builder.part('Straw');
				block(builder, [0, 0.4, 0], [0.76, 0.4, 0.7]);
			}),
	},
	{
		name: 'Fence',
		mesh: () =>
			made((builder) => {
				builder.part('Posts');
				for (const x of [-0.8, 0.8]) block(builder, [x, 0.5, 0], [0.14, 1, 0.14]);
				builder.part('Caps');
				for (const x of [-0.8, 0.8]) block(builder, [x, 1.03, 0], [0.2, 0.07, 0.2]);
				builder.part('Rails');
				for (const y of [0.3, 0.72]) block(builder, [0, y, 0.02], [1.9, 0.13, 0.06]);
			}),
	},
	{
		name: 'Stool',
		mesh: () =>
			made((builder) => {
				builder.part('Seat');
				turned(builder, 12, [
					[0.4, 0.5],
					[0.42, 0.54],
					[0.4, 0.58],
				]);
				builder.fan(12, [0, 0.58, 0], (t) => around(t, 0.4, 0.58), rect);
				builder.part('Cushion');
				turned(builder, 12, [
					[0.34, 0.585],
					[0.37, 0.63],
					[0.3, 0.68],
					[0.02, 0.7],
				]);
				builder.part('Legs');
				for (let i = 0; i < 3; i++) {
					const turn = (2 * Math.PI * i) / 3;
					bar(
						builder,
						(t): P3 => [(0.36 - 0.12 * t) * Math.sin(turn), 0.52 * t, (0.36 - 0.12 * t) * Math.cos(turn)],
						0.05,
						1,
						6,
					);
				}
			}),
	},
	{
		name: 'Signpost',
		mesh: () =>
			made((builder) => {
				builder.part('Pole');
				block(builder, [0, 0.75, 0], [0.12, 1.5, 0.12]);
				builder.part('Board');
				block(builder, [0.1, 1.2, 0.09], [1, 0.36, 0.06]);
				builder.part('Stripe');
				block(builder, [0.1, 1.2, 0.125], [0.86, 0.1, 0.02]);
				builder.part('Foot');
				block(builder, [0, 0.06, 0], [0.4, 0.12, 0.4]);
			}),
	},
];
