import { picturesNamed } from '@eppu/core/derive';
import { bakeFilesOf, CommandError, type Id, type Project } from '@eppu/core/document';
import { EditError } from '@eppu/core/edit';
import { type Dirty, type Engine, openEngine } from '@eppu/core/engine';
import fontsUrl from '@eppu/core/fonts.json?url&no-inline';
import { coverOf, coverWork, encodePng } from '@eppu/core/format';
import type { Pool } from '@eppu/core/jobs';
import { homeCamera } from '@eppu/core/projection';
import { giveFonts } from '@eppu/core/text';
import { createKernels } from '@eppu/kernels';
import wasmUrl from '@eppu/kernels/kernels.wasm?url&no-inline';
import { codecs } from '../server/codecs.ts';
import type { StudioToKeeper } from '../studio/keeping.ts';
import type { FromStudio, Said, ToStudio, ToStudioLine } from '../studio/protocol.ts';
import type { Outline } from '../studio/told.ts';
import { forgetSavings } from './exchange.ts';
import { type FetchedProject, fetchProject, OpenError } from './fetchProject.ts';
import { createHand } from './hand.ts';
import { KEEP_MS, type Studio } from './hears/ear.ts';
import { earFor } from './hears/list.ts';
import { createInflating } from './inflating.ts';
import { bringMade, keepMade, recallMade } from './madeStore.ts';
import { assetsOfSaid, bringFiles } from './models.ts';
import { fetchPicture, lookAt } from './pictures.ts';
import { openPool } from './pool.ts';
import { namesOf, picturesOfSaid } from './projectFile.ts';
import { createPump } from './pump.ts';
import { forgetPictures } from './reading.ts';
import { createSettling } from './settling.ts';
import { createModelTeller, shownModels } from './shownModel.ts';
import { thumbnailsOf } from './thumbnails.ts';
import { recallSteps, stepsNow } from './trail.ts';
import { openUndoFile } from './undoFile.ts';

const tell = (message: FromStudio, transfer: Transferable[] = []): void => postMessage(message, transfer);
let keeper: MessagePort | null = null;
const keep = (message: StudioToKeeper, transfer: Transferable[] = []): void => keeper?.postMessage(message, transfer);

const undoFile = openUndoFile();
// Each is asked for out of a frame of its own: a request tells where it was made, and for a frame of the whole module
// (a megabyte) that alone takes a tenth of a second.
const soon = Promise.resolve();
const compiled = soon.then(() => fetch(wasmUrl)).then((response) => WebAssembly.compileStreaming(response));
const kernels = compiled.then((module) => createKernels(module));
/** Here before anything is opened: letters may be set long after the server went away. */
const fonts = soon
	.then(() => fetch(fontsUrl))
	.then((response) => {
		if (!response.ok) throw new Error(`The fonts did not come: ${response.status}.`);
		return response.arrayBuffer();
	})
	.then((file) => new Uint8Array(file));
void fonts.then(giveFonts);
const hand = createHand();
let pool: Pool | null = null;
void Promise.all([kernels, compiled, fonts]).then(([own, module, file]) => {
	pool = openPool(own, module, file, hand.word);
});
const inflating = createInflating(() => pool);

let engine: Engine | null = null;
/** The number of the last change that was heard, and of the stroke that is being made. */
let heardUpTo = 0;
let strokeFrom = 0;
/** The files that the open project was made from, by their hash. */
let files: ReadonlyMap<string, Uint8Array<ArrayBuffer>> = new Map();
let keepTimer: ReturnType<typeof setTimeout> | undefined;
let idleTimer: ReturnType<typeof setTimeout> | undefined;
let coverDue = false;
/** Sheets whose first stroke has nothing ready yet. */
let unprepared: Id[] = [];

const pump = createPump(
	tell,
	() => engine,
	() => pool,
);
let selectionShown = -1;
const models = createModelTeller(tell);

/** The outline of a project whose engine is not there yet. */
const outlineOf = (project: Project): Outline => ({ project, done: [], undone: [], gesture: null });
const outline = (open: Engine): Outline => ({
	project: open.project,
	done: open.history.done.map((step) => step.words),
	undone: open.history.undone.map((step) => step.words).reverse(),
	gesture: open.history.done.at(-1)?.gesture ?? null,
});

/** Has what changed kept a moment later; what comes after does not put it off. */
function keepSoon(open: Engine, soon: number): void {
	if (keepTimer !== undefined && soon >= KEEP_MS) return;
	clearTimeout(keepTimer);
	keepTimer = setTimeout(() => keepNow(open), soon);
}

/** After a change: show it, and have it kept a moment later. */
function changed(open: Engine, dirty: Dirty, soon = KEEP_MS): void {
	pump.add(dirty);
	tell({ say: 'outline', outline: outline(open) });
	models.tell(open);
	showSelection(open);
	settling.wake();
	coverDue = true;
	keepSoon(open, soon);
	rest();
}

/** Lines round what is selected are told when they change. */
function showSelection(open: Engine): void {
	if (open.selectionTurn === selectionShown) return;
	selectionShown = open.selectionTurn;
	for (const sheet of open.project.sheets)
		tell({
			say: 'selected',
			sheet: sheet.id,
			lines: open.selectionLines(sheet.id),
			model: open.selectionOnModel(sheet.id) as Float32Array<ArrayBuffer>,
		});
}

const settling = createSettling(
	tell,
	() => engine,
	pump,
	() => pool,
	() => rest(),
);

function keepNow(open: Engine): void {
	clearTimeout(keepTimer);
	keepTimer = undefined;
	if (open !== engine) return;
	// A stroke that is being made is not in what is kept, and so stays in the journal.
	const upTo = open.stroking ? strokeFrom - 1 : heardUpTo;
	const delta = open.takeDelta();
	if (!delta) return keep({ say: 'nothing', project: open.project.id, upTo });
	const steps = stepsNow(open);
	const tiles = [
		...delta.tiles,
		...steps.added.flatMap(([, step]) => [...step.tiles, ...step.surfaces.flatMap((surface) => surface.tiles)]),
	];
	keep(
		{ say: 'keep', project: delta.project, tiles: delta.tiles, upTo, steps },
		tiles.flatMap((tile) => (tile.texels ? [tile.texels.buffer] : [])),
	);
}

/** What waits until the hand rests: thumbnails, pressing old undo steps together, the cover. */
function rest(): void {
	clearTimeout(idleTimer);
	idleTimer = setTimeout(() => {
		if (!engine || engine.stroking) return;
		if (pump.busy) return rest();
		const next = unprepared.shift();
		if (next !== undefined) {
			engine.prepare(next);
			idleTimer = setTimeout(rest, 0);
			return;
		}
		void thumbnailsOf(engine, pool).then((list) => tell({ say: 'thumbnails', list }));
		const tidy = (): void => {
			if (engine && !engine.stroking && engine.history.tidy()) idleTimer = setTimeout(tidy, 16);
			else idleTimer = setTimeout(makeCover, 2500);
		};
		idleTimer = setTimeout(tidy, 400);
	}, 350);
}

/** The turn of which all that was computed is kept. */
let madeTurn = -1;
const COVER = { width: 480, height: 320 };
let coverFrom = homeCamera;
function makeCover(): void {
	// What is still to be computed is not waited for: the hand rests again when it is done.
	if (!engine || engine.stroking || engine.due) return;
	const [open, turn] = [engine, engine.turn];
	if (turn !== madeTurn) {
		madeTurn = turn;
		void keepMade(open, () => open === engine && !open.stroking && open.turn === turn);
	}
	if (!coverDue) return;
	coverDue = false;
	void coverNow(open)
		// There may be no server to bring the writer from.
		.catch(() => null)
		.then((png) => {
			if (png) keep({ say: 'cover', project: open.project.id, png }, [png.buffer]);
			// The next rest makes it.
			else coverDue = true;
		});
}

/** The cover, by the pool where there is one; null where the project was changed meanwhile. */
async function coverNow(open: Engine): Promise<Uint8Array<ArrayBuffer> | null> {
	const { turn } = open;
	const work = pool && coverWork(open, coverFrom, COVER.width, COVER.height);
	const made = work && (await pool?.do(work, 2));
	const write = made ? null : await codecs.png();
	if (open !== engine || open.turn !== turn || open.stroking) return null;
	if (made || !write) return made ?? null;
	return encodePng(write, coverOf(open, coverFrom, COVER.width, COVER.height));
}

/** Has a picture at hand for the open project; what is made of it is made anew. */
async function bringPicture(id: string): Promise<void> {
	await opening;
	const open = engine;
	if (!open || !(await fetchPicture(open, id)) || open !== engine) return;
	open.renew();
	settling.wake();
}
let opening: Promise<void> = Promise.resolve();
/** How often something was opened: an opening that another overtook is dropped. */
let openings = 0;
/** What the screen says of a project while it is being opened; null at other times. */
let early: [message: ToStudio, n: number | undefined][] | null = null;

/** A tip's stroke or a stencil, as pictures for the screen. */
async function look(message: Extract<ToStudio, { say: 'preview' | 'stencil' }>): Promise<void> {
	await bringPicture(message.say === 'preview' ? message.tip.shape : message.picture);
	// What is on the views comes first.
	while (pump.busy) await new Promise((next) => setTimeout(next, 20));
	const picture = engine && lookAt(engine, message);
	tell({ say: 'looked', ask: message.ask, picture }, picture ? [picture.data.buffer] : []);
}

function endStroke(open: Engine): void {
	const dirty = open.end();
	if (open.missed) tell({ say: 'refused', refusal: open.missed });
	changed(open, dirty);
}

async function open({ project: id, held, said }: Extract<ToStudio, { say: 'open' }>, turn: number): Promise<void> {
	const overtaken = (): boolean => turn !== openings;
	early = [];
	engine?.close();
	engine = null;
	pump.clear();
	pool?.drop();
	forgetPictures();
	forgetSavings();
	clearTimeout(keepTimer);
	keepTimer = undefined;
	try {
		const recalling = recallMade(id);
		tell({ say: 'fetching', project: id });
		// The page is made while the rest comes, where the desk says from where it is looked at.
		let told = false;
		const found = await fetchProject(
			id,
			held,
			inflating,
			() => pool,
			(project, desk) => {
				told = desk !== null && !overtaken();
				if (told) tell({ say: 'coming', outline: outlineOf(project), desk, models: [] });
			},
		);
		const [own] = await Promise.all([kernels, fonts]);
		if (overtaken()) return;
		const opened = openEngine(own, found.project, [], found.meshes);
		if (told) tell({ say: 'models', models: shownModels(opened), first: true });
		else tell({ say: 'coming', outline: outline(opened), desk: found.desk, models: shownModels(opened) });
		models.known(opened);
		try {
			for await (const tiles of found.tiles()) {
				if (overtaken()) return opened.close();
				opened.takeKept(tiles);
			}
			await recallSteps(opened, id, found.save);
			await Promise.all(
				[
					found.desk?.tip.shape,
					found.desk?.stencil.picture,
					...picturesOfSaid(said),
					...picturesNamed(opened.project),
				].map((picture) => (picture ? fetchPicture(opened, picture) : undefined)),
			);
			await bringFiles(opened, id, assetsOfSaid(said), pool);
			// A bake whose file cannot be had stays empty; all else opens.
			for (const asset of bakeFilesOf(opened.project)) await bringFiles(opened, id, [asset], pool).catch(console.error);
			opened.layAgain();
			opened.renew();
			await bringMade(opened, await recalling, inflating);
		} catch (error) {
			opened.close();
			throw error;
		}
		if (overtaken()) return opened.close();
		begun(opened, found, said);
	} catch (error) {
		if (overtaken()) return;
		early = null;
		const known = error instanceof OpenError;
		tell({
			say: 'not-opened',
			text: known ? error.message : 'The project could not be opened. Nothing in it was changed.',
			why: known ? error.why : 'broken',
		});
		if (!known) console.error(error);
	}
}

/** A project is open from here on: it is told, shown, and what was said of it and not kept is done again. */
function begun(opened: Engine, found: FetchedProject, said: readonly Said[]): void {
	engine = opened;
	({ files } = found);
	// Not waited for: the file of a page that is just going away may be held yet.
	void undoFile.then((undo) => undo && opened === engine && opened.history.spillTo(undo));
	if (found.desk) coverFrom = found.desk.camera;
	keep({ say: 'based', project: opened.project.id, revision: found.revision });
	heardUpTo = 0;
	tell({
		say: 'opened',
		outline: outline(opened),
		restored: said.filter(({ message }) => message.say === 'begin').length,
		leftOut: namesOf(opened, opened.leftOut),
	});
	models.tell(opened);
	settling.reset();
	madeTurn = -1;
	selectionShown = -1;
	redo(opened, said);
	const first = found.desk?.sheet;
	const sheets = [...found.project.sheets].sort((a, b) => Number(b.id === first) - Number(a.id === first));
	for (const sheet of sheets) {
		const { x, y } = found.desk?.places[sheet.id] ?? { x: sheet.width / 2, y: sheet.height / 2 };
		opened.near(sheet.id, x, y);
		pump.addAll(sheet, x, y);
	}
	unprepared = sheets.map((sheet) => sheet.id);
	showSelection(opened);
	again(early ?? []);
	early = null;
	settling.wake();
	rest();
}

/** Does again what was said and is in no pack: the tab went away before it was kept. */
function redo(open: Engine, said: readonly Said[]): void {
	again(said.map(({ n, message }) => [message, n]));
	if (open.stroking) endStroke(open);
	if (said.length) keepNow(open);
}

/** Hears what was said before; what cannot be done is told, and the rest goes on. */
function again(messages: readonly (readonly [message: ToStudio, n: number | undefined])[]): void {
	for (const [message, n] of messages) {
		try {
			heard(message, n);
		} catch (error) {
			if (!(error instanceof CommandError)) throw error;
			tell({ say: 'failed', text: error.message });
		}
	}
}

/** Shows what an edit changed, or says why it did not. */
function edited(open: Engine, result: ReturnType<Engine['edit']>): void {
	if (result.ok) changed(open, result.dirty, 60);
	else tell({ say: 'refused', refusal: result.refusal });
}

/** The open project, for those who hear. */
const studioOf = (open: Engine): Studio => ({
	engine: open,
	pool,
	pump,
	settling,
	files,
	tell,
	current: () => open === engine,
	outline: () => outline(open),
	changed: (dirty, soon) => changed(open, dirty, soon),
	edited: (result) => edited(open, result),
	keepSoon: (soon) => keepSoon(open, soon),
	keepNow: () => keepNow(open),
	strokeBegins(n) {
		strokeFrom = n ?? heardUpTo;
	},
	endStroke: () => endStroke(open),
	seenFrom(camera) {
		coverFrom = camera;
	},
});

function heard(message: ToStudio, n?: number): void {
	if (message.say === 'open') {
		opening = open(message, ++openings);
		return;
	}
	if (message.say === 'leave') return leave();
	if (message.say === 'preview' || message.say === 'stencil') return void look(message);
	if (message.say === 'need') return void bringPicture(message.picture);
	if (!engine) {
		early?.push([message, n]);
		return;
	}
	const now = engine;
	settling.heard();
	if (now.stroking) hand.strokes();
	if (message.say === 'point') hand.points(message.place);
	if (n !== undefined) heardUpTo = n;
	if (now.stroking && earFor(message.say)?.endsStroke) endStroke(now);
	earFor(message.say)?.hear(studioOf(now), message, n);
}

/** What is left is given to the keeper; then the page is told by it that all is in its hands. */
function leave(): void {
	const project = engine?.project.id ?? '';
	if (engine) {
		if (engine.stroking) endStroke(engine);
		keepNow(engine);
	}
	keep({ say: 'left', project });
}

addEventListener('message', (event: MessageEvent<ToStudioLine>) => {
	if (event.data.say === 'keeper') {
		keeper = event.data.port;
		return;
	}
	if (event.data.say === 'patched') return pump.taken();
	try {
		heard(event.data, event.data.n);
	} catch (error) {
		const known = error instanceof CommandError || error instanceof EditError;
		tell({
			say: 'failed',
			text: known
				? error.message
				: 'That could not be done; the project is as it was. If it happens again, open the project anew: what was kept is safe.',
		});
		if (!known) console.error(error);
		if (!engine) return;
		// What is shown of a stroke that cannot go on stays, as a step that is kept.
		if (engine.stroking) endStroke(engine);
		keepSoon(engine, KEEP_MS);
	}
});
