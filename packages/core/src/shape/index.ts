export type { ChoiceOf, DialOf } from './dial.ts';

/**
 * Words in which the shapes of what is kept are said: JSON Schema (draft 7). Each stands beside what it describes; the
 * validators are compiled from their sum (document/shapes.ts).
 */
export type Shape = Readonly<Record<string, unknown>>;
type Properties = Readonly<Record<string, Shape>>;

/** An object with these properties and no others; those named in `optional` may be left out. */
export const strict = (properties: Properties, optional: readonly string[] = []): Shape => ({
	type: 'object',
	additionalProperties: false,
	required: Object.keys(properties).filter((key) => !optional.includes(key)),
	properties,
});
export const list = (items: Shape, maxItems: number, minItems?: number): Shape => ({
	type: 'array',
	items,
	maxItems,
	...(minItems === undefined ? {} : { minItems }),
});
export const orNull = (shape: Shape): Shape => ({ anyOf: [shape, { type: 'null' }] });
/** One of several shapes, told apart by one of their properties: only that one is looked at. */
export const byTag = (propertyName: string, oneOf: readonly Shape[]): Shape => ({
	type: 'object',
	discriminator: { propertyName },
	required: [propertyName],
	oneOf,
});
/** What stands in several places is compiled once and named there. */
export const shared = (name: string): Shape => ({ $ref: `shared#/$defs/${name}` });
export const one = (value: unknown): Shape => ({ const: value });
export const among = (values: readonly unknown[]): Shape => ({ enum: values });
export const real = (minimum: number, maximum: number): Shape => ({ type: 'number', minimum, maximum });
export const whole = (minimum: number, maximum: number): Shape => ({ type: 'integer', minimum, maximum });
/** Above `exclusiveMinimum`, up to `maximum`. */
export const above = (exclusiveMinimum: number, maximum: number): Shape => ({
	type: 'number',
	exclusiveMinimum,
	maximum,
});
export const words = (minLength: number, maxLength: number): Shape => ({ type: 'string', minLength, maxLength });
export const pattern = (source: string): Shape => ({ type: 'string', pattern: source });

export const bool: Shape = { type: 'boolean' };

/** Small shapes that stand everywhere: compiled once, and named where they stand. */
export const smallShapes = {
	id: pattern('^[A-Za-z0-9_-]{1,64}$'),
	pictureId: pattern('^[A-Za-z0-9_-]{1,80}$'),
	hex: pattern('^#[0-9a-f]{6}$'),
	name: words(1, 120),
	share: real(0, 1),
	signedShare: real(-1, 1),
	finite: real(-1e9, 1e9),
	degrees: real(-360, 360),
	texels: real(0, 8192),
	seed: whole(0, 4294967295),
} as const;
export const id = shared('id');
export const pictureId = shared('pictureId');
export const hex = shared('hex');
export const name = shared('name');
export const share = shared('share');
export const signedShare = shared('signedShare');
export const finite = shared('finite');
export const degrees = shared('degrees');
export const texels = shared('texels');
export const seed = shared('seed');
