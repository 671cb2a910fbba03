import {
	type Command,
	eachLayer,
	freeName,
	groupLayer,
	kindOf,
	type Layer,
	type LightLayer,
	lightLayer,
	type Model,
	type Sheet,
	washLayer,
} from '@eppu/core/document';
import { type Bake, type BakedTint, type LightPreset, lightPresets, type Rig, toneBake } from '@eppu/core/light';
import { newStep } from '@eppu/core/recipe';
import { toast } from 'sonner';
import { saveFile } from '../server/library.ts';
import { modelHeld } from '../studio/bakes.ts';
import { bakeFile, tell } from '../studio/line.ts';
import { run, runAll } from '../studio/say.ts';
import { activeSheet, useStudio } from '../studio/store.ts';
import type { AppCommand } from './command.ts';
import { choose } from './layers.ts';

/** What is done with bakes and with light, wherever it is asked for. */
const get = useStudio.getState;
const set = useStudio.setState;
const newId = (): string => crypto.randomUUID();

const isLight = (layer: Layer): layer is LightLayer => layer.kind === 'light';

/** Sheets that a model lies on. */
export const sheetsOf = (model: Model | undefined): readonly Sheet[] =>
	(get().outline?.project.sheets ?? []).filter(({ id }) => model?.parts.some((part) => part.sheet === id));

/** Adds a bake to the model that is shown; returns its id, or null where there is no model. */
export function addBake(bake: Bake): string | null {
	const model = modelHeld(get());
	if (!model) return null;
	const named = {
		...bake,
		name: freeName(
			bake.name,
			(model.bakes ?? []).map(({ name }) => name),
		),
	};
	run({ do: 'bakes.set', model: model.id, bakes: [...(model.bakes ?? []), named] });
	return named.id;
}

export function changeBake(bake: Bake, gesture?: string): void {
	const model = modelHeld(get());
	if (!model) return;
	const bakes = (model.bakes ?? []).map((each) => (each.id === bake.id ? bake : each));
	run({ do: 'bakes.set', model: model.id, bakes }, gesture);
}

export function removeBake(bake: Bake): void {
	const model = modelHeld(get());
	if (!model) return;
	seeBake(null);
	run({ do: 'bakes.set', model: model.id, bakes: (model.bakes ?? []).filter(({ id }) => id !== bake.id) });
}

/** Shows a bake alone on all its sheets, or the paint again. */
export function seeBake(bake: string | null): void {
	const sheet = activeSheet(get());
	if (!sheet) return;
	set({ alone: null, builtUp: null });
	tell({ say: 'look', sheet: sheet.id, look: bake === null ? null : { bake } });
}

/** Writes a bake of the active sheet to a file. */
export async function saveBake(bake: Bake, depth: 8 | 16): Promise<void> {
	const sheet = activeSheet(get());
	if (!sheet) return;
	const { bytes, text } = await bakeFile(sheet.id, bake.id, depth);
	if (bytes) saveFile(`${sheet.name} ${bake.name}${depth === 16 ? ' 16 bit' : ''}.png`, new Blob([bytes]));
	else toast(text ?? 'The bake could not be written.');
}

/** The bakes that light reads where none is chosen, each by what it is put in for. */
export const usualBakes = {
	occlusion: () => toneBake(newId(), 'Ambient occlusion', 'occlusion', { reach: 35, rays: 64 }),
	edges: () => toneBake(newId(), 'Edges', 'curvature', { of: 'edges', width: 1.4, strength: 1.3 }),
	hollows: () => toneBake(newId(), 'Hollows', 'curvature', { of: 'hollows', width: 3 }),
} as const;

const serves = {
	occlusion: (bake: Bake) => bake.bake === 'tone' && bake.step.step === 'occlusion',
	edges: (bake: Bake) => bake.bake === 'tone' && bake.step.step === 'curvature' && bake.step.of === 'edges',
	hollows: (bake: Bake) => bake.bake === 'tone' && bake.step.step === 'curvature' && bake.step.of === 'hollows',
} as const;

/** A rig with the bakes that it wants: those that the model has, or new ones, which are added to the list. */
export function withBakes(rig: Rig, bakes: Bake[]): Rig {
	const filled = <T extends BakedTint>(of: keyof typeof serves, tint: T): T => {
		if (tint.strength === 0 || bakes.some(({ id }) => id === tint.bake)) return tint;
		let bake = bakes.find(serves[of]);
		if (!bake) bakes.push((bake = usualBakes[of]()));
		return { ...tint, bake: bake.id };
	};
	return {
		...rig,
		occlusion: filled('occlusion', rig.occlusion),
		edges: filled('edges', rig.edges),
		hollows: filled('hollows', rig.hollows),
	};
}

/** A command for bakes that were added; none where none were. */
const bakesAdded = (model: Model | undefined, bakes: readonly Bake[]): readonly Command[] =>
	model && bakes.length > (model.bakes?.length ?? 0) ? [{ do: 'bakes.set', model: model.id, bakes }] : [];

/** Lays light on top of every sheet of the model that is shown, in one step; that of the active sheet is chosen. */
export function addLight({ name, mode, opacity, rig }: Pick<LightPreset, 'name' | 'mode' | 'opacity' | 'rig'>): void {
	const [model, active] = [modelHeld(get()), activeSheet(get())];
	if (!active) return;
	const sheets = model ? sheetsOf(model) : [active];
	const bakes = [...(model?.bakes ?? [])];
	const filled = model ? withBakes(rig, bakes) : rig;
	const names = sheets.flatMap((sheet) => [...eachLayer(sheet.layers)].map((each) => each.name));
	const title = freeName(name, names);
	const layers = sheets.map((sheet) => ({ sheet, layer: lightLayer(newId(), title, filled, { mode, opacity }) }));
	runAll(
		[
			...bakesAdded(model, bakes),
			...layers.map(({ sheet, layer }) => ({
				do: 'layer.add' as const,
				sheet: sheet.id,
				layer,
				at: sheet.layers.length,
			})),
		],
		`Light "${title}"`,
	);
	const own = layers.find(({ sheet }) => sheet.id === active.id);
	if (own) choose(active, own.layer.id);
}

/** The light layers that are changed together: those of one name on all sheets of the model, or one alone. */
export function lightsWith(
	layer: LightLayer,
	everywhere: boolean,
): { readonly sheet: Sheet; readonly layer: LightLayer }[] {
	const model = modelHeld(get());
	const active = activeSheet(get());
	return (model ? sheetsOf(model) : active ? [active] : []).flatMap((sheet) =>
		[...eachLayer(sheet.layers)]
			.filter(isLight)
			.filter((each) => each.id === layer.id || (everywhere && each.name === layer.name))
			.map((each) => ({ sheet, layer: each })),
	);
}

/** Changes a light, on all sheets of the model where it goes by the same name; bakes that it wants now are made. */
export function changeLight(layer: LightLayer, change: Partial<Rig>, everywhere: boolean, gesture?: string): void {
	const model = modelHeld(get());
	const bakes = [...(model?.bakes ?? [])];
	const rig = model ? withBakes({ ...layer.rig, ...change }, bakes) : { ...layer.rig, ...change };
	const commands = lightsWith(layer, everywhere).map(({ sheet, layer: each }) => ({
		do: 'layer.change' as const,
		sheet: sheet.id,
		layer: each.id,
		change: { rig },
	}));
	const added = bakesAdded(model, bakes);
	runAll([...added, ...commands], `Light of "${layer.name}"`, added.length ? undefined : gesture);
}

/** Colours of parts to begin with: calm, apart from each other, none of them the colour of light or shade. */
const baseColors = ['#a8794e', '#7f8a72', '#8d7f96', '#b09a63', '#6f8894', '#a06a5c', '#8c8378', '#97a06b'] as const;

/** How many layers of one plain colour lie at the bottom of a sheet: what is laid below them would not be seen. */
const grounded = ({ layers }: Sheet): number => {
	const above = layers.findIndex((layer) => layer.mask || !kindOf(layer).plain?.(layer));
	return above < 0 ? layers.length : above;
};

/**
 * A base for a whole model in one step: a group on each of its sheets with a colour for each part, light with its hollows,
 * and edges picked out. All of it can be changed afterwards.
 */
export function makeBase(light: LightPreset, edges: LightPreset): void {
	const model = modelHeld(get());
	const active = activeSheet(get());
	if (!model || !active) return;
	const bakes = [...(model.bakes ?? [])];
	const [lit, picked] = [withBakes(light.rig, bakes), withBakes(edges.rig, bakes)];
	const commands = sheetsOf(model).map((sheet) => {
		const names = [...eachLayer(sheet.layers)].map((each) => each.name);
		const washes = model.parts.flatMap(({ name, sheet: on }, part) => {
			if (on !== sheet.id) return [];
			const id = newId();
			const recipe = [
				{ ...newStep('part', 's1'), mix: 'replace' as const, part, ...(name && { name }) },
			] as NonNullable<NonNullable<Layer['mask']>['recipe']>;
			const mask = { surface: `${id}-m`, on: true, recipe };
			return [washLayer(id, name || `Part ${part + 1}`, baseColors[part % baseColors.length] as string, { mask })];
		});
		const layer = groupLayer<Layer>(newId(), freeName('Base', names), [
			...washes,
			lightLayer(newId(), freeName(light.name, names), lit, { mode: light.mode, opacity: light.opacity }),
			lightLayer(newId(), freeName(edges.name, names), picked, { mode: edges.mode, opacity: edges.opacity }),
		]);
		return { do: 'layer.add' as const, sheet: sheet.id, layer, at: grounded(sheet) };
	});
	runAll([...bakesAdded(model, bakes), ...commands], 'Make a base');
	if (sheetsOf(model).some((sheet) => sheet.layers.slice(grounded(sheet)).some(({ shown }) => shown)))
		toast('The base lies low on each sheet: below the layers that were there, but for plain washes.');
	const own = commands.find(({ sheet }) => sheet === active.id)?.layer.layers.find(isLight);
	if (own) choose(active, own.id);
}

/** Shows all with a light only by a share of how it is: 0 as before it was there, 1 as it is. */
export function fadeLight(sheet: Sheet, layer: LightLayer, share: number): void {
	set({ alone: null, builtUp: null });
	tell({ say: 'look', sheet: sheet.id, look: share >= 1 ? null : { fading: layer.id, share } });
}

const presetNamed = (name: string): LightPreset => lightPresets.find((each) => each.name === name) as LightPreset;

/** A base in the first light that ships, with edges picked out. */
export const makeUsualBase = (): void => makeBase(presetNamed('Warm'), presetNamed('Edges picked out'));

export const lightCommands: readonly AppCommand[] = [
	...lightPresets.map((preset) => ({
		id: `light-${preset.name.toLowerCase().replace(/ /g, '-')}`,
		label: `Light: ${preset.name}`,
		run: () => addLight(preset),
	})),
	{ id: 'light-base', label: 'Light: make a base for the model', run: makeUsualBase },
	...Object.entries(usualBakes).map(([of, make]) => ({
		id: `bake-${of}`,
		label: `Bake: ${make().name}`,
		run: () => void addBake(make()),
	})),
];
