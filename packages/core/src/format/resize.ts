import { linearOfSrgb, srgbOfLinear } from '../color/index.ts';
import type { Picture } from '../surface/index.ts';

const linear = Float32Array.from({ length: 256 }, (_, v) => linearOfSrgb(v / 255));

/**
 * A picture made smaller to width by height: each new texel is the mean of what it covers, in linear light and
 * weighted by alpha. The same size returns the picture itself; a larger one is refused with RangeError.
 */
export function shrink(picture: Picture, width: number, height: number): Picture {
	if (width === picture.width && height === picture.height) return picture;
	if (width > picture.width || height > picture.height || width < 1 || height < 1)
		throw new RangeError(
			`A sheet of ${picture.width} by ${picture.height} cannot be handed off at ${width} by ${height}; choose its own size or a smaller one.`,
		);
	const data = new Uint8Array(width * height * 4);
	for (let y = 0; y < height; y++) {
		const [y0, y1] = [(y * picture.height) / height, ((y + 1) * picture.height) / height];
		for (let x = 0; x < width; x++) {
			const [x0, x1] = [(x * picture.width) / width, ((x + 1) * picture.width) / width];
			let [r, g, b, a, area] = [0, 0, 0, 0, 0];
			for (let yy = Math.floor(y0); yy < y1; yy++)
				for (let xx = Math.floor(x0); xx < x1; xx++) {
					const part = (Math.min(y1, yy + 1) - Math.max(y0, yy)) * (Math.min(x1, xx + 1) - Math.max(x0, xx));
					const i = (yy * picture.width + xx) * 4;
					const w = part * (picture.data[i + 3] as number);
					r += w * (linear[picture.data[i] as number] as number);
					g += w * (linear[picture.data[i + 1] as number] as number);
					b += w * (linear[picture.data[i + 2] as number] as number);
					a += w;
					area += part;
				}
			const o = (y * width + x) * 4;
			if (a > 0)
				data.set(
					[r, g, b].map((v) => Math.round(255 * srgbOfLinear(v / a))),
					o,
				);
			data[o + 3] = Math.round(a / area);
		}
	}
	return { width, height, data };
}

/** How a picture comes to another size: means of what is covered and smooth curves, or the nearest texel. */
export type Filter = 'area' | 'nearest';

function nearest(picture: Picture, width: number, height: number): Picture {
	const from = new Uint32Array(picture.data.slice().buffer);
	const to = new Uint32Array(width * height);
	for (let y = 0; y < height; y++) {
		const row = Math.floor(((y + 0.5) * picture.height) / height) * picture.width;
		for (let x = 0; x < width; x++)
			to[y * width + x] = from[row + Math.floor(((x + 0.5) * picture.width) / width)] as number;
	}
	return { width, height, data: new Uint8Array(to.buffer) };
}

/** Weights of four neighbours at a place between the middle two (Catmull and Rom 1974). */
const curve = (t: number): readonly [number, number, number, number] => [
	t * (-0.5 + t * (1 - 0.5 * t)),
	1 + t * t * (-2.5 + 1.5 * t),
	t * (0.5 + t * (2 - 1.5 * t)),
	t * t * (-0.5 + 0.5 * t),
];

/** One direction of an enlargement: rows of premultiplied linear light, four numbers a texel. */
function stretched(from: Float32Array, width: number, height: number, wide: number): Float32Array {
	const to = new Float32Array(wide * height * 4);
	for (let x = 0; x < wide; x++) {
		const place = ((x + 0.5) * width) / wide - 0.5;
		const first = Math.floor(place);
		const weights = curve(place - first);
		for (let k = 0; k < 4; k++) {
			const column = Math.min(width - 1, Math.max(0, first + k - 1)) * 4;
			const weight = weights[k] as number;
			for (let y = 0; y < height; y++) {
				const [o, i] = [(y * wide + x) * 4, y * width * 4 + column];
				for (let c = 0; c < 4; c++) to[o + c] = (to[o + c] as number) + weight * (from[i + c] as number);
			}
		}
	}
	return to;
}

const turned = (from: Float32Array, width: number, height: number): Float32Array => {
	const to = new Float32Array(from.length);
	for (let y = 0; y < height; y++)
		for (let x = 0; x < width; x++)
			to.set(from.subarray((y * width + x) * 4, (y * width + x) * 4 + 4), (x * height + y) * 4);
	return to;
};

/** A picture made larger along a smooth curve through its texels, in linear light, premultiplied. */
function enlarged({ width, height, data }: Picture, wide: number, high: number): Picture {
	const from = new Float32Array(width * height * 4);
	for (let i = 0; i < from.length; i += 4) {
		const a = (data[i + 3] as number) / 255;
		for (let c = 0; c < 3; c++) from[i + c] = a * (linear[data[i + c] as number] as number);
		from[i + 3] = a;
	}
	const across = stretched(from, width, height, wide);
	const down = stretched(turned(across, wide, height), height, wide, high);
	const out = new Uint8Array(wide * high * 4);
	for (let y = 0; y < high; y++)
		for (let x = 0; x < wide; x++) {
			const [o, i] = [(y * wide + x) * 4, (x * high + y) * 4];
			const a = Math.min(1, Math.max(0, down[i + 3] as number));
			out[o + 3] = Math.round(a * 255);
			if (a > 0)
				for (let c = 0; c < 3; c++)
					out[o + c] = Math.round(255 * srgbOfLinear(Math.min(1, Math.max(0, (down[i + c] as number) / a))));
		}
	return { width: wide, height: high, data: out };
}

/** A picture at another size, smaller or larger on either side. The same size returns the picture itself. */
export function resized(picture: Picture, width: number, height: number, filter: Filter): Picture {
	if (width === picture.width && height === picture.height) return picture;
	if (filter === 'nearest') return nearest(picture, width, height);
	const small = shrink(picture, Math.min(width, picture.width), Math.min(height, picture.height));
	return small.width === width && small.height === height ? small : enlarged(small, width, height);
}
