import type { LaidMesh } from '../mesh/index.ts';
import type { Projection, Row } from './camera.ts';

/** A mesh seen through a projection: vertices on the screen, which faces look at the camera, and what hides what. */
export interface View {
	readonly mesh: LaidMesh;
	readonly projection: Projection;
	/** Homogeneous, per vertex. */
	readonly X: Float64Array;
	readonly Y: Float64Array;
	readonly W: Float64Array;
	readonly N: Float64Array;
	/** 1 per face that looks at the camera and is not hidden by `shown`. */
	readonly front: Uint8Array;
	/** Per face the cosine between its direction and the way to the camera, the largest of its corners'. */
	readonly facing: Float32Array;
	/** 0 paints whatever is seen alike; up to 1 paint fades the more a face turns away. */
	readonly fade: number;
	/** Largest nearness per px; 0 where there is nothing. */
	readonly nearness: Float32Array;
	readonly reach: Reach;
}

/**
 * What a brush on the screen reaches: what is seen; every face that looks at the camera, hidden by others or not; or
 * right through the model, backs and all.
 */
export type Reach = 'seen' | 'front' | 'through';

/** Faces seen flatter than 2° take no paint of a brush that paints what is seen, from 4° on all of it. */
const EDGE_ON = Math.sin((2 * Math.PI) / 180);

const EDGE_OVER = Math.sin((4 * Math.PI) / 180);

/** How much paint a surface takes that is seen at a cosine of its direction and the way to the camera: 0..1. */
export function takenAt({ reach, fade }: Pick<View, 'reach' | 'fade'>, cosine: number): number {
	if (reach !== 'seen') return 1;
	const t = Math.min(1, Math.max(0, (cosine - EDGE_ON) / (EDGE_OVER - EDGE_ON + 0.9 * fade)));
	return t * t * (3 - 2 * t);
}

/** Sees a mesh; faces for which `shown` does not hold neither hide nor take paint. */
export function createView(
	mesh: LaidMesh,
	projection: Projection,
	shown: (face: number) => boolean = () => true,
	reach: Reach = 'seen',
	fade = 0,
): View {
	const { positions, indices } = mesh;
	const faces = indices.length / 3;
	const X = project(positions, projection.X);
	const Y = project(positions, projection.Y);
	const W = project(positions, projection.W);
	const N = project(positions, projection.N);
	const front = new Uint8Array(faces);
	const facing = new Float32Array(faces);
	const [ex, ey, ez, ew] = projection.eye;
	for (let face = 0; face < faces; face++) {
		const a = (indices[face * 3] as number) * 3;
		const b = (indices[face * 3 + 1] as number) * 3;
		const c = (indices[face * 3 + 2] as number) * 3;
		const [ax, ay, az] = [positions[a] as number, positions[a + 1] as number, positions[a + 2] as number];
		const ux = (positions[b] as number) - ax,
			uy = (positions[b + 1] as number) - ay,
			uz = (positions[b + 2] as number) - az;
		const vx = (positions[c] as number) - ax,
			vy = (positions[c + 1] as number) - ay,
			vz = (positions[c + 2] as number) - az;
		const [nx, ny, nz] = [uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx];
		const size = Math.sqrt(nx * nx + ny * ny + nz * nz);
		const [tx, ty, tz] = [ex - ax * ew, ey - ay * ew, ez - az * ew];
		const towards = nx * tx + ny * ty + nz * tz;
		let most = 0;
		for (let k = 0; k < 3 && size > 0; k++) {
			const dx = tx - (k === 1 ? ux : k === 2 ? vx : 0) * ew;
			const dy = ty - (k === 1 ? uy : k === 2 ? vy : 0) * ew;
			const dz = tz - (k === 1 ? uz : k === 2 ? vz : 0) * ew;
			most = Math.max(most, (nx * dx + ny * dy + nz * dz) / (size * Math.sqrt(dx * dx + dy * dy + dz * dz) || 1));
		}
		facing[face] = most;
		if ((towards > 0 || reach === 'through') && shown(face)) front[face] = 1;
	}
	const view = {
		mesh,
		projection,
		X,
		Y,
		W,
		N,
		front,
		facing,
		fade,
		nearness: new Float32Array(reach === 'seen' ? projection.width * projection.height : 0),
		reach,
	};
	if (reach === 'seen') fillNearness(view);
	return view;
}

function project(positions: Float32Array, [a, b, c, d]: Row): Float64Array {
	const out = new Float64Array(positions.length / 3);
	for (let i = 0, p = 0; i < out.length; i++, p += 3)
		out[i] = a * (positions[p] as number) + b * (positions[p + 1] as number) + c * (positions[p + 2] as number) + d;
	return out;
}

/**
 * Draws the nearness of every seen face. Its rows are solved like `triangleSpans` solves them, but in place: this runs
 * at the start of the first stroke after every turn of the model, and a call per row would cost half of it.
 */
function fillNearness({ mesh, projection, X, Y, W, N, front, nearness }: View): void {
	const { indices } = mesh;
	const { width, height, nearest } = projection;
	for (let face = 0; face < front.length; face++) {
		if (!front[face]) continue;
		const a = indices[face * 3] as number;
		let b = indices[face * 3 + 1] as number;
		let c = indices[face * 3 + 2] as number;
		if ((W[a] as number) < nearest || (W[b] as number) < nearest || (W[c] as number) < nearest) continue;
		const ax = (X[a] as number) / (W[a] as number),
			ay = (Y[a] as number) / (W[a] as number),
			na = (N[a] as number) / (W[a] as number);
		let bx = (X[b] as number) / (W[b] as number),
			by = (Y[b] as number) / (W[b] as number);
		let cx = (X[c] as number) / (W[c] as number),
			cy = (Y[c] as number) / (W[c] as number);
		let area = (bx - ax) * (cy - ay) - (cx - ax) * (by - ay);
		if (area === 0) continue;
		if (area < 0) {
			[b, c] = [c, b];
			[bx, by, cx, cy] = [cx, cy, bx, by];
			area = -area;
		}
		const nb = (N[b] as number) / (W[b] as number),
			nc = (N[c] as number) / (W[c] as number);
		const gx = ((nb - na) * (cy - ay) - (nc - na) * (by - ay)) / area;
		const gy = ((nc - na) * (bx - ax) - (nb - na) * (cx - ax)) / area;
		const y0 = Math.max(0, Math.ceil(Math.min(ay, by, cy) - 0.5));
		const y1 = Math.min(height - 1, Math.floor(Math.max(ay, by, cy) - 0.5));
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
			const k0 = B0 * yc + C0,
				k1 = B1 * yc + C1,
				k2 = B2 * yc + C2;
			if (A0 > 0) {
				if (-k0 / A0 > low) low = -k0 / A0;
			} else if (A0 < 0) {
				if (-k0 / A0 < high) high = -k0 / A0;
			} else if (k0 < 0) continue;
			if (A1 > 0) {
				if (-k1 / A1 > low) low = -k1 / A1;
			} else if (A1 < 0) {
				if (-k1 / A1 < high) high = -k1 / A1;
			} else if (k1 < 0) continue;
			if (A2 > 0) {
				if (-k2 / A2 > low) low = -k2 / A2;
			} else if (A2 < 0) {
				if (-k2 / A2 < high) high = -k2 / A2;
			} else if (k2 < 0) continue;
			const x0 = Math.ceil(low - 0.5);
			const x1 = Math.ceil(high - 0.5);
			let n = na + gx * (x0 + 0.5 - ax) + gy * (yc - ay);
			for (let i = y * width + x0, end = y * width + x1; i < end; i++, n += gx)
				if (n > (nearness[i] as number)) nearness[i] = n;
		}
	}
}

/**
 * How much of a point is seen, 0..1: the share of the four px around it that do not hide the surface there, by how near
 * they are, so that the rim of what hides is smooth. gx, gy: how the surface's own nearness grows per px.
 */
export function seenShare(view: View, x: number, y: number, n: number, gx: number, gy: number): number {
	if (view.reach !== 'seen') return 1;
	const { width, height, slack, slackShare } = view.projection;
	const px = Math.max(0, Math.min(width - 2, Math.floor(x - 0.5)));
	const py = Math.max(0, Math.min(height - 2, Math.floor(y - 0.5)));
	const fx = Math.min(1, Math.max(0, x - 0.5 - px));
	const fy = Math.min(1, Math.max(0, y - 0.5 - py));
	const z = view.nearness;
	const i = py * width + px;
	const at = n + gx * (px + 0.5 - x) + gy * (py + 0.5 - y);
	const [z0, z1, z2, z3] = [z[i] as number, z[i + 1] as number, z[i + width] as number, z[i + width + 1] as number];
	let sum = 0;
	if (at >= z0 - z0 * slackShare - slack) sum += (1 - fx) * (1 - fy);
	if (at + gx >= z1 - z1 * slackShare - slack) sum += fx * (1 - fy);
	if (at + gy >= z2 - z2 * slackShare - slack) sum += (1 - fx) * fy;
	if (at + gx + gy >= z3 - z3 * slackShare - slack) sum += fx * fy;
	return sum;
}
