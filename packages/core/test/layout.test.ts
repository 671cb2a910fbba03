/** Layouts beside meshes, and scenes that are replaced when their model changes. */
import type { Kernels } from '@eppu/kernels';
import { loadKernels } from '@eppu/kernels/node';
import { beforeAll, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { hiveMesh } from '../../../demo/mesh/hive.ts';
import { applyCommand, type Command, type Project, paintLayer, washLayer } from '../src/document/index.ts';
import { openEngine } from '../src/engine/index.ts';
import { layOut, layoutOf } from '../src/layout/index.ts';
import { topologyOf } from '../src/mesh/index.ts';
import { homeCamera } from '../src/projection/index.ts';
import { newStep } from '../src/recipe/index.ts';
import { defaultTip, unruled } from '../src/stroke/index.ts';
import { ball, box, projectOf, tube } from './oracle/meshes.ts';
import { seeded } from './oracle/surfaces.ts';

let kernels: Kernels;
beforeAll(async () => {
	kernels = await loadKernels();
});

test('a mesh with the layout it came with is the mesh as it came', () => {
	for (const mesh of [tube(), box(), ball(), hiveMesh()]) expect(layOut(mesh, layoutOf(mesh))).toEqual(mesh);
});

test('laid out in any way each corner has its place, its point stays, and no vertex stands twice', () => {
	fc.assert(
		fc.property(
			fc.constantFrom(tube(), box(), ball()),
			fc.integer({ min: 1, max: 9 }),
			fc.nat(999),
			(mesh, n, seed) => {
				const random = seeded(seed);
				const uvs = Float32Array.from({ length: mesh.indices.length * 2 }, () =>
					Math.fround(Math.floor(random() * n) / n),
				);
				const laid = layOut(mesh, { uvs });
				const seen = new Set<string>();
				let same = true;
				for (let corner = 0; corner < mesh.indices.length; corner++) {
					const [was, is] = [mesh.indices[corner] as number, laid.indices[corner] as number];
					const uv = [...laid.uvs.subarray(is * 2, is * 2 + 2)];
					same &&= uv[0] === uvs[corner * 2] && uv[1] === uvs[corner * 2 + 1];
					for (const list of ['positions', 'normals'] as const)
						expect(laid[list]?.subarray(is * 3, is * 3 + 3)).toEqual(mesh[list]?.subarray(was * 3, was * 3 + 3));
					seen.add(`${was} ${uv}`);
				}
				expect(same).toBe(true);
				// A place more is a vertex more: those that nothing names any more apart.
				const used = new Set(laid.indices);
				expect(used.size).toBe(seen.size);
				expect(layoutOf(laid).uvs.every((v, i) => v === uvs[i])).toBe(true);
			},
		),
		{ numRuns: 6 },
	);
});

test('a layout cut along every edge makes each face an island of its own', () => {
	const mesh = box();
	const uvs = layoutOf(mesh).uvs.map((v, i) => v * 0.1 + Math.floor(i / 6) * 0.001);
	expect(topologyOf(layOut(mesh, { uvs })).islands).toBe(mesh.indices.length / 3);
});

test('a layout of another model is refused', () => {
	expect(() => layOut(tube(), layoutOf(box()))).toThrow(/belongs to another model/);
});

const SIDE = 128;
const sight = { camera: { ...homeCamera, yaw: 0, pitch: 0, distance: 8 }, width: 300, height: 300 };
const twoSheets = (): { readonly project: Project; readonly meshes: Map<string, ReturnType<typeof hiveMesh>> } => {
	const mesh = hiveMesh();
	const dirt = {
		...washLayer('w', 'Dirt', '#302010'),
		mask: {
			surface: 'wm',
			on: true,
			recipe: [{ ...newStep('height', 'r'), mix: 'replace', from: 0, to: 1 }],
		},
	};
	const base = projectOf(mesh, SIDE, [paintLayer('p', 'Paint'), dirt as never]);
	const other = { ...base.sheets[0], id: 't', name: 'Other', layers: [paintLayer('q', 'Other paint')] };
	return { project: { ...base, sheets: [...base.sheets, other as never] }, meshes: new Map([['m', mesh]]) };
};

test('a part put on another sheet: strokes on it land there, masks follow the shape, undo takes it back', () => {
	const { project, meshes } = twoSheets();
	const engine = openEngine(kernels, project, [], meshes);
	const spec = {
		tool: 'draw' as const,
		tip: { ...unruled(defaultTip), size: 40, strength: 1, edge: 1 },
		color: '#cc3311',
		place: { on: 'model' as const, model: 'm', sight },
		layers: { s: 'p', t: 'q' },
		seed: 5,
	};
	const before = engine.composite('s');
	const spot = engine.scene('m')?.spotAt(engine.project.sheets, sight, 150, 150);
	expect(spot?.sheet).toBe('s');
	const scene = engine.scene('m');
	engine.run({ do: 'part.change', model: 'm', part: spot?.part as number, change: { sheet: 't' } });
	expect(engine.history.done.at(-1)?.words).toMatch(/ on "Other"$/);
	expect(engine.scene('m')).not.toBe(scene);
	// What is shown now is what the project shows when it is opened anew.
	const anew = openEngine(kernels, engine.project, [], meshes);
	expect(engine.composite('s')).toEqual(anew.composite('s'));
	anew.close();
	const begun = engine.begin(spec, [{ x: 150, y: 150, pressure: 1, time: 0 }]);
	engine.end();
	expect(begun).toMatchObject({ ok: true, sheet: 't' });
	expect(engine.composite('t').data.some((v) => v > 0)).toBe(true);
	engine.undo();
	engine.undo();
	expect(engine.scene('m')?.spotAt(engine.project.sheets, sight, 150, 150)?.sheet).toBe('s');
	expect(engine.composite('s')).toEqual(before);
	engine.close();
});

test('a hidden part is looked through, and what is not there is refused', () => {
	const { project, meshes } = twoSheets();
	const engine = openEngine(kernels, project, [], meshes);
	const at = (): number | undefined => engine.scene('m')?.spotAt(engine.project.sheets, sight, 150, 150)?.part;
	const front = at() as number;
	engine.run({ do: 'parts.show', model: 'm', shown: project.models[0]?.parts.map((_, i) => i !== front) ?? [] });
	expect(at()).not.toBe(front);
	engine.undo();
	expect(at()).toBe(front);
	expect(() => engine.run({ do: 'part.change', model: 'm', part: 99, change: { sheet: 's' } })).toThrow(/not in this/);
	expect(() => engine.run({ do: 'part.change', model: 'm', part: 0, change: { sheet: 'x' } })).toThrow(/not in this/);
	engine.close();
});

test('parts are shown and hidden together, in words, and back', () => {
	const mesh = hiveMesh();
	const project = projectOf(mesh, 64);
	const count = mesh.parts.length;
	const run = (at: Project, shown: readonly boolean[]) =>
		applyCommand(at, { do: 'parts.show', model: 'm', shown } satisfies Command as Command);
	const all = mesh.parts.map(() => true);
	const only = (part: number): boolean[] => mesh.parts.map((_, i) => i === part);
	const alone = run(project, only(1));
	expect(alone.words).toBe(`Show "${mesh.parts[1]?.name}" alone`);
	expect(alone.project.models[0]?.parts.map(({ shown }) => shown)).toEqual(only(1));
	expect(run(alone.project, all).words).toBe('Show all of "Body"');
	expect(
		run(
			project,
			all.map((_, i) => i > 0),
		).words,
	).toBe(`Hide "${mesh.parts[0]?.name}"`);
	expect(
		run(
			alone.project,
			all.map((_, i) => i < 2),
		).words,
	).toBe(`Show "${mesh.parts[0]?.name}"`);
	expect(
		run(
			project,
			all.map((_, i) => i > 1),
		).words,
	).toBe(`Show ${count - 2} parts of "Body"`);
	expect(applyCommand(alone.project, alone.inverse).project).toEqual(project);
	expect(() => run(project, [true])).toThrow(/not in this project any more/);
});
