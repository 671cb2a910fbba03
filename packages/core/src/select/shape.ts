import type { Path } from '../raster/index.ts';

/** A shape on the sheet in texels: what selections and drawn shapes are made of. */
export type Shape =
	/** Corners rounded by `radius` texels. */
	| {
			readonly kind: 'rectangle';
			readonly x: number;
			readonly y: number;
			readonly width: number;
			readonly height: number;
			readonly radius: number;
	  }
	| {
			readonly kind: 'ellipse';
			readonly x: number;
			readonly y: number;
			readonly width: number;
			readonly height: number;
	  }
	/** Also freehand lines: x, y, x, y …, closed. */
	| { readonly kind: 'polygon'; readonly points: readonly number[] }
	| {
			readonly kind: 'line';
			readonly from: readonly [number, number];
			readonly to: readonly [number, number];
			readonly thick: number;
	  }
	/** From one place to another, drawn towards a third. */
	| {
			readonly kind: 'curve';
			readonly from: readonly [number, number];
			readonly over: readonly [number, number];
			readonly to: readonly [number, number];
			readonly thick: number;
	  };

/** How a shape is repeated: in a row, each the step further on, or in a ring around a middle. */
export type Repeat =
	| { readonly way: 'row'; readonly count: number; readonly step: readonly [number, number] }
	| { readonly way: 'ring'; readonly count: number; readonly around: readonly [number, number] };

/** Straight pieces of a quarter circle or half one: off by less than a twentieth of a texel. */
const arcSteps = (radius: number): number => Math.max(4, Math.min(256, Math.ceil(Math.sqrt(Math.abs(radius)) * 5)));

function arc(out: number[], cx: number, cy: number, rx: number, ry: number, from: number, to: number): void {
	const steps = arcSteps(Math.max(rx, ry));
	for (let i = 0; i <= steps; i++) {
		const angle = from + ((to - from) * i) / steps;
		out.push(cx + rx * Math.cos(angle), cy + ry * Math.sin(angle));
	}
}

function roundedRectangle(x: number, y: number, width: number, height: number, radius: number): number[] {
	const r = Math.max(0, Math.min(radius, width / 2, height / 2));
	if (r === 0) return [x, y, x + width, y, x + width, y + height, x, y + height];
	const out: number[] = [];
	const q = Math.PI / 2;
	arc(out, x + width - r, y + r, r, r, -q, 0);
	arc(out, x + width - r, y + height - r, r, r, 0, q);
	arc(out, x + r, y + height - r, r, r, q, 2 * q);
	arc(out, x + r, y + r, r, r, 2 * q, 3 * q);
	return out;
}

/** Places along a curve, from its start to its end (a quadratic Bézier curve). */
function alongCurve({ from, over, to }: Extract<Shape, { kind: 'curve' }>): (readonly [number, number])[] {
	const long = Math.hypot(over[0] - from[0], over[1] - from[1]) + Math.hypot(to[0] - over[0], to[1] - over[1]);
	const steps = Math.max(4, Math.min(128, Math.ceil(long / 4)));
	return Array.from({ length: steps + 1 }, (_, i) => {
		const t = i / steps;
		const at = (k: 0 | 1): number => (1 - t) * (1 - t) * from[k] + 2 * t * (1 - t) * over[k] + t * t * to[k];
		return [at(0), at(1)] as const;
	});
}

/** The border of a shape as closed lines. */
export function shapePath(shape: Shape): Path {
	switch (shape.kind) {
		case 'rectangle': {
			const x = Math.min(shape.x, shape.x + shape.width);
			const y = Math.min(shape.y, shape.y + shape.height);
			return [Float64Array.from(roundedRectangle(x, y, Math.abs(shape.width), Math.abs(shape.height), shape.radius))];
		}
		case 'ellipse': {
			const [rx, ry] = [Math.abs(shape.width) / 2, Math.abs(shape.height) / 2];
			const out: number[] = [];
			for (let k = 0; k < 4; k++)
				arc(
					out,
					shape.x + shape.width / 2,
					shape.y + shape.height / 2,
					rx,
					ry,
					(k * Math.PI) / 2,
					((k + 1) * Math.PI) / 2,
				);
			return [Float64Array.from(out)];
		}
		case 'polygon':
			return [Float64Array.from(shape.points)];
		case 'curve': {
			const places = alongCurve(shape);
			return places
				.slice(1)
				.flatMap((to, i) =>
					shapePath({ kind: 'line', from: places[i] as readonly [number, number], to, thick: shape.thick }),
				);
		}
		case 'line': {
			const [[ax, ay], [bx, by]] = [shape.from, shape.to];
			const half = shape.thick / 2;
			const angle = Math.atan2(by - ay, bx - ax);
			const out: number[] = [];
			arc(out, bx, by, half, half, angle - Math.PI / 2, angle + Math.PI / 2);
			arc(out, ax, ay, half, half, angle + Math.PI / 2, angle + (3 * Math.PI) / 2);
			return [Float64Array.from(out)];
		}
	}
}

const reversed = (line: Float64Array): Float64Array => {
	const out = new Float64Array(line.length);
	for (let i = 0; i < line.length; i += 2) {
		out[i] = line[line.length - 2 - i] as number;
		out[i + 1] = line[line.length - 1 - i] as number;
	}
	return out;
};

/** A shape's outline, `thick` texels wide inwards: its border and, the other way round, the shape made smaller. */
export function outlinePath(shape: Shape, thick: number): Path {
	if (shape.kind === 'line' || shape.kind === 'curve') return shapePath(shape);
	if (shape.kind === 'polygon') {
		const { points } = shape;
		const out: Float64Array[] = [];
		for (let i = 0; i < points.length; i += 2) {
			const j = (i + 2) % points.length;
			out.push(
				...shapePath({
					kind: 'line',
					from: [points[i] as number, points[i + 1] as number],
					to: [points[j] as number, points[j + 1] as number],
					thick,
				}),
			);
		}
		return out;
	}
	const [w, h] = [Math.abs(shape.width), Math.abs(shape.height)];
	const [outer] = shapePath(shape);
	if (!outer || w <= 2 * thick || h <= 2 * thick) return shapePath(shape);
	const inside = {
		x: Math.min(shape.x, shape.x + shape.width) + thick,
		y: Math.min(shape.y, shape.y + shape.height) + thick,
		width: w - 2 * thick,
		height: h - 2 * thick,
	};
	const [inner] = shapePath(
		shape.kind === 'ellipse'
			? { kind: 'ellipse', ...inside }
			: { kind: 'rectangle', ...inside, radius: Math.max(0, shape.radius - thick) },
	);
	return [outer, reversed(inner as Float64Array)];
}

/** A path set down N times. */
export function repeatedPath(path: Path, repeat: Repeat | null): Path {
	if (!repeat || repeat.count <= 1) return path;
	return Array.from({ length: repeat.count }, (_, i) =>
		path.map((line) => {
			const out = new Float64Array(line.length);
			const angle = repeat.way === 'ring' ? (2 * Math.PI * i) / repeat.count : 0;
			const [c, s] = [Math.cos(angle), Math.sin(angle)];
			for (let k = 0; k < line.length; k += 2) {
				const [x, y] = [line[k] as number, line[k + 1] as number];
				if (repeat.way === 'row') {
					out[k] = x + repeat.step[0] * i;
					out[k + 1] = y + repeat.step[1] * i;
				} else {
					const [ox, oy] = repeat.around;
					out[k] = ox + (x - ox) * c - (y - oy) * s;
					out[k + 1] = oy + (x - ox) * s + (y - oy) * c;
				}
			}
			return out;
		}),
	).flat();
}
