import {
	type Figure,
	type FigureBox,
	type FigurePose,
	type Placed,
	placesIn,
	posed,
	TEXELS_A_UNIT,
} from '../figure/index.ts';
import type { LaidMesh } from './mesh.ts';

type Vec = readonly [number, number, number];

/** A side of a box: its upper left corner as it is seen, and the ways across and down it, in halves of the box; and where it lies in the cross. */
interface Side {
	readonly from: Vec;
	readonly across: Vec;
	readonly down: Vec;
	place(w: number, h: number, d: number): readonly [x: number, y: number, width: number, height: number];
}

const sides: readonly Side[] = [
	{ from: [-1, 1, -1], across: [0, 0, 1], down: [0, -1, 0], place: (_w, h, d) => [0, d, d, h] },
	{ from: [-1, 1, 1], across: [1, 0, 0], down: [0, -1, 0], place: (w, h, d) => [d, d, w, h] },
	{ from: [1, 1, 1], across: [0, 0, -1], down: [0, -1, 0], place: (w, h, d) => [d + w, d, d, h] },
	{ from: [1, 1, -1], across: [-1, 0, 0], down: [0, -1, 0], place: (w, h, d) => [2 * d + w, d, w, h] },
	{ from: [-1, 1, -1], across: [1, 0, 0], down: [0, 0, 1], place: (w, _h, d) => [d, 0, w, d] },
	{ from: [-1, -1, 1], across: [1, 0, 0], down: [0, 0, -1], place: (w, _h, d) => [d + w, 0, w, d] },
];

/** A figure as a model, with its boxes where a pose has them at a time, seconds. */
export function posedMesh(figure: Figure, pose: FigurePose, seconds: number): LaidMesh {
	const mesh = figureMesh(figure);
	const [positions, normals] = [mesh.positions.slice(), mesh.normals?.slice() ?? null];
	const places = placesIn(figure, pose, seconds);
	mesh.parts.forEach(({ firstFace, faces }, part) => {
		const vertices = new Set(mesh.indices.subarray(firstFace * 3, (firstFace + faces) * 3));
		posed(mesh.positions, vertices, places[part] as Placed, positions);
		if (mesh.normals && normals) posed(mesh.normals, vertices, places[part] as Placed, normals, true);
	});
	return { ...mesh, positions, normals };
}

/** A figure as a model: a part a box, flat sides, each texel of a side a square of the sheet's. */
export function figureMesh({ boxes, sheet: [width, height] }: Figure): LaidMesh {
	const [positions, normals, uvs, indices]: [number[], number[], number[], number[]] = [[], [], [], []];
	const parts = boxes.map((box: FigureBox, n) => {
		const [w, h, d] = box.size;
		const more = 2 * (box.inflate ?? 0);
		const half = [(w + more) / 2, (h + more) / 2, (d + more) / 2] as const;
		const middle = [box.at[0], box.at[1] + h / 2, box.at[2]] as const;
		for (const { from, across, down, place } of sides) {
			const [px, py, pw, ph] = place(w, h, d);
			const [left, top] = [box.place[0] + px, box.place[1] + py];
			const normal = [0, 1, 2].map(
				(k) =>
					(down[(k + 1) % 3] as number) * (across[(k + 2) % 3] as number) -
					(down[(k + 2) % 3] as number) * (across[(k + 1) % 3] as number),
			);
			const first = positions.length / 3;
			for (const [a, b] of [
				[0, 1],
				[1, 1],
				[1, 0],
				[0, 0],
			] as const) {
				for (let k = 0; k < 3; k++) {
					const at = (from[k] as number) + 2 * (a * (across[k] as number) + b * (down[k] as number));
					positions.push(((middle[k] as number) + at * (half[k] as number)) / TEXELS_A_UNIT);
					normals.push(normal[k] as number);
				}
				uvs.push((left + a * pw) / width, (top + b * ph) / height);
			}
			indices.push(...[0, 1, 2, 0, 2, 3].map((i) => first + i));
		}
		return { name: box.name, firstFace: n * 12, faces: 12 };
	});
	return {
		positions: new Float32Array(positions),
		normals: new Float32Array(normals),
		uvs: new Float32Array(uvs),
		indices: new Uint32Array(indices),
		parts,
	};
}
