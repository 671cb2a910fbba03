import { type Layer, layerOf, type Sheet } from '../document/index.ts';
import { cutBlock, grownRect, type Rect } from '../raster/index.ts';
import {
	bakesRead,
	type Field,
	type Ground,
	isDear,
	readsModels,
	readsNames,
	recipeField,
	recipeReach,
	tapsOf,
	toneOfField,
	withPlanes,
} from '../recipe/index.ts';
import { type IslandView, tilesOver } from '../scene/index.ts';
import { type SurfaceId, TILE } from '../surface/index.ts';
import { bakeIdOf, ownMaskIdOf } from './derivedId.ts';
import { COARSE, finerTones } from './draft.ts';
import { imageInputs, outlineOf } from './inputs.ts';
import { viewsOf } from './islandViews.ts';
import { alone } from './layerPicture.ts';
import { type Means, saysOfModels, saysOfNames, saysOfSheet } from './means.ts';
import { groundOf } from './recipeGround.ts';
import { prefixField } from './recipePrefix.ts';
import type { Derived } from './spec.ts';

/** A mask that a recipe computes; `there` are the bakes that the sheet has. */
export function maskNode(means: Means, sheet: Sheet, layer: Layer, there: ReadonlySet<SurfaceId>): Derived {
	const recipe = layer.mask?.recipe ?? [];
	const reach = recipeReach(recipe);
	const taps = tapsOf(recipe).flatMap(({ layer: id, of }) => {
		const other = layerOf(sheet, id);
		if (!other) return [];
		return of === 'mask'
			? [{ other, ids: other.mask ? [ownMaskIdOf(other)] : [] }]
			: [{ other, ids: imageInputs(alone(other)) }];
	});
	const id = ownMaskIdOf(layer);
	const pictured = recipe.map((step) => step.step === 'picture' && means.pictures.hasStencil(step.picture));
	const says = JSON.stringify([
		taps.map(({ other }) => outlineOf(alone(other))),
		pictured,
		reach,
		saysOfSheet(means, sheet),
		readsModels(recipe) ? saysOfModels(means) : null,
		readsNames(recipe) ? saysOfNames(means, sheet) : null,
	]);
	const tileOf = (rect: Rect): number =>
		Math.floor(rect.y / TILE) * Math.ceil(sheet.width / TILE) + Math.floor(rect.x / TILE);
	/** What the recipe makes of a ground, from what its first steps made before, where that is remembered. */
	const fieldFrom = (ground: Ground, rect: Rect, seenAs: string): Field => {
		const prefix = means.prefixes.current;
		if (prefix?.mask !== id) return recipeField(recipe, ground);
		const { planes, width, height } = ground;
		const place = `${rect.x} ${rect.y} ${seenAs}`;
		const field = prefixField(prefix, tileOf(rect), place, () =>
			planes.floats(recipeField(recipe, ground, prefix.count), width * height).slice(),
		);
		return recipeField(recipe, ground, undefined, { from: prefix.count, field });
	};
	/** On cells of several texels, with no look over seams. */
	const draft = {
		tiles: COARSE,
		make(rect: Rect, tiles: readonly Rect[]): (Uint8Array | null)[] {
			const wide = grownRect(rect, Math.ceil(reach / COARSE + 1) * COARSE);
			return withPlanes(means.kernels, (planes) => {
				const ground = groundOf(means, planes, sheet, layer, wide, COARSE);
				return finerTones(ground, fieldFrom(ground, rect, `${rect.width}x${rect.height} draft`), tiles);
			});
		},
	};
	return {
		id,
		format: 'mask',
		key: JSON.stringify([recipe, says]),
		recipe: { steps: recipe, says },
		...(layer.mask ? { meanwhile: layer.mask.surface } : {}),
		inputs: [
			...(layer.mask && recipe.some((step) => step.on && step.step === 'painted') ? [layer.mask.surface] : []),
			...taps.flatMap(({ ids }) => ids),
			...bakesRead(recipe)
				.map((bake) => bakeIdOf(bake, sheet))
				.filter((each) => there.has(each)),
		],
		reach,
		far: (rect) => viewsOf(means, sheet, rect, reach)?.views.flatMap(({ over }) => [...tilesOver(over, sheet)]) ?? [],
		...(isDear(recipe) ? { draft } : bakesRead(recipe).length ? { draft, follows: true } : {}),
		reset() {
			if (means.prefixes.current?.mask === id) means.prefixes.current = null;
		},
		make(rect) {
			/** Tones of a rectangle around what is wanted, whose border they still depend on. */
			const seen = (wide: Rect, view: IslandView | null): Uint8Array =>
				withPlanes(means.kernels, (planes) => {
					const ground = groundOf(means, planes, sheet, layer, wide, 1, view);
					return toneOfField(ground, fieldFrom(ground, rect, `${view?.island}`));
				});
			const views = viewsOf(means, sheet, rect, reach);
			const wide = grownRect(rect, reach);
			if (!views?.views.length) return cutBlock({ rect: wide, bytes: 1, data: seen(wide, null) }, rect);
			const out = new Uint8Array(rect.width * rect.height);
			for (const view of views.views) {
				const tone = seen(view.rect, view);
				const [left, top] = [rect.x - view.rect.x, rect.y - view.rect.y];
				for (let y = 0, i = 0; y < rect.height; y++)
					for (let x = 0, from = (top + y) * view.rect.width + left; x < rect.width; x++, i++, from++)
						if (views.owner[i] === view.island) out[i] = tone[from] as number;
			}
			return out;
		},
	};
}
