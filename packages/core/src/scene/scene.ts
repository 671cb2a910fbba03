import type { Kernels } from '@eppu/kernels';
import { buildTexelMap, faceAt, type SeamReader, seamReader, type TexelMap } from '../atlas/index.ts';
import type { Id, Model, Sheet } from '../document/index.ts';
import { type LaidMesh, type Topology, topologyOf } from '../mesh/index.ts';
import {
	type Bins,
	createBins,
	createView,
	dropBins,
	mirrored,
	mirrorPlace,
	type Plane,
	projectionOf,
	type Sight,
	type Vec3,
	type View,
} from '../projection/index.ts';

/** Where a mirrored brush lands: the px of the view, null where that is behind the camera; `there` is false where the model has nothing. */
export interface MirrorSpot {
	readonly x: number;
	readonly y: number;
	readonly there: boolean;
}

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

/** A model as it is painted: what of it lies on which sheet, and how it is seen now. Replaced when one of these changes. */
export interface Scene {
	readonly model: Model;
	/** Says all that what is computed on its sheets depends on: which model, and which of it lies where. */
	readonly says: string;
	readonly mesh: LaidMesh;
	readonly topology: Topology;
	/** The texel map of a sheet; made at the first call. */
	mapOf(sheet: Sheet): TexelMap;
	/** Screen bins of a sheet for a sight, mirrored over planes; those of other sights are given back. */
	binsOf(sheet: Sheet, sight: Sight, planes?: readonly Plane[]): Bins;
	viewOf(sight: Sight, planes?: readonly Plane[]): View;
	partOfFace(face: number): number;
	/** Reads over the seams of a sheet; made at the first call. */
	seamsOf(sheet: Sheet): SeamReader;
	/** Where the mirror images of a brush at px x, y are, one for each set of planes but the empty one. */
	mirrorsAt(sight: Sight, sets: readonly (readonly Plane[])[], x: number, y: number): MirrorSpot[];
	/** What is seen at px x, y. */
	spotAt(sheets: readonly Sheet[], sight: Sight, x: number, y: number): Spot | null;
	/** What lies at texel x, y of a sheet. */
	spotOn(sheet: Sheet, sight: Sight | null, x: number, y: number): Spot | null;
	drop(): void;
}

export function createScene(
	kernels: Kernels,
	model: Model,
	mesh: LaidMesh,
	topology: Topology = topologyOf(mesh),
): Scene {
	const partOf = new Uint16Array(mesh.indices.length / 3);
	mesh.parts.forEach((part, i) => partOf.fill(i, part.firstFace, part.firstFace + part.faces));
	const maps = new Map<string, TexelMap>();
	const seams = new Map<TexelMap, SeamReader>();
	let sightKey = '';
	const views = new Map<string, View>();
	const bins = new Map<string, Bins>();

	const sheetOfFace = (face: number): Id | undefined => model.parts[partOf[face] as number]?.sheet;
	const dropAll = (): void => {
		for (const each of bins.values()) dropBins(kernels, each);
		bins.clear();
		views.clear();
	};
	const viewOf = (sight: Sight, planes: readonly Plane[] = []): View => {
		const key = JSON.stringify(sight);
		if (key !== sightKey) dropAll();
		sightKey = key;
		const which = JSON.stringify(planes);
		let view = views.get(which);
		if (!view) {
			const shown = (face: number): boolean => model.parts[partOf[face] as number]?.shown !== false;
			const projection = planes.reduce(mirrored, projectionOf(sight.camera, sight.width, sight.height));
			views.set(which, (view = createView(mesh, projection, shown, sight.reach, sight.fade)));
		}
		return view;
	};
	const mapOf = (sheet: Sheet): TexelMap => {
		const key = `${sheet.id}:${sheet.width}x${sheet.height}+${sheet.bleed}`;
		let map = maps.get(key);
		if (!map)
			maps.set(
				key,
				(map = buildTexelMap(mesh, (face) => sheetOfFace(face) === sheet.id, sheet.width, sheet.height, sheet.bleed)),
			);
		return map;
	};

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

	/** Texel → homogeneous screen rows of a face: [Xx, Xy, X1, Yx, Yy, Y1, Wx, Wy, W1]. */
	const rowsOf = (seen: View, face: number, sheet: Sheet): number[] | null => {
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
		});
	};
	const spot = (face: number, sheet: Sheet, x: number, y: number, seen: View | null): Spot => {
		let screen: Spot['screen'] = null;
		let texelsPerPx: Spot['texelsPerPx'] = null;
		const rows = seen?.front[face] ? rowsOf(seen, face, sheet) : null;
		if (rows) {
			const [Xx, Xy, X1, Yx, Yy, Y1, Wx, Wy, W1] = rows as [
				number,
				number,
				number,
				number,
				number,
				number,
				number,
				number,
				number,
			];
			const W = Wx * x + Wy * y + W1;
			const sx = (Xx * x + Xy * y + X1) / W;
			const sy = (Yx * x + Yy * y + Y1) / W;
			screen = { x: sx, y: sy };
			const [a, b, c, d] = [(Xx - sx * Wx) / W, (Xy - sx * Wy) / W, (Yx - sy * Wx) / W, (Yy - sy * Wy) / W];
			const det = a * d - b * c;
			if (det !== 0) texelsPerPx = [d / det, -b / det, -c / det, a / det];
		}
		return {
			face,
			part: partOf[face] as number,
			island: topology.islandOfFace[face] as number,
			sheet: sheet.id,
			x,
			y,
			screen,
			texelsPerPx,
		};
	};

	/** The nearest seen face at a px of a view, and the weights of its corners there. */
	const hit = (
		seen: View,
		x: number,
		y: number,
	): { readonly face: number; readonly weights: readonly [number, number, number] } | null => {
		let best: ReturnType<typeof hit> = null;
		let nearest = -Infinity;
		for (let face = 0; face < seen.front.length; face++) {
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
	const placeOf = ({ face, weights }: NonNullable<ReturnType<typeof hit>>): [number, number, number] =>
		[0, 1, 2].map((axis) =>
			weights.reduce(
				(sum, w, k) => sum + w * (mesh.positions[(mesh.indices[face * 3 + k] as number) * 3 + axis] as number),
				0,
			),
		) as [number, number, number];

	return {
		model,
		says: JSON.stringify([model.asset.hash, model.parts.map((part) => part.sheet)]),
		mesh,
		topology,
		mapOf,
		viewOf,
		partOfFace: (face) => partOf[face] as number,
		seamsOf(sheet) {
			const map = mapOf(sheet);
			let found = seams.get(map);
			if (!found) seams.set(map, (found = seamReader(mesh, topology, map)));
			return found;
		},
		binsOf(sheet, sight, planes = []) {
			const seen = viewOf(sight, planes);
			const key = `${sheet.id} ${JSON.stringify(planes)}`;
			let found = bins.get(key);
			if (!found) bins.set(key, (found = createBins(seen, mapOf(sheet))));
			return found;
		},
		spotAt(sheets, sight, x, y) {
			const seen = viewOf(sight);
			const found = hit(seen, x, y);
			const sheet = found && sheets.find((each) => each.id === sheetOfFace(found.face));
			if (!sheet || !found) return null;
			let [u, v] = [0, 0];
			for (let k = 0; k < 3; k++) {
				const at = (mesh.indices[found.face * 3 + k] as number) * 2;
				u += (found.weights[k] as number) * (mesh.uvs[at] as number);
				v += (found.weights[k] as number) * (mesh.uvs[at + 1] as number);
			}
			return spot(found.face, sheet, u * sheet.width, v * sheet.height, seen);
		},
		mirrorsAt(sight, sets, x, y) {
			const seen = viewOf(sight);
			const own = hit(seen, x, y);
			if (!own) return [];
			const p = placeOf(own);
			return sets.map((planes) => {
				const image = planes.reduce<Vec3>((at, plane) => mirrorPlace(plane, at), p);
				const { X, Y, W } = seen.projection;
				// Through the mirrored camera the brush meets the model where its image is, or where the surface lies otherwise
				// than its mirror image would: there the paint lands.
				const other = hit(viewOf(sight, planes), x, y);
				const q = other ? placeOf(other) : image;
				const along = (r: readonly [number, number, number, number]): number =>
					r[0] * q[0] + r[1] * q[1] + r[2] * q[2] + r[3];
				return { x: along(X) / along(W), y: along(Y) / along(W), there: other !== null };
			});
		},
		spotOn(sheet, sight, x, y) {
			const face = faceAt(mapOf(sheet), x, y);
			return face < 0 ? null : spot(face, sheet, x, y, sight && viewOf(sight));
		},
		drop: dropAll,
	};
}

/** The scene whose model lies on a sheet. */
export const sceneOfSheet = (scenes: ReadonlyMap<string, Scene>, sheet: string): Scene | undefined =>
	[...scenes.values()].find((scene) => scene.model.parts.some((part) => part.sheet === sheet));
