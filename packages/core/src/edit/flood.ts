import { colorWords, type Hex } from '../color/index.ts';
import type { Mixing } from '../pixel/index.ts';
import { similarTo } from '../select/index.ts';
import type { EditKind } from './kind.ts';
import { layCover } from './lay.ts';
import { whole } from './space.ts';

/** The joined texels like the one at a place, of all layers together; `reach` 0..255 is how far they may differ. */
export interface FloodEdit {
	readonly do: 'flood';
	readonly color: Hex;
	readonly x: number;
	readonly y: number;
	readonly reach: number;
	/** All texels of that colour, joined or not. */
	readonly everywhere?: boolean;
	readonly mixing?: Mixing | null;
}

export const flood: EditKind<FloodEdit> = {
	do: 'flood',
	words: (_edit, on) => `Fill ${on}`,
	called: ({ color }) => `${colorWords(color)} fill`,
	apply: ({ x, y, reach, color, everywhere, mixing }, scope) =>
		layCover(scope, whole(scope.surface), similarTo(scope.picture(), x, y, reach, !everywhere), color, mixing),
};
