import earcut from 'earcut';
import type { LaidMesh } from '../mesh/index.ts';
import { contourOf } from '../raster/index.ts';
import type { Regions } from './regions.ts';

/** Texels that an outline may be away from its texels' edges once it is made simpler. */
const SIMPLE = 0.9;

/** A closed line with fewer corners, none farther from the one before than `by`: Douglas and Peucker (1973). */
export function simplified(line: ArrayLike<number>, by: number): number[] {
	const count = line.length / 2;
	const keep = new Uint8Array(count);
	const far = (i: number, a: number, b: number): number => {
		const at = (k: number, axis: 0 | 1): number => line[(k % count) * 2 + axis] as number;
		const [dx, dy] = [at(b, 0) - at(a, 0), at(b, 1) - at(a, 1)];
		const [px, py] = [at(i, 0) - at(a, 0), at(i, 1) - at(a, 1)];
		const length = Math.hypot(dx, dy);
		return length ? Math.abs(px * dy - py * dx) / length : Math.hypot(px, py);
	};
	const split = (a: number, b: number): void => {
		let [most, at] = [by, -1];
		for (let i = a + 1; i < b; i++) {
			const d = far(i, a, b);
			if (d > most) [most, at] = [d, i];
		}
		if (at < 0) return;
		keep[at % count] = 1;
		split(a, at);
		split(at, b);
	};
	// The first corner, and the one that is farthest from it.
	let [half, most] = [1, -1];
	for (let i = 1; i < count; i++) {
		const d = Math.hypot(
			(line[i * 2] as number) - (line[0] as number),
			(line[i * 2 + 1] as number) - (line[1] as number),
		);
		if (d > most) [half, most] = [i, d];
	}
	keep[0] = keep[half] = 1;
	split(0, half);
	split(half, count);
	return Array.from({ length: count }, (_, i) => i).flatMap((i) =>
		keep[i] ? [line[i * 2] as number, line[i * 2 + 1] as number] : [],
	);
}

/** Twice the area that a closed line goes around, below 0 where it goes around a hole. */
function around(line: readonly number[]): number {
	let sum = 0;
	for (let i = 0; i < line.length; i += 2) {
		const j = (i + 2) % line.length;
		sum += (line[i] as number) * (line[j + 1] as number) - (line[j] as number) * (line[i + 1] as number);
	}
	return sum;
}

const isIn = (line: readonly number[], x: number, y: number): boolean => {
	let inside = false;
	for (let i = 0, j = line.length - 2; i < line.length; j = i, i += 2) {
		const [ax, ay, bx, by] = [line[i], line[i + 1], line[j], line[j + 1]] as [number, number, number, number];
		if (ay > y !== by > y && x < ((bx - ax) * (y - ay)) / (by - ay) + ax) inside = !inside;
	}
	return inside;
};

/** The outlines of a region: each outer one with the holes in it. */
function outlinesOf({ width, region }: Regions, number: number, box: readonly number[]): number[][][] {
	const [x0, y0, x1, y1] = box as [number, number, number, number];
	const [w, h] = [x1 - x0, y1 - y0];
	const tone = new Uint8Array(w * h);
	for (let y = 0; y < h; y++)
		for (let x = 0; x < w; x++) if (region[(y0 + y) * width + x0 + x] === number) tone[y * w + x] = 255;
	const lines = contourOf(tone, w, h)
		.map((line) => simplified(line, SIMPLE).map((v, i) => v + (i % 2 ? y0 : x0)))
		.filter((line) => line.length >= 6 && Math.abs(around(line)) > 1);
	const outer = lines.filter((line) => around(line) > 0).map((line) => [line]);
	for (const hole of lines.filter((line) => around(line) < 0))
		outer.find(([line]) => isIn(line as number[], hole[0] as number, hole[1] as number))?.push(hole);
	return outer;
}

/**
 * The islands of a template as a flat model: each a part, standing upright as the picture does, as tall as 1; laid out as
 * they lie in the picture. Where islands are, all that works by islands does.
 */
export function flatMesh(regions: Regions): LaidMesh {
	const { width, height, region, texels } = regions;
	const boxes = texels.map(() => [width, height, 0, 0]);
	for (let i = 0; i < region.length; i++) {
		const box = boxes[(region[i] as number) - 1];
		if (!box) continue;
		const [x, y] = [i % width, Math.floor(i / width)];
		box[0] = Math.min(box[0] as number, x);
		box[1] = Math.min(box[1] as number, y);
		box[2] = Math.max(box[2] as number, x + 1);
		box[3] = Math.max(box[3] as number, y + 1);
	}
	const places: number[] = [];
	const indices: number[] = [];
	const parts = texels.map((_, i) => {
		const firstFace = indices.length / 3;
		for (const outline of outlinesOf(regions, i + 1, boxes[i] as number[])) {
			const flat = outline.flat();
			const holes = outline
				.slice(1)
				.map((_, k) => outline.slice(0, k + 1).reduce((sum, line) => sum + line.length / 2, 0));
			const first = places.length / 2;
			places.push(...flat);
			const cut = earcut(flat, holes);
			for (let k = 0; k < cut.length; k += 3)
				indices.push(first + (cut[k] as number), first + (cut[k + 2] as number), first + (cut[k + 1] as number));
		}
		return { name: `Island ${i + 1}`, firstFace, faces: indices.length / 3 - firstFace };
	});
	const count = places.length / 2;
	const positions = new Float32Array(count * 3);
	const uvs = new Float32Array(count * 2);
	for (let i = 0; i < count; i++) {
		const [u, v] = [(places[i * 2] as number) / width, (places[i * 2 + 1] as number) / height];
		uvs.set([u, v], i * 2);
		positions.set([((u - 0.5) * width) / height, 0.5 - v, 0], i * 3);
	}
	const front = facing(positions, indices);
	return {
		positions,
		normals: Float32Array.from({ length: count * 3 }, (_, i) => (i % 3 === 2 ? 1 : 0)),
		uvs,
		indices: Uint32Array.from(front),
		parts: parts.filter(({ faces }) => faces > 0),
	};
}

/** Whether a mesh stands in one plane as a picture does: its faces only say how islands are cut, and are not drawn. */
export const standsFlat = ({ positions }: LaidMesh): boolean => positions.every((v, i) => i % 3 !== 2 || v === 0);

/** Faces turned so that all look along z. */
function facing(positions: Float32Array, indices: readonly number[]): number[] {
	const out = [...indices];
	for (let i = 0; i < out.length; i += 3) {
		const [a, b, c] = [out[i], out[i + 1], out[i + 2]] as [number, number, number];
		const at = (v: number, axis: number): number => positions[v * 3 + axis] as number;
		const area = (at(b, 0) - at(a, 0)) * (at(c, 1) - at(a, 1)) - (at(c, 0) - at(a, 0)) * (at(b, 1) - at(a, 1));
		if (area < 0) [out[i + 1], out[i + 2]] = [c, b];
	}
	return out;
}
