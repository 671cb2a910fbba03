import { commands } from '../actions/command.ts';
import { pastePicture } from '../actions/layers.ts';
import { tell } from '../studio/line.ts';
import { useStudio } from '../studio/store.ts';
import { isHeld, isTyping, watchHeld } from './held.ts';

const stored = 'eppu-keys';

/** The artist's own keys by command id, over those that we ship. */
export const ownKeys = (): Record<string, string> =>
	JSON.parse(localStorage.getItem(stored) ?? '{}') as Record<string, string>;

export const keysOf = (command: { readonly id: string; readonly keys?: string | undefined }): string | undefined =>
	ownKeys()[command.id] ?? command.keys;

/** Gives a command a key of the artist's choice; null goes back to ours. Whoever had that key loses it. */
export function setKeys(id: string, keys: string | null): void {
	const all = ownKeys();
	if (keys === null) delete all[id];
	else {
		for (const other of commands()) if (other.id !== id && keysOf(other) === keys) all[other.id] = '';
		all[id] = keys;
	}
	localStorage.setItem(stored, JSON.stringify(all));
}

/** A key press as it is written: "Shift+Ctrl+Z", "Alt+1", "Tab". Ctrl stands for Cmd too. */
export function writtenKeys(event: KeyboardEvent): string {
	const name = event.code.startsWith('Key')
		? event.code.slice(3)
		: event.code.startsWith('Digit')
			? event.code.slice(5)
			: event.key;
	return `${event.shiftKey ? 'Shift+' : ''}${event.ctrlKey || event.metaKey ? 'Ctrl+' : ''}${event.altKey ? 'Alt+' : ''}${name}`;
}

const inControls = (event: KeyboardEvent): boolean =>
	event.target instanceof HTMLElement &&
	event.target.closest('button, a, [tabindex], [role="menu"], [role="dialog"]') !== null;

/** How long after its key the browser's event of pasting is waited for. */
const PASTE_MS = 120;

/** Listens for keys until the returned function is called. */
export function listenForKeys(): () => void {
	let waiting: ReturnType<typeof setTimeout> | undefined;
	const down = (event: KeyboardEvent): void => {
		if (isTyping(event) || useStudio.getState().status !== 'open' || document.querySelector('[role="dialog"]')) return;
		const written = writtenKeys(event);
		// Tab, Enter and Space belong to whoever moves through the controls by keyboard.
		if (inControls(event) && ['Tab', 'Shift+Tab', 'Enter', ' '].includes(written)) return;
		if (written === 'Escape') {
			tell({ say: 'cancel' });
			return;
		}
		const command = commands().find((each) => keysOf(each) === written);
		if (!command) return;
		if (command.event && written === command.keys) {
			// The browser's own event brings what is in the clipboard along; where none comes the key is all there is.
			clearTimeout(waiting);
			waiting = setTimeout(command.run, PASTE_MS);
			return;
		}
		event.preventDefault();
		if (!command.held) command.run();
	};
	/** A picture becomes a layer; else what was copied here is put down. */
	const paste = (event: ClipboardEvent): void => {
		clearTimeout(waiting);
		if (isTyping(event) || useStudio.getState().status !== 'open' || document.querySelector('[role="dialog"]')) return;
		const file = [...(event.clipboardData?.files ?? [])].find((each) => each.type.startsWith('image/'));
		event.preventDefault();
		if (file) void pastePicture(file, file.name.replace(/\.[^.]+$/, '') || 'Picture');
		else
			commands()
				.find((each) => each.event === 'paste')
				?.run();
	};
	addEventListener('paste', paste);
	addEventListener('keydown', down);
	const stop = watchHeld(() => {
		const shifted = isHeld('ShiftLeft') || isHeld('ShiftRight');
		const [overlaysHidden, valuesOnly] = [isHeld('KeyV') && !shifted, isHeld('KeyV') && shifted];
		const beforeShown = isHeld('KeyO');
		const now = useStudio.getState();
		if (now.overlaysHidden !== overlaysHidden || now.valuesOnly !== valuesOnly || now.beforeShown !== beforeShown)
			useStudio.setState({ overlaysHidden, valuesOnly, beforeShown });
	});
	return () => {
		removeEventListener('keydown', down);
		removeEventListener('paste', paste);
		stop();
	};
}
