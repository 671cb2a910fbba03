import { bake } from './bake.ts';
import { group } from './group.ts';
import type { SourceKind } from './kind.ts';
import { layer } from './layer.ts';
import { mask } from './mask.ts';
import { relief } from './relief.ts';
import { sheet } from './sheet.ts';

export type { SourceKind } from './kind.ts';

/** All that pictures can be of: a new one is a line here. */
export const sourceKinds: readonly SourceKind[] = [sheet, layer, group, mask, bake, relief];

/** The kind of source of a name. */
export function sourceKindOf(kind: string): SourceKind {
	const found = sourceKinds.find((each) => each.kind === kind);
	if (!found) throw new RangeError(`No pictures are of "${kind}".`);
	return found;
}
