/** Lettering on the model: over the seams of the island that it stands on. */
import type { Kernels } from '@eppu/kernels';
import { loadKernels } from '@eppu/kernels/node';
import { beforeAll, expect, test } from '@jest/globals';
import { type Sheet, textLayer } from '../src/document/index.ts';
import { openEngine } from '../src/engine/index.ts';
import type { Scene } from '../src/scene/index.ts';
import { box, projectOf } from './oracle/meshes.ts';

let kernels: Kernels;
beforeAll(async () => {
	kernels = await loadKernels();
});

test.each([
	['one seam', 'HIVES', 80, 0],
	['two seams', 'HIVES AND HONEYCOMB', 32, 1],
] as const)(
	'lettering that reaches past its island over %s goes on there, as large and as straight as on a plane',
	(_, words, size, seams) => {
		const mesh = box();
		const side = 512;
		const text = {
			text: words,
			font: 'signboard',
			size,
			color: '#ff0000',
			spacing: 0,
			leading: 1,
			align: 'middle',
			box: null,
			turn: 0,
			mirrored: false,
			along: null,
		} as const;
		/** Where a texel of a face lies on the model. */
		const pointOf = (face: number, x: number, y: number): readonly number[] => {
			const v = [0, 1, 2].map((k) => mesh.indices[face * 3 + k] as number);
			const [a, b, c] = v.map((i) => [(mesh.uvs[i * 2] as number) * side, (mesh.uvs[i * 2 + 1] as number) * side]) as [
				[number, number],
				[number, number],
				[number, number],
			];
			const area = (b[0] - a[0]) * (c[1] - a[1]) - (c[0] - a[0]) * (b[1] - a[1]);
			const w1 = ((x - a[0]) * (c[1] - a[1]) - (c[0] - a[0]) * (y - a[1])) / area;
			const w2 = ((b[0] - a[0]) * (y - a[1]) - (x - a[0]) * (b[1] - a[1])) / area;
			return [0, 1, 2].map(
				(k) =>
					(1 - w1 - w2) * (mesh.positions[(v[0] as number) * 3 + k] as number) +
					w1 * (mesh.positions[(v[1] as number) * 3 + k] as number) +
					w2 * (mesh.positions[(v[2] as number) * 3 + k] as number),
			);
		};
		const bare = openEngine(kernels, projectOf(mesh, side), [], new Map([['m', mesh]]));
		const sheet = bare.project.sheets[0] as Sheet;
		const scene = bare.scene('m') as Scene;
		// The front's right border: where z is 1 and x comes to 1.
		let border: { readonly x: number; readonly y: number; readonly px: number; readonly py: number } | null = null;
		for (let y = 0; y < side && !border; y += 4)
			for (let x = 0; x < side; x++) {
				const spot = scene.spotOn(sheet, null, x + 0.5, y + 0.5);
				if (!spot || !scene.mapOf(sheet).faceOfTexel[y * side + x]) continue;
				const [px, py, pz] = pointOf(spot.face, x + 0.5, y + 0.5) as [number, number, number];
				if (pz > 0.999 && px > 0.99 && Math.abs(py) < 0.05) border = { x, y, px, py };
			}
		if (!border) throw new Error('no border');
		const layer = textLayer('t', 'Sign', { ...text, x: border.x - 6, y: border.y });
		const engine = openEngine(kernels, projectOf(mesh, side, [layer]), [], new Map([['m', mesh]]));
		const { data } = engine.composite('s');
		// The same letters on a sheet without a model: what stands beside the border there is what the side shows.
		const flat = openEngine(kernels, { ...projectOf(mesh, side, [layer]), models: [] }, [], new Map());
		const plane = flat.composite('s').data;
		const perUnit = (0.26 * side) / 2;
		let [inked, off] = [0, 0];
		for (let y = 0; y < side; y++)
			for (let x = 0; x < side; x++) {
				const face = (scene.mapOf(sheet).faceOfTexel[y * side + x] as number) - 1;
				if (face < 0) continue;
				const [px, py, pz] = pointOf(face, x + 0.5, y + 0.5) as [number, number, number];
				const alpha = data[(y * side + x) * 4 + 3] as number;
				const onBack = pz < -0.999;
				if ((seams === 1 ? !onBack : px < 0.999) || Math.abs(py) > 0.99) continue;
				// The right side, unfolded beside the front: so far past the border as it goes back; then the back.
				const fx = border.x + 0.5 + (1 - border.px + (onBack ? 3 - px : 1 - pz)) * perUnit;
				const fy = border.y + 0.5 - (py - border.py) * perUnit;
				if (fx > side - 2) continue;
				const flatAt = (dx: number, dy: number): boolean =>
					(plane[((Math.floor(fy) + dy) * side + Math.floor(fx) + dx) * 4 + 3] as number) > 128;
				const wanted = flatAt(0, 0);
				if ([-1, 1].some((d) => flatAt(d, 0) !== wanted || flatAt(0, d) !== wanted)) continue;
				if (alpha > 128) inked++;
				if (alpha > 128 !== wanted) off++;
			}
		expect(inked).toBeGreaterThan(200);
		expect(off / inked).toBeLessThan(0.01);
		for (const each of [bare, engine, flat]) each.close();
	},
);
