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

/** The sizes in which a sheet can be handed off: its own, and halves of it down to 1. */
export function handOffSizes(width: number, height: number): { readonly width: number; readonly height: number }[] {
	const sizes = [{ width, height }];
	for (let at = { width, height }; at.width > 1 || at.height > 1; ) {
		at = { width: Math.max(1, at.width >> 1), height: Math.max(1, at.height >> 1) };
		sizes.push(at);
	}
	return sizes;
}
