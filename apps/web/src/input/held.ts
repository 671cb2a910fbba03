/** Keys that are held down right now, by `KeyboardEvent.code`: views ask when the pointer does something. */
const held = new Set<string>();
const listeners = new Set<() => void>();

const typing = (event: Event): boolean =>
	event.target instanceof HTMLElement &&
	(event.target.isContentEditable || ['INPUT', 'TEXTAREA', 'SELECT'].includes(event.target.tagName));

addEventListener('keydown', (event) => {
	if (typing(event)) return;
	held.add(event.code);
	for (const listener of listeners) listener();
});
addEventListener('keyup', (event) => {
	held.delete(event.code);
	for (const listener of listeners) listener();
});
addEventListener('blur', () => {
	held.clear();
	for (const listener of listeners) listener();
});

export const isHeld = (code: string): boolean => held.has(code);
export const watchHeld = (listener: () => void): (() => void) => {
	listeners.add(listener);
	return () => listeners.delete(listener);
};
export { typing as isTyping };
