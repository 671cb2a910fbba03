import { triangleSpans } from '../atlas/index.ts';
import type { Mesh } from '../mesh/index.ts';
import type { Projection } from './camera.ts';

/** A mesh seen through a projection: vertices on the screen, which faces look at the camera, and what hides what. */
export interface View {
	readonly mesh: Mesh;
	readonly projection: Projection;
	/** Homogeneous, per vertex. */
	readonly X: Float64Array;
	readonly Y: Float64Array;
	readonly W: Float64Array;
	readonly N: Float64Array;
	/** 1 per face that looks at the camera and is not hidden by `shown`. */
	readonly front: Uint8Array;
	/** Largest nearness per px; 0 where there is nothing. */
	readonly nearness: Float32Array;
}

/** Sees a mesh; faces for which `shown` does not hold neither hide nor take paint. */
export function createView(mesh: Mesh, projection: Projection, shown: (face: number) => boolean = () => true): View {
	const { positions, indices } = mesh;
	const vertices = positions.length / 3;
	const faces = indices.length / 3;
	const [X, Y, W, N] = [projection.X, projection.Y, projection.W, projection.N].map((row) => {
		const out = new Float64Array(vertices);
		const [a, b, c, d] = row;
		for (let i = 0, p = 0; i < vertices; i++, p += 3)
			out[i] = a * (positions[p] as number) + b * (positions[p + 1] as number) + c * (positions[p + 2] as number) + d;
		return out;
	}) as [Float64Array, Float64Array, Float64Array, Float64Array];
	const front = new Uint8Array(faces);
	const [ex, ey, ez, ew] = projection.eye;
	for (let face = 0; face < faces; face++) {
		const a = (indices[face * 3] as number) * 3;
		const b = (indices[face * 3 + 1] as number) * 3;
		const c = (indices[face * 3 + 2] as number) * 3;
		const [ax, ay, az] = [positions[a] as number, positions[a + 1] as number, positions[a + 2] as number];
		const ux = (positions[b] as number) - ax, uy = (positions[b + 1] as number) - ay, uz = (positions[b + 2] as number) - az;
		const vx = (positions[c] as number) - ax, vy = (positions[c + 1] as number) - ay, vz = (positions[c + 2] as number) - az;
		const towards =
			(uy * vz - uz * vy) * (ex - ax * ew) + (uz * vx - ux * vz) * (ey - ay * ew) + (ux * vy - uy * vx) * (ez - az * ew);
		if (towards > 0 && shown(face)) front[face] = 1;
	}
	const view = { mesh, projection, X, Y, W, N, front, nearness: new Float32Array(projection.width * projection.height) };
	fillNearness(view);
	return view;
}

function fillNearness({ mesh, projection, X, Y, W, N, front, nearness }: View): void {
	const { indices } = mesh;
	const { width, height, nearest } = projection;
	for (let face = 0; face < front.length; face++) {
		if (!front[face]) continue;
		const [a, b, c] = [indices[face * 3] as number, indices[face * 3 + 1] as number, indices[face * 3 + 2] as number];
		const [wa, wb, wc] = [W[a] as number, W[b] as number, W[c] as number];
		if (wa < nearest || wb < nearest || wc < nearest) continue;
		const ax = (X[a] as number) / wa, ay = (Y[a] as number) / wa, na = (N[a] as number) / wa;
		const bx = (X[b] as number) / wb, by = (Y[b] as number) / wb, nb = (N[b] as number) / wb;
		const cx = (X[c] as number) / wc, cy = (Y[c] as number) / wc, nc = (N[c] as number) / wc;
		const area = (bx - ax) * (cy - ay) - (cx - ax) * (by - ay);
		if (area === 0) continue;
		const gx = ((nb - na) * (cy - ay) - (nc - na) * (by - ay)) / area;
		const gy = ((nc - na) * (bx - ax) - (nb - na) * (cx - ax)) / area;
		triangleSpans(ax, ay, bx, by, cx, cy, width, height, (y, x0, x1) => {
			let n = na + gx * (x0 + 0.5 - ax) + gy * (y + 0.5 - ay);
			for (let i = y * width + x0, end = y * width + x1; i < end; i++, n += gx) if (n > (nearness[i] as number)) nearness[i] = n;
		});
	}
}

/**
 * Whether a point of nearness n at screen place x, y is seen: not behind the farthest of the four px around it by
 * more than the slack. Taking the farthest keeps slopes from hiding themselves.
 */
export function isSeen(view: View, x: number, y: number, n: number): boolean {
	const { width, height, slack, slackShare } = view.projection;
	const px = Math.max(0, Math.min(width - 2, Math.floor(x - 0.5)));
	const py = Math.max(0, Math.min(height - 2, Math.floor(y - 0.5)));
	const z = view.nearness;
	const i = py * width + px;
	const far = Math.min(z[i] as number, z[i + 1] as number, z[i + width] as number, z[i + width + 1] as number);
	return n >= far - far * slackShare - slack;
}
