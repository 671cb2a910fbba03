import type { Command } from '@eppu/core/document';
import type { Edit } from '@eppu/core/edit';
import { tell } from './line.ts';
import { activeLayerId, activeSheet, paintsMask, useStudio } from './store.ts';

const set = useStudio.setState;
const get = useStudio.getState;

/** Changes the document. */
export function run(command: Command, gesture?: string): void {
	const id = command.do === 'layer.add' ? command.layer.id : command.do === 'group.make' ? command.group.id : null;
	if (id) set({ coming: new Set(get().coming).add(id) });
	tell(gesture ? { say: 'run', command, gesture } : { say: 'run', command });
}

/** Changes the document in several ways as one step. */
export function runAll(commands: readonly Command[], words: string, gesture?: string): void {
	const added = commands.flatMap((each) => (each.do === 'layer.add' ? [each.layer.id] : []));
	if (added.length) set({ coming: new Set([...get().coming, ...added]) });
	tell({ say: 'run-all', commands, words, ...(gesture ? { gesture } : {}) });
}

/** Changes the pixels that strokes would go on; the guard limits it too. */
export function edit(what: Edit, gesture?: string): void {
	const state = get();
	const sheet = activeSheet(state);
	if (!sheet) return;
	tell({
		say: 'edit',
		sheet: sheet.id,
		layer: activeLayerId(state, sheet),
		edit: what,
		options: { onMask: paintsMask(state), guard: state.desk.guard, ...(gesture ? { gesture } : {}) },
	});
}
