import type { Picture } from '../surface/index.ts';

/** A picture of one byte a texel as opaque greys. */
export function grayPicture({ width, height, data }: Picture): Picture {
	const out = new Uint8Array(width * height * 4);
	for (let i = 0; i < data.length; i++) out.fill(data[i] as number, i * 4, i * 4 + 3).fill(255, i * 4 + 3, i * 4 + 4);
	return { width, height, data: out };
}
