import { colorWords, type Hex } from '../color/index.ts';
import type { Mixing } from '../pixel/index.ts';
import { outlinePath, type Repeat, repeatedPath, type Shape, shapePath, texelCover } from '../select/index.ts';
import type { EditKind } from './kind.ts';
import { layCover } from './lay.ts';
import { whole } from './space.ts';

/** A drawn shape: filled, or as an outline so many texels thick. */
export interface ShapeEdit {
	readonly do: 'shape';
	readonly shape: Shape;
	readonly outline: number | null;
	readonly repeat: Repeat | null;
	readonly color: Hex;
	readonly mixing?: Mixing | null;
}

export const shape: EditKind<ShapeEdit> = {
	do: 'shape',
	words: ({ shape: { kind } }, on) => `${kind[0]?.toUpperCase()}${kind.slice(1)} on ${on}`,
	called: ({ color, shape: { kind } }) => `${colorWords(color)} ${kind}`,
	apply(edit, scope) {
		if (scope.strict && !scope.space.seen) {
			const rect = whole(scope.surface);
			return layCover(scope, rect, texelCover(edit.shape, edit.outline, edit.repeat, rect), edit.color, edit.mixing);
		}
		const own = edit.outline === null ? shapePath(edit.shape) : outlinePath(edit.shape, edit.outline);
		const path = repeatedPath(own, edit.repeat);
		const { rect, cover } = scope.space.cover(path);
		return layCover(scope, rect, cover, edit.color);
	},
};
