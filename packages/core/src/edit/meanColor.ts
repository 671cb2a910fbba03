/** Red, green, blue, alpha, 0..255. */
type Texel = readonly [number, number, number, number];

/** The mean of a square of `size` texels around a place, colours weighed by their alpha. */
export function meanColor(x: number, y: number, size: number, texel: (x: number, y: number) => Texel): Texel {
	const reach = Math.floor((size - 1) / 2);
	const [left, top] = [Math.floor(x) - reach, Math.floor(y) - reach];
	let [red, green, blue, alpha] = [0, 0, 0, 0];
	for (let i = 0; i < size * size; i++) {
		const [r, g, b, a] = texel(left + (i % size), top + Math.floor(i / size));
		red += r * a;
		green += g * a;
		blue += b * a;
		alpha += a;
	}
	const over = (sum: number): number => (alpha ? Math.round(sum / alpha) : 0);
	return [over(red), over(green), over(blue), Math.round(alpha / (size * size))];
}
