import type { Hex } from '@eppu/core/color';
import type { Command, Desk, Edit, Guard, Id, LetterPlace, Spot } from '@eppu/core/document';
import type { Rect } from '@eppu/core/raster';
import type { Tip } from '@eppu/core/stroke';
import { toast } from 'sonner';
import { createSheetPicture, type SheetPicture } from './pictures.ts';
import type { FromKeeper, FromStudio, Look, ToKeeper, ToStudio } from './protocol.ts';
import { activeLayerId, activeSheet, closed, paintsMask, pots, useStudio } from './store.ts';

const set = useStudio.setState;
const get = useStudio.getState;

/** Pictures of the open project's sheets. */
export const pictures = new Map<Id, SheetPicture>();

interface Workers {
	readonly studio: Worker;
	readonly keeper: Worker;
}
let workers: Workers | null = null;
let project: Id | null = null;
let asks = 0;
const asked = new Map<
	number,
	(answer: { readonly bytes: Uint8Array<ArrayBuffer> | null; readonly text: string | null }) => void
>();
let letGo: (() => void) | null = null;
/** Where the last press landed on the screen, so that a refusal is said there. */
let pressedAt = { x: 0, y: 0 };

function start(): Workers {
	if (workers) return workers;
	const studio = new Worker(new URL('../workers/studio.worker.ts', import.meta.url), { type: 'module' });
	const keeper = new Worker(new URL('../workers/keeper.worker.ts', import.meta.url), { type: 'module' });
	const line = new MessageChannel();
	studio.postMessage({ say: 'keeper', port: line.port1 }, [line.port1]);
	keeper.postMessage({ say: 'studio', port: line.port2 } satisfies ToKeeper, [line.port2]);
	studio.onmessage = (event: MessageEvent<FromStudio>) => fromStudio(event.data);
	keeper.onmessage = (event: MessageEvent<FromKeeper>) => fromKeeper(event.data);
	studio.onerror = () =>
		set({
			status: 'failed',
			failure: { text: 'The studio stopped working. What was painted is kept; open the project again.', gone: false },
		});
	workers = { studio, keeper };
	return workers;
}

/** Says something to the studio. */
export const tell = (message: ToStudio): void => start().studio.postMessage(message);

export const run = (command: Command, gesture?: string): void =>
	tell(gesture ? { say: 'run', command, gesture } : { say: 'run', command });

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

export const tryKeeping = (): void => start().keeper.postMessage({ say: 'try-again' } satisfies ToKeeper);

/** Opens a project, unless another tab of this browser has it; then `status` says so until `takeOver`. */
export async function openProject(id: Id, steal = false): Promise<void> {
	if (project === id && !steal && get().status !== 'failed') return;
	closeProject();
	project = id;
	set({ ...closed, ...habits(), status: 'opening' });
	const held = await hold(id, steal);
	if (project !== id) return;
	if (!held) return set({ status: 'elsewhere' });
	start().keeper.postMessage({ say: 'settle', project: id } satisfies ToKeeper);
}

/** What of the screen's state stays from project to project. */
const habits = () => {
	const { show, layout, selecting, shaping, grading, smooth, filling } = get();
	return { show, layout, selecting, shaping, grading, smooth, filling };
};

export function closeProject(): void {
	if (project) {
		if (get().status === 'open') tell({ say: 'keep-now' });
		flushDesk();
	}
	letGo?.();
	letGo = null;
	project = null;
	pictures.clear();
	set({ ...closed, ...habits() });
}

/** One tab works on a project at a time: the browser's lock of its name says which. */
function hold(id: Id, steal: boolean): Promise<boolean> {
	return new Promise((resolve) => {
		const options = steal ? { steal: true } : { ifAvailable: true };
		navigator.locks
			.request(`eppu-project-${id}`, options, (lock) => {
				resolve(lock !== null);
				return lock ? new Promise<void>((done) => (letGo = done)) : undefined;
			})
			.catch(() => {
				// Another tab took the project over.
				if (project === id) {
					workers?.studio.terminate();
					workers?.keeper.terminate();
					workers = null;
					letGo = null;
					set({ status: 'elsewhere' });
				}
			});
	});
}

function fromKeeper(message: FromKeeper): void {
	if (message.say === 'keeping') {
		set({ keeping: message.keeping });
		return;
	}
	if (message.project !== project) return;
	if (message.rescued)
		toast('This project was changed elsewhere. What you had painted here is kept as a copy beside it.', {
			duration: 12000,
		});
	else if (message.given) toast('What the server had not kept yet was given back from this browser.');
	tell({ say: 'open', project: message.project, live: message.live });
}

function fromStudio(message: FromStudio): void {
	switch (message.say) {
		case 'opened': {
			pictures.clear();
			for (const sheet of message.outline.project.sheets)
				pictures.set(sheet.id, createSheetPicture(sheet.id, sheet.width, sheet.height));
			const hasModel = message.models.length > 0;
			set({
				status: 'open',
				outline: message.outline,
				models: message.models,
				...(message.desk ? { desk: message.desk } : {}),
				layout: hasModel ? get().layout : 'sheet',
				thumbnails: new Map(),
			});
			if (message.restored) toast('The stroke that was cut off is back.');
			return;
		}
		case 'not-opened':
			return set({ status: 'failed', failure: { text: message.text, gone: message.gone } });
		case 'outline':
			return set({ outline: message.outline });
		case 'patch':
			return pictures.get(message.sheet)?.apply(message);
		case 'settled':
			document.documentElement.dataset.settled = String(Number(document.documentElement.dataset.settled ?? 0) + 1);
			return;
		case 'spot':
			return set({
				spot: message.spot && { spot: message.spot, from: message.from },
				...(message.mirrors.length || get().mirrors.length ? { mirrors: message.mirrors } : {}),
			});
		case 'touched':
			return toggleGuard(message.spot);
		case 'looked':
			looks.get(message.ask)?.(message.picture);
			looks.delete(message.ask);
			return;
		case 'selected': {
			const selections = new Map(get().selections);
			if (message.lines.length) selections.set(message.sheet, { lines: message.lines, model: message.model });
			else selections.delete(message.sheet);
			return set({ selections });
		}
		case 'told':
			answers.get(message.ask)?.(message.answer);
			answers.delete(message.ask);
			return;
		case 'steps':
			return set({ steps: { layer: message.layer, side: message.side, tones: message.tones } });
		case 'computing':
			return set({ computing: message.left ? message : null });
		case 'pasted':
			return setDesk({
				sheet: message.sheet,
				layers: { ...get().desk.layers, [message.sheet]: message.layer },
				onMask: false,
			});
		case 'sampled':
			return setFront(message.color);
		case 'refused':
			return set({ refusal: { refusal: message.refusal, ...pressedAt } });
		case 'stroke': {
			const { desk } = get();
			if (desk.sheet !== message.sheet) setDesk({ sheet: message.sheet });
			if (paintsMask(get())) return;
			const recent = [desk.front, ...desk.recent.filter((each) => each !== desk.front)].slice(0, 12);
			return setDesk({ recent });
		}
		case 'thumbnails': {
			const thumbnails = new Map(get().thumbnails);
			for (const each of message.list) {
				const canvas = Object.assign(document.createElement('canvas'), { width: each.size, height: each.size });
				canvas.getContext('2d')?.putImageData(new ImageData(each.data, each.size, each.size), 0, 0);
				thumbnails.set(`${each.layer}/${each.on}`, canvas.toDataURL());
			}
			return set({ thumbnails });
		}
		case 'png':
			asked.get(message.ask)?.(message);
			asked.delete(message.ask);
			return;
		case 'failed':
			toast(message.text);
	}
}

const answers = new Map<number, (answer: unknown) => void>();

/** What each question is answered with. */
interface Answers {
	readonly cling: readonly number[];
	readonly bounds: Rect | null;
	readonly histogram: Uint32Array;
	readonly 'letter-place': LetterPlace | null;
}
type Question = keyof Answers;

/** Asks the studio for plain data. */
export function question<Q extends Question>(
	message: Omit<Extract<ToStudio, { readonly say: Q }>, 'ask'>,
): Promise<Answers[Q]> {
	const ask = ++asks;
	return new Promise((resolve) => {
		answers.set(ask, resolve as (answer: unknown) => void);
		tell({ ...message, ask } as unknown as ToStudio);
	});
}

const looks = new Map<number, (picture: Look | null) => void>();

type Asked = Extract<ToStudio, { readonly ask: number }>;
/** Asks the studio for something to look at. */
export function lookAt(
	message: Omit<Extract<Asked, { say: 'preview' }>, 'ask'> | Omit<Extract<Asked, { say: 'stencil' }>, 'ask'>,
): Promise<Look | null> {
	const ask = ++asks;
	return new Promise((resolve) => {
		looks.set(ask, resolve);
		tell({ ...message, ask } as ToStudio);
	});
}

/** Takes a touched face, island or part into the guard, or out of it. */
function toggleGuard(spot: Spot): void {
	const { desk, guardBy } = get();
	const guard: Guard = desk.guard ?? { way: 'only', parts: [], islands: [], faces: [] };
	const value = { parts: spot.part, islands: spot.island, faces: spot.face }[guardBy];
	const list = guard[guardBy];
	const next = { ...guard, [guardBy]: list.includes(value) ? list.filter((each) => each !== value) : [...list, value] };
	setDesk({ guard: next.parts.length + next.islands.length + next.faces.length ? next : null });
}

export const rememberPress = (x: number, y: number): void => {
	pressedAt = { x, y };
};

type Written = { readonly bytes: Uint8Array<ArrayBuffer> | null; readonly text: string | null };

const written = (message: (ask: number) => ToStudio): Promise<Written> => {
	const ask = ++asks;
	return new Promise((resolve) => {
		asked.set(ask, resolve);
		tell(message(ask));
	});
};

/** The PNG of a sheet at a size. */
export const png = (sheet: Id, width: number, height: number): Promise<Written> =>
	written((ask) => ({ say: 'png', ask, sheet, width, height }));

/** The build-up of a sheet as one PNG. */
export const buildUp = (sheet: Id): Promise<Written> => written((ask) => ({ say: 'build-up', ask, sheet }));

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

function flushDesk(): void {
	if (deskTimer === undefined || !project || get().status !== 'open') return;
	clearTimeout(deskTimer);
	deskTimer = undefined;
	void fetch(`/api/projects/${project}/desk`, {
		method: 'PUT',
		keepalive: true,
		headers: { 'Content-Type': 'application/json' },
		body: JSON.stringify(get().desk),
	}).catch(() => undefined);
}
addEventListener('pagehide', () => {
	flushDesk();
	if (project && get().status === 'open') tell({ say: 'keep-now' });
});
