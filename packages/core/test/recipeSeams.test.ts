/** Shapers of mask recipes over seams: where an island ends on the sheet must not show on the model. */
import type { Kernels } from '@eppu/kernels';
import { loadKernels } from '@eppu/kernels/node';
import { beforeAll, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { around, createMeshBuilder } from '../../../demo/mesh/shapes.ts';
import { paintLayer, washLayer } from '../src/document/index.ts';
import { type Engine, type KeptTile, openEngine } from '../src/engine/index.ts';
import { type LaidMesh, topologyOf } from '../src/mesh/index.ts';
import { newStep, type RecipeStep, type StepName } from '../src/recipe/index.ts';
import { pictureOfSurface, readTexels, type Surface } from '../src/surface/index.ts';
import { box, projectOf, tube } from './oracle/meshes.ts';

let kernels: Kernels;
beforeAll(async () => {
	kernels = await loadKernels();
});

const SIDE = 160;
const step = (name: StepName, change: object = {}): RecipeStep => ({ ...newStep(name, name), ...change }) as RecipeStep;
const open = (mesh: LaidMesh, side: number, steps: readonly RecipeStep[], tiles: readonly KeptTile[] = []): Engine =>
	openEngine(
		kernels,
		projectOf(mesh, side, [
			washLayer('w', 'W', '#cc3311', { mask: { surface: 'w-m', on: true, recipe: steps } }),
			paintLayer('p', 'P'),
		]),
		tiles,
		new Map([['m', mesh]]),
	);
const maskOf = (engine: Engine): Uint8Array => {
	engine.refresh(() => false);
	return pictureOfSurface(kernels, engine.surface('w~mask') as Surface).data;
};
const made = (mesh: LaidMesh, side: number, steps: readonly RecipeStep[]): Uint8Array => {
	const engine = open(mesh, side, steps);
	const mask = maskOf(engine);
	engine.close();
	return mask;
};

/** The tube with its seam half way round from where it is. */
const turnedTube = (): LaidMesh => {
	const builder = createMeshBuilder();
	builder.part('Tube');
	builder.grid(24, 6, (u, v) => around(u + 0.5, 1, 1.6 - 3.2 * v), { x: 0.1, y: 0.1, w: 0.8, h: 0.5 });
	return builder.mesh();
};

const sources: readonly RecipeStep[] = [
	step('clouds', { mix: 'replace', size: 6, contrast: 1 }),
	step('speckle', { mix: 'replace', size: 8, dense: 0.8 }),
	step('noise', { mix: 'replace', size: 3, contrast: 1 }),
];
const shapers: readonly RecipeStep[] = [
	step('blur', { radius: 5 }),
	step('smudge', { length: 24, turn: 20 }),
	step('grow', { by: 3 }),
	step('grow', { by: -2 }),
	step('warp', { by: 10, size: 16 }),
];

test.each(sources.flatMap((source) => shapers.map((shaper) => [source.step, shaper.step, source, shaper] as const)))(
	'%s with %s: where the seam of a tube lies makes no difference',
	(_, __, source, shaper) => {
		const [here, there] = [made(tube(), SIDE, [source, shaper]), made(turnedTube(), SIDE, [source, shaper])];
		const tones = new Set<number>();
		let most = 0;
		// The island is 128 by 80 texels from 16, 16: half way round is 64 texels. Its open ends above and below are left out.
		for (let y = 34; y < 78; y++)
			for (let x = 0; x < 128; x++) {
				const tone = here[y * SIDE + 16 + x] as number;
				most = Math.max(most, Math.abs(tone - (there[y * SIDE + 16 + ((x + 64) % 128)] as number)));
				tones.add(tone);
			}
		expect(most).toBeLessThanOrEqual(2);
		expect(Math.max(...tones) - Math.min(...tones)).toBeGreaterThan(40);
	},
);

/** Both sides of every seam read between texels, as a game reads them: mean difference and how much there is to differ. */
function apartOverSeams(
	mesh: LaidMesh,
	side: number,
	tone: Uint8Array,
): { readonly mean: number; readonly spread: number } {
	const read = (x: number, y: number): number => {
		const [x0, y0] = [Math.floor(x - 0.5), Math.floor(y - 0.5)];
		const [s, t] = [x - 0.5 - x0, y - 0.5 - y0];
		const at = (cx: number, cy: number): number => tone[cy * side + cx] as number;
		return (
			(at(x0, y0) * (1 - s) + at(x0 + 1, y0) * s) * (1 - t) + (at(x0, y0 + 1) * (1 - s) + at(x0 + 1, y0 + 1) * s) * t
		);
	};
	const corner = (face: number, k: number): number => mesh.indices[face * 3 + (k % 3)] as number;
	const texel = (v: number): [number, number] => [
		(mesh.uvs[v * 2] as number) * side,
		(mesh.uvs[v * 2 + 1] as number) * side,
	];
	const place = (v: number): number[] => [0, 1, 2].map((k) => mesh.positions[v * 3 + k] as number);
	const apart = (u: number, v: number): number => Math.hypot(...place(u).map((c, k) => c - (place(v)[k] as number)));
	let [sum, count, low, high] = [0, 0, 255, 0];
	for (const { one, other } of topologyOf(mesh).seams) {
		if (!other) continue;
		const [a, b] = [corner(one.face, one.corner), corner(one.face, one.corner + 1)];
		let [c, d] = [corner(other.face, other.corner), corner(other.face, other.corner + 1)];
		if (apart(a, c) > apart(a, d)) [c, d] = [d, c];
		const [[ax, ay], [bx, by], [cx, cy], [dx, dy]] = [texel(a), texel(b), texel(c), texel(d)];
		// Corners where three islands meet have no one other side.
		for (let t = 0.1; t <= 0.9; t += 0.05) {
			const here = read(ax + (bx - ax) * t, ay + (by - ay) * t);
			sum += Math.abs(here - read(cx + (dx - cx) * t, cy + (dy - cy) * t));
			[low, high] = [Math.min(low, here), Math.max(high, here)];
			count++;
		}
	}
	return { mean: sum / count, spread: high - low };
}

test.each([
	['blur', [step('clouds', { mix: 'replace', size: 6, contrast: 1 }), step('blur', { radius: 6 })], 1.5],
	['a wide blur of what faces up', [step('facing', { mix: 'replace' }), step('blur', { radius: 10 })], 4],
	['warp', [step('clouds', { mix: 'replace', size: 12, contrast: 0.5 }), step('warp', { by: 8, size: 24 })], 3],
	[
		'blur after growing',
		[step('speckle', { mix: 'replace', size: 6 }), step('grow', { by: 3 }), step('blur', { radius: 3 })],
		2,
	],
] as const)('%s runs on over the edges of a box', (_, steps, most) => {
	const { mean, spread } = apartOverSeams(box(), 512, made(box(), 512, steps));
	expect(spread).toBeGreaterThan(60);
	expect(mean).toBeLessThan(most);
});

test('the bleed is filled to its end, also where it is wider than the shapers reach', () => {
	const side = 320;
	const mesh = box();
	// One everywhere on the model, nothing where there is no model.
	const steps = [step('height', { mix: 'replace', from: -1, to: -0.5 }), step('blur', { radius: 0.5 })];
	const project = projectOf(mesh, side, [
		washLayer('w', 'W', '#cc3311', { mask: { surface: 'w-m', on: true, recipe: steps } }),
	]);
	const bleed = 18;
	const wide = { ...project, sheets: project.sheets.map((sheet) => ({ ...sheet, bleed })) };
	const engine = openEngine(kernels, wide, [], new Map([['m', mesh]]));
	const mask = maskOf(engine);
	const map = engine.scene('m')?.mapOf(wide.sheets[0] as (typeof wide.sheets)[0]);
	if (!map) throw new Error('no map');
	expect(map.gutterTexel.length).toBeGreaterThan(5000);
	for (const texel of map.gutterTexel) expect(mask[texel]).toBe(255);
	map.faceOfTexel.forEach((face, texel) => {
		if (face) expect(mask[texel]).toBe(255);
	});
	engine.close();
});

test('paint beside a seam is followed by what reads it over the seam: the same as opened anew', () => {
	const blot = fc.record({
		// Beside the tube's seam, on either side.
		x: fc.oneof(fc.integer({ min: 16, max: 26 }), fc.integer({ min: 134, max: 144 })),
		y: fc.integer({ min: 20, max: 92 }),
		r: fc.integer({ min: 3, max: 9 }),
		on: fc.constantFrom('p', 'w'),
	});
	const steps = [
		step('tap', { mix: 'replace', layer: 'p', of: 'shape' }),
		step('painted', { mix: 'subtract' }),
		step('blur', { radius: 4 }),
		step('grow', { by: 2 }),
	];
	fc.assert(
		fc.property(fc.array(blot, { minLength: 1, maxLength: 3 }), (blots) => {
			const mesh = tube();
			const engine = open(mesh, SIDE, steps);
			maskOf(engine);
			for (const { x, y, r, on } of blots) {
				const shape = { kind: 'ellipse', x: x - r, y: y - r, width: 2 * r, height: 2 * r } as const;
				const edit = { do: 'shape', shape, outline: null, repeat: null, color: '#ffffff' } as const;
				if (!engine.edit('s', on, edit, { onMask: on === 'w', guard: null }).ok) throw new Error('refused');
				engine.refresh(() => false);
			}
			const tiles = ['p', 'w-m'].flatMap((surface) => {
				const from = engine.surface(surface);
				return from
					? Array.from(from.kinds, (_, index) => ({
							surface,
							index,
							format: from.format,
							value: null,
							texels: readTexels(kernels.heap, from, index),
						}))
					: [];
			});
			const again = open(mesh, SIDE, steps, tiles);
			expect(Buffer.compare(maskOf(engine), maskOf(again))).toBe(0);
			engine.close();
			again.close();
		}),
		{ numRuns: 8 },
	);
}, 60_000);
