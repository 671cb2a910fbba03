import { type Id, type Model, type Sheet, sheetOf } from '../document/index.ts';
import type { Engine } from '../engine/index.ts';
import { safeName } from '../format/index.ts';
import { type Look, type NamedFile, oriented, partsOf } from '../mesh/index.ts';
import { fileKindOf, OrderError } from './file/index.ts';
import { modelKindOf, modelKinds } from './model/index.ts';
import { freeNames } from './name.ts';
import { type TextureOrder, usualOrder } from './order.ts';
import { sizeBy } from './ready.ts';
import type { TextureWriter } from './textures.ts';

/** How models are written: plain data. */
export interface ModelOrder {
	/** The kind of model file. */
	readonly as: string;
	/** Or parts by their names. */
	readonly parts: 'all' | 'shown' | readonly string[];
	readonly textures: 'inside' | 'beside' | 'none';
	/** Texels of the longer side of their textures; 0 is each sheet's own. */
	readonly size: number;
	/** Units of the file in each of ours. */
	readonly scale: number;
	readonly up: 'y' | 'z';
	/** Drawn as painted, without light. */
	readonly unlit: boolean;
}

export const usualModelOrder: ModelOrder = {
	as: 'glb',
	parts: 'all',
	textures: 'inside',
	size: 0,
	scale: 1,
	up: 'y',
	unlit: true,
};

/** What is wrong with an order for models, with the way out, or null where it is one. */
export function modelOrderProblem(order: ModelOrder): string | null {
	if (!modelKinds.some(({ kind }) => kind === order.as))
		return `Models are written as ${modelKinds.map(({ kind }) => kind).join(', ')}; not as "${order.as}".`;
	if (!(order.scale > 0 && order.scale <= 100_000)) return `Scale is more than 0, up to 100000; not "${order.scale}".`;
	if (!(Number.isInteger(order.size) && order.size >= 0 && order.size <= 8192))
		return `Textures are 1 to 8192 texels; not "${order.size}".`;
	const { words, ups, textures } = modelKindOf(order.as);
	if (!ups.includes(order.up)) return `${words}: there Y is up. Choose OBJ or PLY for Z.`;
	if (order.textures !== 'none' && textures.length && !textures.includes(order.textures))
		return `${words}: textures lie ${textures.join(' or ')}; not "${order.textures}".`;
	return null;
}

/** Whether texels that a model shows are clear, as a file is to say it. */
function alphaOf(engine: Engine, model: Model, sheet: Sheet): Look['alpha'] {
	const map = engine.scene(model.id)?.mapOf(sheet);
	const { data } = engine.composite(sheet.id);
	if (!map) return 'opaque';
	for (let i = 0; i < map.faceOfTexel.length; i++)
		if (map.faceOfTexel[i] && (data[i * 4 + 3] as number) < 255) return sheet.pixel ? 'cut' : 'blend';
	return 'opaque';
}

/**
 * A model as files, as it lies on its sheets now, with what is painted on it; `write` writes its textures. Throws OrderError where there is no such
 * model, or nothing of it would be written.
 */
export async function writeModel(
	engine: Engine,
	id: Id,
	order: ModelOrder,
	write: TextureWriter,
	texture: TextureOrder = usualOrder,
): Promise<NamedFile[]> {
	const problem = modelOrderProblem(order);
	if (problem) throw new OrderError(problem);
	const model = engine.project.models.find((each) => each.id === id);
	const scene = engine.scene(id);
	if (!model || !scene) throw new OrderError('That model is not in this project any more.');
	const kind = modelKindOf(order.as);
	const { parts } = order;
	const isMeant = ({ name, shown }: Model['parts'][number]): boolean =>
		parts === 'all' || (parts === 'shown' ? shown : parts.includes(name));
	const keep = model.parts.flatMap((part, i) => (isMeant(part) ? [i] : []));
	if (!keep.length)
		throw new OrderError(
			`No part of "${model.name}" is ${parts === 'shown' ? 'shown' : 'chosen'}. Choose one, or write all.`,
		);
	const from = kind.colored ? engine.vertexColored(id) : scene.mesh;
	const mesh = oriented(partsOf(from, keep), order.scale, order.up);
	const stem = safeName(model.name);
	const files: NamedFile[] = [];
	const looks = new Map<Id, Look>();
	if (order.textures !== 'none' && kind.textures.length) {
		const sheets = [...new Set(keep.map((i) => model.parts[i]?.sheet as Id))].flatMap(
			(sheet) => sheetOf(engine.project, sheet) ?? [],
		);
		const names = freeNames(sheets.map(({ name }) => safeName(name)));
		// A model's material carries its picture as it is painted: what the order says of alpha would be another look.
		const plain: TextureOrder = { ...usualOrder, bleed: texture.bleed, smaller: texture.smaller, sizes: [order.size] };
		const { ending, mime } = fileKindOf(plain.file);
		for (const [i, sheet] of sheets.entries()) {
			const size = sizeBy(sheet, order.size);
			const path = `${names[i]}.${ending}`;
			const bytes = await write({ sheet: sheet.id, part: '', ...size, path }, plain);
			looks.set(sheet.id, {
				name: names[i] as string,
				picture: { path, bytes, mime },
				nearest: Boolean(sheet.pixel),
				alpha: alphaOf(engine, model, sheet),
				unlit: order.unlit,
			});
			if (order.textures === 'beside') files.push([path, bytes]);
		}
	}
	const ofParts = keep.map((i) => looks.get(model.parts[i]?.sheet as Id) ?? null);
	return [...(await kind.write(mesh, ofParts, stem, order.textures)), ...files];
}
