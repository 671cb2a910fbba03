/**
 * Paint would land where it is not seen coming: who presses the model has it as it is first. Its view is still moved, by the
 * other buttons. Returns how to stop that.
 */
export function onPress(put: () => void): () => void {
	const press = (event: PointerEvent): void => {
		if (event.button !== 0 || !(event.target as HTMLElement).closest('[data-view="model"]')) return;
		event.stopImmediatePropagation();
		put();
	};
	addEventListener('pointerdown', press, { capture: true });
	return () => removeEventListener('pointerdown', press, { capture: true });
}
