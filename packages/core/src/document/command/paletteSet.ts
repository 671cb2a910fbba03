import type { Palette } from '../../color/index.ts';
import { type EntryNumber, entriesOf, renumbered } from '../../pixel/index.ts';
import type { CommandKind } from './kind.ts';

export interface PaletteSet {
	readonly do: 'palette.set';
	readonly palette: Palette;
	/** The numbers of its entries; where they are left out each keeps its own by its colour. */
	readonly entries?: readonly EntryNumber[];
}

export const paletteSet: CommandKind<PaletteSet> = {
	do: 'palette.set',
	apply(project, { palette, entries: told }) {
		const was = entriesOf(project.palette, project.entries);
		const entries = told?.length === palette.colors.length ? told : renumbered(was, palette.colors);
		const byPlace = entries.every((number, i) => number === i + 1);
		const { entries: _, ...rest } = project;
		return {
			project: { ...rest, palette, ...(byPlace ? {} : { entries }) },
			inverse: { do: 'palette.set', palette: project.palette, entries: was.numbers },
			words: 'Change the palette',
		};
	},
	touched: () => 'nothing',
};
