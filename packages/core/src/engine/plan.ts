import type { Kernels } from '@eppu/kernels';
import { facesOfTile } from '../atlas/index.ts';
import type { Hex } from '../color/index.ts';
import type { Pictures } from '../derive/index.ts';
import {
	type Coat,
	eachLayer,
	type Guard,
	guardLets,
	type Id,
	isStrict,
	type Layer,
	layerOf,
	type Mask,
	namesFaces,
	type Project,
	type Sheet,
	sheetOf,
} from '../document/index.ts';
import { selectedTile } from '../edit/index.ts';
import { colorsNamed, hexOfPacked, type PixelColors, packedOf } from '../pixel/index.ts';
import { mirroredSheet, mirrorSets, modelTarget, type Plane, sheetTarget, type Target } from '../projection/index.ts';
import { tileRect } from '../raster/index.ts';
import type { Scene, Spot } from '../scene/index.ts';
import {
	type Jitter,
	noJitter,
	type Pencil,
	type PencilWay,
	type Sample,
	type StencilTile,
	type StrokeMeans,
	stampDabs,
	stencilTile,
} from '../stroke/index.ts';
import { type Surface, type SurfaceId, TILE, TILE_TEXELS } from '../surface/index.ts';
import { colorsOn, pointersOf } from './indexed.ts';
import { type Refusal, whyNotMix, whyNotPaint, whyNotScrape } from './refusal.ts';
import type { StrokeSpec } from './strokeSpec.ts';
import { toneGate } from './toneGate.ts';

/** A layer marked as a coat, with the mask that scraping works on. */
export type CoatLayer = Layer & { readonly coat: Coat; readonly mask: Mask };

/** A sheet's shown and unlocked coats, topmost first. */
export const coatsOf = (sheet: Sheet): CoatLayer[] =>
	[...eachLayer(sheet.layers)]
		.filter((layer): layer is CoatLayer => Boolean(layer.coat && layer.mask?.on && layer.shown && !layer.locked))
		.reverse();

/** A stroke's spec, looked up in the document: where it goes and with what. */
export interface Plan {
	readonly sheet: Sheet;
	readonly layer: Layer;
	/** The coats that a scrape goes through, topmost first. */
	readonly coats: readonly CoatLayer[];
	readonly targets: readonly Target[];
	readonly means: StrokeMeans;
}

export type PlanResult = { readonly ok: true; readonly plan: Plan } | { readonly ok: false; readonly refusal: Refusal };

/** The refusal of a place that the guard keeps off, or null. */
export function guardRefusal(guard: Guard | null | undefined, spot: Spot | null, hasModel: boolean): Refusal | null {
	if (!guard || !hasModel) return null;
	if (spot && guardLets(guard, spot.face, spot.part, spot.island)) return null;
	return {
		code: 'guarded',
		text: 'The guard keeps paint off here.',
		mend: { label: 'Lift the guard', liftGuard: true },
	};
}

/**
 * Looks up what a stroke needs. `scenes` are those of the project's models. With `on` it is looked up for that sheet, onto
 * which a stroke that begins on another may go over.
 */
export function planStroke(
	kernels: Kernels,
	project: Project,
	scenes: ReadonlyMap<Id, Scene>,
	pictures: Pictures,
	surfaces: ReadonlyMap<SurfaceId, Surface>,
	asked: StrokeSpec,
	first: readonly Sample[],
	on?: Id,
): PlanResult {
	const { place, tip } = asked;
	const no = (refusal: Refusal): PlanResult => ({ ok: false, refusal });
	const start = first[0];
	const scene =
		place.on === 'model'
			? scenes.get(place.model)
			: [...scenes.values()].find((each) => each.model.parts.some((part) => part.sheet === place.sheet));
	const spot =
		start && place.on === 'model' && on === undefined
			? scene?.spotAt(project.sheets, place.sight, start.x, start.y)
			: null;
	const sheetId = on ?? spot?.sheet ?? place.sheet;
	if (!sheetId) return no({ code: 'off-model', text: 'The stroke begins beside the model.', mend: null });
	const scrapes = asked.tool === 'scrape' || asked.tool === 'mend';
	const refusal = scrapes
		? whyNotScrape(project, sheetId)
		: whyNotPaint(project, sheetId, asked.layers[sheetId], asked.onMask);
	if (refusal) return no(refusal);
	const sheet = sheetOf(project, sheetId) as Sheet;
	const coats = scrapes ? coatsOf(sheet) : [];
	const layer = (scrapes ? coats[0] : layerOf(sheet, asked.layers[sheetId])) as Layer;
	const mixes = whyNotMix(sheet, layer, asked.tool);
	if (mixes) return no(mixes);
	const picture = pictures.tip(tip.shape);
	const stencil = asked.stencil ? pictures.stencil(asked.stencil.picture) : null;
	if (picture === undefined || stencil === undefined)
		return no({
			code: 'no-picture',
			text: `The picture of that ${picture === undefined ? 'tip' : 'stencil'} is not here. Choose another.`,
			mend: null,
		});

	const flat = sheetTarget(kernels, sheet.width);
	let targets: Target[];
	if (place.on === 'model' && scene)
		targets = mirrorSets<Plane>(asked.mirrors?.planes ?? []).map((planes) =>
			modelTarget(kernels, scene.binsOf(sheet, place.sight, planes)),
		);
	else
		targets = mirrorSets(asked.mirrors?.lines ?? []).map((lines) =>
			lines.reduce((target, line) => mirroredSheet(target, line), flat),
		);
	const hard = isStrict(sheet, layer) ? colorsOn(project, layer, colorsNamed([asked.color, asked.pencil])) : null;
	const spec = hard && pointersOf(layer) ? withColors(asked, hard) : asked;
	const pencil = hard && spec.pencil && !spec.stamp ? pencilWay(project, sheet, scene, spec.pencil, spec) : null;
	if (pencil) targets = [flat];
	const seed = spec.seed ?? 0;
	const end = first[1] ?? start;
	const placed =
		spec.stamp && start && end
			? stampDabs(tip, picture, start, end, spec.stamp.repeat, spec.stamp.way, seed, spec.color)
			: null;
	return {
		ok: true,
		plan: {
			sheet,
			layer,
			coats,
			targets,
			means: {
				tool: spec.tool,
				tip: hard ? { ...tip, strength: 1, wet: 0, buildUp: false, jitter: hardJitter(tip.jitter) } : tip,
				picture,
				hard,
				pencil,
				color: spec.color,
				seed,
				amount: spec.amount ?? 1,
				lockAlpha: layer.lockAlpha,
				over: overOf(kernels, spec, sheet, surfaces, scene, stencil, targets, flat),
				seams: spec.tool === 'soften' && scene ? scene.seamsOf(sheet) : null,
				...(placed ? { placed } : {}),
			},
		},
	};
}

/** A stroke in the nearest of the colours that a layer holds, so that it is seen as it will be. */
function withColors(spec: StrokeSpec, colors: PixelColors): StrokeSpec {
	const near = (hex: Hex): Hex => hexOfPacked(colors.nearest(packedOf(hex)));
	const { pencil } = spec;
	const between = pencil?.mixing?.between;
	return {
		...spec,
		color: near(spec.color),
		...(pencil?.mixing && between
			? { pencil: { ...pencil, mixing: { ...pencil.mixing, between: near(between) } } }
			: {}),
	};
}

/** What chance may do where colours and strengths are not mixed. */
const hardJitter = ({ size, angle, stretch, scatter }: Jitter): Jitter => ({
	...noJitter,
	size,
	angle,
	stretch,
	scatter,
});

/** How a pencil goes over a sheet: on it, or on what a view of its model shows. */
function pencilWay(
	project: Project,
	sheet: Sheet,
	scene: Scene | undefined,
	pencil: Pencil,
	spec: StrokeSpec,
): PencilWay {
	const { place } = spec;
	if (place.on === 'sheet')
		return {
			pencil,
			texelAt: (x, y) => [Math.floor(x), Math.floor(y)],
			dense: false,
			mirrors: spec.mirrors?.lines ?? [],
		};
	return {
		pencil,
		texelAt(x, y) {
			const spot = scene?.spotAt(project.sheets, place.sight, x, y);
			return spot && spot.sheet === sheet.id ? [Math.floor(spot.x), Math.floor(spot.y)] : null;
		},
		dense: true,
		mirrors: [],
	};
}

/** What stencil, guard and selection together say of a tile. */
function overOf(
	kernels: Kernels,
	spec: StrokeSpec,
	sheet: Sheet,
	surfaces: ReadonlyMap<SurfaceId, Surface>,
	scene: Scene | undefined,
	picture: Parameters<typeof stencilTile>[1] | null | undefined,
	targets: readonly Target[],
	flat: Target,
): StrokeMeans['over'] {
	const { stencil, guard } = spec;
	const selection = surfaces.get(sheet.selection ?? '');
	const guarded = guard && scene && namesFaces(guard) ? guard : null;
	const toned = toneGate(kernels, surfaces, sheet, guard);
	if (!stencil && !guarded && !selection && !toned) return null;
	return (tile): StencilTile | null => {
		const selected = selectedTile(kernels, selection, tile);
		if (!stencil && !guarded && !selected && !toned) return null;
		const found =
			stencil && picture
				? stencilTile(stencil, picture, targets, tile, flat.placesOf)
				: { gate: new Uint8Array(TILE_TEXELS).fill(255), ink: null };
		if (guarded && scene) {
			const faces = facesOfTile(scene.mapOf(sheet), tile);
			for (let i = 0; i < TILE_TEXELS; i++) {
				const face = faces[i] as number;
				if (face < 0 || !guardLets(guarded, face, scene.partOfFace(face), scene.topology.islandOfFace[face] as number))
					found.gate[i] = 0;
			}
		}
		for (const gate of [selected, toned?.(tileRect({ cols: Math.ceil(sheet.width / TILE) }, tile))])
			for (let i = 0; gate && i < TILE_TEXELS; i++)
				found.gate[i] = Math.round(((found.gate[i] as number) * (gate[i] as number)) / 255);
		return found;
	};
}
