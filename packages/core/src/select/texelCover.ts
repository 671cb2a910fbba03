import { ellipseMask, less, type TexelMask, texelCurve, texelLine, withoutRim } from '../pixel/index.ts';
import type { Rect } from '../raster/index.ts';
import type { Repeat, Shape } from './shape.ts';

/** A mask and the texel that its upper left one lies on. */
interface Placed extends TexelMask {
	readonly x: number;
	readonly y: number;
}

const boxed = (x0: number, y0: number, x1: number, y1: number): Placed => {
	const [width, height] = [x1 - x0 + 1, y1 - y0 + 1];
	return { x: x0, y: y0, width, height, data: new Uint8Array(width * height) };
};

/** Corner texels of a rectangle that are cut off by a round corner: those beyond a quarter of the ellipse there. */
function roundedBox(box: Placed, radius: number): Placed {
	const r = Math.min(Math.round(radius), Math.floor(Math.min(box.width, box.height) / 2));
	box.data.fill(1);
	if (r <= 0) return box;
	const disc = ellipseMask(2 * r, 2 * r);
	for (let y = 0; y < r; y++)
		for (let x = 0; x < r; x++) {
			if (disc.data[y * 2 * r + x]) continue;
			for (const v of [y, box.height - 1 - y]) for (const u of [x, box.width - 1 - x]) box.data[v * box.width + u] = 0;
		}
	return box;
}

/** Squares of `thick` texels along lines through texels. */
function lined(points: readonly number[], closed: boolean, thick: number): Placed {
	const texels: number[] = [];
	for (let i = 0; i + 1 < points.length; i += 2) {
		const j = i + 2 < points.length ? i + 2 : 0;
		if (j === 0 && !closed && points.length > 2) break;
		texels.push(
			...texelLine(points[i] as number, points[i + 1] as number, points[j] as number, points[j + 1] as number),
		);
	}
	return stamped(texels, thick);
}

/** A square of `thick` texels at each of some texels. */
function stamped(texels: readonly number[], thick: number): Placed {
	const off = Math.floor((thick - 1) / 2);
	const xs = texels.filter((_, i) => i % 2 === 0);
	const ys = texels.filter((_, i) => i % 2 === 1);
	const low = (list: readonly number[]): number => list.reduce((a, b) => Math.min(a, b), Infinity) - off;
	const high = (list: readonly number[]): number => list.reduce((a, b) => Math.max(a, b), -Infinity) - off + thick - 1;
	const out = boxed(low(xs), low(ys), high(xs), high(ys));
	for (let i = 0; i < texels.length; i += 2)
		for (let k = 0; k < thick * thick; k++) {
			const x = (texels[i] as number) - off + (k % thick) - out.x;
			const y = (texels[i + 1] as number) - off + Math.floor(k / thick) - out.y;
			out.data[y * out.width + x] = 1;
		}
	return out;
}

/** The texels of a polygon: those on its lines, and those whose middles it winds round. */
function filledPolygon(points: readonly number[]): Placed {
	const out = lined(points, true, 1);
	const n = points.length;
	for (let y = 0; y < out.height; y++)
		for (let x = 0; x < out.width; x++) {
			const [px, py] = [x + out.x, y + out.y];
			let winds = 0;
			for (let i = 0; i < n; i += 2) {
				const [ax, ay] = [points[i] as number, points[i + 1] as number];
				const [bx, by] = [points[(i + 2) % n] as number, points[(i + 3) % n] as number];
				if (ay <= py === by <= py) continue;
				const side = (bx - ax) * (py - ay) - (by - ay) * (px - ax);
				if (by > ay ? side > 0 : side < 0) winds += by > ay ? 1 : -1;
			}
			if (winds !== 0) out.data[y * out.width + x] = 1;
		}
	return out;
}

/** A shape drawn by whole texels: its corners are the texels that they lie in. */
function placedShape(shape: Shape, outline: number | null): Placed {
	if (shape.kind === 'curve') {
		const [from, over, to] = [shape.from, shape.over, shape.to].map((place) => place.map(Math.floor)) as [
			number[],
			number[],
			number[],
		];
		return stamped(texelCurve(from, over, to), Math.max(1, Math.round(shape.thick)));
	}
	if (shape.kind === 'line') {
		const thick = Math.max(1, Math.round(shape.thick));
		return lined([...shape.from, ...shape.to].map(Math.floor), false, thick);
	}
	if (shape.kind === 'polygon') {
		const points = shape.points.map(Math.floor);
		return outline === null ? filledPolygon(points) : lined(points, true, Math.max(1, Math.round(outline)));
	}
	// A box from border to border of texels.
	const [x0, x1] = [shape.x, shape.x + shape.width].map(Math.round).sort((a, b) => a - b) as [number, number];
	const [y0, y1] = [shape.y, shape.y + shape.height].map(Math.round).sort((a, b) => a - b) as [number, number];
	const box = boxed(x0, y0, Math.max(x0, x1 - 1), Math.max(y0, y1 - 1));
	const full: Placed =
		shape.kind === 'ellipse' ? { ...box, ...ellipseMask(box.width, box.height) } : roundedBox(box, shape.radius);
	if (outline === null) return full;
	return { ...full, ...less(full, withoutRim(full, Math.max(1, Math.round(outline)))) };
}

/** The texels of a shape on a pixel sheet, each there or not: A8 of a rectangle. A repeated shape is moved by whole texels. */
export function texelCover(shape: Shape, outline: number | null, repeat: Repeat | null, rect: Rect): Uint8Array {
	const out = new Uint8Array(rect.width * rect.height);
	const one = placedShape(shape, outline);
	const count = repeat ? repeat.count : 1;
	const middle = [one.x + one.width / 2, one.y + one.height / 2] as const;
	for (let n = 0; n < count; n++) {
		let [dx, dy] = [0, 0];
		if (repeat?.way === 'row') [dx, dy] = [Math.round(repeat.step[0]) * n, Math.round(repeat.step[1]) * n];
		else if (repeat) {
			const [ox, oy] = repeat.around;
			const [c, s] = [Math.cos((2 * Math.PI * n) / count), Math.sin((2 * Math.PI * n) / count)];
			const [u, v] = [middle[0] - ox, middle[1] - oy];
			[dx, dy] = [Math.round(ox + u * c - v * s - middle[0]), Math.round(oy + u * s + v * c - middle[1])];
		}
		for (let y = 0; y < one.height; y++)
			for (let x = 0; x < one.width; x++) {
				if (!one.data[y * one.width + x]) continue;
				const [u, v] = [one.x + x + dx - rect.x, one.y + y + dy - rect.y];
				if (u >= 0 && v >= 0 && u < rect.width && v < rect.height) out[v * rect.width + u] = 255;
			}
	}
	return out;
}
