import type { Mesh } from '../mesh/index.ts';
import type { Picture } from '../surface/index.ts';

/** Ways in which a texel's block has a face: its normal, and its corners, counter-clockwise from outside, in halves. */
const sides = [
	{ to: [0, 0, 1], corners: [-1, -1, 1, 1, -1, 1, 1, 1, 1, -1, 1, 1] },
	{ to: [0, 0, -1], corners: [1, -1, -1, -1, -1, -1, -1, 1, -1, 1, 1, -1] },
	{ to: [1, 0, 0], corners: [1, -1, 1, 1, -1, -1, 1, 1, -1, 1, 1, 1] },
	{ to: [-1, 0, 0], corners: [-1, -1, -1, -1, -1, 1, -1, 1, 1, -1, 1, -1] },
	{ to: [0, 1, 0], corners: [-1, 1, 1, 1, 1, 1, 1, 1, -1, -1, 1, -1] },
	{ to: [0, -1, 0], corners: [-1, -1, -1, 1, -1, -1, 1, -1, 1, -1, -1, 1] },
] as const;

/**
 * A pixel picture as a thing that is held: each texel that is there (alpha of a half or more) is a block one texel thick,
 * with faces only where nothing touches it. All faces are as large as a texel, so that corners meet corners. In texels,
 * its middle at the origin, y upwards, seen from +z; a texel's colour is on all its faces. `part` names it.
 */
export function heldMesh({ width, height, data }: Picture, part = 'Item'): Mesh {
	const is = (x: number, y: number): boolean =>
		x >= 0 && y >= 0 && x < width && y < height && (data[(y * width + x) * 4 + 3] as number) >= 128;
	let faces = 0;
	const open = (x: number, y: number, [dx, dy, dz]: readonly number[]): boolean =>
		dz !== 0 || !is(x + (dx as number), y - (dy as number));
	for (let y = 0; y < height; y++)
		for (let x = 0; x < width; x++) if (is(x, y)) for (const { to } of sides) if (open(x, y, to)) faces++;
	const [positions, normals] = [new Float32Array(faces * 12), new Float32Array(faces * 12)];
	const colors = new Float32Array(faces * 16);
	const indices = new Uint32Array(faces * 6);
	let n = 0;
	for (let y = 0; y < height; y++)
		for (let x = 0; x < width; x++) {
			if (!is(x, y)) continue;
			const at = (y * width + x) * 4;
			const [cx, cy] = [x + 0.5 - width / 2, height / 2 - y - 0.5];
			for (const { to, corners } of sides) {
				if (!open(x, y, to)) continue;
				for (let k = 0; k < 4; k++) {
					const v = n * 4 + k;
					positions[v * 3] = cx + (corners[k * 3] as number) / 2;
					positions[v * 3 + 1] = cy + (corners[k * 3 + 1] as number) / 2;
					positions[v * 3 + 2] = (corners[k * 3 + 2] as number) / 2;
					normals.set(to, v * 3);
					for (let c = 0; c < 3; c++) colors[v * 4 + c] = (data[at + c] as number) / 255;
					colors[v * 4 + 3] = 1;
				}
				indices.set(
					[0, 1, 2, 0, 2, 3].map((k) => n * 4 + k),
					n * 6,
				);
				n++;
			}
		}
	return { positions, normals, colors, indices, parts: [{ name: part, firstFace: 0, faces: faces * 2 }] };
}
