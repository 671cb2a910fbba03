/**
 * The border between texels that are in (128 or more) and those that are out, as closed lines along texel edges: x, y,
 * x, y … with the inside on the right. Straight runs are one piece.
 */
export function contourOf(tone: Uint8Array, width: number, height: number): Int32Array[] {
	const inside = (x: number, y: number): boolean =>
		x >= 0 && y >= 0 && x < width && y < height && (tone[y * width + x] as number) >= 128;
	// Edges that run along the upper border of a texel, to the right, not yet walked.
	const tops = new Set<number>();
	for (let y = 0; y < height; y++)
		for (let x = 0; x < width; x++) if (inside(x, y) && !inside(x, y - 1)) tops.add(y * width + x);
	const lines: Int32Array[] = [];
	for (const start of tops) {
		const line: number[] = [];
		let [x, y] = [start % width, Math.floor(start / width)];
		let way = 0; // 0 right, 1 down, 2 left, 3 up
		const [x0, y0] = [x, y];
		line.push(x, y);
		do {
			if (way === 0) tops.delete(y * width + x);
			if (way === 0) x++;
			else if (way === 1) y++;
			else if (way === 2) x--;
			else y--;
			// The two texels ahead: on the left and on the right of the way.
			const ahead = (right: boolean): boolean => {
				const [ax, ay] = (
					[
						[0, right ? 0 : -1],
						[right ? -1 : 0, 0],
						[-1, right ? -1 : 0],
						[right ? 0 : -1, -1],
					] as const
				)[way] as readonly [number, number];
				return inside(x + ax, y + ay);
			};
			const turn = !ahead(true) ? 1 : ahead(false) ? 3 : 0;
			if (turn) {
				line.push(x, y);
				way = (way + turn) % 4;
			}
		} while (x !== x0 || y !== y0 || way !== 0);
		line.length -= 2;
		lines.push(Int32Array.from(line));
	}
	return lines;
}
