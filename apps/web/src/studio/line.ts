import type { Desk, Id } from '@eppu/core/document';
import type { SeenSpot } from '@eppu/core/engine';
import type { TemplateLook } from '@eppu/core/format';
import type { ExchangeWhat, ModelOrder, PageOrder, TextureFile, TextureOrder } from '@eppu/core/handoff';
import type { Rect } from '@eppu/core/raster';
import type { MeshReport } from '@eppu/core/report';
import type { LetterPlace } from '@eppu/core/scene';
import { journal } from './journal.ts';
import type { FromKeeper, ToKeeper } from './keeping.ts';
import { type FromStudio, isChanging, type Said, type ToStudio, type ToStudioLine } from './protocol.ts';
import { useStudio } from './store.ts';
import type { FoundEdges, Look, OutAnswer, OutThere, Proposal, SentAnswer, TakenAnswer } from './told.ts';
import { endWorkers, startWorkers, type Workers, workersFailed } from './workers.ts';

const set = useStudio.setState;
const get = useStudio.getState;

/** The workers that the line leads to: what the page says to them, and the questions that wait for an answer. */
let workers: Workers | null = null;
/** The project that changes are said of. */
let project: Id | null = null;
/** The number of the next change that is said. */
let nextSaid = Date.now() * 1000;
let asks = 0;
/** Questions that wait, by their number. */
const waits = new Map<number, (answer: unknown) => void>();

/** Who hears what comes back. */
interface Ears {
	studio(message: FromStudio): void;
	keeper(message: FromKeeper): void;
	/** The workers stopped working, or their scripts did not load. */
	stopped(): void;
}
let ears: Ears | null = null;
export const listen = (to: Ears): void => {
	ears = to;
};

/** The project that is open or about to be; null says nothing of any. */
export const addressed = (): Id | null => project;
export const address = (id: Id | null): void => {
	project = id;
};
/** Changes are numbered from here on, at the least. */
export const numberFrom = (n: number): void => {
	nextSaid = Math.max(nextSaid, n);
};

function start(): Workers {
	if (workers) return workers;
	// Those that failed before anybody listened are started again.
	if (workersFailed()) endWorkers();
	const { studio, keeper } = startWorkers();
	const line = new MessageChannel();
	studio.postMessage({ say: 'keeper', port: line.port1 } satisfies ToStudioLine, [line.port1]);
	keeper.postMessage({ say: 'studio', port: line.port2 } satisfies ToKeeper, [line.port2]);
	studio.onmessage = ({ data }: MessageEvent<FromStudio>) => {
		try {
			ears?.studio(data);
		} finally {
			if (data.say === 'patch') studio.postMessage({ say: 'patched' } satisfies ToStudioLine);
		}
	};
	keeper.onmessage = (event: MessageEvent<FromKeeper>) => ears?.keeper(event.data);
	const stopped = (): void => {
		stopWorkers();
		ears?.stopped();
	};
	studio.onerror = stopped;
	keeper.onerror = stopped;
	journal.begin();
	journalWorks = true;
	workers = { studio, keeper };
	return workers;
}

/** Ends both workers at once. */
export function stopWorkers(): void {
	endWorkers();
	workers = null;
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

/** Says something to the keeper. */
export const tellKeeper = (message: ToKeeper): void => start().keeper.postMessage(message);

export const tryKeeping = (): void => tellKeeper({ say: 'try-again' });

/** Gives a question its answer. */
export function answered(ask: number, answer: unknown): void {
	waits.get(ask)?.(answer);
	waits.delete(ask);
}

function asking<T>(message: (ask: number) => ToStudio): Promise<T> {
	const ask = ++asks;
	return new Promise((resolve) => {
		waits.set(ask, resolve as (answer: unknown) => void);
		tell(message(ask));
	});
}

/** What each question is answered with. */
interface Answers {
	readonly cling: readonly number[];
	readonly 'cling-seen': readonly number[];
	readonly bounds: Rect | null;
	readonly 'bounds-seen': Rect | null;
	readonly spots: readonly (SeenSpot | null)[];
	readonly histogram: Uint32Array;
	readonly report: MeshReport | null;
	readonly anew: Proposal;
	/** Why the file could not be had; null where it was. */
	readonly bring: string | null;
	readonly edge: FoundEdges | null;
	readonly 'letter-place': LetterPlace | null;
	readonly missed: number | null;
	/** Texels that point at each entry of the palette. */
	readonly 'entry-uses': readonly number[];
}
type Question = keyof Answers;

/** Asks the studio for plain data. */
export const question = <Q extends Question>(
	message: Omit<Extract<ToStudio, { readonly say: Q }>, 'ask'>,
): Promise<Answers[Q]> => asking((ask) => ({ ...message, ask }) as unknown as ToStudio);

type Asked = Extract<ToStudio, { readonly ask: number }>;
/** Asks the studio for something to look at. */
export const lookAt = (
	message: Omit<Extract<Asked, { say: 'preview' }>, 'ask'> | Omit<Extract<Asked, { say: 'stencil' }>, 'ask'>,
): Promise<Look | null> => asking((ask) => ({ ...message, ask }) as ToStudio);

const farOf = new Map<number, (done: number) => void>();
type Written = { readonly bytes: Uint8Array<ArrayBuffer> | null; readonly text: string | null };
const written = (message: (ask: number) => ToStudio): Promise<Written> => asking(message);

/** The template of a sheet, as PNG or SVG. */
export const template = (sheet: Id, width: number, look: TemplateLook, as: 'png' | 'svg'): Promise<Written> =>
	written((ask) => ({ say: 'template', ask, sheet, width, look, as }));

/** A bake on a sheet as a PNG of 8 or 16 bits a channel. */
export const bakeFile = (sheet: Id, bake: string, depth: 8 | 16): Promise<Written> =>
	written((ask) => ({ say: 'bake-file', ask, sheet, bake, depth }));

/** What stands out on a sheet as a PNG of 8 or 16 bits a channel. */
export const reliefFile = (sheet: Id, look: string, depth: 8 | 16): Promise<Written> =>
	written((ask) => ({ say: 'relief-file', ask, sheet, look, depth }));

/** A model with what is painted at its vertices. */
export const vertexFile = (model: Id, as: 'ply' | 'glb'): Promise<Written> =>
	written((ask) => ({ say: 'vertex-file', ask, model, as }));

const out = (message: (ask: number) => ToStudio): Promise<OutAnswer> => asking(message);

/** One file of an order of textures. */
export const textureOut = (file: TextureFile, order: TextureOrder): Promise<OutAnswer> =>
	out((ask) => ({ say: 'texture-out', ask, file, order }));

/** A model as files, as it lies on its sheets now. */
export const modelOut = (model: Id, order: ModelOrder): Promise<OutAnswer> =>
	out((ask) => ({ say: 'model-out', ask, model, order }));

/** A sheet's layers as OpenRaster. */
export const layersOut = (sheet: Id): Promise<OutAnswer> => out((ask) => ({ say: 'layers-out', ask, sheet }));

/** Layers from an OpenRaster file in the place of a sheet's, or as one more sheet. */
export const layersIn = (sheet: Id | null, name: string, bytes: Uint8Array<ArrayBuffer>): Promise<OutAnswer> =>
	out((ask) => ({ say: 'layers-in', ask, sheet, name, bytes, seed: crypto.randomUUID() }));

/** A sheet, layer or mask goes out to another editor. */
export const exchangeOut = (project: Id, what: ExchangeWhat): Promise<SentAnswer> =>
	asking((ask) => ({ say: 'exchange-out', ask, project, what }));

/** What another editor saved of it, taken in as one step. */
export const exchangeIn = (out: OutThere, n: number): Promise<TakenAnswer> =>
	asking((ask) => ({ say: 'exchange-in', ask, out, n }));

/** The whole project as one open ZIP. */
export const projectOut = (desk: Desk | null): Promise<OutAnswer> => out((ask) => ({ say: 'project-out', ask, desk }));

/** A page that shows the work; `far` is told how far it is, and it ends early when `stop` does. */
export function pageOut(order: PageOrder, far: (done: number) => void, stop: AbortSignal): Promise<OutAnswer> {
	let of = 0;
	const answer = out((ask) => {
		of = ask;
		return { say: 'page-out', ask, order };
	});
	farOf.set(of, far);
	stop.addEventListener('abort', () => tell({ say: 'stop-out', of }));
	return answer.finally(() => farOf.delete(of));
}

/** Tells whoever waits how far what is being written is. */
export const wrote = (ask: number, done: number): void => farOf.get(ask)?.(done);

/** All of the work as one file that Eppu opens again. */
export const workFile = (): Promise<Written> => written((ask) => ({ say: 'file', ask }));

/** The build-up of a sheet as one PNG. */
export const buildUp = (sheet: Id): Promise<Written> => written((ask) => ({ say: 'build-up', ask, sheet }));
