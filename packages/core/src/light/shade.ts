import type { Ptr } from '@eppu/kernels';
import type { LaidMesh } from '../mesh/index.ts';
import type { Field, Ground, Triple } from '../recipe/index.ts';
import type { Rig } from './rig.ts';
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

/** What light falls on: planes of places and normals, which face each cell has, and the lowest and highest place. */
interface Lit {
	readonly place: Triple;
	readonly normal: Triple;
	readonly cells: Field;
	readonly low: number;
	readonly high: number;
	readonly mesh: LaidMesh;
}

function litOf(ground: Ground): Lit {
	const { planes, surface, sheet, width, height, scale } = ground;
	if (surface)
		return {
			place: surface.place,
			normal: surface.normal,
			cells: surface.cells,
			low: surface.low[1],
			high: surface.high[1],
			mesh: surface.solid,
		};
	const count = width * height;
	const take = (): Triple => [planes.take(count), planes.take(count), planes.take(count)];
	const [place, normal] = [take(), take()];
	const unit = 100 / Math.max(sheet.width, sheet.height);
	const [px, py] = [planes.floats(place[0], count), planes.floats(place[1], count)];
	for (let i = 0; i < count; i++) {
		px[i] = (ground.x + ((i % width) + 0.5) * scale) * unit;
		py[i] = (sheet.height - ground.y - (Math.floor(i / width) + 0.5) * scale) * unit;
	}
	planes.run.fillField(place[2], count, 0);
	planes.run.fillField(normal[0], count, 0);
	planes.run.fillField(normal[1], count, 0);
	planes.run.fillField(normal[2], count, 1);
	return { place, normal, cells: 0, low: 0, high: sheet.height * unit, mesh: keptFlat(sheet) };
}

/** What a rig's light, `numbers` as `rigNumbers` gives them, looks like on a ground: RGBA8, clear where the model is not. */
export function shadeBlock(rig: Rig, numbers: Float32Array, ground: Ground): Uint8Array | null {
	const { planes, width, height } = ground;
	const { run, kernels } = planes;
	const count = width * height;
	if (ground.surface?.bare) return null;
	return planes.within(() => {
		const lit = litOf(ground);
		const bakedTone = (bake: string | null, strength: number): Field =>
			(bake && strength > 0 ? ground.baked(bake) : null) ?? 0;
		const [occluded, edge, hollow] = [rig.occlusion, rig.edges, rig.hollows].map((each) =>
			bakedTone(each.bake, each.strength),
		) as [Field, Field, Field];
		let normal = lit.normal;
		let jitter: Field = 0;
		if (rig.strokes) {
			const { at, of } = strokesAt(kernels, lit.mesh, rig.strokes);
			const [strokes, from, list] = at as [Ptr, Ptr, Ptr];
			normal = lit.normal.map((at) => {
				const to = planes.take(count);
				planes.floats(to, count).set(planes.floats(at, count));
				return to;
			}) as unknown as Triple;
			jitter = planes.take(count);
			run.strokeNormals(
				lit.cells,
				...lit.place,
				...normal,
				count,
				strokes,
				from,
				list,
				of.low,
				of.box,
				of.side,
				jitter,
			);
		}
		let rise: Field = 0;
		if (rig.rise.strength > 0) {
			rise = planes.take(count);
			// From full at `from` to none at `to`.
			const span = (rig.rise.from - rig.rise.to || -1e-4) * (lit.high - lit.low || 1);
			const end = lit.low + rig.rise.to * (lit.high - lit.low);
			run.slopeField(lit.place[1], count, 1 / span, -end / span, rise);
		}
		const [at, out] = [planes.take(numbers.length), planes.take(count)];
		planes.floats(at, numbers.length).set(numbers);
		run.shadeCells(lit.cells, ...normal, rise, occluded, edge, hollow, jitter, count, at, out);
		return planes.bytes(out, count * 4).slice();
	});
}
