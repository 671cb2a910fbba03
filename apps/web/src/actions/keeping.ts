import { toast } from 'sonner';
import { saveFile } from '../server/library.ts';
import type { Keeping } from '../studio/keeping.ts';
import { workFile } from '../studio/line.ts';
import { useStudio } from '../studio/store.ts';

const since = (ms: number): string => {
	const s = Math.max(0, Math.round(ms / 1000));
	return s < 60 ? `${s} s` : s < 3600 ? `${Math.floor(s / 60)} min` : `${Math.floor(s / 3600)} h`;
};

const countWords = (strokes: number): string =>
	strokes === 0 ? 'changes' : strokes === 1 ? '1 stroke' : `${strokes} strokes`;

/** Something is not kept, and not merely on its way. */
export const isTrouble = (keeping: Keeping): keeping is Extract<Keeping, { readonly state: 'held' | 'refused' }> =>
	keeping.state === 'held' || keeping.state === 'refused';

/** What is said of keeping: short on the strip, and whole. */
export function keepingWords(keeping: Keeping, now: number): { readonly short: string; readonly whole: string } {
	if (keeping.state === 'kept')
		return {
			short: keeping.at ? `Kept ${since(now - keeping.at)} ago` : '',
			whole: 'All of the work is with the server.',
		};
	const what = countWords(keeping.strokes);
	if (keeping.state === 'keeping')
		return {
			short: keeping.strokes ? `Keeping ${what}…` : 'Keeping…',
			whole: 'On its way to the server; this browser has it already.',
		};
	const where = `${what} held ${keeping.in === 'browser' ? 'here' : 'in this tab only: do not close it'}`;
	return {
		short: `Not kept: ${what}`,
		whole:
			keeping.state === 'held'
				? `Not kept: ${keeping.why}, ${where}. Eppu goes on trying.`
				: `Not kept, and trying again would not help: ${keeping.why} ${where}.`,
	};
}

/** Writes all of the open work as a file, wherever it is kept or not. */
export async function saveWork(): Promise<void> {
	const name = useStudio.getState().outline?.project.name ?? 'Work';
	const { bytes, text } = await workFile();
	if (bytes) saveFile(`${name.replace(/[^\p{L}\p{N} _-]+/gu, '-')}.eppu`, new Blob([bytes]));
	else toast(text ?? 'The work could not be written as a file.');
}
