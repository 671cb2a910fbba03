import type { LaidMesh } from '../mesh/index.ts';

/** How large a sheet is, texels. */
export interface Size {
	readonly width: number;
	readonly height: number;
}

/** Where a texel of a face lay before: x = a·x + b·y + c, y = d·x + e·y + f, in texels. */
export type Way = readonly [a: number, b: number, c: number, d: number, e: number, f: number];

/** How a face goes from the sheet that it lay on to where it lies now. */
export interface FaceWay {
	readonly way: Way;
	/** Texels go over one by one, as they are: moved by whole texels, turned by quarters, flipped. */
	readonly exact: boolean;
	/** Texels of before along the wider way of one of now: above 1 the face became coarser. */
	readonly step: number;
	/** Texels of before for each of now. */
	readonly area: number;
}

/** So near to a whole texel counts as one. */
const NEAR = 0.02;

type Corner = readonly [number, number];

const corner = ({ uvs, indices }: LaidMesh, face: number, k: number, { width, height }: Size): Corner => {
	const at = (indices[face * 3 + k] as number) * 2;
	return [(uvs[at] as number) * width, (uvs[at + 1] as number) * height];
};

/** Twice the area of a face on its sheet, texels; negative where it is mirrored. */
function doubleArea(mesh: LaidMesh, face: number, size: Size): number {
	const [a, b, c] = [0, 1, 2].map((k) => corner(mesh, face, k, size)) as [Corner, Corner, Corner];
	return (b[0] - a[0]) * (c[1] - a[1]) - (c[0] - a[0]) * (b[1] - a[1]);
}

/** Whether a face lies on its sheet at all: one without area takes no paint. */
export const hasPlace = (mesh: LaidMesh, face: number, size: Size): boolean =>
	Math.abs(doubleArea(mesh, face, size)) > 1e-6;

/** The way of a face from one layout of its mesh to another; null where it has no area on one of them. */
export function wayOfFace(before: LaidMesh, was: Size, now: LaidMesh, is: Size, face: number): FaceWay | null {
	const area = doubleArea(now, face, is);
	const old = doubleArea(before, face, was);
	if (Math.abs(area) <= 1e-6 || Math.abs(old) <= 1e-6) return null;
	const to = [0, 1, 2].map((k) => corner(now, face, k, is));
	const from = [0, 1, 2].map((k) => corner(before, face, k, was));
	const [[x0, y0], [x1, y1], [x2, y2]] = to as [[number, number], [number, number], [number, number]];
	const row = (k: 0 | 1): [number, number, number] => {
		const [u0, u1, u2] = from.map((at) => at[k]) as [number, number, number];
		const a = ((u1 - u0) * (y2 - y0) - (u2 - u0) * (y1 - y0)) / area;
		const b = ((u2 - u0) * (x1 - x0) - (u1 - u0) * (x2 - x0)) / area;
		return [a, b, u0 - a * x0 - b * y0];
	};
	const [[a, b, c], [d, e, f]] = [row(0), row(1)];
	// The nearest way that only moves, turns by quarters and flips; texels' middles must fall on middles.
	const near = (v: number): number => Math.max(-1, Math.min(1, Math.round(v)));
	const [ra, rb, rd, re] = [near(a), near(b), near(d), near(e)];
	const whole = (at: number, ra: number, rb: number): number =>
		Math.round(at - 0.5 + (ra + rb) / 2) + 0.5 - (ra + rb) / 2;
	const [rc, rf] = [whole(c, ra, rb), whole(f, rd, re)];
	const straight = Math.abs(ra * re - rb * rd) === 1 && Math.abs(ra) + Math.abs(rb) === 1;
	const exact =
		straight &&
		to.every(([x, y], k) => {
			const [u, v] = from[k] as [number, number];
			return (
				Math.abs(ra * (x as number) + rb * (y as number) + rc - u) < NEAR &&
				Math.abs(rd * (x as number) + re * (y as number) + rf - v) < NEAR
			);
		});
	return {
		way: exact ? [ra, rb, rc, rd, re, rf] : [a, b, c, d, e, f],
		exact,
		step: Math.max(Math.hypot(a, d), Math.hypot(b, e)),
		area: Math.abs(old / area),
	};
}
