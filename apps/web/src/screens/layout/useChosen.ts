import { useCallback, useEffect, useRef, useState } from 'react';
import { markSeams } from '../../actions/layouts.ts';
import { question } from '../../studio/line.ts';
import type { Pressed } from '../../studio/slices/screen.ts';
import { useStudio } from '../../studio/store.ts';
import type { FoundEdges, ShownModel } from '../../studio/told.ts';
import type { Takes } from './PickBay.tsx';

/** Faces that are pointed out on both views, and meant by what is done next. */
export interface Chosen {
	/** What was pressed for it. */
	readonly name: string;
	readonly words: string;
	readonly faces: Uint32Array;
	/** It is one island: its number. */
	readonly island?: number;
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
	const lastMarked = useRef(false);
	const pressed = useRef<Promise<void>>(Promise.resolve());
	const pieces = useRef<ReadonlySet<number>>(new Set());
	const clear = useCallback((): void => {
		pieces.current = new Set();
		setChosen(null);
	}, []);
	// Islands of another layout are others. One that is only looked at changes nothing yet.
	const layout = useStudio((state) =>
		JSON.stringify(state.outline?.project.models.find(({ id }) => id === model?.id)?.layout ?? null),
	);
	useEffect(clear, [layout, model?.id, clear]);
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
	/** Marks an edge or takes its mark away; the second of two clicks does the same to its loop, one with Shift to the way to it. */
	const markAt = useCallback(async (by: 'edge' | 'loop' | 'way', found: FoundEdges): Promise<void> => {
		const [corner] = found.corners as readonly [number];
		const on = by === 'edge' ? !found.marked : by === 'way' || lastMarked.current;
		if (by !== 'loop') lastEdge.current = by === 'way' ? (found.corners[1] ?? corner) : corner;
		lastMarked.current = on;
		const what = by === 'edge' ? 'a seam' : 'seams';
		markSeams(found, on, on ? `Mark ${what}` : `Clear ${what}`);
	}, []);
	const press = useCallback(
		({ pointing, shiftKey, count }: Pressed): void => {
			if (!model) return;
			const by = takes !== 'seams' ? 'edge' : count > 1 ? 'loop' : shiftKey ? 'way' : 'edge';
			// One after the other: the second of two clicks goes by what the first did.
			pressed.current = pressed.current.then(async () => {
				const found = await question<'edge'>({ say: 'edge', place: pointing, by, from: lastEdge.current });
				if (found?.model !== model.id) return takes === 'seams' ? undefined : clear();
				if (takes === 'seams') return markAt(by, found);
				const [corner] = found.corners as readonly [number];
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
					...(takes === 'islands' && next.size === 1 ? { island: [...next][0] as number } : {}),
				});
			});
		},
		[model, takes, clear, markAt],
	);
	return { chosen, light, press, clear };
}

/** The number of what a click on a face takes. */
function pieceOf(model: ShownModel, takes: Takes): (face: number) => number {
	if (takes === 'parts') return (face) => model.partOfFace[face] as number;
	if (takes === 'faces') return (face) => face;
	return (face) => model.islandOfFace[face] as number;
}
