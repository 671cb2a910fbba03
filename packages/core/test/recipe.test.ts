/** Mask recipes: how sources join, what each step makes, circles, drags of a dial, painted masks. */
import type { Kernels } from '@eppu/kernels';
import { loadKernels } from '@eppu/kernels/node';
import { beforeAll, describe, expect, test } from '@jest/globals';
import { type Command, type Layer, projectProblem, washLayer } from '../src/document/index.ts';
import { type Engine, type KeptTile, openEngine } from '../src/engine/index.ts';
import { presets } from '../src/recipe/index.ts';
import { pictureOfSurface, type Surface } from '../src/surface/index.ts';
import { joins } from './oracle/chance.ts';
import { everything, masked, mesh, openOn, picture, SIDE, step } from './oracle/derived.ts';
import { blocks, projectOf } from './oracle/meshes.ts';

let kernels: Kernels;
beforeAll(async () => {
	kernels = await loadKernels();
});
const open = (layers: readonly Layer[], tiles: readonly KeptTile[] = []): Engine => openOn(kernels, layers, tiles);

describe('recipes', () => {
	const maskOf = (engine: Engine, layer: string): Uint8Array => {
		engine.refresh(() => false);
		return pictureOfSurface(kernels, engine.surface(`${layer}~mask`) as Surface).data;
	};
	test('height, facing and edges say what the mesh says, in closed form on a box', () => {
		const engine = open([
			masked(washLayer('h', 'H', '#ffffff'), [step('height', { mix: 'replace', axis: 'y', from: 0, to: 1 })]),
			masked(washLayer('f', 'F', '#ffffff'), [step('facing', { mix: 'replace', axis: 'y', way: 1, spread: 60 })]),
			masked(washLayer('e', 'E', '#ffffff'), [step('edges', { mix: 'replace', angle: 30, width: 5, soft: 0 })]),
			masked(washLayer('o', 'O', '#ffffff'), [
				step('edges', { mix: 'replace', of: 'hollows', angle: 30, width: 5, soft: 0 }),
			]),
		]);
		const scene = engine.scene('m');
		const sheet = engine.project.sheets[0];
		if (!scene || !sheet) throw new Error('no scene');
		const [h, f, e, o] = ['h', 'f', 'e', 'o'].map((layer) => maskOf(engine, layer)) as [
			Uint8Array,
			Uint8Array,
			Uint8Array,
			Uint8Array,
		];
		let seen = 0;
		const wrong: string[] = [];
		const must = (holds: boolean, what: string): void => void (holds || wrong.push(what));
		for (let y = 0; y < SIDE; y++)
			for (let x = 0; x < SIDE; x++) {
				const spot = scene.spotOn(sheet, null, x + 0.5, y + 0.5);
				if (!spot) continue;
				seen++;
				const at = mesh.indices.slice(spot.face * 3, spot.face * 3 + 3);
				const p = (v: number): number[] => [0, 1, 2].map((k) => mesh.positions[v * 3 + k] as number);
				const corners = [...at].map(p) as [number[], number[], number[]];
				const [u, v] = [1, 2].map((k) => corners[k as 1 | 2].map((c, i) => c - (corners[0][i] as number))) as [
					number[],
					number[],
				];
				const up = (u[2] as number) * (v[0] as number) - (u[0] as number) * (v[2] as number);
				const i = y * SIDE + x;
				must(f[i] === (up > 1e-9 ? 255 : 0), `facing ${x} ${y}`);
				// Lids are level: one height.
				if (Math.abs(up) > 1e-9) must(Math.abs((h[i] as number) - (up > 0 ? 255 : 0)) <= 1, `height ${x} ${y}`);
				must(o[i] === 0, `hollow ${x} ${y}`);
				// Each side of the box is a square of 0.26 of the sheet.
				const [cell, size] = [SIDE * 0.32, SIDE * 0.26];
				const ix = x + 0.5 - SIDE * 0.04 - Math.floor((x + 0.5 - SIDE * 0.04) / cell) * cell;
				const row = y > SIDE / 2 ? 0.54 : 0.06;
				const iy = y + 0.5 - SIDE * row;
				const border = Math.min(ix, size - ix, iy, size - iy);
				if (border > 6.2) must(e[i] === 0, `no edge ${x} ${y}`);
				if (border >= 0 && border < 4.5) must(e[i] === 255, `edge ${x} ${y}`);
			}
		expect(wrong).toEqual([]);
		expect(seen).toBeGreaterThan(8000);
		engine.close();
	}, 60_000);
	test('what a step makes of another is what joining both apart makes, also where the first is nothing', () => {
		const edges = step('edges', { mix: 'replace', width: 9, soft: 0.5 });
		for (const name of ['clouds', 'scratches', 'drips', 'strokes', 'speckle', 'pieces'] as const)
			for (const mix of ['multiply', 'divide', 'overlay', 'min', 'subtract', 'screen', 'add'] as const) {
				const engine = open([
					masked(washLayer('a', 'A', '#ffffff'), [edges]),
					masked(washLayer('b', 'B', '#ffffff'), [step(name, { mix: 'replace' })]),
					masked(washLayer('c', 'C', '#ffffff'), [edges, step(name, { mix })]),
				]);
				const [a, b, c] = ['a', 'b', 'c'].map((layer) => maskOf(engine, layer)) as [Uint8Array, Uint8Array, Uint8Array];
				const join = joins[mix] as (a: number, b: number) => number;
				let worst = 0;
				for (let i = 0; i < a.length; i++) {
					// A division by next to nothing shows what eight bits took off.
					if (mix === 'divide' && (b[i] as number) < 64) continue;
					worst = Math.max(
						worst,
						Math.abs((c[i] as number) - 255 * join((a[i] as number) / 255, (b[i] as number) / 255)),
					);
				}
				expect([name, mix, worst < 3.5]).toEqual([name, mix, true]);
				engine.close();
			}
	}, 60_000);
	test('noise on the model runs on across seams, on the sheet it does not', () => {
		const jump = (space: 'model' | 'sheet'): number => {
			const engine = open([
				masked(washLayer('n', 'N', '#ffffff'), [step('noise', { mix: 'replace', space, size: 70, contrast: 0 })]),
			]);
			const scene = engine.scene('m');
			const sheet = engine.project.sheets[0];
			if (!scene || !sheet) throw new Error('no scene');
			const tone = maskOf(engine, 'n');
			const seams = scene.seamsOf(sheet);
			let [sum, count] = [0, 0];
			for (let tile = 0; tile < 9; tile++) {
				const { place, x, y } = seams.partnersOf(tile);
				place.forEach((p, i) => {
					const [tx, ty] = [(tile % 3) * 64 + (p % 64), Math.floor(tile / 3) * 64 + Math.floor(p / 64)];
					const there = tone[Math.floor(y[i] as number) * SIDE + Math.floor(x[i] as number)] as number;
					sum += Math.abs((tone[ty * SIDE + tx] as number) - there);
					count++;
				});
			}
			engine.close();
			return sum / count;
		};
		// The gutter goes on along its own face, so a few texels out it leaves the body; near the seam they agree.
		expect(jump('model')).toBeLessThan(12);
		expect(jump('sheet')).toBeGreaterThan(2.5 * jump('model'));
	}, 60_000);
	test('a recipe that would read itself is refused with the reason, and nothing changes', () => {
		const engine = open(everything());
		const before = JSON.stringify(engine.project);
		const tap = (layer: string, of: string): Command => ({
			do: 'layer.change',
			sheet: 's',
			layer: 'dirt',
			change: { mask: { surface: 'dirt-m', on: true, recipe: [step('tap', { layer, of })] } },
		});
		for (const [layer, of] of [
			['dirt', 'mask'],
			['dirt', 'tone'],
			['b', 'mask'],
			['g', 'shape'],
			['b', 'tone'],
		] as const)
			expect(() => engine.run(tap(layer, of))).toThrow(/round in a circle/);
		expect(JSON.stringify(engine.project)).toBe(before);
		expect(() => engine.run(tap('a', 'tone'))).not.toThrow();
		const looped = [masked(washLayer('x', 'X', '#000000'), [step('tap', { layer: 'x', of: 'mask' })])];
		expect(projectProblem(projectOf(mesh, SIDE, looped))).toMatch(/made from what it makes itself/);
		engine.close();
	});
	test('each step has its small picture, and a recipe turns into a mask painted by hand', () => {
		const engine = open([masked(washLayer('w', 'W', '#ff0000'), presets[0]?.steps ?? [])]);
		const steps = engine.recipeSteps('s', 'w', 32);
		expect(steps.map((each) => each.length)).toEqual(presets[0]?.steps.map(() => 1024));
		expect(new Set(steps.map((each) => each.join())).size).toBe(steps.length);
		const before = picture(engine);
		engine.changeMask('s', 'w', { to: 'painted' });
		expect(engine.project.sheets[0]?.layers[0]?.mask?.recipe).toBeNull();
		expect(Buffer.compare(picture(engine), before)).toBe(0);
		engine.undo();
		expect(engine.project.sheets[0]?.layers[0]?.mask?.recipe).toHaveLength(steps.length);
		expect(Buffer.compare(picture(engine), before)).toBe(0);
		engine.close();
	});
	test.each(presets.map((preset) => [preset.name, preset] as const))(
		'the preset %s shows some and hides some',
		(_, { steps }) => {
			const layers = [masked(washLayer('w', 'W', '#ff0000'), steps)];
			// A box hides nothing from itself.
			const engine = steps.some(({ step: name }) => name === 'occlusion')
				? openEngine(kernels, projectOf(blocks(), SIDE, layers), [], new Map([['m', blocks()]]))
				: open(layers);
			const data = picture(engine);
			let shown = 0;
			for (let i = 3; i < data.length; i += 4) shown += (data[i] as number) / 255;
			expect(shown / (SIDE * SIDE)).toBeGreaterThan(0.01);
			expect(shown / (SIDE * SIDE)).toBeLessThan(0.5);
			engine.close();
		},
	);
});
