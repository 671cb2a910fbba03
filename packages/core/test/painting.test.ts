/** Strokes through the engine: tools, stencils, guards, mirrors and stamps, on the sheet and on models. */
import type { Kernels } from '@eppu/kernels';
import { loadKernels } from '@eppu/kernels/node';
import { beforeAll, describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { facesOfTile, seamReader } from '../src/atlas/index.ts';
import { paintLayer } from '../src/document/index.ts';
import { type Engine, openEngine, type StrokeSpec } from '../src/engine/index.ts';
import type { LaidMesh } from '../src/mesh/index.ts';
import { homeCamera } from '../src/projection/index.ts';
import {
	defaultTip,
	type Sample,
	type StencilUse,
	shippedStencilPicture,
	shippedTips,
	type Tip,
	tipOfShipped,
	unruled,
} from '../src/stroke/index.ts';
import { ball, box, projectOf, tube } from './oracle/meshes.ts';
import { seeded } from './oracle/surfaces.ts';

let kernels: Kernels;
beforeAll(async () => {
	kernels = await loadKernels();
});

const SIDE = 256;
const open = (mesh: LaidMesh, side = SIDE): Engine =>
	openEngine(kernels, projectOf(mesh, side), [], new Map([['m', mesh]]));
const sight = { camera: { ...homeCamera, yaw: 0, pitch: 0, distance: 8 }, width: 300, height: 300 };
const plain: Tip = { ...unruled(defaultTip), size: 24, strength: 1, edge: 1 };
const onSheet: StrokeSpec = {
	tool: 'draw',
	tip: plain,
	color: '#cc3311',
	place: { on: 'sheet', sheet: 's' },
	layers: { s: 'p' },
	seed: 5,
};
const onModel: StrokeSpec = { ...onSheet, place: { on: 'model', model: 'm', sight } };
const stroke = (
	engine: Engine,
	spec: StrokeSpec,
	samples: readonly Sample[],
	cuts: readonly number[] = [1],
): boolean => {
	const places = [0, ...cuts.filter((cut) => cut > 0 && cut < samples.length).sort((a, b) => a - b), samples.length];
	if (!engine.begin(spec, samples.slice(0, places[1])).ok) return false;
	for (let i = 1; i + 1 < places.length; i++) engine.extend(samples.slice(places[i], places[i + 1]));
	engine.end();
	return true;
};
const line = (...places: readonly (readonly [number, number])[]): Sample[] =>
	places.map(([x, y], i) => ({ x, y, pressure: 1, time: i * 16 }));
const texel = (data: Uint8Array, x: number, y: number, side = SIDE): number[] => [
	...data.subarray((y * side + x) * 4, (y * side + x) * 4 + 4),
];
type P2 = [number, number];
const pointOf = (mesh: LaidMesh, vertex: number): number[] => [...mesh.positions.subarray(vertex * 3, vertex * 3 + 3)];
const endsOf = (
	mesh: LaidMesh,
	{ face, corner }: { readonly face: number; readonly corner: number },
): [number, number] => [0, 1].map((k) => mesh.indices[face * 3 + ((corner + k) % 3)] as number) as [number, number];
/** Stripes of two colours across the sheet. */
const striped = (engine: Engine, width = 16, colors = ['#d04020', '#2050c0'] as const): void => {
	const data = new Uint8Array(SIDE * SIDE * 4);
	for (let i = 0; i < SIDE * SIDE; i++) {
		const n = Number.parseInt((colors[Math.floor((i % SIDE) / width) % 2] as string).slice(1), 16);
		data.set([n >> 16, (n >> 8) & 255, n & 255, 255], i * 4);
	}
	engine.lay('s', 'p', 'color', { width: SIDE, height: SIDE, data }, 'Stripes');
};

test('any stroke gives the same bytes however its samples come in batches, with any tip, tool, mirror, stencil and guard', () => {
	const tools = ['draw', 'wipe', 'soften', 'smear', 'lighten', 'darken', 'contrast', 'saturate', 'hue'] as const;
	const sample = fc.record({
		x: fc.integer({ min: 40, max: 260 }),
		y: fc.integer({ min: 60, max: 240 }),
		pressure: fc.integer({ min: 0, max: 8 }).map((v) => v / 8),
		tilt: fc.constantFrom(0, 0.4),
		azimuth: fc.constantFrom(0, 2),
	});
	const spec = fc.record({
		tool: fc.constantFrom(...tools),
		shape: fc.constantFrom(...shippedTips.map((tip) => tip.name)),
		model: fc.boolean(),
		planes: fc.subarray([0, 1, 2]),
		steady: fc.constantFrom(0, 0.6),
		stencil: fc.constantFrom(null, 'honeycomb', 'shingles'),
		guard: fc.boolean(),
		seed: fc.nat(1000),
	});
	const [body, can] = [ball(), box()];
	const engines = [open(body), open(can)];
	fc.assert(
		fc.property(
			spec,
			fc.array(sample, { minLength: 2, maxLength: 9 }),
			fc.array(fc.nat(8), { maxLength: 4 }),
			fc.boolean(),
			(how, samples, cuts, round) => {
				const engine = engines[round ? 0 : 1] as Engine;
				striped(engine);
				const timed = samples.map((each, i) => ({ ...each, time: i * 12 }));
				const given: StrokeSpec = {
					...(how.model ? onModel : onSheet),
					tool: how.tool,
					tip: { ...tipOfShipped(how.shape, 26), steady: how.steady },
					seed: how.seed,
					amount: 0.6,
					mirrors: {
						planes: how.planes.map((axis) => ({
							normal: [0, 1, 2].map((k) => (k === axis ? 1 : 0)) as unknown as [number, number, number],
							at: 0,
						})),
						lines: how.planes.length ? [{ along: 'x', at: SIDE / 2 }] : [],
					},
					stencil: how.stencil
						? {
								picture: how.stencil,
								place: [0.01, 0.002, 0.3, -0.002, 0.01, 0.1],
								space: 'view',
								tile: true,
								invert: false,
								soft: 0,
								opacity: 0.9,
								mode: how.stencil === 'shingles' ? 'print' : 'through',
							}
						: null,
					guard: how.guard ? { way: 'only', parts: [], islands: [0, 1, 4], faces: [] } : null,
				};
				const once = (batches: readonly number[]): Uint8Array => {
					stroke(engine, given, timed, batches);
					const got = engine.composite('s').data;
					if (engine.history.done.at(-1)?.words !== 'Stripes') engine.undo();
					return got;
				};
				const [a, b] = [once([1]), once(cuts)];
				engine.undo();
				return Buffer.compare(a, b) === 0;
			},
		),
		{ numRuns: 18 },
	);
});

describe('a stencil', () => {
	const use = (change: Partial<StencilUse>): StencilUse => ({
		picture: 'honeycomb',
		place: [1 / 160, 0, -0.3, 0, 1 / 160, -0.2],
		space: 'view',
		tile: true,
		invert: false,
		soft: 0,
		opacity: 1,
		mode: 'through',
		...change,
	});
	/** The plain twin: bilinear in the picture, repeated. */
	const sampled = (name: string, u: number, v: number): number[] => {
		const picture = shippedStencilPicture(name);
		if (!picture) throw new Error(name);
		const { width, height, rgba, tone } = picture;
		const [x, y] = [u * width - 0.5, v * height - 0.5];
		const [ix, iy] = [Math.floor(x), Math.floor(y)];
		const out = [0, 0, 0, 0];
		for (const [dx, dy] of [
			[0, 0],
			[1, 0],
			[0, 1],
			[1, 1],
		] as const) {
			const w = (dx ? x - ix : 1 - x + ix) * (dy ? y - iy : 1 - y + iy);
			const at = ((((iy + dy) % height) + height) % height) * width + ((((ix + dx) % width) + width) % width);
			for (let k = 0; k < 3; k++) out[k] = (out[k] as number) + w * (rgba[at * 4 + k] as number);
			out[3] = (out[3] as number) + w * (tone[at] as number);
		}
		return out;
	};

	test('lets paint through by its tone, and holds it back inverted', () => {
		for (const invert of [false, true]) {
			const engine = open(box());
			const small = use({ place: [1 / 600, 0, 0, 0, 1 / 600, 0], invert });
			stroke(engine, { ...onSheet, tip: { ...plain, size: 120 }, stencil: small }, line([60, 100], [200, 100]));
			const { data } = engine.composite('s');
			let worst = 0;
			for (let x = 70; x < 190; x += 3)
				for (let y = 60; y < 140; y += 3) {
					const tone = sampled('honeycomb', (x + 0.5) / 600, (y + 0.5) / 600)[3] as number;
					worst = Math.max(worst, Math.abs((texel(data, x, y)[3] as number) - (invert ? 255 - tone : tone)));
				}
			expect(worst).toBeLessThanOrEqual(1.5);
			engine.close();
		}
	});

	test('printed straight on a box face is the picture itself, read independently, within 2/255 on average', () => {
		const side = 1024;
		const engine = open(box(), side);
		const camera = { ...homeCamera, yaw: 0, pitch: 0, parallel: true, distance: 5 };
		const view = { camera, width: 400, height: 400 };
		const printed = use({ picture: 'shingles', mode: 'print', place: [1 / 500, 0, 0.1, 0, 1 / 500, 0.05] });
		stroke(
			engine,
			{
				...onSheet,
				place: { on: 'model', model: 'm', sight: view },
				tip: { ...plain, size: 380, spacing: 0.05 },
				stencil: printed,
			},
			line([120, 200], [280, 200]),
		);
		const { data } = engine.composite('s');
		const scene = engine.scene('m');
		if (!scene) throw new Error('no scene');
		const sheet = engine.project.sheets[0];
		if (!sheet) throw new Error('no sheet');
		const map = scene.mapOf(sheet);
		let [sum, count] = [0, 0];
		for (let y = 0; y < side; y += 2)
			for (let x = 0; x < side; x += 2) {
				const i = y * side + x;
				if ((data[i * 4 + 3] as number) < 255 || !map.faceOfTexel[i]) continue;
				const spot = scene.spotOn(sheet, view, x + 0.5, y + 0.5);
				if (!spot?.screen) continue;
				const [u, v] = [spot.screen.x / 500 + 0.1, spot.screen.y / 500 + 0.05];
				const want = sampled('shingles', u, v);
				for (let k = 0; k < 3; k++) sum += Math.abs((data[i * 4 + k] as number) - (want[k] as number));
				count += 3;
			}
		expect(count).toBeGreaterThan(10_000);
		expect(sum / count).toBeLessThanOrEqual(2);
		engine.close();
	});

	test('lets nothing through beside it, where it does not repeat', () => {
		const engine = open(box());
		const single = use({ picture: 'leaf', tile: false, place: [1 / 60, 0, -100 / 60, 0, 1 / 60, -70 / 60] });
		stroke(engine, { ...onSheet, tip: { ...plain, size: 200 }, stencil: single }, line([100, 100], [150, 100]));
		const { data } = engine.composite('s');
		let inside = 0;
		for (let i = 0; i < SIDE * SIDE; i++) {
			const [x, y] = [i % SIDE, Math.floor(i / SIDE)];
			if (!data[i * 4 + 3]) continue;
			expect(x >= 99 && x < 161 && y >= 69 && y < 131).toBe(true);
			inside++;
		}
		expect(inside).toBeGreaterThan(300);
		engine.close();
	});
});

describe('a guard', () => {
	test('lets paint only on what it names, bleed and all, and on all else the other way round', () => {
		for (const way of ['only', 'not'] as const) {
			const engine = open(box());
			const guard = { way, parts: [], islands: [2], faces: [] };
			const begin = way === 'only' ? 0.7 : 0.2;
			stroke(
				engine,
				{ ...onSheet, tip: { ...plain, size: 120 }, guard },
				line([SIDE * begin, SIDE * 0.18], [SIDE * 0.5, SIDE * 0.6], [SIDE * (1 - begin), SIDE * 0.2]),
			);
			const { data } = engine.composite('s');
			const scene = engine.scene('m');
			const sheet = engine.project.sheets[0];
			if (!scene || !sheet) throw new Error('no scene');
			let [on, off] = [0, 0];
			for (let tile = 0; tile < 16; tile++) {
				const faces = facesOfTile(scene.mapOf(sheet), tile);
				faces.forEach((face, i) => {
					const [x, y] = [(tile % 4) * 64 + (i % 64), Math.floor(tile / 4) * 64 + Math.floor(i / 64)];
					if (!texel(data, x, y)[3]) return;
					if (face >= 0 && (scene.topology.islandOfFace[face] === 2) === (way === 'only')) on++;
					else off++;
				});
			}
			expect(on).toBeGreaterThan(500);
			expect(off).toBe(0);
			engine.close();
		}
	});
	test('lets a stroke begin outside; one that changes nothing says why, with a way out, and makes no step', () => {
		const engine = open(box());
		const guard = { way: 'only' as const, parts: [], islands: [], faces: [9999] };
		expect(engine.begin({ ...onModel, guard }, line([150, 150]))).toMatchObject({ ok: true });
		engine.end();
		expect(engine.missed).toMatchObject({ code: 'guarded', mend: { liftGuard: true } });
		expect(engine.history.done).toHaveLength(0);
		expect(engine.takeDelta()).toBeNull();
		engine.close();
	});
	test('answers a tip whose picture is not here, and changes nothing', () => {
		const engine = open(box());
		const begun = engine.begin({ ...onSheet, tip: { ...plain, shape: 'nowhere' } }, line([150, 150]));
		expect(begun).toMatchObject({ ok: false, refusal: { code: 'no-picture' } });
		expect(engine.takeDelta()).toBeNull();
		engine.close();
	});
});

describe('mirrors', () => {
	test('on a body that is its own mirror image, paint its mirror image', () => {
		const engine = open(box(), 512);
		stroke(
			engine,
			{
				...onModel,
				tip: { ...plain, size: 30, edge: 0.4 },
				place: { on: 'model', model: 'm', sight: { ...sight, width: 400, height: 400 } },
				mirrors: { planes: [{ normal: [1, 0, 0], at: 0 }], lines: [] },
			},
			line([140, 180], [170, 230], [180, 210]),
		);
		const scene = engine.scene('m');
		const sheet = engine.project.sheets[0];
		if (!scene || !sheet) throw new Error('no scene');
		const view = { ...sight, width: 400, height: 400 };
		let [painted, worst] = [0, 0];
		for (let y = 130; y < 270; y += 5)
			for (let x = 105; x < 295; x += 5) {
				const alpha = (sx: number): number => {
					const spot = scene.spotAt(engine.project.sheets, view, sx, y);
					return spot ? (engine.sample('s', spot.x, spot.y)[3] as number) : -1;
				};
				const [left, right] = [alpha(x), alpha(400 - x)];
				if (left > 128) painted++;
				worst = Math.max(worst, Math.abs(left - right));
			}
		expect(painted).toBeGreaterThan(20);
		// Texels of the two halves lie differently under the rim: less than a texel's step along it.
		expect(worst).toBeLessThan(70);
		engine.close();
	});
	test('say where the brush’s images are, and where the body has nothing to paint', () => {
		const engine = open(box());
		const scene = engine.scene('m');
		if (!scene) throw new Error('no scene');
		const plane = (at: number) => [{ normal: [1, 0, 0] as const, at }];
		const [same] = scene.mirrorsAt(sight, [plane(0)], 120, 150);
		expect(same?.there).toBe(true);
		expect(same?.x).toBeCloseTo(180, 4);
		expect(same?.y).toBeCloseTo(150, 4);
		const [beside] = scene.mirrorsAt(sight, [plane(3)], 120, 150);
		expect(beside?.there).toBe(false);
		engine.close();
	});
	test('on the sheet are exact to the grain of dabs', () => {
		const engine = open(box());
		const lines = [
			{ along: 'x' as const, at: SIDE / 2 },
			{ along: 'y' as const, at: SIDE / 2 },
		];
		stroke(
			engine,
			{ ...onSheet, tip: { ...plain, edge: 0.5 }, mirrors: { planes: [], lines } },
			line([30, 40], [80, 60], [60, 90]),
		);
		const { data } = engine.composite('s');
		let worst = 0;
		for (let y = 0; y < 128; y++)
			for (let x = 0; x < 128; x++) {
				const a = texel(data, x, y)[3] as number;
				for (const [mx, my] of [
					[255 - x, y],
					[x, 255 - y],
					[255 - x, 255 - y],
				] as const)
					worst = Math.max(worst, Math.abs(a - (texel(data, mx, my)[3] as number)));
			}
		expect(texel(data, 60, 55)[3]).toBe(255);
		// Dabs are set to a quarter of a texel.
		expect(worst).toBeLessThanOrEqual(4);
		engine.close();
	});
});

describe('stamps', () => {
	const painted = (engine: Engine): [number, number][] => {
		const { data } = engine.composite('s');
		const found: [number, number][] = [];
		for (let i = 0; i < SIDE * SIDE; i++) if (data[i * 4 + 3]) found.push([i % SIDE, Math.floor(i / SIDE)]);
		return found;
	};
	test('are as large as they are dragged out, in one step', () => {
		const engine = open(box());
		engine.begin({ ...onSheet, stamp: { repeat: 1, way: 'row' } }, line([128, 128], [158, 128]));
		engine.end();
		const xs = painted(engine).map(([x]) => x);
		expect(Math.max(...xs) - Math.min(...xs) + 1).toBeGreaterThanOrEqual(59);
		expect(Math.max(...xs) - Math.min(...xs) + 1).toBeLessThanOrEqual(61);
		expect(engine.history.done.map((step) => step.words)).toEqual(['Stamp on "Paint"']);
		engine.close();
	});
	test('repeat in a row and in a ring, each as often as asked', () => {
		for (const way of ['row', 'ring'] as const) {
			const engine = open(box());
			engine.begin(
				{ ...onSheet, tip: { ...plain, size: 10 }, stamp: { repeat: 6, way } },
				way === 'row' ? line([40, 128], [220, 128]) : line([128, 128], [200, 128]),
			);
			engine.end();
			const spots = painted(engine);
			const centers = Array.from({ length: 6 }, (_, i): [number, number] =>
				way === 'row'
					? [40 + 36 * i, 128]
					: [128 + 72 * Math.cos((Math.PI * i) / 3), 128 + 72 * Math.sin((Math.PI * i) / 3)],
			);
			for (const [cx, cy] of centers)
				expect(spots.filter(([x, y]) => Math.hypot(x - cx, y - cy) < 7).length).toBeGreaterThan(60);
			expect(spots.every(([x, y]) => centers.some(([cx, cy]) => Math.hypot(x - cx, y - cy) < 7))).toBe(true);
			engine.close();
		}
	});
});

describe('tools that change what lies there', () => {
	test('smearing pulls paint along, keeps one colour as it is, and can be undone', () => {
		const engine = open(box());
		const data = new Uint8Array(SIDE * SIDE * 4).map(
			(_, i) => [i % (SIDE * 4) < 512 ? 200 : 20, 60, 90, 255][i % 4] as number,
		);
		engine.lay('s', 'p', 'color', { width: SIDE, height: SIDE, data }, 'Halves');
		const before = engine.composite('s').data.slice();
		stroke(
			engine,
			{ ...onSheet, tool: 'smear', tip: { ...plain, size: 40, strength: 0.9, edge: 0.6 } },
			line([90, 128], [180, 128]),
		);
		const after = engine.composite('s').data;
		// Red is pulled over the border to the right; green and blue, the same on both sides, stay.
		expect(texel(after, 140, 128)[0]).toBeGreaterThan(100);
		expect(texel(after, 100, 128)[0]).toBeGreaterThan(150);
		let worst = 0;
		for (let i = 0; i < after.length; i++)
			if (i % 4 !== 0) worst = Math.max(worst, Math.abs((after[i] as number) - (before[i] as number)));
		expect(worst).toBeLessThanOrEqual(1);
		engine.undo();
		expect(Buffer.compare(engine.composite('s').data, before)).toBe(0);
		engine.close();
	});
	test('softening brings neighbours together and leaves even paint even', () => {
		const engine = open(box());
		striped(engine, 8);
		stroke(engine, { ...onSheet, tool: 'soften', tip: { ...plain, size: 60 } }, line([60, 128], [200, 128]));
		const { data } = engine.composite('s');
		const spread = (y: number): number => {
			const reds = Array.from({ length: 64 }, (_, i) => texel(data, 96 + i, y)[0] as number);
			return Math.max(...reds) - Math.min(...reds);
		};
		expect(spread(30)).toBeGreaterThan(150);
		expect(spread(128)).toBeLessThan(60);
		engine.close();
	});
	test('softening reads over a seam: two islands that meet take of each other’s colour', () => {
		const engine = open(box());
		const scene = engine.scene('m');
		const sheet = engine.project.sheets[0];
		if (!scene || !sheet) throw new Error('no scene');
		const map = scene.mapOf(sheet);
		// Every island its own colour.
		const data = new Uint8Array(SIDE * SIDE * 4);
		for (let tile = 0; tile < 16; tile++)
			facesOfTile(map, tile).forEach((face, i) => {
				if (face < 0) return;
				const island = scene.topology.islandOfFace[face] as number;
				const at = ((Math.floor(tile / 4) * 64 + Math.floor(i / 64)) * SIDE + (tile % 4) * 64 + (i % 64)) * 4;
				data.set(island % 2 ? [240, 20, 20, 255] : [20, 20, 240, 255], at);
			});
		engine.lay('s', 'p', 'color', { width: SIDE, height: SIDE, data }, 'Islands');
		const turned = { ...sight, camera: { ...sight.camera, yaw: 45 } };
		const spec: StrokeSpec = {
			...onModel,
			place: { on: 'model', model: 'm', sight: turned },
			tool: 'soften',
			tip: { ...plain, size: 64 },
		};
		expect(stroke(engine, spec, line([150, 110], [150, 190]))).toBe(true);
		const seen = [-1.5, 1.5].map((off) => {
			const spot = scene.spotAt(engine.project.sheets, turned, 150 + off, 150);
			if (!spot) throw new Error('beside the box');
			return { island: spot.island, color: engine.sample('s', spot.x, spot.y) };
		});
		expect(seen[0]?.island).not.toBe(seen[1]?.island);
		// Right at the seam both sides have come close to the mean of the two, if they differed at all.
		const before = seen.map(({ island }) => (island % 2 ? 240 : 20));
		if (before[0] !== before[1])
			for (const { color } of seen) {
				expect(color[0]).toBeGreaterThan(60);
				expect(color[0]).toBeLessThan(200);
			}
		else expect(before[0]).toBe(before[1]);
		engine.close();
	});
});

describe('seams', () => {
	test.each([
		['tube', tube],
		['box', box],
		['ball', ball],
	] as const)('of a %s lead to the place where the surface goes on', (_name, make) => {
		const engine = open(make());
		const scene = engine.scene('m');
		const sheet = engine.project.sheets[0];
		if (!scene || !sheet) throw new Error('no scene');
		const { mesh } = scene;
		const map = scene.mapOf(sheet);
		const reader = seamReader(mesh, scene.topology, map);
		const placeAt = (face: number, x: number, y: number): number[] => {
			const v = [0, 1, 2].map((k) => mesh.indices[face * 3 + k] as number);
			const [a, b, c] = v.map((i) => [...mesh.uvs.subarray(i * 2, i * 2 + 2)].map((w) => w * SIDE)) as [P2, P2, P2];
			const det = (b[0] - a[0]) * (c[1] - a[1]) - (c[0] - a[0]) * (b[1] - a[1]);
			const s = ((x - a[0]) * (c[1] - a[1]) - (c[0] - a[0]) * (y - a[1])) / det;
			const t = ((b[0] - a[0]) * (y - a[1]) - (x - a[0]) * (b[1] - a[1])) / det;
			const [p, q, r] = v.map((i) => pointOf(mesh, i)) as [number[], number[], number[]];
			return p.map((w, k) => (1 - s - t) * w + s * (q[k] as number) + t * (r[k] as number));
		};
		let [count, far] = [0, 0];
		for (let tile = 0; tile < 16; tile++) {
			const faces = facesOfTile(map, tile);
			const { place, x, y } = reader.partnersOf(tile);
			place.forEach((at, i) => {
				const [gx, gy] = [(tile % 4) * 64 + (at % 64) + 0.5, Math.floor(tile / 4) * 64 + Math.floor(at / 64) + 0.5];
				const [px, py] = [Math.floor(x[i] as number), Math.floor(y[i] as number)];
				const other = (map.faceOfTexel[py * SIDE + px] as number) - 1;
				if (other < 0) return;
				// Flat on: the gutter's own extrapolated place. Bent: at most as far apart as the surface bends there.
				const here = placeAt(faces[at] as number, gx, gy);
				const there = placeAt(other, x[i] as number, y[i] as number);
				count++;
				far = Math.max(far, Math.hypot(...here.map((v, k) => v - (there[k] as number))));
			});
		}
		expect(count).toBeGreaterThan(100);
		// The bleed is 6 texels, some 0.1 to 0.2 units: over a right angle at most √2 of that apart.
		expect(far).toBeLessThan(0.33);
		engine.close();
	});

	test.each([
		['tube', tube, { pitch: 0 }],
		['box', box, { yaw: 45, pitch: 20 }],
		['ball', ball, { pitch: 0 }],
	] as const)('are not seen under a thin stroke across a %s', (_name, make, turn) => {
		const side = 1024;
		const engine = open(make(), side);
		// A round body is turned until its upright seam is in the middle.
		const seam = engine.scene('m')?.topology.seams.find((each) => each.other);
		const [v0] = seam ? endsOf(make(), seam.one) : [0];
		const [x, , z] = pointOf(make(), v0 as number) as [number, number, number];
		const yaw = (Math.atan2(x, z) * 180) / Math.PI;
		const view = { ...sight, camera: { ...sight.camera, yaw, ...turn } };
		const random = seeded(3);
		const wavy = Array.from({ length: 30 }, (_, i) => ({
			x: 105 + i * 3.1,
			y: 150 + 14 * Math.sin(i * 0.5) + 3 * random(),
			pressure: 1,
		}));
		const spec: StrokeSpec = {
			...onModel,
			place: { on: 'model', model: 'm', sight: view },
			tip: { ...plain, size: 8, edge: 0 },
		};
		expect(stroke(engine, spec, wavy)).toBe(true);
		const scene = engine.scene('m');
		const sheet = engine.project.sheets[0];
		if (!scene || !sheet) throw new Error('no scene');
		const { data } = engine.composite('s');
		const { mesh, topology } = scene;
		/** Alpha on the sheet between texels, as a game reads it. */
		const read = (u: number, v: number): number => {
			const [x, y] = [u * side - 0.5, v * side - 0.5];
			const [ix, iy] = [Math.floor(x), Math.floor(y)];
			const a = (dx: number, dy: number): number => data[((iy + dy) * side + ix + dx) * 4 + 3] as number;
			const [s, t] = [x - ix, y - iy];
			return (a(0, 0) * (1 - s) + a(1, 0) * s) * (1 - t) + (a(0, 1) * (1 - s) + a(1, 1) * s) * t;
		};
		let [crossed, sum, worst] = [0, 0, 0];
		for (const { one, other } of topology.seams) {
			if (!other) continue;
			const seen = scene.viewOf(view);
			if (!seen.front[one.face] || !seen.front[other.face]) continue;
			const [a, b] = [endsOf(mesh, one), endsOf(mesh, other)];
			const same = pointOf(mesh, a[0]).every((v, k) => Math.abs(v - (pointOf(mesh, b[0])[k] as number)) < 1e-5);
			for (let i = 1; i < 40; i++) {
				const at = (pair: readonly [number, number], t: number): number => {
					const [p, q] = pair.map((v) => mesh.uvs.subarray(v * 2, v * 2 + 2)) as [Float32Array, Float32Array];
					const mix = (k: number): number => (p[k] as number) * (1 - t) + (q[k] as number) * t;
					return read(mix(0), mix(1));
				};
				const [left, right] = [at(a, i / 40), at(b, same ? i / 40 : 1 - i / 40)];
				if (left < 8 && right < 8) continue;
				crossed++;
				sum += Math.abs(left - right);
				worst = Math.max(worst, Math.abs(left - right));
			}
		}
		expect(crossed).toBeGreaterThan(3);
		expect(sum / crossed).toBeLessThanOrEqual(1);
		// What is left comes of reading between texels; it halves with every doubling of the sheet.
		expect(worst).toBeLessThanOrEqual(2);
		engine.close();
	});
});

test('through the model takes paint to its far side too; only what is seen does not', () => {
	const painted = (reach: 'seen' | 'front' | 'through'): number => {
		const engine = open(ball());
		stroke(
			engine,
			{ ...onModel, place: { on: 'model', model: 'm', sight: { ...sight, reach } }, tip: { ...plain, size: 60 } },
			line([140, 150], [160, 150]),
		);
		const { data } = engine.composite('s');
		engine.close();
		return data.reduce((sum, v, i) => sum + (i % 4 === 3 && v > 0 ? 1 : 0), 0);
	};
	const [seen, front, through] = [painted('seen'), painted('front'), painted('through')];
	expect(seen).toBeGreaterThan(300);
	expect(Math.abs(front - seen)).toBeLessThan(0.1 * seen);
	expect(through).toBeGreaterThan(1.7 * seen);
});

test('sampling takes the mean of a square, weighed by alpha, from all layers or from one', () => {
	const engine = openEngine(
		kernels,
		projectOf(box(), SIDE, [paintLayer('under', 'Under'), paintLayer('p', 'Paint', { opacity: 0.5 })]),
		[],
		new Map([['m', box()]]),
	);
	const cover = (layer: string, f: (x: number) => readonly number[]): void => {
		const data = new Uint8Array(SIDE * SIDE * 4);
		for (let i = 0; i < SIDE * SIDE; i++) data.set(f(i % SIDE), i * 4);
		engine.lay('s', layer, 'color', { width: SIDE, height: SIDE, data }, layer);
	};
	cover('under', () => [0, 0, 0, 255]);
	cover('p', (x) => (x % 2 ? [200, 100, 0, 255] : [0, 100, 200, 255]));
	expect(engine.sample('s', 101, 50, 'p')).toEqual([200, 100, 0, 255]);
	expect(engine.sample('s', 101, 50)[0]).toBe(100);
	const [r, g, b] = engine.sample('s', 101, 50, 'p', 11);
	expect([g, r + b]).toEqual([100, 200]);
	expect(Math.abs(r - 100)).toBeLessThan(20);
	engine.close();
});
