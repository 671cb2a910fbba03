import type { Hex } from '@eppu/core/color';
import { type Command, type Desk, eachLayer, emptyDesk, type Guard, type Id } from '@eppu/core/document';
import type { Edit } from '@eppu/core/edit';
import { framing, homeCamera } from '@eppu/core/projection';
import type { Rect } from '@eppu/core/raster';
import type { LetterPlace, Spot } from '@eppu/core/scene';
import type { Tip } from '@eppu/core/stroke';
import { toast } from 'sonner';
import { holdProject, letGo } from './hold.ts';
import { journal } from './journal.ts';
import { createSheetPicture, type SheetPicture } from './pictures.ts';
import {
	type FromKeeper,
	type FromStudio,
	isChanging,
	type Look,
	type Moved,
	type Outline,
	type Said,
	type ShownModel,
	type ToKeeper,
	type ToStudio,
	type ToStudioLine,
} from './protocol.ts';
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
/** The number of the next change that is said. */
let nextSaid = Date.now() * 1000;
let asks = 0;
const asked = new Map<
	number,
	(answer: { readonly bytes: Uint8Array<ArrayBuffer> | null; readonly text: string | null }) => void
>();
/** Told once the keeper has all of a project that is left. */
let left: (() => void) | null = null;
/** Where the last press landed on the screen, so that a refusal is said there. */
let pressedAt = { x: 0, y: 0 };

function start(): Workers {
	if (workers) return workers;
	const studio = new Worker(new URL('../workers/studio.worker.ts', import.meta.url), { type: 'module' });
	const keeper = new Worker(new URL('../workers/keeper.worker.ts', import.meta.url), { type: 'module' });
	const line = new MessageChannel();
	studio.postMessage({ say: 'keeper', port: line.port1 } satisfies ToStudioLine, [line.port1]);
	keeper.postMessage({ say: 'studio', port: line.port2 } satisfies ToKeeper, [line.port2]);
	studio.onmessage = (event: MessageEvent<FromStudio>) => fromStudio(event.data);
	keeper.onmessage = (event: MessageEvent<FromKeeper>) => fromKeeper(event.data);
	const stopped = (): void => {
		stopWorkers();
		set({
			status: 'failed',
			failure: {
				text: 'The studio stopped working, or its parts could not be loaded. What was painted is kept; open the project again.',
				why: 'broken',
			},
		});
	};
	studio.onerror = stopped;
	keeper.onerror = stopped;
	journal.begin();
	journalWorks = true;
	workers = { studio, keeper };
	return workers;
}

function stopWorkers(): void {
	workers?.studio.terminate();
	workers?.keeper.terminate();
	workers = null;
	left?.();
}

let journalWorks = true;
/** Notes a change in the journal; whether that can be done is told to the keeper where it is new. */
function note(id: Id, said: Said, keeper: Worker): void {
	const told = (works: boolean): void => {
		if (works === journalWorks) return;
		journalWorks = works;
		keeper.postMessage({ say: 'journal', works } satisfies ToKeeper);
	};
	journal.say(id, said).then(
		() => told(true),
		() => told(false),
	);
}

/** Says something to the studio; a change is put into the journal first, and is not kept from that moment on. */
export function tell(message: ToStudio): void {
	const { studio, keeper } = start();
	if (!isChanging(message) || !project) return studio.postMessage(message);
	const said = { n: nextSaid++, message };
	note(project, said, keeper);
	const { keeping } = get();
	if (keeping.state === 'kept') set({ keeping: { state: 'keeping', strokes: 0, words: true } });
	else if (!keeping.words) set({ keeping: { ...keeping, words: true } });
	keeper.postMessage({ say: 'said', project, said } satisfies ToKeeper);
	studio.postMessage({ ...message, n: said.n } satisfies ToStudioLine);
}

export function run(command: Command, gesture?: string): void {
	const id = command.do === 'layer.add' ? command.layer.id : command.do === 'group.make' ? command.group.id : null;
	if (id) set({ coming: new Set(get().coming).add(id) });
	tell(gesture ? { say: 'run', command, gesture } : { say: 'run', command });
}

/** What was asked for and is there now is not waited for any more; nor is what was refused. */
function arrived({ project }: Outline): { coming: ReadonlySet<Id> } | Record<string, never> {
	const { coming } = get();
	if (coming.size === 0) return {};
	const here = new Set(project.sheets.flatMap((sheet) => [...eachLayer(sheet.layers)].map((layer) => layer.id)));
	return { coming: new Set([...coming].filter((id) => !here.has(id))) };
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

export const tryKeeping = (): void => start().keeper.postMessage({ say: 'try-again' } satisfies ToKeeper);

/**
 * Opens a project once no other tab of this browser has it; while one has, `status` says so, and it opens by itself when
 * that lets go. 'take' asks the other tab for it; 'queue' waits its turn from the start.
 */
export async function openProject(id: Id, how: 'open' | 'take' | 'queue' = 'open'): Promise<void> {
	if (project === id && how === 'open' && get().status !== 'failed') return;
	closeProject();
	project = id;
	waiting = new AbortController();
	const { signal } = waiting;
	set({ ...closed, ...habits(), status: how === 'queue' ? 'elsewhere' : 'opening' });
	await leaving;
	if (signal.aborted) return;
	const held = await hold(id, how === 'take', signal);
	if (!held || signal.aborted) return;
	set({ status: 'opening' });
	start().keeper.postMessage({ say: 'settle', project: id } satisfies ToKeeper);
}
/** Ends the waiting for the project that is to be opened. */
let waiting = new AbortController();

/** What of the screen's state stays from project to project. */
const habits = () => {
	const { show, layout, selecting, shaping, grading, smooth, filling } = get();
	return { show, layout, selecting, shaping, grading, smooth, filling };
};

/** The last project's way out: the next is opened only after it. */
let leaving: Promise<void> = Promise.resolve();

/** Longest wait for the workers to give away what is left. */
const LEAVE_MS = 5000;

export function closeProject(): void {
	waiting.abort();
	if (project) {
		const id = project;
		flushDesk();
		if (get().status === 'open') {
			const done = new Promise<void>((resolve) => {
				left = resolve;
				setTimeout(resolve, LEAVE_MS);
			});
			tell({ say: 'leave' });
			leaving = done.then(() => letGo(id));
		} else letGo(id);
	}
	project = null;
	pictures.clear();
	set({ ...closed, ...habits() });
}

/** Another tab wants the open project: what is left is given away first, and this one waits its turn. */
async function giveAway(id: Id): Promise<void> {
	closeProject();
	await leaving;
	stopWorkers();
	void openProject(id, 'queue');
}

const hold = (id: Id, takeOver: boolean, stop: AbortSignal): Promise<boolean> =>
	holdProject(
		id,
		takeOver,
		{
			wanted: () => {
				if (project === id) void giveAway(id);
			},
			lost: () => {
				if (project !== id) return;
				stopWorkers();
				project = null;
				void openProject(id, 'queue');
			},
		},
		stop,
		() => set({ status: 'elsewhere' }),
	);

const movedWords = (moved: Moved): string =>
	`This project was changed elsewhere meanwhile. What you painted here goes on as "${moved.name}"${
		moved.exact ? '' : ', over the project as it is now, since what you began from is no longer kept'
	}; the other stays as it is.`;

function fromKeeper(message: FromKeeper): void {
	switch (message.say) {
		case 'keeping':
			return set({ keeping: message.keeping });
		case 'left':
			return left?.();
		case 'named':
			return message.project === project ? tell({ say: 'adopt', project, name: message.name }) : undefined;
		case 'moved':
			return message.moved.from === project ? goOnAs(message.moved) : undefined;
		case 'settled': {
			if (message.asked !== project) return;
			nextSaid = Math.max(nextSaid, message.next);
			if (message.given) toast('What the server had not kept yet was given back from this browser.');
			if (message.moved) goOnAs(message.moved);
			tell({ say: 'open', project: message.project, held: message.held, said: message.said });
		}
	}
}

/** How long words must have stood to be read. */
const READ_MS = 4000;

/** The project goes on under another id, in this tab. */
function goOnAs(moved: Moved): void {
	const before = project;
	project = moved.to;
	void hold(moved.to, true, waiting.signal);
	if (before) letGo(before);
	if (get().status === 'open') tell({ say: 'adopt', project: moved.to, name: moved.name });
	toast(movedWords(moved), { duration: 20000 });
	// Only what has stood there for a while has been read: a tab that dies at once tells it again.
	setTimeout(() => workers?.keeper.postMessage({ say: 'told', project: moved.to } satisfies ToKeeper), READ_MS);
	set({ movedTo: moved.to });
}

/** The desk of a project that is opened for the first time: its model fills the view. */
function deskOf([model]: readonly ShownModel[]): Desk {
	if (!model) return emptyDesk;
	return { ...emptyDesk, camera: framing(homeCamera, model.center, model.radius, 1, 1) };
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
				desk: message.desk ?? deskOf(message.models),
				layout: hasModel ? get().layout : 'sheet',
				thumbnails: new Map(),
			});
			if (message.restored)
				toast(
					message.restored === 1
						? 'The stroke that was cut off is back.'
						: `${message.restored} strokes that were not kept yet are back.`,
				);
			if (message.leftOut.length)
				toast(
					`Parts of ${message.leftOut.map((name) => `"${name}"`).join(', ')} could not be read and were left out. The rest is here; an earlier copy may hold them.`,
					{ duration: 20000 },
				);
			return;
		}
		case 'not-opened':
			return set({ status: 'failed', failure: { text: message.text, why: message.why } });
		case 'outline':
			return set({ outline: message.outline, ...arrived(message.outline) });
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
			set({ coming: new Set() });
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

/** All of the work as one file that Eppu opens again. */
export const workFile = (): Promise<Written> => written((ask) => ({ say: 'file', ask }));

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
		signal: AbortSignal.timeout(20_000),
		headers: { 'Content-Type': 'application/json' },
		body: JSON.stringify(get().desk),
	}).catch(() => undefined);
}
addEventListener('pagehide', () => {
	flushDesk();
	if (project && get().status === 'open') tell({ say: 'keep-now' });
});
addEventListener('beforeunload', (event) => {
	// What is only in this tab would be gone with it.
	const { keeping } = get();
	if ((keeping.state === 'held' || keeping.state === 'refused') && keeping.in === 'tab') event.preventDefault();
});
