/** Bakes of a finer mesh of the same model, and the frames that normals are said in. */
import type { Kernels } from '@eppu/kernels';
import { loadKernels } from '@eppu/kernels/node';
import { beforeAll, describe, expect, test } from '@jest/globals';
import { generateTangents } from 'mikktspace';
import { createMeshBuilder } from '../../../demo/mesh/shapes.ts';
import type { Engine } from '../src/engine/index.ts';
import { type Bake, toneBake } from '../src/light/index.ts';
import { type LaidMesh, tangentsOf } from '../src/mesh/index.ts';
import { pictureOfSurface, type Surface } from '../src/surface/index.ts';
import { bakedTones, eachTexel, openBakes } from './oracle/bakes.ts';
import { ball, blocks, box, tube } from './oracle/meshes.ts';

let kernels: Kernels;
beforeAll(async () => {
	kernels = await loadKernels();
});

const open = (mesh: LaidMesh, bakes: readonly Bake[]): Engine => openBakes(kernels, mesh, bakes);

describe('of a finer mesh', () => {
	const hash = 'f'.repeat(64);
	/** A level floor of parts, each 2 by 2, seen from above. */
	const floors = (
		...parts: readonly (readonly [name: string, height: (x: number, z: number) => number, across?: number])[]
	): LaidMesh => {
		const builder = createMeshBuilder();
		parts.forEach(([name, height, across = 2], i) => {
			builder.part(name);
			builder.grid(32, 2, (u, v) => [across * u - 1, height(across * u - 1, 2 * v - 1), 2 * v - 1], {
				x: 0.05 + 0.5 * i,
				y: 0.05,
				w: parts.length > 1 ? 0.4 : 0.9,
				h: 0.9,
			});
		});
		return { ...builder.mesh(), normals: null };
	};
	const finer = (match: 'near' | 'parts' = 'near', cage = 20) =>
		({ asset: { hash, name: 'fine.obj' }, cage, match }) as const;
	const openFiner = (low: LaidMesh, fine: LaidMesh, bakes: readonly Bake[]): Engine => {
		const engine = open(low, []);
		expect(() => engine.run({ do: 'bakes.set', model: 'm', bakes })).toThrow(/fine.obj is not at hand/);
		engine.meshes.set(hash, fine);
		engine.run({ do: 'bakes.set', model: 'm', bakes });
		engine.refresh(() => false);
		return engine;
	};
	const normalsOf = (engine: Engine, id = 'n'): Uint8Array =>
		pictureOfSurface(kernels, engine.surface(`${id}~s`) as Surface).data;

	test('its normals are those of a roof over a floor, texel by texel; where there is none of it nothing is made up', () => {
		const roof = (x: number): number => 0.15 * (1 - Math.abs(x));
		// It ends at x = 0.5.
		const engine = openFiner(floors(['Floor', () => 0]), floors(['Roof', roof, 1.5]), [
			{ id: 'n', name: 'Normals', bake: 'normals', finer: finer() },
		]);
		const data = normalsOf(engine);
		const length = Math.hypot(0.15, 1);
		let [seen, missed] = [0, 0];
		eachTexel(engine, (i, _face, [x]) => {
			if (Math.abs(x) < 0.04 || Math.abs(x - 0.5) < 0.04) return;
			if (x > 0.5) {
				missed++;
				return expect(data[i * 4 + 3]).toBe(0);
			}
			seen++;
			const want = [(0.15 * Math.sign(x)) / length, 1 / length, 0].map((v) => 127.5 + 127.5 * v);
			for (let k = 0; k < 3; k++) expect(Math.abs((data[i * 4 + k] as number) - (want[k] as number))).toBeLessThan(1.5);
		});
		expect(Math.min(seen, missed)).toBeGreaterThan(500);
		engine.close();
	});
	test('a wall that only the finer one has darkens the floor beside it, and its bend is where it stands', () => {
		const engine = openFiner(
			floors(['Floor', () => 0]),
			floors(['Step', (x) => (x > 0.001 ? 0.2 : 0)]),
			[
				toneBake('o', 'Occlusion', 'occlusion', { reach: 60, rays: 64, finer: undefined }),
				{ ...toneBake('f', 'Finer', 'occlusion', { reach: 60, rays: 64 }), finer: finer() },
				{ ...toneBake('c', 'Hollows', 'curvature', { of: 'hollows', width: 6 }), finer: finer() },
			].map((bake) => JSON.parse(JSON.stringify(bake)) as Bake),
		);
		expect(Math.max(...bakedTones(engine, 'o'))).toBe(0);
		const [dark, bend] = [bakedTones(engine, 'f'), bakedTones(engine, 'c')];
		const mean = (tones: Float32Array, from: number, to: number): number => {
			let [sum, n] = [0, 0];
			eachTexel(engine, (i, _face, [x, , z]) => {
				if (x < from || x > to || Math.abs(z) > 0.8) return;
				sum += tones[i] as number;
				n++;
			});
			return sum / n;
		};
		expect(mean(dark, -0.12, -0.05)).toBeGreaterThan(mean(dark, -0.5, -0.4) + 0.08);
		expect(mean(dark, 0.3, 0.6)).toBeLessThan(0.01);
		expect(mean(bend, -0.06, -0.02)).toBeGreaterThan(0.2);
		expect(mean(bend, -0.6, -0.4)).toBe(0);
		engine.close();
	});
	test('what is met from behind is gone through: a lid over a floor, whose inside is met first', () => {
		const floor = (y: number, down: boolean): LaidMesh => {
			const builder = createMeshBuilder();
			builder.part('Sheet');
			builder.grid(4, 4, (u, v) => [2 * u - 1, y, 2 * v - 1], { x: 0.05, y: 0.05, w: 0.9, h: 0.9 });
			const mesh = builder.mesh();
			return { ...mesh, normals: null, indices: down ? mesh.indices.slice().reverse() : mesh.indices };
		};
		const [low, lid] = [floor(0, false), floor(0.1, true)];
		const both: LaidMesh = {
			...low,
			positions: Float32Array.of(...low.positions, ...lid.positions),
			uvs: Float32Array.of(...low.uvs, ...lid.uvs),
			indices: Uint32Array.of(...low.indices, ...lid.indices.map((v) => v + low.positions.length / 3)),
			parts: [{ ...(low.parts[0] as LaidMesh['parts'][0]), faces: (low.indices.length * 2) / 3 }],
		};
		const engine = openFiner(low, both, [{ id: 'n', name: 'Normals', bake: 'normals', finer: finer() }]);
		const data = normalsOf(engine);
		eachTexel(engine, (i, _face, [x, , z]) => {
			if (Math.max(Math.abs(x), Math.abs(z)) > 0.9) return;
			expect([...data.subarray(i * 4, i * 4 + 4)]).toEqual([128, 255, 128, 255]);
		});
		engine.close();
	});
	test('by names a part meets only its own; whatever lies nearer is met else', () => {
		const low = floors(['One', () => 0], ['Two', () => 0]);
		// What is called Two lies over all of it, aslant.
		const fine = floors(['One', () => 0.02], ['Two', (x) => 0.1 + 0.05 * x]);
		const engine = openFiner(low, fine, [
			{ id: 'near', name: 'Near', bake: 'normals', finer: finer('near') },
			{ id: 'parts', name: 'Parts', bake: 'normals', finer: finer('parts') },
		]);
		const [near, parts] = [normalsOf(engine, 'near'), normalsOf(engine, 'parts')];
		eachTexel(engine, (i, face, [x, , z]) => {
			if (Math.max(Math.abs(x), Math.abs(z)) > 0.9) return;
			const one = engine.scene('m')?.partOfFace(face) === 0;
			expect(Math.abs((near[i * 4] as number) - 121)).toBeLessThan(3);
			expect(Math.abs((parts[i * 4] as number) - (one ? 128 : 121))).toBeLessThan(3);
		});
		engine.close();
	});
});

/** Triangles apart, as an independent package takes them. */
function apart(mesh: LaidMesh): { positions: Float32Array; normals: Float32Array; uvs: Float32Array } {
	const take = (list: Float32Array, size: number): Float32Array =>
		Float32Array.from(
			{ length: mesh.indices.length * size },
			(_, i) => list[(mesh.indices[Math.floor(i / size)] as number) * size + (i % size)] as number,
		);
	const uvs = take(mesh.uvs, 2).map((v, i) => (i % 2 ? 1 - v : v));
	return { positions: take(mesh.positions, 3), normals: take(mesh.normals as Float32Array, 3), uvs };
}

test('tangents are those of an independent MikkTSpace package, on mirrored islands too', () => {
	const mirrored: LaidMesh = { ...box(), uvs: box().uvs.map((v, i) => (i % 2 === 0 && i < 90 ? 1 - v : v)) };
	for (const mesh of [tube(), ball(), box(), blocks(), mirrored]) {
		const { positions, normals, uvs } = apart(mesh);
		const want = generateTangents(positions, normals, uvs);
		const found = tangentsOf(mesh);
		expect(found.length).toBe(want.length);
		let off = 0;
		for (let corner = 0; corner < found.length / 4; corner++) {
			const dot = [0, 1, 2].reduce(
				(sum, k) => sum + (found[corner * 4 + k] as number) * (want[corner * 4 + k] as number),
				0,
			);
			if (dot < 0.9999) off++;
			expect(found[corner * 4 + 3]).toBe(want[corner * 4 + 3]);
		}
		expect(off / (found.length / 4)).toBeLessThan(0.01);
	}
});

test('normals of the surface are flat where nothing is finer, and laid out by the tangents they give the finer one again', () => {
	const engine = open(ball(), [{ id: 'n', name: 'N', bake: 'normals', space: 'tangent' }]);
	engine.refresh(() => false);
	const { data } = pictureOfSurface(kernels, engine.surface('n~s') as Surface);
	eachTexel(engine, (i) => {
		expect(Math.abs((data[i * 4] as number) - 127.5)).toBeLessThan(2);
		expect(Math.abs((data[i * 4 + 1] as number) - 127.5)).toBeLessThan(2);
		expect(data[i * 4 + 2]).toBeGreaterThan(253);
	});
	engine.close();
	// A roof that rises along u: red is what it falls by.
	const builder = createMeshBuilder();
	builder.part('Floor');
	builder.grid(2, 2, (u, v) => [2 * u - 1, 0, 2 * v - 1], { x: 0.05, y: 0.05, w: 0.9, h: 0.9 });
	const floor = { ...builder.mesh(), normals: null };
	const slope: LaidMesh = {
		...floor,
		positions: floor.positions.map((v, i) => (i % 3 === 1 ? 0.1 + 0.2 * (floor.positions[i - 1] as number) : v)),
	};
	const second = open(floor, []);
	second.meshes.set('e'.repeat(64), slope);
	second.run({
		do: 'bakes.set',
		model: 'm',
		bakes: [
			{
				id: 'n',
				name: 'N',
				bake: 'normals',
				space: 'tangent',
				finer: { asset: { hash: 'e'.repeat(64), name: 'slope.obj' }, cage: 40, match: 'near' },
			},
		],
	});
	second.refresh(() => false);
	const seen = pictureOfSurface(kernels, second.surface('n~s') as Surface).data;
	const length = Math.hypot(0.2, 1);
	let count = 0;
	eachTexel(second, (i, _face, [x, , z]) => {
		if (Math.max(Math.abs(x), Math.abs(z)) > 0.8) return;
		count++;
		expect(Math.abs((seen[i * 4] as number) - (127.5 - (127.5 * 0.2) / length))).toBeLessThan(1.5);
		expect(Math.abs((seen[i * 4 + 1] as number) - 127.5)).toBeLessThan(1.5);
	});
	expect(count).toBeGreaterThan(1000);
	second.close();
});
