/**
 * All shapes of what is kept, from which the validators in gen/ are compiled (scripts/validators.mjs). What stands in
 * several places is compiled once.
 */
import { paletteShape } from '../color/index.ts';
import { blendModes } from '../composite/index.ts';
import { anyFinishShape } from '../finish/index.ts';
import { anyBakeShape, assetShape, reliefShape, rigShape } from '../light/index.ts';
import { MOST_RECOLORS, recolorShape } from '../pixel/index.ts';
import { recipeShape } from '../recipe/index.ts';
import {
	among,
	bool,
	byTag,
	hex,
	id,
	list,
	name,
	one,
	orNull,
	type Shape,
	shared,
	smallShapes,
	strict,
	whole,
	words,
} from '../shape/index.ts';
import { tipShape } from '../stroke/index.ts';
import { textShape } from '../text/index.ts';
import { toneShape } from '../tone/index.ts';
import { fillShape } from '../wash/index.ts';
import { deskShape } from './desk.ts';
import { layerKinds } from './layer/index.ts';
import { coatShape, maskShape } from './layerBase.ts';
import { MOST_MODELS, MOST_SHEETS, SHEET_SIDE } from './types.ts';

const layer = byTag(
	'kind',
	layerKinds.map(({ shape }) => shape),
);

const side = whole(SHEET_SIDE.least, SHEET_SIDE.most);
const sheet = strict(
	{
		id,
		name,
		width: side,
		height: side,
		bleed: whole(0, 64),
		base: orNull(hex),
		layers: list(shared('layer'), 500),
		guide: orNull(assetShape),
		selection: orNull(id),
		pixel: bool,
		path: words(1, 1024),
	},
	['selection', 'pixel', 'path'],
);
const part = strict({ name: words(0, 255), sheet: id, shown: bool });
const numbers = strict({ surface: id, bytes: whole(1, 16_000_000) });
const model = strict(
	{
		id,
		name,
		asset: assetShape,
		parts: list(part, 10000),
		layout: orNull(numbers),
		seams: orNull(numbers),
		bakes: list(anyBakeShape(), 32),
		islands: list(strict({ face: whole(0, 200_000), name }), 10000),
	},
	['layout', 'seams', 'bakes', 'islands'],
);

const named = ($id: string, shape: Shape): Shape => ({ $id, ...shape });

export const shapes: readonly Shape[] = [
	{
		$id: 'shared',
		$defs: {
			...smallShapes,
			mode: among(blendModes),
			coat: coatShape,
			relief: reliefShape,
			palette: paletteShape,
			tip: tipShape,
			recipe: recipeShape(),
			mask: maskShape,
			fill: fillShape,
			finish: anyFinishShape(),
			text: textShape,
			tone: toneShape(),
			rig: rigShape,
			layer,
		},
	},
	named(
		'project',
		strict(
			{
				schema: one(1),
				id,
				name,
				models: list(model, MOST_MODELS),
				sheets: list(sheet, MOST_SHEETS),
				palette: shared('palette'),
				bundle: assetShape,
				entries: list(whole(1, 0xffffff), 512),
				recolors: list(recolorShape, MOST_RECOLORS),
			},
			['bundle', 'recolors', 'entries'],
		),
	),
	named('desk', deskShape),
];

/** The validators that are compiled, and what each holds a value to. */
export const validated = {
	project: 'project',
	desk: 'desk',
	preset: 'shared#/$defs/tip',
	palette: 'shared#/$defs/palette',
	recipe: 'shared#/$defs/recipe',
	light: 'shared#/$defs/rig',
};
