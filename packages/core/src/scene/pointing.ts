import type { Id, Sheet } from '../document/index.ts';
import { type LaidMesh, nextCorner, type Topology } from '../mesh/index.ts';
import { facesNear, type ScreenRows, shownAt, type View } from '../projection/index.ts';

/** A place on the surface. */
export interface Spot {
	readonly face: number;
	readonly part: number;
	readonly island: number;
	readonly sheet: Id;
	/** Texels of its sheet. */
	readonly x: number;
	readonly y: number;
	/** Px of the view; null where the place is not seen there. */
	readonly screen: { readonly x: number; readonly y: number } | null;
	/** Texels per px at the place: [dx/dsx, dx/dsy, dy/dsx, dy/dsy]. Null where the face is seen edge-on. */
	readonly texelsPerPx: readonly [number, number, number, number] | null;
}

/** A seen face at a px of a view, and the weights of its corners there. */
export interface Hit {
	readonly face: number;
	readonly weights: readonly [number, number, number];
}

/** The corner of a face at which the edge begins that is nearest to a place. */
function nearestEdge(
	face: number,
	x: number,
	y: number,
	placeOf: (corner: number) => readonly [number, number],
): number {
	let [best, least] = [face * 3, Infinity];
	for (let corner = face * 3; corner < face * 3 + 3; corner++) {
		const [[ax, ay], [bx, by]] = [placeOf(corner), placeOf(nextCorner(corner))];
		const [dx, dy] = [bx - ax, by - ay];
		const along = Math.max(0, Math.min(1, ((x - ax) * dx + (y - ay) * dy) / (dx * dx + dy * dy || 1)));
		const far = Math.hypot(x - ax - along * dx, y - ay - along * dy);
		if (far < least) [best, least] = [corner, far];
	}
	return best;
}

/** The edge of a face nearest to texel x, y of its sheet, by the corner that it begins at. */
export const edgeLying = (mesh: LaidMesh, face: number, { width, height }: Sheet, x: number, y: number): number =>
	nearestEdge(face, x, y, (corner) => {
		const v = (mesh.indices[corner] as number) * 2;
		return [(mesh.uvs[v] as number) * width, (mesh.uvs[v + 1] as number) * height];
	});

/** The edge of a seen face nearest to px x, y, by the corner that it begins at. */
export const edgeSeen = (mesh: LaidMesh, face: number, seen: View, x: number, y: number): number =>
	nearestEdge(face, x, y, (corner) => {
		const v = mesh.indices[corner] as number;
		return [(seen.X[v] as number) / (seen.W[v] as number), (seen.Y[v] as number) / (seen.W[v] as number)];
	});

/** What of a model is pointed at: from a view to the sheet, and from the sheet to a view. */
export function pointing(mesh: LaidMesh, topology: Topology, partOf: (face: number) => number) {
	/** Barycentric weights of px x, y in a seen face, perspective undone; null where it lies outside. */
	const weightsAt = (seen: View, face: number, x: number, y: number): readonly [number, number, number] | null => {
		const corner = [0, 1, 2].map((k) => mesh.indices[face * 3 + k] as number);
		const w = corner.map((v) => seen.W[v] as number) as [number, number, number];
		if (w.some((each) => each < seen.projection.nearest)) return null;
		const px = corner.map((v, k) => (seen.X[v] as number) / (w[k] as number)) as [number, number, number];
		const py = corner.map((v, k) => (seen.Y[v] as number) / (w[k] as number)) as [number, number, number];
		const area = (px[1] - px[0]) * (py[2] - py[0]) - (px[2] - px[0]) * (py[1] - py[0]);
		if (area === 0) return null;
		const b1 = ((x - px[0]) * (py[2] - py[0]) - (px[2] - px[0]) * (y - py[0])) / area;
		const b2 = ((px[1] - px[0]) * (y - py[0]) - (x - px[0]) * (py[1] - py[0])) / area;
		const b0 = 1 - b1 - b2;
		if (b0 < -1e-9 || b1 < -1e-9 || b2 < -1e-9) return null;
		const parts = [b0 / w[0], b1 / w[1], b2 / w[2]] as const;
		const sum = parts[0] + parts[1] + parts[2];
		return [parts[0] / sum, parts[1] / sum, parts[2] / sum];
	};

	/** How a face shows in a view; null where it lies flat on the sheet. */
	const rowsOf = (seen: View, face: number, sheet: Sheet): ScreenRows | null => {
		const [a, b, c] = [0, 1, 2].map((k) => mesh.indices[face * 3 + k] as number) as [number, number, number];
		const tx = (v: number): number => (mesh.uvs[v * 2] as number) * sheet.width;
		const ty = (v: number): number => (mesh.uvs[v * 2 + 1] as number) * sheet.height;
		const [bx, by, cx, cy] = [tx(b) - tx(a), ty(b) - ty(a), tx(c) - tx(a), ty(c) - ty(a)];
		const det = bx * cy - cx * by;
		if (det === 0) return null;
		return [seen.X, seen.Y, seen.W].flatMap((list) => {
			const f0 = list[a] as number;
			const f1 = (list[b] as number) - f0;
			const f2 = (list[c] as number) - f0;
			const gx = (f1 * cy - f2 * by) / det;
			const gy = (f2 * bx - f1 * cx) / det;
			return [gx, gy, f0 - gx * tx(a) - gy * ty(a)];
		}) as unknown as ScreenRows;
	};
	const spot = (face: number, sheet: Sheet, x: number, y: number, seen: View | null): Spot => {
		let screen: Spot['screen'] = null;
		let texelsPerPx: Spot['texelsPerPx'] = null;
		const rows = seen?.front[face] ? rowsOf(seen, face, sheet) : null;
		if (rows) {
			const shown = shownAt(rows, x, y);
			screen = { x: shown.x, y: shown.y };
			const [a, b, c, d] = shown.per;
			const det = a * d - b * c;
			if (det !== 0) texelsPerPx = [d / det, -b / det, -c / det, a / det];
		}
		return {
			face,
			part: partOf(face),
			island: topology.islandOfFace[face] as number,
			sheet: sheet.id,
			x,
			y,
			screen,
			texelsPerPx,
		};
	};

	/** The nearest seen face at a px of a view, and the weights of its corners there. */
	const hit = (seen: View, x: number, y: number): Hit | null => {
		let best: Hit | null = null;
		let nearest = -Infinity;
		const near = facesNear(seen, x, y);
		for (let i = 0; i < (near ?? seen.front).length; i++) {
			const face = near ? (near[i] as number) : i;
			if (!seen.front[face]) continue;
			const found = weightsAt(seen, face, x, y);
			if (!found) continue;
			let n = 0;
			let w = 0;
			for (let k = 0; k < 3; k++) {
				const v = mesh.indices[face * 3 + k] as number;
				n += (found[k] as number) * (seen.N[v] as number);
				w += (found[k] as number) * (seen.W[v] as number);
			}
			if (n / w > nearest) {
				nearest = n / w;
				best = { face, weights: found };
			}
		}
		return best;
	};
	const placeOf = ({ face, weights }: Hit): [number, number, number] =>
		[0, 1, 2].map((axis) =>
			weights.reduce(
				(sum, w, k) => sum + w * (mesh.positions[(mesh.indices[face * 3 + k] as number) * 3 + axis] as number),
				0,
			),
		) as [number, number, number];
	return { spot, hit, placeOf };
}
