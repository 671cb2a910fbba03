import type { Pointing } from '../studio/protocol.ts';
import { useStudio } from '../studio/store.ts';
import type { Place } from '../studio/told.ts';
import type { Press, ToolKind } from '../tools/kind.ts';

type ViewName = 'model' | 'sheet';

/** What of a view tells where something is let go in it. */
interface Landing {
	toSpace(clientX: number, clientY: number): Place;
	pointing(x: number, y: number): Pointing | null;
}

/** A press that is moved less is a click: a pen slips further than a mouse. */
const STILL_PX = 8;

/** The views that the hand is in now, so that what is taken up in one can be let go in the other. */
const views = new Map<ViewName, Landing>();

/** Makes a view one that things can be let go in; what it returns takes it out again. */
export function landsIn(name: ViewName, view: Landing): () => void {
	views.set(name, view);
	return () => {
		if (views.get(name) === view) views.delete(name);
	};
}

let taken: { readonly tool: ToolKind; readonly press: Press; moved: boolean } | null = null;

/** The press that a place of the screen would be. */
function pressAt(press: Press, clientX: number, clientY: number): Press | null {
	const under = document.elementFromPoint(clientX, clientY)?.closest<HTMLElement>('[data-view]')?.dataset.view;
	const view = views.get(under as ViewName);
	if (!view) return null;
	const at = view.toSpace(clientX, clientY);
	return { ...press, view: under as ViewName, pointing: view.pointing(at.x, at.y), clientX, clientY };
}

/** A press that may become a click, or take something to where it is let go. */
export function takeUp(tool: ToolKind, press: Press): void {
	taken = { tool, press, moved: false };
}

export function carryTo(clientX: number, clientY: number): void {
	if (!taken?.tool.carry) return;
	const { press } = taken;
	taken.moved ||= Math.hypot(clientX - press.clientX, clientY - press.clientY) >= STILL_PX;
	if (!taken.moved) return;
	const words = taken.tool.carry.over(press, pressAt(press, clientX, clientY));
	useStudio.setState({ carried: words === null ? null : { words, x: clientX, y: clientY } });
}

export function letGo(clientX: number, clientY: number): void {
	if (!taken) return;
	const { tool, press, moved } = taken;
	dropNothing();
	if (!moved) return tool.press?.(press);
	const to = pressAt(press, clientX, clientY);
	if (to) tool.carry?.drop(press, to);
}

/** What was taken up stays where it was. */
export function dropNothing(): void {
	const { tool } = taken ?? {};
	taken = null;
	tool?.carry?.end();
	if (useStudio.getState().carried) useStudio.setState({ carried: null });
}
