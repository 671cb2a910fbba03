import {
	type Command,
	eachLayer,
	type Id,
	isStrict,
	kindOf,
	type Layer,
	layerOf,
	type Project,
	placeOfLayer,
	type Sheet,
	sheetOf,
} from '../document/index.ts';
import { newStep } from '../recipe/index.ts';
import { type Seen, seenOn } from './focus.ts';

/** Why paint cannot land, said in place, with a one-click way out where there is one. */
export interface Refusal {
	readonly code:
		| 'no-sheet'
		| 'no-layer'
		| 'hidden'
		| 'locked'
		| 'wash'
		| 'off-model'
		| 'guarded'
		| 'no-picture'
		| 'no-mask'
		| 'mask-off'
		| 'no-pixels'
		| 'no-coats'
		| 'computed'
		| 'nothing-there'
		| 'no-area'
		| 'edge-on'
		| 'keeps-shape'
		| 'mixes';
	readonly text: string;
	readonly mend:
		| { readonly label: string; readonly command: Command }
		| { readonly label: string; readonly addLayer: Id }
		| { readonly label: string; readonly liftGuard: true }
		/** All of a sheet is looked at again. */
		| { readonly label: string; readonly lookWhole: Id }
		| { readonly label: string; readonly addMask: Id; readonly sheet: Id }
		/** The layer's mask is painted from now on. */
		| { readonly label: string; readonly paintMask: Id; readonly sheet: Id }
		| null;
}

/** The reason why a layer takes no paint now, or null where it does. */
export function whyNotPaint(project: Project, sheetId: Id, layerId: Id | undefined, onMask = false): Refusal | null {
	const sheet = sheetOf(project, sheetId);
	if (!sheet) return { code: 'no-sheet', text: 'There is no sheet under the brush.', mend: null };
	const layer = layerOf(sheet, layerId);
	if (!layer)
		return {
			code: 'no-layer',
			text: `No layer of "${sheet.name}" is chosen to paint on.`,
			mend: { label: 'Add a layer', addLayer: sheet.id },
		};
	const change = (label: string, change_: { shown?: boolean; locked?: boolean }) => ({
		label,
		command: { do: 'layer.change', sheet: sheet.id, layer: layer.id, change: change_ } as const,
	});
	if (!layer.shown)
		return {
			code: 'hidden',
			text: `"${layer.name}" is hidden, so paint would not be seen.`,
			mend: change('Show it', { shown: true }),
		};
	if (layer.locked)
		return { code: 'locked', text: `"${layer.name}" is locked.`, mend: change('Unlock it', { locked: false }) };
	if (onMask) {
		if (!layer.mask)
			return {
				code: 'no-mask',
				text: `"${layer.name}" has no mask to paint on.`,
				mend: { label: 'Add a mask', addMask: layer.id, sheet: sheet.id },
			};
		if (!layer.mask.on)
			return {
				code: 'mask-off',
				text: `The mask of "${layer.name}" is switched off, so paint on it would not be seen.`,
				mend: {
					label: 'Switch it on',
					command: {
						do: 'layer.change',
						sheet: sheet.id,
						layer: layer.id,
						change: { mask: { ...layer.mask, on: true } },
					},
				},
			};
		if (layer.mask.recipe?.length && !layer.mask.recipe.some((step) => step.on && step.step === 'painted'))
			return {
				code: 'computed',
				text: `The mask of "${layer.name}" is made by its recipe. A step "Painted by hand" takes strokes in.`,
				mend: {
					label: 'Add that step',
					command: {
						do: 'layer.change',
						sheet: sheet.id,
						layer: layer.id,
						change: {
							mask: {
								...layer.mask,
								recipe: [...layer.mask.recipe, newStep('painted', `p${layer.mask.recipe.length}`)],
							},
						},
					},
				},
			};
		return null;
	}
	const unseen = placeOfLayer(sheet, layer.id)?.path.find((group) => !group.shown);
	if (unseen)
		return {
			code: 'hidden',
			text: `The group "${unseen.name}" is hidden, so paint in it would not be seen.`,
			mend: {
				label: 'Show it',
				command: { do: 'layer.change', sheet: sheet.id, layer: unseen.id, change: { shown: true } },
			},
		};
	const why = kindOf(layer).noPaint(layer);
	if (!why) return null;
	const { code, text, instead } = why;
	if (instead === 'layer') return { code, text, mend: { label: 'Add a layer above', addLayer: sheet.id } };
	return {
		code,
		text,
		mend: layer.mask
			? { label: 'Paint on its mask', paintMask: layer.id, sheet: sheet.id }
			: { label: 'Add a mask', addMask: layer.id, sheet: sheet.id },
	};
}

/** Tools whose work is colours in between. */
const mixing: Readonly<Record<string, string>> = {
	smear: 'Smearing',
	contrast: 'More contrast',
	saturate: 'More or less colour',
	hue: 'Another hue',
};

/** The reason why a tool does nothing on a layer that holds colours of the palette alone, or null where it does. */
export function whyNotMix(sheet: Sheet, layer: Layer, tool: string): Refusal | null {
	const what = mixing[tool];
	if (!what || !isStrict(sheet, layer)) return null;
	return {
		code: 'mixes',
		text: `${what} makes colours in between, and "${layer.name}" holds only colours of the palette.`,
		mend: {
			label: 'Let it hold any colour',
			command: { do: 'layer.change', sheet: sheet.id, layer: layer.id, change: { loose: true } },
		},
	};
}

/** The reason why there is nothing to scrape on a sheet, or null where there is a coat. */
export function whyNotScrape(project: Project, sheetId: Id): Refusal | null {
	const sheet = sheetOf(project, sheetId);
	if (!sheet) return { code: 'no-sheet', text: 'There is no sheet under the brush.', mend: null };
	const coats = [...eachLayer(sheet.layers)].filter((layer) => layer.coat);
	if (coats.length === 0)
		return {
			code: 'no-coats',
			text: `No layer of "${sheet.name}" is marked as a coat yet: choose "Make it a coat" in the menus of those that are to be cut through.`,
			mend: null,
		};
	const hidden = coats.find((layer) => !layer.shown || layer.locked);
	if (coats.every((layer) => !layer.shown || layer.locked || !layer.mask?.on))
		return {
			code: 'hidden',
			text: 'Every coat is hidden or locked, so scraping would change nothing.',
			mend: hidden
				? {
						label: 'Show and unlock the first',
						command: {
							do: 'layer.change',
							sheet: sheet.id,
							layer: hidden.id,
							change: { shown: true, locked: false },
						},
					}
				: null,
		};
	return null;
}

/** Said of a stroke that stayed wholly beside what is selected. */
export const nothingSelected = (sheet: { readonly id: Id }): Refusal => ({
	code: 'guarded',
	text: 'Nothing here is selected, so nothing was painted.',
	mend: {
		label: 'Select nothing',
		command: { do: 'selection.set', sheet: sheet.id, selection: null, words: 'Select nothing' },
	},
});

/** The reason why paint on a layer would not be seen while only a part of its sheet is looked at, or null where it would. */
export function whyUnseen(sheet: Sheet, layer: Layer, seen: Seen | null): Refusal | null {
	if (!seen || !seenOn(seen, sheet.id) || 'fading' in seen) return null;
	const outermost = placeOfLayer(sheet, layer.id)?.path[0]?.id ?? layer.id;
	const shown =
		'bake' in seen
			? false
			: 'upTo' in seen
				? sheet.layers.findIndex((each) => each.id === outermost) < seen.upTo
				: layer.id === seen.layer || placeOfLayer(sheet, layer.id)?.path.some((group) => group.id === seen.layer);
	if (shown) return null;
	const only =
		'bake' in seen
			? 'a bake alone is shown'
			: 'upTo' in seen
				? 'the stack is shown only in part'
				: `only "${layerOf(sheet, seen.layer)?.name ?? 'another layer'}" is shown`;
	return {
		code: 'hidden',
		text: `Now ${only}, so paint on "${layer.name}" would not be seen.`,
		mend: { label: 'Show all', lookWhole: sheet.id },
	};
}
