/** Worn layouts: a figure of boxes on its sheet, texel for texel, and paint that is repeated on twins. */
import type { Kernels } from '@eppu/kernels';
import { loadKernels } from '@eppu/kernels/node';
import { beforeAll, describe, expect, test } from '@jest/globals';
import { apiaryPalette } from '../src/color/index.ts';
import { paintLayer } from '../src/document/index.ts';
import { type Engine, openEngine } from '../src/engine/index.ts';
import { crossOf, type Figure, keeperFigure, readFigure } from '../src/figure/index.ts';
import { figureMesh, topologyOf } from '../src/mesh/index.ts';
import { packedOf } from '../src/pixel/index.ts';
import { homeCamera } from '../src/projection/index.ts';
import { defaultTip } from '../src/stroke/index.ts';

let kernels: Kernels;
beforeAll(async () => {
	kernels = await loadKernels();
});

const mesh = figureMesh(keeperFigure);
const [W, H] = keeperFigure.sheet;
const open = (): Engine =>
	openEngine(
		kernels,
		{
			schema: 1,
			id: 'f',
			name: 'F',
			palette: apiaryPalette,
			models: [
				{
					id: 'm',
					name: 'M',
					asset: { hash: 'a'.repeat(64), name: 'm.json' },
					parts: mesh.parts.map(({ name }) => ({ name, sheet: 's', shown: true })),
				},
			],
			sheets: [
				{
					id: 's',
					name: 'S',
					width: W,
					height: H,
					bleed: 0,
					base: null,
					guide: null,
					pixel: true,
					layers: [paintLayer('p', 'P')],
				},
			],
		},
		[],
		new Map([['m', mesh]]),
	);
const part = (name: string): number => mesh.parts.findIndex((each) => each.name === name);
const words = (engine: Engine): Uint32Array => new Uint32Array(engine.composite('s').data.buffer);
const box = (name: string) => keeperFigure.boxes[part(name)] as Figure['boxes'][number];

describe('figures', () => {
	test('its boxes lie on whole texels beside each other, sides look outwards and are as large as they say', () => {
		const taken = new Set<string>();
		for (const each of keeperFigure.boxes) {
			const [x, y, w, h] = crossOf(each);
			for (let v = y; v < y + h; v++)
				for (let u = x; u < x + w; u++) {
					expect(taken.has(`${u} ${v}`)).toBe(false);
					taken.add(`${u} ${v}`);
				}
		}
		for (const uv of mesh.uvs.keys()) {
			const texels = (mesh.uvs[uv] as number) * (uv % 2 ? H : W);
			expect(Math.abs(texels - Math.round(texels))).toBeLessThan(1e-4);
		}
		mesh.parts.forEach(({ firstFace, faces }, n) => {
			const { at, size } = keeperFigure.boxes[n] as Figure['boxes'][number];
			for (let face = firstFace; face < firstFace + faces; face++) {
				const [a, b, c] = [0, 1, 2].map((k) => (mesh.indices[face * 3 + k] as number) * 3) as [number, number, number];
				const p = (i: number, k: number): number => mesh.positions[i + k] as number;
				const [e, f] = [b, c].map((i) => [0, 1, 2].map((k) => p(i, k) - p(a, k))) as [number[], number[]];
				const n_ = [0, 1, 2].map(
					(k) =>
						(e[(k + 1) % 3] as number) * (f[(k + 2) % 3] as number) -
						(e[(k + 2) % 3] as number) * (f[(k + 1) % 3] as number),
				);
				const out = [0, 1, 2].map((k) => p(a, k) * 16 - ((at[k] as number) + (k === 1 ? size[1] / 2 : 0)));
				// Away from the middle of its box, and as its normal says.
				expect(n_.reduce((sum, v, k) => sum + v * (out[k] as number), 0)).toBeGreaterThan(0);
				expect(n_.reduce((sum, v, k) => sum + v * (mesh.normals?.[a + k] as number), 0)).toBeGreaterThan(0);
				// A texel of the sheet is one on the figure, on the first coat.
				if (keeperFigure.boxes[n]?.inflate) continue;
				const uv = [b, c].map((i) =>
					[0, 1].map(
						(k) => ((mesh.uvs[(i / 3) * 2 + k] as number) - (mesh.uvs[(a / 3) * 2 + k] as number)) * (k ? H : W),
					),
				) as [number[], number[]];
				const area = Math.abs(
					(uv[0]?.[0] as number) * (uv[1]?.[1] as number) - (uv[0]?.[1] as number) * (uv[1]?.[0] as number),
				);
				expect(Math.hypot(...n_) * 256).toBeCloseTo(area, 3);
			}
		});
		expect(topologyOf(mesh).islandOfFace.length).toBe(mesh.indices.length / 3);
	});
	test('what is laid on one arm is laid on the other, mirrored: looked at from the other side it is the same picture', () => {
		const engine = open();
		const { place, size } = box('Left arm');
		const [x, y, w, h] = crossOf(box('Left arm'));
		const colors = apiaryPalette.colors;
		const set = Array.from({ length: w * h }, (_, i) => {
			const [u, v] = [x + (i % w), y + Math.floor(i / w)];
			return [u, v, colors[(u * 7 + v * 3) % colors.length] as string] as const;
		});
		engine.edit('s', 'p', { do: 'texels', set });
		const before = words(engine).slice();
		const done = engine.repeatOnTwin('m', part('Left arm'), { s: 'p' });
		expect(done.ok).toBe(true);
		const after = words(engine);
		const twin = box('Right arm').place;
		const [sw, sh, sd] = size;
		// The front, turned left to right; the outer side on the outer side.
		for (let v = 0; v < sh; v++) {
			for (let u = 0; u < sw; u++)
				expect(after[(twin[1] + sd + v) * W + twin[0] + sd + u]).toBe(
					before[(place[1] + sd + v) * W + place[0] + sd + (sw - 1 - u)],
				);
			for (let u = 0; u < sd; u++)
				expect(after[(twin[1] + sd + v) * W + twin[0] + sd + sw + u]).toBe(
					before[(place[1] + sd + v) * W + place[0] + (sd - 1 - u)],
				);
		}
		// Nothing else was touched, and it is one step.
		const [tx, ty, tw, th] = crossOf(box('Right arm'));
		after.forEach((word, i) => {
			const [u, v] = [i % W, Math.floor(i / W)];
			if (u < tx || v < ty || u >= tx + tw || v >= ty + th) expect(word).toBe(before[i]);
		});
		engine.undo();
		expect(words(engine)).toEqual(before);
		expect(() => engine.repeatOnTwin('m', part('Body'), { s: 'p' })).toThrow(/no twin/);
	});
	test('a pencil on the figure lays the texel that it is on', () => {
		const engine = open();
		const sight = {
			camera: { ...homeCamera, yaw: 0, pitch: 0, target: [0, 1, 0] as const, distance: 4 },
			width: 400,
			height: 400,
			reach: 'seen' as const,
			fade: 0,
		};
		const [spot] = engine.spotsSeen('m', sight, [200, 200]);
		const how = {
			tool: 'draw' as const,
			tip: defaultTip,
			color: '#e8b345',
			place: { on: 'model' as const, model: 'm', sight },
			layers: { s: 'p' },
			pencil: { size: 1, corners: false, mixing: null },
		};
		engine.begin(how, [{ x: 200, y: 200, pressure: 1 }]);
		engine.end();
		const laid = [...words(engine)].flatMap((word, i) => (word ? [[i % W, Math.floor(i / W), word & 0xffffff]] : []));
		expect(laid).toEqual([[Math.floor(spot?.x ?? -1), Math.floor(spot?.y ?? -1), packedOf('#e8b345')]]);
	});
	test('a figure of one’s own is read; what does not fit is told by the name of the box', () => {
		expect(readFigure(JSON.stringify(keeperFigure), 'keeper.json')).toEqual({ ok: true, figure: keeperFigure });
		const bad = (change: (figure: Record<string, unknown>) => void): string => {
			const figure = JSON.parse(JSON.stringify(keeperFigure)) as Record<string, unknown>;
			change(figure);
			const read = readFigure(JSON.stringify(figure), 'keeper.json');
			return read.ok ? '' : read.text;
		};
		const boxes = (figure: Record<string, unknown>) => figure.boxes as Record<string, unknown>[];
		expect(readFigure('{', 'x.json')).toMatchObject({ text: expect.stringMatching(/x\.json is no figure.*not JSON/) });
		expect(bad((f) => void (f.figure = 2))).toMatch(/does not say/);
		expect(bad((f) => void (f.sheet = [4, 4]))).toMatch(/sheet is two whole numbers/);
		expect(bad((f) => void (f.boxes = []))).toMatch(/1 to 64 boxes/);
		expect(bad((f) => void ((boxes(f)[1] as Record<string, unknown>).size = [1, 2.5, 3]))).toMatch(/"Body": its size/);
		expect(bad((f) => void ((boxes(f)[1] as Record<string, unknown>).place = [90, 0]))).toMatch(
			/"Body": its sides do not fit/,
		);
		expect(bad((f) => void ((boxes(f)[1] as Record<string, unknown>).name = 'Head'))).toMatch(
			/two boxes are called "Head"/,
		);
		expect(bad((f) => void ((boxes(f)[6] as Record<string, unknown>).inflate = -1))).toMatch(/"Veil": it is larger/);
		expect(bad((f) => void (f.boxes = [null]))).toMatch(/a box without a name/);
	});
});

test('boxes that go elsewhere, on the sheet or on the figure, take their paint along texel for texel; one step', () => {
	const engine = open();
	const colors = apiaryPalette.colors;
	const set = keeperFigure.boxes.flatMap((each) => {
		const [x, y, w, h] = crossOf(each);
		const [, , d] = each.size;
		// The corners of a cross lie on no side.
		return Array.from({ length: w * h }, (_, i) => [x + (i % w), y + Math.floor(i / w)] as const)
			.filter(([u, v]) => v >= y + d || (u >= x + d && u < x + d + 2 * each.size[0]))
			.map(([u, v]) => [u, v, colors[(u * 7 + v * 13) % colors.length] as string] as const);
	});
	engine.edit('s', 'p', { do: 'texels', set });
	const before = words(engine).slice();
	const next: Figure = {
		...keeperFigure,
		boxes: keeperFigure.boxes.map((each) =>
			each.name === 'Hat brim'
				? { ...each, place: [0, 45], at: [0, 33, 2] }
				: each.name === 'Head'
					? { ...each, at: [0, 25, 0] }
					: each.name === 'Hat crown'
						? { ...each, size: [8, 5, 8] }
						: each,
		),
	};
	expect(readFigure(JSON.stringify(next), 'a').ok).toBe(true);
	const hash = 'b'.repeat(64);
	engine.meshes.set(hash, figureMesh(next));
	let n = 0;
	engine.relay(
		{
			models: [
				{
					id: 'm',
					name: 'M',
					asset: { hash, name: 'm.json' },
					parts: mesh.parts.map(({ name }) => ({ name, sheet: 's' })),
				},
			],
		},
		'Boxes',
		() => `n${n++}`,
	);
	const after = words(engine);
	/** Texels of a side of a box, from x and y of its cross on. */
	const same = (name: string, [x, y, w, h]: readonly [number, number, number, number]): void => {
		const [was, now] = [keeperFigure, next].map(({ boxes }) => boxes.find((each) => each.name === name)?.place);
		for (let v = y; v < y + h; v++)
			for (let u = x; u < x + w; u++)
				expect([name, u, v, after[((now?.[1] as number) + v) * W + (now?.[0] as number) + u]]).toEqual([
					name,
					u,
					v,
					before[((was?.[1] as number) + v) * W + (was?.[0] as number) + u],
				]);
	};
	for (const each of keeperFigure.boxes) {
		const [w, h, d] = each.size;
		same(each.name, [d, 0, 2 * w, d]);
		if (each.name !== 'Hat crown') same(each.name, [0, d, 2 * (w + d), h]);
	}
	// Nothing is mixed, so that no colour is new.
	const had = new Set(before);
	for (const word of after) expect(had.has(word)).toBe(true);
	// Sides that became higher are stretched: none of their texels is bare.
	const [x, y, w] = crossOf(next.boxes.find(({ name }) => name === 'Hat crown') as Figure['boxes'][number]);
	for (let v = y + 8; v < y + 13; v++)
		for (let u = x; u < x + w; u++) expect((after[v * W + u] as number) >>> 24).toBe(255);
	engine.undo();
	expect(words(engine)).toEqual(before);
	engine.close();
});
