import { type Figure, type FigureBox, type FigurePose, MOST_BOXES, type Turns } from './figure.ts';
import { freePlace } from './place.ts';

const turnsBy = (turns: Turns, name: (own: string) => string | null): Turns =>
	Object.fromEntries(
		Object.entries(turns).flatMap(([own, turn]) => {
			const next = name(own);
			return next === null ? [] : [[next, turn] as const];
		}),
	);

/** Poses with their boxes under other names; those that are null turn no more. */
const posesBy = ({ poses }: Figure, name: (own: string) => string | null): Pick<Figure, 'poses'> =>
	poses
		? {
				poses: poses.map(
					(pose): FigurePose => ({
						...pose,
						turns: turnsBy(pose.turns, name),
						...(pose.swing ? { swing: turnsBy(pose.swing, name) } : {}),
					}),
				),
			}
		: {};

/** A box as it is added: where the sheet has room for it, and under a name of its own; null where there is none. */
export function newBox(figure: Figure): FigureBox | null {
	const size = [4, 4, 4] as const;
	const place = figure.boxes.length < MOST_BOXES ? freePlace(figure, size) : null;
	const names = new Set(figure.boxes.map(({ name }) => name));
	let n = 1;
	while (names.has(`Box ${n}`)) n++;
	return place && { name: `Box ${n}`, size, at: [0, 0, 0], place };
}

/** A box under another name, also where others hang on it and poses turn it. */
export const boxRenamed = (figure: Figure, from: string, to: string): Figure => ({
	...figure,
	boxes: figure.boxes.map((box) => ({
		...box,
		name: box.name === from ? to : box.name,
		...(box.on === undefined ? {} : { on: box.on === from ? to : box.on }),
	})),
	...posesBy(figure, (name) => (name === from ? to : name)),
});

/** Without one of its boxes: what hung on it hangs on what it hung on, and poses turn it no more. */
export function boxTaken(figure: Figure, place: number): Figure {
	const gone = figure.boxes[place];
	if (!gone) return figure;
	return {
		...figure,
		boxes: figure.boxes
			.filter((box) => box !== gone)
			.map(({ on, ...box }) => {
				const next = on === gone.name ? gone.on : on;
				return next === undefined ? box : { ...box, on: next };
			}),
		...posesBy(figure, (name) => (name === gone.name ? null : name)),
	};
}
