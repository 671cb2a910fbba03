import { colorWords, type Hex } from '../color/index.ts';
import type { Mixing } from '../pixel/index.ts';
import type { EditKind } from './kind.ts';
import { layCover, selectedRect } from './lay.ts';

export interface FillEdit {
	readonly do: 'fill';
	readonly color: Hex;
	readonly mixing?: Mixing | null;
}

export const fill: EditKind<FillEdit> = {
	do: 'fill',
	words: (_edit, on) => `Fill ${on}`,
	called: ({ color }) => `${colorWords(color)} fill`,
	apply(edit, scope) {
		const rect = selectedRect(scope);
		return layCover(scope, rect, new Uint8Array(rect.width * rect.height).fill(255), edit.color, edit.mixing);
	},
};
