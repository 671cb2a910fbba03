import type { Kernels } from '@eppu/kernels';
import { buildTexelMap, faceAt, type SeamReader, seamReader, type TexelMap } from '../atlas/index.ts';
import type { Id, Model, Sheet } from '../document/index.ts';
import { type LaidMesh, partOfFaces, type Topology, topologyOf } from '../mesh/index.ts';
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
import { edgeLying, edgeSeen, pointing, type Spot } from './pointing.ts';

/** Where a mirrored brush lands: the px of the view, null where that is behind the camera; `there` is false where the model has nothing. */
export interface MirrorSpot {
	readonly x: number;
	readonly y: number;
	readonly there: boolean;
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
	/** The place of the model that is seen there; null beside it. */
	placeAt(sight: Sight, x: number, y: number): readonly [number, number, number] | null;
	spotAt(sheets: readonly Sheet[], sight: Sight, x: number, y: number): Spot | null;
	/** The corner at which the edge begins that is nearest to px x, y of a view, on the face that is seen there; -1 beside the model. */
	edgeAt(sight: Sight, x: number, y: number): number;
	/** The same at texel x, y of a sheet. */
	edgeOn(sheet: Sheet, x: number, y: number): number;
	/** What lies at texel x, y of a sheet. */
	spotOn(sheet: Sheet, sight: Sight | null, x: number, y: number): Spot | null;
	drop(): void;
}

const saysOf = ({ asset, parts, layout }: Model): string =>
	JSON.stringify([asset.hash, parts.map((part) => part.sheet), ...(layout ? [layout.surface] : [])]);

// biome-ignore lint/complexity/noExcessiveLinesPerFunction: one method after the other over what is remembered of one model.
export function createScene(
	kernels: Kernels,
	model: Model,
	mesh: LaidMesh,
	topology: Topology = topologyOf(mesh),
): Scene {
	const partOf = partOfFaces(mesh);
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

	const { spot, hit, placeOf } = pointing(mesh, topology, (face) => partOf[face] as number);

	return {
		model,
		says: saysOf(model),
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
		placeAt(sight, x, y) {
			const found = hit(viewOf(sight), x, y);
			return found && placeOf(found);
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
		edgeAt(sight, x, y) {
			const seen = viewOf(sight);
			const found = hit(seen, x, y);
			return found ? edgeSeen(mesh, found.face, seen, x, y) : -1;
		},
		edgeOn(sheet, x, y) {
			const face = faceAt(mapOf(sheet), x, y);
			return face < 0 ? -1 : edgeLying(mesh, face, sheet, x, y);
		},
		drop: dropAll,
	};
}

/** The scene whose model lies on a sheet. */
export const sceneOfSheet = (scenes: ReadonlyMap<string, Scene>, sheet: string): Scene | undefined =>
	[...scenes.values()].find((scene) => scene.model.parts.some((part) => part.sheet === sheet));
