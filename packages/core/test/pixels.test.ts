/** Pixel sheets: whole texels of the palette's colours, lines and rings without doubled corners, patterns, rims, ramps. */
import type { Kernels } from '@eppu/kernels';
import { loadKernels } from '@eppu/kernels/node';
import { beforeAll, describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { apiaryPalette, oklchOfHex, shiftedRamp } from '../src/color/index.ts';
import { type Project, paintLayer, projectProblem, washLayer } from '../src/document/index.ts';
import type { Edit } from '../src/edit/index.ts';
import { type Engine, openEngine, type StrokeSpec } from '../src/engine/index.ts';
import {
	dithers,
	ellipseMask,
	innerRing,
	packedOf,
	pixelColors,
	type TexelMask,
	texelCurve,
	texelLine,
	withoutCorners,
} from '../src/pixel/index.ts';
import { homeCamera } from '../src/projection/index.ts';
import { texelCover } from '../src/select/index.ts';
import { defaultTip, shippedTips } from '../src/stroke/index.ts';
import { box, projectOf } from './oracle/meshes.ts';

let kernels: Kernels;
beforeAll(async () => {
	kernels = await loadKernels();
});

const W = 40;
const H = 28;
const front = '#e8b345';
const back = '#2b2d30';
const project = (loose = false): Project => ({
	schema: 1,
	id: 'pr',
	name: 'P',
	models: [],
	palette: apiaryPalette,
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
			layers: [paintLayer('p', 'P', { loose })],
		},
	],
});
const open = (loose = false): Engine => openEngine(kernels, project(loose), [], new Map());
const words = (engine: Engine): Uint32Array => new Uint32Array(engine.composite('s').data.buffer);
const pencil = { size: 1, corners: false, mixing: null };
const spec = (change: Partial<StrokeSpec> = {}): StrokeSpec => ({
	tool: 'draw',
	tip: defaultTip,
	color: front,
	place: { on: 'sheet', sheet: 's' },
	layers: { s: 'p' },
	pencil,
	...change,
});
const draw = (engine: Engine, how: StrokeSpec, points: readonly (readonly [number, number])[]): boolean => {
	const [first, ...rest] = points.map(([x, y]) => ({ x, y, pressure: 1 }));
	if (!first || !engine.begin(how, [first]).ok) return false;
	for (const each of rest) engine.extend([each]);
	engine.end();
	return true;
};
const at = (engine: Engine, x: number, y: number): number => words(engine)[y * W + x] as number;
const pairsOf = (texels: readonly number[]): string[] =>
	Array.from({ length: texels.length / 2 }, (_, i) => `${texels[i * 2]} ${texels[i * 2 + 1]}`);

/** Whether one texel of a line stands in a corner between two that touch each other. */
const doubled = (texels: readonly number[]): boolean => {
	for (let i = 2; i + 3 < texels.length; i += 2) {
		const [ax, ay] = [texels[i - 2] as number, texels[i - 1] as number];
		const [bx, by] = [texels[i + 2] as number, texels[i + 3] as number];
		if (Math.abs(ax - bx) === 1 && Math.abs(ay - by) === 1) return true;
	}
	return false;
};
const place = fc.integer({ min: -30, max: 30 });

describe('lines', () => {
	test('a line is as many texels as its longer side, the nearest to it, the same from either end, with no corner doubled', () => {
		fc.assert(
			fc.property(place, place, place, place, (ax, ay, bx, by) => {
				const line = texelLine(ax, ay, bx, by);
				const long = Math.max(Math.abs(bx - ax), Math.abs(by - ay));
				expect(line).toHaveLength(2 * (long + 1));
				expect(doubled(line)).toBe(false);
				expect(new Set(pairsOf(texelLine(bx, by, ax, ay)))).toEqual(new Set(pairsOf(line)));
				const turned = pairsOf(line.map((v, i) => (i % 2 ? ay + by : ax + bx) - v));
				// But for a tie in the very middle it is the same turned half round.
				expect(turned.filter((each) => !pairsOf(line).includes(each)).length).toBeLessThanOrEqual(1);
				for (let i = 0; i < line.length; i += 2) {
					const [x, y] = [line[i] as number, line[i + 1] as number];
					const cross = (bx - ax) * (y - ay) - (by - ay) * (x - ax);
					// Half a texel off at the most, across its longer way.
					expect(2 * Math.abs(cross)).toBeLessThanOrEqual(Math.max(1, long));
				}
			}),
		);
	});
	test('a curve ends where it is to, goes from texel to texel, and doubles no corner', () => {
		fc.assert(
			fc.property(place, place, place, place, place, place, (ax, ay, cx, cy, bx, by) => {
				const curve = texelCurve([ax, ay], [cx, cy], [bx, by]);
				expect(curve.slice(0, 2)).toEqual([ax, ay]);
				expect(curve.slice(-2)).toEqual([bx, by]);
				for (let i = 2; i < curve.length; i += 2)
					expect(
						Math.max(
							Math.abs((curve[i] as number) - (curve[i - 2] as number)),
							Math.abs((curve[i + 1] as number) - (curve[i - 1] as number)),
						),
					).toBe(1);
			}),
		);
	});
	test('leaving corners out keeps a line joined', () => {
		const steps = fc.array(fc.constantFrom([1, 0], [0, 1], [-1, 0], [0, -1]), { maxLength: 60 });
		fc.assert(
			fc.property(steps, (way) => {
				const line = [0, 0];
				for (const [dx, dy] of way) line.push((line.at(-2) as number) + dx, (line.at(-1) as number) + dy);
				const out = withoutCorners(line);
				expect(out.slice(-2)).toEqual(line.slice(-2));
				for (let i = 2; i < out.length; i += 2)
					expect(
						Math.max(
							Math.abs((out[i] as number) - (out[i - 2] as number)),
							Math.abs((out[i + 1] as number) - (out[i - 1] as number)),
						),
					).toBe(1);
			}),
		);
	});
});

describe('shapes', () => {
	const rect = { x: 0, y: 0, width: W, height: H };
	test('an ellipse is what its middle says of each texel, and its ring has no corner doubled, for every size', () => {
		for (let w = 1; w <= 24; w++)
			for (let h = 1; h <= 20; h++) {
				const mask = ellipseMask(w, h);
				for (let y = 0; y < h; y++)
					for (let x = 0; x < w; x++) {
						const [u, v] = [(x + 0.5 - w / 2) / (w / 2), (y + 0.5 - h / 2) / (h / 2)];
						expect(mask.data[y * w + x]).toBe(u * u + v * v <= 1 + 1e-12 ? 1 : 0);
						expect(mask.data[y * w + x]).toBe(mask.data[(h - 1 - y) * w + (w - 1 - x)]);
						expect(mask.data[y * w + x]).toBe(mask.data[y * w + (w - 1 - x)]);
					}
				if (w < 5 || h < 5) continue;
				const ring = innerRing(mask, 4);
				const is = (x: number, y: number): boolean => x >= 0 && y >= 0 && x < w && y < h && ring.data[y * w + x] === 1;
				// No four together: where the line turns it goes over corners.
				for (let y = 0; y + 1 < h; y++)
					for (let x = 0; x + 1 < w; x++) {
						if (!(is(x, y) && is(x + 1, y) && is(x, y + 1) && is(x + 1, y + 1))) continue;
						// Only where the ellipse itself is no more than two thick.
						const out = (u: number, v: number): boolean => u < 0 || v < 0 || u >= w || v >= h || !mask.data[v * w + u];
						const flat = [x, x + 1].every((u) => out(u, y - 1) && out(u, y + 2));
						const slim = [y, y + 1].every((v) => out(x - 1, v) && out(x + 2, v));
						expect(flat || slim).toBe(true);
					}
			}
	});
	test('a rectangle, its outline and a polygon cover what a plain twin says', () => {
		const cover = (shape: Parameters<typeof texelCover>[0], outline: number | null): Uint8Array =>
			texelCover(shape, outline, null, rect);
		const box_ = { kind: 'rectangle' as const, x: 12, y: 14, width: -7, height: -9, radius: 0 };
		const [full, ring] = [cover(box_, null), cover(box_, 2)];
		for (let i = 0; i < full.length; i++) {
			const [x, y] = [i % W, Math.floor(i / W)];
			const inside = x >= 5 && x < 12 && y >= 5 && y < 14;
			expect(full[i]).toBe(inside ? 255 : 0);
			expect(ring[i]).toBe(inside && !(x >= 7 && x < 10 && y >= 7 && y < 12) ? 255 : 0);
		}
		const triangle = cover({ kind: 'polygon', points: [3.5, 3.5, 23.5, 3.5, 3.5, 23.5] }, null);
		for (let y = 3; y <= 23; y++) for (let x = 3; x <= 23; x++) expect(triangle[y * W + x]).toBe(x + y <= 26 ? 255 : 0);
		const rows = texelCover(
			{ ...box_, x: 2, y: 2, width: 3, height: 3 },
			null,
			{ way: 'row', count: 3, step: [5, 0] },
			rect,
		);
		expect(rows.filter((v) => v > 0)).toHaveLength(27);
	});
	test('patterns lay the share that they are told and join at the border of their square', () => {
		for (const { threshold } of dithers)
			for (const share of [0.25, 0.5, 0.75]) {
				let laid = 0;
				for (let y = 0; y < 16; y++)
					for (let x = 0; x < 16; x++) {
						laid += threshold(x, y) < share ? 1 : 0;
						expect(threshold(x + 16, y)).toBe(threshold(x, y));
						expect(threshold(x, y + 16)).toBe(threshold(x, y));
					}
				if (share === 0.5) expect(laid).toBe(128);
			}
	});
});

describe('strokes', () => {
	test('a pencil sets each texel that it goes over, once, without corners, and undo takes all back', () => {
		const engine = open();
		draw(engine, spec(), [
			[2.5, 2.5],
			[6.5, 2.5],
			[6.5, 6.5],
		]);
		const laid = [...words(engine)].flatMap((word, i) => (word ? [`${i % W} ${Math.floor(i / W)}`] : []));
		expect(laid).toEqual(['2 2', '3 2', '4 2', '5 2', '6 3', '6 4', '6 5', '6 6']);
		expect(at(engine, 2, 2)).toBe((0xff000000 | packedOf(front)) >>> 0);
		engine.undo();
		expect(words(engine).every((word) => word === 0)).toBe(true);
		draw(engine, spec({ pencil: { size: 3, corners: true, mixing: null } }), [[10, 10]]);
		expect([...words(engine)].filter(Boolean)).toHaveLength(9);
	});
	test('two colours stand in a pattern, mirrored strokes lie on whole texels', () => {
		const engine = open();
		const mixing = { dither: 'every-other' as const, share: 0.5, between: back };
		const lines = [{ along: 'x' as const, at: W / 2 }];
		draw(engine, spec({ pencil: { size: 4, corners: true, mixing }, mirrors: { planes: [], lines } }), [[5, 5]]);
		const used = engine.colorsUsed(['s']);
		expect(used).toEqual(
			expect.arrayContaining([
				[packedOf(front), 16],
				[packedOf(back), 16],
			]),
		);
		for (let y = 0; y < H; y++)
			for (let x = 0; x < W; x++) expect(at(engine, x, y) === 0).toBe(at(engine, W - 1 - x, y) === 0);
	});
	test('lighter and darker go a step along the ramp, at its end they stay', () => {
		const engine = open();
		const [light, , middle] = apiaryPalette.ramps?.[1]?.colors ?? [];
		draw(engine, spec({ color: middle as string }), [[3, 3]]);
		draw(engine, spec({ tool: 'lighten' }), [[3, 3]]);
		expect(at(engine, 3, 3) & 0xffffff).toBe(packedOf(apiaryPalette.ramps?.[1]?.colors[1] as string));
		for (let i = 0; i < 4; i++) draw(engine, spec({ tool: 'lighten' }), [[3, 3]]);
		expect(at(engine, 3, 3) & 0xffffff).toBe(packedOf(light as string));
		expect(draw(engine, spec({ tool: 'smear' }), [[3, 3]])).toBe(false);
		const loose = open(true);
		draw(loose, spec(), [[3, 3]]);
		expect(draw(loose, spec({ tool: 'smear' }), [[3, 3]])).toBe(true);
	});
	test('on a model the texel under the pen is laid, and no other', () => {
		const mesh = box();
		const flat = projectOf(mesh, 64, [paintLayer('p', 'P')]);
		const pixel = { ...flat, sheets: flat.sheets.map((sheet) => ({ ...sheet, pixel: true, bleed: 0 })) };
		const engine = openEngine(kernels, pixel, [], new Map([['m', mesh]]));
		const sight = { camera: homeCamera, width: 400, height: 300, reach: 'seen' as const, fade: 0 };
		const spots = engine.spotsSeen('m', sight, [200, 150, 230, 170]);
		draw(engine, spec({ place: { on: 'model', model: 'm', sight } }), [[200, 150]]);
		const data = new Uint32Array(engine.composite('s').data.buffer);
		const laid = [...data].flatMap((word, i) => (word ? [[i % 64, Math.floor(i / 64)]] : []));
		expect(laid).toEqual([[Math.floor(spots[0]?.x ?? -1), Math.floor(spots[0]?.y ?? -1)]]);
	});
});
describe('what a strict layer holds', () => {
	const legal = pixelColors(apiaryPalette, { besides: [packedOf(front), packedOf(back)] });
	const point = fc.tuple(fc.integer({ min: -4, max: W + 4 }), fc.integer({ min: -4, max: H + 4 }));
	const dither = fc.constantFrom(...dithers.map(({ name }) => name));
	const mixing = fc.option(
		fc.record({ dither, share: fc.double({ min: 0, max: 1, noNaN: true }), between: fc.constantFrom(null, back) }),
	);
	const shape = fc.oneof(
		fc
			.tuple(point, point)
			.map(([[x, y], [a, b]]) => ({ kind: 'ellipse' as const, x: x + 0.3, y, width: a - x, height: b - y + 0.7 })),
		fc
			.tuple(point, point, fc.integer({ min: 0, max: 6 }))
			.map(([[x, y], [a, b], radius]) => ({ kind: 'rectangle' as const, x, y, width: a - x, height: b - y, radius })),
		fc.array(point, { minLength: 3, maxLength: 6 }).map((list) => ({ kind: 'polygon' as const, points: list.flat() })),
		fc.tuple(point, point).map(([from, to]) => ({ kind: 'line' as const, from, to, thick: 2.4 })),
		fc.tuple(point, point, point).map(([from, to, over]) => ({ kind: 'curve' as const, from, to, over, thick: 1 })),
	);
	const edit: fc.Arbitrary<Edit> = fc.oneof(
		fc.record({
			do: fc.constant('shape' as const),
			shape,
			outline: fc.constantFrom(null, 1, 3),
			repeat: fc.constant(null),
			color: fc.constantFrom(front, back),
			mixing,
		}),
		fc.record({
			do: fc.constant('flood' as const),
			x: fc.integer({ min: 0, max: W - 1 }),
			y: fc.integer({ min: 0, max: H - 1 }),
			reach: fc.constant(0),
			everywhere: fc.boolean(),
			color: fc.constantFrom(front, back),
			mixing,
		}),
		fc
			.tuple(point, point, fc.constantFrom('linear', 'round', 'angle'), dither, fc.boolean())
			.map(([from, to, way, name, fade]) => ({
				do: 'gradient' as const,
				dither: name,
				gradient: {
					fill: 'gradient' as const,
					way: way as 'linear',
					from,
					to,
					colors: fade ? [front] : [front, back],
					fade,
				},
			})),
		fc
			.tuple(fc.double({ min: 0.4, max: 2.2, noNaN: true }), fc.double({ min: -1, max: 1, noNaN: true }))
			.map(([k, s]) => ({ do: 'transform' as const, map: [k, s, 1.3, -s, k, 0.4] as const, smooth: true })),
		fc.record({
			do: fc.constant('tone' as const),
			tone: fc.constant({ op: 'contrast' as const, brightness: 0.2, contrast: 0.4 }),
		}),
		fc.record({
			do: fc.constant('outline' as const),
			rim: fc.record({
				of: fc.constantFrom('outline' as const, 'outside' as const, 'inside' as const),
				touching: fc.constantFrom(4 as const, 8 as const),
				side: fc.constantFrom(null, [-1, -1] as const),
			}),
			act: fc.oneof(
				fc.constant({ to: 'color' as const, color: back }),
				fc.constantFrom({ to: 'step' as const, by: 1 as const }, { to: 'step' as const, by: -1 as const }),
				fc.constant({ to: 'nothing' as const }),
			),
		}),
		fc.constant({ do: 'fill' as const, color: front }),
		fc.constant({ do: 'clear' as const }),
	);
	const stroke = fc.record({
		tool: fc.constantFrom('draw' as const, 'wipe' as const, 'lighten' as const, 'darken' as const, 'soften' as const),
		tip: fc.constantFrom(defaultTip, ...shippedTips.map(({ tip }) => ({ ...defaultTip, ...tip, size: 9 }))),
		color: fc.constantFrom(front, back),
		pencil: fc.option(fc.record({ size: fc.integer({ min: 1, max: 5 }), corners: fc.boolean(), mixing })),
		points: fc.array(point, { minLength: 1, maxLength: 6 }),
		seed: fc.integer(),
	});
	test('after any run of tools every texel is there or not, in one of its colours; all is undone and done again', () => {
		fc.assert(
			fc.property(
				fc.array(
					fc.oneof(
						edit.map((each) => ({ edit: each })),
						stroke.map((each) => ({ stroke: each })),
						shape.map((each) => ({ select: each })),
					),
					{ minLength: 1, maxLength: 12 },
				),
				(steps) => {
					const engine = open();
					const seen: string[] = [];
					const done = (): number => engine.history.done.length;
					for (const step of steps) {
						const before = done();
						if ('edit' in step) {
							try {
								engine.edit('s', 'p', step.edit);
							} catch (error) {
								expect((error as Error).name).toMatch(/EditError|CommandError/);
							}
						} else if ('select' in step) engine.select('s', { by: 'shape', shape: step.select }, 'replace');
						else {
							const { points, pencil: own, ...rest } = step.stroke;
							draw(engine, spec({ ...rest, pencil: own }), points);
						}
						if (done() > before) seen.push(Buffer.from(engine.composite('s').data).toString('base64'));
						for (const word of words(engine)) {
							if (word >>> 24 === 0) continue;
							expect(word >>> 24).toBe(255);
							expect(legal.has(word & 0xffffff)).toBe(true);
						}
					}
					while (engine.undo());
					expect(words(engine).every((word) => word === 0)).toBe(true);
					while (engine.redo());
					if (seen.length) expect(Buffer.from(engine.composite('s').data).toString('base64')).toBe(seen.at(-1));
					engine.close();
				},
			),
			{ numRuns: process.env.LONG ? 3000 : 40 },
		);
	}, 120_000);
});

describe('rims, recolouring, ramps', () => {
	const disc = (): Engine => {
		const engine = open();
		engine.edit('s', 'p', {
			do: 'shape',
			shape: { kind: 'ellipse', x: 8, y: 6, width: 15, height: 15 },
			outline: null,
			repeat: null,
			color: front,
		});
		return engine;
	};
	const mask = (engine: Engine): TexelMask => ({
		width: W,
		height: H,
		data: Uint8Array.from(words(engine), (word) => (word ? 1 : 0)),
	});
	test('a ring outside makes it larger, taking the outline off makes it as it was', () => {
		const engine = disc();
		const before = mask(engine).data;
		const rim = { of: 'outside', touching: 4, side: null } as const;
		engine.edit('s', 'p', { do: 'outline', rim, act: { to: 'color', color: back } });
		const ring = [...words(engine)].flatMap((word, i) => (word && !before[i] ? [i] : []));
		expect(ring.length).toBeGreaterThan(30);
		for (const i of ring) {
			expect(at(engine, i % W, Math.floor(i / W)) & 0xffffff).toBe(packedOf(back));
			expect([i - 1, i + 1, i - W, i + W].some((j) => before[j] === 1)).toBe(true);
		}
		engine.edit('s', 'p', { do: 'outline', rim: { ...rim, of: 'outline' }, act: { to: 'nothing' } });
		expect(mask(engine).data).toEqual(before);
	});
	test('a side of the rim is lit; the outline and the inside are selected', () => {
		const engine = disc();
		engine.edit('s', 'p', {
			do: 'outline',
			rim: { of: 'outline', touching: 4, side: [0, -1] },
			act: { to: 'step', by: 1 },
		});
		const lit = pixelColors(apiaryPalette).step(packedOf(front), 1);
		for (let x = 0; x < W; x++) {
			const column = Array.from({ length: H }, (_, y) => at(engine, x, y));
			const top = column.findIndex(Boolean);
			if (top >= 0) expect((column[top] as number) & 0xffffff).toBe(lit === packedOf(front) ? packedOf(front) : lit);
			expect(column.filter((word) => word && (word & 0xffffff) !== packedOf(front)).length).toBeLessThanOrEqual(1);
		}
		engine.select('s', { by: 'layer', layer: 'p', of: 'outline' }, 'replace');
		engine.edit('s', 'p', { do: 'clear' });
		const left = mask(engine).data.reduce((a, b) => a + b, 0);
		engine.undo();
		engine.select('s', { by: 'layer', layer: 'p', of: 'inside' }, 'replace');
		engine.edit('s', 'p', { do: 'clear' });
		expect(left + mask(engine).data.reduce((a, b) => a + b, 0)).toBe(disc_(engine));
	});
	const disc_ = (engine: Engine): number => {
		engine.undo();
		return mask(engine).data.reduce((a, b) => a + b, 0);
	};
	test('colours change places at once, with the palette as one step', () => {
		const engine = disc();
		engine.edit('s', 'p', {
			do: 'shape',
			shape: { kind: 'rectangle', x: 0, y: 0, width: 4, height: 4, radius: 0 },
			outline: null,
			repeat: null,
			color: back,
		});
		const was = engine.colorsUsed(['s']);
		const palette = { ...apiaryPalette, name: 'Other' };
		engine.recolor(
			['s'],
			[
				[front, back],
				[back, front],
			],
			palette,
		);
		expect(new Map(engine.colorsUsed(['s']))).toEqual(
			new Map([
				[packedOf(back), was[0]?.[1]],
				[packedOf(front), 16],
			]),
		);
		expect(engine.project.palette.name).toBe('Other');
		engine.undo();
		expect(engine.colorsUsed(['s'])).toEqual(was);
		expect(engine.project.palette.name).toBe('Apiary tin');
	});
	test('an entry that is turned through other colours takes only its own texels along, as one step', () => {
		const engine = disc();
		engine.edit('s', 'p', {
			do: 'shape',
			shape: { kind: 'rectangle', x: 0, y: 0, width: 4, height: 4, radius: 0 },
			outline: null,
			repeat: null,
			color: back,
		});
		const was = new Map(engine.colorsUsed(['s']));
		const steps = engine.history.done.length;
		const entry = (to: string) => ({
			...apiaryPalette,
			colors: apiaryPalette.colors.map((hex) => (hex === front ? to : hex)),
		});
		// Over the very colour that other texels have, and on.
		for (const to of ['#e0b050', back, '#10c0a0']) engine.recolor(['s'], [[front, to]], entry(to), null, 'turn');
		expect(engine.history.done).toHaveLength(steps + 1);
		expect(new Map(engine.colorsUsed(['s']))).toEqual(
			new Map([
				[packedOf('#10c0a0'), was.get(packedOf(front))],
				[packedOf(back), 16],
			]),
		);
		expect(engine.project.palette.colors).toEqual(entry('#10c0a0').colors);
		engine.undo();
		expect(new Map(engine.colorsUsed(['s']))).toEqual(was);
		expect(engine.project.palette).toEqual(apiaryPalette);
	});
	test('a wash that changes beside texels is shown anew as a whole; what is refused touches no texel', () => {
		const wide = { ...project(), sheets: project().sheets.map((sheet) => ({ ...sheet, width: 200 })) };
		const engine = openEngine(kernels, wide, [], new Map());
		engine.edit('s', 'p', { do: 'texels', set: [[3, 3, front]] });
		engine.run({ do: 'layer.add', sheet: 's', layer: washLayer('w', 'W', front), at: 0 });
		// The texel lies on the first tile, the wash on all four.
		const dirty = engine.recolor(['s'], [[front, back]], null);
		expect([...new Set(dirty.get('s'))].sort()).toEqual([0, 1, 2, 3]);
		expect(engine.colorsUsed(['s'])).toEqual([[packedOf(back), 200 * H]]);
		engine.undo();
		const was = engine.composite('s').data.slice();
		const steps = engine.history.done.length;
		// There is no bundle: nothing of the sheets is changed either.
		expect(() => engine.recolor(['s'], [[front, back]], null, '')).toThrow(/has no bundle/);
		expect(engine.composite('s').data).toEqual(was);
		expect(engine.history.done).toHaveLength(steps);
	});
	test('a ramp goes evenly in lightness through its colours, its ends swung apart in hue', () => {
		const ramp = shiftedRamp({ through: ['#3b1a1e', '#b85a33', '#f3e9d2'], count: 7, shift: 0, lively: 0 });
		expect(ramp).toHaveLength(7);
		expect([ramp[0], ramp[3], ramp[6]]).toEqual(['#3b1a1e', '#b85a33', '#f3e9d2']);
		const light = ramp.map((hex) => oklchOfHex(hex).l);
		expect([...light].sort((a, b) => a - b)).toEqual(light);
		const [dark, bright] = [0, 4].map(
			(i) =>
				oklchOfHex(shiftedRamp({ through: ['#6f3a2a', '#c07850'], count: 5, shift: 20, lively: 0 })[i] as string).h,
		);
		const plain = [0, 4].map(
			(i) => oklchOfHex(shiftedRamp({ through: ['#6f3a2a', '#c07850'], count: 5, shift: 0, lively: 0 })[i] as string).h,
		);
		expect((dark as number) - (plain[0] as number)).toBeCloseTo(-20, -1);
		expect((bright as number) - (plain[1] as number)).toBeCloseTo(20, -1);
	});
	test('a pixel sheet of eight texels is a project; one of seven is none', () => {
		const sized = (side: number): Project => ({
			...project(),
			sheets: project().sheets.map((sheet) => ({ ...sheet, width: side, height: side })),
		});
		expect(projectProblem(sized(8))).toBeNull();
		expect(projectProblem(sized(7))).toMatch(/width/);
	});
});

describe('a sheet becomes a pixel sheet, comes and goes', () => {
	test('a soft sheet keeps what is on it; its next strokes are hard; made whole it has no half texels', () => {
		const engine = openEngine(
			kernels,
			{ ...project(), sheets: project().sheets.map((sheet) => ({ ...sheet, pixel: false })) },
			[],
			new Map(),
		);
		draw(engine, spec({ pencil: null, tip: { ...defaultTip, size: 12, edge: 0 } }), [
			[12, 12],
			[22, 14],
		]);
		const soft = [...words(engine)].filter((word) => word >>> 24 > 0 && word >>> 24 < 255).length;
		expect(soft).toBeGreaterThan(20);
		engine.run({ do: 'sheet.change', sheet: 's', change: { pixel: true } });
		expect(engine.history.done.at(-1)?.words).toBe('"S" is a pixel sheet');
		expect([...words(engine)].filter((word) => word >>> 24 > 0 && word >>> 24 < 255)).toHaveLength(soft);
		engine.edit('s', 'p', { do: 'whole', colors: true });
		const legal = pixelColors(apiaryPalette);
		for (const word of words(engine))
			if (word >>> 24) expect([word >>> 24, legal.has(word & 0xffffff)]).toEqual([255, true]);
		engine.undo();
		engine.undo();
		expect(engine.project.sheets[0]?.pixel).toBe(false);
	});
	test('a mask on a strict layer hides all or nothing', () => {
		const engine = open();
		engine.edit('s', 'p', { do: 'fill', color: front });
		engine.run({
			do: 'layer.change',
			sheet: 's',
			layer: 'p',
			change: { mask: { surface: 'p-m', on: true } },
		});
		draw(engine, spec({ onMask: true, color: '#000000', pencil: null, tip: { ...defaultTip, size: 15, edge: 0 } }), [
			[20, 14],
			[26, 14],
		]);
		const seen = new Set([...words(engine)].map((word) => word >>> 24));
		expect(seen).toEqual(new Set([0, 255]));
	});
	test('a sheet that is brought has its picture, texel for texel, after undo and redo too', () => {
		const engine = open();
		const data = Uint8Array.from({ length: 12 * 9 * 4 }, (_, i) => (i * 31 + (i >> 4)) & 255);
		const sheet = {
			id: 'in',
			name: 'In',
			width: 12,
			height: 9,
			bleed: 0,
			base: null,
			guide: null,
			pixel: true,
			path: 'a/in.png',
			layers: [paintLayer('in-p', 'Texture')],
		};
		engine.bringSheet(sheet, { width: 12, height: 9, data });
		expect(Buffer.from(engine.composite('in').data)).toEqual(Buffer.from(data));
		expect(projectProblem(engine.project)).toBeNull();
		engine.undo();
		expect(engine.project.sheets.map(({ id }) => id)).toEqual(['s']);
		engine.redo();
		expect(Buffer.from(engine.composite('in').data)).toEqual(Buffer.from(data));
		const kept = engine.takeDelta();
		expect(kept?.tiles.some(({ surface }) => surface === 'in-p')).toBe(true);
		expect(() => engine.bringSheet({ ...sheet, id: 'no' }, { width: 3, height: 3, data: new Uint8Array(36) })).toThrow(
			/not of the size/,
		);
		expect(() =>
			engine.bringSheet(
				{ ...sheet, id: 'no', layers: [paintLayer('a', 'A'), paintLayer('b', 'B')] },
				{ width: 12, height: 9, data },
			),
		).toThrow(/one paint layer/);
		engine.run({ do: 'sheet.remove', sheet: 'in' });
		expect(engine.project.sheets).toHaveLength(1);
		expect(() => engine.run({ do: 'sheet.remove', sheet: 'in' })).toThrow(/not in this project/);
	});
	test('single texels are set, within what is selected and where alpha is not locked', () => {
		const engine = open();
		engine.edit('s', 'p', {
			do: 'texels',
			set: [
				[1, 1, front],
				[2, 1, back],
				[99, 1, front],
			],
		});
		expect([...words(engine)].filter(Boolean)).toHaveLength(2);
		engine.run({ do: 'layer.change', sheet: 's', layer: 'p', change: { lockAlpha: true } });
		engine.edit('s', 'p', {
			do: 'texels',
			set: [
				[1, 1, null],
				[2, 1, front],
				[3, 1, front],
			],
		});
		expect([at(engine, 1, 1), at(engine, 2, 1), at(engine, 3, 1)].map((word) => word & 0xffffff)).toEqual([
			packedOf(front),
			packedOf(front),
			0,
		]);
	});
	test('a colour in no ramp steps to the nearest tone that is lighter or darker, and steps lead somewhere', () => {
		const colors = pixelColors({ name: 'n', colors: ['#202020', '#808080', '#f0f0f0', '#903030'] });
		expect(colors.step(packedOf('#808080'), 1)).toBe(packedOf('#f0f0f0'));
		expect(colors.step(packedOf('#f0f0f0'), 1)).toBe(packedOf('#f0f0f0'));
		expect(colors.step(packedOf('#808080'), -1)).toBe(packedOf('#202020'));
		expect(colors.nearest(packedOf('#7a7f84'))).toBe(packedOf('#808080'));
		expect(pixelColors({ name: 'none', colors: [] }).nearest(123)).toBe(123);
	});
});
