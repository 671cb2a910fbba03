/** A model laid flat lies on a plane before the camera, each sheet to scale, and all of it in view. */
import { cameraBasis, homeCamera } from '@eppu/core/projection';
import { expect, test } from '@jest/globals';
import fc from 'fast-check';
import type { ShownModel } from '../src/studio/told.ts';
import { between, flatPlaces } from '../src/views/unfolding.ts';

/** Two squares, one on each of two sheets, somewhere in space. */
const model = {
	positions: Float32Array.from({ length: 24 }, (_, i) => Math.sin(i * 7.3) * 2),
	uvs: Float32Array.of(0, 0, 1, 0, 1, 1, 0, 1, 0.25, 0.25, 0.75, 0.25, 0.75, 0.75, 0.25, 0.75),
	indices: Uint32Array.of(0, 1, 2, 0, 2, 3, 4, 5, 6, 4, 6, 7),
	parts: [
		{ name: 'A', sheet: 'a', firstFace: 0, faces: 2 },
		{ name: 'B', sheet: 'b', firstFace: 2, faces: 2 },
	],
} as unknown as ShownModel;

test('flat places lie in the view’s plane, in view, as the sheets do', () => {
	const angle = fc.double({ min: -180, max: 180, noNaN: true });
	fc.assert(
		fc.property(
			angle,
			fc.double({ min: -90, max: 90, noNaN: true }),
			angle,
			fc.double({ min: 0.3, max: 3, noNaN: true }),
			fc.constantFrom([512, 512], [1024, 256], [128, 512]),
			(yaw, pitch, roll, aspect, [width = 1, height = 1]) => {
				const from = { ...homeCamera, yaw, pitch, roll, target: [1, 2, 3] as const, distance: 5 };
				const sizes: Record<string, { width: number; height: number }> = {
					a: { width, height },
					b: { width: 64, height: 64 },
				};
				const flat = flatPlaces(model, (sheet) => sizes[sheet], from, aspect);
				const { right, up, forward } = cameraBasis(from);
				const seen = (v: number, axis: readonly number[]): number =>
					[0, 1, 2].reduce(
						(sum, k) => sum + ((flat[v * 3 + k] as number) - (from.target[k] as number)) * (axis[k] as number),
						0,
					);
				const high = 2 * from.distance * Math.tan((from.fov * Math.PI) / 360);
				for (let v = 0; v < 8; v++) {
					expect(seen(v, forward)).toBeCloseTo(0, 4);
					expect(Math.abs(seen(v, up))).toBeLessThan(high / 2);
					expect(Math.abs(seen(v, right))).toBeLessThan((high * aspect) / 2);
				}
				const wide = (a: number, b: number): number => seen(b, right) - seen(a, right);
				const tall = (a: number, b: number): number => seen(a, up) - seen(b, up);
				// Upright, unmirrored, and as long as wide as the sheet is.
				expect(wide(0, 1)).toBeGreaterThan(0);
				expect(tall(0, 3) / wide(0, 1)).toBeCloseTo(height / width, 3);
				expect(tall(4, 7) / wide(4, 5)).toBeCloseTo(1, 3);
				// Sheets keep apart: they lie beside or below each other.
				const apart = seen(4, right) - seen(1, right) > -1e-6 || seen(3, up) - seen(4, up) > -1e-6;
				expect(apart).toBe(true);
			},
		),
	);
});

test('a share of the way is that, and its ends are the ends', () => {
	const [from, to] = [Float32Array.of(0, 2, -4), Float32Array.of(1, 2, 4)];
	const out = new Float32Array(3);
	for (const [share, wanted] of [
		[0, [0, 2, -4]],
		[0.25, [0.25, 2, -2]],
		[1, [1, 2, 4]],
	] as const) {
		between(from, to, share, out);
		expect([...out]).toEqual(wanted);
	}
});
