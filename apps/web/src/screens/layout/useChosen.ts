import { useCallback, useEffect, useRef, useState } from 'react';
import { markSeams } from '../../actions/layouts.ts';
import { question } from '../../studio/line.ts';
import type { ShownModel } from '../../studio/protocol.ts';
import type { Pressed } from '../../studio/slices/screen.ts';
import type { Takes } from './PickBay.tsx';

/** Faces that are pointed out on both views, and meant by what is done next. */
export interface Chosen {
	/** What was pressed for it. */
	readonly name: string;
	readonly words: string;
	readonly faces: Uint32Array;
}

export interface Choosing {
	readonly chosen: Chosen | null;
	readonly light: (name: string, faces: () => Uint32Array) => void;
	readonly press: (at: Pressed) => void;
	readonly clear: () => void;
}

const counted = (n: number, word: string): string => `${n} ${word}${n === 1 ? '' : 's'}`;

/** What of a model is chosen: by rows of the column, and by clicks on either view. */
export function useChosen(model: ShownModel | undefined, takes: Takes): Choosing {
	const [chosen, setChosen] = useState<Chosen | null>(null);
	const lastEdge = useRef<number | null>(null);
	const pieces = useRef<ReadonlySet<number>>(new Set());
	const clear = useCallback((): void => {
		pieces.current = new Set();
		setChosen(null);
	}, []);
	// Islands of another layout are others; so are what a click takes and what was chosen by it.
	useEffect(clear, [model?.islandOfFace, model?.id, clear]);
	useEffect(() => {
		pieces.current = new Set();
		lastEdge.current = null;
	}, [takes]);
	const light = useCallback((name: string, faces: () => Uint32Array): void => {
		pieces.current = new Set();
		setChosen((now) => {
			if (now?.name === name) return null;
			const list = faces();
			return { name, words: counted(list.length, 'face'), faces: list };
		});
	}, []);
	const press = useCallback(
		({ pointing, shiftKey, count }: Pressed): void => {
			if (!model) return;
			const by = takes === 'seams' ? (count > 1 ? 'loop' : shiftKey ? 'way' : 'edge') : 'edge';
			void question<'edge'>({ say: 'edge', place: pointing, by, from: lastEdge.current }).then((found) => {
				if (found?.model !== model.id) return takes === 'seams' ? undefined : clear();
				const [corner] = found.corners as readonly [number];
				if (takes === 'seams') {
					lastEdge.current = by === 'edge' ? corner : lastEdge.current;
					// The second of two clicks finds the edge as the first left it: the loop follows that.
					const on = by === 'edge' ? !found.marked : by === 'loop' ? found.marked : true;
					const what = by === 'edge' ? 'a seam' : 'seams';
					return markSeams(found, on, on ? `Mark ${what}` : `Clear ${what}`);
				}
				const face = Math.floor(corner / 3);
				const of = pieceOf(model, takes);
				const piece = of(face);
				const had = pieces.current.has(piece);
				const next = new Set(shiftKey ? pieces.current : []);
				if (had && (shiftKey || pieces.current.size === 1)) next.delete(piece);
				else next.add(piece);
				pieces.current = next;
				if (next.size === 0) return setChosen(null);
				const faces: number[] = [];
				for (let each = 0; each < model.islandOfFace.length; each++) if (next.has(of(each))) faces.push(each);
				setChosen({
					name: `${takes} ${[...next].join()}`,
					words: counted(next.size, takes.slice(0, -1)),
					faces: Uint32Array.from(faces),
				});
			});
		},
		[model, takes, clear],
	);
	return { chosen, light, press, clear };
}

/** The number of what a click on a face takes. */
function pieceOf(model: ShownModel, takes: Takes): (face: number) => number {
	if (takes === 'parts') return (face) => model.partOfFace[face] as number;
	if (takes === 'faces') return (face) => face;
	return (face) => model.islandOfFace[face] as number;
}
