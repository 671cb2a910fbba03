import { layoutOf } from '../layout/index.ts';
import { type LaidMesh, nextCorner, partOfFaces, topologyOf } from '../mesh/index.ts';
import { jointsOf, layFaces, markEdge, piecesOf, placeOf, type UnwrapWay } from '../unwrap/index.ts';
import { arrange, coveredArea, type Loose } from './arrange.ts';
import { alsoMoved, type Stacked, stackAlike } from './stack.ts';

/** How pieces are put on their sheets. */
export interface ArrangeChoice {
	/** Texels between pieces. */
	readonly margin: number;
	readonly turning: 'none' | 'quarters' | 'free' | 'upright';
	/** What else lies on those sheets: it is arranged along, or stays where it is. */
	readonly others: 'along' | 'stay';
	/** Islands of the same shape are laid over each other. */
	readonly stack: boolean;
}

export const usualArrange: ArrangeChoice = { margin: 8, turning: 'free', others: 'along', stack: false };

/** Faces of a model that are to lie in another way. Plain data: whoever has it can do it. */
export interface AnewRequest {
	readonly mesh: LaidMesh;
	/** For each vertex the first one at its place. */
	readonly place: Uint32Array;
	/** How they are laid flat; null leaves their islands as they are, and only arranges them. */
	readonly way: UnwrapWay | null;
	readonly faces: readonly number[];
	/** Edges that are cut, a byte a corner. */
	readonly marks: Uint8Array;
	/** For each part the number of its sheet, -1 none; and how much larger than others it is to be. */
	readonly sheetOfPart: readonly number[];
	readonly weightOfPart: readonly number[];
	readonly sheets: readonly { readonly width: number; readonly height: number }[];
	readonly choice: ArrangeChoice;
}

/** A layout that was asked for, and what is to be known of it. */
export interface AnewLayout {
	/** Per corner of every face. */
	readonly uvs: Float32Array;
	readonly pieces: number;
	/** Of them, those that lie on another one of the same shape. */
	readonly stacked: number;
	/** Cuts that had to be made without being asked for. */
	readonly cuts: number;
	/** Means by area of what was laid flat, 1 and up. */
	readonly angleStretch: number;
	readonly areaStretch: number;
	/** By the number of the sheet: the share of it that is covered, and texels a unit. */
	readonly sheets: readonly { readonly sheet: number; readonly fill: number; readonly density: number }[];
}

/** What cannot be laid out as it was asked for, in words for the artist. */
export class LayoutError extends Error {
	override readonly name = 'LayoutError';
}

interface Part {
	readonly faces: readonly number[];
	readonly uvs: Float64Array;
}

/** Where the corners of faces lie now, texels of their sheet. */
function texelsOf({ uvs, indices }: LaidMesh, faces: readonly number[], width: number, height: number): Float64Array {
	const out = new Float64Array(faces.length * 6);
	faces.forEach((face, i) => {
		for (let k = 0; k < 3; k++) {
			const v = (indices[face * 3 + k] as number) * 2;
			out[i * 6 + k * 2] = (uvs[v] as number) * width;
			out[i * 6 + k * 2 + 1] = (uvs[v + 1] as number) * height;
		}
	});
	return out;
}

/** Marks every edge over which two faces do not lie together on their sheet, or belong to two parts. */
function markApart(mesh: LaidMesh, joints: ReturnType<typeof jointsOf>, partOf: Uint16Array, marks: Uint8Array): void {
	const { indices, uvs } = mesh;
	const same = (a: number, b: number): boolean => {
		const [v, w] = [(indices[a] as number) * 2, (indices[b] as number) * 2];
		return (
			Math.abs((uvs[v] as number) - (uvs[w] as number)) < 1e-6 &&
			Math.abs((uvs[v + 1] as number) - (uvs[w + 1] as number)) < 1e-6
		);
	};
	for (let corner = 0; corner < indices.length; corner++) {
		const other = joints.across[corner] as number;
		if (other < 0) continue;
		const parts = partOf[Math.floor(corner / 3)] !== partOf[Math.floor(other / 3)];
		if (parts || !same(corner, nextCorner(other)) || !same(nextCorner(corner), other)) markEdge(joints, marks, corner);
	}
}

/** Islands as pieces: as they lie, in units of the model by their own area, v upwards. */
function islandPieces(
	mesh: LaidMesh,
	areas: Float64Array,
	groups: readonly number[][],
	size: { width: number; height: number },
): Part[] {
	return groups.flatMap((faces) => {
		const texels = texelsOf(mesh, faces, size.width, size.height);
		const [flat, space] = [coveredArea(texels), faces.reduce((sum, face) => sum + (areas[face] as number), 0)];
		if (!(flat > 0 && space > 0)) return [];
		const scale = Math.sqrt(space / flat);
		return [{ faces, uvs: texels.map((v, i) => (i % 2 ? -v : v) * scale) }];
	});
}

/**
 * Lays faces of a model out anew. What else lies on their sheets is arranged along with them or stays. Throws LayoutError,
 * in the artist's words, where there is no room.
 */
export function layAnew(request: AnewRequest, tell: (share: number) => void = () => undefined): AnewLayout {
	const { mesh, place, way, faces, sheets, sheetOfPart, weightOfPart, choice } = request;
	const partOf = partOfFaces(mesh);
	const joints = jointsOf(mesh, place);
	const apart = new Uint8Array(mesh.indices.length);
	markApart(mesh, joints, partOf, apart);
	const sheetOf = (face: number): number => sheetOfPart[partOf[face] as number] ?? -1;
	const marks = request.marks.slice();
	for (let corner = 0; corner < mesh.indices.length; corner++) {
		const other = joints.across[corner] as number;
		if (other >= 0 && partOf[Math.floor(corner / 3)] !== partOf[Math.floor(other / 3)]) markEdge(joints, marks, corner);
	}
	const placed = faces.filter((face) => sheetOf(face) >= 0 && (joints.areas[face] as number) > 0);
	const laid = way ? layFaces(way, { joints, marks, faces: placed, tell: (share) => tell(share * 0.7) }) : null;
	const { uvs } = layoutOf(mesh);
	const chosen = new Set(placed);
	const figures: { sheet: number; fill: number; density: number }[] = [];
	let [count, stacked] = [0, 0];
	const used = [...new Set(placed.map(sheetOf))];
	used.forEach((sheet, at) => {
		const size = sheets[sheet] as { width: number; height: number };
		const here = placed.filter((face) => sheetOf(face) === sheet);
		const own = laid
			? laid.pieces.filter(({ faces: list }) => sheetOf(list[0] as number) === sheet)
			: islandPieces(mesh, joints.areas, piecesOf(joints, apart, here), size);
		const rest: number[] = [];
		for (let face = 0; face < partOf.length; face++) if (sheetOf(face) === sheet && !chosen.has(face)) rest.push(face);
		const others = islandPieces(mesh, joints.areas, piecesOf(joints, apart, rest), size);
		const along = choice.others === 'along';
		const loose: Part[] = along ? [...own, ...others] : [...own];
		const staying = along ? [] : others.map(({ faces: list }) => texelsOf(mesh, list, size.width, size.height));
		const stacks = choice.stack ? stackAlike(loose.map((piece) => piece.uvs)) : null;
		const found = putStacked(mesh, loose, stacks, staying, {
			...size,
			choice,
			weightOf: (face) => weightOfPart[partOf[face] as number] ?? 1,
			density: along ? null : densityOf(others, staying),
			tell: (share) => tell((laid ? 0.7 : 0) + (laid ? 0.3 : 1) * ((at + share) / used.length)),
		});
		count += own.length;
		stacked += stacks?.on.filter((on, i) => on !== i).length ?? 0;
		figures.push({ sheet, fill: found.fill, density: found.density });
		loose.forEach((piece, i) => {
			const corners = found.pieces[i] as Float64Array;
			piece.faces.forEach((face, f) => {
				for (let k = 0; k < 6; k++)
					uvs[face * 6 + k] = (corners[f * 6 + k] as number) / (k % 2 ? size.height : size.width);
			});
		});
	});
	pinch(mesh, joints, (face) => used.includes(sheetOf(face)), uvs);
	tell(1);
	const mean = (of: 'angleStretch' | 'areaStretch'): number => {
		let [sum, area] = [0, 0];
		for (const piece of laid?.pieces ?? []) {
			const own = piece.faces.reduce((all, face) => all + (joints.areas[face] as number), 0);
			sum += own * piece[of];
			area += own;
		}
		return area > 0 ? sum / area : 1;
	};
	return {
		uvs,
		pieces: count,
		stacked,
		cuts: laid?.cuts ?? 0,
		angleStretch: mean('angleStretch'),
		areaStretch: mean('areaStretch'),
		sheets: figures,
	};
}

/** Faces without area take no room: each lies at a place of a face beside it. */
function pinch(
	mesh: LaidMesh,
	joints: ReturnType<typeof jointsOf>,
	lies: (face: number) => boolean,
	uvs: Float32Array,
): void {
	const flat = [...joints.areas.keys()].filter((face) => (joints.areas[face] as number) === 0 && lies(face));
	if (flat.length === 0) return;
	/** Corners of faces with area, by their place. */
	const laid = new Map<number, number[]>();
	for (let corner = 0; corner < mesh.indices.length; corner++) {
		if (!((joints.areas[Math.floor(corner / 3)] as number) > 0)) continue;
		const at = placeOf(joints, corner);
		laid.set(at, [...(laid.get(at) ?? []), corner]);
	}
	for (const face of flat) {
		const places = [0, 1, 2].map((k) => placeOf(joints, face * 3 + k));
		const around = places.map((place) => laid.get(place) ?? []);
		const faceOf = (corner: number): number => Math.floor(corner / 3);
		const touches = (other: number): number =>
			around.filter((list) => list.some((corner) => faceOf(corner) === other)).length;
		const beside = around
			.flat()
			.map(faceOf)
			.reduce((best, each) => (best < 0 || touches(each) > touches(best) ? each : best), -1);
		const corners = around.map((list) => list.find((corner) => faceOf(corner) === beside));
		const some = corners.find((corner) => corner !== undefined);
		for (let k = 0; k < 6; k++) {
			const corner = corners[k >> 1] ?? some;
			uvs[face * 6 + k] = corner === undefined ? 0 : (uvs[corner * 2 + (k % 2)] as number);
		}
	}
}

/** Texels a unit of what stays: what comes to it is to be as fine; null where nothing does. */
function densityOf(others: readonly Part[], staying: readonly Float64Array[]): number | null {
	const units = others.reduce((sum, { uvs }) => sum + coveredArea(uvs), 0);
	const texels = staying.reduce((sum, each) => sum + coveredArea(each), 0);
	return units > 0 && texels > 0 ? Math.sqrt(texels / units) : null;
}

/** How level a piece may lie on the model, and still has an upright: the share of its height's change that goes one way. */
const LEVEL = 0.25;

/**
 * The angle, clockwise, at which what is up on the model is up on the sheet, by the mean gradient of its height over the
 * piece's faces; null for a piece that lies level, or all round.
 */
function uprightAngle({ positions, indices }: LaidMesh, { faces, uvs }: Part): number | null {
	let [across, up, all] = [0, 0, 0];
	faces.forEach((face, n) => {
		const at = (k: number): number => uvs[n * 6 + k] as number;
		const [h0, h1, h2] = [0, 1, 2].map((k) => positions[(indices[face * 3 + k] as number) * 3 + 1] as number) as [
			number,
			number,
			number,
		];
		const [bx, by, cx, cy] = [at(2) - at(0), at(3) - at(1), at(4) - at(0), at(5) - at(1)];
		const doubled = bx * cy - cx * by;
		if (Math.abs(doubled) < 1e-12) return;
		// The gradient times twice the area: no division by small faces.
		const sign = Math.sign(doubled);
		across += sign * ((h1 - h0) * cy - (h2 - h0) * by);
		up += sign * ((h2 - h0) * bx - (h1 - h0) * cx);
		all += Math.abs(doubled);
	});
	return Math.hypot(across, up) < LEVEL * all ? null : -Math.atan2(across, up);
}

/** The same where like ones lie over each other: one of each is put down, and takes the others along. */
function putStacked(
	mesh: LaidMesh,
	parts: readonly Part[],
	stacks: Stacked | null,
	placed: readonly Float64Array[],
	options: Parameters<typeof putAll>[3],
): ReturnType<typeof putAll> {
	if (!stacks) return putAll(mesh, parts, placed, options);
	const lowest = stacks.on.flatMap((on, i) => (on === i ? [i] : []));
	const found = putAll(
		mesh,
		lowest.map((i) => parts[i] as Part),
		placed,
		options,
	);
	const pieces = stacks.on.map((on, i) => {
		const put = found.pieces[lowest.indexOf(on)] as Float64Array;
		return on === i ? put : alsoMoved((parts[on] as Part).uvs, put, stacks.uvs[i] as Float64Array);
	});
	return { ...found, pieces };
}

function putAll(
	mesh: LaidMesh,
	parts: readonly Part[],
	placed: readonly Float64Array[],
	{
		width,
		height,
		choice,
		weightOf,
		density,
		tell,
	}: {
		readonly width: number;
		readonly height: number;
		readonly choice: ArrangeChoice;
		readonly weightOf: (face: number) => number;
		readonly density: number | null;
		readonly tell: (share: number) => void;
	},
): NonNullable<ReturnType<typeof arrange>> {
	const loose = parts.map(
		(part): Loose => ({
			uvs: part.uvs,
			weight: weightOf(part.faces[0] as number),
			...(choice.turning === 'upright' ? { upright: uprightAngle(mesh, part) } : {}),
		}),
	);
	const options = { width, height, margin: choice.margin, turning: choice.turning, placed, tell };
	const found =
		(density === null ? null : arrange(loose, { ...options, density })) ??
		arrange(loose, { ...options, density: null });
	if (!found)
		throw new LayoutError(
			`${parts.length} ${parts.length === 1 ? 'island does' : 'islands do'} not fit on the sheet with ${choice.margin} texels between them. Choose a smaller margin, a larger sheet, or arrange all of it anew. Nothing was changed.`,
		);
	return found;
}

/** All of a model, whose parts lie on one square sheet, laid out anew. Throws LayoutError where there is no room. */
export const layAllAnew = (
	mesh: LaidMesh,
	way: UnwrapWay,
	side: number,
	choice = usualArrange,
	marks = new Uint8Array(mesh.indices.length),
): AnewLayout =>
	layAnew({
		mesh,
		place: topologyOf(mesh).place,
		way,
		faces: Array.from({ length: mesh.indices.length / 3 }, (_, face) => face),
		marks,
		sheetOfPart: mesh.parts.map(() => 0),
		weightOfPart: mesh.parts.map(() => 1),
		sheets: [{ width: side, height: side }],
		choice,
	});
