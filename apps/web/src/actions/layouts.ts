import { type Id, SHEET_SIDE, type Sheet, usualBleed } from '@eppu/core/document';
import type { SheetHead } from '@eppu/core/engine';
import { tell } from '../studio/line.ts';
import { useStudio } from '../studio/store.ts';
import type { FoundEdges, RelayWords } from '../studio/told.ts';

/** What is done with how models lie on their sheets, wherever it is asked for. */
const project = () => useStudio.getState().outline?.project;

/** Has models lie otherwise; all paint goes along, in one step. */
export function relay(change: RelayWords, words: string): void {
	useStudio.setState({ relaying: 0 });
	tell({ say: 'relay', change, words, seed: crypto.randomUUID() });
}

export const markSeams = ({ model, corners }: Omit<FoundEdges, 'marked'>, on: boolean, words: string): void =>
	tell({ say: 'seams', model, corners, on, anew: false, words, seed: crypto.randomUUID() });

/** Only these edges of a model are marked from now on. */
export const setSeams = (model: Id, corners: readonly number[] | 'borders' | 'sharp', words: string): void =>
	tell({ say: 'seams', model, corners, on: true, anew: true, words, seed: crypto.randomUUID() });

const headOf = ({ id, name, width, height, bleed, base }: Sheet): Mutable<SheetHead> => ({
	id,
	name,
	width,
	height,
	bleed,
	base,
});
type Mutable<T> = { -readonly [K in keyof T]: T[K] };

export const heads = (): SheetHead[] => project()?.sheets.map(headOf) ?? [];

/** Puts parts of a model on a sheet. */
export function putParts(model: Id, parts: readonly number[], sheet: Id): void {
	const found = project()?.models.find(({ id }) => id === model);
	const to = project()?.sheets.find(({ id }) => id === sheet);
	if (!found || !to) return;
	const sheets = found.parts.map((part, i) => (parts.includes(i) ? sheet : part.sheet));
	if (sheets.every((each, i) => each === found.parts[i]?.sheet)) return;
	const name = parts.length === 1 ? `"${found.parts[parts[0] as number]?.name}"` : `${parts.length} parts`;
	relay({ parts: [[model, sheets]] }, `${name} on "${to.name}"`);
}

/** A new sheet, as large as another; with parts, these lie on it with what is painted on them. */
export function addSheet(like: Sheet, model: Id | null, parts: readonly number[]): Id {
	const names = heads().map(({ name }) => name);
	let n = names.length + 1;
	while (names.includes(`Sheet ${n}`)) n++;
	const id = crypto.randomUUID();
	const found = project()?.models.find((each) => each.id === model);
	const sheets = [...heads(), { ...headOf(like), id, name: `Sheet ${n}` }];
	relay(
		found && parts.length
			? {
					sheets,
					parts: [[found.id, found.parts.map((part, i) => (parts.includes(i) ? id : part.sheet))]],
				}
			: { sheets },
		found && parts.length ? `Split to "Sheet ${n}"` : `Add "Sheet ${n}"`,
	);
	return id;
}

/** A side that a sheet may have, nearest to what was typed. */
export const possibleSide = (side: number): number =>
	Math.max(SHEET_SIDE.least, Math.min(SHEET_SIDE.most, Math.round(side)));

/** Changes a sheet apart from its layers, in one step; what is painted goes along to another size. */
export function changeSheet(sheet: Sheet, change: Partial<Omit<SheetHead, 'id'>>): void {
	const next = { ...headOf(sheet), ...change };
	const sized = next.width !== sheet.width || next.height !== sheet.height;
	// The usual bleed grows with the sheet; one that was chosen stays.
	if (sized && next.bleed === sheet.bleed && sheet.bleed === usualBleed(sheet.width, sheet.height))
		next.bleed = usualBleed(next.width, next.height);
	if (JSON.stringify(next) === JSON.stringify(headOf(sheet))) return;
	const words =
		next.name !== sheet.name
			? `Call "${sheet.name}" "${next.name}"`
			: sized
				? `"${sheet.name}" at ${next.width} × ${next.height}`
				: `Bleed of "${sheet.name}"`;
	relay({ sheets: heads().map((head) => (head.id === sheet.id ? next : head)) }, words);
}

/** Everything that lies on a sheet goes to another, with its paint, and the sheet goes away. */
export function mergeSheets(from: Sheet, into: Sheet): void {
	const parts = project()?.models.map(
		({ id, parts }) => [id, parts.map(({ sheet }) => (sheet === from.id ? into.id : sheet))] as const,
	);
	relay(
		{ sheets: heads().filter(({ id }) => id !== from.id), ...(parts ? { parts } : {}) },
		`Merge "${from.name}" into "${into.name}"`,
	);
}

export const removeSheet = (sheet: Sheet): void =>
	relay({ sheets: heads().filter(({ id }) => id !== sheet.id) }, `Remove "${sheet.name}"`);
