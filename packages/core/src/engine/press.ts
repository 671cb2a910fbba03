/** Byte planes one after the other, each as differences: what deflate shrinks best for painted tiles. */
export function planesOf(texels: Uint8Array, planes: number): Uint8Array {
	const out = new Uint8Array(texels.length);
	const run = texels.length / planes;
	for (let p = 0; p < planes; p++)
		for (let i = 0, before = 0; i < run; i++) {
			const v = texels[i * planes + p] as number;
			out[p * run + i] = v - before;
			before = v;
		}
	return out;
}

/** The inverse of `planesOf`. */
export function texelsOf(bytes: Uint8Array, planes: number): Uint8Array {
	const out = new Uint8Array(bytes.length);
	const run = bytes.length / planes;
	for (let p = 0; p < planes; p++)
		for (let i = 0, before = 0; i < run; i++) {
			before = (before + (bytes[p * run + i] as number)) & 255;
			out[i * planes + p] = before;
		}
	return out;
}
