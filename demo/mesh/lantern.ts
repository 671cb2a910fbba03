/** A storm lantern: tank, glass, hood, four guard wires and a handle. */
import type { LaidMesh } from '@eppu/core/mesh';
import { bar, halvedFrom, turned, unwrapped } from './pieces.ts';
import { createMeshBuilder, type P3 } from './shapes.ts';

export function lanternMesh(): LaidMesh {
	const builder = createMeshBuilder();
	builder.part('Tank');
	turned(
		builder,
		[
			[0, 0],
			[0.52, 0],
			[0.56, 0.06],
			[0.56, 0.26],
			[0.44, 0.38],
			[0.24, 0.42],
			[0.24, 0.5],
		].reverse() as [number, number][],
		20,
	);
	builder.part('Glass');
	turned(
		builder,
		[
			[0.24, 0.5],
			[0.36, 0.66],
			[0.38, 0.84],
			[0.32, 1.04],
			[0.24, 1.14],
		].reverse() as [number, number][],
		18,
	);
	builder.part('Hood');
	turned(
		builder,
		[
			[0.24, 1.14],
			[0.46, 1.16],
			[0.44, 1.22],
			[0.26, 1.36],
			[0.26, 1.46],
			[0.34, 1.5],
			[0, 1.58],
		].reverse() as [number, number][],
		20,
	);
	builder.part('Wires');
	for (let i = 0; i < 4; i++) {
		const turn = (Math.PI / 2) * (i + 0.5);
		bar(
			builder,
			(t): P3 => {
				const r = 0.44 + 0.06 * Math.sin(Math.PI * t);
				return [r * Math.cos(turn), 0.36 + 0.82 * t, r * Math.sin(turn)];
			},
			0.018,
			6,
			6,
		);
	}
	builder.part('Handle');
	bar(builder, (t): P3 => [-0.56 * Math.cos(Math.PI * t), 1.2 + 0.78 * Math.sin(Math.PI * t), 0], 0.025, 16, 6);
	const mesh = builder.mesh();
	return unwrapped(mesh, 512, halvedFrom(mesh, { Tank: 0.26, Hood: 0 }));
}
