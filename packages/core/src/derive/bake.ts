import { filesOfBakes, type Sheet } from '../document/index.ts';
import { type Bake, bakeKindOf } from '../light/index.ts';
import { grownRect, type Rect } from '../raster/index.ts';
import { type Ground, type Planes, withPlanes } from '../recipe/index.ts';
import { sceneOfSheet } from '../scene/index.ts';
import { bakeIdOf, missedIdOf } from './derivedId.ts';
import { COARSE, finerTones } from './draft.ts';
import { type Means, saysOfModels, saysOfNames, saysOfSheet } from './means.ts';
import { groundOf } from './recipeGround.ts';
import type { Derived } from './spec.ts';

/** The ground that a bake is made on: the model's, or that of its finer mesh; with no surface where that is not here. */
export function bakeGround(
	means: Means,
	planes: Planes,
	sheet: Sheet,
	{ finer }: Bake,
	rect: Rect,
	step: number,
): Ground {
	const ground = groundOf(means, planes, sheet, null, rect, step);
	if (!finer) return ground;
	const mesh = means.meshes.get(finer.asset.hash);
	const surface = mesh ? (ground.surface?.finer(mesh, finer.cage, finer.match === 'parts') ?? null) : null;
	return { ...ground, surface };
}

/** A bake of a model on one of its sheets. */
export function bakeNode(means: Means, sheet: Sheet, bake: Bake): Derived {
	const kind = bakeKindOf(bake);
	const { id: _id, name: _name, ...says } = bake;
	const pictured = kind.pictures?.(bake).map((id) => means.pictures.hasStencil(id)) ?? [];
	/** Coarse tones of 16 bits: between cells lies what lies between their values. */
	const draft = {
		tiles: COARSE,
		make: (rect: Rect, tiles: readonly Rect[]): (Uint8Array | null)[] =>
			withPlanes(means.kernels, (planes) => {
				const ground = bakeGround(means, planes, sheet, bake, grownRect(rect, COARSE), COARSE);
				const [field] = kind.fields(bake, ground) ?? [];
				if (field === undefined) return tiles.map(() => null);
				return finerTones(ground, field, tiles).map(
					(tones) => tones && new Uint8Array(Uint16Array.from(tones, (v) => v * 257).buffer),
				);
			}),
	};
	return {
		id: bakeIdOf(bake.id, sheet),
		format: kind.format,
		key: JSON.stringify([
			says,
			saysOfSheet(means, sheet),
			pictured,
			kind.models?.(bake) ? saysOfModels(means) : null,
			kind.names?.(bake) ? saysOfNames(means, sheet) : null,
			filesOfBakes([bake]).map(({ hash }) => means.meshes.has(hash) || means.pictures.maps.has(hash)),
		]),
		inputs: [],
		reach: 0,
		...(kind.format === 'deep' && kind.dear(bake) ? { draft, late: true } : {}),
		make: (rect) =>
			withPlanes(means.kernels, (planes) => kind.make(bake, bakeGround(means, planes, sheet, bake, rect, 1))),
	};
}

/** Where the rays of a bake meet nothing of its finer mesh: 255 there. Null where it is of the model itself. */
export function missedNode(means: Means, sheet: Sheet, bake: Bake): Derived | null {
	const { finer } = bake;
	if (!finer) return null;
	return {
		id: missedIdOf(bake.id, sheet),
		format: 'mask',
		key: JSON.stringify([finer, saysOfSheet(means, sheet), means.meshes.has(finer.asset.hash)]),
		inputs: [],
		reach: 0,
		late: true,
		make: (rect) =>
			withPlanes(means.kernels, (planes) => {
				const met = bakeGround(means, planes, sheet, bake, rect, 1).surface;
				const inside = sceneOfSheet(means.scenes, sheet.id)?.mapOf(sheet).faceOfTexel;
				if (!inside) return null;
				// Beside the islands, where faces are carried on, nothing need be met.
				return Uint8Array.from({ length: rect.width * rect.height }, (_, i) => {
					const at = (rect.y + Math.floor(i / rect.width)) * sheet.width + rect.x + (i % rect.width);
					return inside[at] && !((met?.face[i] ?? -1) >= 0) ? 255 : 0;
				});
			}),
	};
}
