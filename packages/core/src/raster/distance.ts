/**
 * Squared distances from each cell to the nearest cell of a set, exactly. Source: P. Felzenszwalb and D. Huttenlocher,
 * "Distance Transforms of Sampled Functions" (2012). `Infinity` where the set is empty.
 * `nearest`, where it is given, takes the number of that nearest cell.
 */
export function squaredDistances(
	inside: (at: number) => boolean,
	width: number,
	height: number,
	nearest?: Int32Array,
): Float32Array {
	const far = 1e12;
	const out = new Float32Array(width * height);
	for (let i = 0; i < out.length; i++) out[i] = inside(i) ? 0 : far;
	for (let i = 0; nearest && i < out.length; i++) nearest[i] = i;
	const most = Math.max(width, height);
	const from = new Int32Array(most);
	const f = new Float64Array(most);
	const v = new Int32Array(most);
	const z = new Float64Array(most + 1);
	const line = (start: number, step: number, count: number): void => {
		let [any, all] = [false, true];
		for (let i = 0; i < count; i++) {
			f[i] = out[start + i * step] as number;
			if (nearest) from[i] = nearest[start + i * step] as number;
			if ((f[i] as number) < far) any = true;
			if ((f[i] as number) > 0) all = false;
		}
		// Where nothing or all of a line lies in the set it stays as it is.
		if (!any || all) return;
		let k = 0;
		v[0] = 0;
		z[0] = -Infinity;
		z[1] = Infinity;
		for (let q = 1; q < count; q++) {
			const fq = (f[q] as number) + q * q;
			let p = v[k] as number;
			let s = (fq - (f[p] as number) - p * p) / (2 * (q - p));
			while (s <= (z[k] as number)) {
				k--;
				p = v[k] as number;
				s = (fq - (f[p] as number) - p * p) / (2 * (q - p));
			}
			k++;
			v[k] = q;
			z[k] = s;
			z[k + 1] = Infinity;
		}
		k = 0;
		for (let q = 0; q < count; q++) {
			while ((z[k + 1] as number) < q) k++;
			const p = v[k] as number;
			out[start + q * step] = (q - p) ** 2 + (f[p] as number);
			if (nearest) nearest[start + q * step] = from[p] as number;
		}
	};
	for (let x = 0; x < width; x++) line(x, width, height);
	for (let y = 0; y < height; y++) line(y * width, 1, width);
	for (let i = 0; i < out.length; i++) if ((out[i] as number) > far / 2) out[i] = Infinity;
	return out;
}

/**
 * Signed distance to a shape's border in texels, below 0 inside: from A8 coverage, whose half value lies on the border.
 */
export function signedDistances(tone: Uint8Array, width: number, height: number): Float32Array {
	const toShape = squaredDistances((i) => (tone[i] as number) >= 128, width, height);
	const toOutside = squaredDistances((i) => (tone[i] as number) < 128, width, height);
	const out = new Float32Array(tone.length);
	for (let i = 0; i < out.length; i++) {
		const v = tone[i] as number;
		// Beside the border the coverage itself tells it more finely than whole texels do.
		if (v > 0 && v < 255 && (v >= 128 ? toOutside[i] === 1 : toShape[i] === 1)) out[i] = 0.5 - v / 255;
		else if (v >= 128) out[i] = 0.5 - Math.sqrt(toOutside[i] as number);
		else out[i] = Math.sqrt(toShape[i] as number) - 0.5;
	}
	return out;
}
