import type { Kernels } from '@eppu/kernels';
import type { Hex } from '../color/index.ts';
import { eachLayer, type Id, type Layer, type Project, type Sheet, sheetRect } from '../document/index.ts';
import { type Entries, entriesOf, followEntries, type PixelColors, pixelColors } from '../pixel/index.ts';
import { type Block, readBlock, writeBlock } from '../raster/index.ts';
import { createRecord, type Surface, type SurfaceId, type TileRecord } from '../surface/index.ts';

/** The entries of a project's palette. */
export const projectEntries = ({ palette, entries }: Pick<Project, 'palette' | 'entries'>): Entries =>
	entriesOf(palette, entries);

/** Where it says which entries a layer's texels point at, or null where they are colours alone. */
export const pointersOf = (layer: Layer): SurfaceId | null => ('entries' in layer && layer.entries) || null;

type Indexed = Layer & { readonly surface: SurfaceId; readonly entries: SurfaceId };

/** The layers of a sheet whose texels point at entries. */
export const indexedOf = (sheet: Sheet): Indexed[] =>
	[...eachLayer(sheet.layers)].filter((layer): layer is Indexed => pointersOf(layer) !== null);

/** Whether any layer's texels point at entries. */
export const hasIndexed = ({ sheets }: Pick<Project, 'sheets'>): boolean =>
	sheets.some((sheet) => indexedOf(sheet).length > 0);

/** The colours that a strict layer may hold: the entries alone where its texels point at them, else those named `besides` too. */
export const colorsOn = (
	{ palette }: Pick<Project, 'palette'>,
	layer: Layer,
	besides: readonly number[] = [],
): PixelColors => pixelColors(palette, pointersOf(layer) ? { only: 'entries' } : { besides });

/** What texels and their pointers lie on. */
interface Held {
	readonly kernels: Kernels;
	readonly surfaces: ReadonlyMap<SurfaceId, Surface>;
}

/** The texels of a layer, and their pointers. */
interface Pointing {
	readonly colors: Block;
	readonly pointers: Block;
}

export const wordsOf = ({ data }: Block): Uint32Array => new Uint32Array(data.buffer, data.byteOffset, data.length / 4);

/** Reads what a layer's texels are and point at. */
export function readHeld({ kernels }: Pick<Held, 'kernels'>, sheet: Sheet, own: Surface, pointers: Surface): Pointing {
	const rect = sheetRect(sheet);
	return { colors: readBlock(kernels, own, rect), pointers: readBlock(kernels, pointers, rect) };
}

/** Puts other words in a surface's place; the record is empty where none differs. */
export function written(
	{ kernels }: Pick<Held, 'kernels'>,
	surface: Surface,
	block: Block,
	next: Uint32Array,
): TileRecord {
	const record = createRecord(surface);
	const words = wordsOf(block);
	const changed = new Uint8Array(words.length);
	let any = false;
	for (let i = 0; i < words.length; i++)
		if (words[i] !== next[i]) {
			words[i] = next[i] as number;
			changed[i] = 1;
			any = true;
		}
	if (any) writeBlock(kernels, record, block, changed);
	return record;
}

/** What changes on the layers that point at entries as one palette takes another's place, by sheet; locked ones stay. */
export function followedRecords(
	at: Held,
	sheets: readonly Sheet[],
	before: Entries,
	after: Entries,
	pairsOf: (sheet: Sheet) => readonly (readonly [Hex, Hex])[] = () => [],
): Map<Id, TileRecord[]> {
	const out = new Map<Id, TileRecord[]>();
	for (const sheet of sheets)
		for (const layer of indexedOf(sheet)) {
			const [own, pointers] = [at.surfaces.get(layer.surface), at.surfaces.get(layer.entries)];
			if (!own || !pointers || layer.locked) continue;
			const held = readHeld(at, sheet, own, pointers);
			const now = { texels: wordsOf(held.colors), pointers: wordsOf(held.pointers) };
			const next = followEntries(now, before, after, pairsOf(sheet));
			const records = [
				written(at, own, held.colors, next.texels),
				written(at, pointers, held.pointers, next.pointers),
			].filter(({ tiles }) => tiles.size > 0);
			if (records.length) out.set(sheet.id, [...(out.get(sheet.id) ?? []), ...records]);
		}
	return out;
}
