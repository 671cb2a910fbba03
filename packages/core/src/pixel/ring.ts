/** A picture of texels that are in (1) or out (0), row by row. */
export interface TexelMask {
	readonly width: number;
	readonly height: number;
	readonly data: Uint8Array;
}

export const emptyMask = (width: number, height: number): TexelMask => ({
	width,
	height,
	data: new Uint8Array(width * height),
});

/** The texels of a box whose middles lie within the ellipse that fills it; a box of one or two across is full. */
export function ellipseMask(width: number, height: number): TexelMask {
	const out = emptyMask(width, height);
	// In half texels, so that all is whole.
	const [a, b] = [width, height];
	for (let y = 0; y < height; y++)
		for (let x = 0; x < width; x++) {
			const [u, v] = [2 * x + 1 - a, 2 * y + 1 - b];
			if (u * u * b * b + v * v * a * a <= a * a * b * b) out.data[y * width + x] = 1;
		}
	return out;
}

/** Neighbours that touch at a side, or also at a corner. */
export type Touching = 4 | 8;

const around = [
	[0, -1],
	[1, 0],
	[0, 1],
	[-1, 0],
	[1, -1],
	[1, 1],
	[-1, 1],
	[-1, -1],
] as const;

/** Whether a texel has a neighbour that is as `inside` says; what lies beside the picture is out. */
function touches({ width, height, data }: TexelMask, x: number, y: number, by: Touching, inside: boolean): boolean {
	for (let k = 0; k < by; k++) {
		const [dx, dy] = around[k] as readonly [number, number];
		const [u, v] = [x + dx, y + dy];
		const is = u >= 0 && v >= 0 && u < width && v < height && data[v * width + u] === 1;
		if (is === inside) return true;
	}
	return false;
}

function filtered(mask: TexelMask, keep: (x: number, y: number, was: boolean) => boolean): TexelMask {
	const out = emptyMask(mask.width, mask.height);
	for (let y = 0, i = 0; y < mask.height; y++)
		for (let x = 0; x < mask.width; x++, i++) if (keep(x, y, mask.data[i] === 1)) out.data[i] = 1;
	return out;
}

/** The texels at the border of what is in: those that touch what is out. Touching at sides gives a line without doubled corners. */
export const innerRing = (mask: TexelMask, by: Touching): TexelMask =>
	filtered(mask, (x, y, was) => was && touches(mask, x, y, by, false));

/** The texels just beside what is in. */
export const outerRing = (mask: TexelMask, by: Touching): TexelMask =>
	filtered(mask, (x, y, was) => !was && touches(mask, x, y, by, true));

/** What is in without its border, so many texels deep. */
export function withoutRim(mask: TexelMask, deep: number, by: Touching = 4): TexelMask {
	let now = mask;
	for (let i = 0; i < deep; i++) {
		const was = now;
		now = filtered(was, (x, y, is) => is && !touches(was, x, y, by, false));
	}
	return now;
}

/** What is in one and not in the other; both are of one size. */
export const less = (mask: TexelMask, other: TexelMask): TexelMask =>
	filtered(mask, (x, y, was) => was && other.data[y * other.width + x] !== 1);

/** Those of a border whose neighbour towards a side is out: `side` is a step, each -1, 0 or 1. */
export const towards = (mask: TexelMask, ring: TexelMask, [dx, dy]: readonly [number, number]): TexelMask =>
	filtered(ring, (x, y, was) => {
		if (!was) return false;
		const out = (u: number, v: number): boolean =>
			u < 0 || v < 0 || u >= mask.width || v >= mask.height || mask.data[v * mask.width + u] !== 1;
		return (dx !== 0 && out(x + dx, y)) || (dy !== 0 && out(x, y + dy));
	});
