import type { Kernels } from '@eppu/kernels';
import { eachLayer, type Layer, paintLayer, type Sheet, surfacesOfLayer } from '../document/index.ts';
import { type Affine, type Block, readBlock, resampled } from '../raster/index.ts';
import type { Picture, Surface, SurfaceId } from '../surface/index.ts';

/** A layer taken up, with its pixels, to be put down on this or another sheet or project. */
export interface Clip {
	readonly layer: Layer;
	readonly width: number;
	readonly height: number;
	/** Texels by surface id. */
	readonly pictures: ReadonlyMap<SurfaceId, { readonly bytes: Block['bytes']; readonly data: Uint8Array }>;
}

/** A layer with all its pixels; what a selection leaves out is left out of those of paint layers. */
export function clipOf(
	kernels: Kernels,
	sheet: Sheet,
	layer: Layer,
	surfaces: ReadonlyMap<SurfaceId, Surface>,
	selection: Uint8Array | null,
): Clip {
	const rect = { x: 0, y: 0, width: sheet.width, height: sheet.height };
	const pictures = new Map<SurfaceId, { bytes: Block['bytes']; data: Uint8Array }>();
	for (const { id } of surfacesOfLayer(layer)) {
		const surface = surfaces.get(id);
		if (!surface) continue;
		const { bytes, data } = readBlock(kernels, surface, rect);
		if (selection && bytes === 4)
			for (let i = 0; i < selection.length; i++)
				data[i * 4 + 3] = Math.round(((data[i * 4 + 3] as number) * (selection[i] as number)) / 255);
		pictures.set(id, { bytes, data });
	}
	return { layer, width: sheet.width, height: sheet.height, pictures };
}

/**
 * A picture as a clip for a sheet: a paint layer with the picture in the middle, as it is, or made to fit where it is
 * larger.
 */
export function pictureClip(picture: Picture, name: string, sheet: Sheet): Clip {
	const k = Math.max(1, picture.width / sheet.width, picture.height / sheet.height);
	const rect = { x: 0, y: 0, width: sheet.width, height: sheet.height };
	// Whole texels, so that a picture at its own size stays as it is.
	const [x, y] = [
		Math.round((sheet.width - picture.width / k) / 2),
		Math.round((sheet.height - picture.height / k) / 2),
	];
	const whole = { rect: { x: 0, y: 0, width: picture.width, height: picture.height }, bytes: 4 as const };
	const data = resampled({ ...whole, data: picture.data }, rect, [k, 0, -x * k, 0, k, -y * k], k !== 1);
	const layer = paintLayer('picture', name);
	return {
		layer,
		width: sheet.width,
		height: sheet.height,
		pictures: new Map([[layer.surface, { bytes: 4 as const, data }]]),
	};
}

/** A clip's layer under new ids, and its pictures at a sheet's size by those ids. Taps of layers that do not come along stay as they are and do nothing elsewhere. */
export function placedClip(
	clip: Clip,
	sheet: Sheet,
	newId: () => string,
): { readonly layer: Layer; readonly pictures: readonly { readonly surface: SurfaceId; readonly picture: Picture }[] } {
	const ids = new Map([...eachLayer([clip.layer])].map((each) => [each.id, newId()]));
	const pictures: { surface: SurfaceId; picture: Picture }[] = [];
	const [kx, ky] = [clip.width / sheet.width, clip.height / sheet.height];
	const put = (from: SurfaceId, to: SurfaceId): SurfaceId => {
		const found = clip.pictures.get(from);
		if (found) {
			const { bytes, data } = found;
			const rect = { x: 0, y: 0, width: sheet.width, height: sheet.height };
			const map: Affine = [kx, 0, 0, 0, ky, 0];
			const own =
				kx === 1 && ky === 1
					? data
					: resampled({ rect: { x: 0, y: 0, width: clip.width, height: clip.height }, bytes, data }, rect, map, true);
			pictures.push({ surface: to, picture: { width: sheet.width, height: sheet.height, data: own } });
		}
		return to;
	};
	// Numbers are not to be mixed: at another size texels are colours alone.
	const pointers = (layer: Layer, id: string): { readonly entries?: SurfaceId | null } =>
		'entries' in layer ? { entries: layer.entries && kx === 1 && ky === 1 ? put(layer.entries, `${id}-e`) : null } : {};
	const renewed = (layer: Layer): Layer => {
		const id = ids.get(layer.id) as string;
		const mask = layer.mask && {
			...layer.mask,
			surface: put(layer.mask.surface, `${id}-m`),
			...(layer.mask.recipe
				? {
						recipe: layer.mask.recipe.map((step) =>
							'layer' in step ? { ...step, layer: ids.get(step.layer) ?? step.layer } : step,
						),
					}
				: {}),
		};
		return {
			...layer,
			id,
			mask,
			...('surface' in layer ? { surface: put(layer.surface, id) } : {}),
			...pointers(layer, id),
			...('layers' in layer ? { layers: layer.layers.map(renewed) } : {}),
		};
	};
	return { layer: renewed(clip.layer), pictures };
}
