import { CommandError, eachLayer, type Id, type Sheet, sheetOf, usualBleed } from '../document/index.ts';
import type { Dirty, Engine } from '../engine/index.ts';
import { type Picture, pictureOfSurface, type SurfaceId } from '../surface/index.ts';
import { mergeLayers, placeIds, withOwn } from './merge.ts';
import type { OraImage } from './node.ts';
import { alphaOf, laidOut, maskSum, type Patch, sumOf, trimmed, whiteOf } from './patch.ts';
import { namedFor, type TakenLayers, takeLayers } from './take.ts';

const pictureOf = (
	format: 'color' | 'mask',
	patch: Patch,
	{ width, height }: Pick<Sheet, 'width' | 'height'>,
): Picture => {
	const picture = laidOut(patch, width, height);
	return format === 'mask' ? alphaOf(picture) : picture;
};

/** Pictures that are made as they are asked for: all at once would be large. */
class Laying extends Map<SurfaceId, Picture> {
	readonly #from: TakenLayers['texels'];
	readonly #sheet: Pick<Sheet, 'width' | 'height'>;
	constructor(from: TakenLayers['texels'], sheet: Pick<Sheet, 'width' | 'height'>) {
		super();
		this.#from = from;
		this.#sheet = sheet;
	}
	override get(id: SurfaceId): Picture | undefined {
		const found = this.#from.get(id);
		return found && pictureOf(found.format, found.patch, this.#sheet);
	}
}

/** The sheet that a picture in layers is taken into; throws CommandError where it does not fit. */
function fitting(engine: Engine, id: Id, image: Pick<Sheet, 'width' | 'height'>): Sheet {
	const sheet = sheetOf(engine.project, id);
	if (!sheet) throw new CommandError('The sheet is not in this project any more. Nothing was changed.');
	if (sheet.width !== image.width || sheet.height !== image.height)
		throw new CommandError(
			`The picture is ${image.width} by ${image.height}, "${sheet.name}" ${sheet.width} by ${sheet.height}: it fits a sheet of its own. Nothing was changed.`,
		);
	return sheet;
}

const otherIds = (engine: Engine, sheet: Id | null): Set<Id> =>
	new Set(
		engine.project.sheets.flatMap((each) =>
			each.id === sheet ? [] : [each.id, ...[...eachLayer(each.layers)].map(({ id }) => id)],
		),
	);

/**
 * A picture in layers takes the place of a sheet's layers, as one step; what nobody changed stays as it is. Throws
 * CommandError where it does not fit the sheet.
 */
export function takeOpenRaster(
	engine: Engine,
	id: Id,
	image: OraImage,
	words: string,
	newId: () => string,
): { readonly dirty: Dirty; readonly notes: readonly string[]; readonly changed: number } {
	const sheet = fitting(engine, id, image);
	const taken = takeLayers(image, newId);
	const same = (surface: SurfaceId, patch: Patch): boolean => {
		const known = engine.surface(surface);
		if (!known) return false;
		const now = pictureOfSurface(engine.kernels, known);
		return known.format === 'mask'
			? maskSum(trimmed(whiteOf(now))) === maskSum(patch)
			: sumOf(trimmed(now)) === sumOf(patch);
	};
	const { layers, texels } = namedFor(taken, sheet, otherIds(engine, id), same, newId);
	const notes = [...taken.notes];
	if (taken.base !== sheet.base && (taken.base === null) !== (sheet.base === null))
		notes.push(`The base colour of "${sheet.name}" stays as it is.`);
	if (!texels.size && JSON.stringify(layers) === JSON.stringify(sheet.layers))
		return { dirty: new Map(), notes, changed: 0 };
	const dirty = engine.takeLayers(id, layers, new Laying(texels, sheet), words);
	return { dirty, notes, changed: Math.max(1, texels.size) };
}

/** What went out of a sheet, or was saved of it since, as layers under the names that they went out by. */
export interface SavedLayers extends TakenLayers {
	readonly width: number;
	readonly height: number;
}

/** A file of a sheet that went out as `sent`, which tells what attributes of ours were where another editor lost them. */
export function savedLayers(image: OraImage, sent: OraImage, newId: () => string): SavedLayers {
	const { width, height } = image;
	const owned = withOwn(image, sent);
	return { width, height, ...takeLayers(owned, newId, false, placeIds(owned)) };
}

/**
 * What another editor made of a sheet that was sent to it, over what both sides agreed on last (what was sent, or the
 * saving that was taken last): only what was changed there since comes, as one step. Throws CommandError where it does not fit the sheet any more.
 */
export function mergeOpenRaster(
	engine: Engine,
	id: Id,
	before: SavedLayers,
	theirs: SavedLayers,
	words: string,
	newId: () => string,
): { readonly dirty: Dirty; readonly notes: readonly string[]; readonly changed: boolean } {
	const sheet = fitting(engine, id, theirs);
	const sumHere = (surface: SurfaceId): string => {
		const known = engine.surface(surface);
		if (!known) return '';
		const now = pictureOfSurface(engine.kernels, known);
		return known.format === 'mask' ? maskSum(trimmed(whiteOf(now))) : sumOf(trimmed(now));
	};
	const { layers, texels, notes } = mergeLayers(before, theirs, sheet.layers, sumHere, newId);
	const told = [...theirs.notes, ...notes];
	if (!texels.size && JSON.stringify(layers) === JSON.stringify(sheet.layers))
		return { dirty: new Map(), notes: told, changed: false };
	return { dirty: engine.takeLayers(id, layers, new Laying(texels, sheet), words), notes: told, changed: true };
}

/** A picture in layers as a sheet that no project has yet, and what lies on its surfaces. */
export function sheetOfOpenRaster(
	image: OraImage,
	name: string,
	newId: () => string,
	asPixels = false,
): { readonly sheet: Sheet; readonly texels: ReadonlyMap<SurfaceId, Picture>; readonly notes: readonly string[] } {
	const { width, height } = image;
	const taken = takeLayers(image, newId, asPixels);
	const { layers, texels } = namedFor(taken, null, new Set(), () => false, newId);
	const sheet: Sheet = {
		id: newId(),
		name,
		width,
		height,
		bleed: usualBleed(width, height),
		base: taken.base,
		guide: null,
		layers,
	};
	return { sheet, texels: new Laying(texels, sheet), notes: taken.notes };
}

/** The same as one more sheet of an open project. Throws CommandError where it has no room. */
export function bringOpenRaster(
	engine: Engine,
	image: OraImage,
	name: string,
	newId: () => string,
): { readonly dirty: Dirty; readonly sheet: Id; readonly notes: readonly string[] } {
	const put = (asPixels: boolean) => {
		const { sheet, texels, notes } = sheetOfOpenRaster(image, name, newId, asPixels);
		return { dirty: engine.bringLayers(sheet, texels), sheet: sheet.id, notes };
	};
	const first = put(false);
	const merged = image.merged();
	const off = merged && apart(engine.composite(first.sheet), merged);
	if (!merged || off === 0) return first;
	engine.undo();
	const second = put(true);
	if (apart(engine.composite(second.sheet), merged) >= (off as number)) {
		// Then it is the writer's own picture that differs, and what can stay editable does.
		engine.undo();
		return put(false);
	}
	return {
		...second,
		notes: [...second.notes, 'What was computed depends on what is not here (a model, its bakes): it came as pixels.'],
	};
}

/** By how much two pictures are told apart by what is seen of them: 0 within what rounding makes. */
function apart(a: Picture, b: Picture): number {
	if (a.width !== b.width || a.height !== b.height) return Number.POSITIVE_INFINITY;
	let sum = 0;
	const add = (by: number): void => {
		if (by > 1) sum += by;
	};
	for (let i = 0; i < a.data.length; i += 4) {
		const [x, y] = [a.data[i + 3] as number, b.data[i + 3] as number];
		add(Math.abs(x - y));
		for (let k = 0; k < 3; k++) add(Math.abs((a.data[i + k] as number) * x - (b.data[i + k] as number) * y) / 255);
	}
	return sum;
}
