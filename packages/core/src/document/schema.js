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
const layer = {
	oneOf: [
		strict({ ...layerBase, kind: { const: 'paint' }, surface: id }),
		strict({ ...layerBase, kind: { const: 'wash' }, color: hex }),
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
	layers: list(layer, 500),
	guide: orNull(asset),
});
const part = strict({ name: { type: 'string', maxLength: 255 }, sheet: id, shown: { type: 'boolean' } });
const model = strict({ id, name, asset, parts: list(part, 10000) });
const palette = strict({ name, colors: list(hex, 512) });

export const project = {
	$id: 'project',
	...strict({ schema: { const: 1 }, id, name, models: list(model, 16), sheets: list(sheet, 64), palette }),
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
const tip = strict({
	size: { type: 'number', minimum: 1, maximum: 1000 },
	strength: share,
	edge: share,
	spacing: { type: 'number', minimum: 0.02, maximum: 2 },
	buildUp: { type: 'boolean' },
	pressureSize: share,
	pressureStrength: share,
});
const byId = (schema) => ({ type: 'object', maxProperties: 64, additionalProperties: schema });

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
	}),
};
