import type { Hex } from '@eppu/core/color';
import { type Desk, type Guard, type Id, namesFaces } from '@eppu/core/document';
import type { Spot } from '@eppu/core/scene';
import type { Tip } from '@eppu/core/stroke';
import { addressed, tell } from './line.ts';
import { paintsMask, pots, useStudio } from './store.ts';

const set = useStudio.setState;
const get = useStudio.getState;

let deskTimer: ReturnType<typeof setTimeout> | undefined;
/** Changes the desk, and has it kept a moment later. */
export function setDesk(change: Partial<Desk>): void {
	set({ desk: { ...get().desk, ...change } });
	clearTimeout(deskTimer);
	deskTimer = setTimeout(flushDesk, 400);
}

/** Takes a colour into the front pot: that of masks while one is painted. */
export const setFront = (hex: Hex): void => setDesk(paintsMask(get()) ? { maskFront: hex } : { front: hex });

export function swapPots(): void {
	const { front, back } = pots(get());
	setDesk(paintsMask(get()) ? { maskFront: back, maskBack: front } : { front: back, back: front });
}

/** Shows a layer or its mask alone; the same again shows all. */
export function lookAlone(sheet: Id, layer: Id, on: 'layer' | 'mask'): void {
	const { alone } = get();
	const same = alone?.layer === layer && alone.on === on;
	set({ alone: same ? null : { sheet, layer, on }, builtUp: null });
	tell({ say: 'look', sheet, look: same ? null : { layer, on } });
}

/** Shows a sheet whole again, whatever was seen of it alone. */
export function lookWhole(sheet: Id): void {
	set({ alone: null, builtUp: null });
	if (get().status === 'open') tell({ say: 'look', sheet, look: null });
}

export const setTip = (change: Partial<Tip>): void => setDesk({ tip: { ...get().desk.tip, ...change } });

/** Takes a touched face, island or part into the guard, or out of it. */
export function toggleGuard(spot: Spot): void {
	const { desk, guardBy } = get();
	const guard: Guard = desk.guard ?? { way: 'only', parts: [], islands: [], faces: [] };
	const value = { parts: spot.part, islands: spot.island, faces: spot.face }[guardBy];
	const list = guard[guardBy];
	const next = { ...guard, [guardBy]: list.includes(value) ? list.filter((each) => each !== value) : [...list, value] };
	setDesk({ guard: namesFaces(next) || next.tone ? next : null });
}

/** Has the desk kept now, where it changed. */
export function flushDesk(): void {
	if (deskTimer === undefined || !addressed() || get().status !== 'open') return;
	clearTimeout(deskTimer);
	deskTimer = undefined;
	void fetch(`/api/projects/${addressed()}/desk`, {
		method: 'PUT',
		keepalive: true,
		signal: AbortSignal.timeout(20_000),
		headers: { 'Content-Type': 'application/json' },
		body: JSON.stringify(get().desk),
	}).catch(() => undefined);
}
