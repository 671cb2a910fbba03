import type { Ptr } from '@eppu/kernels';
import { eachCell, type Ground } from './ground.ts';
import type { Field, Triple } from './planes.ts';

export const clamp = (v: number): number => (v < 0 ? 0 : v > 1 ? 1 : v);
/** Hermite from 0 at `a` to 1 at `b`. */
export const smooth = (a: number, b: number, v: number): number => {
	const t = clamp((v - a) / (b - a || 1e-6));
	return t * t * (3 - 2 * t);
};
/** The slope about the middle tone that a contrast of 0..1 has. */
export const slopeOf = (contrast: number): number => 1 + 7 * contrast;

/** Calls with coordinates of a run of cells and their number, and the plane that their tones go to. */
export type Make = (places: Triple, count: number, out: Ptr) => void;

/** Of the cells' places on the flat sheet, in hundredths of it. */
function sheetPlaces(ground: Ground): Triple {
	const { planes, width, height, sheet } = ground;
	const cells = width * height;
	const all: Triple = [planes.take(cells), planes.take(cells), planes.take(cells)];
	const [px, py] = [planes.floats(all[0], cells), planes.floats(all[1], cells)];
	const unit = 100 / Math.max(sheet.width, sheet.height);
	eachCell(ground, (cell, x, y) => {
		px[cell] = x * unit;
		py[cell] = y * unit;
	});
	planes.run.fillField(all[2], cells, 0.5);
	return all;
}

/**
 * Tones of the cells that have a surface and are above 0 in `only`, as `make` gives them of runs of their places: on the
 * model where it has any, else on the sheet. In hundredths. 0 in all others.
 */
export const spread = (ground: Ground, space: 'model' | 'sheet', only: Field | null, make: Make): Field =>
	runs(ground, space, only, false, make);

/**
 * The same of places along the surface: across, and down; the third coordinate tells sheets of the surface apart that
 * lie behind each other. On a flat sheet its own axes.
 */
export const along = (ground: Ground, space: 'model' | 'sheet', only: Field | null, make: Make): Field =>
	runs(ground, space, only, true, make);

function runs(ground: Ground, space: 'model' | 'sheet', only: Field | null, laid: boolean, make: Make): Field {
	const { planes, width, height } = ground;
	const { run } = planes;
	const cells = width * height;
	const out = planes.take(cells);
	run.fillField(out, cells, 0);
	const surface = space === 'model' ? ground.surface : null;
	planes.within(() => {
		const index = planes.take(cells);
		const count = run.wantedCells(surface?.cells ?? 0, only ?? 0, cells, index);
		if (count === 0) return;
		const taken = ([x, y, z]: Triple): Triple => {
			const each = (plane: Ptr): Ptr => {
				const to = planes.take(count);
				run.takeCells(index, count, plane, to);
				return to;
			};
			return [each(x), each(y), each(z)];
		};
		let places = taken(surface?.place ?? sheetPlaces(ground));
		if (laid && surface) {
			const to: Triple = [planes.take(count), planes.take(count), planes.take(count)];
			run.alongSurface(...places, ...taken(surface.normal), count, ...to);
			places = to;
		} else if (laid) run.fillField(places[2], count, 0);
		const tones = planes.take(count);
		make(places, count, tones);
		run.putCells(index, count, tones, out);
	});
	return out;
}
