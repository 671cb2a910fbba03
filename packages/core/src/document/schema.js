// The document's shape as JSON Schema, the one from which the validators in gen/ are compiled (scripts/validators.mjs).
const id = { type: 'string', pattern: '^[A-Za-z0-9_-]{1,64}$' };
const hex = { type: 'string', pattern: '^#[0-9a-f]{6}$' };
const name = { type: 'string', minLength: 1, maxLength: 120 };
const share = { type: 'number', minimum: 0, maximum: 1 };
const finite = { type: 'number', minimum: -1e9, maximum: 1e9 };
const strict = (properties, optional = []) => ({
	type: 'object',
	additionalProperties: false,
	required: Object.keys(properties).filter((key) => !optional.includes(key)),
	properties,
});
const list = (items, maxItems) => ({ type: 'array', items, maxItems });
const orNull = (schema) => ({ anyOf: [schema, { type: 'null' }] });
/** One of several shapes, told apart by one of their properties: only that one is looked at. */
const byTag = (propertyName, oneOf) => ({
	type: 'object',
	discriminator: { propertyName },
	required: [propertyName],
	oneOf,
});
/** What stands in several places is compiled once and named there. */
const shared = (name) => ({ $ref: `shared#/$defs/${name}` });

const asset = strict({
	hash: { type: 'string', pattern: '^[0-9a-f]{64}$' },
	name: { type: 'string', minLength: 1, maxLength: 255 },
});
const bool = { type: 'boolean' };
const real = (minimum, maximum) => ({ type: 'number', minimum, maximum });
const degrees = real(-360, 360);
const texels = real(0, 8192);
const seed = { type: 'integer', minimum: 0, maximum: 4294967295 };
const pictureId = { type: 'string', pattern: '^[A-Za-z0-9_-]{1,80}$' };
const axis = { enum: ['x', 'y', 'z'] };
const modeNames = [
	'normal',
	'multiply',
	'screen',
	'overlay',
	'darken',
	'lighten',
	'color-dodge',
	'color-burn',
	'hard-light',
	'soft-light',
	'difference',
	'exclusion',
	'hue',
	'saturation',
	'color',
	'luminosity',
	'plus-lighter',
	'subtract',
	'divide',
];

const stepBase = { id, on: bool };
const sourceBase = {
	...stepBase,
	mix: { enum: ['replace', 'multiply', 'divide', 'screen', 'overlay', 'max', 'min', 'add', 'subtract'] },
	amount: share,
};
const chanceBase = { ...sourceBase, space: { enum: ['model', 'sheet'] }, size: real(0.05, 400), seed };
const layerRef = { type: 'string', pattern: '^[A-Za-z0-9_-]{0,64}$' };
const recipeStep = byTag('step', [
	strict({ ...sourceBase, step: { const: 'tone' }, value: share }),
	strict({ ...sourceBase, step: { const: 'painted' } }),
	strict({ ...sourceBase, step: { const: 'tap' }, layer: layerRef, of: { enum: ['tone', 'shape', 'mask'] } }),
	strict({ ...sourceBase, step: { const: 'tones' }, layer: layerRef, low: share, high: share, soft: share }),
	strict({ ...chanceBase, step: { const: 'noise' }, contrast: share }),
	strict({ ...chanceBase, step: { const: 'clouds' }, contrast: share, rough: share }),
	strict({ ...chanceBase, step: { const: 'speckle' }, dense: share, soft: share }),
	strict({
		...chanceBase,
		step: { const: 'scratches' },
		dense: share,
		thick: share,
		turn: degrees,
		spread: real(0, 180),
	}),
	strict({ ...chanceBase, step: { const: 'drips' }, dense: share, length: real(0.1, 20) }),
	strict({ ...chanceBase, step: { const: 'streaks' }, axis, stretch: real(1, 100), contrast: share }),
	strict({ ...chanceBase, step: { const: 'strokes' }, turn: degrees, length: real(1, 20) }),
	strict({
		...sourceBase,
		step: { const: 'pieces' },
		by: { enum: ['island', 'part', 'face'] },
		low: share,
		high: share,
		seed,
	}),
	strict({ ...sourceBase, step: { const: 'height' }, axis, from: real(-1, 2), to: real(-1, 2) }),
	strict({ ...sourceBase, step: { const: 'facing' }, axis, way: { enum: [1, -1] }, spread: real(1, 180) }),
	strict({
		...sourceBase,
		step: { const: 'edges' },
		of: { enum: ['edges', 'hollows'] },
		angle: real(0, 180),
		width: real(0, 256),
		soft: share,
	}),
	strict({ ...sourceBase, step: { const: 'picture' }, picture: pictureId, scale: real(1, 8192), turn: degrees }),
	strict({ ...stepBase, step: { const: 'levels' }, black: share, white: share, gamma: real(0.05, 20) }),
	strict({ ...stepBase, step: { const: 'invert' } }),
	strict({ ...stepBase, step: { const: 'blur' }, radius: real(0, 64) }),
	strict({ ...stepBase, step: { const: 'smudge' }, length: real(0, 128), turn: degrees }),
	strict({ ...stepBase, step: { const: 'warp' }, by: real(-128, 128), size: real(1, 2048), seed }),
	strict({ ...stepBase, step: { const: 'grow' }, by: real(-64, 64) }),
]);
const recipeSteps = list(shared('recipeStep'), 64);
const mask = strict({ surface: id, on: bool, recipe: orNull(recipeSteps) }, ['recipe']);
const pair = { type: 'array', items: finite, minItems: 2, maxItems: 2 };
const tiled = strict({
	fill: { const: 'picture' },
	picture: pictureId,
	scale: real(1, 8192),
	turn: degrees,
	x: finite,
	y: finite,
	tint: orNull(hex),
});
const spaced = strict({
	fill: { const: 'pattern' },
	picture: pictureId,
	box: strict({ x: finite, y: finite, width: real(1, 8192), height: real(1, 8192) }),
	across: { type: 'integer', minimum: 1, maximum: 400 },
	gap: real(0, 0.95),
	staggered: bool,
	turn: degrees,
	jitterTurn: share,
	jitterSize: share,
	seed,
	tint: orNull(hex),
});
const fill = byTag('fill', [
	strict({
		fill: { const: 'gradient' },
		way: { enum: ['linear', 'round', 'angle'] },
		from: pair,
		to: pair,
		colors: { type: 'array', items: hex, minItems: 1, maxItems: 32 },
		fade: bool,
	}),
	tiled,
	spaced,
]);
const finishBase = { id, on: bool, opacity: share, mode: { enum: modeNames } };
const finish = byTag('finish', [
	strict({
		...finishBase,
		finish: { const: 'outline' },
		side: { enum: ['out', 'in', 'middle'] },
		width: real(0, 64),
		color: hex,
		hard: bool,
	}),
	strict({ ...finishBase, finish: { const: 'tint' }, color: hex }),
	strict({ ...finishBase, finish: { const: 'pattern' }, fill: byTag('fill', [tiled, spaced]) }),
	strict({
		...finishBase,
		finish: { const: 'stitch' },
		color: hex,
		along: {
			oneOf: [
				{ const: 'shape' },
				list({ type: 'integer', minimum: 0, maximum: 1_000_000 }, 10_000),
				strict({ lines: list(list(finite, 20_000), 400) }),
			],
		},
		inset: real(0, 512),
		dash: real(1, 512),
		gap: real(0, 512),
		thick: real(0.5, 128),
		twist: real(-90, 90),
		shade: share,
	}),
]);
const text = strict({
	text: { type: 'string', maxLength: 2000 },
	font: { enum: ['signboard', 'brush', 'inscription', 'crate', 'pixel'] },
	size: real(1, 4096),
	color: hex,
	spacing: real(-0.5, 4),
	leading: real(0.2, 6),
	align: { enum: ['left', 'middle', 'right'] },
	box: orNull(texels),
	x: finite,
	y: finite,
	turn: degrees,
	mirrored: bool,
	along: orNull(list(finite, 4000)),
});
const coat = strict({ depth: real(0.01, 1), falloff: share });
const layerBase = {
	id,
	name,
	shown: { type: 'boolean' },
	opacity: share,
	mode: { enum: modeNames },
	clip: { type: 'boolean' },
	locked: { type: 'boolean' },
	lockAlpha: { type: 'boolean' },
	mask: orNull(shared('mask')),
	finishes: list(shared('finish'), 24),
	coat: orNull(coat),
};
const optional = ['finishes', 'coat'];
const knots = { type: 'array', items: share, minItems: 2, maxItems: 17 };
const signedShare = { type: 'number', minimum: -1, maximum: 1 };
const three = { type: 'array', items: signedShare, minItems: 3, maxItems: 3 };
const tone = byTag('op', [
	strict({
		op: { const: 'levels' },
		black: share,
		white: share,
		gamma: { type: 'number', minimum: 0.05, maximum: 20 },
		outBlack: share,
		outWhite: share,
	}),
	strict({ op: { const: 'curves' }, all: knots, red: knots, green: knots, blue: knots }),
	strict({ op: { const: 'contrast' }, brightness: signedShare, contrast: signedShare }),
	strict({
		op: { const: 'oklch' },
		lightness: signedShare,
		chroma: signedShare,
		hue: { type: 'number', minimum: -360, maximum: 360 },
	}),
	strict({ op: { const: 'balance' }, warmth: three, redness: three }),
	strict({ op: { const: 'gradient' }, colors: { type: 'array', items: hex, minItems: 2, maxItems: 32 } }),
	strict({ op: { const: 'posterize' }, steps: { type: 'integer', minimum: 2, maximum: 64 } }),
	strict({ op: { const: 'desaturate' }, amount: share }),
	strict({ op: { const: 'pull' }, color: hex, amount: share }),
	strict({ op: { const: 'blur' }, radius: real(0, 64) }),
	strict({ op: { const: 'smudge' }, length: real(0, 128), turn: degrees }),
	strict({ op: { const: 'sharpen' }, amount: real(0, 3), radius: real(0.3, 32) }),
]);
const layer = byTag('kind', [
	strict({ ...layerBase, kind: { const: 'paint' }, surface: id }, optional),
	strict({ ...layerBase, kind: { const: 'wash' }, color: hex, fill: orNull(shared('fill')) }, [...optional, 'fill']),
	strict({ ...layerBase, kind: { const: 'text' }, text: shared('text') }, optional),
	strict({ ...layerBase, kind: { const: 'adjust' }, tone: shared('tone') }, optional),
	strict(
		{
			...layerBase,
			kind: { const: 'group' },
			isolated: { type: 'boolean' },
			layers: list(shared('layer'), 500),
		},
		optional,
	),
]);
const side = { type: 'integer', minimum: 16, maximum: 8192 };
const sheet = strict(
	{
		id,
		name,
		width: side,
		height: side,
		bleed: { type: 'integer', minimum: 0, maximum: 64 },
		base: orNull(hex),
		layers: list(shared('layer'), 500),
		guide: orNull(asset),
		selection: orNull(id),
	},
	['selection'],
);
const part = strict({ name: { type: 'string', maxLength: 255 }, sheet: id, shown: { type: 'boolean' } });
const model = strict({ id, name, asset, parts: list(part, 10000) });
const paletteShape = strict({ name, colors: list(hex, 512) });

/** What the shapes below have in common. */
export const common = { $id: 'shared', $defs: { recipeStep, mask, fill, finish, text, tone, layer } };

export const recipe = { $id: 'recipe', ...recipeSteps };

export const palette = { $id: 'palette', ...paletteShape };

export const project = {
	$id: 'project',
	...strict({
		schema: { const: 1 },
		id,
		name,
		models: list(model, 16),
		sheets: list(sheet, 64),
		palette: paletteShape,
	}),
};

/** Places and distances of models of any unit. */
const place = { type: 'array', items: real(-1e15, 1e15), minItems: 3, maxItems: 3 };
const camera = strict({
	target: place,
	yaw: finite,
	pitch: finite,
	roll: finite,
	distance: { type: 'number', exclusiveMinimum: 0, maximum: 1e15 },
	fov: { type: 'number', minimum: 1, maximum: 170 },
	parallel: { type: 'boolean' },
});
const signed = { type: 'number', minimum: -1, maximum: 1 };
const tip = strict({
	shape: { type: 'string', pattern: '^[A-Za-z0-9_-]{1,80}$' },
	size: { type: 'number', minimum: 1, maximum: 1000 },
	strength: share,
	edge: share,
	spacing: { type: 'number', minimum: 0.02, maximum: 4 },
	roundness: { type: 'number', minimum: 0.05, maximum: 1 },
	angle: { type: 'number', minimum: -360, maximum: 360 },
	turn: { enum: ['fixed', 'stroke', 'pen'] },
	buildUp: bool,
	wet: share,
	steady: share,
	jitter: strict({
		size: share,
		angle: share,
		stretch: share,
		strength: share,
		scatter: share,
		hue: share,
		lightness: share,
		saturation: share,
	}),
	rules: list(
		strict({
			by: { enum: ['pressure', 'tilt', 'speed'] },
			of: { enum: ['size', 'strength', 'scatter', 'roundness'] },
			amount: share,
			curve: { type: 'array', items: share, minItems: 2, maxItems: 9 },
		}),
		16,
	),
});
const byId = (schema) => ({ type: 'object', maxProperties: 64, additionalProperties: schema });
const numbers = list({ type: 'integer', minimum: 0, maximum: 1_000_000 }, 200_000);

/** A tip as it is kept in a library of presets. */
export const preset = { $id: 'preset', ...tip };

export const desk = {
	$id: 'desk',
	...strict({
		sheet: orNull(id),
		layers: byId(id),
		camera,
		places: byId(strict({ x: finite, y: finite, zoom: { type: 'number', exclusiveMinimum: 0, maximum: 1000 } })),
		front: hex,
		back: hex,
		recent: list(hex, 64),
		tip,
		onMask: bool,
		maskFront: hex,
		maskBack: hex,
		amounts: byId(signed),
		stencil: strict({
			picture: orNull({ type: 'string', pattern: '^[A-Za-z0-9_-]{1,80}$' }),
			x: finite,
			y: finite,
			scale: { type: 'number', exclusiveMinimum: 0, maximum: 100 },
			stretch: { type: 'number', exclusiveMinimum: 0, maximum: 100 },
			turn: finite,
			tile: bool,
			invert: bool,
			soft: share,
			opacity: share,
			mode: { enum: ['through', 'print'] },
			space: { enum: ['view', 'sheet'] },
			shown: bool,
		}),
		stamp: strict({
			repeat: { type: 'integer', minimum: 1, maximum: 200 },
			way: { enum: ['row', 'ring'] },
			takes: bool,
		}),
		mirror: strict({ x: bool, y: bool, z: bool, at: place, sheetX: bool, sheetY: bool }),
		guard: orNull(strict({ way: { enum: ['only', 'not'] }, parts: numbers, islands: numbers, faces: numbers })),
		reach: { enum: ['seen', 'front', 'through'] },
		fade: share,
		sampling: strict({ from: { enum: ['all', 'layer'] }, size: { type: 'integer', minimum: 1, maximum: 101 } }),
		pad: { enum: ['oklch', 'hsv'] },
		views: list(strict({ name, camera }), 40),
	}),
};
