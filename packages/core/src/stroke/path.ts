/** One place of the pointer: in the target's space (texels or px), pressure 0..1 (a mouse gives 1). */
export interface Sample {
	readonly x: number;
	readonly y: number;
	readonly pressure: number;
	/** 0 upright .. 1 flat. */
	readonly tilt?: number;
	/** Where the pen leans to, radians, clockwise from the right. */
	readonly azimuth?: number;
	/** Milliseconds, from any start. */
	readonly time?: number;
}

/** A place of the line, with all that the pen said there. */
export interface Point {
	readonly x: number;
	readonly y: number;
	readonly pressure: number;
	readonly tilt: number;
	readonly azimuth: number;
	/** Units a millisecond; 0 where no time is told. */
	readonly speed: number;
}

/** Straight pieces no longer than this stand for the curve, in the target's units. */
const PIECE = 2;

/**
 * Draws a smooth line through samples as they come: quadratic Bézier curves from the middle of one pair of samples to
 * the middle of the next, with the shared sample as control point. With a `rope` the line is pulled behind the pen by
 * a rope of that length, and comes to the pen at its end. The same samples give the same line however they are cut
 * into batches.
 */
export interface Path {
	/** Points that the new samples settle. */
	extend(samples: readonly Sample[]): Point[];
	/** The last half piece, to the last sample itself. */
	end(): Point[];
}

const mix = (a: number, b: number, t: number): number => a + (b - a) * t;

/** Between two points, angles the shorter way round. */
export function between(a: Point, b: Point, t: number): Point {
	let turn = b.azimuth - a.azimuth;
	if (turn > Math.PI) turn -= 2 * Math.PI;
	else if (turn < -Math.PI) turn += 2 * Math.PI;
	return {
		x: mix(a.x, b.x, t),
		y: mix(a.y, b.y, t),
		pressure: mix(a.pressure, b.pressure, t),
		tilt: mix(a.tilt, b.tilt, t),
		azimuth: a.azimuth + turn * t,
		speed: mix(a.speed, b.speed, t),
	};
}

const apart = (a: Point, b: Point): number => Math.sqrt((a.x - b.x) * (a.x - b.x) + (a.y - b.y) * (a.y - b.y));

function curve(from: Point, control: Point, to: Point, out: Point[]): void {
	const pieces = Math.max(1, Math.ceil((apart(from, control) + apart(control, to)) / PIECE));
	for (let i = 1; i <= pieces; i++) {
		const t = i / pieces;
		out.push(between(between(from, control, t), between(control, to, t), t));
	}
}

export function createPath(rope = 0): Path {
	let at: Point | null = null;
	let last: Point | null = null;
	let pen: Point | null = null;
	let time: number | undefined;

	/** The sample as a point: its speed is that since the one before, smoothed. */
	const read = (sample: Sample): Point => {
		const { x, y, pressure, tilt = 0, azimuth = 0 } = sample;
		let speed = pen?.speed ?? 0;
		if (pen && time !== undefined && sample.time !== undefined && sample.time > time) {
			const now = Math.sqrt((x - pen.x) * (x - pen.x) + (y - pen.y) * (y - pen.y)) / (sample.time - time);
			speed = mix(speed, now, 0.4);
		}
		time = sample.time;
		return { x, y, pressure, tilt, azimuth, speed };
	};
	const line = (point: Point, out: Point[]): void => {
		if (!last || !at) out.push(point);
		else if (point.x === last.x && point.y === last.y) {
			// The pen stands: no line, but its pressure counts from here.
			last = point;
			return;
		} else {
			const next = between(last, point, 0.5);
			curve(at, last, next, out);
			at = next;
		}
		at ??= point;
		last = point;
	};
	return {
		extend(samples) {
			const out: Point[] = [];
			for (const sample of samples) {
				pen = read(sample);
				if (!rope || !last) line(pen, out);
				else {
					const far = apart(last, pen);
					if (far > rope) {
						const t = (far - rope) / far;
						line({ ...pen, x: mix(last.x, pen.x, t), y: mix(last.y, pen.y, t) }, out);
					}
				}
			}
			return out;
		},
		end() {
			const out: Point[] = [];
			if (rope && pen && last && apart(last, pen) > 0) line(pen, out);
			if (at && last && apart(at, last) > 0) curve(at, between(at, last, 0.5), last, out);
			return out;
		},
	};
}
