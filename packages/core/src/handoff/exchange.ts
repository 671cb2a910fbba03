import type { PngReader, PngWriter } from '@eppu/kernels';
import {
	CommandError,
	eachLayer,
	freeName,
	type Id,
	type Layer,
	layerOf,
	paintLayer,
	type Sheet,
	sheetOf,
} from '../document/index.ts';
import type { Dirty, Engine } from '../engine/index.ts';
import { type Plan, planned, safeName } from '../format/index.ts';
import {
	mergeOpenRaster,
	type OraImage,
	type Pictures,
	planOpenRaster,
	readOpenRaster,
	type SavedLayers,
	savedLayers,
} from '../openraster/index.ts';
import type { Picture } from '../surface/index.ts';
import { OrderError } from './file/index.ts';
import { grayPicture } from './gray.ts';

/** What goes out to another editor. */
export type ExchangeWhat =
	| { readonly of: 'sheet'; readonly sheet: Id }
	| { readonly of: 'layer' | 'mask'; readonly sheet: Id; readonly layer: Id };

/** A file that goes out, and what another program may show otherwise. */
export interface ExchangeFile {
	readonly name: string;
	readonly bytes: Uint8Array<ArrayBuffer>;
	readonly notes: readonly string[];
}

/** What went out or was saved since, as it was read: what both sides agree on is not read again with each saving. */
export type ReadSaving =
	| { readonly of: 'layers'; readonly image: OraImage; readonly layers: SavedLayers }
	| { readonly of: 'picture'; readonly picture: Picture };

export interface Taken {
	readonly dirty: Dirty;
	readonly changed: boolean;
	readonly notes: readonly string[];
}

function needSheet(engine: Engine, what: ExchangeWhat): Sheet {
	const sheet = sheetOf(engine.project, what.sheet);
	if (!sheet) throw new CommandError('The sheet is not in this project any more.');
	return sheet;
}

function needLayer(
	engine: Engine,
	what: Exclude<ExchangeWhat, { of: 'sheet' }>,
): { readonly sheet: Sheet; readonly layer: Layer } {
	const sheet = needSheet(engine, what);
	const layer = layerOf(sheet, what.layer);
	if (!layer) throw new CommandError(`The layer is not on "${sheet.name}" any more.`);
	return { sheet, layer };
}

/** What is on a layer, or its mask as greys, of the sheet's size. Throws OrderError where it is not painted by hand. */
function pictureOf(engine: Engine, what: Exclude<ExchangeWhat, { of: 'sheet' }>): Picture {
	const { sheet, layer } = needLayer(engine, what);
	if (what.of === 'layer') {
		if ('surface' in layer) return engine.layerPicture(sheet.id, layer.id, true);
		throw new OrderError(`"${layer.name}" is not painted by hand. Send the whole sheet, or a paint layer.`);
	}
	const mask = layer.mask && !layer.mask.recipe?.length ? engine.maskPicture(sheet.id, layer.id) : null;
	if (!mask) throw new OrderError(`"${layer.name}" has no mask that is painted by hand.`);
	return grayPicture(mask);
}

/** A sheet, a layer or a mask as a file for another editor. Throws OrderError or CommandError where it cannot be one. */
export const planExchange =
	(engine: Engine, what: ExchangeWhat): Plan<ExchangeFile> =>
	(take) => {
		const sheet = needSheet(engine, what);
		const project = safeName(engine.project.name);
		if (what.of === 'sheet') {
			const finish = planOpenRaster(engine, sheet.id)(take);
			return (pngs) => ({ name: `${project}-${safeName(sheet.name)}.ora`, ...finish(pngs) });
		}
		const { layer } = needLayer(engine, what);
		const { width, height, data } = pictureOf(engine, what);
		const name = `${project}-${safeName(sheet.name)}-${safeName(layer.name)}${what.of === 'mask' ? '-mask' : ''}.png`;
		const png = take({ width, height, data: what.of === 'mask' ? data.filter((_, i) => i % 4 === 0) : data });
		return (pngs) => ({ name, bytes: new Uint8Array(pngs[png] as Uint8Array), notes: [] });
	};

/** The same, all of it written here. */
export const writeExchange = (engine: Engine, what: ExchangeWhat, write: PngWriter): ExchangeFile =>
	planned(write, planExchange(engine, what));

/** Two pictures by what is seen of them: what is clear has no colour. */
function same(a: Picture, b: Picture): boolean {
	if (a.width !== b.width || a.height !== b.height) return false;
	for (let i = 0; i < a.data.length; i += 4) {
		if (a.data[i + 3] !== b.data[i + 3]) return false;
		if (
			a.data[i + 3] &&
			(a.data[i] !== b.data[i] || a.data[i + 1] !== b.data[i + 1] || a.data[i + 2] !== b.data[i + 2])
		)
			return false;
	}
	return true;
}

/** The middle of red, green and blue over black, one byte a texel: a mask that was saved with colours or alpha. */
const toneOf = ({ width, height, data }: Picture): Picture => ({
	width,
	height,
	data: Uint8Array.from({ length: width * height }, (_, i) =>
		Math.round(
			((((data[i * 4] as number) + (data[i * 4 + 1] as number) + (data[i * 4 + 2] as number)) / 3) *
				(data[i * 4 + 3] as number)) /
				255,
		),
	),
});

/**
 * A file that went out, or a saving of it; of what is not what went out, `sent` is. Throws OpenRasterError or OrderError
 * where it cannot be read.
 */
export function readSaving(
	what: ExchangeWhat,
	bytes: Uint8Array,
	name: string,
	read: PngReader,
	newId: () => string,
	sent: ReadSaving | null = null,
	known: Pictures = new Map(),
): ReadSaving {
	if (what.of === 'sheet') {
		const image = readOpenRaster(bytes, name, read, known);
		return { of: 'layers', image, layers: savedLayers(image, sent?.of === 'layers' ? sent.image : image, newId) };
	}
	try {
		return { of: 'picture', picture: read(bytes) };
	} catch {
		throw new OrderError(`${name} is damaged: it cannot be read as PNG. Save it once more.`);
	}
}

/**
 * What another editor saved of what went out to it, as one step, over what both sides agreed on; nothing where it changed
 * nothing. Where both sides painted on the same, both are kept, and it is said. Throws CommandError or OrderError, changing
 * nothing, where it does not fit any more.
 */
export function takeExchange(
	engine: Engine,
	what: ExchangeWhat,
	agreed: ReadSaving,
	saved: ReadSaving,
	name: string,
	newId: () => string,
): Taken {
	const words = `Take "${name}" in`;
	if (what.of === 'sheet' || agreed.of === 'layers' || saved.of === 'layers') {
		if (agreed.of !== 'layers' || saved.of !== 'layers') throw new OrderError(`${name} is no file of layers.`);
		return mergeOpenRaster(engine, what.sheet, agreed.layers, saved.layers, words, newId);
	}
	const { sheet, layer } = needLayer(engine, what);
	const [theirs, before, here] = [saved.picture, agreed.picture, pictureOf(engine, what)];
	if (theirs.width !== sheet.width || theirs.height !== sheet.height)
		throw new CommandError(
			`${name} is ${theirs.width} by ${theirs.height} now, "${sheet.name}" ${sheet.width} by ${sheet.height}. Save it at that size; nothing was changed.`,
		);
	if (same(theirs, before) || same(theirs, here)) return { dirty: new Map(), changed: false, notes: [] };
	const on = what.of === 'mask' ? 'mask' : 'color';
	if (same(before, here))
		return {
			dirty: engine.lay(sheet.id, layer.id, on, on === 'mask' ? toneOf(theirs) : theirs, words),
			changed: true,
			notes: [],
		};
	const taken = [...eachLayer(sheet.layers)].map((each) => each.name);
	const beside = paintLayer(
		newId(),
		freeName(`${layer.name}${on === 'mask' ? ' mask' : ''}, from elsewhere`.slice(0, 120), taken),
	);
	const put = (list: readonly Layer[]): Layer[] =>
		list.flatMap((each): Layer[] => {
			const inner = 'layers' in each ? { ...each, layers: put(each.layers) } : each;
			return each.id === layer.id ? [inner, beside] : [inner];
		});
	return {
		dirty: engine.takeLayers(sheet.id, put(sheet.layers), new Map([[beside.surface, theirs]]), words),
		changed: true,
		notes: [`"${layer.name}" was painted on both sides: what is from elsewhere stands above it as "${beside.name}".`],
	};
}
