/** One place of the pointer: in the target's space (texels or px), pressure 0..1 (a mouse gives 1). */
export interface Sample {
	readonly x: number;
	readonly y: number;
	readonly pressure: number;
}

/** Straight pieces no longer than this stand for the curve, in the target's units. */
const PIECE = 2;

/**
 * Draws a smooth line through samples as they come: quadratic Bézier curves from the middle of one pair of samples to
 * the middle of the next, with the shared sample as control point. The same samples give the same line however they
 * are cut into batches.
 */
export interface Path {
	/** Points that the new samples settle. */
	extend(samples: readonly Sample[]): Sample[];
	/** The last half piece, to the last sample itself. */
	end(): Sample[];
}

const middle = (a: Sample, b: Sample): Sample => ({
	x: (a.x + b.x) / 2,
	y: (a.y + b.y) / 2,
	pressure: (a.pressure + b.pressure) / 2,
});

const apart = (a: Sample, b: Sample): number => Math.sqrt((a.x - b.x) * (a.x - b.x) + (a.y - b.y) * (a.y - b.y));

function curve(from: Sample, control: Sample, to: Sample, out: Sample[]): void {
	const pieces = Math.max(1, Math.ceil((apart(from, control) + apart(control, to)) / PIECE));
	for (let i = 1; i <= pieces; i++) {
		const t = i / pieces;
		const [a, b, c] = [(1 - t) * (1 - t), 2 * t * (1 - t), t * t];
		out.push({
			x: a * from.x + b * control.x + c * to.x,
			y: a * from.y + b * control.y + c * to.y,
			pressure: a * from.pressure + b * control.pressure + c * to.pressure,
		});
	}
}

export function createPath(): Path {
	let at: Sample | null = null;
	let last: Sample | null = null;
	return {
		extend(samples) {
			const out: Sample[] = [];
			for (const sample of samples) {
				if (!last || !at) out.push(sample);
				else if (sample.x === last.x && sample.y === last.y) {
					// The pen stands: no line, but its pressure counts from here.
					last = sample;
					continue;
				} else {
					const next = middle(last, sample);
					curve(at, last, next, out);
					at = next;
				}
				at ??= sample;
				last = sample;
			}
			return out;
		},
		end() {
			const out: Sample[] = [];
			if (at && last && apart(at, last) > 0) curve(at, middle(at, last), last, out);
			return out;
		},
	};
}
