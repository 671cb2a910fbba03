/** Over seams bakes and light go on: what lies on both sides of one is alike. */
import type { Kernels } from '@eppu/kernels';
import { loadKernels } from '@eppu/kernels/node';
import { beforeAll, expect, test } from '@jest/globals';
import { lightLayer, type Sheet } from '../src/document/index.ts';
import { type Engine, openEngine } from '../src/engine/index.ts';
import { type Bake, lightPresets, toneBake } from '../src/light/index.ts';
import type { LaidMesh } from '../src/mesh/index.ts';
import { pictureOfSurface, type Surface } from '../src/surface/index.ts';
import { ball, projectOf, tube } from './oracle/meshes.ts';

let kernels: Kernels;
beforeAll(async () => {
	kernels = await loadKernels();
});

const SIDE = 512;
/** A body with the normals of what it stands for, the same on both sides of its seams; seen from within where it is turned. */
function smooth(mesh: LaidMesh, ways: number, turned = false): LaidMesh {
	const by = turned ? -1 : 1;
	const normals = new Float32Array(mesh.positions.length);
	for (let v = 0; v < normals.length; v += 3) {
		const [x, y, z] = mesh.positions.subarray(v, v + 3) as unknown as [number, number, number];
		const n = ways === 3 ? [x, y, z] : [x, 0, z];
		const length = Math.hypot(...n) || 1;
		normals.set(
			n.map((each) => (each * by) / length),
			v,
		);
	}
	return { ...mesh, normals, indices: turned ? mesh.indices.slice().reverse() : mesh.indices };
}
const bodies = (): readonly (readonly [string, LaidMesh])[] => [
	['tube', smooth(tube(), 2)],
	['ball', smooth(ball(), 3)],
	['inside of a tube', smooth(tube(), 2, true)],
];

const bakes: readonly Bake[] = [
	toneBake('occlusion', 'Occlusion', 'occlusion', { rays: 64, reach: 40 }),
	toneBake('thickness', 'Thickness', 'thickness', { rays: 32 }),
	toneBake('curvature', 'Curvature', 'curvature', { of: 'both', width: 6 }),
	toneBake('height', 'Height', 'height', { from: 0, to: 1 }),
];

/**
 * How far what lies on both sides of seams differs, of 255 on average: of a picture's first channels, just inside of each
 * side, where both sides look about the same way (over a sharp edge what looks elsewhere is hidden otherwise). With
 * `beside` of places as far from each other on one side.
 */
function overSeams(
	engine: Engine,
	mesh: LaidMesh,
	texel: (x: number, y: number) => readonly number[],
	beside = false,
): number {
	const scene = engine.scene('m');
	const { width, height } = engine.project.sheets[0] as Sheet;
	const corner = (face: number, k: number): { place: number[]; uv: number[]; normal: number[] } => {
		const v = mesh.indices[face * 3 + (k % 3)] as number;
		return {
			place: [...mesh.positions.subarray(v * 3, v * 3 + 3)],
			uv: [(mesh.uvs[v * 2] as number) * width, (mesh.uvs[v * 2 + 1] as number) * height],
			normal: [...(mesh.normals ?? new Float32Array(0)).subarray(v * 3, v * 3 + 3)],
		};
	};
	const apart = (a: number[], b: number[]): number => Math.hypot(...a.map((v, i) => v - (b[i] as number)));
	let [sum, count] = [0, 0];
	for (const { one, other } of scene?.topology.seams ?? []) {
		if (!other) continue;
		const [a, b] = [corner(one.face, one.corner), corner(one.face, one.corner + 1)];
		let [c, d] = [corner(other.face, other.corner), corner(other.face, other.corner + 1)];
		if (apart(a.place, c.place) + apart(b.place, d.place) > apart(a.place, d.place) + apart(b.place, c.place))
			[c, d] = [d, c];
		if (a.normal.reduce((dot, v, i) => dot + v * (c.normal[i] as number), 0) < 0.9) continue;
		const side = (p: typeof a, q: typeof a, face: number, t: number, far = 1.1): readonly number[] => {
			const middle = [0, 1].map((k) => [0, 1, 2].reduce((all, n) => all + (corner(face, n).uv[k] as number), 0) / 3);
			const at = [0, 1].map((k) => (p.uv[k] as number) * (1 - t) + (q.uv[k] as number) * t);
			const away =
				Math.hypot((middle[0] as number) - (at[0] as number), (middle[1] as number) - (at[1] as number)) || 1;
			return texel(
				...(at.map((v, k) => Math.floor(v + (((middle[k] as number) - v) * far) / away)) as [number, number]),
			);
		};
		for (let t = 0.06; t < 0.95; t += 0.06) {
			const q = beside ? side(a, b, one.face, t, 3.3) : side(c, d, other.face, t);
			const p = side(a, b, one.face, t);
			p.forEach((v, k) => {
				sum += Math.abs(v - (q[k] as number));
				count++;
			});
		}
	}
	expect(count).toBeGreaterThan(15);
	return sum / count;
}

test('occlusion, thickness, curvature and height show no seam on a tube, within one, and on a ball', () => {
	for (const [name, mesh] of bodies()) {
		const project = projectOf(mesh, SIDE, []);
		const models = project.models.map((model) => ({ ...model, bakes }));
		const engine = openEngine(kernels, { ...project, models }, [], new Map([['m', mesh]]));
		engine.refresh(() => false);
		for (const { id } of bakes) {
			const { data } = pictureOfSurface(kernels, engine.surface(`${id}~s`) as Surface);
			const tones = new Uint16Array(data.buffer, data.byteOffset, data.length / 2);
			const off = overSeams(engine, mesh, (x, y) => [(tones[y * SIDE + x] as number) / 257]);
			if (off > 2) throw new Error(`${id} of a ${name}: ${off}`);
		}
		engine.close();
	}
});

test('light shows no seam, smooth or in strokes: no more than from one texel to the next', () => {
	const [warm] = lightPresets as readonly [(typeof lightPresets)[number]];
	for (const [name, mesh] of bodies())
		for (const strokes of [null, warm.rig.strokes && { ...warm.rig.strokes, size: 9, contrast: 0.5 }]) {
			const project = projectOf(mesh, SIDE, [lightLayer('l', 'Light', { ...warm.rig, strokes })]);
			const engine = openEngine(kernels, project, [], new Map([['m', mesh]]));
			engine.refresh(() => false);
			const { data } = pictureOfSurface(kernels, engine.surface('l~fill') as Surface);
			const at = (x: number, y: number): readonly number[] => [
				...data.subarray((y * SIDE + x) * 4, (y * SIDE + x) * 4 + 3),
			];
			const off = overSeams(engine, mesh, at);
			if (off > 2 + (strokes ? 1.5 * overSeams(engine, mesh, at, true) : 0))
				throw new Error(`${name}, ${strokes ? 'strokes' : 'smooth'}: ${off}, ${overSeams(engine, mesh, at, true)}`);
			engine.close();
		}
});
