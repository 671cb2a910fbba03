import { MOST_RECOLORS, type Recolor } from '../../pixel/index.ts';
import { CommandError, type CommandKind } from './kind.ts';

/** Puts other changes of colour in place for the textures of the project's bundle. */
export interface BundleRecolor {
	readonly do: 'bundle.recolor';
	readonly recolors: readonly Recolor[];
}

export const bundleRecolor: CommandKind<BundleRecolor> = {
	do: 'bundle.recolor',
	apply(project, { recolors }) {
		if (!project.bundle) throw new CommandError(`"${project.name}" has no bundle. Nothing was changed.`);
		if (recolors.length > MOST_RECOLORS)
			throw new CommandError(
				`The bundle was recoloured ${MOST_RECOLORS} times: write it and open what was written to go on. Nothing was changed.`,
			);
		return {
			project: { ...project, recolors },
			inverse: { do: 'bundle.recolor', recolors: project.recolors ?? [] },
			words: 'Recolour the bundle',
		};
	},
	touched: () => 'nothing',
};
