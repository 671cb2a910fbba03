import type { Kernels } from '@eppu/kernels';
import { eachTexelOfFace, type TexelMap } from '../atlas/index.ts';
import {
	createSurface,
	Kind,
	pictureOfSurface,
	type Surface,
	type SurfaceId,
	setTileState,
	settleTile,
	TILE,
	TILE_TEXELS,
	texelBytes,
	texelFormats,
	tileBytes,
	tileState,
} from '../surface/index.ts';
import type { Across } from './across.ts';
import { type LooseTexels, looseTexels } from './loose.ts';
import { type Lying, type Owners, ownersOf } from './owners.ts';
import { createRuns } from './runs.ts';
import { createSampler } from './sample.ts';
import { type FaceWay, hasPlace, type Size, type Way, wayOfFace } from './way.ts';

/** How what was painted on one sheet goes over to where the same faces lie now on another, or on itself. */
export interface Passage {
	readonly from: TexelMap;
	readonly to: Size;
	/** The way of each face that lay on the one and lies on the other, by its number. */
	readonly faces: ReadonlyMap<number, FaceWay>;
	/** The model whose faces they are. */
	readonly model: string;
	/** As the faces of now lay. */
	readonly before: Lying;
	readonly now: Lying;
	/** Whose the texels of before were. */
	readonly owners: Owners;
	/** Where the model is another version: how its faces stand to those of before. */
	readonly across: Across | null;
	/** Texels that each have a way of their own, of another version of the model. */
	readonly loose: LooseTexels | null;
}

/** Faces of a newer version, with the islands that they lay on before. */
const lyingAcross = (before: Lying, { mesh, faceOf }: Across): Lying => ({
	...before,
	mesh,
	islandOfFace: Uint32Array.from(faceOf, (face) => (face < 0 ? 0 : (before.islandOfFace[face] as number))),
});

/**
 * The passage of the faces for which `lay` (before) and `lies` (now) hold. They are the same faces, unless the model is
 * another version of itself: `across` says how these stand to each other.
 */
export function passageOf(
	before: Lying,
	now: Lying,
	lay: (face: number) => boolean,
	lies: (face: number) => boolean,
	across: Across | null = null,
): Passage {
	const faces = new Map<number, FaceWay>();
	const owners = ownersOf(before);
	const same = across ? lyingAcross(before, across) : before;
	for (let face = 0; face < now.mesh.indices.length / 3; face++) {
		const old = across ? (across.faceOf[face] as number) : face;
		if (old < 0 || across?.loose[face] || !lay(old) || !lies(face)) continue;
		const way = wayOfFace(same.mesh, before.map, now.mesh, now.map, face);
		if (way) faces.set(face, way);
	}
	const loose = across && looseTexels(before, now, lay, lies, across);
	return { from: before.map, to: now.map, model: now.model, faces, before: same, now, owners, across, loose };
}

/** Whether anything goes over by a passage. */
export const isOpen = ({ faces, loose }: Passage): boolean => faces.size > 0 || Boolean(loose?.texel.length);

/** What became of the texels that faces have now. */
export interface Carried {
	/** As they were, one by one. */
	exact: number;
	/** Of about the same size as before. */
	kept: number;
	/** From fewer texels than there are now. */
	enlarged: number;
	/** From more texels than there are now. */
	shrunk: number;
	/** Of faces that had no place before. */
	bare: number;
}

/** What becomes of texels of which each takes the place of so many. */
const sizedAs = (area: number): 'enlarged' | 'shrunk' | 'kept' =>
	area < 0.94 ? 'enlarged' : area > 1.06 ? 'shrunk' : 'kept';

export const nothingCarried = (): Carried => ({ exact: 0, kept: 0, enlarged: 0, shrunk: 0, bare: 0 });

/** What became of one texel, or of several. */
export type Fate = keyof Carried;

/** Counts what a passage does with the faces that `lies` names: `count` hears it of each; texels that go by themselves have none. */
export function countOf(
	{ faces, now, before, across, loose }: Passage,
	lies: (face: number) => boolean,
	count: (fate: Fate, texels: number, face: number | null) => void,
): void {
	for (let face = 0; face < now.mesh.indices.length / 3; face++) {
		if (!lies(face)) continue;
		let texels = 0;
		eachTexelOfFace(
			now.map,
			face,
			(_y, x0, x1) => {
				texels += x1 - x0;
			},
			() => undefined,
		);
		const way = faces.get(face);
		if (!way) {
			if (across ? across.faceOf[face] === -1 : !hasPlace(before.mesh, face, before.map)) count('bare', texels, face);
			continue;
		}
		count(way.exact ? 'exact' : sizedAs(way.area), texels, face);
	}
	for (const step of loose?.step ?? []) count(sizedAs(step * step), 1, null);
}

/** What most tiles of a surface are where they are one value: what it is where nothing is painted. */
function groundValue(surface: Surface): number {
	const counts = new Map<number, number>();
	for (let i = 0; i < surface.kinds.length; i++) {
		const { kind, data } = tileState(surface, i);
		if (kind === Kind.uniform || kind === Kind.empty)
			counts.set(kind === Kind.empty ? 0 : data, (counts.get(kind === Kind.empty ? 0 : data) ?? 0) + 1);
	}
	return [...counts].reduce((best, each) => (each[1] > best[1] ? each : best), [0, 0])[0];
}

/** How many places along a side stand for one texel that covers `step` of before. */
const samplesFor = (step: number): number => (step > 1.25 ? Math.min(16, Math.ceil(step)) : 1);

/**
 * A new surface with what a surface of before shows, carried by the passages that go out from it. What no face covers
 * is as the surface is where nothing is painted (`usual`), empty, or as it was, as large as the surface is now (`sized`).
 * `hard` mixes no texels: each is one of before.
 */
export function carrySurface(
	kernels: Kernels,
	from: Surface,
	id: SurfaceId,
	to: Size,
	passages: readonly Passage[],
	around: 'usual' | 'empty' | 'sized' = 'usual',
	hard = false,
): Surface {
	const { heap } = kernels;
	const { format } = from;
	const bytes = texelBytes(format);
	const surface = createSurface(id, format, to.width, to.height);
	const ground = around === 'usual' ? groundValue(from) : 0;
	const sized = around === 'sized' ? sizedPicture(kernels, from, to, hard) : null;
	const tiles = new Map<number, Uint8Array>();
	const fresh = (tile: number): Uint8Array => {
		const texels = new Uint8Array(tileBytes(format));
		if (sized) {
			const [x0, y0] = [(tile % surface.cols) * TILE, Math.floor(tile / surface.cols) * TILE];
			const wide = Math.min(TILE, to.width - x0) * bytes;
			for (let y = 0; y < Math.min(TILE, to.height - y0); y++) {
				const at = ((y0 + y) * to.width + x0) * bytes;
				texels.set(sized.subarray(at, at + wide), y * TILE * bytes);
			}
		}
		if (ground) texelFormats[format].fill(texels, ground);
		return texels;
	};
	const put = (x: number, y: number, out: Float64Array): void => {
		const tile = Math.floor(y / TILE) * surface.cols + Math.floor(x / TILE);
		let texels = tiles.get(tile);
		if (!texels) tiles.set(tile, (texels = fresh(tile)));
		const at = ((y % TILE) * TILE + (x % TILE)) * bytes;
		if (format !== 'color') {
			texels[at] = Math.round(out[0] as number);
			return;
		}
		const alpha = Math.round(out[3] as number);
		for (let k = 0; k < 3; k++) texels[at + k] = alpha ? Math.round(out[k] as number) : 0;
		texels[at + 3] = alpha;
	};
	/** Puts a run of a row down, as it is. */
	const putRun = (x: number, y: number, count: number, texels: Uint8Array): void => {
		for (let done = 0; done < count; ) {
			const tile = Math.floor(y / TILE) * surface.cols + Math.floor((x + done) / TILE);
			const piece = Math.min(count - done, TILE - ((x + done) % TILE));
			let into = tiles.get(tile);
			if (!into) tiles.set(tile, (into = fresh(tile)));
			const at = ((y % TILE) * TILE + ((x + done) % TILE)) * bytes;
			into.set(texels.subarray(done * bytes, (done + piece) * bytes), at);
			done += piece;
		}
	};
	for (const passage of passages)
		carryFaces(kernels, from, passage, { grounded: ground !== 0, beyond: sized !== null, hard }, put, putRun);
	for (let tile = 0; tile < surface.kinds.length; tile++) {
		const texels = tiles.get(tile) ?? (sized ? fresh(tile) : undefined);
		if (!texels) {
			setTileState(surface, tile, { kind: ground ? Kind.uniform : Kind.empty, data: ground });
			continue;
		}
		const at = heap.alloc(TILE_TEXELS * bytes);
		heap.u8.set(texels, at);
		setTileState(surface, tile, settleTile(kernels, format, at));
	}
	return surface;
}

/**
 * Carries the faces of a passage, texel by texel or in runs. Where there is no ground, faces that had nothing are left
 * out; with `beyond` only gutters are made that reach farther than those of before.
 */
function carryFaces(
	kernels: Kernels,
	from: Surface,
	{ faces, before, now, owners, loose }: Passage,
	{ grounded, beyond, hard }: { readonly grounded: boolean; readonly beyond: boolean; readonly hard: boolean },
	put: (x: number, y: number, texel: Float64Array) => void,
	putRun: (x: number, y: number, count: number, texels: Uint8Array) => void,
): void {
	const { owner } = owners;
	const { map } = now;
	const sampler = createSampler(kernels, from, owners, hard);
	const runs = hard ? null : createRuns(kernels, from, owners, map.width);
	const { width: w, height: h } = from;
	for (const [face, { way, exact, step }] of faces) {
		if (!grounded && emptyAround(before, face, sampler, from)) continue;
		const [a, b, c, d, e, f] = way;
		const island = (before.islandOfFace[face] as number) + 1;
		const samples = samplesFor(step);
		const sampled = (x: number, y: number): void => {
			const sx = a * (x + 0.5) + b * (y + 0.5) + c;
			const sy = d * (x + 0.5) + e * (y + 0.5) + f;
			const tx = Math.floor(sx);
			const ty = Math.floor(sy);
			const inside = tx >= 0 && ty >= 0 && tx < w && ty < h;
			if (exact && inside) sampler.at(tx, ty);
			else if (samples > 1) sampler.mean(sx, sy, a, d, b, e, samples, island);
			else sampler.smooth(sx, sy, island);
			put(x, y, sampler.out);
		};
		const row = (y: number, x0: number, x1: number): void => {
			if (exact || !runs) {
				for (let x = x0; x < x1; x++) sampled(x, y);
				return;
			}
			const missed: number[] = [];
			runs.read(way, island, x0, y, x1 - x0, samples, (i) => void missed.push(i));
			putRun(x0, y, x1 - x0, runs.texels(x1 - x0));
			for (const i of missed) sampled(x0 + i, y);
		};
		/** Whether the place that a texel continues is its island's own, gutter or not. */
		const own = (x: number, y: number): boolean => {
			const tx = Math.floor(a * (x + 0.5) + b * (y + 0.5) + c);
			const ty = Math.floor(d * (x + 0.5) + e * (y + 0.5) + f);
			return tx >= 0 && ty >= 0 && tx < w && ty < h && owner[ty * w + tx] === island;
		};
		if (!beyond)
			eachTexelOfFace(
				map,
				face,
				(y, x0, x1) => {
					// Where faces lie over each other the texel is the last one's.
					for (let x = x0; x < x1; ) {
						const mine = map.faceOfTexel[y * map.width + x] === face + 1;
						let end = x + 1;
						while (end < x1 && (map.faceOfTexel[y * map.width + end] === face + 1) === mine) end++;
						if (mine) row(y, x, end);
						x = end;
					}
				},
				() => undefined,
			);
		for (let g = map.gutterOffset[face] as number; g < (map.gutterOffset[face + 1] as number); g++) {
			const i = map.gutterTexel[g] as number;
			const x = i % map.width;
			const y = (i - x) / map.width;
			if (own(x, y)) {
				if (!beyond) sampled(x, y);
				continue;
			}
			// Farther out than the gutter of before reached: as the texel that it continues.
			const source = map.gutterSource[g] as number;
			const ix = source % map.width;
			const iy = (source - ix) / map.width;
			sampler.smooth(a * (ix + 0.5) + b * (iy + 0.5) + c, d * (ix + 0.5) + e * (iy + 0.5) + f, island);
			put(x, y, sampler.out);
		}
	}
	runs?.drop();
	if (beyond || !loose) return;
	for (let i = 0; i < loose.texel.length; i++) {
		const [x, y, step] = [loose.x[i] as number, loose.y[i] as number, loose.step[i] as number];
		if (!grounded && sampler.emptyIn(x - 3, y - 3, x + 3, y + 3)) continue;
		const samples = samplesFor(step);
		if (samples > 1) sampler.mean(x, y, step, 0, 0, step, samples, loose.island[i] as number);
		else sampler.smooth(x, y, loose.island[i] as number);
		const texel = loose.texel[i] as number;
		put(texel % map.width, Math.floor(texel / map.width), sampler.out);
	}
}

/** All of a surface at another size; texels at its rim go on beyond it. */
function sizedPicture(kernels: Kernels, from: Surface, to: Size, hard: boolean): Uint8Array {
	const { width, height } = from;
	if (width === to.width && height === to.height) return pictureOfSurface(kernels, from).data;
	const bytes = texelBytes(from.format);
	const owner = new Uint32Array(width * height).fill(1);
	const deep = new Uint8Array(width * height);
	for (let y = 1; y + 2 < height; y++) deep.fill(1, y * width + 1, (y + 1) * width - 2);
	const sampler = createSampler(kernels, from, { owner, deep }, hard);
	const runs = hard ? null : createRuns(kernels, from, { owner, deep }, to.width);
	const way: Way = [width / to.width, 0, 0, 0, height / to.height, 0];
	const samples = samplesFor(Math.max(way[0], way[4]));
	const out = new Uint8Array(to.width * to.height * bytes);
	const one = (x: number, y: number): void => {
		const [sx, sy] = [way[0] * (x + 0.5), way[4] * (y + 0.5)];
		if (samples > 1) sampler.mean(sx, sy, way[0], 0, 0, way[4], samples, 1);
		else sampler.smooth(sx, sy, 1);
		for (let k = 0; k < bytes; k++) out[(y * to.width + x) * bytes + k] = Math.round(sampler.out[k] as number);
	};
	for (let y = 0; y < to.height; y++) {
		const missed: number[] = [];
		if (runs) {
			runs.read(way, 1, 0, y, to.width, samples, (i) => void missed.push(i));
			out.set(runs.texels(to.width), y * to.width * bytes);
			for (const x of missed) one(x, y);
		} else for (let x = 0; x < to.width; x++) one(x, y);
	}
	runs?.drop();
	return out;
}

/** Whether a face, with the gutter around it, has nothing on a surface. */
function emptyAround(
	{ mesh, map }: Lying,
	face: number,
	sampler: ReturnType<typeof createSampler>,
	{ width, height }: Size,
): boolean {
	let [x0, y0, x1, y1] = [Infinity, Infinity, -Infinity, -Infinity];
	for (let k = 0; k < 3; k++) {
		const at = (mesh.indices[face * 3 + k] as number) * 2;
		const [x, y] = [(mesh.uvs[at] as number) * width, (mesh.uvs[at + 1] as number) * height];
		[x0, y0, x1, y1] = [Math.min(x0, x), Math.min(y0, y), Math.max(x1, x), Math.max(y1, y)];
	}
	const more = map.bleed + 3;
	return sampler.emptyIn(x0 - more, y0 - more, x1 + more, y1 + more);
}
