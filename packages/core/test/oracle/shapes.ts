/** Bodies of other kinds than the usual test ones: a ring, a bevelled crate, a lump with bays, all closed. */
import { around, createMeshBuilder } from '../../../../demo/mesh/shapes.ts';
import type { LaidMesh } from '../../src/mesh/index.ts';

const rect = { x: 0.1, y: 0.1, w: 0.8, h: 0.8 };

export const ring = (): LaidMesh => {
	const builder = createMeshBuilder();
	builder.part('Ring');
	builder.grid(
		28,
		14,
		(u, v) => {
			const angle = 2 * Math.PI * v;
			const [x, , z] = around(u, 1 + 0.35 * Math.cos(angle), 0);
			return [x, 0.35 * Math.sin(angle), z];
		},
		rect,
	);
	return builder.mesh();
};

export const lump = (across: number, down: number): LaidMesh => {
	const builder = createMeshBuilder();
	builder.part('Lump');
	builder.grid(
		across,
		down,
		(u, v) => {
			const r =
				1 + 0.25 * Math.sin(5 * u * Math.PI * 2) * Math.sin(3 * v * Math.PI) + 0.2 * Math.cos(4 * v * Math.PI * 2);
			return around(u, r * Math.sin((0.001 + 0.998 * v) * Math.PI), r * Math.cos((0.001 + 0.998 * v) * Math.PI));
		},
		rect,
	);
	return builder.mesh();
};

/** A cube whose edges are cut off: as a grid over a ball, pushed out to flat sides. */
export const crate = (): LaidMesh => {
	const builder = createMeshBuilder();
	builder.part('Crate');
	builder.grid(
		32,
		16,
		(u, v) => {
			const p = around(u, Math.sin((0.001 + 0.998 * v) * Math.PI), Math.cos((0.001 + 0.998 * v) * Math.PI));
			const most = Math.max(...p.map(Math.abs));
			return p.map((x) => Math.max(-0.9, Math.min(0.9, x / most))) as unknown as typeof p;
		},
		rect,
	);
	return builder.mesh();
};
