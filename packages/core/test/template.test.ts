/** Templates: the picture and the SVG show the same, an independent reader of SVG says; grey stops where it should. */
import { writeFileSync } from 'node:fs';
import type { Kernels } from '@eppu/kernels';
import { loadKernels } from '@eppu/kernels/node';
import { beforeAll, expect, test } from '@jest/globals';
import sharp from 'sharp';
import { type TemplateLook, templateOf, templatePicture, templateSvg, usualTemplate } from '../src/format/index.ts';
import { createScene } from '../src/scene/index.ts';
import { ball, box, projectOf, tube } from './oracle/meshes.ts';

let kernels: Kernels;
beforeAll(async () => {
	kernels = await loadKernels();
});

const drawn = (mesh: ReturnType<typeof box>, width: number) => {
	const project = projectOf(mesh, 256);
	const [model] = project.models;
	const [sheet] = project.sheets;
	if (!model || !sheet) throw new Error('no project');
	const scene = createScene(kernels, model, mesh);
	const drawing = templateOf([scene], sheet, width);
	scene.drop();
	return drawing;
};
const looks: readonly TemplateLook[] = [
	usualTemplate,
	{ borders: true, inner: false, fill: 'tints', names: false, outside: 6 },
	{ borders: true, inner: true, fill: 'none', names: false, outside: 0 },
	{ borders: false, inner: false, fill: 'white', names: false, outside: 12 },
];

test('the picture and the SVG of a template are the same to the eye', async () => {
	for (const mesh of [box(), tube(), ball()])
		for (const look of looks) {
			const drawing = drawn(mesh, 320);
			const ours = templatePicture(drawing, look);
			const { data } = await sharp(Buffer.from(templateSvg(drawing, look)))
				.ensureAlpha()
				.raw()
				.toBuffer({ resolveWithObject: true });
			expect(data.length).toBe(ours.data.length);
			if (process.env.LOOK) {
				const raw = { raw: { width: 320, height: ours.height, channels: 4 as const } };
				writeFileSync(`${process.env.LOOK}/template.png`, await sharp(ours.data, raw).png().toBuffer());
			}
			// Over a green ground, so that what is clear counts.
			const over = (list: Uint8Array, i: number, k: number): number =>
				((list[i * 4 + k] as number) * (list[i * 4 + 3] as number)) / 255 +
				([20, 160, 60][k] as number) * (1 - (list[i * 4 + 3] as number) / 255);
			let [sum, far] = [0, 0];
			for (let i = 0; i < ours.data.length / 4; i++) {
				const by = Math.max(...[0, 1, 2].map((k) => Math.abs(over(ours.data, i, k) - over(data, i, k))));
				sum += by;
				if (by > 90) far++;
			}
			const all = ours.data.length / 4;
			expect(sum / all).toBeLessThan(5);
			expect(far / all).toBeLessThan(0.015);
		}
});

test('grey begins just so many texels from the islands, and what is between is clear', () => {
	for (const outside of [0, 5, 16]) {
		const drawing = drawn(box(), 512);
		const look: TemplateLook = { borders: false, inner: false, fill: 'white', names: false, outside };
		const { data, width, height } = templatePicture(drawing, look);
		// The box's islands are squares: [0.04 + 0.32 i, 0.06 + 0.48 j] of 0.26, on a sheet of 256 drawn at twice its size.
		for (let y = 0; y < height; y += 7)
			for (let x = 0; x < width; x += 7) {
				let away = Number.POSITIVE_INFINITY;
				for (let i = 0; i < 6; i++) {
					const [u, v] = [(0.04 + 0.32 * (i % 3)) * 256, (0.06 + 0.48 * Math.floor(i / 3)) * 256];
					const side = 0.26 * 256;
					const [px, py] = [(x + 0.5) / 2, (y + 0.5) / 2];
					const [dx, dy] = [Math.max(u - px, px - u - side, 0), Math.max(v - py, py - v - side, 0)];
					away = Math.min(away, Math.hypot(dx, dy));
				}
				const px = [...data.subarray((y * width + x) * 4, (y * width + x) * 4 + 4)];
				const [at, least] = [px.join(), 0.8];
				if (away === 0) expect(at).toBe('255,255,255,255');
				else if (away > outside + least) expect(at).toBe('128,128,128,255');
				else if (away > least && away < outside - least) expect(at).toBe('0,0,0,0');
			}
	}
});

test('an island has its part’s name, inside its own bounds; signs of XML are written as such', () => {
	const mesh = {
		...tube(),
		parts: [{ ...(tube().parts[0] as { firstFace: number; faces: number }), name: 'Tin <& lid>' }],
	};
	const drawing = drawn(mesh as ReturnType<typeof tube>, 512);
	expect(drawing.islands.map(({ name }) => name)).toEqual(['Tin <& lid>']);
	const named = { ...usualTemplate, inner: false, borders: false, names: true };
	expect(templateSvg(drawing, named)).toContain('>Tin &lt;&amp; lid&gt;</text>');
	const { data, width } = templatePicture(drawing, named);
	const dark: [number, number][] = [];
	for (let i = 0; i < data.length / 4; i++)
		if ((data[i * 4 + 3] as number) > 200 && (data[i * 4] as number) < 100)
			dark.push([i % width, Math.floor(i / width)]);
	expect(dark.length).toBeGreaterThan(80);
	for (const [x, y] of dark) {
		expect(x / width).toBeGreaterThan(0.1);
		expect(x / width).toBeLessThan(0.9);
		expect(y / width).toBeGreaterThan(0.1);
		expect(y / width).toBeLessThan(0.6);
	}
});
