import { type BlendMode, blendModes, createCompositor } from '@eppu/core/composite';
import { createSurface, pictureIntoSurface } from '@eppu/core/surface';
import { loadKernels } from '@eppu/kernels/node';
import { expect, test } from '@playwright/test';

const SIDE = 64;
const random = (() => {
	let a = 7;
	return () => (a = (a * 1103515245 + 12345) % 2147483648) / 2147483648;
})();
const noise = (alpha: () => number): number[] =>
	Array.from({ length: SIDE * SIDE * 4 }, (_, i) => Math.floor(i % 4 === 3 ? alpha() : random() * 256));

/** Modes that the canvas has, under its names; it has neither subtract nor divide. */
const canvasName: Partial<Record<BlendMode, string>> = Object.fromEntries(
	blendModes
		.filter((mode) => mode !== 'subtract' && mode !== 'divide')
		.map((mode) => [mode, mode === 'normal' ? 'source-over' : mode === 'plus-lighter' ? 'lighter' : mode]),
);

test('compositing agrees with the browser’s own canvas in every mode that it has', async ({ page }) => {
	await page.goto('about:blank');
	const kernels = await loadKernels();
	const compositor = createCompositor(kernels);
	const out = kernels.heap.alloc(SIDE * SIDE * 4);
	const backdrop = noise(() => 255);
	for (const [what, source] of [
		['opaque', noise(() => 255)],
		['half clear', noise(() => 40 + random() * 200)],
	] as const)
		for (const [mode, name] of Object.entries(canvasName) as [BlendMode, string][]) {
			const layers = [backdrop, source].map((data, i) => {
				const surface = createSurface(`c${i}`, 'color', SIDE, SIDE);
				pictureIntoSurface(kernels, { width: SIDE, height: SIDE, data: Uint8Array.from(data) }, surface);
				return { mode: i ? mode : ('normal' as const), opacity: 1, clip: false, source: surface, mask: null };
			});
			compositor.tile(layers, 0, out);
			const theirs = await page.evaluate(
				([below, above, operation, side]) => {
					const canvasOf = (data: number[]): HTMLCanvasElement => {
						const canvas = Object.assign(document.createElement('canvas'), { width: side, height: side });
						canvas
							.getContext('2d')
							?.putImageData(new ImageData(Uint8ClampedArray.from(data), side as number, side as number), 0, 0);
						return canvas;
					};
					const canvas = canvasOf(below as number[]);
					const context = canvas.getContext('2d') as CanvasRenderingContext2D;
					context.globalCompositeOperation = operation as GlobalCompositeOperation;
					context.drawImage(canvasOf(above as number[]), 0, 0);
					return [...context.getImageData(0, 0, side as number, side as number).data];
				},
				[backdrop, source, name, SIDE] as const,
			);
			let [worst, sum] = [0, 0];
			theirs.forEach((v, i) => {
				const e = Math.abs(v - (kernels.heap.u8[out + i] as number));
				worst = Math.max(worst, e);
				sum += e;
			});
			// The canvas stores premultiplied bytes, so a half clear source has lost up to a few steps before it blends.
			const label = `${mode}, ${what}: worst ${worst}, mean ${(sum / theirs.length).toFixed(3)}`;
			expect(sum / theirs.length, label).toBeLessThanOrEqual(what === 'opaque' ? 0.6 : 0.9);
			// Dodge, burn and the like stand on a cliff where a rounding step decides: the mean speaks for those.
			if (!['color-dodge', 'color-burn', 'hue', 'saturation', 'color', 'luminosity', 'soft-light'].includes(mode))
				expect(worst, label).toBeLessThanOrEqual(what === 'opaque' ? 2 : 4);
		}
});
