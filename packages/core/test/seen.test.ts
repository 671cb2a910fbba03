/** Selections, shapes, gradients and moves in the plane of a view of the model. */
import type { Kernels } from '@eppu/kernels';
import { loadKernels } from '@eppu/kernels/node';
import { beforeAll, describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { addBox, createMeshBuilder } from '../../../demo/mesh/shapes.ts';
import { type Project, paintLayer } from '../src/document/index.ts';
import { type Engine, openEngine } from '../src/engine/index.ts';
import { type LaidMesh, meshBounds } from '../src/mesh/index.ts';
import { homeCamera, projectionOf, type Sight } from '../src/projection/index.ts';
import type { Affine } from '../src/raster/index.ts';
import type { Shape } from '../src/select/index.ts';
import { box, projectOf } from './oracle/meshes.ts';

let kernels: Kernels;
beforeAll(async () => {
	kernels = await loadKernels();
});

const SIDE = 256;
const layers = { s: 'p' };
const open = (mesh: LaidMesh, project: Project = projectOf(mesh, SIDE)): Engine =>
	openEngine(kernels, project, [], new Map([['m', mesh]]));
const front: Sight = {
	camera: { ...homeCamera, yaw: 0, pitch: 0, distance: 6, parallel: true },
	width: 320,
	height: 320,
};
const aslant: Sight = { ...front, camera: { ...front.camera, yaw: 35, pitch: 25, parallel: false } };
const rectangle = (x: number, y: number, width: number, height: number): Shape => ({
	kind: 'rectangle',
	x,
	y,
	width,
	height,
	radius: 0,
});
const rgba = (data: Uint8Array, x: number, y: number): number[] => [
	...data.subarray((y * SIDE + x) * 4, (y * SIDE + x) * 4 + 4),
];
const shown = (engine: Engine): Uint8Array => engine.composite('s').data.slice();

/** Where the middle and the corners of each texel of the box's faces show, told by the model's own points: nothing of the engine is asked. */
function shownTexels(
	mesh: LaidMesh,
	{ camera, width, height }: Sight,
): { readonly x: number; readonly y: number; readonly at: readonly (readonly [number, number])[]; front: boolean }[] {
	const { X, Y, W, eye } = projectionOf(camera, width, height);
	const out: ReturnType<typeof shownTexels> = [];
	for (let face = 0; face < mesh.indices.length / 3; face++) {
		const v = [0, 1, 2].map((k) => mesh.indices[face * 3 + k] as number);
		const p = v.map((i) => [...mesh.positions.subarray(i * 3, i * 3 + 3)] as [number, number, number]);
		const uv = v.map((i) => [(mesh.uvs[i * 2] as number) * SIDE, (mesh.uvs[i * 2 + 1] as number) * SIDE] as const);
		const [a, b, c] = uv as [readonly [number, number], readonly [number, number], readonly [number, number]];
		const area = (b[0] - a[0]) * (c[1] - a[1]) - (c[0] - a[0]) * (b[1] - a[1]);
		const point = (x: number, y: number): readonly [number, number, number] => {
			const w1 = ((x - a[0]) * (c[1] - a[1]) - (c[0] - a[0]) * (y - a[1])) / area;
			const w2 = ((b[0] - a[0]) * (y - a[1]) - (x - a[0]) * (b[1] - a[1])) / area;
			return [0, 1, 2].map(
				(k) => (1 - w1 - w2) * (p[0]?.[k] as number) + w1 * (p[1]?.[k] as number) + w2 * (p[2]?.[k] as number),
			) as unknown as [number, number, number];
		};
		const seen = (x: number, y: number): readonly [number, number] => {
			const at = point(x, y);
			const along = (r: readonly [number, number, number, number]): number =>
				r[0] * at[0] + r[1] * at[1] + r[2] * at[2] + r[3];
			return [along(X) / along(W), along(Y) / along(W)];
		};
		const u = [0, 1, 2].map((k) => (p[1]?.[k] as number) - (p[0]?.[k] as number));
		const w = [0, 1, 2].map((k) => (p[2]?.[k] as number) - (p[0]?.[k] as number));
		const n = [0, 1, 2].map(
			(k) =>
				(u[(k + 1) % 3] as number) * (w[(k + 2) % 3] as number) -
				(u[(k + 2) % 3] as number) * (w[(k + 1) % 3] as number),
		);
		const towards = n.reduce((sum, v, k) => sum + v * ((eye[k] as number) - (p[0]?.[k] as number) * eye[3]), 0);
		const [x0, x1] = [Math.min(a[0], b[0], c[0]), Math.max(a[0], b[0], c[0])];
		const [y0, y1] = [Math.min(a[1], b[1], c[1]), Math.max(a[1], b[1], c[1])];
		for (let y = Math.ceil(y0); y < Math.floor(y1); y++)
			for (let x = Math.ceil(x0); x < Math.floor(x1); x++) {
				const w1 = ((x + 0.5 - a[0]) * (c[1] - a[1]) - (c[0] - a[0]) * (y + 0.5 - a[1])) / area;
				const w2 = ((b[0] - a[0]) * (y + 0.5 - a[1]) - (x + 0.5 - a[0]) * (b[1] - a[1])) / area;
				if (w1 < 0 || w2 < 0 || w1 + w2 > 1) continue;
				out.push({
					x,
					y,
					at: [seen(x + 0.5, y + 0.5), seen(x, y), seen(x + 1, y), seen(x + 1, y + 1), seen(x, y + 1)],
					front: towards > 1e-6,
				});
			}
	}
	return out;
}

describe('a shape in the plane of the view', () => {
	test.each([
		['straight', front],
		['aslant, in perspective', aslant],
	])('covers just the texels that show inside it, and nothing that is turned away: %s', (_name, sight) => {
		const mesh = box();
		const engine = open(mesh);
		const [x0, y0, x1, y1] = [120.3, 90.6, 215.7, 200.1];
		const edit = { do: 'shape', shape: rectangle(x0, y0, x1 - x0, y1 - y0), outline: null, repeat: null } as const;
		expect(engine.editSeen('m', sight, layers, { ...edit, color: '#ff0000' }).ok).toBe(true);
		let [inside, outside] = [0, 0];
		const data = shown(engine);
		for (const { x, y, at, front: looks } of shownTexels(mesh, sight)) {
			const alpha = rgba(data, x, y)[3] as number;
			if (!looks) expect(alpha).toBe(0);
			// Half a px around: places are kept to that fineness, and rims fade.
			else if (at.every(([px, py]) => px > x0 + 0.5 && py > y0 + 0.5 && px < x1 - 0.5 && py < y1 - 0.5)) {
				inside++;
				if (alpha < 250) expect({ x, y, alpha, at }).toBe('painted all over');
			} else if (at.every(([px]) => px < x0 - 1) || at.every(([px]) => px > x1 + 1)) {
				outside++;
				if (alpha > 0) expect({ x, y, alpha, at }).toBe('left alone');
			}
		}
		expect(Math.min(inside, outside)).toBeGreaterThan(300);
		engine.undo();
		expect(engine.composite('s').data.every((v) => v === 0)).toBe(true);
		engine.close();
	});

	test('is as large on the model as it is drawn, by area, in a straight view', () => {
		const mesh = box();
		const engine = open(mesh);
		fc.assert(
			fc.property(
				fc.double({ min: 8, max: 40, noNaN: true }),
				fc.double({ min: -15, max: 15, noNaN: true }),
				fc.double({ min: -15, max: 15, noNaN: true }),
				(r, dx, dy) => {
					engine.selectSeen(
						'm',
						front,
						{ shape: { kind: 'ellipse', x: 160 + dx - r, y: 160 + dy - r, width: 2 * r, height: 2 * r } },
						'replace',
					);
					const selection = engine.surface(engine.project.sheets[0]?.selection ?? '');
					if (!selection) return false;
					const lines = engine.selectionLines('s');
					const [width] = [0, 1].map((k) => {
						const all = lines.flatMap((line) => [...line].filter((_, i) => i % 2 === k));
						return Math.max(...all) - Math.min(...all);
					});
					// The front is 2 units and 0.26 of the sheet wide; the view is as many px high as it shows units.
					const pxPerUnit = 320 / (2 * 6 * Math.tan((front.camera.fov * Math.PI) / 360));
					const texels = ((2 * r) / pxPerUnit / 2) * 0.26 * SIDE;
					return Math.abs((width as number) - texels) <= 2;
				},
			),
			{ numRuns: 25 },
		);
		engine.close();
	});

	test('what is selected in one view takes paint alone in all', () => {
		const mesh = box();
		const engine = open(mesh);
		engine.selectSeen('m', front, { shape: rectangle(150, 150, 20, 20) }, 'replace');
		engine.selectSeen('m', front, { shape: rectangle(170, 150, 20, 20) }, 'add');
		expect(engine.history.done.map(({ words }) => words)).toEqual(['Select', 'Add to the selection']);
		engine.edit('s', 'p', { do: 'fill', color: '#00ff00' });
		const data = shown(engine);
		const painted = shownTexels(mesh, front).filter(({ x, y }) => (rgba(data, x, y)[3] as number) > 128);
		expect(painted.length).toBeGreaterThan(20);
		for (const { at, front: looks } of painted) {
			expect(looks).toBe(true);
			expect((at[0]?.[0] as number) > 149 && (at[0]?.[0] as number) < 191).toBe(true);
		}
		engine.close();
	});

	test('beside the model selects nothing and says so', () => {
		const engine = open(box());
		const told = engine.selectSeen('m', front, { shape: rectangle(2, 2, 10, 10) }, 'replace');
		expect(told).toMatchObject({ ok: false, refusal: { code: 'off-model' } });
		expect(engine.history.done).toHaveLength(0);
		const drawn = engine.editSeen('m', front, layers, {
			do: 'shape',
			shape: rectangle(2, 2, 10, 10),
			outline: null,
			repeat: null,
			color: '#ff0000',
		});
		expect(drawn).toMatchObject({ ok: false, refusal: { code: 'off-model' } });
		engine.close();
	});
});

test('a gradient runs along the view, whatever way the islands lie', () => {
	const mesh = box();
	const engine = open(mesh);
	const gradient = {
		fill: 'gradient',
		way: 'linear',
		from: [100, 0],
		to: [220, 0],
		colors: ['#000000', '#ffffff'],
		fade: false,
	} as const;
	expect(engine.editSeen('m', aslant, layers, { do: 'gradient', gradient }).ok).toBe(true);
	let count = 0;
	const tones = new Map<number, number[]>();
	const data = shown(engine);
	for (const { x, y, at, front: looks } of shownTexels(mesh, aslant)) {
		const [r, , , a] = rgba(data, x, y) as [number, number, number, number];
		if (!looks) expect(a).toBe(0);
		if (a < 255) continue;
		count++;
		const column = Math.round(at[0]?.[0] as number);
		tones.set(column, [...(tones.get(column) ?? []), r]);
	}
	expect(count).toBeGreaterThan(3000);
	// One column of the view has one tone, and tones rise from left to right.
	const means = [...tones].sort(([a], [b]) => a - b).map(([, list]) => list.reduce((s, v) => s + v, 0) / list.length);
	for (const list of tones.values()) expect(Math.max(...list) - Math.min(...list)).toBeLessThan(8);
	for (let i = 1; i < means.length; i++)
		expect(means[i] as number).toBeGreaterThanOrEqual((means[i - 1] as number) - 0.01);
	engine.close();
});

describe('a move in the plane of the view', () => {
	const still: Affine = [1, 0, 0, 0, 1, 0];
	const spotted = (): { engine: Engine; mesh: LaidMesh } => {
		const mesh = box();
		const engine = open(mesh);
		const data = new Uint8Array(SIDE * SIDE * 4);
		for (let i = 0; i < SIDE * SIDE; i++) data.set([i & 255, (i >> 8) & 255, (i * 7) & 255, 255], i * 4);
		engine.lay('s', 'p', 'color', { width: SIDE, height: SIDE, data }, 'Texels');
		return { engine, mesh };
	};

	test('by nothing leaves every texel as it is', () => {
		const { engine, mesh } = spotted();
		const before = shown(engine);
		engine.selectSeen('m', aslant, { shape: rectangle(120, 100, 90, 90) }, 'replace');
		expect(engine.editSeen('m', aslant, layers, { do: 'transform', map: still, smooth: false }).ok).toBe(true);
		const now = shown(engine);
		// Bleed takes what the model shows beyond the seam; where the rim is selected in part its alpha is what changes.
		const off = shownTexels(mesh, aslant).filter(({ x, y }) => {
			const [was, is] = [rgba(before, x, y), rgba(now, x, y)];
			return [0, 1, 2].some((k) => Math.abs((was[k] as number) - (is[k] as number)) > 2);
		});
		expect(off.length).toBeLessThan(12);
		engine.close();
	});

	test('shows at each px what showed before where it came from, on other islands too', () => {
		const { engine, mesh } = spotted();
		engine.selectSeen('m', aslant, { shape: rectangle(120, 130, 40, 60) }, 'replace');
		let data = shown(engine);
		const at = (px: number, py: number): number[] => {
			const [spot] = engine.spotsSeen('m', aslant, [px, py]);
			return spot ? rgba(data, Math.floor(spot.x), Math.floor(spot.y)) : [];
		};
		const places = Array.from({ length: 60 }, (_, i) => [125 + ((i * 7) % 30), 136 + ((i * 11) % 48)] as const);
		const before = places.map(([x, y]) => ({ color: at(x, y), spot: engine.spotsSeen('m', aslant, [x, y])[0] }));
		engine.editSeen('m', aslant, layers, { do: 'transform', map: [1, 0, 44, 0, 1, -6], smooth: false });
		data = shown(engine);
		let [same, crossed] = [0, 0];
		places.forEach(([x, y], i) => {
			const now = engine.spotsSeen('m', aslant, [x + 44, y - 6])[0];
			const color = at(x + 44, y - 6);
			// Within a texel of what was there: px and texels do not lie over each other.
			const was = before[i]?.spot;
			if (!was || !now) return;
			const index = ((color[1] as number) << 8) | (color[0] as number);
			const [fx, fy] = [index % SIDE, Math.floor(index / SIDE)];
			if (Math.hypot(fx + 0.5 - was.x, fy + 0.5 - was.y) < 1.6) same++;
			if (was.island !== now.island) crossed++;
		});
		expect(same).toBeGreaterThan(50);
		expect(crossed).toBeGreaterThan(5);
		expect(mesh.parts).toHaveLength(1);
		// What was lifted off left nothing, and what is selected moved along.
		expect(at(125, 180)[3]).toBe(0);
		const box_ = engine.boundsSeen('m', aslant, layers);
		expect(box_).toMatchObject({ x: expect.any(Number) });
		expect(Math.abs((box_?.x ?? 0) - 164)).toBeLessThan(4);
		engine.undo();
		data = shown(engine);
		expect(at(125, 180)[3]).toBe(255);
		engine.close();
	});

	test('of one gesture is one step, from where it began', () => {
		const { engine } = spotted();
		engine.selectSeen('m', aslant, { shape: rectangle(120, 130, 40, 60) }, 'replace');
		const steps = engine.history.done.length;
		for (const dx of [5, 20, 44])
			engine.editSeen(
				'm',
				aslant,
				layers,
				{ do: 'transform', map: [1, 0, dx, 0, 1, 0], smooth: true },
				{ gesture: 'g' },
			);
		expect(engine.history.done.length).toBe(steps + 1);
		const thrice = shown(engine);
		engine.undo();
		engine.editSeen('m', aslant, layers, { do: 'transform', map: [1, 0, 44, 0, 1, 0], smooth: true });
		expect(Buffer.compare(engine.composite('s').data, thrice)).toBe(0);
		engine.close();
	});

	test('of the outline alone leaves the paint where it is', () => {
		const { engine } = spotted();
		engine.selectSeen('m', aslant, { shape: rectangle(120, 130, 40, 60) }, 'replace');
		const before = shown(engine);
		const move = { do: 'transform', map: [1, 0, 44, 0, 1, 0] as Affine, smooth: true } as const;
		engine.editSeen('m', aslant, layers, move, { outlineOnly: true });
		expect(Buffer.compare(engine.composite('s').data, before)).toBe(0);
		expect(Math.abs((engine.boundsSeen('m', aslant, layers)?.x ?? 0) - 164)).toBeLessThan(4);
		engine.close();
	});
});

test('a shape over several sheets lands on each, and one undo takes it back', () => {
	const builder = createMeshBuilder();
	for (const [name, x] of [
		['Left', -1],
		['Right', 1],
	] as const) {
		builder.part(name);
		const islands = Array.from({ length: 6 }, (_, i) => ({
			x: 0.04 + 0.32 * (i % 3),
			y: 0.06 + 0.48 * Math.floor(i / 3),
			w: 0.26,
			h: 0.26,
		}));
		addBox(builder, [x, 0, 0], [1.8, 1.8, 1.8], islands, 2);
	}
	const mesh = builder.mesh();
	const one = projectOf(mesh, SIDE);
	const project: Project = {
		...one,
		models: one.models.map((model) => ({
			...model,
			parts: model.parts.map((part, i) => ({ ...part, sheet: i ? 't' : 's' })),
		})),
		sheets: [
			...one.sheets,
			{ ...(one.sheets[0] as Project['sheets'][number]), id: 't', name: 'Right', layers: [paintLayer('q', 'Q')] },
		],
	};
	const engine = open(mesh, project);
	expect(meshBounds(mesh).radius).toBeGreaterThan(1);
	const shape = {
		do: 'shape',
		shape: rectangle(120, 140, 80, 40),
		outline: null,
		repeat: null,
		color: '#ff0000',
	} as const;
	expect(engine.editSeen('m', front, { s: 'p', t: 'q' }, shape).ok).toBe(true);
	const painted = (sheet: string): number =>
		engine.composite(sheet).data.filter((v, i) => i % 4 === 3 && v > 200).length;
	expect(painted('s')).toBeGreaterThan(100);
	expect(Math.abs(painted('s') - painted('t'))).toBeLessThan(painted('s') * 0.1);
	engine.undo();
	expect(painted('s') + painted('t')).toBe(0);
	engine.redo();
	expect(painted('t')).toBeGreaterThan(100);
	// A sheet whose layer takes no paint is left out; where none does the reason is told.
	expect(engine.editSeen('m', front, { s: 'p' }, { ...shape, color: '#00ff00' }).ok).toBe(true);
	expect(engine.editSeen('m', front, {}, shape)).toMatchObject({ ok: false });
	// What is selected over both changes on both, in one step.
	engine.selectSeen('m', front, { shape: rectangle(120, 140, 80, 40) }, 'replace');
	const selected = (): number => engine.selectionLines('s').length + engine.selectionLines('t').length;
	expect(engine.selectionLines('t').length).toBeGreaterThan(0);
	const [all, steps] = [selected(), engine.history.done.length];
	engine.changeSelection('s', { to: 'none' }, ['s', 't']);
	expect([selected(), engine.history.done.length]).toEqual([0, steps + 1]);
	engine.undo();
	expect(selected()).toBe(all);
	// With nothing selected only the layer that is meant moves; what lies on the other sheet stays.
	engine.changeSelection('s', { to: 'none' }, ['s', 't']);
	const right = painted('t');
	const before = engine.boundsSeen('m', front, { s: 'p', t: 'q' }, { lifts: 's' });
	engine.editSeen(
		'm',
		front,
		{ s: 'p', t: 'q' },
		{ do: 'transform', map: [1, 0, -15, 0, 1, 0], smooth: false },
		{ lifts: 's' },
	);
	expect(painted('t')).toBe(right);
	const after = engine.boundsSeen('m', front, { s: 'p', t: 'q' }, { lifts: 's' });
	expect(Math.abs((before?.x ?? 0) - 15 - (after?.x ?? 0))).toBeLessThan(3);
	engine.close();
});
