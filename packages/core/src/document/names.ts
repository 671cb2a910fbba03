/** A name not yet among `taken`: "Tin", "Tin 2", "Tin 3" … */
/** What an island is called: by the name of any face of it; the last that was given. */
export const islandName = (
	islands: readonly { readonly face: number; readonly name: string }[] | undefined,
	islandOfFace: ArrayLike<number>,
	island: number,
): string | null => islands?.findLast(({ face }) => islandOfFace[face] === island)?.name ?? null;

export function freeName(name: string, taken: readonly string[]): string {
	if (!taken.includes(name)) return name;
	const stem = name.replace(/ \d+$/, '');
	for (let n = 2; ; n++) if (!taken.includes(`${stem} ${n}`)) return `${stem} ${n}`;
}

/** Control characters, and marks that turn the direction of what follows them: a name with them shows as another. */
const misleading = /[\p{Cc}\u061c\u200e\u200f\u202a-\u202e\u2066-\u2069\ufeff]/u;

/** What is wrong with a name of a project, a layer or a library's item, or null where it serves. */
export function cleanNameProblem(name: unknown): string | null {
	if (typeof name !== 'string' || name.trim() === '' || name.trim().length > 120)
		return 'A name needs 1 to 120 letters.';
	if (misleading.test(name.trim()))
		return 'That name holds characters that cannot be seen, or that turn the direction of writing. Type it anew.';
	return null;
}
