import type { Asset, Id } from '@eppu/core/document';
import { type Figure, readFigure } from '@eppu/core/figure';
import { animatedPng, zipOf } from '@eppu/core/format';
import { isFigureName } from '@eppu/core/mesh';
import { toast } from 'sonner';
import { fileUrl } from '../server/api.ts';
import { saveFile } from '../server/library.ts';
import { setDesk } from '../studio/desk.ts';
import { modelShown, useStudio } from '../studio/store.ts';

const get = useStudio.getState;
const set = useStudio.setState;

/** Pictures of one turn, how large they are, and how long each is seen. */
const FRAMES = 36;
const SIDE = 512;
const FRAME_MS = 70;

/** Draws the model as it is seen now, turned by degrees, as a square PNG; null where there is none. */
export type DrawTurned = (degrees: number, side: number) => Promise<Uint8Array<ArrayBuffer>>;
let drawTurned: DrawTurned | null = null;
/** The view of the model says how it is drawn. */
export const turnedBy = (draw: DrawTurned | null): void => {
	drawTurned = draw;
};

/** Has the model go round by itself, or stand still where it is. */
export function turnAround(on: boolean, yaw?: number): void {
	if (!on && yaw !== undefined) setDesk({ camera: { ...get().desk.camera, yaw } });
	set({ turning: on });
}

/** Looks at figures in a pose; null has them at rest, as they are painted. */
export const pose = (posing: string | null): void => set({ posing });

/** The figure of boxes that a model's file is; null where it is none. */
export async function figureOf(project: Id, { hash, name }: Asset): Promise<Figure | null> {
	if (!isFigureName(name)) return null;
	const answer = await fetch(fileUrl(project, { hash, name }));
	const read = answer.ok ? readFigure(await answer.text(), name) : null;
	return read?.ok ? read.figure : null;
}

/** Saves one turn of the model as it is seen now: an animated picture, or all pictures in a ZIP. */
export async function saveTurntable(as: 'apng' | 'zip'): Promise<void> {
	const name = get().outline?.project.name ?? 'Turntable';
	if (!drawTurned || !modelShown(get())) {
		toast('There is no model in view to turn. Show the model first.');
		return;
	}
	set({ savingTurns: true });
	try {
		const frames: Uint8Array<ArrayBuffer>[] = [];
		for (let i = 0; i < FRAMES; i++) frames.push(await drawTurned((i * 360) / FRAMES, SIDE));
		if (as === 'apng') saveFile(`${name} turntable.png`, new Blob([animatedPng(frames, FRAME_MS)]));
		else {
			const files = frames.map((png, i) => [`${name} ${String(i + 1).padStart(2, '0')}.png`, png] as const);
			saveFile(`${name} turntable.zip`, new Blob([zipOf(files)]));
		}
	} catch {
		toast('The turntable could not be drawn. Make the window larger or close other tabs, and try again.');
	} finally {
		set({ savingTurns: false });
	}
}
