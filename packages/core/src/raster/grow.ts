/**
 * The highest of the 2·half+1 cells around each cell of a line of values from 0 up; there is nothing beside the line.
 * Source: M. van Herk, "A fast algorithm for local minimum and maximum filters on rectangular and octagonal kernels" (1992).
 */
function highestAlong(
	line: Float32Array,
	half: number,
	ahead: Float32Array,
	behind: Float32Array,
	out: Float32Array,
): void {
	if (half === 0) {
		out.set(line);
		return;
	}
	const window = 2 * half + 1;
	const all = line.length + 2 * half;
	const at = (i: number): number => line[i - half] ?? 0;
	for (let i = 0; i < all; i++) ahead[i] = i % window === 0 ? at(i) : Math.max(ahead[i - 1] as number, at(i));
	for (let i = all - 1; i >= 0; i--)
		behind[i] = i % window === window - 1 || i === all - 1 ? at(i) : Math.max(behind[i + 1] as number, at(i));
	for (let i = 0; i < line.length; i++) out[i] = Math.max(behind[i] as number, ahead[i + 2 * half] as number);
}

/**
 * A field grown by a disc of `by` cells, below 0 shrunk: each cell takes the highest (lowest) value within the disc, so
 * that what is soft stays soft. The disc's edge counts by its share of a cell. Values 0..1.
 */
export function grownField(field: Float32Array, width: number, height: number, by: number): Float32Array {
	if (by === 0) return field.slice();
	if (by < 0) {
		const grown = grownField(
			field.map((v) => 1 - v),
			width,
			height,
			-by,
		);
		for (let i = 0; i < grown.length; i++) grown[i] = 1 - (grown[i] as number);
		return grown;
	}
	const out = field.slice();
	const rows = Math.ceil(by);
	const [ahead, behind] = [new Float32Array(width + 2 * rows + 2), new Float32Array(width + 2 * rows + 2)];
	const [inner, outer] = [new Float32Array(width), new Float32Array(width)];
	for (let dy = 0; dy <= rows; dy++) {
		const half = dy > by ? 0 : Math.sqrt(by * by - dy * dy);
		const [whole, part] = [Math.floor(half), half - Math.floor(half)];
		// Of a row that the disc only just reaches its part counts.
		const weight = dy > by ? by - (dy - 1) : 1;
		for (let y = 0; y < height; y++) {
			const line = field.subarray(y * width, (y + 1) * width);
			highestAlong(line, whole, ahead, behind, inner);
			if (part > 0) {
				highestAlong(line, whole + 1, ahead, behind, outer);
				for (let x = 0; x < width; x++)
					inner[x] = (inner[x] as number) + part * ((outer[x] as number) - (inner[x] as number));
			}
			for (const to of dy === 0 ? [y] : [y - dy, y + dy]) {
				if (to < 0 || to >= height) continue;
				for (let x = 0, i = to * width; x < width; x++, i++) {
					const v = (inner[x] as number) * weight;
					if (v > (out[i] as number)) out[i] = v;
				}
			}
		}
	}
	return out;
}
