import type { Ptr } from '@eppu/kernels';
import type { LaidMesh } from '../mesh/index.ts';
import type { Field, Ground, Triple } from '../recipe/index.ts';
import type { Rig, StrokesOf } from './rig.ts';
import { strokesAt } from './strokes.ts';

/** A sheet without a model as one: level, seen from the front, in hundredths of its longer side. */
function flatMesh({ width, height }: { readonly width: number; readonly height: number }): LaidMesh {
	const [w, h] = [width, height].map((side) => (side * 100) / Math.max(width, height)) as [number, number];
	return {
		positions: Float32Array.of(0, 0, 0, w, 0, 0, w, h, 0, 0, h, 0),
		normals: Float32Array.of(0, 0, 1, 0, 0, 1, 0, 0, 1, 0, 0, 1),
		uvs: Float32Array.of(0, 1, 1, 1, 1, 0, 0, 0),
		indices: Uint32Array.of(0, 1, 2, 0, 2, 3),
		parts: [],
	};
}
const flats = new Map<string, LaidMesh>();
function keptFlat(sheet: Ground['sheet']): LaidMesh {
	const key = `${sheet.width} ${sheet.height}`;
	let found = flats.get(key);
	if (!found) flats.set(key, (found = flatMesh(sheet)));
	return found;
}

/** What light falls on: which face each cell has, its normal, how high it is, and what strokes add to its tones. */
interface Lit {
	readonly cells: Field;
	readonly normal: Triple;
	readonly height: Field;
	/** 0 where nothing is laid in strokes. */
	readonly jitter: Field;
	/** The lowest and the highest place. */
	readonly low: number;
	readonly high: number;
}

/** Planes of a sheet without a model: level, as it is seen from the front. */
function flatPlanes({ planes, sheet, width, height, scale, x, y }: Ground): {
	readonly place: Triple;
	readonly normal: Triple;
} {
	const count = width * height;
	const take = (): Triple => [planes.take(count), planes.take(count), planes.take(count)];
	const [place, normal] = [take(), take()];
	const unit = 100 / Math.max(sheet.width, sheet.height);
	const [px, py] = [planes.floats(place[0], count), planes.floats(place[1], count)];
	for (let i = 0; i < count; i++) {
		px[i] = (x + ((i % width) + 0.5) * scale) * unit;
		py[i] = (sheet.height - y - (Math.floor(i / width) + 0.5) * scale) * unit;
	}
	planes.run.fillField(place[2], count, 0);
	planes.run.fillField(normal[0], count, 0);
	planes.run.fillField(normal[1], count, 0);
	planes.run.fillField(normal[2], count, 1);
	return { place, normal };
}

/** Normals, height and jitter of tiles, one plane after the other: a lamp that is dragged changes none of it. */
type LaidTiles = Map<string, Float32Array>;
/** By the strokes that they are laid in; those that were asked for last stand last. */
const laid = new WeakMap<LaidMesh, Map<string, LaidTiles>>();
/** 80 KB each. */
const MOST_LAID = 640;

/** Tiles that are remembered of a mesh in such strokes. */
function laidOf(mesh: LaidMesh, says: string): LaidTiles {
	let all = laid.get(mesh);
	if (!all) laid.set(mesh, (all = new Map()));
	const tiles: LaidTiles = all.get(says) ?? new Map();
	all.delete(says);
	all.set(says, tiles);
	return tiles;
}

/** Remembers a tile; others are forgotten for it where there are too many, but none of its own kind: those are due again. */
function remember(mesh: LaidMesh, tiles: LaidTiles, tile: string, planes: Float32Array): void {
	const all = laid.get(mesh) ?? new Map<string, LaidTiles>();
	let count = [...all.values()].reduce((sum, each) => sum + each.size, 0);
	for (const [says, each] of all) {
		if (count < MOST_LAID || each === tiles) break;
		count -= each.size;
		all.delete(says);
	}
	if (count < MOST_LAID) tiles.set(tile, planes);
}

/** A ground as light falls on it, in strokes or as it is. */
function litOf(ground: Ground, strokes: StrokesOf | null): Lit {
	const { planes, width, height, surface, sheet } = ground;
	const { run } = planes;
	const count = width * height;
	const made = Array.from({ length: strokes ? 5 : 4 }, () => planes.take(count));
	const [x, y, z, high, jitter = 0] = made as [Field, Field, Field, Field, Field?];
	const top = sheet.height * (100 / Math.max(sheet.width, sheet.height));
	const lit: Lit = {
		cells: surface?.cells ?? 0,
		normal: [x, y, z],
		height: high,
		jitter,
		low: surface?.low[1] ?? 0,
		high: surface?.high[1] ?? top,
	};
	const mesh = surface?.solid ?? keptFlat(sheet);
	const tile = surface?.tile ?? null;
	const tiles = tile === null ? null : laidOf(mesh, JSON.stringify(strokes));
	const known = tile === null ? undefined : tiles?.get(tile);
	if (known) {
		made.forEach((at, k) => planes.floats(at, count).set(known.subarray(k * count, (k + 1) * count)));
		return lit;
	}
	const { place, normal } = surface ?? flatPlanes(ground);
	[...normal, place[1]].forEach((from, k) => planes.floats(made[k] as Field, count).set(planes.floats(from, count)));
	if (strokes) {
		const { at, of } = strokesAt(planes.kernels, mesh, strokes);
		const [table, from, list] = at as [Ptr, Ptr, Ptr];
		run.strokeNormals(lit.cells, ...place, x, y, z, count, table, from, list, of.low, of.box, of.side, jitter);
	}
	if (tiles && tile !== null) {
		const kept = new Float32Array(count * made.length);
		made.forEach((at, k) => kept.set(planes.floats(at, count), k * count));
		remember(mesh, tiles, tile, kept);
	}
	return lit;
}

/** What a rig's light, `numbers` as `rigNumbers` gives them, looks like on a ground: RGBA8, clear where the model is not. */
export function shadeBlock(rig: Rig, numbers: Float32Array, ground: Ground): Uint8Array | null {
	const { planes, width, height } = ground;
	const { run } = planes;
	const count = width * height;
	if (ground.surface?.bare) return null;
	return planes.within(() => {
		const lit = litOf(ground, rig.strokes);
		const bakedTone = (bake: string | null, strength: number): Field =>
			(bake && strength > 0 ? ground.baked(bake) : null) ?? 0;
		const [occluded, edge, hollow] = [rig.occlusion, rig.edges, rig.hollows].map((each) =>
			bakedTone(each.bake, each.strength),
		) as [Field, Field, Field];
		let rise: Field = 0;
		if (rig.rise.strength > 0) {
			rise = planes.take(count);
			// From full at `from` to none at `to`.
			const span = (rig.rise.from - rig.rise.to || -1e-4) * (lit.high - lit.low || 1);
			const end = lit.low + rig.rise.to * (lit.high - lit.low);
			run.slopeField(lit.height, count, 1 / span, -end / span, rise);
		}
		const [at, out] = [planes.take(numbers.length), planes.take(count)];
		planes.floats(at, numbers.length).set(numbers);
		run.shadeCells(lit.cells, ...lit.normal, rise, occluded, edge, hollow, lit.jitter, count, at, out);
		return planes.bytes(out, count * 4).slice();
	});
}
