import { ramp, type ToneOp, toneNames } from '@eppu/core/color';
import { type BlendMode, blendModes } from '@eppu/core/composite';
import {
	adjustLayer,
	type Command,
	eachLayer,
	freeName,
	groupLayer,
	type Layer,
	modeWords,
	paintLayer,
	placeOfLayer,
	type Sheet,
	textLayer,
	washLayer,
} from '@eppu/core/document';
import { newFinish } from '@eppu/core/finish';
import { presets, type Recipe } from '@eppu/core/recipe';
import type { SelectionChange } from '@eppu/core/select';
import { straightCurve } from '@eppu/core/stroke';
import { framing } from '@eppu/core/target';
import { edit, lookAlone, run, setDesk, setFront, swapPots, tell } from '../studio/client.ts';
import {
	activeLayer,
	activeLayerId,
	activeSheet,
	type StudioState,
	type ToolName,
	useStudio,
	type ViewLayout,
} from '../studio/store.ts';

/** Something that can be asked for: from its key, the search box, or a control. */
export interface AppCommand {
	readonly id: string;
	readonly label: string;
	/** Keys as written in the drawer, e.g. "Ctrl+Z"; none where it has no key. */
	readonly keys?: string;
	/** Held keys do something while they are down and are only listed. */
	readonly held?: boolean;
	readonly run: () => void;
}

const get = useStudio.getState;
const set = useStudio.setState;

export const setTool = (tool: ToolName): void => set({ tool });

const clamp = (v: number, a: number, b: number): number => Math.min(b, Math.max(a, v));
const tipBy = (size: number, strength = 0): void => {
	const { tip } = get().desk;
	setDesk({
		tip: {
			...tip,
			size: clamp(
				Math.round(
					size > 1 ? Math.max(tip.size * size, tip.size + 1) : Math.min(tip.size * size, tip.size - (size < 1 ? 1 : 0)),
				),
				1,
				1000,
			),
			strength: clamp(Math.round((tip.strength + strength) * 100) / 100, 0, 1),
		},
	});
};

/** What of a layer one step can change. */
export type LayerChangeOf = Extract<Command, { readonly do: 'layer.change' }>['change'];

/** What the Add menu offers. */
export type NewLayer = 'paint' | 'wash' | 'text' | ToneOp['op'];

export const usualTones: { readonly [K in ToneOp['op']]: ToneOp & { readonly op: K } } = {
	levels: { op: 'levels', black: 0, white: 1, gamma: 1, outBlack: 0, outWhite: 1 },
	curves: { op: 'curves', all: straightCurve, red: straightCurve, green: straightCurve, blue: straightCurve },
	contrast: { op: 'contrast', brightness: 0, contrast: 0 },
	oklch: { op: 'oklch', lightness: 0, chroma: 0, hue: 0 },
	balance: { op: 'balance', warmth: [0, 0, 0], redness: [0, 0, 0] },
	gradient: { op: 'gradient', colors: ['#2b1d2a', '#b0603f', '#f3e9d2'] },
	posterize: { op: 'posterize', steps: 6 },
	desaturate: { op: 'desaturate', amount: 1 },
	pull: { op: 'pull', color: '#b85a33', amount: 0.25 },
	blur: { op: 'blur', radius: 4 },
	smudge: { op: 'smudge', length: 24, turn: 0 },
	sharpen: { op: 'sharpen', amount: 0.8, radius: 1.5 },
};
/** Adds a layer above the active one, in the same group, and makes it active. */
export function addLayer(kind: NewLayer, sheet: Sheet | undefined = activeSheet(get())): void {
	if (!sheet) return;
	const names = [...eachLayer(sheet.layers)].map((each) => each.name);
	const id = crypto.randomUUID();
	const { front } = get().desk;
	const tone = kind === 'paint' || kind === 'wash' || kind === 'text' ? null : usualTones[kind];
	const layer = tone
		? adjustLayer(id, freeName(toneNames[tone.op], names), tone.op === 'pull' ? { ...tone, color: front } : tone)
		: kind === 'paint'
			? paintLayer(id, freeName('Paint', names))
			: kind === 'text'
				? textLayer(id, freeName('Lettering', names), {
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
					})
				: washLayer(id, freeName('Wash', names), front);
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

/** A layer under new ids, with all within it. */
function renewed(layer: Layer): Layer {
	const id = crypto.randomUUID();
	const mask = layer.mask && { ...layer.mask, surface: `${id}-m` };
	if (layer.kind === 'paint') return { ...layer, id, mask, surface: id };
	if (layer.kind === 'group') return { ...layer, id, mask, layers: layer.layers.map(renewed) };
	return { ...layer, id, mask };
}

export function copyLayer(sheet: Sheet, layer: Layer): void {
	const names = [...eachLayer(sheet.layers)].map((each) => each.name);
	const copy = { ...renewed(layer), name: freeName(layer.name, names) };
	const place = placeOfLayer(sheet, layer.id);
	if (!place) return;
	const parent = place.parent?.id ?? null;
	run({ do: 'layer.add', sheet: sheet.id, layer: copy, at: place.at + 1, parent, copyOf: layer.id });
	choose(sheet, copy.id);
}

/** Gives a layer a mask that shows all, and paints on it. */
export function addMask(sheetId: string, layerId: string): void {
	const sheet = get().outline?.project.sheets.find((each) => each.id === sheetId);
	if (!sheet) return;
	const mask = { surface: `${layerId}-m${Date.now().toString(36)}`, on: true };
	run({ do: 'layer.change', sheet: sheetId, layer: layerId, change: { mask } });
	choose(sheet, layerId, true);
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
}

/** Merges the active layer into the one below it; the result is active. */
export function mergeLayer(sheet: Sheet, layer: Layer): void {
	const newId = crypto.randomUUID();
	tell({ say: layer.kind === 'group' ? 'flatten' : 'merge', sheet: sheet.id, layer: layer.id, newId });
	choose(sheet, newId);
}

/** Adds the colours between the pots to the palette; those that it has already are left out. */
export function addRamp(count: number): void {
	const { outline, desk } = get();
	const palette = outline?.project.palette;
	if (!palette) return;
	const fresh = ramp(desk.front, desk.back, count).filter((hex) => !palette.colors.includes(hex));
	if (fresh.length)
		run({ do: 'palette.set', palette: { ...palette, colors: [...palette.colors, ...fresh].slice(0, 512) } });
}

const drawer = (name: NonNullable<StudioState['drawer']>): void => set({ drawer: get().drawer === name ? null : name });

/** Puts the copied layer above the active one, on whatever sheet and in whatever project that is. */
export function pasteLayer(): void {
	const sheet = activeSheet(get());
	if (!sheet) return;
	const active = activeLayerId(get(), sheet);
	const place = active ? placeOfLayer(sheet, active) : null;
	tell({
		say: 'paste',
		sheet: sheet.id,
		at: place ? place.at + 1 : sheet.layers.length,
		parent: place?.parent?.id ?? null,
	});
}

/** Computes a layer's mask by a recipe; a layer without a mask gets one. */
export function setRecipe(sheet: Sheet, layer: Layer, recipe: Recipe | null, gesture?: string): void {
	const mask = layer.mask ?? { surface: `${layer.id.slice(0, 40)}-${crypto.randomUUID().slice(0, 8)}`, on: true };
	run({ do: 'layer.change', sheet: sheet.id, layer: layer.id, change: { mask: { ...mask, recipe } } }, gesture);
}

export function addFinish(sheet: Sheet, layer: Layer, name: Parameters<typeof newFinish>[0]): void {
	const finish = newFinish(name, `f${crypto.randomUUID().slice(0, 8)}`);
	const { front } = get().desk;
	const colored = 'color' in finish && name !== 'stitch' ? { ...finish, color: front } : finish;
	run({
		do: 'layer.change',
		sheet: sheet.id,
		layer: layer.id,
		change: { finishes: [...(layer.finishes ?? []), colored] },
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

const onSheet = (change: SelectionChange): void => {
	const sheet = activeSheet(get());
	if (sheet) tell({ say: 'selection', sheet: sheet.id, change });
};

const onActive = (act: (sheet: Sheet, layer: Layer) => void): void => {
	const [sheet, layer] = [activeSheet(get()), activeLayer(get())];
	if (sheet && layer) act(sheet, layer);
};

export const straightSides = ['front', 'right', 'back', 'left', 'top', 'bottom'] as const;

/** One of the six straight views, with parallel rays. */
export function straight(side: (typeof straightSides)[number]): void {
	const i = straightSides.indexOf(side);
	const [yaw, pitch] = [[0, 90, 180, -90, 0, 0][i] as number, [0, 0, 0, 0, 90, -90][i] as number];
	setDesk({ camera: { ...get().desk.camera, yaw, pitch, roll: 0, parallel: true } });
}

function frame(): void {
	const { models, desk } = get();
	const model = models[0];
	const view = document.querySelector('[data-view="model"]');
	if (model && view)
		setDesk({ camera: framing(desk.camera, model.center, model.radius, view.clientWidth, view.clientHeight) });
	const sheet = activeSheet(get());
	if (sheet) {
		const { [sheet.id]: _gone, ...places } = get().desk.places;
		setDesk({ places });
	}
}

const layouts: readonly ViewLayout[] = ['both', 'model', 'sheet'];

/** The palette places under the thumb: keys 1 to 8. */
const palettePlaces = (state: StudioState): readonly string[] =>
	state.outline?.project.palette.colors.slice(0, 8) ?? [];

export const commands: readonly AppCommand[] = [
	{ id: 'draw', label: 'Draw', keys: 'D', run: () => setTool('draw') },
	{ id: 'wipe', label: 'Wipe', keys: 'W', run: () => setTool('wipe') },
	{ id: 'soften', label: 'Soften', keys: 'S', run: () => setTool('soften') },
	{ id: 'smear', label: 'Smear', keys: 'Shift+S', run: () => setTool('smear') },
	{ id: 'stamp', label: 'Stamp: press and drag out', keys: 'Shift+D', run: () => setTool('stamp') },
	...(['lighten', 'darken', 'contrast', 'saturate', 'hue'] as const).map((tool) => ({
		id: tool,
		label: tool === 'hue' ? 'Hue shift' : `${tool[0]?.toUpperCase()}${tool.slice(1)}`,
		run: () => setTool(tool),
	})),
	{ id: 'guard', label: 'Guard: choose where paint may go', keys: 'Shift+C', run: () => setTool('guard') },
	{ id: 'lift-guard', label: 'Lift the guard', run: () => setDesk({ guard: null }) },
	{ id: 'fill', label: 'Fill with colour', keys: 'F', run: () => setTool('fill') },
	{ id: 'sample', label: 'Sample colour', keys: 'A', held: true, run: () => setTool('sample') },
	{ id: 'smaller', label: 'Smaller tip', keys: 'Q', run: () => tipBy(1 / 1.15) },
	{ id: 'larger', label: 'Larger tip', keys: 'E', run: () => tipBy(1.15) },
	{ id: 'weaker', label: 'Less strength', keys: 'Shift+Q', run: () => tipBy(1, -0.05) },
	{ id: 'stronger', label: 'More strength', keys: 'Shift+E', run: () => tipBy(1, 0.05) },
	{ id: 'tip-drag', label: 'Drag: size across, strength up and down', keys: 'R', held: true, run: () => undefined },
	{
		id: 'swap',
		label: 'Swap the pots',
		keys: 'Z',
		run: swapPots,
	},
	{
		id: 'stencil-hold',
		label: 'Drag: move the stencil (right turns, wheel scales)',
		keys: 'T',
		held: true,
		run: () => undefined,
	},
	{
		id: 'stencil-hide',
		label: 'Take the stencil off, or put it on again',
		keys: 'Shift+T',
		run: () => setDesk({ stencil: { ...get().desk.stencil, shown: !get().desk.stencil.shown } }),
	},
	{ id: 'no-mirror', label: 'No mirror while held', keys: 'B', held: true, run: () => undefined },
	{ id: 'scrape', label: 'Scrape through the coats', keys: 'X', run: () => setTool('scrape') },
	{ id: 'mend', label: 'Mend the coats', keys: 'Shift+X', run: () => setTool('mend') },
	{ id: 'select', label: 'Select', keys: 'C', run: () => setTool('select') },
	{ id: 'select-all', label: 'Select all', keys: 'Ctrl+A', run: () => onSheet({ to: 'all' }) },
	{ id: 'select-none', label: 'Select nothing', keys: 'Shift+Ctrl+A', run: () => onSheet({ to: 'none' }) },
	{ id: 'select-inverse', label: 'Invert the selection', keys: 'Shift+Ctrl+I', run: () => onSheet({ to: 'inverse' }) },
	...(['rectangle', 'ellipse', 'polygon', 'freehand', 'cling', 'similar', 'island', 'part', 'face'] as const).map(
		(way) => ({
			id: `select-${way}`,
			label: `Select by ${way === 'cling' ? 'clinging to edges' : way === 'similar' ? 'similar colour' : way}`,
			run: () => {
				setTool('select');
				set({ selecting: { ...get().selecting, way } });
			},
		}),
	),
	{ id: 'move', label: 'Move, scale, turn, flip, skew', keys: 'M', run: () => setTool('move') },
	{ id: 'shape', label: 'Draw shapes', keys: 'Shift+F', run: () => setTool('shape') },
	{ id: 'gradient', label: 'Gradient', keys: 'G', run: () => setTool('gradient') },
	{
		id: 'delete-layer',
		label: 'Delete the active layer',
		keys: 'Shift+Delete',
		run: () => onActive((sheet, layer) => run({ do: 'layer.remove', sheet: sheet.id, layer: layer.id })),
	},
	{
		id: 'ramp',
		label: 'Ramp from front pot to back pot into the palette',
		keys: 'Shift+G',
		run: () => addRamp(5),
	},
	{
		id: 'overlays',
		label: 'Hide all overlays',
		keys: 'V',
		held: true,
		run: () => set({ overlaysHidden: !get().overlaysHidden }),
	},
	{
		id: 'views',
		label: 'Views: both, model, sheet',
		keys: 'Tab',
		run: () =>
			set({ layout: get().models.length ? (layouts[(layouts.indexOf(get().layout) + 1) % 3] as ViewLayout) : 'sheet' }),
	},
	{ id: 'pan', label: 'Drag: move the view', keys: 'Space', held: true, run: () => undefined },
	{ id: 'frame', label: 'Frame what is worked on', keys: 'Home', run: frame },
	...straightSides.map((side, i) => ({
		id: `straight-${side}`,
		label: `Straight view: ${side}`,
		keys: `Alt+${i + 1}`,
		run: () => straight(side),
	})),
	{
		id: 'perspective',
		label: 'Perspective',
		keys: 'Alt+0',
		run: () => setDesk({ camera: { ...get().desk.camera, parallel: false } }),
	},
	{ id: 'undo', label: 'Undo', keys: 'Ctrl+Z', run: () => tell({ say: 'undo' }) },
	{ id: 'redo', label: 'Redo', keys: 'Shift+Ctrl+Z', run: () => tell({ say: 'redo' }) },
	{ id: 'ask', label: 'Ask for…', keys: 'Ctrl+K', run: () => set({ asking: true }) },
	{ id: 'add-paint', label: 'Add a paint layer', run: () => addLayer('paint') },
	{ id: 'add-wash', label: 'Add a wash', run: () => addLayer('wash') },
	...(Object.keys(toneNames) as ToneOp['op'][]).map((op) => ({
		id: `add-${op}`,
		label: `Add an adjust layer: ${toneNames[op]}`,
		run: () => addLayer(op),
	})),
	{ id: 'group', label: 'Group the chosen layers', keys: 'Ctrl+G', run: groupChosen },
	{
		id: 'merge',
		label: 'Merge the active layer down, or flatten the group',
		run: () => onActive(mergeLayer),
	},
	{
		id: 'solo',
		label: 'See the active layer alone, or all again',
		run: () => onActive((sheet, layer) => lookAlone(sheet.id, layer.id, 'layer')),
	},
	{
		id: 'mask',
		label: 'Mask: add one, or change between layer and mask',
		keys: 'Shift+W',
		run: () =>
			onActive((sheet, layer) => (layer.mask ? setDesk({ onMask: !get().desk.onMask }) : addMask(sheet.id, layer.id))),
	},
	{ id: 'copy-layer', label: 'Copy the active layer beside it', run: () => onActive(copyLayer) },
	{
		id: 'take-copy',
		label: 'Copy the active layer, or what is selected of it',
		keys: 'Ctrl+C',
		run: () => onActive((sheet, layer) => tell({ say: 'copy', sheet: sheet.id, layer: layer.id })),
	},
	{ id: 'paste', label: 'Paste the copied layer here', keys: 'Ctrl+V', run: pasteLayer },
	{ id: 'text', label: 'Add lettering', run: () => addLayer('text') },
	{ id: 'layer-drawer', label: 'Layer drawer: fill, lettering, finishes, coat', run: () => drawer('layer') },
	{
		id: 'halt',
		label: 'Stop computing masks and finishes, or go on',
		run: () => {
			const { computing } = get();
			if (computing) tell({ say: 'halt', on: !computing.halted });
		},
	},
	{ id: 'recipe-drawer', label: 'Mask recipe drawer', run: () => drawer('recipe') },
	...presets.map((preset) => ({
		id: `recipe-${preset.name}`,
		label: `Mask recipe: ${preset.name}`,
		run: () => onActive((sheet, layer) => setRecipe(sheet, layer, preset.steps)),
	})),
	...(['outline', 'tint', 'pattern', 'stitch'] as const).map((finish) => ({
		id: `finish-${finish}`,
		label: `Finish: ${finish === 'stitch' ? 'stitched line' : finish}`,
		run: () =>
			onActive((sheet, layer) => {
				addFinish(sheet, layer, finish);
				set({ drawer: 'layer' });
			}),
	})),
	{
		id: 'coat',
		label: 'Make the active layer a coat, or no coat any more',
		run: () => onActive(toggleCoat),
	},
	{
		id: 'delete',
		label: 'Delete what is selected, else the active layer',
		keys: 'Delete',
		run: () =>
			onActive((sheet, layer) =>
				sheet.selection ? edit({ do: 'clear' }) : run({ do: 'layer.remove', sheet: sheet.id, layer: layer.id }),
			),
	},
	{
		id: 'hide-layer',
		label: 'Show or hide the active layer',
		run: () =>
			onActive((sheet, layer) =>
				run({ do: 'layer.change', sheet: sheet.id, layer: layer.id, change: { shown: !layer.shown } }),
			),
	},
	{
		id: 'clip-layer',
		label: 'Clip the active layer to the one below, or release it',
		run: () =>
			onActive((sheet, layer) =>
				run({ do: 'layer.change', sheet: sheet.id, layer: layer.id, change: { clip: !layer.clip } }),
			),
	},
	...blendModes.map((mode: BlendMode) => ({
		id: `mode-${mode}`,
		label: `Blend the active layer: ${modeWords(mode)}`,
		run: () =>
			onActive((sheet, layer) => run({ do: 'layer.change', sheet: sheet.id, layer: layer.id, change: { mode } })),
	})),
	{ id: 'history', label: 'History drawer', run: () => set({ drawer: get().drawer === 'history' ? null : 'history' }) },
	{ id: 'pen', label: 'Pen stand-in drawer', run: () => set({ drawer: get().drawer === 'pen' ? null : 'pen' }) },
	{
		id: 'references',
		label: 'References drawer',
		run: () => set({ drawer: get().drawer === 'references' ? null : 'references' }),
	},
	{ id: 'keys', label: 'Keys drawer', run: () => set({ drawer: get().drawer === 'keys' ? null : 'keys' }) },
	...[1, 2, 3, 4, 5, 6, 7, 8].map((n) => ({
		id: `palette-${n}`,
		label: `Palette place ${n}`,
		keys: String(n),
		run: () => {
			const color = palettePlaces(get())[n - 1];
			if (color) setFront(color);
		},
	})),
];

export const commandById = (id: string): AppCommand | undefined => commands.find((command) => command.id === id);
