import type { Chart } from './chart.ts';

/** Whether faces of a flat chart lie over each other, looked for in so many cells along its longer side. */
export function overlaps({ corners }: Chart, places: Float64Array, side: number): boolean {
	let [x0, y0, x1, y1] = [Infinity, Infinity, -Infinity, -Infinity];
	for (let i = 0; i < places.length; i += 2) {
		const [x, y] = [places[i] as number, places[i + 1] as number];
		[x0, y0, x1, y1] = [Math.min(x0, x), Math.min(y0, y), Math.max(x1, x), Math.max(y1, y)];
	}
	const scale = side / Math.max(x1 - x0, y1 - y0, 1e-12);
	const [w, h] = [Math.ceil((x1 - x0) * scale) + 1, Math.ceil((y1 - y0) * scale) + 1];
	const seen = new Uint8Array(w * h);
	for (let face = 0; face * 3 < corners.length; face++) {
		const [ax, ay, bx, by, cx, cy] = [0, 1, 2].flatMap((k) => {
			const at = (corners[face * 3 + k] as number) * 2;
			return [((places[at] as number) - x0) * scale, ((places[at + 1] as number) - y0) * scale];
		}) as [number, number, number, number, number, number];
		const area = (bx - ax) * (cy - ay) - (cx - ax) * (by - ay);
		if (Math.abs(area) < 1e-9) continue;
		for (let y = Math.floor(Math.min(ay, by, cy)); y <= Math.min(h - 1, Math.max(ay, by, cy)); y++)
			for (let x = Math.floor(Math.min(ax, bx, cx)); x <= Math.min(w - 1, Math.max(ax, bx, cx)); x++) {
				const [px, py] = [x + 0.5, y + 0.5];
				const u = ((px - ax) * (cy - ay) - (cx - ax) * (py - ay)) / area;
				const v = ((bx - ax) * (py - ay) - (px - ax) * (by - ay)) / area;
				// A cell on an edge belongs to none: it would count as two.
				if (u <= 1e-6 || v <= 1e-6 || u + v >= 1 - 1e-6) continue;
				const at = y * w + x;
				if (seen[at]) return true;
				seen[at] = 1;
			}
	}
	return false;
}
