import type { Project } from '@eppu/core/document';
import type { TextureFile, TextureOrder } from '@eppu/core/handoff';
import type { NamedFile } from '@eppu/core/mesh';
import { pressPng } from '../../actions/pressPng.ts';
import { textureOut } from '../../studio/line.ts';
import type { OutAnswer } from '../../studio/told.ts';
import type { Job } from './useWriting.ts';

/** Files that were made to be looked at: the same are written, as long as nothing of the project changed. */
export type Made = Map<string, { readonly project: Project; readonly answer: OutAnswer }>;

const keyOf = (file: TextureFile, order: TextureOrder): string =>
	JSON.stringify([file, { ...order, pattern: '', sizes: [] }]);

/** More files than these are not remembered. */
const MOST_MADE = 24;

/** The file of an order, made once for looking at it and for writing it. */
export async function fileMade(
	file: TextureFile,
	order: TextureOrder,
	project: Project,
	made: Made,
): Promise<OutAnswer> {
	const key = keyOf(file, order);
	const known = made.get(key);
	if (known?.project === project) return known.answer;
	let answer = await textureOut(file, order);
	const [first] = answer.files;
	if (first && order.smaller && order.file === 'png' && order.channels === 'rgba') {
		const smaller: NamedFile = [first[0], await pressPng(first[1])];
		answer = { ...answer, files: [smaller] };
	}
	made.delete(key);
	made.set(key, { project, answer });
	for (const old of made.keys()) {
		if (made.size <= MOST_MADE) break;
		made.delete(old);
	}
	return answer;
}

export const textureJob = (file: TextureFile, order: TextureOrder, project: Project, made: Made): Job => ({
	name: file.path,
	make: () => fileMade(file, order, project, made),
});
