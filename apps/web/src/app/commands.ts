import { ramp } from '@eppu/core/color';
import { type BlendMode, blendModes, modeWords } from '@eppu/core/composite';
import type { Layer, Sheet } from '@eppu/core/document';
import { finishKinds } from '@eppu/core/finish';
import { framing } from '@eppu/core/projection';
import { presets } from '@eppu/core/recipe';
import type { SelectionChange } from '@eppu/core/select';
import { type ToneOp, toneKinds } from '@eppu/core/tone';
import { edit, lookAlone, run, setDesk, setFront, swapPots, tell } from '../studio/client.ts';
import {
	activeLayer,
	activeSheet,
	type StudioState,
	type ToolName,
	useStudio,
	type ViewLayout,
} from '../studio/store.ts';

import {
	addFinish,
	addLayer,
	addMask,
	copyLayer,
	groupChosen,
	mergeLayer,
	pasteLayer,
	setRecipe,
	toggleCoat,
} from './layers.ts';
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
	...toneKinds.map(({ op, words }) => ({
		id: `add-${op}`,
		label: `Add an adjust layer: ${words}`,
		run: () => addLayer(op as ToneOp['op']),
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
	...finishKinds.map(({ finish, words }) => ({
		id: `finish-${finish}`,
		label: `Finish: ${words.toLowerCase()}`,
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
