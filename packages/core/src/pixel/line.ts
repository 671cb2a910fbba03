/** Texels one after the other: x, y, x, y … */
export type Texels = readonly number[];

/**
 * The texels of a straight line, both ends among them, one a step of its longer side: those nearest to it (J. Bresenham,
 * "Algorithm for computer control of a digital plotter", 1965). Where two are as near, the one on the nearer end's own
 * side is taken, so that a line is the same from either end and turned half round.
 */
export function texelLine(ax: number, ay: number, bx: number, by: number): number[] {
	const [dx, dy] = [bx - ax, by - ay];
	const steep = Math.abs(dy) > Math.abs(dx);
	const [long, short] = steep ? [Math.abs(dy), Math.abs(dx)] : [Math.abs(dx), Math.abs(dy)];
	const [sx, sy] = [Math.sign(dx), Math.sign(dy)];
	const out: number[] = [];
	for (let i = 0; i <= long; i++) {
		const twice = 2 * i * short + long;
		let off = long ? Math.floor(twice / (2 * long)) : 0;
		const tie = long > 0 && twice % (2 * long) === 0;
		// In the very middle neither end is nearer: then the lower one by its coordinate.
		if (tie && (2 * i < long || (2 * i === long && (steep ? sx : sy) > 0))) off--;
		out.push(ax + sx * (steep ? off : i), ay + sy * (steep ? i : off));
	}
	return out;
}

const apart = (x: number, y: number): number => Math.max(Math.abs(x), Math.abs(y));

/** A line of texels that is drawn by hand: one texel wide, it goes on over corners and doubles none. */
export interface TexelTrail {
	/** Goes on to a texel; returns those that are settled by it. */
	to(x: number, y: number): number[];
	/** What comes next begins anew, joined to nothing. */
	lift(): number[];
}

/**
 * Joins texels to a line. With `corners` off, a texel that only stands in the corner between two that touch each other at
 * theirs is left out: until the next one is known, the last one is not told.
 */
export function texelTrail(corners: boolean): TexelTrail {
	let last: readonly [number, number] | null = null;
	let held: readonly [number, number] | null = null;
	const step = (x: number, y: number, out: number[]): void => {
		const end = held ?? last;
		if (end && end[0] === x && end[1] === y) return;
		if (!last || corners) {
			out.push(x, y);
			last = [x, y];
			return;
		}
		const doubled =
			held && Math.abs(x - last[0]) === 1 && Math.abs(y - last[1]) === 1 && Math.abs(x - held[0] + y - held[1]) === 1;
		if (held && !doubled) {
			out.push(...held);
			last = held;
		}
		held = [x, y];
	};
	return {
		to(x, y) {
			const out: number[] = [];
			const end = held ?? last;
			if (!end || apart(x - end[0], y - end[1]) <= 1) step(x, y, out);
			else {
				const line = texelLine(end[0], end[1], x, y);
				for (let i = 2; i < line.length; i += 2) step(line[i] as number, line[i + 1] as number, out);
			}
			return out;
		},
		lift() {
			const out = held ? [...held] : [];
			last = held = null;
			return out;
		},
	};
}

/** A line through texels without doubled corners. */
export function withoutCorners(texels: Texels): number[] {
	const trail = texelTrail(false);
	const out: number[] = [];
	for (let i = 0; i < texels.length; i += 2) out.push(...trail.to(texels[i] as number, texels[i + 1] as number));
	return [...out, ...trail.lift()];
}

/** The texels of a curve from one texel to another, drawn towards a third (a quadratic Bézier curve), without doubled corners. */
export function texelCurve(from: Texels, over: Texels, to: Texels): number[] {
	const [ax, ay] = from as [number, number];
	const [cx, cy] = over as [number, number];
	const [bx, by] = to as [number, number];
	const steps = Math.max(1, 4 * (apart(cx - ax, cy - ay) + apart(bx - cx, by - cy)));
	const out: number[] = [];
	for (let i = 0; i <= steps; i++) {
		const t = i / steps;
		const at = (a: number, c: number, b: number): number =>
			Math.round((1 - t) * (1 - t) * a + 2 * t * (1 - t) * c + t * t * b) + 0;
		out.push(at(ax, cx, bx), at(ay, cy, by));
	}
	return withoutCorners(out);
}
