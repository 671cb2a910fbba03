import type { Ground, Planes } from '../../recipe/index.ts';
import { among, id, name, orNull, pattern, real, type Shape, strict, words } from '../../shape/index.ts';

/** A file kept with the project, by the SHA-256 of its content. */
export interface KeptFile {
	readonly hash: string;
	readonly name: string;
}

/** A finer mesh, in the same place as the model, and how it is met. */
export interface Finer {
	readonly asset: KeptFile;
	/** How far outside and inside of the model it is looked for, hundredths of the model. */
	readonly cage: number;
	/** What is nearest, or only what has the name of the model's part. */
	readonly match: 'near' | 'parts';
}

export const assetShape = strict({ hash: pattern('^[0-9a-f]{64}$'), name: words(1, 255) });

const finer = strict({
	asset: assetShape,
	cage: real(0.01, 50),
	match: among(['near', 'parts']),
});

/** What all bakes have: a picture that is computed of a model's shape and kept with the project. */
export interface BakeBase {
	readonly id: string;
	readonly name: string;
	/** A finer mesh of the model whose shape it is of. */
	readonly finer?: Finer | null;
}

/** One kind of bake. Whoever works with bakes reads this and knows none by name. */
export interface BakeKind<B extends BakeBase & { readonly bake: string }> {
	readonly bake: B['bake'];
	readonly shape: Shape;
	/** A tone of 16 bits, or a colour. */
	readonly format: 'deep' | 'color';
	/** Takes its time: rays are sent. */
	dear(bake: B): boolean;
	/** What it is of, to the artist. */
	words(bake: B): string;
	/** Whether it depends on all models of the project, not only on the sheet's own. */
	models?(bake: B): boolean;
	/** Whether it depends on what the model's parts are called. */
	names?(bake: B): boolean;
	/** Pictures of the artist's own that it is made of. */
	pictures?(bake: B): readonly string[];
	/** A file that it is made of; it stays empty where that is not at hand. */
	file?(bake: B): KeptFile | null;
	/** Its texels on a ground, in its format; null where there is no model. */
	make(bake: B, ground: Ground): Uint8Array | null;
	/** Its values on a ground, 0..1, a plane a channel: what pictures of 16 bits are written from. */
	fields(bake: B, ground: Ground): readonly number[] | null;
}

export const bakeShape = (own: Readonly<Record<string, Shape>>, optional: readonly string[] = []): Shape =>
	strict({ id, name, finer: orNull(finer), ...own }, ['finer', ...optional]);

/** A plane of tones 0..1 with 16 bits; null where there is none. */
export function deepBytes(fields: readonly number[] | null, { planes, width, height }: Ground): Uint8Array | null {
	const [field] = fields ?? [];
	if (field === undefined) return null;
	const out = planes.take(Math.ceil((width * height) / 2));
	planes.run.deepTones(field, width * height, out);
	return planes.bytes(out, width * height * 2).slice();
}

/** Three planes of 0..1 as RGBA8; clear where there is no face. */
export function colorBytes(planes: Planes, fields: readonly number[], face: Int32Array): Uint8Array {
	const out = new Uint8Array(face.length * 4);
	const [r, g, b] = fields.map((at) => planes.floats(at, face.length)) as [Float32Array, Float32Array, Float32Array];
	const byte = (v: number): number => Math.round(Math.min(1, Math.max(0, v)) * 255);
	for (let i = 0; i < face.length; i++)
		if ((face[i] as number) >= 0)
			out.set([byte(r[i] as number), byte(g[i] as number), byte(b[i] as number), 255], i * 4);
	return out;
}
