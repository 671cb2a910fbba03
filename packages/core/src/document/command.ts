import type { Hex, Palette } from '../color/index.ts';
import type { BlendMode } from '../composite/index.ts';
import { type Id, type Layer, layerOf, type Project, type Sheet, sheetOf } from './project.ts';

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
}

/** Every way in which the document, apart from its pixels, changes. */
export type Command =
	| { readonly do: 'layer.add'; readonly sheet: Id; readonly layer: Layer; readonly at: number; readonly copyOf?: Id }
	| { readonly do: 'layer.remove'; readonly sheet: Id; readonly layer: Id }
	| { readonly do: 'layer.move'; readonly sheet: Id; readonly layer: Id; readonly to: number }
	| { readonly do: 'layer.change'; readonly sheet: Id; readonly layer: Id; readonly change: LayerChange }
	| { readonly do: 'palette.set'; readonly palette: Palette }
	| { readonly do: 'project.rename'; readonly name: string };

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

const named = (name: string): string => {
	const clean = name.trim();
	if (clean === '' || clean.length > 120) throw new CommandError('A name needs 1 to 120 letters. Nothing was changed.');
	return clean;
};

function changed(layer: Layer, change: LayerChange): Layer {
	if (change.name !== undefined) named(change.name);
	if (change.opacity !== undefined && !(change.opacity >= 0 && change.opacity <= 1))
		throw new CommandError('Opacity lies between 0 and 100. Nothing was changed.');
	if (change.color !== undefined && layer.kind !== 'wash')
		throw new CommandError(`"${layer.name}" is no wash, so it has no colour of its own. Nothing was changed.`);
	return { ...layer, ...change, ...(change.name !== undefined ? { name: named(change.name) } : {}) } as Layer;
}

/** Applies a command to a project; throws CommandError, changing nothing, where it does not fit. */
export function applyCommand(project: Project, command: Command): Applied {
	switch (command.do) {
		case 'layer.add': {
			const sheet = need(project, command.sheet);
			if (layerOf(sheet, command.layer.id))
				throw new CommandError('That layer is on the sheet already. Nothing was changed.');
			const at = Math.max(0, Math.min(sheet.layers.length, command.at));
			const layers = [...sheet.layers.slice(0, at), command.layer, ...sheet.layers.slice(at)];
			return {
				project: withLayers(project, sheet, layers),
				inverse: { do: 'layer.remove', sheet: sheet.id, layer: command.layer.id },
				words: `${command.copyOf ? 'Copy' : 'Add'} "${command.layer.name}"`,
			};
		}
		case 'layer.remove': {
			const sheet = need(project, command.sheet);
			const layer = needLayer(sheet, command.layer);
			return {
				project: withLayers(
					project,
					sheet,
					sheet.layers.filter((each) => each.id !== layer.id),
				),
				inverse: { do: 'layer.add', sheet: sheet.id, layer, at: sheet.layers.indexOf(layer) },
				words: `Delete "${layer.name}"`,
			};
		}
		case 'layer.move': {
			const sheet = need(project, command.sheet);
			const layer = needLayer(sheet, command.layer);
			const from = sheet.layers.indexOf(layer);
			const rest = sheet.layers.filter((each) => each !== layer);
			const to = Math.max(0, Math.min(rest.length, command.to));
			return {
				project: withLayers(project, sheet, [...rest.slice(0, to), layer, ...rest.slice(to)]),
				inverse: { do: 'layer.move', sheet: sheet.id, layer: layer.id, to: from },
				words: `Move "${layer.name}"`,
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
					sheet.layers.map((each) => (each === layer ? next : each)),
				),
				inverse: { do: 'layer.change', sheet: sheet.id, layer: layer.id, change: before },
				words: changeWords(layer, command.change),
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
