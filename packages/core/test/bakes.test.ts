/** Bakes: right where closed forms can be told, kept with the model, read by recipes and by light. */
import type { Kernels } from '@eppu/kernels';
import { loadKernels } from '@eppu/kernels/node';
import { beforeAll, describe, expect, test } from '@jest/globals';
import { addBox, around, createMeshBuilder } from '../../../demo/mesh/shapes.ts';
import { bendOf } from '../src/bake/index.ts';
import { lightLayer, paintLayer, type Sheet, toneLets, washLayer } from '../src/document/index.ts';
import type { Engine } from '../src/engine/index.ts';
import { type Bake, bakedSteps, greenWay, lightPresets, toneBake } from '../src/light/index.ts';
import { type LaidMesh, meshBounds } from '../src/mesh/index.ts';
import { directionOf, newStep, type RecipeStep } from '../src/recipe/index.ts';
import { defaultTip } from '../src/stroke/index.ts';
import { type Picture, pictureOfSurface, type Surface } from '../src/surface/index.ts';
import { bakedTones, eachTexel, openBakes, SIDE } from './oracle/bakes.ts';
import { ball, blocks, box, tube } from './oracle/meshes.ts';
import { lump } from './oracle/shapes.ts';

let kernels: Kernels;
beforeAll(async () => {
	kernels = await loadKernels();
});

const open = (mesh: LaidMesh, bakes: readonly Bake[], side = SIDE, layers = [paintLayer('p', 'P')]): Engine =>
	openBakes(kernels, mesh, bakes, side, layers);

describe('curvature', () => {
	test('of a tube is one over its radius, of a ball two, and smooth over their facets', () => {
		for (const [mesh, radius, ways] of [
			[tube(), 1, 1],
			[ball(), 1.3, 2],
		] as const) {
			const { corners } = bendOf(mesh, 40);
			// Away from the open rims, where half of the surface is missing.
			const inner = [...corners].filter((_, corner) => {
				const y = mesh.positions[(mesh.indices[corner] as number) * 3 + 1] as number;
				return Math.abs(y) < 0.9;
			});
			const mean = inner.reduce((a, b) => a + b, 0) / inner.length;
			expect(mean).toBeCloseTo(ways / radius, 1);
			expect(Math.max(...inner) - Math.min(...inner)).toBeLessThan(0.12);
		}
	});
	test('of a box lies along its edges alone, as wide as it is asked for, and nowhere on a floor', () => {
		const mesh = box();
		const unit = 50 / meshBounds(mesh).radius;
		const width = 10;
		const engine = open(mesh, [toneBake('b', 'Edges', 'curvature', { width })]);
		const tones = bakedTones(engine);
		let [sum, count] = [0, 0];
		eachTexel(engine, (i, _face, place) => {
			// On a side of the box the nearest edge is where the second largest coordinate ends.
			const [, second] = place.map(Math.abs).sort((a, b) => b - a) as [number, number, number];
			const off = (1 - second) * unit;
			sum += Math.abs((tones[i] as number) - Math.max(0, 1 - off / width)) * 255;
			count++;
		});
		expect(count).toBeGreaterThan(2000);
		expect(sum / count).toBeLessThan(1);
		engine.close();
	});
	test('tells hollows from edges, and both stand about a mid-grey', () => {
		const mesh = blocks();
		const kinds = ['edges', 'hollows', 'both'] as const;
		const engine = open(
			mesh,
			kinds.map((of) => toneBake(of, of, 'curvature', { of, width: 4 })),
		);
		const [edges, hollows, both] = kinds.map((of) => bakedTones(engine, of)) as [
			Float32Array,
			Float32Array,
			Float32Array,
		];
		eachTexel(engine, (i) => {
			const wanted = Math.min(1, Math.max(0, 0.5 + ((edges[i] as number) - (hollows[i] as number)) / 2));
			expect(Math.abs((both[i] as number) - wanted)).toBeLessThan(0.01);
		});
		expect(Math.max(...edges)).toBeGreaterThan(0.9);
		// The upper block stands on the lower one without being joined to it: where they only touch there is no bend.
		expect(Math.max(...hollows)).toBe(0);
		const joined = createMeshBuilder();
		joined.part('Step');
		const line = [
			[0, 1],
			[2, 1],
			[2, 0],
			[4, 0],
		] as const;
		joined.grid(
			3,
			1,
			(u, v) => {
				const at = line[Math.round(u * 3)] as readonly [number, number];
				return [at[0], at[1], 4 * v];
			},
			{ x: 0.05, y: 0.05, w: 0.9, h: 0.9 },
		);
		const step = { ...joined.mesh(), normals: null };
		const second = open(
			step,
			kinds.map((of) => toneBake(of, of, 'curvature', { of, width: 4 })),
		);
		expect(Math.max(...bakedTones(second, 'edges'))).toBeGreaterThan(0.85);
		expect(Math.max(...bakedTones(second, 'hollows'))).toBeGreaterThan(0.85);
		engine.close();
		second.close();
	});
});

describe('thickness', () => {
	test('of a slab is how far it is through it, wherever it is looked through straight', () => {
		const builder = createMeshBuilder();
		builder.part('Slab');
		addBox(
			builder,
			[0, 0, 0],
			[8, 1, 8],
			Array.from({ length: 6 }, (_, i) => ({
				x: 0.02 + 0.33 * (i % 3),
				y: 0.02 + 0.5 * Math.floor(i / 3),
				w: 0.28,
				h: 0.4,
			})),
		);
		const mesh = builder.mesh();
		const unit = 50 / meshBounds(mesh).radius;
		const engine = open(mesh, [toneBake('b', 'Thickness', 'thickness', { reach: 40, spread: 1, rays: 1 })]);
		const tones = bakedTones(engine);
		let seen = 0;
		eachTexel(engine, (i, _face, [, y]) => {
			if (Math.abs(y) < 0.499) return;
			seen++;
			expect(Math.abs((tones[i] as number) * 40 - unit)).toBeLessThan(0.05);
		});
		expect(seen).toBeGreaterThan(1000);
		engine.close();
	});
	test('of a ball straight through is its chord', () => {
		const mesh = ball();
		const engine = open(mesh, [toneBake('b', 'Thickness', 'thickness', { reach: 200, spread: 1, rays: 1 })]);
		const tones = bakedTones(engine);
		const through = [...tones].filter((tone) => tone > 0).map((tone) => tone * 200);
		// Through its middle, less what its facets lack; where there is an open end there is nothing to meet.
		const middle = through.sort((a, b) => a - b)[through.length >> 1] as number;
		expect(Math.abs(middle - 100)).toBeLessThan(2.5);
		engine.close();
	});
});

test('facing any way is the angle to it, exactly; height is exact, of the model or of each part', () => {
	const mesh = ball();
	const engine = open(mesh, [
		toneBake('f', 'Facing', 'facing', { axis: 'any', turn: 35, rise: 20, spread: 180 }),
		toneBake('h', 'Height', 'height', { from: 0, to: 1 }),
	]);
	const [facing, height] = [bakedTones(engine, 'f'), bakedTones(engine, 'h')];
	const way = directionOf(35, 20);
	let [low, high] = [Infinity, -Infinity];
	for (let v = 1; v < mesh.positions.length; v += 3) {
		low = Math.min(low, mesh.positions[v] as number);
		high = Math.max(high, mesh.positions[v] as number);
	}
	let [off, count] = [0, 0];
	eachTexel(engine, (i, _face, [x, y, z]) => {
		const length = Math.hypot(x, y, z);
		const toward = (x * way[0] + y * way[1] + z * way[2]) / length;
		off += Math.abs((facing[i] as number) - (toward + 1) / 2);
		count++;
		expect(Math.abs((height[i] as number) - Math.min(1, Math.max(0, (y - low) / (high - low))))).toBeLessThan(2e-4);
	});
	// Normals between vertices are not those of a true ball, least of all beside the faces.
	expect(off / count).toBeLessThan(0.006);
	engine.close();
	const two = createMeshBuilder();
	for (const [name, up] of [
		['Low', 0],
		['High', 3],
	] as const) {
		two.part(name);
		two.grid(8, 1, (u, v) => around(u, 1, up + 1 - v), { x: up ? 0.55 : 0.05, y: 0.1, w: 0.4, h: 0.8 });
	}
	const parts = open(two.mesh(), [toneBake('b', 'Height', 'height', { from: 0, to: 1, over: 'part' })]);
	const each = bakedTones(parts);
	eachTexel(parts, (i, face, [, y]) => {
		const up = parts.scene('m')?.partOfFace(face) === 1 ? 3 : 0;
		expect(Math.abs((each[i] as number) - Math.min(1, Math.max(0, y - up)))).toBeLessThan(2e-3);
	});
	parts.close();
});

test('what only its own part hides, and what the ground hides', () => {
	const on = createMeshBuilder();
	for (const [name, at] of [
		['Lower', [0, 0, 0]],
		['Upper', [0, 1.01, 0]],
	] as const) {
		on.part(name);
		addBox(
			on,
			at as [number, number, number],
			[2, 1, 2],
			Array.from({ length: 6 }, (_, i) => ({
				x: 0.01 + 0.165 * i,
				y: name === 'Lower' ? 0.05 : 0.55,
				w: 0.14,
				h: 0.4,
			})),
		);
	}
	const of = { falls: 'alike', reach: 300, rays: 64 };
	const engine = open(on.mesh(), [
		toneBake('all', 'All', 'occlusion', of),
		toneBake('own', 'Own', 'occlusion', { ...of, by: 'part' }),
		toneBake('floor', 'Floor', 'occlusion', { ...of, by: 'part', ground: 'level' }),
	]);
	const [all, own, floor] = ['all', 'own', 'floor'].map((id) => bakedTones(engine, id)) as [
		Float32Array,
		Float32Array,
		Float32Array,
	];
	expect(Math.max(...own)).toBe(0);
	expect(Math.max(...all)).toBeGreaterThan(0.9);
	let sides = 0;
	eachTexel(engine, (i, face, place) => {
		if (engine.scene('m')?.partOfFace(face) !== 0 || Math.abs(place[1]) > 0.45) return;
		// An upright side sees the ground with its lower half.
		sides++;
		expect(Math.abs((floor[i] as number) - 0.5)).toBeLessThan(0.1);
	});
	expect(sides).toBeGreaterThan(300);
	engine.close();
});

test('a bake is undone and done again; what it is made of says when it is made anew; recipes and light read it', () => {
	const recipe = [{ ...newStep('bake', 'x'), mix: 'replace', bake: 'b' }] as RecipeStep[];
	const [warm] = lightPresets as [(typeof lightPresets)[number]];
	const rig = { ...warm.rig, occlusion: { ...warm.rig.occlusion, bake: 'b' } };
	const layers = [
		washLayer('w', 'W', '#201018', { mask: { surface: 'w-m', on: true, recipe } }),
		lightLayer('l', 'Light', rig, { mode: 'multiply' }),
	];
	const engine = open(blocks(), [], 96, layers as never);
	const maskOf = (): Uint8Array => {
		engine.refresh(() => false);
		return pictureOfSurface(kernels, engine.surface('w~mask') as Surface).data;
	};
	const lightOf = (): Uint8Array => {
		engine.refresh(() => false);
		return pictureOfSurface(kernels, engine.surface('l~fill') as Surface).data;
	};
	// A bake that is not there does nothing.
	expect(Math.min(...maskOf())).toBe(255);
	const unlit = lightOf();
	engine.run({ do: 'bakes.set', model: 'm', bakes: [toneBake('b', 'Hollows', 'occlusion', { reach: 30, rays: 16 })] });
	const tones = bakedTones(engine);
	const mask = maskOf();
	expect(
		mask.every(
			(v, i) => v === Math.round((tones[i] as number) * 255) || Math.abs(v - (tones[i] as number) * 255) < 0.51,
		),
	).toBe(true);
	expect(Math.max(...mask)).toBeGreaterThan(50);
	const lit = lightOf();
	expect(lit.some((v, i) => v < (unlit[i] as number) - 20)).toBe(true);
	expect(lit.every((v, i) => v <= (unlit[i] as number))).toBe(true);
	// Another name is no other bake: nothing is due.
	const [kept] = (engine.project.models[0]?.bakes ?? []) as [Bake];
	engine.run({ do: 'bakes.set', model: 'm', bakes: [{ ...kept, name: 'Dark' }] });
	expect(engine.due).toBe(false);
	engine.run({ do: 'bakes.set', model: 'm', bakes: [toneBake('b', 'Dark', 'occlusion', { reach: 3, rays: 16 })] });
	expect(engine.due).toBe(true);
	expect([...maskOf()].reduce((a, b) => a + b, 0)).toBeLessThan([...mask].reduce((a, b) => a + b, 0));
	expect(engine.undo()?.words).toBe('Change the bake "Dark"');
	expect(Buffer.from(maskOf()).equals(Buffer.from(mask))).toBe(true);
	engine.undo();
	expect(engine.undo()?.words).toBe('Bake "Hollows"');
	expect(engine.surface('b~s')).toBeUndefined();
	expect(Math.min(...maskOf())).toBe(255);
	expect(Buffer.from(lightOf()).equals(Buffer.from(unlit))).toBe(true);
	const before = engine.project;
	expect(() => engine.run({ do: 'bakes.set', model: 'm', bakes: [{ ...kept, name: '' }] })).toThrow(/name/);
	expect(() => engine.run({ do: 'bakes.set', model: 'm', bakes: [kept, kept] })).toThrow(/already/);
	expect(() => engine.run({ do: 'bakes.set', model: 'gone', bakes: [] })).toThrow(/not in this project/);
	const broken = { ...kept, step: { ...newStep('tap', 'source'), mix: 'replace', layer: 'w' } };
	expect(() => engine.run({ do: 'bakes.set', model: 'm', bakes: [broken as never] })).toThrow(/Nothing was changed/);
	expect(engine.project).toBe(before);
	engine.close();
});

test('on meshes without normals, of one face, with faces of no area and open shells every bake is made', () => {
	const one: LaidMesh = {
		positions: Float32Array.of(0, 0, 0, 1, 0, 0, 0, 1, 0),
		normals: null,
		uvs: Float32Array.of(0.1, 0.1, 0.9, 0.1, 0.1, 0.9),
		indices: Uint32Array.of(0, 1, 2),
		parts: [{ name: 'One', firstFace: 0, faces: 1 } as LaidMesh['parts'][0]],
	};
	const pinched: LaidMesh = {
		...one,
		indices: Uint32Array.of(0, 1, 2, 0, 0, 1, 1, 1, 1),
		parts: [{ ...(one.parts[0] as LaidMesh['parts'][0]), faces: 3 }],
	};
	for (const mesh of [one, pinched, { ...tube(), normals: null }]) {
		const engine = open(
			mesh,
			bakedSteps.map((step) => toneBake(step, step, step)),
			64,
		);
		for (const step of bakedSteps) {
			const tones = bakedTones(engine, step);
			expect(tones.every((tone) => tone >= 0 && tone <= 1)).toBe(true);
		}
		engine.close();
	}
});

/** The long run has as many faces as a sculpt: npm run test:long. */
const MANY: readonly [number, number] = process.env.LONG ? [460, 220] : [140, 70];
test('of very many faces every bake is made, and the shape hides what the same of few faces does', () => {
	const steps = bakedSteps.map((step) => toneBake(step, step, step, step === 'occlusion' ? { rays: 16 } : {}));
	const [few, many] = [lump(72, 36), lump(...MANY)].map((mesh) => {
		const engine = open(mesh, steps, 64);
		const tones = bakedSteps.map((step) => bakedTones(engine, step));
		engine.close();
		return tones;
	}) as [Float32Array[], Float32Array[]];
	bakedSteps.forEach((step, i) => {
		const [one, other] = [few[i], many[i]] as [Float32Array, Float32Array];
		const off = one.reduce((sum, tone, k) => sum + Math.abs(tone - (other[k] as number)), 0) / one.length;
		if (['occlusion', 'height'].includes(step)) expect(off).toBeLessThan(0.06);
		expect(other.every((tone) => tone >= 0 && tone <= 1)).toBe(true);
		expect(other.some((tone) => tone > 0)).toBe(true);
	});
});

test('colours of normals and of pieces: every island one colour, clear beside the model', () => {
	const engine = open(box(), [
		{ id: 'n', name: 'Normals', bake: 'normals' },
		{ id: 'i', name: 'Ids', bake: 'ids', by: 'island', seed: 1 },
	]);
	engine.refresh(() => false);
	const [normals, ids] = ['n', 'i'].map(
		(id) => pictureOfSurface(kernels, engine.surface(`${id}~s`) as Surface).data,
	) as [Uint8Array, Uint8Array];
	const colors = new Map<number, Set<string>>();
	const scene = engine.scene('m');
	eachTexel(engine, (i, face, place) => {
		const island = scene?.topology.islandOfFace[face] as number;
		const set = colors.get(island) ?? new Set();
		colors.set(island, set.add([...ids.subarray(i * 4, i * 4 + 4)].join()));
		const axis = place.map(Math.abs).indexOf(Math.max(...place.map(Math.abs)));
		if (Math.max(...place.map(Math.abs).filter((_, k) => k !== axis)) > 0.99) return;
		const want = [128, 128, 128];
		want[axis] = (place[axis] as number) > 0 ? 255 : 0;
		for (let k = 0; k < 3; k++)
			expect(Math.abs((normals[i * 4 + k] as number) - (want[k] as number))).toBeLessThanOrEqual(1);
	});
	expect([...colors.values()].every((set) => set.size === 1)).toBe(true);
	expect(new Set([...colors.values()].flatMap((set) => [...set])).size).toBe(6);
	expect(ids.some((_, i) => i % 4 === 3 && ids[i] === 0)).toBe(true);
	engine.close();
});

test('a bake keeps strokes and edits to where it is light, or dark, with a soft border; other faces named stay named', () => {
	const mesh = box();
	const engine = open(mesh, [toneBake('b', 'Edges', 'curvature', { width: 20 })]);
	const tones = bakedTones(engine);
	const tone = { of: 'bake', id: 'b', from: 0.5, soft: 0.2, way: 'in' } as const;
	const guard = { way: 'only', parts: [], islands: [], faces: [], tone } as const;
	const alphaOf = (): Uint8Array =>
		pictureOfSurface(kernels, engine.surface('p') as Surface).data.filter((_, i) => i % 4 === 3);
	const within = (check: (alpha: number, tone: number) => void): void => {
		const alpha = alphaOf();
		eachTexel(engine, (i) => check(alpha[i] as number, tones[i] as number));
	};
	engine.edit('s', 'p', { do: 'fill', color: '#ff0000' }, { guard });
	let seen: readonly [number, number] = [0, 0];
	within((alpha, at) => {
		expect(Math.abs(alpha - 255 * toneLets(tone, Math.floor(at * 255.996) / 255))).toBeLessThan(4);
		seen = [seen[0] + (alpha > 250 ? 1 : 0), seen[1] + (alpha < 5 ? 1 : 0)];
	});
	expect(Math.min(...seen)).toBeGreaterThan(100);
	engine.undo();
	// A stroke over the whole sheet, kept off the edges.
	const off = { ...guard, tone: { ...tone, way: 'out' as const } };
	const spec = {
		tool: 'draw' as const,
		tip: { ...defaultTip, size: 90, strength: 1, edge: 1, rules: [] },
		color: '#00ff00',
		place: { on: 'sheet' as const, sheet: 's' },
		layers: { s: 'p' },
		guard: off,
	};
	const sample = (x: number, y: number, t: number) => ({ x, y, pressure: 1, tiltX: 0, tiltY: 0, time: t });
	engine.begin(spec, [sample(30, 30, 0)]);
	engine.extend([sample(100, 30, 16), sample(100, 100, 32), sample(30, 100, 48), sample(64, 64, 60)] as never);
	engine.end();
	within((alpha, at) => {
		if (at > 0.65) expect(alpha).toBe(0);
	});
	expect(alphaOf().filter((v) => v > 200).length).toBeGreaterThan(500);
	// Nothing lets paint through: it is said why.
	engine.begin({ ...spec, guard: { ...guard, tone: { ...tone, from: 1, soft: 0, way: 'in' } } }, [sample(64, 20, 0)]);
	engine.extend([sample(66, 22, 20)] as never);
	engine.end();
	expect(engine.missed?.text).toMatch(/lets nothing through/);
	engine.close();
});

/** Normals of a bumpy height, as RGBA8; green up or down. */
function bumps(up: boolean, side = 64): Picture {
	const data = new Uint8Array(side * side * 4);
	for (let y = 0; y < side; y++)
		for (let x = 0; x < side; x++) {
			const at = (u: number, v: number): number => 3 * Math.sin(u * 0.31 + v * 0.17) + 2 * Math.cos(v * 0.4 - u * 0.11);
			const [dx, dy] = [(at(x + 1, y) - at(x - 1, y)) / 2, (at(x, y + 1) - at(x, y - 1)) / 2];
			const length = Math.hypot(dx, dy, 1);
			const n = [-dx / length, ((up ? 1 : -1) * dy) / length, 1 / length];
			data.set([...n.map((v) => Math.round(127.5 + 127.5 * v)), 255], (y * side + x) * 4);
		}
	return { width: side, height: side, data };
}

test('a picture of normals says which way its green goes, and how sure; other pictures say nothing', () => {
	expect(greenWay(bumps(true))).toMatchObject({ way: 'up' });
	expect(greenWay(bumps(false))).toMatchObject({ way: 'down' });
	expect(greenWay(bumps(false))?.sure).toBeGreaterThan(0.9);
	const level = { width: 8, height: 8, data: new Uint8Array(256).map((_, i) => [128, 128, 255, 255][i % 4] as number) };
	expect(greenWay(level)?.sure).toBe(0);
	const colors = {
		width: 8,
		height: 8,
		data: new Uint8Array(256).map((_, i) => ((i * 37) % 256) | (i % 4 === 3 ? 255 : 0)),
	};
	expect(greenWay(colors)).toBeNull();
});

test('a map from elsewhere gives one of its channels, decoded or turned, at any size; one that is not here nothing', () => {
	const side = 32;
	const data = new Uint8Array(side * side * 4).map((_, i) => {
		const [x, y] = [(i >> 2) % side, Math.floor((i >> 2) / side)];
		return [x * 8, y * 8, 200, 255][i % 4] as number;
	});
	const map = {
		id: 'm',
		name: 'Map',
		bake: 'map',
		picture: 'mine',
		channel: 'red',
		bytes: 'plain',
		turned: false,
	} as const;
	const engine = open(box(), [
		map,
		{ ...map, id: 'g', channel: 'green', turned: true },
		{ ...map, id: 'b', channel: 'blue', bytes: 'srgb' },
	]);
	engine.refresh(() => false);
	expect(Math.max(...bakedTones(engine, 'm'))).toBe(0);
	engine.pictures.put('mine', { width: side, height: side, data });
	engine.renew();
	const [red, green, blue] = ['m', 'g', 'b'].map((id) => bakedTones(engine, id)) as [
		Float32Array,
		Float32Array,
		Float32Array,
	];
	for (let i = 0; i < red.length; i++) {
		const [x, y] = [i % SIDE, Math.floor(i / SIDE)];
		if (Math.min(x, y) < 4 || Math.max(x, y) > SIDE - 5) continue;
		expect(Math.abs((red[i] as number) * 255 - (((x + 0.5) / SIDE) * side - 0.5) * 8)).toBeLessThan(2);
		expect(Math.abs(255 - (green[i] as number) * 255 - (((y + 0.5) / SIDE) * side - 0.5) * 8)).toBeLessThan(2);
		expect(Math.abs((blue[i] as number) - 0.577)).toBeLessThan(0.01);
	}
	engine.close();
});

test('warped along a bake’s slope a tone is pushed the way that the bake rises; without the bake it stays', () => {
	const height = toneBake('h', 'Height', 'facing', { axis: 'x', spread: 180 });
	const base = [{ ...newStep('height', 'a'), mix: 'replace', from: 0.48, to: 0.52 }] as RecipeStep[];
	const maskOf = (steps: readonly RecipeStep[], bakes: readonly Bake[]): Uint8Array => {
		const layer = washLayer('w', 'W', '#201018', { mask: { surface: 'w-m', on: true, recipe: steps } });
		const engine = open(ball(), bakes, SIDE, [layer as never]);
		engine.refresh(() => false);
		const { data } = pictureOfSurface(kernels, engine.surface('w~mask') as Surface);
		engine.close();
		return data;
	};
	const warp = { ...newStep('warp', 'b'), along: 'bake', bake: 'h', by: 12, size: 200 } as RecipeStep;
	const plain = maskOf(base, [height]);
	const differs = (other: Uint8Array): number => other.filter((v, i) => Math.abs(v - (plain[i] as number)) > 60).length;
	// But for what lies beside the model, and is seen over seams.
	expect(differs(maskOf([...base, warp], []))).toBeLessThan(SIDE / 4);
	// Height changes upwards, facing along X across: what is level is pushed along itself and hardly moves.
	expect(differs(maskOf([...base, warp], [height]))).toBeLessThan(SIDE * 3);
	const up = toneBake('h', 'Up', 'facing', { axis: 'y', spread: 180 });
	expect(differs(maskOf([...base, warp], [up]))).toBeGreaterThan(SIDE * 2);
});

test('a width in texels is as wide as the same in the model’s measure', () => {
	const mesh = box();
	const engine = open(mesh, [toneBake('t', 'Texels', 'curvature', { width: 6, unit: 'texels' })]);
	const [scene, sheet] = [engine.scene('m'), engine.project.sheets[0] as Sheet];
	if (!scene) throw new Error('no scene');
	const texels = bakedTones(engine, 't');
	// A side of two units is 0.26 of the sheet.
	const per = 2 / (0.26 * SIDE);
	let [sum, count] = [0, 0];
	eachTexel(engine, (i, _face, place) => {
		const [, second] = place.map(Math.abs).sort((a, b) => b - a) as [number, number, number];
		sum += Math.abs((texels[i] as number) - Math.max(0, 1 - (1 - second) / per / 6));
		count++;
	});
	expect(sum / count).toBeLessThan(0.02);
	expect(sheet.width).toBe(SIDE);
	engine.close();
});
