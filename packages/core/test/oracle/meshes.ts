/** Bodies for tests: a tube with one upright seam, a box of six islands, a ball, a block on another. */
import { addBox, around, createMeshBuilder } from '../../../../demo/mesh/shapes.ts';
import { apiaryPalette } from '../../src/color/index.ts';
import { type Layer, type Project, paintLayer } from '../../src/document/index.ts';
import type { LaidMesh } from '../../src/mesh/index.ts';

export const tube = (): LaidMesh => {
	const builder = createMeshBuilder();
	builder.part('Tube');
	builder.grid(24, 6, (u, v) => around(u, 1, 1.6 - 3.2 * v), { x: 0.1, y: 0.1, w: 0.8, h: 0.5 });
	return builder.mesh();
};
export const box = (): LaidMesh => {
	const builder = createMeshBuilder();
	builder.part('Box');
	addBox(
		builder,
		[0, 0, 0],
		[2, 2, 2],
		Array.from({ length: 6 }, (_, i) => ({
			x: 0.04 + 0.32 * (i % 3),
			y: 0.06 + 0.48 * Math.floor(i / 3),
			w: 0.26,
			h: 0.26,
		})),
		2,
	);
	return builder.mesh();
};
export const ball = (): LaidMesh => {
	const builder = createMeshBuilder();
	builder.part('Ball');
	builder.grid(
		28,
		16,
		(u, v) => around(u, 1.3 * Math.sin((0.03 + 0.94 * v) * Math.PI), 1.3 * Math.cos((0.03 + 0.94 * v) * Math.PI)),
		{ x: 0.1, y: 0.1, w: 0.8, h: 0.6 },
	);
	return builder.mesh();
};

/** A block that stands on another, so that there are hollows. */
export const blocks = (): LaidMesh => {
	const builder = createMeshBuilder();
	builder.part('Blocks');
	const row = (y: number) => Array.from({ length: 6 }, (_, i) => ({ x: 0.02 + 0.16 * i, y, w: 0.14, h: 0.45 }));
	addBox(builder, [0, 0, 0], [4, 0.4, 4], row(0.02));
	addBox(builder, [0, 0.9, 0], [1.2, 1.4, 1.2], row(0.52));
	return builder.mesh();
};

/** A project of one model on one square sheet. */
export const projectOf = (
	mesh: LaidMesh,
	side: number,
	layers: readonly Layer[] = [paintLayer('p', 'Paint')],
): Project => ({
	schema: 1,
	id: 'project',
	name: 'Test',
	palette: apiaryPalette,
	models: [
		{
			id: 'm',
			name: 'Body',
			asset: { hash: 'a'.repeat(64), name: 'body.glb' },
			parts: mesh.parts.map((part) => ({ name: part.name, sheet: 's', shown: true })),
		},
	],
	sheets: [{ id: 's', name: 'Sheet', width: side, height: side, bleed: 6, base: null, guide: null, layers }],
});
