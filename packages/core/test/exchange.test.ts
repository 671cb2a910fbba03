/** Models that come, go, and are exchanged for newer versions of themselves with the paint on them. */
import type { Kernels } from '@eppu/kernels';
import { loadKernels } from '@eppu/kernels/node';
import { beforeAll, describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { around, createMeshBuilder } from '../../../demo/mesh/shapes.ts';
import { buildBvh, nearestOn } from '../src/bvh/index.ts';
import { islandName, type Sheet } from '../src/document/index.ts';
import { type Engine, type ModelHead, openEngine } from '../src/engine/index.ts';
import { templateOf } from '../src/format/index.ts';
import { layOut, layoutOf } from '../src/layout/index.ts';
import { toneBake } from '../src/light/index.ts';
import type { LaidMesh } from '../src/mesh/index.ts';
import { pictureOfSurface, type Surface } from '../src/surface/index.ts';
import { ball, box, projectOf } from './oracle/meshes.ts';
import { seeded } from './oracle/surfaces.ts';

let kernels: Kernels;
beforeAll(async () => {
	kernels = await loadKernels();
});

const SIDE = 256;
let named = 0;
const newId = (): string => `n${++named}`;
const opened = (mesh: LaidMesh): Engine => openEngine(kernels, projectOf(mesh, SIDE), [], new Map([['m', mesh]]));

/** Another version of a model, in its place. */
function exchange(engine: Engine, mesh: LaidMesh, hash = 'b'.repeat(64)): ReturnType<Engine['relay']> {
	engine.meshes.set(hash, mesh);
	const head: ModelHead = {
		id: 'm',
		name: 'Body',
		asset: { hash, name: 'newer.glb' },
		parts: mesh.parts.map(({ name }) => ({ name, sheet: 's' })),
	};
	return engine.relay({ models: [head] }, 'Newer version', newId);
}

/** Paints each texel by where on the model it is: a colour that changes slowly over the surface, whatever the layout. */
const colorAt = (p: readonly number[]): number[] => p.map((x) => 127 + 90 * Math.sin(1.7 * x));

function eachPlace(engine: Engine, visit: (texel: number, place: readonly number[]) => void): void {
	const scene = engine.scene('m');
	if (!scene) throw new Error('No such model.');
	const { mesh } = scene;
	const map = scene.mapOf(engine.project.sheets[0] as Sheet);
	const at = (face: number, k: number): number => mesh.indices[face * 3 + k] as number;
	map.faceOfTexel.forEach((found, texel) => {
		if (!found) return;
		const face = found - 1;
		const [a, b, c] = [0, 1, 2].map((k) => [
			(mesh.uvs[at(face, k) * 2] as number) * map.width,
			(mesh.uvs[at(face, k) * 2 + 1] as number) * map.height,
		]) as [number[], number[], number[]];
		const [x, y] = [(texel % map.width) + 0.5, Math.floor(texel / map.width) + 0.5];
		const [ux, uy, vx, vy] = [b, c].flatMap((p) => [
			(p[0] as number) - (a[0] as number),
			(p[1] as number) - (a[1] as number),
		]) as [number, number, number, number];
		const [px, py] = [x - (a[0] as number), y - (a[1] as number)];
		const v = (px * vy - vx * py) / (ux * vy - vx * uy);
		const w = (ux * py - px * uy) / (ux * vy - vx * uy);
		const place = [0, 1, 2].map((axis) =>
			[1 - v - w, v, w].reduce((sum, share, k) => sum + share * (mesh.positions[at(face, k) * 3 + axis] as number), 0),
		);
		visit(texel, place);
	});
}

function paintAll(engine: Engine): void {
	const data = new Uint8Array(SIDE * SIDE * 4);
	eachPlace(engine, (texel, place) => data.set([...colorAt(place).map(Math.round), 255], texel * 4));
	const map = engine.scene('m')?.mapOf(engine.project.sheets[0] as Sheet);
	map?.gutterTexel.forEach((texel, g) => {
		const from = (map.gutterSource[g] as number) * 4;
		data.set(data.slice(from, from + 4), texel * 4);
	});
	engine.lay('s', 'p', 'color', { width: SIDE, height: SIDE, data }, 'All over');
}

/** Mean difference between what is painted and what was painted at that place of the surface, 0..255; and texels that have nothing. */
function differs(engine: Engine, unit = 1): { readonly mean: number; readonly empty: number } {
	const { data } = engine.composite('s');
	let [sum, count, empty] = [0, 0, 0];
	eachPlace(engine, (texel, place) => {
		if ((data[texel * 4 + 3] as number) < 250) empty++;
		const color = colorAt(place.map((x) => x / unit));
		for (let k = 0; k < 3; k++) sum += Math.abs((data[texel * 4 + k] as number) - (color[k] as number));
		count += 3;
	});
	return { mean: sum / count, empty };
}

const shuffled = (mesh: LaidMesh, seed: number): LaidMesh => {
	const random = seeded(seed);
	const faces = Array.from({ length: mesh.indices.length / 3 }, (_, face) => [random(), face] as const)
		.sort((a, b) => a[0] - b[0])
		.map(([, face]) => face);
	return {
		...mesh,
		indices: Uint32Array.from(faces.flatMap((face) => [...mesh.indices.slice(face * 3, face * 3 + 3)])),
	};
};
/** A ball of other rows and columns, so that its faces lie over several of the first one's. */
const finer = (): LaidMesh => {
	const builder = createMeshBuilder();
	builder.part('Ball');
	builder.grid(
		40,
		23,
		(u, v) => around(u, 1.3 * Math.sin((0.03 + 0.94 * v) * Math.PI), 1.3 * Math.cos((0.03 + 0.94 * v) * Math.PI)),
		{ x: 0.05, y: 0.2, w: 0.85, h: 0.7 },
	);
	return builder.mesh();
};
const sized = (mesh: LaidMesh, by: number): LaidMesh => ({
	...mesh,
	positions: mesh.positions.map((x) => x * by + by),
});
const moved = (mesh: LaidMesh): LaidMesh => {
	const { uvs } = layoutOf(mesh);
	return layOut(mesh, {
		uvs: uvs.map((_, i) => (i % 2 ? (uvs[i - 1] as number) * 0.9 : 0.95 - (uvs[i + 1] as number) * 0.9)),
	});
};

describe('a newer version of a model', () => {
	test('whose faces stand in another order shows the same paint, texel by texel', () => {
		for (const mesh of [box(), ball()]) {
			const engine = opened(mesh);
			paintAll(engine);
			const before = Buffer.from(engine.composite('s').data);
			const { report } = exchange(engine, shuffled(mesh, 3));
			expect(report[0]).toMatchObject({ bare: 0, kept: 0, lost: [] });
			const { mean, empty } = differs(engine);
			expect(empty).toBe(0);
			expect(mean).toBeLessThan(1);
			engine.undo();
			expect(Buffer.from(engine.composite('s').data).equals(before)).toBe(true);
			engine.close();
		}
	});

	test('laid out otherwise, of other faces, or in another unit has the paint where it was on the surface', () => {
		for (const [from, to, unit, most] of [
			[box(), moved(box()), 1, 1.5],
			[ball(), finer(), 1, 3],
			[finer(), ball(), 1, 3],
			[box(), moved(sized(box(), 100)), 100, 1.5],
		] as const) {
			const engine = opened(from);
			paintAll(engine);
			exchange(engine, to);
			const { mean, empty } = differs(
				unit === 1
					? engine
					: ({
							scene: (id: string) => {
								const scene = engine.scene(id);
								return (
									scene && { ...scene, mesh: { ...scene.mesh, positions: scene.mesh.positions.map((x) => x - unit) } }
								);
							},
							project: engine.project,
							composite: engine.composite,
						} as unknown as Engine),
				unit,
			);
			expect(empty).toBe(0);
			expect(mean).toBeLessThan(most);
			engine.close();
		}
	});

	test('tells what came without paint, and what paint had nothing to lie on any more', () => {
		const two = (parts: readonly string[]): LaidMesh => {
			const builder = createMeshBuilder();
			for (const [i, name] of ['Left', 'Right', 'Top'].entries()) {
				if (!parts.includes(name)) continue;
				builder.part(name);
				builder.grid(2, 2, (u, v) => [u + i * 3, v, i], { x: 0.05 + 0.32 * i, y: 0.1, w: 0.25, h: 0.4 });
			}
			return builder.mesh();
		};
		const engine = opened(two(['Left', 'Right']));
		paintAll(engine);
		const { report } = exchange(engine, two(['Left', 'Top']));
		expect(report[0]?.bare).toBeGreaterThan(1000);
		expect(report[0]?.lost[0]?.layer).toBe('Paint');
		const right = Math.round(0.25 * 0.4 * SIDE * SIDE);
		expect(Math.abs((report[0]?.lost[0]?.texels as number) - right)).toBeLessThan(right * 0.4);
		engine.close();
	});

	test('keeps the names that parts were given, and finds the parts by those of their files', () => {
		const engine = opened(box());
		const heads = engine.project.models.map(({ id, name, asset }) => ({ id, name, asset }));
		const head = heads[0] as (typeof heads)[0];
		engine.relay({ models: [{ ...head, parts: [{ name: 'Crate of honey', sheet: 's' }] }] }, 'Name', newId);
		expect(engine.scene('m')?.mesh.parts[0]?.name).toBe('Crate of honey');
		exchange(engine, shuffled(box(), 4));
		expect(engine.scene('m')?.mesh.parts[0]?.name).toBe('Crate of honey');
		expect(engine.project.models[0]?.parts[0]).toEqual({ name: 'Crate of honey', sheet: 's', shown: true });
		engine.undo();
		engine.undo();
		expect(engine.scene('m')?.mesh.parts[0]?.name).toBe('Box');
		engine.close();
	});

	test('is refused where its file is not at hand, and nothing is changed', () => {
		const engine = opened(box());
		const asset = { hash: 'c'.repeat(64), name: 'gone.glb' };
		const before = engine.project;
		expect(() =>
			engine.relay({ models: [{ id: 'm', name: 'Body', asset, parts: [{ name: 'Box', sheet: 's' }] }] }, 'x', newId),
		).toThrow(/gone\.glb.*not at hand/);
		expect(engine.project).toBe(before);
		engine.close();
	});
});

describe('several models', () => {
	test('come with sheets of their own, are painted, go, and come back', () => {
		const engine = opened(box());
		engine.meshes.set('b'.repeat(64), ball());
		const heads = engine.project.models.map(({ id, name, asset, parts }): ModelHead => ({ id, name, asset, parts }));
		const sheets = engine.project.sheets.map(({ id, name, width, height, bleed, base }) => ({
			id,
			name,
			width,
			height,
			bleed,
			base,
		}));
		const added: ModelHead = {
			id: 'ball',
			name: 'Ball',
			asset: { hash: 'b'.repeat(64), name: 'ball.glb' },
			parts: [{ name: 'Ball', sheet: 't' }],
		};
		const second = { ...(sheets[0] as (typeof sheets)[0]), id: 't', name: 'Ball' };
		expect(() =>
			engine.relay({ models: [...heads, { ...added, parts: [{ name: 'Ball', sheet: 's' }] }] }, 'x', newId),
		).toThrow(/cannot share the sheet/);
		engine.relay({ models: [...heads, added], sheets: [...sheets, second] }, 'Bring in', newId);
		expect(engine.project.models.map(({ name }) => name)).toEqual(['Body', 'Ball']);
		expect(engine.scene('ball')?.mesh.parts[0]?.name).toBe('Ball');
		const layer = engine.project.sheets[1]?.layers[0]?.id as string;
		engine.lay(
			't',
			layer,
			'color',
			{ width: SIDE, height: SIDE, data: new Uint8Array(SIDE * SIDE * 4).fill(90) },
			'Fill',
		);
		engine.relay({ models: heads, sheets }, 'Take away', newId);
		expect(engine.scene('ball')).toBeUndefined();
		engine.undo();
		expect(engine.scene('ball')?.mesh.parts[0]?.name).toBe('Ball');
		expect(engine.composite('t').data[0]).toBe(90);
		engine.close();
	});
});

test('the nearest place of a surface is the one that looking at every face finds', () => {
	const mesh = ball();
	const tree = buildBvh(mesh);
	const all = Array.from({ length: mesh.indices.length / 3 }, (_, face) => buildBvh(mesh, [face]));
	fc.assert(
		fc.property(fc.array(fc.double({ min: -3, max: 3, noNaN: true }), { minLength: 3, maxLength: 3 }), (point) => {
			const found = nearestOn(tree, point);
			const least = Math.min(...all.map((one) => nearestOn(one, point)?.distance as number));
			expect(found?.distance).toBeCloseTo(least, 10);
		}),
		{ numRuns: 60 },
	);
	expect(nearestOn(tree, [0, 5, 0], () => false)).toBeNull();
	expect(nearestOn(buildBvh(mesh, []), [0, 0, 0])).toBeNull();
});

test('bakes stay with a newer version and are made of its shape; islands are called what they were called until it comes', () => {
	const engine = opened(box());
	engine.run({ do: 'bakes.set', model: 'm', bakes: [toneBake('b', 'Height', 'height', { from: 0, to: 1 })] });
	const islandOfFace = engine.scene('m')?.topology.islandOfFace ?? new Uint32Array();
	const face = islandOfFace.indexOf(2);
	engine.run({ do: 'islands.set', model: 'm', islands: [{ face, name: 'Front' }] });
	const islands = (): ReturnType<typeof islandName> =>
		islandName(engine.project.models[0]?.islands, engine.scene('m')?.topology.islandOfFace ?? [], 2);
	expect(islands()).toBe('Front');
	expect(engine.undo()?.words).toBe('Call an island "Front"');
	expect(islands()).toBeNull();
	engine.redo();
	// Other faces of the same island are called so too, and so it is on the template.
	const sheet = engine.project.sheets[0] as Sheet;
	const scene = engine.scene('m');
	const called = (): (string | undefined)[] =>
		templateOf(scene ? [engine.scene('m') as never] : [], sheet, 256).islands.map(({ name }) => name);
	expect(called().filter((name) => name === 'Front')).toHaveLength(1);
	expect(() => engine.run({ do: 'islands.set', model: 'm', islands: [{ face, name: '' }] })).toThrow(/name/);
	engine.refresh(() => false);
	const before = pictureOfSurface(kernels, engine.surface('b~s') as Surface).data;
	const taller: LaidMesh = { ...box(), positions: box().positions.map((v, i) => (i % 3 === 1 && v > 0 ? v * 3 : v)) };
	exchange(engine, taller);
	engine.refresh(() => false);
	expect(engine.project.models[0]?.bakes).toHaveLength(1);
	const after = pictureOfSurface(kernels, engine.surface('b~s') as Surface).data;
	expect(Buffer.compare(Buffer.from(before), Buffer.from(after))).not.toBe(0);
	expect(islands()).toBeNull();
	engine.undo();
	expect(islands()).toBe('Front');
	engine.refresh(() => false);
	expect(
		Buffer.compare(Buffer.from(pictureOfSurface(kernels, engine.surface('b~s') as Surface).data), Buffer.from(before)),
	).toBe(0);
	engine.close();
});

/** A mesh whose faces are each four: cut at the middles of their edges. */
function cutEdges({ positions, uvs, indices, parts }: LaidMesh): LaidMesh {
	const middles = (of: Float32Array, size: number): number[] =>
		[...indices].flatMap((v, corner) => {
			const w = indices[corner % 3 === 2 ? corner - 2 : corner + 1] as number;
			return Array.from({ length: size }, (_, k) => ((of[v * size + k] as number) + (of[w * size + k] as number)) / 2);
		});
	const vertices = positions.length / 3;
	const faces = Array.from({ length: indices.length / 3 }, (_, face) => {
		const [a, b, c] = [0, 1, 2].map((k) => indices[face * 3 + k] as number) as [number, number, number];
		const [ab, bc, ca] = [0, 1, 2].map((k) => vertices + face * 3 + k) as [number, number, number];
		return [a, ab, ca, ab, b, bc, ca, bc, c, ab, bc, ca];
	});
	return {
		positions: Float32Array.from([...positions, ...middles(positions, 3)]),
		uvs: Float32Array.from([...uvs, ...middles(uvs, 2)]),
		normals: null,
		indices: Uint32Array.from(faces.flat()),
		parts: parts.map((part) => ({ ...part, firstFace: part.firstFace * 4, faces: part.faces * 4 })),
	};
}

describe('marks of seams', () => {
	/** The places between which marked edges of a model go, each edge once. */
	const marked = (engine: Engine): string[] => {
		const scene = engine.scene('m');
		if (!scene) throw new Error('No such model.');
		const { positions, indices } = scene.mesh;
		const said = [...engine.seams('m')].flatMap((mark, corner) => {
			if (!mark) return [];
			const ends = [corner, corner % 3 === 2 ? corner - 2 : corner + 1].map((each) =>
				[...positions.subarray((indices[each] as number) * 3, (indices[each] as number) * 3 + 3)].map((x) =>
					x.toFixed(2),
				),
			);
			return [
				ends
					.map((end) => end.join(' '))
					.sort()
					.join(' to '),
			];
		});
		return [...new Set(said)].sort();
	};
	const markSome = (engine: Engine, every: number): void => {
		const { mesh } = engine.scene('m') as NonNullable<ReturnType<Engine['scene']>>;
		const corners = Array.from({ length: mesh.indices.length / every }, (_, i) => i * every);
		engine.markSeams('m', { corners, on: true, anew: false }, 'Seams', newId);
	};
	test('lie on the same edges of a version whose faces stand in another order, and come back by undo', () => {
		fc.assert(
			fc.property(fc.integer({ min: 2, max: 9 }), fc.integer({ min: 1, max: 11 }), (every, by) => {
				const engine = opened(box());
				markSome(engine, every);
				const before = marked(engine);
				const mesh = box();
				// The same faces, the list begun elsewhere; larger by a thousandth.
				const indices = mesh.indices.map((_, i) => mesh.indices[(i + 3 * by) % mesh.indices.length] as number);
				exchange(engine, { ...mesh, indices, positions: mesh.positions.map((x) => x * 1.001) });
				expect(marked(engine)).toEqual(before);
				engine.undo();
				expect(marked(engine)).toEqual(before);
				engine.close();
			}),
			{ numRuns: 12 },
		);
	});
	test('that a new layout used up go in the same step, and come back with it', () => {
		const engine = opened(box());
		markSome(engine, 3);
		const before = marked(engine);
		const corner = engine.seams('m').indexOf(1);
		const layouts = new Map([['m', { uvs: layoutOf(box()).uvs.map((v) => v * 0.5) }]]);
		engine.relay({ layouts, unmarked: new Map([['m', [corner]]]) }, 'Sew', newId);
		expect(marked(engine)).toHaveLength(before.length - 1);
		engine.relay({ layouts, unmarked: new Map([['m', [...engine.seams('m').keys()]]]) }, 'Sew', newId);
		expect(marked(engine)).toEqual([]);
		expect(engine.project.models[0]?.seams).toBeNull();
		engine.undo();
		engine.undo();
		expect(marked(engine)).toEqual(before);
		engine.close();
	});
	test('lie on all pieces of an edge that was cut into more, and on none where the newer surface has no edge', () => {
		const engine = opened(box());
		markSome(engine, 1);
		const all = marked(engine).length;
		const finer = cutEdges(box());
		exchange(engine, finer);
		// Each edge of before became two; the edges across the faces are new.
		expect(marked(engine).length).toBe(all * 2);
		engine.undo();
		const away = box();
		exchange(engine, { ...away, positions: away.positions.map((x, i) => (i % 3 === 1 ? x * 0.8 : x)) }, 'c'.repeat(64));
		// What lay on the top is 0.2 lower, and what stood up is shorter but lies along what it was.
		const left = marked(engine);
		expect(left.length).toBeGreaterThan(0);
		expect(left.length).toBeLessThan(all);
		engine.close();
	});
});
