/**
 * Fills a triangle in row spans, by texel centres: a texel belongs to it where its centre lies inside, with the
 * left-closed rule, so that triangles that share an edge share no texel. Either winding. `span(y, x0, x1)` gets the
 * run [x0, x1) of row y, cut to width and height; rows without texels are given with x0 = x1.
 * Returns the first row, or -1 where no row's centre lies inside.
 */
export function triangleSpans(
	ax: number,
	ay: number,
	bx: number,
	by: number,
	cx: number,
	cy: number,
	width: number,
	height: number,
	span: (y: number, x0: number, x1: number) => void,
): number {
	const area = (bx - ax) * (cy - ay) - (cx - ax) * (by - ay);
	if (area === 0 || !Number.isFinite(area)) return -1;
	if (area < 0) {
		let t = bx;
		bx = cx;
		cx = t;
		t = by;
		by = cy;
		cy = t;
	}
	const y0 = Math.max(0, Math.ceil(Math.min(ay, by, cy) - 0.5));
	const y1 = Math.min(height - 1, Math.floor(Math.max(ay, by, cy) - 0.5));
	if (y1 < y0) return -1;
	// Edge functions A·x + B·y + C >= 0, solved for x in each row.
	const A0 = ay - by,
		B0 = bx - ax,
		C0 = ax * by - bx * ay;
	const A1 = by - cy,
		B1 = cx - bx,
		C1 = bx * cy - cx * by;
	const A2 = cy - ay,
		B2 = ax - cx,
		C2 = cx * ay - ax * cy;
	for (let y = y0; y <= y1; y++) {
		const yc = y + 0.5;
		let low = 0;
		let high = width;
		let k = B0 * yc + C0;
		if (A0 > 0) low = Math.max(low, -k / A0);
		else if (A0 < 0) high = Math.min(high, -k / A0);
		else if (k < 0) high = -1;
		k = B1 * yc + C1;
		if (A1 > 0) low = Math.max(low, -k / A1);
		else if (A1 < 0) high = Math.min(high, -k / A1);
		else if (k < 0) high = -1;
		k = B2 * yc + C2;
		if (A2 > 0) low = Math.max(low, -k / A2);
		else if (A2 < 0) high = Math.min(high, -k / A2);
		else if (k < 0) high = -1;
		const x0 = Math.max(0, Math.ceil(low - 0.5));
		span(y, x0, Math.max(x0, Math.min(width, Math.ceil(high - 0.5))));
	}
	return y0;
}
