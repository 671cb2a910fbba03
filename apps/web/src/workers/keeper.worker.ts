/**
 * The keeper: counts what is said, presses changed tiles together, writes them to the journal in the place of the words,
 * and gives them to the server in order. What the journal cannot take is given all the same.
 */
import { writePack } from '@eppu/core/format';
import { type Entry, journal } from '../studio/journal.ts';
import type { FromKeeper, Keeping, Moved, StudioToKeeper, ToKeeper } from '../studio/keeping.ts';
import type { Said } from '../studio/protocol.ts';
import { cardOf, copyFor, give, limitFor, readdressed } from './giving.ts';
import { pressAll } from './pressing.ts';
import { createTrailKeeper } from './trailKeeper.ts';

const tell = (message: FromKeeper): void => postMessage(message);

/** The project that is open, and the revision that its next entry goes out from. */
let project: string | null = null;
let base = 0;
/** Entries that the server has not taken, oldest first. */
let waiting: Entry[] = [];
/** Strokes that were said and are in no entry yet, by the number they began under. */
let unpacked: number[] = [];
/** What was said up to here is in an entry: a word that comes late is not noted any more. */
let packedUpTo = 0;
/** The last word that was heard. */
let heardUpTo = 0;
let stroking = 0;
let packing = 0;
let giving = false;
let resolving = false;
let retry: ReturnType<typeof setTimeout> | undefined;
/** Tries that failed one after the other. */
let failed = 0;
let trouble: { readonly state: 'held' | 'refused'; readonly why: string } | null = null;
/** The journal takes nothing: what is not kept is only in this tab. */
let journalBroken = false;
let keptAt = Date.now();
/** Projects that go on as a copy, and as which. */
const movedTo = new Map<string, { readonly id: string; readonly name: string }>();
/** Messages are worked off one after the other, since pressing takes time. */
let order: Promise<unknown> = Promise.resolve();
let entryOrder = Date.now();

const FIRST_PAUSE = 500;
const LONGEST_PAUSE = 15_000;
/** After so many failures in a row it is tried again only at a click, a new change or when the network comes back. */
const MOST_TRIES = 40;

const strokesNow = (): number => waiting.reduce((sum, entry) => sum + entry.strokes, 0) + unpacked.length;

let toldLast = '';
function say(): void {
	const strokes = strokesNow();
	const words = heardUpTo > packedUpTo || packing > 0;
	const open = waiting.length > 0 || unpacked.length > 0 || words;
	const where = journalBroken ? 'tab' : 'browser';
	const keeping: Keeping =
		trouble && open
			? { state: trouble.state, strokes, words, why: trouble.why, in: where }
			: open
				? { state: 'keeping', strokes, words }
				: { state: 'kept', at: keptAt };
	const text = JSON.stringify(keeping);
	if (text === toldLast) return;
	toldLast = text;
	tell({ say: 'keeping', keeping });
}

/** Tries something with the journal; the work goes on without it. */
async function noted(work: () => Promise<unknown>): Promise<boolean> {
	try {
		await work();
		journalBroken = false;
		return true;
	} catch (error) {
		if (!journalBroken) console.warn('The journal takes nothing:', error);
		journalBroken = true;
		return false;
	}
}

const leadingTo = createTrailKeeper();

const addressOf = (id: string): string => movedTo.get(id)?.id ?? id;

/**
 * What begins with `first` goes on as a copy of the project: neither side's work goes. Null where the copy could not be
 * made yet.
 */
async function moveAside(
	first: Pick<Entry, 'project' | 'name' | 'save' | 'base'>,
	entries: readonly Entry[],
): Promise<{ moved: Moved; entries: Entry[] } | null> {
	const copy = await copyFor(first);
	if ('done' in copy) {
		trouble = {
			state: copy.done === 'refused' ? 'refused' : 'held',
			why:
				copy.done === 'refused' || copy.done === 'later'
					? copy.why
					: 'the copy of what was painted here could not be made',
		};
		return null;
	}
	const list = entries.map((entry, i) => readdressed(entry, copy, i + 1));
	// What is said from here on is noted under the copy; what was said before is moved there.
	movedTo.set(first.project, { id: copy.id, name: copy.name });
	const moved: Moved = { from: first.project, to: copy.id, name: copy.name, exact: copy.exact };
	await noted(() => journal.move(moved, list));
	return { moved, entries: list };
}

async function giveAll(): Promise<void> {
	if (giving || resolving) return;
	giving = true;
	clearTimeout(retry);
	try {
		while (waiting[0]) {
			const entry = waiting[0];
			say();
			const given = await give(entry);
			if (given.done === 'given') {
				waiting.shift();
				trouble = null;
				failed = 0;
				keptAt = Date.now();
				if (given.name && given.name !== entry.name) tell({ say: 'named', project: entry.project, name: given.name });
				await noted(() => journal.given(entry, given.revision));
				continue;
			}
			if (given.done === 'conflict') {
				// In order with what the studio gives, so that nothing is packed for the old address meanwhile.
				const from = entry.project;
				if (!resolving) inOrder(() => resolve(from));
				resolving = true;
				return;
			}
			trouble = { state: given.done === 'refused' ? 'refused' : 'held', why: given.why };
			return given.done === 'later' ? later(given.pause) : undefined;
		}
	} finally {
		giving = false;
		say();
	}
}

/** The project went on without what waits for it: that goes on as a copy, which is told at once. */
async function resolve(from: string): Promise<void> {
	try {
		const theirs = waiting.filter((entry) => entry.project === from);
		const aside = await moveAside(theirs[0] as Entry, theirs);
		if (!aside) return later(undefined);
		const { moved, entries } = aside;
		waiting = [...waiting.filter((entry) => entry.project !== from), ...entries];
		if (project === from) {
			project = moved.to;
			base = entries.length + 1;
			tell({ say: 'moved', moved });
		}
		trouble = null;
	} finally {
		resolving = false;
	}
	void giveAll();
}

/** Tries again after a pause that grows, until it has been tried often. */
function later(pause: number | undefined): void {
	failed++;
	if (failed > MOST_TRIES) return;
	const wait = pause ?? Math.min(LONGEST_PAUSE, FIRST_PAUSE * 2 ** Math.min(10, failed - 1));
	retry = setTimeout(() => void giveAll(), wait);
}

/** All entries of a project that the server has not taken, oldest first; they wait no more on their own. */
async function heldOf(id: string): Promise<Entry[]> {
	let entries: Entry[] = [];
	await noted(async () => {
		entries = await journal.entries(id);
	});
	const mine = waiting.filter((entry) => entry.project === id && !entries.some((each) => each.save === entry.save));
	waiting = waiting.filter((entry) => entry.project !== id);
	return [...entries, ...mine].sort((a, b) => a.order - b.order);
}

/** The copy that a project went on as while its tab went away, so that nobody was told. */
async function untoldMove(asked: string): Promise<Moved | null> {
	let moved: Moved | undefined;
	await noted(async () => {
		await journal.told(asked);
		await journal.told(asked);
		moved = await journal.untold(asked);
	});
	return moved && (await cardOf(moved.to)) ? moved : null;
}

/** Before a project is opened: what the journal holds of it goes to the server; what it does not take is laid over. */
async function settle(asked: string): Promise<void> {
	project = null;
	trouble = null;
	failed = 0;
	clearTimeout(retry);
	movedTo.delete(asked);
	let moved = await untoldMove(asked);
	let left = await heldOf(moved?.to ?? asked);
	let said: Said[] = [];
	let given = 0;
	let parted = false;
	while (left[0]) {
		const result = await give(left[0]);
		if (result.done === 'given') {
			const entry = left[0];
			await noted(() => journal.given(entry, result.revision));
			left = left.slice(1);
			given++;
			continue;
		}
		if (result.done === 'conflict' && !parted) {
			const aside = await moveAside(left[0], left);
			if (!aside) break;
			parted = true;
			({ moved } = aside);
			left = aside.entries;
			continue;
		}
		trouble =
			result.done === 'conflict' ? null : { state: result.done === 'refused' ? 'refused' : 'held', why: result.why };
		break;
	}
	const spoken = async (id: string): Promise<void> => {
		await noted(async () => {
			said = await journal.said(id);
		});
	};
	await spoken(moved?.to ?? asked);
	const apart = left.length === 0 ? await asideOfWords(moved?.to ?? asked, said) : null;
	if (apart) {
		moved = apart;
		await spoken(moved.to);
	}
	const id = moved?.to ?? asked;
	waiting = [...waiting, ...left];
	unpacked = said.filter(({ message }) => message.say === 'begin').map(({ n }) => n);
	packedUpTo = 0;
	heardUpTo = said.at(-1)?.n ?? 0;
	const next = Math.max(Date.now() * 1000, heardUpTo + 1);
	tell({
		say: 'settled',
		asked,
		project: id,
		held: left.map(({ base, save, pack }) => ({ base, save, pack })),
		said,
		next,
		given,
		moved,
	});
	say();
	if (left.length) later(undefined);
}

/** What was said and is in no pack goes out from the revision that it was said over, which another hand may have left behind. */
async function asideOfWords(asked: string, [first]: readonly Said[]): Promise<Moved | null> {
	let base: number | undefined;
	if (first)
		await noted(async () => {
			base = await journal.base(asked);
		});
	const card = base === undefined ? null : await cardOf(asked);
	if (!first || base === undefined || !card || card.revision === base) return null;
	const aside = await moveAside({ project: asked, name: card.name, save: `said-${first.n}`, base }, []);
	return aside?.moved ?? null;
}

/** A change as it is said: counted before anything is made of it. */
function hear(id: string, said: Said): void {
	if (said.n <= packedUpTo) return;
	heardUpTo = said.n;
	const { message } = said;
	if (message.say === 'begin') {
		unpacked.push(said.n);
		stroking = said.n;
	}
	if (message.say === 'cancel') unpacked = unpacked.filter((n) => n !== stroking);
	// The page has noted it already, under the address that it knew.
	const to = addressOf(id);
	if (to !== id) void noted(() => journal.readdress(id, to, said));
	say();
}

async function fromStudio(message: StudioToKeeper): Promise<void> {
	if (message.say === 'based') {
		project = addressOf(message.project);
		const held = waiting.filter((entry) => entry.project === project);
		base = held.length ? (held.at(-1) as Entry).base + 1 : message.revision;
		const { id, at } = { id: project, at: message.revision };
		await noted(() => journal.noteBase(id, at));
		return say();
	}
	if (message.say === 'cover') {
		await fetch(`/api/projects/${addressOf(message.project)}/cover`, {
			method: 'PUT',
			headers: { 'Content-Type': 'image/png' },
			body: message.png,
			signal: limitFor(message.png.length),
		}).catch(() => undefined);
		return;
	}
	if (message.say === 'left') return tell({ say: 'left', project: message.project });
	packedUpTo = Math.max(packedUpTo, message.upTo);
	const strokes = unpacked.filter((n) => n <= message.upTo).length;
	if (message.say === 'nothing') {
		unpacked = unpacked.filter((n) => n > message.upTo);
		await noted(() => journal.forget(addressOf(message.project), message.upTo));
		return say();
	}
	packing++;
	say();
	try {
		const tiles = await pressAll(message.tiles);
		// The project may have become a copy while its tiles were pressed.
		const to = movedTo.get(message.project.id);
		const document = to ? { ...message.project, ...to } : message.project;
		const save = crypto.randomUUID();
		const entry: Entry = {
			project: document.id,
			order: entryOrder++,
			base: base++,
			save,
			strokes,
			name: document.name,
			pack: writePack({ head: { project: document, save }, tiles }),
		};
		const leading = await leadingTo(document.id, save, message.steps);
		if (!(await noted(() => journal.write(entry, message.upTo, leading))) && leading) {
			// The steps are a help, no part of the work: it is kept without them where there is no room for both.
			await noted(() => journal.write(entry, message.upTo));
			leadingTo.forget(document.id);
		}
		waiting.push(entry);
		unpacked = unpacked.filter((n) => n > message.upTo);
	} finally {
		packing--;
	}
	void giveAll();
}

const inOrder = (work: () => Promise<void> | void): void => {
	order = order.then(work).catch((error) => {
		console.error(error);
		trouble = { state: 'refused', why: error instanceof Error ? error.message : 'it could not be packed' };
		say();
	});
};

addEventListener('message', (event: MessageEvent<ToKeeper>) => {
	const message = event.data;
	if (message.say === 'studio')
		message.port.onmessage = (from: MessageEvent<StudioToKeeper>) => inOrder(() => fromStudio(from.data));
	else if (message.say === 'said') hear(message.project, message.said);
	else if (message.say === 'journal') {
		journalBroken = !message.works;
		say();
	} else if (message.say === 'told') void noted(() => journal.told(message.project));
	else if (message.say === 'settle') inOrder(() => settle(message.project));
	else {
		failed = 0;
		void giveAll();
	}
});
addEventListener('online', () => {
	failed = 0;
	void giveAll();
});
