/** Templates that were drawn elsewhere: lines are told from their ground, and what they close becomes islands. */

import { loadKernels } from '@eppu/kernels/node';
import { beforeAll, describe, expect, test } from '@jest/globals';
import { buildTexelMap } from '../src/atlas/index.ts';
import { type TemplateLook, templateOf, templatePicture, usualTemplate } from '../src/format/index.ts';
import { checkMesh, type LaidMesh } from '../src/mesh/index.ts';
import { drawnOf, flatMesh, type Reading, regionsOf, simplified, usualReading } from '../src/regions/index.ts';
import { createScene } from '../src/scene/index.ts';
import type { Picture } from '../src/surface/index.ts';
import { ball, box, projectOf } from './oracle/meshes.ts';
import { seeded } from './oracle/surfaces.ts';

const SIDE = 288;
/** Shapes are drawn for a side of 384. */
const BY = SIDE / 384;
type Point = readonly [number, number];
type Shape = readonly Point[];
type Color = readonly [number, number, number, number];

const ngon = (x: number, y: number, r: number, n: number, turn = 0.3): Shape =>
	Array.from({ length: n }, (_, i) => [
		x + r * Math.cos(turn + (2 * Math.PI * i) / n),
		y + r * Math.sin(turn + (2 * Math.PI * i) / n),
	]);
const rect = (x: number, y: number, w: number, h: number): Shape => [
	[x, y],
	[x + w, y],
	[x + w, y + h],
	[x, y + h],
];
/** Islands as a modeller lays them: many-sided, long, notched, small. */
const sized = (list: readonly Shape[]): Shape[] => list.map((shape) => shape.map(([x, y]): Point => [x * BY, y * BY]));
const shapes: readonly Shape[] = sized([
	ngon(90, 90, 62, 24),
	rect(180, 40, 170, 60),
	[
		[40, 200],
		[160, 190],
		[160, 260],
		[110, 260],
		[110, 340],
		[40, 340],
	],
	ngon(250, 190, 48, 5),
	ngon(260, 310, 40, 40),
	rect(330, 150, 26, 190),
	ngon(190, 330, 16, 6),
]);

const distanceTo = ([x, y]: Point, [ax, ay]: Point, [bx, by]: Point): [number, number] => {
	const [dx, dy] = [bx - ax, by - ay];
	const t = Math.max(0, Math.min(1, ((x - ax) * dx + (y - ay) * dy) / (dx * dx + dy * dy)));
	return [Math.hypot(x - ax - t * dx, y - ay - t * dy), t];
};
const inside = (shape: Shape, [x, y]: Point): boolean => {
	let is = false;
	shape.forEach(([ax, ay], i) => {
		const [bx, by] = shape[(i + 1) % shape.length] as Point;
		if (ay > y !== by > y && x < ((bx - ax) * (y - ay)) / (by - ay) + ax) is = !is;
	});
	return is;
};

interface Drawing {
	readonly ground: Color;
	readonly line?: Color;
	readonly thick?: number;
	/** Of each shape, by its number. */
	readonly fill?: (i: number) => Color;
	readonly dash?: readonly [on: number, off: number];
	readonly soft?: boolean;
	readonly shapes?: readonly Shape[];
	readonly holes?: readonly Shape[];
	readonly wire?: boolean;
	readonly frame?: boolean;
}

/** Draws a template: fills, then lines, soft where asked. */
function drawn({
	ground,
	line,
	thick = 2,
	fill,
	dash,
	soft = true,
	shapes: list = shapes,
	holes = [],
	wire,
	frame,
}: Drawing): Picture {
	const data = new Uint8Array(SIDE * SIDE * 4);
	const edges: [Point, Point][] = [...list, ...holes].flatMap((shape) =>
		shape.map((p, i): [Point, Point] => [p, shape[(i + 1) % shape.length] as Point]),
	);
	if (wire)
		for (const shape of list) {
			const middle: Point = [0, 1].map(
				(k) => shape.reduce((sum, p) => sum + (p[k] as number), 0) / shape.length,
			) as unknown as Point;
			for (const p of shape) edges.push([p, middle]);
		}
	if (frame) rect(1, 1, SIDE - 2, SIDE - 2).forEach((p, i, all) => edges.push([p, all[(i + 1) % 4] as Point]));
	const mix = (at: number, color: Color, share: number): void => {
		for (let k = 0; k < 4; k++)
			data[at + k] = Math.round((data[at + k] as number) * (1 - share) + color[k as 0] * share);
	};
	for (let y = 0; y < SIDE; y++)
		for (let x = 0; x < SIDE; x++) {
			const p: Point = [x + 0.5, y + 0.5];
			const at = (y * SIDE + x) * 4;
			mix(at, ground, 1);
			if (fill)
				list.forEach((shape, i) => {
					if (inside(shape, p) && !holes.some((hole) => inside(hole, p))) mix(at, fill(i), 1);
				});
		}
	if (!line) return { width: SIDE, height: SIDE, data };
	const shares = new Float32Array(SIDE * SIDE);
	for (const [a, b] of edges) {
		const [x0, x1, y0, y1] = [0, 1].flatMap((k) => [
			Math.max(0, Math.floor(Math.min(a[k as 0], b[k as 0]) - thick)),
			Math.min(SIDE - 1, Math.ceil(Math.max(a[k as 0], b[k as 0]) + thick)),
		]) as [number, number, number, number];
		const long = Math.hypot(b[0] - a[0], b[1] - a[1]);
		for (let y = y0; y <= y1; y++)
			for (let x = x0; x <= x1; x++) {
				const [d, t] = distanceTo([x + 0.5, y + 0.5], a, b);
				if (dash && (t * long) % (dash[0] + dash[1]) > dash[0]) continue;
				const share = soft ? Math.max(0, Math.min(1, thick / 2 + 0.5 - d)) : Number(d <= thick / 2);
				shares[y * SIDE + x] = Math.max(shares[y * SIDE + x] as number, share);
			}
	}
	for (const [i, share] of shares.entries()) mix(i * 4, line, share);
	return { width: SIDE, height: SIDE, data };
}

/** Dust as JPEG leaves it: more beside lines, in blocks. */
function dusted(picture: Picture, strength: number): Picture {
	const random = seeded(11);
	const data = picture.data.slice();
	for (let by = 0; by < SIDE; by += 8)
		for (let bx = 0; bx < SIDE; bx += 8) {
			let [low, high] = [255, 0];
			for (let y = by; y < by + 8; y++)
				for (let x = bx; x < bx + 8; x++) {
					low = Math.min(low, data[(y * SIDE + x) * 4] as number);
					high = Math.max(high, data[(y * SIDE + x) * 4] as number);
				}
			const by8 = 2 + ((high - low) / 255) * strength;
			for (let y = by; y < by + 8; y++)
				for (let x = bx; x < bx + 8; x++)
					for (let k = 0; k < 3; k++) {
						const i = (y * SIDE + x) * 4 + k;
						data[i] = Math.max(0, Math.min(255, (data[i] as number) + (random() - 0.5) * 2 * by8));
					}
		}
	return { ...picture, data };
}

const white: Color = [255, 255, 255, 255];
const black: Color = [0, 0, 0, 255];
const grey: Color = [128, 128, 128, 255];
const tint = (i: number): Color => [200 - 20 * i, 90 + 22 * i, 140, 255];

const cellGrid: readonly Shape[] = sized(
	[0, 1, 2].flatMap((r) => [0, 1].map((c) => rect(50 + 130 * c, 40 + 100 * r, 130, 100))),
);
const ring = sized([ngon(190, 190, 150, 40), ngon(340, 340, 30, 12)]);
const ringHole = sized([ngon(190, 190, 90, 32)]);

/**
 * How much of each shape, with the half of its line that lies outside, the region that covers most of it has, of both
 * together, 0..1.
 */
function agree(
	{ region, texels }: ReturnType<typeof regionsOf>,
	list: readonly Shape[],
	holes: readonly Shape[],
	half: number,
): number[] {
	const on = (shape: Shape, p: Point): boolean =>
		inside(shape, p) ||
		(half > 0 && shape.some((a, i) => distanceTo(p, a, shape[(i + 1) % shape.length] as Point)[0] <= half));
	return list.map((shape) => {
		const counts = new Uint32Array(texels.length + 1);
		let size = 0;
		const [x0, y0] = [0, 1].map((k) => Math.floor(Math.min(...shape.map((p) => p[k] as number)) - half)) as [
			number,
			number,
		];
		const [x1, y1] = [0, 1].map((k) => Math.ceil(Math.max(...shape.map((p) => p[k] as number)) + half)) as [
			number,
			number,
		];
		for (let y = y0; y < y1; y++)
			for (let x = x0; x < x1; x++) {
				const p: Point = [x + 0.5, y + 0.5];
				if (!on(shape, p) || holes.some((hole) => inside(hole, p))) continue;
				size++;
				const at = region[y * SIDE + x] as number;
				counts[at] = (counts[at] as number) + 1;
			}
		counts[0] = 0;
		const most = counts.indexOf(Math.max(...counts));
		const both = counts[most] as number;
		return both / (size + (texels[most - 1] as number) - both);
	});
}

describe('templates of many kinds', () => {
	const kinds: readonly (readonly [string, Picture, (readonly Shape[])?, (readonly Shape[])?, Partial<Reading>?])[] = [
		['dark lines on light', drawn({ ground: white, line: black })],
		['light lines on dark', drawn({ ground: [30, 32, 36, 255], line: [230, 230, 230, 255] })],
		['coloured lines', drawn({ ground: white, line: [230, 60, 40, 255] })],
		['thin faint lines', drawn({ ground: [240, 240, 240, 255], line: [150, 160, 175, 255], thick: 1 })],
		['hard lines', drawn({ ground: white, line: black, soft: false, thick: 3 })],
		['dashed lines', drawn({ ground: white, line: black, thick: 2, dash: [9, 5] }), shapes, [], { gap: 8 }],
		['dusted by JPEG', dusted(drawn({ ground: white, line: black }), 26)],
		['nothing behind the lines', drawn({ ground: [0, 0, 0, 0], line: black })],
		['white lines on nothing', drawn({ ground: [0, 0, 0, 0], line: white })],
		['filled, without lines', drawn({ ground: grey, fill: () => white })],
		['each filled in another colour', drawn({ ground: grey, fill: tint, line: black, thick: 1 })],
		[
			'a ring that is filled',
			drawn({ ground: grey, fill: () => white, line: black, shapes: ring, holes: ringHole }),
			ring,
			ringHole,
		],
		['wires inside', drawn({ ground: white, line: [70, 70, 70, 255], thick: 1, wire: true })],
		['a frame around it', drawn({ ground: white, line: black, frame: true })],
		['cells that touch', drawn({ ground: white, line: black, shapes: cellGrid }), cellGrid],
		[
			'dark, dusted, filled',
			dusted(drawn({ ground: [40, 40, 44, 255], fill: () => [90, 90, 96, 255], line: [210, 210, 120, 255] }), 20),
		],
	];
	for (const [name, picture, wanted = shapes, holes = [], reading = {}] of kinds)
		test(`${name}: the islands are those that were drawn`, () => {
			const found = drawnOf(picture);
			const regions = regionsOf(found, { ...usualReading(found), ...reading });
			expect(regions.texels.length).toBe(wanted.length);
			// Lines between cells that touch are shared.
			const half = name.startsWith('filled') || wanted === cellGrid ? 0 : name.includes('thin') ? 0.5 : 1;
			expect(Math.min(...agree(regions, wanted, holes, half))).toBeGreaterThan(wanted === cellGrid ? 0.93 : 0.88);
		});
});

describe('a template that Eppu wrote, read back', () => {
	let kernels: Awaited<ReturnType<typeof loadKernels>>;
	beforeAll(async () => {
		kernels = await loadKernels();
	});
	const looks: readonly TemplateLook[] = [
		usualTemplate,
		{ borders: true, inner: false, fill: 'tints', names: false, outside: 6 },
		{ borders: true, inner: true, fill: 'none', names: false, outside: null },
		{ borders: false, inner: false, fill: 'white', names: false, outside: 4 },
	];
	for (const [name, mesh] of [
		['a box', box()],
		['a ball', ball()],
	] as const)
		for (const look of looks)
			test(`${name} has the islands that it had, with ${JSON.stringify(look)}`, () => {
				const project = projectOf(mesh, 256);
				const sheet = project.sheets[0] as (typeof project.sheets)[0];
				const scene = createScene(kernels, project.models[0] as (typeof project.models)[0], mesh);
				const picture = templatePicture(templateOf([scene], sheet, 256), look);
				const found = drawnOf(picture);
				const regions = regionsOf(found, { ...usualReading(found), by: 'pieces' });
				expect(regions.texels.length).toBe(scene.topology.islands);
				const map = scene.mapOf(sheet);
				let [both, either] = [0, 0];
				map.faceOfTexel.forEach((face, i) => {
					const is = (regions.region[i] as number) > 0;
					if (face && is) both++;
					if (face || is) either++;
				});
				expect(both / either).toBeGreaterThan(0.93);
				scene.drop();
			});
});

test('what was found is a flat model: sound, each island a part, and its texels those of the region', () => {
	const picture = drawn({ ground: grey, fill: () => white, line: black, shapes: ring, holes: ringHole });
	const found = drawnOf(picture);
	const regions = regionsOf(found, usualReading(found));
	const mesh: LaidMesh = flatMesh(regions);
	expect(checkMesh(mesh, 'template').ok).toBe(true);
	expect(mesh.parts.map(({ name }) => name)).toEqual(['Island 1', 'Island 2']);
	const map = buildTexelMap(mesh, () => true, SIDE, SIDE, 0);
	let wrong = 0;
	map.faceOfTexel.forEach((face, i) => {
		const part = face
			? mesh.parts.findIndex((each) => face - 1 >= each.firstFace && face - 1 < each.firstFace + each.faces) + 1
			: 0;
		if (part !== regions.region[i]) wrong++;
	});
	expect(wrong).toBeLessThan(SIDE * 4);
	expect(mesh.indices.length / 3).toBeLessThan(600);
});

test('a line made simpler stays as near as was asked for', () => {
	const line = Array.from({ length: 200 }, (_, i) => [
		60 * Math.cos((2 * Math.PI * i) / 200),
		40 * Math.sin((2 * Math.PI * i) / 200),
	]).flat();
	const few = simplified(line, 0.5);
	expect(few.length).toBeLessThan(100);
	for (let i = 0; i < line.length; i += 2) {
		const p: Point = [line[i] as number, line[i + 1] as number];
		const near = Math.min(
			...Array.from({ length: few.length / 2 }, (_, k) => {
				const j = ((k + 1) * 2) % few.length;
				return distanceTo(
					p,
					[few[k * 2] as number, few[k * 2 + 1] as number],
					[few[j] as number, few[j + 1] as number],
				)[0];
			}),
		);
		expect(near).toBeLessThanOrEqual(0.5);
	}
});

test('a picture with nothing on it has no islands', () => {
	const empty = drawn({ ground: white });
	const found = drawnOf(empty);
	expect(regionsOf(found, usualReading(found)).texels).toEqual([]);
});
