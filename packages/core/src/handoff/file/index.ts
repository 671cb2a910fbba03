import type { FileKind } from './kind.ts';
import { png } from './png.ts';
import { webp } from './webp.ts';

export { type Channels, type FileKind, type FileWish, OrderError, type Writers } from './kind.ts';

/** The kinds of picture files: a new one is a line here. */
export const fileKinds: readonly FileKind[] = [png, webp];

/** The kind of file of a name. */
export function fileKindOf(kind: string): FileKind {
	const found = fileKinds.find((each) => each.kind === kind);
	if (!found) throw new RangeError(`There are no files "${kind}".`);
	return found;
}
