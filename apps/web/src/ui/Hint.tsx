import { Tooltip } from 'radix-ui';
import { cloneElement, type ReactElement, useEffect, useState } from 'react';
import { Ghost } from './Ghost.tsx';

type Side = 'top' | 'bottom' | 'left' | 'right';

/** A tooltip: what a control does, and its key. One `HintLayer` shows those of all controls. */
export const Hint = ({
	text,
	keys,
	side = 'top',
	children,
}: {
	readonly text: string;
	readonly keys?: string | undefined;
	readonly side?: Side;
	readonly children: ReactElement;
}): ReactElement =>
	cloneElement(children, { 'data-hint': text, 'data-hint-keys': keys, 'data-hint-side': side } as Partial<unknown>);

/** A pointer rests this long before it is told; from one control to the next it is told at once. */
const REST_MS = 450;
const NEXT_MS = 300;

const hinted = (target: EventTarget | null): HTMLElement | null =>
	target instanceof Element ? target.closest<HTMLElement>('[data-hint]') : null;

/** Calls with the control whose hint is to be shown, or null. */
function watchHints(show: (control: HTMLElement | null) => void): () => void {
	let timer: ReturnType<typeof setTimeout> | undefined;
	let shown: HTMLElement | null = null;
	let hiddenAt = Number.NEGATIVE_INFINITY;
	const put = (control: HTMLElement | null): void => {
		clearTimeout(timer);
		if (control === shown) return;
		if (shown) hiddenAt = performance.now();
		shown?.removeAttribute('aria-describedby');
		shown = control;
		shown?.setAttribute('aria-describedby', 'hint');
		show(control);
	};
	const over = (event: PointerEvent): void => {
		const control = event.pointerType === 'touch' ? null : hinted(event.target);
		if (control === shown) return clearTimeout(timer);
		put(null);
		if (!control) return;
		timer = setTimeout(() => put(control), performance.now() - hiddenAt < NEXT_MS ? 0 : REST_MS);
	};
	const focus = (event: FocusEvent): void => {
		const control = hinted(event.target);
		put(control?.matches(':focus-visible') ? control : null);
	};
	const hide = (): void => put(null);
	const key = (event: KeyboardEvent): void => {
		if (event.key === 'Escape') hide();
	};
	// What goes away takes its hint along.
	const gone = setInterval(() => shown && !shown.isConnected && hide(), 250);
	const events = [
		['pointerover', over],
		['pointerdown', hide],
		['focusin', focus],
		['focusout', hide],
		['keydown', key],
		['scroll', hide],
	] as [string, EventListener][];
	for (const [name, listener] of events) document.addEventListener(name, listener, true);
	return () => {
		put(null);
		clearInterval(gone);
		for (const [name, listener] of events) document.removeEventListener(name, listener, true);
	};
}

/** Shows the hint of whichever control is pointed at or has the focus. */
export function HintLayer() {
	const [control, setControl] = useState<HTMLElement | null>(null);
	useEffect(() => watchHints(setControl), []);
	if (!control) return null;
	const { hint, hintKeys, hintSide } = control.dataset;
	return (
		<Tooltip.Root key={hint} open>
			<Tooltip.Trigger asChild>
				<Ghost of={control} />
			</Tooltip.Trigger>
			<Tooltip.Portal>
				<Tooltip.Content
					side={hintSide as Side}
					sideOffset={6}
					collisionPadding={8}
					className="cut pointer-events-none z-50 max-w-64 bg-soot px-2.5 py-1 text-[12px] text-paper"
				>
					<span id="hint">{hint}</span>
					{hintKeys && <kbd className="ml-2 font-text font-semibold opacity-75">{hintKeys}</kbd>}
				</Tooltip.Content>
			</Tooltip.Portal>
		</Tooltip.Root>
	);
}
