import type { SurfaceId } from '../../surface/index.ts';
import { readingCircle } from '../circle.ts';
import type { Project } from '../types.ts';
import { changeProblem } from '../validate.ts';
import { bakesSet } from './bakesSet.ts';
import { bundleRecolor } from './bundleRecolor.ts';
import { groupMake } from './groupMake.ts';
import { groupOpen } from './groupOpen.ts';
import { islandsSet } from './islandsSet.ts';
import { type Applied, CommandError, type CommandKind, type Doing } from './kind.ts';
import { layerAdd } from './layerAdd.ts';
import { layerChange } from './layerChange.ts';
import { layerMove } from './layerMove.ts';
import { layerRemove } from './layerRemove.ts';
import { layersSet } from './layersSet.ts';
import { layoutSet } from './layoutSet.ts';
import { modelSeams } from './modelSeams.ts';
import { paletteSet } from './paletteSet.ts';
import { partChange } from './partChange.ts';
import { partsShow } from './partsShow.ts';
import { selectionSet } from './selectionSet.ts';
import { sheetAdd } from './sheetAdd.ts';
import { sheetChange } from './sheetChange.ts';
import { sheetRemove } from './sheetRemove.ts';

/** Every way in which the document, apart from its pixels, changes: a new one is a line here. */
export const commandKinds = [
	layerAdd,
	layerRemove,
	layerMove,
	layerChange,
	layersSet,
	groupMake,
	groupOpen,
	selectionSet,
	paletteSet,
	bundleRecolor,
	partChange,
	partsShow,
	layoutSet,
	modelSeams,
	bakesSet,
	islandsSet,
	sheetChange,
	sheetAdd,
	sheetRemove,
] as const;

type CommandOf<K> = K extends CommandKind<infer C> ? C : never;
export type Command = CommandOf<(typeof commandKinds)[number]>;

/** The kind of a command. */
export function commandKindOf(command: Doing): CommandKind<Doing> {
	const found = (commandKinds as unknown as readonly CommandKind<Doing>[]).find((kind) => kind.do === command.do);
	if (!found) throw new CommandError(`This version of Eppu does not know "${command.do}". Nothing was changed.`);
	return found;
}

/** Surfaces that a command names: what undo and redo may need again. */
export const surfacesNamed = (command: Doing): SurfaceId[] =>
	(commandKindOf(command).surfaces?.(command, null) ?? []).map(({ id }) => id);

/** Applies a command to a project; throws CommandError, changing nothing, where it does not fit. */
export function applyCommand(project: Project, command: Doing): Applied {
	const applied = commandKindOf(command).apply(project, command);
	for (const sheet of applied.project.sheets) {
		const circle = project.sheets.includes(sheet) ? null : readingCircle(sheet);
		if (circle)
			throw new CommandError(
				`"${circle}" would be made from what it makes itself, round in a circle. Tap another layer. Nothing was changed.`,
			);
	}
	const problem = changeProblem(applied.project);
	if (problem) throw new CommandError(`${problem} Nothing was changed.`);
	return applied;
}
