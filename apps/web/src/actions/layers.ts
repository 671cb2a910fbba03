import { luma, rgbOfHex } from '@eppu/core/color';
import {
	adjustLayer,
	type Command,
	eachLayer,
	freeName,
	groupLayer,
	type Layer,
	layerOf,
	paintLayer,
	placeOfLayer,
	type Sheet,
	textLayer,
	washLayer,
} from '@eppu/core/document';
import { newFinish } from '@eppu/core/finish';
import { usualRelief } from '@eppu/core/light';
import type { Recipe } from '@eppu/core/recipe';
import { type ToneOp, toneKindOf, toneKinds } from '@eppu/core/tone';
import { toast } from 'sonner';
import { setDesk } from '../studio/desk.ts';
import { question, tell } from '../studio/line.ts';
import { edit, run } from '../studio/say.ts';
import { activeLayerId, activeSheet, sheetIn, useStudio } from '../studio/store.ts';

/** What is done with layers from the screen, wherever it is asked for. */
const get = useStudio.getState;
const set = useStudio.setState;

/** What of a layer one step can change. */
export type LayerChangeOf = Extract<Command, { readonly do: 'layer.change' }>['change'];

/** What the Add menu offers. */
export type NewLayer = 'paint' | 'wash' | 'text' | ToneOp['op'];

/** Adds a layer above the active one, in the same group, and makes it active. */
export function addLayer(kind: NewLayer, sheet: Sheet | undefined = activeSheet(get())): void {
	if (!sheet) return;
	const names = [...eachLayer(sheet.layers)].map((each) => each.name);
	const id = crypto.randomUUID();
	const { front } = get().desk;
	const tone = toneKinds.find(({ op }) => op === kind)?.usual as ToneOp | undefined;
	const layer = tone
		? adjustLayer(id, freeName(toneKindOf(tone).words, names), 'color' in tone ? { ...tone, color: front } : tone)
		: kind === 'paint'
			? paintLayer(id, freeName('Paint', names), { unnamed: true })
			: kind === 'text'
				? textLayer(
						id,
						freeName('Lettering', names),
						{
							text: 'Mossbarrow',
							font: 'signboard',
							size: Math.max(8, Math.round(sheet.height / 12)),
							color: front,
							spacing: 0.02,
							leading: 1,
							align: 'middle',
							box: null,
							x: sheet.width / 2,
							y: sheet.height / 2,
							turn: 0,
							mirrored: false,
							along: null,
						},
						{ unnamed: true },
					)
				: washLayer(id, freeName('Wash', names), front, { unnamed: true });
	const active = activeLayerId(get(), sheet);
	const place = active ? placeOfLayer(sheet, active) : null;
	const target = place?.among[place.at];
	// With a group active the new layer goes into it, on top.
	if (target?.kind === 'group')
		run({ do: 'layer.add', sheet: sheet.id, layer, at: target.layers.length, parent: target.id });
	else
		run({
			do: 'layer.add',
			sheet: sheet.id,
			layer,
			at: place ? place.at + 1 : sheet.layers.length,
			parent: place?.parent?.id ?? null,
		});
	// What was added is seen: the groups around it are unfolded.
	const around = new Set([...(place?.path ?? []).map((group) => group.id), ...(target ? [target.id] : [])]);
	set({ folded: new Set([...get().folded].filter((id) => !around.has(id))) });
	choose(sheet, layer.id);
	set({ newLayer: layer.id });
	if (kind === 'text') set({ drawer: 'layer' });
}

/** Makes a layer the active one; its pixels are painted from then on. */
export function choose(sheet: Sheet, layer: string, onMask = false): void {
	setDesk({ sheet: sheet.id, layers: { ...get().desk.layers, [sheet.id]: layer }, onMask });
	set({ chosen: [] });
}

/** Takes a layer into those chosen together, or out of them. */
export function chooseToo(layer: string): void {
	const { chosen } = get();
	set({ chosen: chosen.includes(layer) ? chosen.filter((each) => each !== layer) : [...chosen, layer] });
}

/** Layers and those within open groups, topmost first, with how deep each stands. */
export function rowsOf(
	layers: readonly Layer[],
	folded: ReadonlySet<string>,
	depth: number,
): { readonly layer: Layer; readonly depth: number }[] {
	return [...layers]
		.reverse()
		.flatMap((layer) => [
			{ layer, depth },
			...(layer.kind === 'group' && !folded.has(layer.id) ? rowsOf(layer.layers, folded, depth + 1) : []),
		]);
}

/** Chooses every layer listed between the active one and this. */
export function chooseRange(sheet: Sheet, layer: string): void {
	const rows = rowsOf(sheet.layers, get().folded, 0).map((row) => row.layer.id);
	const [from, to] = [rows.indexOf(activeLayerId(get(), sheet) ?? layer), rows.indexOf(layer)];
	if (from < 0 || to < 0) return;
	const active = rows[from];
	set({ chosen: rows.slice(Math.min(from, to), Math.max(from, to) + 1).filter((id) => id !== active) });
}

/** A layer under new ids, with all within it. */
function renewed(layer: Layer): Layer {
	const id = crypto.randomUUID();
	const mask = layer.mask && { ...layer.mask, surface: `${id}-m` };
	return {
		...layer,
		id,
		mask,
		...('surface' in layer ? { surface: id } : {}),
		...('layers' in layer ? { layers: layer.layers.map(renewed) } : {}),
	} as Layer;
}

export function copyLayer(sheet: Sheet, layer: Layer): void {
	const names = [...eachLayer(sheet.layers)].map((each) => each.name);
	const copy = { ...renewed(layer), name: freeName(layer.name, names) };
	const place = placeOfLayer(sheet, layer.id);
	if (!place) return;
	const parent = place.parent?.id ?? null;
	run({ do: 'layer.add', sheet: sheet.id, layer: copy, at: place.at + 1, parent, copyOf: layer.id });
	choose(sheet, copy.id);
	set({ newLayer: copy.id });
}

/** Paints on a layer's mask from now on. */
export function chooseMask(sheetId: string, layerId: string): void {
	const sheet = get().outline?.project.sheets.find((each) => each.id === sheetId);
	if (sheet) choose(sheet, layerId, true);
}

/** Gives a layer a mask that shows all, or hides all, and paints on it. */
export function addMask(sheetId: string, layerId: string, hidden = false): void {
	const sheet = get().outline?.project.sheets.find((each) => each.id === sheetId);
	if (!sheet) return;
	const mask = { surface: `${layerId}-m${Date.now().toString(36)}`, on: true };
	run({ do: 'layer.change', sheet: sheetId, layer: layerId, change: { mask }, ...(hidden ? { hidden } : {}) });
	choose(sheet, layerId, true);
	// What is painted on a mask that hides all is to be seen.
	if (hidden) setDesk({ maskFront: '#ffffff', maskBack: '#000000' });
}

/** Gathers the active layer and those chosen with it into a group. */
export function groupChosen(): void {
	const sheet = activeSheet(get());
	const active = activeLayerId(get(), sheet);
	if (!sheet || !active) return;
	const place = placeOfLayer(sheet, active);
	const ids = new Set([active, ...get().chosen]);
	const layers = (place?.among ?? []).filter((each) => ids.has(each.id)).map((each) => each.id);
	const names = [...eachLayer(sheet.layers)].map((each) => each.name);
	const group = groupLayer(crypto.randomUUID(), freeName('Group', names), []);
	run({ do: 'group.make', sheet: sheet.id, group, layers });
	choose(sheet, group.id);
	set({ newLayer: group.id });
}

/** Merges the active layer into the one below it; the result is active. */
export function mergeLayer(sheet: Sheet, layer: Layer): void {
	const newId = crypto.randomUUID();
	tell({ say: layer.kind === 'group' ? 'flatten' : 'merge', sheet: sheet.id, layer: layer.id, newId });
	choose(sheet, newId);
}

/** Above the active layer, in its group. */
function placeAbove(sheet: Sheet): { readonly sheet: string; readonly at: number; readonly parent: string | null } {
	const active = activeLayerId(get(), sheet);
	const place = active ? placeOfLayer(sheet, active) : null;
	return {
		sheet: sheet.id,
		at: place ? place.at + 1 : sheet.layers.length,
		parent: place?.parent?.id ?? null,
	};
}

/** Puts the copied layer above the active one, on whatever sheet and in whatever project that is. */
export function pasteLayer(): void {
	const sheet = activeSheet(get());
	if (sheet) tell({ say: 'paste', ...placeAbove(sheet) });
}

/** A picture becomes a layer above the active one: in the middle, or as large as the sheet. */
export async function pastePicture(file: Blob, name: string, whole = false): Promise<void> {
	const sheet = activeSheet(get());
	if (!sheet) return;
	let bitmap: ImageBitmap;
	try {
		const size = { resizeWidth: sheet.width, resizeHeight: sheet.height, resizeQuality: 'high' } as const;
		bitmap = await createImageBitmap(file, { premultiplyAlpha: 'none', ...(whole ? size : {}) });
	} catch {
		toast(
			whole
				? `The picture "${name}" could not be read.`
				: 'The picture in the clipboard could not be read. Save it as a PNG and drop it here.',
		);
		return;
	}
	const { width, height } = bitmap;
	const context = new OffscreenCanvas(width, height).getContext('2d', { willReadFrequently: true });
	context?.drawImage(bitmap, 0, 0);
	bitmap.close();
	const pixels = context?.getImageData(0, 0, width, height);
	if (!pixels) return;
	const picture = { width, height, data: new Uint8Array(pixels.data.buffer) };
	const names = [...eachLayer(sheet.layers)].map((each) => each.name);
	tell({ say: 'paste-picture', ...placeAbove(sheet), name: freeName(name, names), picture });
}

/** What is selected of a paint layer becomes a layer of its own. */
export function cutToLayer(sheet: Sheet, layer: Layer): void {
	tell({ say: 'cut', sheet: sheet.id, layer: layer.id, newId: crypto.randomUUID() });
}

/** Takes what is selected of the active layer away, to be pasted; all of the layer where nothing is selected. */
export function cutLayer(sheet: Sheet, layer: Layer): void {
	tell({ say: 'copy', sheet: sheet.id, layer: layer.id });
	if (sheet.selection) edit({ do: 'clear' });
	else run({ do: 'layer.remove', sheet: sheet.id, layer: layer.id });
}

/** Computes a layer's mask by a recipe; a layer without a mask gets one. */
export function setRecipe(sheet: Sheet, layer: Layer, recipe: Recipe | null, gesture?: string): void {
	const mask = layer.mask ?? { surface: `${layer.id.slice(0, 40)}-${crypto.randomUUID().slice(0, 8)}`, on: true };
	run({ do: 'layer.change', sheet: sheet.id, layer: layer.id, change: { mask: { ...mask, recipe } } }, gesture);
}

/** Mean tone of what is on a layer, 0..255; null where there is nothing. */
async function toneOfLayer(sheet: Sheet, layer: Layer): Promise<number | null> {
	const counts = await question<'histogram'>({ say: 'histogram', sheet: sheet.id, layer: layer.id });
	const tones = counts.subarray(0, 256);
	const all = tones.reduce((sum, count) => sum + count, 0);
	return all === 0 ? null : tones.reduce((sum, count, tone) => sum + count * tone, 0) / all;
}

/** So far a new outline's tone is from its shape's at the least, 0..255. */
const APART = 70;
const outlineColors = { dark: '#2b2d30', light: '#f3e9d2' } as const;

/** Gives a layer a finish in the front pot's colour; an outline that would not stand out from its shape takes one that does. */
export async function addFinish(sheet: Sheet, layer: Layer, name: Parameters<typeof newFinish>[0]): Promise<void> {
	const finish = newFinish(name, `f${crypto.randomUUID().slice(0, 8)}`);
	const { front } = get().desk;
	const tone = name === 'outline' ? await toneOfLayer(sheet, layer) : null;
	const stands = tone === null || Math.abs(luma(...rgbOfHex(front)) - tone) >= APART;
	const color = stands ? front : tone > 128 ? outlineColors.dark : outlineColors.light;
	const colored = 'color' in finish && name !== 'stitch' ? { ...finish, color } : finish;
	const now = layerOf(sheetIn(get(), sheet.id), layer.id) ?? layer;
	run({
		do: 'layer.change',
		sheet: sheet.id,
		layer: layer.id,
		change: { finishes: [...(now.finishes ?? []), colored] },
	});
}

/** A coat needs a mask to be scraped; one is added where there is none. */
export function toggleCoat(sheet: Sheet, layer: Layer): void {
	const change = layer.coat
		? { coat: null }
		: {
				coat: { depth: 0.34, falloff: 0.35 },
				...(layer.mask
					? {}
					: { mask: { surface: `${layer.id.slice(0, 40)}-${crypto.randomUUID().slice(0, 8)}`, on: true } }),
			};
	run({ do: 'layer.change', sheet: sheet.id, layer: layer.id, change });
}

/** Lets a layer stand out of the surface, or lays it flat again. */
export const toggleRelief = (sheet: Sheet, layer: Layer): void =>
	run({
		do: 'layer.change',
		sheet: sheet.id,
		layer: layer.id,
		change: { relief: layer.relief ? null : usualRelief },
	});

/** Lets the texels of a paint layer point at the palette's entries. */
export const pointAtEntries = (sheet: Sheet, layer: Layer): void =>
	tell({ say: 'point-entries', sheet: sheet.id, layer: layer.id, newId: crypto.randomUUID() });

/** Lets a layer hold colours of its own again; what it shows stays. */
export const holdColors = (sheet: Sheet, layer: Layer): void =>
	run({ do: 'layer.change', sheet: sheet.id, layer: layer.id, change: { entries: null } });
