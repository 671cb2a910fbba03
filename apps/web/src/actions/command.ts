/** Something that can be asked for: from its key, the search box, or a control. */
export interface AppCommand {
	readonly id: string;
	readonly label: string;
	/** Keys as written in the drawer, e.g. "Ctrl+Z"; none where it has no key. */
	readonly keys?: string;
	/** Held keys do something while they are down and are only listed. */
	readonly held?: boolean;
	/** With the keys that ship the browser tells of it by this event, which brings what is pasted along. */
	readonly event?: 'paste';
	readonly run: () => void;
}

let all: readonly AppCommand[] = [];
/** Those of what is on the screen just now. */
const passing = new Set<readonly AppCommand[]>();

/** Every command: as the screen that is open gave them (screens/commands.ts), and those of its stage. */
export const commands = (): readonly AppCommand[] => [...all, ...[...passing].flat()];
export const setCommands = (list: readonly AppCommand[]): void => {
	all = list;
};

/** Commands that can be asked for until what is returned is called. */
export function addCommands(list: readonly AppCommand[]): () => void {
	passing.add(list);
	return () => void passing.delete(list);
}
