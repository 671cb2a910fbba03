import { belowOf, type Content, type Layer, raisedUnder, type Sheet } from '../document/index.ts';
import type { Slopes } from '../light/index.ts';
import type { Block, Rect } from '../raster/index.ts';
import { type Ground, type Planes, withPlanes } from '../recipe/index.ts';
import { sceneOfSheet } from '../scene/index.ts';
import type { SurfaceId } from '../surface/index.ts';
import { bakeIdOf, fillIdOf, slopesIdOf } from './derivedId.ts';
import { imageInputs, outlineOf } from './inputs.ts';
import { alone, stackBlock } from './layerPicture.ts';
import { stackOf } from './layerStack.ts';
import { type Means, saysOfSheet } from './means.ts';
import { groundOf } from './recipeGround.ts';
import { slopeStep, slopesIn } from './slopes.ts';
import type { Derived } from './spec.ts';
import { standing } from './standing.ts';

/** A layer's own texels, computed as its kind says; `there` are the bakes that the sheet has. */
export function contentNode(
	means: Means,
	sheet: Sheet,
	layer: Layer,
	content: Content,
	there: ReadonlySet<SurfaceId>,
): Derived {
	const { says, pictures, reach, stands } = content;
	const picture = means.pictures.stencil;
	const here = pictures.map((id) => Boolean(picture(id)));
	const under = content.below ? belowOf(sheet, layer.id) : [];
	const lowest = layer.clip ? under.map((each, i) => (i === 0 ? alone(each) : each)) : under;
	const below = (rect: Rect): Block => {
		const part = { ...sheet, base: layer.clip ? null : sheet.base, layers: lowest };
		return stackBlock(means.kernels, means.compositor, sheet, stackOf(part, means.surfaces).layers, rect);
	};
	const bakes = content.model?.bakes.map((bake) => bakeIdOf(bake, sheet)).filter((id) => there.has(id)) ?? [];
	const ground = <T>(rect: Rect, work: (ground: Ground) => T): T =>
		withPlanes(means.kernels, (planes) => work(groundOf(means, planes, sheet, layer, rect, 1)));
	const raised = content.relief ? raisedUnder(sheet, layer.id) : [];
	const step = slopeStep(raised);
	const relief = (planes: Planes, rect: Rect): Slopes | null => {
		const slopes = step > 0 ? means.surfaces.get(slopesIdOf(raised)) : undefined;
		return slopes ? slopesIn(planes, slopes, rect, step) : null;
	};
	const make: Derived['make'] = (rect) => content.make(rect, { picture, sheet, below, ground, relief });
	const scene = stands && sceneOfSheet(means.scenes, sheet.id);
	let onModel: typeof make | null = null;
	return {
		id: fillIdOf(layer),
		format: 'color',
		key: JSON.stringify([
			says,
			here,
			scene || content.model ? saysOfSheet(means, sheet) : null,
			...(content.model ? [bakes] : []),
			...(step > 0 ? [step] : []),
			...(content.below ? [sheet.base, layer.clip, under.map(outlineOf)] : []),
		]),
		inputs: [...under.flatMap(imageInputs), ...bakes, ...(step > 0 ? [slopesIdOf(raised)] : [])],
		reach,
		...(bakes.length ? { draft: { tiles: 1, make: (_, tiles) => tiles.map(make) }, follows: true } : {}),
		make(rect) {
			// Where it stands is asked of the model only once something of it is wanted.
			if (scene && !onModel) {
				const spot = scene.spotOn(sheet, null, ...stands.at);
				onModel = spot ? standing(scene, sheet, spot.island, stands, make) : make;
			}
			return (onModel ?? make)(rect);
		},
	};
}
