import type { Layer, Sheet } from '@eppu/core/document';
import type { MaskChange } from '@eppu/core/engine';
import {
	addMask,
	choose,
	copyLayer,
	cutToLayer,
	holdColors,
	type LayerChangeOf,
	mergeLayer,
	pointAtEntries,
	toggleCoat,
} from '../actions/layers.ts';
import { lookAlone } from '../studio/desk.ts';
import { tell } from '../studio/line.ts';
import { run } from '../studio/say.ts';
import { useStudio } from '../studio/store.ts';
import type { MenuItem } from '../ui/Menu.tsx';

/** All that can be done with a layer from its row; `alone` says what of it is looked at alone. */
export function layerMenu(
	sheet: Sheet,
	layer: Layer,
	alone: 'layer' | 'mask' | null,
	rename: () => void,
): readonly MenuItem[] {
	const change = (what: LayerChangeOf): void =>
		run({ do: 'layer.change', sheet: sheet.id, layer: layer.id, change: what });
	return [
		{ label: 'Rename', keys: 'F2', run: rename, takesFocus: true },
		{
			label: layer.kind === 'adjust' ? 'Its mask recipe…' : 'Fill, finishes, relief, coat…',
			run: () => {
				choose(sheet, layer.id);
				useStudio.setState({ drawer: layer.kind === 'adjust' ? 'recipe' : 'layer' });
			},
		},
		...(layer.kind === 'wash'
			? [{ label: 'Take the front pot’s colour', run: () => change({ color: useStudio.getState().desk.front }) }]
			: []),
		layer.mask
			? { label: 'Mask', items: maskItems(sheet, layer, alone === 'mask') }
			: {
					label: 'Add a mask',
					items: [
						{ label: 'That shows all', run: () => addMask(sheet.id, layer.id) },
						{ label: 'That hides all', run: () => addMask(sheet.id, layer.id, true) },
					],
				},
		{
			label: alone === 'layer' ? 'See all again' : 'See it alone',
			apart: true,
			run: () => lookAlone(sheet.id, layer.id, 'layer'),
		},
		{
			label: layer.clip ? 'Release from the layer below' : 'Clip to the layer below',
			run: () => change({ clip: !layer.clip }),
		},
		{ label: layer.locked ? 'Unlock' : 'Lock', run: () => change({ locked: !layer.locked }) },
		...(layer.kind === 'paint'
			? [
					{
						label: layer.lockAlpha ? 'Let paint change the shape' : 'Keep the shape (lock transparency)',
						run: () => change({ lockAlpha: !layer.lockAlpha }),
					},
				]
			: []),
		...(sheet.pixel
			? [
					{
						label: layer.loose ? 'Hold whole texels of the palette' : 'Let it hold soft edges and any colour',
						run: () => change({ loose: !layer.loose }),
					},
				]
			: []),
		...(sheet.pixel && layer.kind === 'paint'
			? [
					layer.entries
						? { label: 'Let it hold any colour', run: () => holdColors(sheet, layer) }
						: { label: 'Point at the palette’s entries', run: () => pointAtEntries(sheet, layer) },
				]
			: []),
		...(layer.kind === 'adjust'
			? []
			: [{ label: layer.coat ? 'No coat any more' : 'Make it a coat', run: () => toggleCoat(sheet, layer) }]),
		{ label: 'Copy beside it', apart: true, run: () => copyLayer(sheet, layer) },
		{
			label: 'Copy, to paste on another sheet',
			keys: 'Ctrl+C',
			run: () => tell({ say: 'copy', sheet: sheet.id, layer: layer.id }),
		},
		...(sheet.selection && layer.kind === 'paint'
			? [{ label: 'Cut what is selected to a new layer', run: () => cutToLayer(sheet, layer) }]
			: []),
		...(layer.kind === 'group'
			? [
					{ label: 'Flatten into one layer', run: () => mergeLayer(sheet, layer) },
					{ label: 'Let its layers out', run: () => run({ do: 'group.open', sheet: sheet.id, group: layer.id }) },
				]
			: [{ label: 'Merge down', run: () => mergeLayer(sheet, layer) }]),
		{
			label: 'Delete',
			danger: true,
			apart: true,
			run: () => run({ do: 'layer.remove', sheet: sheet.id, layer: layer.id }),
		},
	];
}

/** What can be done with a layer's mask. */
function maskItems(sheet: Sheet, layer: Layer, alone: boolean): MenuItem[] {
	const { mask } = layer;
	if (!mask) return [];
	const set = (next: Layer['mask']): void =>
		run({ do: 'layer.change', sheet: sheet.id, layer: layer.id, change: { mask: next } });
	const change = (what: MaskChange) => (): void =>
		tell({ say: 'mask', sheet: sheet.id, layer: layer.id, change: what });
	return [
		{ label: alone ? 'See all again' : 'See it alone', run: () => lookAlone(sheet.id, layer.id, 'mask') },
		{ label: mask.on ? 'Switch off' : 'Switch on', run: () => set({ ...mask, on: !mask.on }) },
		{
			label: mask.recipe?.length ? 'Its recipe…' : 'Make it by a recipe…',
			apart: true,
			run: () => {
				choose(sheet, layer.id);
				useStudio.setState({ drawer: 'recipe' });
			},
		},
		...(mask.recipe?.length ? [{ label: 'Turn the recipe into paint', run: change({ to: 'painted' }) }] : []),
		{ label: 'From the selection', run: change({ to: 'selection' }) },
		{
			label: 'Select what it shows',
			run: () =>
				tell({ say: 'select', sheet: sheet.id, by: { by: 'layer', layer: layer.id, of: 'mask' }, joining: 'replace' }),
		},
		{ label: 'Invert', apart: true, run: change({ to: 'inverse' }) },
		{ label: 'Show all', run: change({ to: 'value', value: 255 }) },
		{ label: 'Hide all', run: change({ to: 'value', value: 0 }) },
		...(layer.kind === 'paint' ? [{ label: 'Turn into pixels', run: change({ to: 'pixels' }) }] : []),
		{ label: 'Take off', danger: true, apart: true, run: () => set(null) },
	];
}
