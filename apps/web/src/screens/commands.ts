import { colorCommands } from '../actions/colors.ts';
import type { AppCommand } from '../actions/command.ts';
import { toggleDrawer } from '../actions/drawers.ts';
import { exchangeCommands } from '../actions/exchange.ts';
import { layerCommands } from '../actions/layerCommands.ts';
import { lightCommands } from '../actions/light.ts';
import { paintCommands } from '../actions/paint.ts';
import { selectCommands } from '../actions/select.ts';
import { setTool } from '../actions/tools.ts';
import { viewCommands } from '../actions/views.ts';
import { drawers } from '../rail/list.ts';
import type { ToolKind } from '../tools/kind.ts';
import { tools } from '../tools/list.ts';

/** All that can be asked for on the stages of a project: tools, drawers, and what is done with the work. */
export const studioCommands: readonly AppCommand[] = [
	...tools.map(({ name, asks, keys, held }: ToolKind) => ({
		id: name,
		label: asks,
		...(keys ? { keys } : {}),
		...(held ? { held } : {}),
		run: () => setTool(name),
	})),
	...paintCommands,
	...selectCommands,
	...colorCommands,
	...viewCommands,
	...layerCommands,
	...lightCommands,
	...exchangeCommands,
	...drawers.map(({ name, asks }) => ({ id: `${name}-drawer`, label: asks, run: () => toggleDrawer(name) })),
];
