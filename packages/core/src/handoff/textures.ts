import { type Id, type Project, sheetOf } from '../document/index.ts';
import type { Engine } from '../engine/index.ts';
import type { Picture } from '../surface/index.ts';
import { fileKindOf, OrderError, type Writers } from './file/index.ts';
import { freeNames, nameBy } from './name.ts';
import { orderProblem, type TextureOrder } from './order.ts';
import { sizeBy } from './ready.ts';
import { sourceKindOf } from './source/index.ts';
import { type TextureWork, writtenTexture } from './textureJob.ts';

/** A picture file that is to be written. */
export interface TextureFile {
	readonly sheet: Id;
	/** The layer, mask or bake; empty for the whole sheet. */
	readonly part: Id;
	readonly width: number;
	readonly height: number;
	/** With its ending, and folders before it where the pattern has slashes. */
	readonly path: string;
}

/**
 * The files that an order makes of sheets, in their order. Throws OrderError where the order is none, or makes nothing of
 * them.
 */
export function textureFiles(project: Project, sheets: readonly Id[], order: TextureOrder): TextureFile[] {
	const problem = orderProblem(order);
	if (problem) throw new OrderError(problem);
	const source = sourceKindOf(order.of);
	const { ending, most, words } = fileKindOf(order.file);
	const files = sheets.flatMap((id) => {
		const sheet = sheetOf(project, id);
		if (!sheet) return [];
		return source.list(sheet, project).flatMap((part) =>
			[...new Set(order.sizes)].map((side) => {
				const size = sizeBy(sheet, side);
				const name = nameBy(order.pattern, {
					project: project.name,
					sheet: sheet.name,
					layer: part.name,
					...size,
				});
				return { sheet: id, part: part.id, ...size, name };
			}),
		);
	});
	if (!files.length)
		throw new OrderError(
			`There are ${source.none} on what is chosen, so nothing would be written. Choose other sheets.`,
		);
	const large = files.find(({ width, height }) => Math.max(width, height) > most);
	if (large) throw new OrderError(`${words} takes up to ${most} texels a side. Choose a smaller size.`);
	const names = freeNames(files.map(({ name }) => name));
	return files.map(({ name: _, ...file }, i) => ({ ...file, path: `${names[i]}.${ending}` }));
}

/**
 * The picture of one file of an order, and all that its bytes depend on. `whole` is the sheet's composite where the
 * caller has made it already.
 */
export function textureWork(
	engine: Engine,
	file: TextureFile,
	order: TextureOrder,
	whole?: Picture | null,
): TextureWork {
	const sheet = sheetOf(engine.project, file.sheet);
	if (!sheet) throw new OrderError('The sheet is not in this project any more.');
	const picture = (order.of === 'sheet' && whole) || sourceKindOf(order.of).picture(engine, sheet, file.part);
	const { colors, ramps } = engine.project.palette;
	const palette = [...colors, ...(ramps ?? []).flatMap((ramp) => ramp.colors)];
	const { width, height } = file;
	return { job: 'texture', picture, size: { width, height }, order, pixel: Boolean(sheet.pixel), palette };
}

/** One file of an order, written. Throws OrderError where the picture does not fit the file. */
export const writeTexture = (
	engine: Engine,
	file: TextureFile,
	order: TextureOrder,
	writers: Writers,
	whole?: Picture | null,
): Uint8Array<ArrayBuffer> => writtenTexture(textureWork(engine, file, order, whole), writers);

/** Whoever writes the textures of orders. Throws OrderError where a picture does not fit its file. */
export type TextureWriter = (file: TextureFile, order: TextureOrder) => Promise<Uint8Array<ArrayBuffer>>;

/** Writes on this thread. */
export const textureWriter =
	(engine: Engine, writers: Writers): TextureWriter =>
	async (file, order) =>
		writeTexture(engine, file, order, writers);
