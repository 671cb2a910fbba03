import { ramp } from '@eppu/core/color';
import { type BlendMode, blendModes } from '@eppu/core/composite';
import { freeName, type Layer, modeWords, paintLayer, type Sheet, washLayer } from '@eppu/core/document';
import { framing } from '@eppu/core/target';
import { run, setDesk, tell } from '../studio/client.ts';
import {
	activeLayer,
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

/** Adds a layer above the active one and makes it active. */
export function addLayer(kind: 'paint' | 'wash', sheet: Sheet | undefined = activeSheet(get())): void {
	if (!sheet) return;
	const names = sheet.layers.map((each) => each.name);
	const id = crypto.randomUUID();
	const layer =
		kind === 'paint'
			? paintLayer(id, freeName('Paint', names))
			: washLayer(id, freeName('Wash', names), get().desk.front);
	const active = activeLayer(get());
	const at = active && sheet.layers.includes(active) ? sheet.layers.indexOf(active) + 1 : sheet.layers.length;
	run({ do: 'layer.add', sheet: sheet.id, layer, at });
	choose(sheet, layer.id);
}

export const choose = (sheet: Sheet, layer: string): void =>
	setDesk({ sheet: sheet.id, layers: { ...get().desk.layers, [sheet.id]: layer } });

export function copyLayer(sheet: Sheet, layer: Layer): void {
	const id = crypto.randomUUID();
	const name = freeName(
		layer.name,
		sheet.layers.map((each) => each.name),
	);
	const mask = layer.mask && { ...layer.mask, surface: `${id}-m` };
	const copy: Layer = layer.kind === 'paint' ? { ...layer, id, name, mask, surface: id } : { ...layer, id, name, mask };
	run({ do: 'layer.add', sheet: sheet.id, layer: copy, at: sheet.layers.indexOf(layer) + 1, copyOf: layer.id });
	choose(sheet, id);
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
		run: () => setDesk({ front: get().desk.back, back: get().desk.front }),
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
	{
		id: 'ramp',
		label: 'Ramp from front pot to back pot into the palette',
		keys: 'G',
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
	{ id: 'copy-layer', label: 'Copy the active layer', run: () => onActive(copyLayer) },
	{
		id: 'delete-layer',
		label: 'Delete the active layer',
		keys: 'Delete',
		run: () => onActive((sheet, layer) => run({ do: 'layer.remove', sheet: sheet.id, layer: layer.id })),
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
			if (color) setDesk({ front: color });
		},
	})),
];

export const commandById = (id: string): AppCommand | undefined => commands.find((command) => command.id === id);
