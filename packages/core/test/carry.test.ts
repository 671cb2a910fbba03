/** Paint that goes with the surface where a layout, a sheet's size or its sharing changes. */
import type { Kernels } from '@eppu/kernels';
import { loadKernels } from '@eppu/kernels/node';
import { beforeAll, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { ownersOf } from '../src/carry/index.ts';
import {
	eachLayer,
	type Layer,
	type PaintLayer,
	type Project,
	paintLayer,
	textLayer,
	type WashLayer,
	washLayer,
} from '../src/document/index.ts';
import { type Engine, type KeptTile, openEngine } from '../src/engine/index.ts';
import { type Layout, layoutOf } from '../src/layout/index.ts';
import type { LaidMesh } from '../src/mesh/index.ts';
import { texelAt } from '../src/surface/index.ts';
import { text } from './oracle/derived.ts';
import { keepTiles } from './oracle/kept.ts';
import { ball, box, projectOf, tube } from './oracle/meshes.ts';
import { seeded } from './oracle/surfaces.ts';

let kernels: Kernels;
beforeAll(async () => {
	kernels = await loadKernels();
});

const SIDE = 256;
/** A layout turned, sized and moved around the middle of the sheet. */
const turned = ({ uvs }: Layout, degrees: number, scale: number, flip = 1): Layout => {
	const [cos, sin] = [Math.cos((degrees * Math.PI) / 180) * scale, Math.sin((degrees * Math.PI) / 180) * scale];
	return {
		uvs: uvs.map((_, i) => {
			const [u, v] = [((uvs[i & ~1] as number) - 0.5) * flip, (uvs[i | 1] as number) - 0.5];
			return 0.5 + (i % 2 ? sin * u + cos * v : cos * u - sin * v);
		}),
	};
};
let named = 0;
const newId = (): string => `n${++named}`;
const relay = (engine: Engine, layout: Layout | null): ReturnType<Engine['relay']> =>
	engine.relay({ layouts: new Map([['m', layout]]) }, 'Lay out anew', newId);

/** Soft-edged blots of many colours, as brushes lay them, over all of a sheet or a mask. */
function blots(engine: Engine, layer: string, on: 'color' | 'mask', seed: number): void {
	const random = seeded(seed);
	const { width, height } = engine.project.sheets[0] as { width: number; height: number };
	const list = Array.from({ length: 12 }, () => ({
		x: random() * width,
		y: random() * height,
		r: 10 + random() * 50,
		soft: 2 + random() * 6,
		color: [random() * 255, random() * 255, random() * 255],
	}));
	const bytes = on === 'color' ? 4 : 1;
	const data = new Uint8Array(width * height * bytes).fill(on === 'color' ? 200 : 255);
	for (let i = 0; i < width * height; i++)
		for (const { x, y, r, soft, color } of list) {
			const share = Math.max(0, Math.min(1, (r - Math.hypot((i % width) - x, Math.floor(i / width) - y)) / soft + 0.5));
			if (!share) continue;
			for (let k = 0; k < bytes; k++) {
				const to = bytes === 1 ? (color[0] as number) : k === 3 ? 255 : (color[k] as number);
				data[i * bytes + k] = Math.round((data[i * bytes + k] as number) * (1 - share) + to * share);
			}
		}
	engine.lay('s', layer, on, { width, height, data }, 'Blots');
}

const opened = (mesh: LaidMesh, layers: readonly Layer[] = [paintLayer('p', 'Paint')]): Engine =>
	openEngine(kernels, projectOf(mesh, SIDE, layers), [], new Map([['m', mesh]]));
const insides = (engine: Engine): number[] => {
	const map = engine.scene('m')?.mapOf(engine.project.sheets[0] as Project['sheets'][0]);
	return [...(map?.faceOfTexel ?? [])].flatMap((face, i) => (face ? [i] : []));
};
/** Mean difference of two pictures over texels, 0..255. */
const meanOver = (one: Uint8Array, other: Uint8Array, texels: readonly number[]): number => {
	let sum = 0;
	for (const i of texels)
		for (let k = 0; k < 4; k++) sum += Math.abs((one[i * 4 + k] as number) - (other[i * 4 + k] as number));
	return sum / texels.length / 4;
};

test('to another layout and back the paint is what it was, and nothing of it is missing', () => {
	for (const mesh of [box(), ball(), tube()])
		for (const degrees of [25, 90]) {
			const engine = opened(mesh, [
				paintLayer('p', 'Paint'),
				paintLayer('q', 'Upper', { mask: { surface: 'qm', on: true } }),
			]);
			const first = turned(layoutOf(mesh), 0, 0.62);
			relay(engine, first);
			blots(engine, 'p', 'color', 5);
			blots(engine, 'q', 'color', 6);
			blots(engine, 'q', 'mask', 7);
			const before = engine.composite('s').data;
			const { report } = relay(engine, turned(first, degrees, 1));
			expect(report[0]?.bare).toBe(0);
			const now = engine.composite('s').data;
			expect(insides(engine).filter((i) => (now[i * 4 + 3] as number) < 150)).toEqual([]);
			relay(engine, first);
			const back = meanOver(before, engine.composite('s').data, insides(engine));
			// Turned by quarters texels go one by one; only those at a rim may be another's.
			expect(back).toBeLessThanOrEqual(degrees === 90 ? 0.01 : 0.25);
			engine.close();
		}
});

test('onto a sheet of twice the size and back the paint is what it was', () => {
	const mesh = box();
	const engine = opened(mesh);
	blots(engine, 'p', 'color', 9);
	const before = engine.composite('s').data;
	const sized = (side: number): void => {
		const sheets = engine.project.sheets.map((sheet) => ({ ...sheet, width: side, height: side }));
		engine.relay({ sheets }, 'Another size', newId);
	};
	sized(SIDE * 2);
	expect(engine.project.sheets[0]?.width).toBe(SIDE * 2);
	expect(engine.composite('s').width).toBe(SIDE * 2);
	sized(SIDE);
	expect(meanOver(before, engine.composite('s').data, insides(engine))).toBeLessThanOrEqual(2);
});

test('undo gives the same bytes back, redo the carried ones, and a project opened anew shows what is shown', () => {
	const mesh = box();
	const layers = [paintLayer('p', 'Paint'), textLayer('t', 'Words', { ...text, x: 140, y: 110, size: 40 })];
	const engine = opened(mesh, layers);
	blots(engine, 'p', 'color', 3);
	const bytes = (): Buffer => Buffer.from(engine.composite('s').data);
	const before = bytes();
	const layout = turned(layoutOf(mesh), 90, 1);
	relay(engine, layout);
	const after = bytes();
	expect(after.equals(before)).toBe(false);
	engine.undo();
	expect(bytes().equals(before)).toBe(true);
	engine.redo();
	expect(bytes().equals(after)).toBe(true);
	const { project, tiles } = engine.whole();
	const anew = openEngine(kernels, project, tiles, new Map([['m', mesh]]));
	expect(Buffer.from(anew.composite('s').data).equals(after)).toBe(true);
	expect(layoutOf(anew.scene('m')?.mesh as LaidMesh).uvs).toEqual(layout.uvs);
	// The same where the tiles come after the models, as in the browser.
	const late = openEngine(kernels, project, [], new Map([['m', mesh]]));
	late.takeKept(tiles);
	late.layAgain();
	late.renew();
	expect(Buffer.from(late.composite('s').data).equals(after)).toBe(true);
	relay(engine, null);
	expect(engine.scene('m')?.mesh.uvs).toEqual(mesh.uvs);
});

test('what is kept since a new layout is enough to open it', () => {
	const mesh = box();
	const engine = opened(mesh);
	blots(engine, 'p', 'color', 3);
	const kept = new Map<string, KeptTile>();
	const keep = (): void => keepTiles(kept, engine.takeDelta()?.tiles ?? []);
	keep();
	relay(engine, turned(layoutOf(mesh), 30, 0.7));
	keep();
	const anew = openEngine(kernels, engine.project, kept.values(), new Map([['m', mesh]]));
	expect(Buffer.from(anew.composite('s').data).equals(Buffer.from(engine.composite('s').data))).toBe(true);
});

test('over a seam the paint still meets itself, and gutters are filled', () => {
	const mesh = tube();
	const engine = opened(mesh);
	const { mesh: laid, seamsOf } = engine.scene('m') as NonNullable<ReturnType<Engine['scene']>>;
	// A colour that follows the place on the model, and so meets itself at the seam.
	const { data, width } = engine.composite('s');
	const map = engine.scene('m')?.mapOf(engine.project.sheets[0] as never);
	const at = (face: number, x: number, y: number): number[] => {
		const corner = (k: number): number => laid.indices[face * 3 + k] as number;
		const uv = [0, 1, 2].map((k) => [0, 1].map((c) => (laid.uvs[corner(k) * 2 + c] as number) * width));
		const [[ax, ay], [bx, by], [cx, cy]] = uv as [[number, number], [number, number], [number, number]];
		const area = (bx - ax) * (cy - ay) - (cx - ax) * (by - ay);
		const wb = ((x - ax) * (cy - ay) - (cx - ax) * (y - ay)) / area;
		const wc = ((bx - ax) * (y - ay) - (x - ax) * (by - ay)) / area;
		return [0, 1, 2].map(
			(k) =>
				(laid.positions[corner(0) * 3 + k] as number) * (1 - wb - wc) +
				(laid.positions[corner(1) * 3 + k] as number) * wb +
				(laid.positions[corner(2) * 3 + k] as number) * wc,
		);
	};
	const color = (p: readonly number[]): number[] => p.map((v) => Math.round(128 + 100 * Math.sin(v * 2)));
	const paint = (texel: number, face: number): void =>
		data.set([...color(at(face, (texel % width) + 0.5, Math.floor(texel / width) + 0.5)), 255], texel * 4);
	map?.faceOfTexel.forEach((face, i) => void (face && paint(i, face - 1)));
	map?.gutterTexel.forEach((texel, g) => paint(texel, (map.faceOfTexel[map.gutterSource[g] as number] as number) - 1));
	engine.lay('s', 'p', 'color', { width, height: width, data }, 'By place');
	expect(seamsOf).toBeDefined();
	relay(engine, turned(layoutOf(mesh), 37, 0.8));
	const scene = engine.scene('m') as NonNullable<ReturnType<Engine['scene']>>;
	const layer = engine.project.sheets[0]?.layers[0] as PaintLayer;
	const surface = engine.surface(layer.surface);
	let [sum, count] = [0, 0];
	for (const { one, other } of scene.topology.seams) {
		if (!other) continue;
		for (const share of [0.2, 0.5, 0.8]) {
			const side = ({ face, corner }: typeof one, t: number): readonly number[] => {
				const [a, b] = [corner, (corner + 1) % 3].map((k) => scene.mesh.indices[face * 3 + k] as number) as [
					number,
					number,
				];
				const uv = (k: number): number =>
					((scene.mesh.uvs[a * 2 + k] as number) * (1 - t) + (scene.mesh.uvs[b * 2 + k] as number) * t) * width;
				return texelAt(kernels.heap, surface as never, Math.floor(uv(0)), Math.floor(uv(1)));
			};
			const [p, q] = [side(one, share), side(other, 1 - share)];
			expect(Math.min(p[3] as number, q[3] as number)).toBe(255);
			for (let k = 0; k < 3; k++) sum += Math.abs((p[k] as number) - (q[k] as number));
			count += 3;
		}
	}
	expect(count).toBeGreaterThan(20);
	expect(sum / count).toBeLessThanOrEqual(2);
});

test('paint beside the islands is told by its layer, and a sheet that nothing changes on stays the same object', () => {
	const mesh = box();
	const project = projectOf(mesh, SIDE);
	const other = { ...project.sheets[0], id: 'other', name: 'Other', layers: [paintLayer('o', 'Else')] };
	const engine = openEngine(
		kernels,
		{ ...project, sheets: [...project.sheets, other as never] },
		[],
		new Map([['m', mesh]]),
	);
	blots(engine, 'p', 'color', 2);
	const { report } = relay(engine, turned(layoutOf(mesh), 10, 0.6));
	expect(report.map(({ sheet }) => sheet)).toEqual(['s']);
	expect(report[0]?.lost[0]?.layer).toBe('Paint');
	expect(report[0]?.shrunk).toBeGreaterThan(0);
	expect(engine.project.sheets[1]?.layers[0]).toEqual(other.layers[0]);
});

test('what became of the paint is told by the part that it lies on', () => {
	const whole = box();
	const half = whole.indices.length / 6;
	const mesh: LaidMesh = {
		...whole,
		parts: [
			{ name: 'Above', firstFace: 0, faces: half },
			{ name: 'Below', firstFace: half, faces: half },
		],
	};
	const first = layoutOf(mesh);
	const sized = (by: number): Layout => ({
		uvs: first.uvs.map((v, i) => (i < half * 6 ? v : (i % 2 ? 0.66 : 0.5) + (v - (i % 2 ? 0.66 : 0.5)) * by)),
	});
	const engine = opened(mesh);
	blots(engine, 'p', 'color', 8);
	for (const [by, fate] of [
		[0.7, 'shrunk'],
		[0.99, 'enlarged'],
	] as const) {
		const [report] = relay(engine, sized(by)).report;
		if (!report) throw new Error('Nothing was told.');
		const [above, below] = report.parts;
		expect([above?.name, below?.name]).toEqual(['Above', 'Below']);
		expect([above?.[fate], above?.exact]).toEqual([0, report.exact]);
		expect(below?.[fate]).toBe(report[fate]);
		expect(report[fate]).toBeGreaterThan(1000);
		for (const key of ['exact', 'kept', 'enlarged', 'shrunk', 'bare'] as const)
			expect(report.parts.reduce((sum, part) => sum + part[key], 0)).toBe(report[key]);
	}
	engine.close();
});

test('a pattern over a box goes along with the island that its middle lies on, turned by quarters and sized', () => {
	const mesh = box();
	const pattern = {
		fill: 'pattern',
		picture: 'leaf',
		gap: 0.1,
		staggered: false,
		jitterTurn: 0,
		jitterSize: 0,
	} as const;
	const fill = { ...pattern, box: { x: 20, y: 26, width: 40, height: 20 }, across: 8, turn: 10, seed: 1, tint: null };
	const project = projectOf(mesh, SIDE, [washLayer('w', 'W', '#aa5500', { fill })]);
	for (const [degrees, scale] of [
		[90, 0.5],
		[180, 1],
		[-90, 0.8],
		[0, 0.6],
	] as const) {
		const engine = openEngine(kernels, project, [], new Map([['m', mesh]]));
		relay(engine, turned(layoutOf(mesh), degrees, scale));
		const moved = engine.project.sheets[0]?.layers[0] as WashLayer;
		if (moved.fill?.fill !== 'pattern') throw new Error('No pattern.');
		const { box: now, across, turn } = moved.fill;
		const lies = degrees % 180 !== 0;
		expect(now.width).toBeCloseTo((lies ? 20 : 40) * scale, 3);
		expect(now.height).toBeCloseTo((lies ? 40 : 20) * scale, 3);
		expect(across).toBe(lies ? 4 : 8);
		expect((turn - 10 - degrees) % 360).toBeCloseTo(0, 6);
		// Its middle is where the layout takes it: around the middle of the sheet.
		const angle = (degrees * Math.PI) / 180;
		const [x, y] = [40 - SIDE / 2, 36 - SIDE / 2];
		const to = [Math.cos(angle) * x - Math.sin(angle) * y, Math.sin(angle) * x + Math.cos(angle) * y];
		expect(now.x + now.width / 2).toBeCloseTo(SIDE / 2 + (to[0] as number) * scale, 1);
		expect(now.y + now.height / 2).toBeCloseTo(SIDE / 2 + (to[1] as number) * scale, 1);
		engine.close();
	}
});

test('what is lost is told with its place, and how far it is grows to all of it', () => {
	const mesh = box();
	const engine = openEngine(kernels, projectOf(mesh, SIDE), [], new Map([['m', mesh]]));
	const scene = engine.scene('m') as NonNullable<ReturnType<Engine['scene']>>;
	const map = scene.mapOf(engine.project.sheets[0] as Project['sheets'][0]);
	const { owner } = ownersOf({ model: 'm', mesh, islandOfFace: scene.topology.islandOfFace, map });
	// A spot of three by two texels where no island is.
	const free = owner.findIndex(
		(_, i) =>
			i % SIDE < SIDE - 3 && i < SIDE * (SIDE - 2) && [0, 1, 2, SIDE, SIDE + 1, SIDE + 2].every((d) => !owner[i + d]),
	);
	const [x, y] = [free % SIDE, Math.floor(free / SIDE)];
	const data = new Uint8Array(SIDE * SIDE * 4);
	for (const d of [0, 1, 2, SIDE, SIDE + 1, SIDE + 2]) data.set([9, 200, 90, 255], (free + d) * 4);
	engine.lay('s', 'p', 'color', { width: SIDE, height: SIDE, data }, 'Spot');
	const shares: number[] = [];
	const change = { layouts: new Map([['m', turned(layoutOf(mesh), 10, 0.6)]]) };
	let n = 0;
	const { report } = engine.relay(
		change,
		'Lay out',
		() => `far${n++}`,
		(share) => shares.push(share),
	);
	expect(report[0]?.lost).toEqual([{ layer: 'Paint', texels: 6, at: { x, y, width: 3, height: 2 } }]);
	expect(shares).toEqual([...shares].sort((a, b) => a - b));
	expect(shares.at(-1)).toBe(1);
	engine.close();
});

test('two sheets become one: each part keeps its paint', () => {
	const mesh = box();
	const half = {
		...mesh,
		parts: [
			{ name: 'Lower', firstFace: 0, faces: mesh.indices.length / 6 },
			{ name: 'Upper', firstFace: mesh.indices.length / 6, faces: mesh.indices.length / 6 },
		],
	};
	const base = projectOf(half, SIDE);
	const other = { ...base.sheets[0], id: 'other', name: 'Other', layers: [paintLayer('o', 'Else')] };
	const project = {
		...base,
		sheets: [...base.sheets, other],
		models: base.models.map((model) => ({
			...model,
			parts: model.parts.map((part, i) => ({ ...part, sheet: i ? 'other' : 's' })),
		})),
	} as Project;
	const engine = openEngine(kernels, project, [], new Map([['m', half]]));
	const fill = (sheet: string, layer: string, color: readonly number[]): void => {
		const data = new Uint8Array(SIDE * SIDE * 4);
		for (let i = 0; i < data.length; i += 4) data.set(color, i);
		engine.lay(sheet, layer, 'color', { width: SIDE, height: SIDE, data }, 'Fill');
	};
	fill('s', 'p', [200, 40, 40, 255]);
	fill('other', 'o', [40, 40, 200, 255]);
	const { id, name, width, height, bleed, base: ground } = engine.project.sheets[0] as Project['sheets'][0];
	const sheets = [{ id, name, width, height, bleed, base: ground }];
	expect(() => engine.relay({ sheets }, 'Without the other', newId)).toThrow(/lies on a sheet that would not be there/);
	engine.relay({ sheets, parts: new Map([['m', ['s', 's']]]) }, 'Merge sheets', newId);
	expect(engine.project.sheets).toHaveLength(1);
	// The layers of the other come as a group of its name, shown on what came from there.
	expect([...eachLayer(engine.project.sheets[0]?.layers ?? [])].map((each) => each.name)).toEqual([
		'Paint',
		'Other',
		'Else',
	]);
	const { data } = engine.composite('s');
	const scene = engine.scene('m') as NonNullable<ReturnType<Engine['scene']>>;
	const map = scene.mapOf(engine.project.sheets[0] as never);
	const wrong = [...map.faceOfTexel].filter(
		(face, i) => face && data[i * 4] !== (scene.partOfFace(face - 1) ? 40 : 200),
	);
	expect(wrong).toEqual([]);
	// And apart again: a sheet of its own has what is painted on the part.
	const own = { id: 'own', name: 'Own', width: SIDE, height: SIDE, bleed, base: ground };
	engine.relay({ sheets: [...sheets, own], parts: new Map([['m', ['s', 'own']]]) }, 'Split', newId);
	const split = engine.scene('m') as NonNullable<ReturnType<Engine['scene']>>;
	const apart = engine.composite('own').data;
	const upper = split.mapOf(engine.project.sheets[1] as never).faceOfTexel;
	expect([...upper].filter((face, i) => face && apart[i * 4] !== 40)).toEqual([]);
	expect(
		new Set(engine.project.sheets.flatMap((each) => [...eachLayer(each.layers)].map((layer) => layer.id))).size,
	).toBe(6);
	engine.undo();
	engine.undo();
	expect(engine.project.sheets).toHaveLength(2);
});

test('a sheet that no model lies on is sized as a picture, to its very rim', () => {
	const project = { ...projectOf(box(), 64), models: [] };
	const engine = openEngine(kernels, project, [], new Map());
	const data = new Uint8Array(64 * 64 * 4);
	for (let i = 0; i < 64 * 64; i++) data.set([(i % 64) * 4, Math.floor(i / 64) * 4, 90, 255], i * 4);
	engine.lay('s', 'p', 'color', { width: 64, height: 64, data }, 'Ramp');
	const before = engine.composite('s').data;
	const [sheet] = engine.project.sheets as readonly [Project['sheets'][0]];
	engine.relay({ sheets: [{ ...sheet, width: 128, height: 128 }] }, 'Larger', newId);
	const large = engine.composite('s').data;
	for (let i = 0; i < large.length; i += 4) expect(large[i + 3]).toBe(255);
	engine.relay({ sheets: [{ ...sheet, width: 64, height: 64 }] }, 'Back', newId);
	const back = engine.composite('s').data;
	expect(Math.max(...back.map((v, i) => Math.abs(v - (before[i] as number))))).toBeLessThanOrEqual(2);
});

test('lettering goes along: where its surface lies, turned with it, and as large', () => {
	const mesh = box();
	const at = { ...text, x: 0.17 * SIDE, y: 0.19 * SIDE, turn: 10, size: 24 };
	fc.assert(
		fc.property(fc.integer({ min: -170, max: 170 }), fc.constantFrom(1, -1), (degrees, flip) => {
			const engine = opened(mesh, [textLayer('t', 'Words', at)]);
			relay(engine, turned(layoutOf(mesh), degrees, 0.6, flip));
			const words = engine.project.sheets[0]?.layers[0] as unknown as { text: typeof text };
			const [cos, sin] = [Math.cos((degrees * Math.PI) / 180) * 0.6, Math.sin((degrees * Math.PI) / 180) * 0.6];
			const [u, v] = [(at.x - SIDE / 2) * flip, at.y - SIDE / 2];
			expect(words.text.x).toBeCloseTo(SIDE / 2 + cos * u - sin * v, 1);
			expect(words.text.y).toBeCloseTo(SIDE / 2 + sin * u + cos * v, 1);
			expect(words.text.size).toBeCloseTo(24 * 0.6, 1);
			expect(words.text.mirrored).toBe(flip < 0);
			const turn = degrees + flip * 10;
			expect(Math.cos(((words.text.turn - turn) * Math.PI) / 180)).toBeCloseTo(1, 3);
			engine.close();
		}),
		{ numRuns: 8 },
	);
});
