/** The studio: one document engine. It hears intentions and strokes, and answers with patches and the outline. */
import { hexOfRgb } from '@eppu/core/color';
import { picturesNamed } from '@eppu/core/derive';
import { CommandError, type Id, sheetOf } from '@eppu/core/document';
import { type Clip, pictureClip } from '@eppu/core/edit';
import { type Dirty, type Engine, openEngine } from '@eppu/core/engine';
import { buildUpPng, coverPicture, encodePng, sheetPng } from '@eppu/core/format';
import { homeCamera, mirrorSets } from '@eppu/core/projection';
import { type Clinging, clingFrom, edgeStrength } from '@eppu/core/select';
import { createKernels } from '@eppu/kernels';
import wasmUrl from '@eppu/kernels/kernels.wasm?url&no-inline';
import {
	type FromStudio,
	isChanging,
	type Outline,
	type Pointing,
	type Said,
	type StudioToKeeper,
	type ToStudio,
	type ToStudioLine,
} from '../studio/protocol.ts';
import { keepClip, keptClip } from './clipStore.ts';
import { fetchProject, OpenError } from './fetchProject.ts';
import { fetchPicture, lookAt } from './pictures.ts';
import { namesOf, picturesOfSaid, wholeFile } from './projectFile.ts';
import { createPump } from './pump.ts';
import { createSettling } from './settling.ts';
import { shownModel } from './shownModel.ts';
import { thumbnailsOf } from './thumbnails.ts';
import { openUndoFile } from './undoFile.ts';

const tell = (message: FromStudio, transfer: Transferable[] = []): void => postMessage(message, transfer);
let keeper: MessagePort | null = null;
const keep = (message: StudioToKeeper, transfer: Transferable[] = []): void => keeper?.postMessage(message, transfer);

const undoFile = openUndoFile();
const kernels = fetch(wasmUrl).then(async (response) => createKernels(await WebAssembly.compileStreaming(response)));

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

const pump = createPump(tell, () => engine);
/** A layer taken up; it outlives the project that it is from. */
let clip: Clip | null = null;
let selectionShown = -1;
let clinging: { readonly key: string; readonly strength: Float32Array; from: Clinging | null } | null = null;

const outline = (open: Engine): Outline => ({
	project: open.project,
	done: open.history.done.map((step) => step.words),
	undone: open.history.undone.map((step) => step.words).reverse(),
});

/** How long a change waits for others to be kept with it: the journal has it already. */
const KEEP_MS = 400;

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
	keep(
		{ say: 'keep', project: delta.project, tiles: delta.tiles, upTo },
		delta.tiles.flatMap((tile) => (tile.texels ? [tile.texels.buffer] : [])),
	);
}

/** What waits until the hand rests: thumbnails, pressing old undo steps together, the cover. */
function rest(): void {
	clearTimeout(idleTimer);
	idleTimer = setTimeout(() => {
		if (!engine || engine.stroking) return;
		const next = unprepared.shift();
		if (next !== undefined) {
			engine.prepare(next);
			idleTimer = setTimeout(rest, 0);
			return;
		}
		tell({ say: 'thumbnails', list: thumbnailsOf(engine) });
		const tidy = (): void => {
			if (engine && !engine.stroking && engine.history.tidy()) idleTimer = setTimeout(tidy, 16);
			else idleTimer = setTimeout(makeCover, 2500);
		};
		idleTimer = setTimeout(tidy, 400);
	}, 350);
}

let coverFrom = homeCamera;
function makeCover(): void {
	// What is still to be computed is not waited for: the hand rests again when it is done.
	if (!engine || engine.stroking || !coverDue || engine.due) return;
	coverDue = false;
	const png = encodePng(coverPicture(engine, coverFrom, 480, 320));
	keep({ say: 'cover', project: engine.project.id, png }, [png.buffer]);
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

/** A tip's stroke or a stencil, as pictures for the screen. */
async function look(message: Extract<ToStudio, { say: 'preview' | 'stencil' }>): Promise<void> {
	await bringPicture(message.say === 'preview' ? message.tip.shape : message.picture);
	const picture = engine && lookAt(engine, message);
	tell({ say: 'looked', ask: message.ask, picture }, picture ? [picture.data.buffer] : []);
}

/** Where a pointing lands on a sheet, in texels. */
function landing(open: Engine, place: Pointing): { readonly sheet: Id; readonly x: number; readonly y: number } | null {
	if (place.on === 'sheet') return { sheet: place.sheet, x: place.x, y: place.y };
	const spot = open.scene(place.model)?.spotAt(open.project.sheets, place.sight, place.x, place.y);
	return spot ? { sheet: spot.sheet, x: spot.x, y: spot.y } : null;
}

function endStroke(open: Engine): void {
	const dirty = open.end();
	if (open.missed) tell({ say: 'refused', refusal: open.missed });
	changed(open, dirty);
}

async function open({ project: id, held, said }: Extract<ToStudio, { say: 'open' }>): Promise<void> {
	engine?.close();
	engine = null;
	pump.clear();
	clearTimeout(keepTimer);
	keepTimer = undefined;
	try {
		const found = await fetchProject(id, held);
		const opened = openEngine(await kernels, found.project, [], found.meshes);
		try {
			for await (const tiles of found.tiles()) opened.takeKept(tiles);
		} catch (error) {
			opened.close();
			throw error;
		}
		engine = opened;
		({ files } = found);
		// Not waited for: the file of a page that is just going away may be held yet.
		void undoFile.then((undo) => undo && opened === engine && opened.history.spillTo(undo));
		await Promise.all(
			[
				found.desk?.tip.shape,
				found.desk?.stencil.picture,
				...picturesOfSaid(said),
				...picturesNamed(opened.project),
			].map((id) => (id ? fetchPicture(opened, id) : undefined)),
		);
		if (found.desk) coverFrom = found.desk.camera;
		keep({ say: 'based', project: id, revision: found.revision });
		heardUpTo = 0;
		const models = found.project.models.flatMap((model) => shownModel(opened, model.id) ?? []);
		tell({
			say: 'opened',
			outline: outline(opened),
			desk: found.desk,
			models,
			restored: said.filter(({ message }) => message.say === 'begin').length,
			leftOut: namesOf(opened, opened.leftOut),
		});
		settling.reset();
		selectionShown = -1;
		clinging = null;
		redo(opened, said);
		const first = found.desk?.sheet;
		const sheets = [...found.project.sheets].sort((a, b) => Number(b.id === first) - Number(a.id === first));
		for (const sheet of sheets) pump.addAll(sheet);
		unprepared = sheets.map((sheet) => sheet.id);
		showSelection(opened);
		settling.wake();
		rest();
	} catch (error) {
		const known = error instanceof OpenError;
		tell({
			say: 'not-opened',
			text: known ? error.message : 'The project could not be opened. Nothing in it was changed.',
			why: known ? error.why : 'broken',
		});
		if (!known) console.error(error);
	}
}

/** Does again what was said and is in no pack: the tab went away before it was kept. */
function redo(open: Engine, said: readonly Said[]): void {
	for (const { n, message } of said) {
		try {
			heard(message, n);
		} catch (error) {
			if (!(error instanceof CommandError)) throw error;
			tell({ say: 'failed', text: error.message });
		}
	}
	if (open.stroking) endStroke(open);
	if (said.length) keepNow(open);
}

/** What changes the project otherwise than the stroke that is being made ends that first. */
const endsStroke = (message: ToStudio): boolean =>
	message.say === 'paste' ||
	message.say === 'paste-picture' ||
	(isChanging(message) && !['begin', 'extend', 'end', 'cancel'].includes(message.say));

/** The way along contrast edges; how strong they are is found once for a picture. */
function cling(open: Engine, sheet: Id, from: { x: number; y: number } | null, to: { x: number; y: number }): number[] {
	const key = `${open.project.id} ${sheet} ${open.history.done.length} ${open.history.undone.length}`;
	if (clinging?.key !== key) clinging = { key, strength: edgeStrength(open.composite(sheet)), from: null };
	const { width, height } = sheetOf(open.project, sheet) ?? { width: 1, height: 1 };
	if (from || !clinging.from)
		clinging.from = clingFrom(clinging.strength, width, height, (from ?? to).x, (from ?? to).y);
	return clinging.from.to(to.x, to.y);
}

/** Puts a clip down as a layer, kept at once: what is in it is in no word. */
function put(
	open: Engine,
	what: Clip,
	to: { readonly sheet: Id; readonly at: number; readonly parent: Id | null },
): void {
	if (open.stroking) endStroke(open);
	const { layer, dirty } = open.paste(what, to.sheet, to.at, to.parent, () => crypto.randomUUID());
	changed(open, dirty, 0);
	tell({ say: 'pasted', sheet: to.sheet, layer });
}

/** Shows what an edit changed, or says why it did not. */
function edited(open: Engine, result: ReturnType<Engine['edit']>): void {
	if (result.ok) changed(open, result.dirty, 60);
	else tell({ say: 'refused', refusal: result.refusal });
}

function heard(message: ToStudio, n?: number): void {
	if (message.say === 'open') {
		opening = open(message);
		return;
	}
	if (message.say === 'leave') return leave();
	if (message.say === 'preview' || message.say === 'stencil') return void look(message);
	if (message.say === 'need') return void bringPicture(message.picture);
	if (!engine) return;
	const now = engine;
	settling.heard();
	if (n !== undefined) heardUpTo = n;
	if (now.stroking && endsStroke(message)) endStroke(now);
	switch (message.say) {
		case 'run':
			return changed(now, now.run(message.command, message.gesture), message.gesture ? KEEP_MS : 60);
		case 'undo':
		case 'redo': {
			const turned = message.say === 'undo' ? now.undo() : now.redo();
			// Taking back is only in the journal as a word: it is kept at once.
			return turned ? changed(now, turned.dirty, 0) : keepSoon(now, KEEP_MS);
		}
		case 'begin': {
			const begun = now.begin(message.spec, message.samples);
			if (!begun.ok) {
				keepSoon(now, KEEP_MS);
				return tell({ say: 'refused', refusal: begun.refusal });
			}
			strokeFrom = n ?? heardUpTo;
			tell({ say: 'stroke', sheet: begun.sheet });
			return pump.addNow(begun.dirty);
		}
		case 'extend':
			return pump.addNow(now.extend(message.samples));
		case 'end':
			return now.stroking ? endStroke(now) : keepSoon(now, KEEP_MS);
		case 'cancel':
			keepSoon(now, KEEP_MS);
			return pump.add(now.cancel());
		case 'fill': {
			const place = landing(now, message.place);
			if (!place)
				return tell({
					say: 'refused',
					refusal: { code: 'off-model', text: 'There is nothing of the model here to fill.', mend: null },
				});
			const { onMask, guard, color } = message;
			if (message.reach !== null) {
				const { sheet, x, y } = place;
				const flood = { do: 'flood', color, x, y, reach: message.reach } as const;
				return edited(now, now.edit(sheet, message.layers[sheet], flood, { onMask, guard }));
			}
			const filled = now.fill(place.sheet, message.layers[place.sheet], place.x, place.y, color, guard, onMask);
			return filled.ok ? changed(now, filled.dirty, 60) : tell({ say: 'refused', refusal: filled.refusal });
		}
		case 'edit':
			return edited(now, now.edit(message.sheet, message.layer, message.edit, message.options));
		case 'select':
			return edited(now, now.select(message.sheet, message.by, message.joining));
		case 'pick': {
			const place = landing(now, message.place);
			if (!place) return;
			const { x, y, sheet } = place;
			const { by } = message;
			const layer = message.layers?.[sheet] ?? null;
			return edited(
				now,
				now.select(sheet, by.by === 'piece' ? { ...by, x, y } : { ...by, x, y, layer }, message.joining),
			);
		}
		case 'selection':
			return edited(now, now.changeSelection(message.sheet, message.change));
		case 'move-selection':
			return edited(now, now.moveSelection(message.sheet, message.map, message.gesture));
		case 'cling':
			return tell({ say: 'told', ask: message.ask, answer: cling(now, message.sheet, message.from, message.to) });
		case 'bounds':
			return tell({ say: 'told', ask: message.ask, answer: now.bounds(message.sheet, message.layer, message.onMask) });
		case 'histogram':
			return settling.whole(() =>
				tell({ say: 'told', ask: message.ask, answer: now.histogram(message.sheet, message.layer) }),
			);
		case 'letter-place':
			return tell({ say: 'told', ask: message.ask, answer: now.letterPlace(message.sheet, message.x, message.y) });
		case 'steps':
			return settling.showSteps(message.of);
		case 'halt':
			return settling.halt(message.on);
		case 'copy':
			clip = now.clip(message.sheet, message.layer);
			void keepClip(clip);
			return;
		case 'cut': {
			const { sheet, layer, newId } = message;
			changed(now, now.cut(sheet, layer, newId), 60);
			return tell({ say: 'pasted', sheet, layer: newId });
		}
		case 'paste': {
			if (clip) return put(now, clip, message);
			void keptClip().then((kept) => {
				if (now !== engine) return;
				if (kept) put(now, kept, message);
				else tell({ say: 'failed', text: 'Nothing was copied yet: choose a layer and copy it first.' });
			});
			return;
		}
		case 'paste-picture': {
			const sheet = sheetOf(now.project, message.sheet);
			return sheet && put(now, pictureClip(message.picture, message.name, sheet), message);
		}
		case 'mask':
			return changed(now, now.changeMask(message.sheet, message.layer, message.change), 60);
		case 'merge':
			return changed(now, now.mergeDown(message.sheet, message.layer, message.newId), 60);
		case 'flatten':
			return changed(now, now.flatten(message.sheet, message.layer, message.newId), 60);
		case 'build-up': {
			const bytes = buildUpPng(now, message.sheet);
			settling.wake();
			return tell({ say: 'png', ask: message.ask, bytes, text: null }, [bytes.buffer]);
		}
		case 'look':
			return pump.add(now.look(message.sheet, message.look));
		case 'point': {
			const { place } = message;
			if (!place) return tell({ say: 'spot', spot: null, from: 'model', mirrors: [] });
			if (place.on === 'model') {
				coverFrom = place.sight.camera;
				const scene = now.scene(place.model);
				tell({
					say: 'spot',
					spot: scene?.spotAt(now.project.sheets, place.sight, place.x, place.y) ?? null,
					from: 'model',
					mirrors: scene?.mirrorsAt(place.sight, mirrorSets(place.planes).slice(1), place.x, place.y) ?? [],
				});
				return now.stroking ? undefined : now.warm(place.model, place.sight, place.x, place.y, place.radius);
			}
			const sheet = sheetOf(now.project, place.sheet);
			const scene = now.project.models
				.map((model) => now.scene(model.id))
				.find((each) => each?.model.parts.some((part) => part.sheet === place.sheet));
			return tell({
				say: 'spot',
				spot: (sheet && scene?.spotOn(sheet, place.sight, place.x, place.y)) ?? null,
				from: 'sheet',
				mirrors: [],
			});
		}
		case 'sample': {
			const place = landing(now, message.place);
			if (!place) return;
			const [r, g, b, a] = now.sample(
				place.sheet,
				place.x,
				place.y,
				message.layers ? message.layers[place.sheet] : undefined,
				message.size,
			);
			return a > 0 ? tell({ say: 'sampled', color: hexOfRgb([r, g, b]) }) : undefined;
		}
		case 'touch': {
			const { place } = message;
			const scene =
				place.on === 'model'
					? now.scene(place.model)
					: now.project.models
							.map((model) => now.scene(model.id))
							.find((each) => each?.model.parts.some((part) => part.sheet === place.sheet));
			const sheet = place.on === 'sheet' ? sheetOf(now.project, place.sheet) : undefined;
			const spot =
				place.on === 'model'
					? scene?.spotAt(now.project.sheets, place.sight, place.x, place.y)
					: sheet && scene?.spotOn(sheet, null, place.x, place.y);
			return spot ? tell({ say: 'touched', spot }) : undefined;
		}
		case 'png':
			try {
				const bytes = sheetPng(now, message.sheet, message);
				// All of the sheet was computed for it.
				settling.wake();
				return tell({ say: 'png', ask: message.ask, bytes, text: null }, [bytes.buffer]);
			} catch (error) {
				return tell({ say: 'png', ask: message.ask, bytes: null, text: (error as Error).message });
			}
		case 'adopt':
			now.adopt(message.project, message.name);
			return tell({ say: 'outline', outline: outline(now) });
		case 'file':
			void wholeFile(now, files).then(
				(bytes) => tell({ say: 'png', ask: message.ask, bytes, text: null }, [bytes.buffer]),
				(error) => tell({ say: 'png', ask: message.ask, bytes: null, text: (error as Error).message }),
			);
			return;
		case 'keep-now':
			return keepNow(now);
	}
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
	try {
		heard(event.data, event.data.n);
	} catch (error) {
		tell({
			say: 'failed',
			text:
				error instanceof CommandError
					? error.message
					: 'That could not be done; the project is as it was. If it happens again, open the project anew: what was kept is safe.',
		});
		if (!(error instanceof CommandError)) console.error(error);
		if (!engine) return;
		// What is shown of a stroke that cannot go on stays, as a step that is kept.
		if (engine.stroking) endStroke(engine);
		keepSoon(engine, KEEP_MS);
	}
});
