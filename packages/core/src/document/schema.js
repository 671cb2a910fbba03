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

const asset = strict({
	hash: { type: 'string', pattern: '^[0-9a-f]{64}$' },
	name: { type: 'string', minLength: 1, maxLength: 255 },
});
const mask = strict({ surface: id, on: { type: 'boolean' } });
const layerBase = {
	id,
	name,
	shown: { type: 'boolean' },
	opacity: share,
	mode: {
		enum: [
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
		],
	},
	clip: { type: 'boolean' },
	locked: { type: 'boolean' },
	lockAlpha: { type: 'boolean' },
	mask: orNull(mask),
};
const knots = { type: 'array', items: share, minItems: 2, maxItems: 17 };
const signedShare = { type: 'number', minimum: -1, maximum: 1 };
const three = { type: 'array', items: signedShare, minItems: 3, maxItems: 3 };
const tone = {
	oneOf: [
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
	],
};
const layer = {
	oneOf: [
		strict({ ...layerBase, kind: { const: 'paint' }, surface: id }),
		strict({ ...layerBase, kind: { const: 'wash' }, color: hex }),
		strict({ ...layerBase, kind: { const: 'adjust' }, tone }),
		strict({
			...layerBase,
			kind: { const: 'group' },
			isolated: { type: 'boolean' },
			layers: list({ $ref: '#/$defs/layer' }, 500),
		}),
	],
};
const side = { type: 'integer', minimum: 16, maximum: 8192 };
const sheet = strict({
	id,
	name,
	width: side,
	height: side,
	bleed: { type: 'integer', minimum: 0, maximum: 64 },
	base: orNull(hex),
	layers: list({ $ref: '#/$defs/layer' }, 500),
	guide: orNull(asset),
});
const part = strict({ name: { type: 'string', maxLength: 255 }, sheet: id, shown: { type: 'boolean' } });
const model = strict({ id, name, asset, parts: list(part, 10000) });
const paletteShape = strict({ name, colors: list(hex, 512) });

export const palette = { $id: 'palette', ...paletteShape };

export const project = {
	$id: 'project',
	$defs: { layer },
	...strict({
		schema: { const: 1 },
		id,
		name,
		models: list(model, 16),
		sheets: list(sheet, 64),
		palette: paletteShape,
	}),
};

const vec3 = { type: 'array', items: finite, minItems: 3, maxItems: 3 };
const camera = strict({
	target: vec3,
	yaw: finite,
	pitch: finite,
	roll: finite,
	distance: { type: 'number', exclusiveMinimum: 0, maximum: 1e9 },
	fov: { type: 'number', minimum: 1, maximum: 170 },
	parallel: { type: 'boolean' },
});
const bool = { type: 'boolean' };
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
		mirror: strict({ x: bool, y: bool, z: bool, at: vec3, sheetX: bool, sheetY: bool }),
		guard: orNull(strict({ way: { enum: ['only', 'not'] }, parts: numbers, islands: numbers, faces: numbers })),
		reach: { enum: ['seen', 'front', 'through'] },
		sampling: strict({ from: { enum: ['all', 'layer'] }, size: { type: 'integer', minimum: 1, maximum: 101 } }),
		pad: { enum: ['oklch', 'hsv'] },
		views: list(strict({ name, camera }), 40),
	}),
};
