import { type BlendMode, blendModes, modeWords } from '@eppu/core/composite';
import { finishKinds } from '@eppu/core/finish';
import { presets } from '@eppu/core/recipe';
import { type ToneOp, toneKinds } from '@eppu/core/tone';
import { setDesk } from '../studio/desk.ts';
import { tell } from '../studio/line.ts';
import { edit, run } from '../studio/say.ts';
import { useStudio } from '../studio/store.ts';
import { onActive } from './active.ts';
import type { AppCommand } from './command.ts';
import {
	addFinish,
	addLayer,
	addMask,
	copyLayer,
	cutLayer,
	cutToLayer,
	groupChosen,
	mergeLayer,
	pasteLayer,
	setRecipe,
	toggleCoat,
	toggleRelief,
} from './layers.ts';

const get = useStudio.getState;
const set = useStudio.setState;

export const layerCommands: readonly AppCommand[] = [
	{
		id: 'delete-layer',
		label: 'Delete the active layer',
		keys: 'Shift+Delete',
		run: () => onActive((sheet, layer) => run({ do: 'layer.remove', sheet: sheet.id, layer: layer.id })),
	},
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
	{
		id: 'cut',
		label: 'Cut the active layer, or what is selected of it',
		keys: 'Ctrl+X',
		run: () => onActive(cutLayer),
	},
	{ id: 'cut-to-layer', label: 'Cut what is selected to a new layer', run: () => onActive(cutToLayer) },
	{ id: 'paste', label: 'Paste the copied layer, or a picture', keys: 'Ctrl+V', event: 'paste', run: pasteLayer },
	{
		id: 'mask-hidden',
		label: 'Add a mask that hides all',
		run: () => onActive((sheet, layer) => (layer.mask ? undefined : addMask(sheet.id, layer.id, true))),
	},
	{ id: 'text', label: 'Add lettering', run: () => addLayer('text') },
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
				void addFinish(sheet, layer, finish);
				set({ drawer: 'layer' });
			}),
	})),
	{
		id: 'coat',
		label: 'Make the active layer a coat, or no coat any more',
		run: () => onActive(toggleCoat),
	},
	{
		id: 'relief',
		label: 'Let the active layer stand out as relief, or lay it flat',
		run: () =>
			onActive((sheet, layer) => {
				toggleRelief(sheet, layer);
				set({ drawer: 'layer' });
			}),
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
];
