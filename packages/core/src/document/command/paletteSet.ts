import type { Palette } from '../../color/index.ts';
import type { CommandKind } from './kind.ts';

export interface PaletteSet {
	readonly do: 'palette.set';
	readonly palette: Palette;
}

export const paletteSet: CommandKind<PaletteSet> = {
	do: 'palette.set',
	apply: (project, { palette }) => ({
		project: { ...project, palette },
		inverse: { do: 'palette.set', palette: project.palette },
		words: 'Change the palette',
	}),
	touched: () => 'nothing',
};
