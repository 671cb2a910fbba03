import { cells } from './cells.ts';
import { contrast } from './contrast.ts';
import { darken } from './darken.ts';
import { draw } from './draw.ts';
import { fill } from './fill.tsx';
import { gradient } from './gradient.ts';
import { guard } from './guard.tsx';
import { hue } from './hue.ts';
import type { ToolKind } from './kind.ts';
import { lighten } from './lighten.ts';
import { mend } from './mend.ts';
import { move } from './move.ts';
import { outline } from './outline.ts';
import { sample } from './sample.tsx';
import { saturate } from './saturate.ts';
import { scrape } from './scrape.ts';
import { select } from './select.ts';
import { shape } from './shape.ts';
import { smear } from './smear.ts';
import { soften } from './soften.ts';
import { stamp } from './stamp.tsx';
import { wipe } from './wipe.ts';

/** Every tool, in the order of its buttons: a new one is a line here. */
export const tools = [
	draw,
	wipe,
	soften,
	smear,
	scrape,
	fill,
	stamp,
	shape,
	gradient,
	lighten,
	darken,
	contrast,
	saturate,
	hue,
	sample,
	select,
	move,
	guard,
	outline,
	cells,
	mend,
] as const satisfies readonly ToolKind[];

/** The tool of a name. */
export function toolOf(name: string): ToolKind {
	const found = (tools as readonly ToolKind[]).find((tool) => tool.name === name);
	if (!found) throw new Error(`There is no tool "${name}".`);
	return found;
}
