import type { Kernels } from '@eppu/kernels';
import { type Bins, coverSeen, type SeenTexels, seenTexels } from '../projection/index.ts';
import { grownRect, isEmptyRect, meet, type Path, pathCoverage, pathRect, type Rect } from '../raster/index.ts';
import type { Surface } from '../surface/index.ts';

/** The plane that something is drawn in: the sheet itself, or the view that the model is seen in. */
export interface DrawSpace {
	/** Where a path lies on the surface: whole texels around it, and how much of each it covers, A8. */
	cover(path: Path): { readonly rect: Rect; readonly cover: Uint8Array };
	/** Where its texels are in the plane; null where the plane is the sheet. */
	readonly seen: SeenTexels | null;
}

export const whole = ({ width, height }: Surface): Rect => ({ x: 0, y: 0, width, height });

export const sheetSpace = (surface: Surface): DrawSpace => ({
	cover(path) {
		const rect = meet(pathRect(path), whole(surface));
		return { rect, cover: isEmptyRect(rect) ? new Uint8Array(0) : pathCoverage(path, rect) };
	},
	seen: null,
});

/** All that a view shows of a sheet, until the view changes: a move asks for it once a frame. */
const known = new WeakMap<Bins, SeenTexels>();

export const allSeen = (kernels: Kernels, bins: Bins): SeenTexels => {
	let found = known.get(bins);
	if (!found) known.set(bins, (found = seenTexels(kernels, bins)));
	return found;
};

/** The plane of the view that bins are made for; places are px. What the view hides is not reached. */
export const viewSpace = (kernels: Kernels, bins: Bins): DrawSpace => ({
	cover(path) {
		const seen = seenTexels(kernels, bins, grownRect(pathRect(path), 64));
		return { rect: seen.rect, cover: coverSeen(path, seen, bins.view) };
	},
	get seen() {
		return allSeen(kernels, bins);
	},
});
