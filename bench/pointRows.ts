/** What pointing at a large model costs, and opening it. */
import { openEngine } from '@eppu/core/engine';
import type { LaidMesh } from '@eppu/core/mesh';
import { homeCamera } from '@eppu/core/projection';
import type { Kernels } from '@eppu/kernels';
import { createMeshBuilder } from '../demo/mesh/shapes.ts';
import { undisturbed } from './measure.ts';
import type { Report } from './rows.ts';
import { benchProject } from './scenes.ts';

/** A ball with dents, of about so many faces. */
function ballOf(faces: number): LaidMesh {
	const rows = Math.round(Math.sqrt(faces / 4));
	const builder = createMeshBuilder();
	builder.part('Ball');
	builder.grid(
		rows * 2,
		rows,
		(u, v) => {
			const [a, b] = [u * 2 * Math.PI, (0.02 + 0.96 * v) * Math.PI];
			const r = 1.5 + 0.05 * Math.sin(a * 9) * Math.sin(b * 7);
			return [r * Math.sin(b) * Math.cos(a), r * Math.cos(b), r * Math.sin(b) * Math.sin(a)];
		},
		{ x: 0.01, y: 0.01, w: 0.98, h: 0.98 },
	);
	return builder.mesh();
}

export async function pointRows(kernels: Kernels, report: Report): Promise<void> {
	const mesh = ballOf(100_000);
	const engine = openEngine(kernels, benchProject(mesh, 1024, []), [], new Map([['m', mesh]]));
	const scene = engine.scene('m');
	const sight = { camera: { ...homeCamera, distance: 5 }, width: 900, height: 700, reach: 'seen', fade: 0 } as const;
	const at = (i: number): readonly [number, number] => [300 + ((i * 37) % 300), 200 + ((i * 53) % 300)];
	const point = (i: number): unknown => scene?.spotAt(engine.project.sheets, sight, ...at(i));
	if (!point(0)) throw new Error('The pointing does not meet the model.');
	let turn = 0;
	const note = `${mesh.indices.length / 3} faces, one pointing, mean of 100`;
	await report(
		'pick.100k',
		async () =>
			(await undisturbed(5, () => {
				for (let i = 0; i < 100; i++) point(turn++);
			})) / 100,
		0.05,
		note,
	);
	await report(
		'pick.100k.turned',
		() =>
			undisturbed(5, () => {
				turn++;
				const camera = { ...sight.camera, yaw: sight.camera.yaw + turn };
				scene?.spotAt(engine.project.sheets, { ...sight, camera }, 450, 350);
			}),
		null,
		'the first pointing after the view was turned: the model is seen anew',
	);
	engine.close();
}
