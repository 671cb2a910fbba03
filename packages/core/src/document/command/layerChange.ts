import type { Hex } from '../../color/index.ts';
import { type BlendMode, modeWords } from '../../composite/index.ts';
import type { Finish } from '../../finish/index.ts';
import type { Relief, Rig } from '../../light/index.ts';
import type { SurfaceId } from '../../surface/index.ts';
import type { Text } from '../../text/index.ts';
import type { ToneOp } from '../../tone/index.ts';
import type { WashFill } from '../../wash/index.ts';
import { kindOf, layerKinds } from '../layer/index.ts';
import type { OwnProperty } from '../layer/kind.ts';
import type { Coat, Id, Mask } from '../layerBase.ts';
import { eachLayer } from '../layerTree.ts';
import { cleanNameProblem, freeName } from '../names.ts';
import type { Layer } from '../types.ts';
import { CommandError, type CommandKind } from './kind.ts';
import { changeAmong, needLayer, needName, needPlace, needSheet, withLayers } from './need.ts';

/** What of a layer can be changed in one step; what only some kinds have is theirs to name (layer/). */
export interface LayerChange {
	/** A name that the artist gives; with `unnamed` one that says what is in it. */
	readonly name?: string;
	readonly unnamed?: boolean;
	readonly shown?: boolean;
	readonly opacity?: number;
	readonly mode?: BlendMode;
	readonly clip?: boolean;
	readonly locked?: boolean;
	readonly lockAlpha?: boolean;
	readonly loose?: boolean;
	readonly color?: Hex;
	/** Null goes back to the plain colour. */
	readonly fill?: WashFill | null;
	readonly text?: Text;
	readonly finishes?: readonly Finish[];
	readonly coat?: Coat | null;
	readonly relief?: Relief | null;
	readonly tone?: ToneOp;
	readonly isolated?: boolean;
	readonly rig?: Rig;
	/** Null lets its texels be colours alone. */
	readonly entries?: SurfaceId | null;
	/** A new mask shows all until it is painted (see `hidden`); null takes the mask away. */
	readonly mask?: Mask | null;
}

export interface LayerChangeCommand {
	readonly do: 'layer.change';
	readonly sheet: Id;
	readonly layer: Id;
	readonly change: LayerChange;
	/** A new mask hides all until it is painted. */
	readonly hidden?: true;
}

const maskWords = ({ name, mask: was }: Layer, mask: Mask | null): string => {
	if (!mask) return `Take the mask off "${name}"`;
	if (was?.surface !== mask.surface) return `Mask "${name}"`;
	return was.recipe !== mask.recipe ? `Mask recipe of "${name}"` : `Mask of "${name}" ${mask.on ? 'on' : 'off'}`;
};

/** Words for what all layers have; asked in this order. */
const words: { readonly [K in keyof LayerChange]?: (layer: Layer, value: NonNullable<LayerChange[K]>) => string } = {
	name: (layer, name) => `Rename "${layer.name}" to "${name}"`,
	shown: ({ name }, shown) => `${shown ? 'Show' : 'Hide'} "${name}"`,
	opacity: ({ name }, opacity) => `Opacity of "${name}" ${Math.round(opacity * 100)}`,
	mode: ({ name }, mode) => `Blend "${name}" ${modeWords(mode)}`,
	clip: ({ name }, clip) => `${clip ? 'Clip' : 'Release'} "${name}"`,
	locked: ({ name }, locked) => `${locked ? 'Lock' : 'Unlock'} "${name}"`,
	loose: ({ name }, loose) =>
		`"${name}" ${loose ? 'may hold soft edges and any colour' : 'holds whole texels of the palette'}`,
	finishes: ({ name }) => `Finishes of "${name}"`,
	coat: ({ name }, coat: Coat | null) => (coat ? `Coat "${name}"` : `"${name}" is no coat any more`),
	relief: ({ name }, relief: Relief | null) => (relief ? `Relief of "${name}"` : `"${name}" lies flat`),
	mask: (layer, mask: Mask | null) => maskWords(layer, mask),
};

const changeWords = (layer: Layer, change: LayerChange): string => {
	for (const key of [...Object.keys(words), ...Object.keys(kindOf(layer).own)]) {
		const value = change[key as keyof LayerChange];
		if (value === undefined) continue;
		const own = kindOf(layer).own[key];
		if (own) return `${own.words} of "${layer.name}"`;
		return (words[key as keyof LayerChange] as (layer: Layer, value: unknown) => string)(layer, value);
	}
	return `Change "${layer.name}"`;
};

/** A property that some kind of layer has and this one lacks. */
const lacking = (layer: Layer, key: string): OwnProperty | undefined =>
	key in kindOf(layer).own ? undefined : layerKinds.find(({ own }) => key in own)?.own[key];

function changedLayer(layer: Layer, change: LayerChange, others: readonly string[]): Layer {
	const name = change.name === undefined ? layer.name : needName(change.name);
	if (change.opacity !== undefined && !(change.opacity >= 0 && change.opacity <= 1))
		throw new CommandError('Opacity lies between 0 and 100. Nothing was changed.');
	for (const [key, value] of Object.entries(change)) {
		const missing = value === undefined ? undefined : lacking(layer, key);
		if (missing) throw new CommandError(`"${layer.name}" ${missing.without}. Nothing was changed.`);
	}
	if (change.finishes?.length && !kindOf(layer).finishes)
		throw new CommandError(`"${layer.name}" has no shape that a finish could follow. Nothing was changed.`);
	if (change.relief && !kindOf(layer).finishes)
		throw new CommandError(`"${layer.name}" has no shape that could stand out. Nothing was changed.`);
	const next = { ...layer, ...change, name } as Layer;
	if (change.name !== undefined) return { ...next, unnamed: change.unnamed ?? false };
	// What has no name of the artist's goes on being called by what it holds.
	const called =
		layer.unnamed && Object.keys(change).some((key) => key in kindOf(layer).own) && kindOf(next).called?.(next);
	return called && cleanNameProblem(called) === null ? { ...next, name: freeName(called, others) } : next;
}

/** What is not seen: changing it changes no picture. */
const unseen = ['name', 'unnamed', 'coat', 'locked', 'lockAlpha', 'loose', 'entries'];

export const layerChange: CommandKind<LayerChangeCommand> = {
	do: 'layer.change',
	apply(project, command) {
		const sheet = needSheet(project, command.sheet);
		const layer = needLayer(sheet, command.layer);
		const others = [...eachLayer(sheet.layers)].filter((each) => each !== layer).map((each) => each.name);
		const next = changedLayer(layer, command.change, others);
		const keys = Object.keys(command.change);
		const named = next.name !== layer.name || next.unnamed !== layer.unnamed;
		const before = {
			...Object.fromEntries(keys.map((key) => [key, layer[key as keyof Layer]])),
			...(named ? { name: layer.name, unnamed: layer.unnamed ?? false } : {}),
		} as LayerChange;
		return {
			project: withLayers(
				project,
				sheet,
				changeAmong(sheet.layers, needPlace(sheet, layer.id).parent?.id ?? null, (among) =>
					among.map((each) => (each.id === layer.id ? next : each)),
				),
			),
			inverse: { do: 'layer.change', sheet: sheet.id, layer: layer.id, change: before },
			words: changeWords(layer, command.change),
		};
	},
	surfaces: ({ sheet, change: { mask, entries }, hidden }) => [
		...(mask ? [{ id: mask.surface, format: 'mask', sheet, start: hidden ? 'empty' : 'white' } as const] : []),
		...(entries ? [{ id: entries, format: 'color', sheet, start: 'empty' } as const] : []),
	],
	touched: ({ sheet, layer, change }) =>
		Object.keys(change).every((key) => unseen.includes(key)) ? 'nothing' : { sheet, layer },
};
