/** Poses of figures: boxes stay boxes, what hangs on another goes along, and files that make no sense are told. */
import { expect, test } from '@jest/globals';
import fc from 'fast-check';
import {
	boxRenamed,
	boxTaken,
	crossOf,
	type Figure,
	type FigurePose,
	figureText,
	freePlace,
	keeperFigure,
	newBox,
	placesIn,
	readFigure,
	TEXELS_A_UNIT,
} from '../src/figure/index.ts';
import { figureMesh, posedMesh, readModel } from '../src/mesh/index.ts';

const mesh = figureMesh(keeperFigure);
const degrees = fc.tuple(...[0, 1, 2].map(() => fc.integer({ min: -180, max: 180 }))) as fc.Arbitrary<
	[number, number, number]
>;
const anyPose: fc.Arbitrary<FigurePose> = fc.record({
	name: fc.constant('Any'),
	turns: fc.dictionary(fc.constantFrom(...keeperFigure.boxes.map(({ name }) => name)), degrees),
	swing: fc.dictionary(fc.constantFrom('Left leg', 'Head', 'Body'), degrees),
	beat: fc.double({ min: 0.2, max: 5, noNaN: true }),
});
/** All vertices of the figure in a pose. */
const places = (pose: FigurePose, seconds: number): Float32Array => posedMesh(keeperFigure, pose, seconds).positions;
const vertex = (list: Float32Array, v: number): number[] => [...list.subarray(v * 3, v * 3 + 3)];
const apart = (a: readonly number[], b: readonly number[]): number =>
	Math.hypot(...a.map((v, k) => v - (b[k] as number)));
const boxOf = (name: string): number => keeperFigure.boxes.findIndex((box) => box.name === name);

test('in any pose at any time boxes are as they were, and none is turned inside out', () => {
	fc.assert(
		fc.property(anyPose, fc.double({ min: 0, max: 9, noNaN: true }), (pose, seconds) => {
			const now = places(pose, seconds);
			for (let box = 0; box < keeperFigure.boxes.length; box++)
				for (const [a, b] of [
					[0, 5],
					[3, 17],
					[9, 20],
				] as const) {
					const [v, w] = [box * 24 + a, box * 24 + b];
					const was = apart(vertex(mesh.positions, v), vertex(mesh.positions, w));
					expect(apart(vertex(now, v), vertex(now, w))).toBeCloseTo(was, 4);
				}
			for (const place of placesIn(keeperFigure, pose, seconds)) {
				const [a, b, c, , d, e, f, , g, h, i] = place as number[] & { length: 12 };
				const det =
					(a as number) * ((e as number) * (i as number) - (f as number) * (h as number)) -
					(b as number) * ((d as number) * (i as number) - (f as number) * (g as number)) +
					(c as number) * ((d as number) * (h as number) - (e as number) * (g as number));
				expect(det).toBeCloseTo(1, 6);
			}
		}),
	);
});

test('a box turns about its joint, and what hangs on it keeps its place on it', () => {
	const now = places({ name: 'Bow', turns: { Body: [90, 0, 0] } }, 0);
	// The body's foot middle is its joint, at (0, 9, 0): its top, 11 above, comes to lie before it.
	const top = [0, 1, 2].map((k) => {
		const own = Array.from({ length: 24 }, (_, i) => boxOf('Body') * 24 + i).filter(
			(v) => (mesh.positions[v * 3 + 1] as number) * TEXELS_A_UNIT > 19.9,
		);
		return own.reduce((sum, v) => sum + (now[v * 3 + k] as number), 0) / own.length;
	});
	expect(apart(top, [0, 9 / TEXELS_A_UNIT, 11 / TEXELS_A_UNIT])).toBeLessThan(1e-5);
	for (const [one, other] of [
		['Body', 'Head'],
		['Head', 'Hat brim'],
		['Body', 'Left arm'],
	] as const) {
		const [v, w] = [boxOf(one) * 24 + 2, boxOf(other) * 24 + 7];
		expect(apart(vertex(now, v), vertex(now, w))).toBeCloseTo(
			apart(vertex(mesh.positions, v), vertex(mesh.positions, w)),
			5,
		);
	}
	// Legs hang on nothing and stay.
	expect(vertex(now, boxOf('Left leg') * 24)).toEqual(vertex(mesh.positions, boxOf('Left leg') * 24));
});

test('a swing is over after its beat, and goes as far to one side as to the other', () => {
	const walk = keeperFigure.poses?.find(({ swing }) => swing) as FigurePose;
	const beat = walk.beat as number;
	const [start, whole, quarter, three] = [0, beat, beat / 4, (3 * beat) / 4].map((at) => places(walk, at)) as [
		Float32Array,
		Float32Array,
		Float32Array,
		Float32Array,
	];
	start.forEach((v, i) => {
		expect(whole[i]).toBeCloseTo(v, 5);
	});
	const foot = (list: Float32Array, name: string): number => {
		let sum = 0;
		for (let i = 0; i < 24; i++) sum += list[(boxOf(name) * 24 + i) * 3 + 2] as number;
		return sum;
	};
	expect(foot(quarter, 'Left leg')).toBeCloseTo(foot(three, 'Right leg'), 4);
	expect(Math.abs(foot(quarter, 'Left leg') - foot(quarter, 'Right leg'))).toBeGreaterThan(3);
});

test('a figure’s file is a model, and comes back as it was; poses and hangings that make no sense are told', async () => {
	const text = figureText(keeperFigure);
	expect(readFigure(text, 'a.json')).toEqual({ ok: true, figure: keeperFigure });
	const read = await readModel(new TextEncoder().encode(text), 'keeper.json');
	expect(read.ok && read.mesh).toEqual(mesh);
	const change = (by: (figure: { -readonly [K in keyof Figure]: Figure[K] }) => void): string => {
		const figure = JSON.parse(text) as Figure;
		by(figure);
		const result = readFigure(JSON.stringify(figure), 'a.json');
		return result.ok ? '' : result.text;
	};
	const [head, ...rest] = keeperFigure.boxes as [Figure['boxes'][0], ...Figure['boxes']];
	expect(change((f) => (f.boxes = [{ ...head, on: 'Tail' }, ...rest]))).toContain('no box is called that');
	expect(change((f) => (f.boxes = [{ ...head, on: 'Hat brim' }, ...rest]))).toContain('hangs on itself');
	expect(change((f) => (f.boxes = [{ ...head, joint: [1, 2] as never }, ...rest]))).toContain('its joint is three');
	expect(change((f) => (f.poses = [{ name: 'A', turns: { Tail: [1, 2, 3] } }]))).toContain('"A" turns "Tail"');
	expect(change((f) => (f.poses = [{ name: 'A', turns: { Head: [1] as never } }]))).toContain('three numbers');
	expect(change((f) => (f.poses = [{ name: 'A', turns: {}, beat: 0 }]))).toContain('seconds');
	expect(change((f) => (f.poses = [{ name: '', turns: {} }]))).toContain('without a name');
	const bad = await readModel(new TextEncoder().encode('{}'), 'odd.json');
	expect(bad.ok ? '' : bad.error.text).toContain('odd.json is no figure');
});

test('a new box gets the first place that is free, or none', () => {
	fc.assert(
		fc.property(
			fc.array(fc.tuple(...[0, 1, 2].map(() => fc.integer({ min: 1, max: 9 }))), { maxLength: 12 }),
			(sizes) => {
				let figure: Pick<Figure, 'sheet' | 'boxes'> = { sheet: [48, 40], boxes: [] };
				for (const size of sizes as [number, number, number][]) {
					const place = freePlace(figure, size);
					if (!place) break;
					figure = { ...figure, boxes: [...figure.boxes, { name: 'x', size, at: [0, 0, 0], place }] };
				}
				const taken = new Uint8Array(48 * 40);
				for (const box of figure.boxes) {
					const [x, y, w, h] = crossOf(box);
					expect(x + w <= 48 && y + h <= 40).toBe(true);
					for (let v = y; v < y + h; v++)
						for (let u = x; u < x + w; u++) {
							expect(taken[v * 48 + u]).toBe(0);
							taken[v * 48 + u] = 1;
						}
				}
			},
		),
	);
	expect(freePlace({ sheet: [16, 16], boxes: [] }, [9, 9, 9])).toBeNull();
});

test('a box that is renamed, taken or added leaves a figure that makes sense', () => {
	const good = (figure: Figure): Figure => {
		expect(readFigure(figureText(figure), 'a.json')).toEqual({ ok: true, figure });
		return figure;
	};
	const named = good(boxRenamed(keeperFigure, 'Body', 'Trunk'));
	expect(named.boxes.filter(({ on }) => on === 'Trunk')).toHaveLength(3);
	expect(named.poses?.[0]?.swing).toHaveProperty('Trunk', [0, 4, 0]);
	expect(boxRenamed(named, 'Trunk', 'Body')).toEqual(keeperFigure);
	const headless = good(boxTaken(keeperFigure, boxOf('Head')));
	expect(headless.boxes.find(({ name }) => name === 'Hat brim')?.on).toBe('Body');
	expect(headless.poses?.every(({ turns }) => !('Head' in turns))).toBe(true);
	const footless = good(
		boxTaken(
			headless,
			headless.boxes.findIndex(({ name }) => name === 'Body'),
		),
	);
	expect(footless.boxes.every(({ on }) => on === undefined || on === 'Head')).toBe(true);
	let more = keeperFigure;
	for (let box = newBox(more); box; box = newBox(more)) more = good({ ...more, boxes: [...more.boxes, box] });
	expect(more.boxes.length).toBeGreaterThan(keeperFigure.boxes.length);
});
