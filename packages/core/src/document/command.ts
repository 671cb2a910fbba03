import type { Hex, Palette, ToneOp } from '../color/index.ts';
import { type BlendMode, MOST_NESTED } from '../composite/index.ts';
import type { Finish } from '../finish/index.ts';
import type { SurfaceId } from '../surface/index.ts';
import type { Text } from '../text/index.ts';
import type { WashFill } from '../wash/index.ts';
import { readingCircle } from './circle.ts';
import { depthOf, eachLayer, type LayerPlace, layerOf, placeOfLayer, sheetOf, surfacesOfLayer } from './layerTree.ts';
import { cleanNameProblem } from './names.ts';
import type { Coat, GroupLayer, Id, Layer, Mask, Project, Sheet } from './types.ts';
import { changeProblem } from './validate.ts';

/** What of a layer can be changed in one step. */
export interface LayerChange {
	readonly name?: string;
	readonly shown?: boolean;
	readonly opacity?: number;
	readonly mode?: BlendMode;
	readonly clip?: boolean;
	readonly locked?: boolean;
	readonly lockAlpha?: boolean;
	readonly color?: Hex;
	/** Null goes back to the plain colour. */
	readonly fill?: WashFill | null;
	readonly text?: Text;
	readonly finishes?: readonly Finish[];
	readonly coat?: Coat | null;
	readonly tone?: ToneOp;
	readonly isolated?: boolean;
	/** A new mask shows all until it is painted; null takes the mask away. */
	readonly mask?: Mask | null;
}

/** Every way in which the document, apart from its pixels, changes. */
export type Command =
	/** Into a group, or the sheet itself where `parent` is left out. */
	| {
			readonly do: 'layer.add';
			readonly sheet: Id;
			readonly layer: Layer;
			readonly at: number;
			readonly parent?: Id | null;
			readonly copyOf?: Id;
	  }
	| { readonly do: 'layer.remove'; readonly sheet: Id; readonly layer: Id }
	| {
			readonly do: 'layer.move';
			readonly sheet: Id;
			readonly layer: Id;
			readonly to: number;
			readonly parent?: Id | null;
	  }
	/** Gathers neighbours, bottom first, into a new group in the place of the lowest; or lets a group's layers out. */
	| { readonly do: 'group.make'; readonly sheet: Id; readonly group: GroupLayer; readonly layers: readonly Id[] }
	| { readonly do: 'group.open'; readonly sheet: Id; readonly group: Id }
	/** Puts a list of layers in the place of the sheet's: what inverses of larger changes do. */
	| { readonly do: 'layers.set'; readonly sheet: Id; readonly layers: readonly Layer[]; readonly words: string }
	| { readonly do: 'layer.change'; readonly sheet: Id; readonly layer: Id; readonly change: LayerChange }
	/** Null selects nothing, and so limits nothing. */
	| { readonly do: 'selection.set'; readonly sheet: Id; readonly selection: SurfaceId | null; readonly words: string }
	| { readonly do: 'palette.set'; readonly palette: Palette }
	| { readonly do: 'project.rename'; readonly name: string };

/** Surfaces that a command brings along: what undo and redo may need again. */
export function surfacesOfCommand(command: Command): SurfaceId[] {
	switch (command.do) {
		case 'layer.add':
			return surfacesOfLayer(command.layer).map((each) => each.id);
		case 'layers.set':
			return command.layers.flatMap(surfacesOfLayer).map((each) => each.id);
		case 'layer.change':
			return command.change.mask ? [command.change.mask.surface] : [];
		case 'selection.set':
			return command.selection ? [command.selection] : [];
		default:
			return [];
	}
}

/** A command that names what is not there, or asks for what cannot be. Nothing was changed. */
export class CommandError extends Error {
	override readonly name = 'CommandError';
}

export interface Applied {
	readonly project: Project;
	/** What takes the command back. */
	readonly inverse: Command;
	/** The step in plain words, for the history. */
	readonly words: string;
}

const changeWords = (layer: Layer, change: LayerChange): string => {
	if (change.name !== undefined) return `Rename "${layer.name}" to "${change.name}"`;
	if (change.shown !== undefined) return `${change.shown ? 'Show' : 'Hide'} "${layer.name}"`;
	if (change.opacity !== undefined) return `Opacity of "${layer.name}" ${Math.round(change.opacity * 100)}`;
	if (change.mode !== undefined) return `Blend "${layer.name}" ${modeWords(change.mode)}`;
	if (change.clip !== undefined) return `${change.clip ? 'Clip' : 'Release'} "${layer.name}"`;
	if (change.locked !== undefined) return `${change.locked ? 'Lock' : 'Unlock'} "${layer.name}"`;
	if (change.color !== undefined) return `Colour of "${layer.name}"`;
	if (change.tone !== undefined) return `Tones of "${layer.name}"`;
	if (change.fill !== undefined) return `Fill of "${layer.name}"`;
	if (change.text !== undefined) return `Lettering of "${layer.name}"`;
	if (change.finishes !== undefined) return `Finishes of "${layer.name}"`;
	if (change.coat !== undefined) return change.coat ? `Coat "${layer.name}"` : `"${layer.name}" is no coat any more`;
	if (change.mask !== undefined)
		return !change.mask
			? `Take the mask off "${layer.name}"`
			: layer.mask?.surface === change.mask.surface
				? layer.mask.recipe !== change.mask.recipe
					? `Mask recipe of "${layer.name}"`
					: `Mask of "${layer.name}" ${change.mask.on ? 'on' : 'off'}`
				: `Mask "${layer.name}"`;
	return `Change "${layer.name}"`;
};

/** A blend mode as it is said on the screen: "Color dodge", "Add" for plus-lighter. */
export const modeWords = (mode: BlendMode): string =>
	mode === 'plus-lighter' ? 'Add' : mode[0]?.toUpperCase() + mode.slice(1).replace('-', ' ');

const need = (project: Project, sheet: Id): Sheet => {
	const found = sheetOf(project, sheet);
	if (!found) throw new CommandError('That sheet is not in this project any more. Nothing was changed.');
	return found;
};

const needLayer = (sheet: Sheet, id: Id): Layer => {
	const found = layerOf(sheet, id);
	if (!found) throw new CommandError(`That layer is not on "${sheet.name}" any more. Nothing was changed.`);
	return found;
};

const withLayers = (project: Project, sheet: Sheet, layers: readonly Layer[]): Project => ({
	...project,
	sheets: project.sheets.map((each) => (each.id === sheet.id ? { ...each, layers } : each)),
});

/** The layers of a sheet with those among which `parent` (null: the sheet) holds its own changed. */
const within = (
	layers: readonly Layer[],
	parent: Id | null,
	change: (among: readonly Layer[]) => readonly Layer[],
): readonly Layer[] =>
	parent === null
		? change(layers)
		: layers.map((layer) => {
				if (layer.kind !== 'group') return layer;
				if (layer.id === parent) return { ...layer, layers: change(layer.layers) };
				const inner = within(layer.layers, parent, change);
				return inner.some((each, i) => each !== layer.layers[i]) ? { ...layer, layers: inner } : layer;
			});

const needPlace = (sheet: Sheet, id: Id): LayerPlace => {
	const found = placeOfLayer(sheet, id);
	if (!found) throw new CommandError(`That layer is not on "${sheet.name}" any more. Nothing was changed.`);
	return found;
};

const needParent = (sheet: Sheet, id: Id | null | undefined): GroupLayer | null => {
	if (id === null || id === undefined) return null;
	const found = needLayer(sheet, id);
	if (found.kind !== 'group') throw new CommandError(`"${found.name}" is no group. Nothing was changed.`);
	return found;
};

/** Refuses what would stand deeper than the compositor goes. */
const notTooDeep = (layers: readonly Layer[]): readonly Layer[] => {
	if (depthOf(layers) > MOST_NESTED)
		throw new CommandError(`Groups stand ${MOST_NESTED} deep within each other at the most. Nothing was changed.`);
	return layers;
};

const named = (name: string): string => {
	const problem = cleanNameProblem(name);
	if (problem) throw new CommandError(`${problem} Nothing was changed.`);
	return name.trim();
};

function changed(layer: Layer, change: LayerChange): Layer {
	if (change.name !== undefined) named(change.name);
	if (change.opacity !== undefined && !(change.opacity >= 0 && change.opacity <= 1))
		throw new CommandError('Opacity lies between 0 and 100. Nothing was changed.');
	if (change.color !== undefined && layer.kind !== 'wash')
		throw new CommandError(`"${layer.name}" is no wash, so it has no colour of its own. Nothing was changed.`);
	if (change.tone !== undefined && layer.kind !== 'adjust')
		throw new CommandError(`"${layer.name}" changes no tones. Nothing was changed.`);
	if (change.fill !== undefined && layer.kind !== 'wash')
		throw new CommandError(`"${layer.name}" is no wash, so it has no fill of its own. Nothing was changed.`);
	if (change.text !== undefined && layer.kind !== 'text')
		throw new CommandError(`"${layer.name}" is no lettering. Nothing was changed.`);
	if (change.finishes?.length && layer.kind === 'adjust')
		throw new CommandError(`"${layer.name}" has no shape that a finish could follow. Nothing was changed.`);
	if (change.isolated !== undefined && layer.kind !== 'group')
		throw new CommandError(`"${layer.name}" is no group. Nothing was changed.`);
	return { ...layer, ...change, ...(change.name !== undefined ? { name: named(change.name) } : {}) } as Layer;
}

/** Applies a command to a project; throws CommandError, changing nothing, where it does not fit. */
export function applyCommand(project: Project, command: Command): Applied {
	const applied = made(project, command);
	const sheet = 'sheet' in command ? sheetOf(applied.project, command.sheet) : undefined;
	const circle = sheet && readingCircle(sheet);
	if (!circle) {
		const problem = changeProblem(applied.project);
		if (problem) throw new CommandError(`${problem} Nothing was changed.`);
	} else
		throw new CommandError(
			`"${circle}" would be made from what it makes itself, round in a circle. Tap another layer. Nothing was changed.`,
		);
	return applied;
}

function made(project: Project, command: Command): Applied {
	switch (command.do) {
		case 'layer.add': {
			const sheet = need(project, command.sheet);
			for (const each of eachLayer([command.layer]))
				if (layerOf(sheet, each.id)) throw new CommandError('That layer is on the sheet already. Nothing was changed.');
			const parent = needParent(sheet, command.parent);
			const layers = within(sheet.layers, parent?.id ?? null, (among) => {
				const at = Math.max(0, Math.min(among.length, command.at));
				return [...among.slice(0, at), command.layer, ...among.slice(at)];
			});
			return {
				project: withLayers(project, sheet, notTooDeep(layers)),
				inverse: { do: 'layer.remove', sheet: sheet.id, layer: command.layer.id },
				words: `${command.copyOf ? 'Copy' : 'Add'} "${command.layer.name}"`,
			};
		}
		case 'layer.remove': {
			const sheet = need(project, command.sheet);
			const layer = needLayer(sheet, command.layer);
			const { parent, at } = needPlace(sheet, layer.id);
			return {
				project: withLayers(
					project,
					sheet,
					within(sheet.layers, parent?.id ?? null, (among) => among.filter((each) => each.id !== layer.id)),
				),
				inverse: { do: 'layer.add', sheet: sheet.id, layer, at, parent: parent?.id ?? null },
				words: `Delete "${layer.name}"`,
			};
		}
		case 'layer.move': {
			const sheet = need(project, command.sheet);
			const layer = needLayer(sheet, command.layer);
			const from = needPlace(sheet, layer.id);
			const parent =
				command.parent === undefined ? (from.parent?.id ?? null) : (needParent(sheet, command.parent)?.id ?? null);
			if (parent !== null && [...eachLayer([layer])].some((each) => each.id === parent))
				throw new CommandError(`"${layer.name}" cannot stand within itself. Nothing was changed.`);
			const without = within(sheet.layers, from.parent?.id ?? null, (among) =>
				among.filter((each) => each.id !== layer.id),
			);
			const layers = within(without, parent, (among) => {
				const to = Math.max(0, Math.min(among.length, command.to));
				return [...among.slice(0, to), layer, ...among.slice(to)];
			});
			return {
				project: withLayers(project, sheet, notTooDeep(layers)),
				inverse: { do: 'layer.move', sheet: sheet.id, layer: layer.id, to: from.at, parent: from.parent?.id ?? null },
				words: `Move "${layer.name}"`,
			};
		}
		case 'group.make': {
			const sheet = need(project, command.sheet);
			const places = command.layers.map((id) => needPlace(sheet, id));
			const first = places[0];
			if (!first) throw new CommandError('A group needs at least one layer. Nothing was changed.');
			if (places.some((place) => place.parent?.id !== first.parent?.id))
				throw new CommandError('Only layers that stand together make a group. Nothing was changed.');
			const ids = new Set(command.layers);
			const taken = first.among.filter((each) => ids.has(each.id));
			const group = { ...command.group, layers: taken };
			const lowest = Math.min(...places.map((place) => place.at));
			const layers = within(sheet.layers, first.parent?.id ?? null, (among) =>
				among.flatMap((each, i) => (i === lowest ? [group] : ids.has(each.id) ? [] : [each])),
			);
			return {
				project: withLayers(project, sheet, notTooDeep(layers)),
				inverse: { do: 'layers.set', sheet: sheet.id, layers: sheet.layers, words: `Group "${group.name}"` },
				words: `Group "${group.name}"`,
			};
		}
		case 'group.open': {
			const sheet = need(project, command.sheet);
			const group = needParent(sheet, command.group);
			if (!group) throw new CommandError('That group is not here any more. Nothing was changed.');
			const { parent } = needPlace(sheet, group.id);
			const layers = within(sheet.layers, parent?.id ?? null, (among) =>
				among.flatMap((each) => (each.id === group.id ? group.layers : [each])),
			);
			return {
				project: withLayers(project, sheet, layers),
				inverse: { do: 'layers.set', sheet: sheet.id, layers: sheet.layers, words: `Let out "${group.name}"` },
				words: `Let out "${group.name}"`,
			};
		}
		case 'layers.set': {
			const sheet = need(project, command.sheet);
			return {
				project: withLayers(project, sheet, notTooDeep(command.layers)),
				inverse: { do: 'layers.set', sheet: sheet.id, layers: sheet.layers, words: command.words },
				words: command.words,
			};
		}
		case 'layer.change': {
			const sheet = need(project, command.sheet);
			const layer = needLayer(sheet, command.layer);
			const next = changed(layer, command.change);
			const before = Object.fromEntries(
				Object.keys(command.change).map((key) => [key, layer[key as keyof Layer]]),
			) as LayerChange;
			return {
				project: withLayers(
					project,
					sheet,
					within(sheet.layers, needPlace(sheet, layer.id).parent?.id ?? null, (among) =>
						among.map((each) => (each.id === layer.id ? next : each)),
					),
				),
				inverse: { do: 'layer.change', sheet: sheet.id, layer: layer.id, change: before },
				words: changeWords(layer, command.change),
			};
		}
		case 'selection.set': {
			const sheet = need(project, command.sheet);
			return {
				project: {
					...project,
					sheets: project.sheets.map((each) => (each === sheet ? { ...each, selection: command.selection } : each)),
				},
				inverse: {
					do: 'selection.set',
					sheet: sheet.id,
					selection: sheet.selection ?? null,
					words: command.words,
				},
				words: command.words,
			};
		}
		case 'palette.set':
			return {
				project: { ...project, palette: command.palette },
				inverse: { do: 'palette.set', palette: project.palette },
				words: 'Change the palette',
			};
		case 'project.rename':
			return {
				project: { ...project, name: named(command.name) },
				inverse: { do: 'project.rename', name: project.name },
				words: `Rename the project to "${command.name.trim()}"`,
			};
	}
}
