import type { Ptr } from '@eppu/kernels';
import type { LaidMesh } from '../mesh/index.ts';
import { takeTexels } from '../raster/index.ts';
import type { Field, Ground, Triple } from '../recipe/index.ts';
import { laidOf, rememberLaid } from './laid.ts';
import { RISES, risesOver, type Slopes } from './relief.ts';
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
export function flatPlanes({ planes, sheet, width, height, scale, x, y }: Ground): {
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

/** A ground as light falls on it, in strokes or as it is. */
function litOf(ground: Ground, strokes: StrokesOf | null): Lit {
	const { planes, width, height, surface, sheet } = ground;
	const { kernels, run } = planes;
	const count = width * height;
	const mesh = surface?.solid ?? keptFlat(sheet);
	const tile = surface?.tile ?? null;
	const many = strokes ? 5 : 4;
	const bytes = count * 4 * many;
	const planesAt = (first: Field): readonly Field[] => Array.from({ length: many }, (_, k) => first + k * count * 4);
	const lay = (first: Field): void => {
		const { place, normal } = surface ?? flatPlanes(ground);
		const to = planesAt(first) as [Field, Field, Field, Field, Field?];
		[...normal, place[1]].forEach((from, k) => planes.floats(to[k] as Field, count).set(planes.floats(from, count)));
		if (!strokes) return;
		const { at, of } = strokesAt(kernels, mesh, strokes);
		const [table, from, list] = at as [Ptr, Ptr, Ptr];
		const [x, y, z, , jitter = 0] = to;
		const cells = surface?.cells ?? 0;
		run.strokeNormals(cells, ...place, x, y, z, count, table, from, list, of.low, of.box, of.side, jitter);
	};
	// A lamp that is dragged changes nothing of what it falls on. A guest's part of the memory would be full of it.
	const tiles = tile === null || kernels.heap.guest ? null : laidOf(kernels, mesh, JSON.stringify(strokes), bytes);
	let first: Field | null = null;
	if (tiles && tile !== null) first = tiles.get(tile) ?? rememberLaid(kernels, tiles, tile, bytes, lay);
	if (first === null) lay((first = planes.take(count * many)));
	const [x, y, z, high, jitter = 0] = planesAt(first) as [Field, Field, Field, Field, Field?];
	return {
		cells: surface?.cells ?? 0,
		normal: [x, y, z],
		height: high,
		jitter,
		low: surface?.low[1] ?? 0,
		high: surface?.high[1] ?? sheet.height * (100 / Math.max(sheet.width, sheet.height)),
	};
}

/** Normals as they lean on the slopes of what stands out; `cells` 0 where a sheet has no model. */
export function leaned(
	{ planes, sheet, surface, width, height }: Ground,
	{ cells, normal }: { readonly cells: Field; readonly normal: Triple },
	slopes: Slopes,
): Triple {
	const count = width * height;
	let rises: Field;
	if (surface) rises = surface.rises();
	else {
		const texel = 100 / Math.max(sheet.width, sheet.height);
		rises = planes.take(RISES);
		planes.floats(rises, RISES).set(risesOver([texel, 0, 0], [0, -texel, 0]).flat());
	}
	const out: Triple = [planes.take(count), planes.take(count), planes.take(count)];
	out.forEach((to, k) => planes.floats(to, count).set(planes.floats(normal[k] as Field, count)));
	planes.run.leanNormals(cells, ...out, count, slopes.words, slopes.step, rises);
	return out;
}

/** Numbers that the kernel works on at a time. */
const ROOM = 256;

/** What a rig's light, `numbers` as `rigNumbers` gives them, looks like on a ground: RGBA8, clear where the model is not. */
export function shadeBlock(
	rig: Rig,
	numbers: Float32Array,
	ground: Ground,
	slopes: Slopes | null = null,
): Uint8Array | null {
	const { planes, width, height } = ground;
	const { run } = planes;
	const count = width * height;
	if (ground.surface?.bare) return null;
	return planes.within(() => {
		const lit = litOf(ground, rig.strokes);
		const normal = slopes ? leaned(ground, lit, slopes) : lit.normal;
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
		const [at, room, out] = [planes.take(numbers.length), planes.take(ROOM), planes.take(count)];
		planes.floats(at, numbers.length).set(numbers);
		run.shadeCells(lit.cells, ...normal, rise, occluded, edge, hollow, lit.jitter, count, at, room, out);
		const texels = takeTexels(count * 4);
		texels.set(planes.bytes(out, count * 4));
		return texels;
	});
}
