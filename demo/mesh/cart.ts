/** A hand cart: a bed of planks with boards, two wheels of wood, shafts with a bar to pull by, and a leg. */
import type { LaidMesh } from '@eppu/core/mesh';
import { bar, block, unwrapped } from './pieces.ts';
import { createMeshBuilder, type P3 } from './shapes.ts';

const SPOKES = 8;

function wheel(builder: ReturnType<typeof createMeshBuilder>, z: number): void {
	// The rim as a ring of square section; hub and spokes in it.
	const section: readonly (readonly [radius: number, side: number])[] = [
		[0.62, -0.06],
		[0.54, -0.06],
		[0.54, 0.06],
		[0.62, 0.06],
		[0.62, -0.06],
	];
	builder.grid(
		24,
		4,
		(u, v) => {
			const [r, side] = section[Math.round(v * 4)] as readonly [number, number];
			const turn = 2 * Math.PI * u;
			return [r * Math.sin(turn), 0.62 + r * Math.cos(turn), z - side];
		},
		{ x: 0.1, y: 0.1, w: 0.8, h: 0.8 },
	);
	for (let i = 0; i < SPOKES; i++) {
		const turn = (2 * Math.PI * i) / SPOKES + 0.2;
		bar(
			builder,
			(t): P3 => [(0.08 + 0.47 * t) * Math.sin(turn), 0.62 + (0.08 + 0.47 * t) * Math.cos(turn), z],
			0.028,
			1,
			5,
		);
	}
	block(builder, [0, 0.62, z], [0.18, 0.18, 0.16]);
}

export function cartMesh(): LaidMesh {
	const builder = createMeshBuilder();
	builder.part('Bed');
	for (let i = 0; i < 5; i++) block(builder, [0.1, 0.8, -0.44 + 0.22 * i], [1.7, 0.06, 0.2]);
	builder.part('Boards');
	for (const z of [-0.58, 0.58]) block(builder, [0.1, 1.02, z], [1.7, 0.4, 0.05]);
	block(builder, [-0.72, 1.02, 0], [0.05, 0.4, 1.11]);
	builder.part('Wheels');
	for (const z of [-0.78, 0.78]) wheel(builder, z);
	block(builder, [0, 0.62, 0], [0.09, 0.09, 1.4]);
	builder.part('Shafts');
	for (const z of [-0.4, 0.4]) block(builder, [1.3, 0.77, z], [1.5, 0.08, 0.09]);
	bar(builder, (t): P3 => [2.02, 0.77 + 1e-4 * t, -0.52 + 1.04 * t], 0.04, 1, 8);
	builder.part('Leg');
	block(builder, [-0.66, 0.38, 0], [0.1, 0.78, 0.1]);
	return unwrapped(builder.mesh(), 1024);
}
