import {
	closeSync,
	existsSync,
	fsyncSync,
	mkdirSync,
	openSync,
	readdirSync,
	readFileSync,
	renameSync,
	rmSync,
	statSync,
	unlinkSync,
	writeSync,
} from 'node:fs';
import { dirname, join, resolve } from 'node:path';
import { openZip, readPictureFile, safeName } from '@eppu/core/format';
import { type Store, StoreError, sha256 } from '../store/index.ts';

/** How what is out stands. */
export interface OutState {
	readonly id: string;
	readonly project: string;
	/** What went out, as the page said it. */
	readonly what: unknown;
	readonly file: string;
	/** The saving that both sides agree on; 0 is what went out. */
	readonly agreed: number;
	readonly at: number;
	/** `away`: nothing new. `saving`: it is being written. `gone`: its file is not there. `strange`: it is no picture. */
	readonly state: 'away' | 'saving' | 'gone' | 'strange';
	/** Savings that wait to be taken in, by their numbers, oldest first. */
	readonly waiting: readonly number[];
}

/** Bytes of the largest file that is taken. */
const MOST_BYTES = 512 * 1024 * 1024;
/** How often files are looked at, and for how long one must have stayed as it is to be whole. */
const LOOK_MS = 60;
const REST_MS = 200;
/** Up to so many bytes a file is looked into while it may still be written. */
const SOUND_BYTES = 64 * 1024 * 1024;
/** After so long what could not be kept is tried again. */
const AGAIN_MS = 4000;
/** For so long a file that is no picture may still be on its way. */
const STRANGE_MS = 5000;

/** Why bytes are no whole file of their kind, or null where they are. */
function unfinished(bytes: Uint8Array, name: string): string | null {
	if (/\.ora$/i.test(name)) {
		const zip = openZip(bytes, name);
		return typeof zip === 'string' ? zip : typeof zip.at('stack.xml') === 'string' ? 'it has no layers' : null;
	}
	const read = readPictureFile(bytes, name);
	if (!read.ok) return read.text;
	// A PNG is whole when its end is there (W3C PNG 3, IEND).
	const end = Buffer.from(bytes.buffer, bytes.byteOffset, bytes.byteLength).subarray(-8, -4).toString('latin1');
	return end === 'IEND' ? null : 'its end is missing';
}

/** Whether all of a file says by its sums that it is as it was meant: then nobody is still writing it. */
function isSound(bytes: Uint8Array, name: string): boolean {
	const zip = /\.ora$/i.test(name) ? openZip(bytes, name) : '';
	return typeof zip !== 'string' && zip.files.every((_, file) => typeof zip.content(file) !== 'string');
}

/** Where the exchange folder of a data file is. */
export const exchangePath = (data: string): string =>
	resolve(process.env.EPPU_EXCHANGE ?? join(dirname(data), 'exchange'));

/** The folder that other editors save into. */
export type ExchangeFolder = ReturnType<typeof exchangeFolder>;

interface Looked {
	/** Size, time and place on the disk: what changes when it is written. */
	mark: string;
	since: number;
	state: OutState['state'];
	done: boolean;
}

/**
 * Watches a folder: what went out is there as a file, and each saving of it that is whole is kept until a page takes it
 * in. Watching is looking: other programs save in place, by another name, or slowly, on any file system.
 */
// biome-ignore lint/complexity/noExcessiveLinesPerFunction: one method after the other over what was looked at.
export function exchangeFolder(store: Store, path: string, log: (error: unknown) => void) {
	const { exchanges } = store;
	const looked = new Map<string, Looked>();
	const listeners = new Set<() => void>();
	const changed = (): void => {
		for (const listener of listeners) listener();
	};
	/** Takes one look at a file; whether anything is to be told. */
	const look = (id: string, file: string, now: number): boolean => {
		const known = looked.get(id) ?? { mark: '', since: now, state: 'away', done: false };
		looked.set(id, known);
		const was = known.state;
		let saved = false;
		const place = join(path, file);
		const stat = existsSync(place) ? statSync(place) : null;
		if (!stat) known.state = 'gone';
		else {
			const mark = `${stat.size} ${stat.mtimeMs} ${stat.ino}`;
			if (mark !== known.mark)
				Object.assign(known, { mark, since: now, done: false, state: known.mark === '' ? was : 'saving' });
			const rested = now - known.since >= REST_MS;
			// A file is looked into as soon as it has changed, and then when it has rested.
			if (!known.done && (rested || (now === known.since && known.state === 'saving' && stat.size <= SOUND_BYTES))) {
				const bytes = stat.size > MOST_BYTES ? null : readFileSync(place);
				if (bytes && (rested || isSound(bytes, file)) && unfinished(bytes, file) === null) {
					saved = exchanges.saved(id, bytes, now);
					Object.assign(known, { done: true, state: 'away' });
				} else if (rested)
					known.state = now - known.since > STRANGE_MS || stat.size > MOST_BYTES ? 'strange' : 'saving';
			}
		}
		return saved || was !== known.state;
	};
	/** What is out and what waits of it, as it was seen last: another process may send out and take in as well. */
	let kept = '';
	const lookAtAll = (now = Date.now()): void => {
		let told = false;
		const out = exchanges.list();
		for (const { id, file } of out) {
			try {
				if (look(id, file, now)) told = true;
			} catch (error) {
				// A file that is locked or vanishes while it is read is looked at again.
				const known = looked.get(id);
				// Where it cannot be kept (a full disk), it waits in its file and is tried again.
				if (error instanceof StoreError && known) known.since = now + AGAIN_MS;
				const { code } = error as NodeJS.ErrnoException;
				if (code !== 'ENOENT' && code !== 'EBUSY' && code !== 'EACCES' && code !== 'EPERM') log(error);
			}
		}
		const keptNow = JSON.stringify(out.map(({ id }) => [id, exchanges.waiting(id)]));
		if (told || keptNow !== kept) changed();
		kept = keptNow;
	};
	const timer = setInterval(lookAtAll, LOOK_MS);
	timer.unref();
	const states = (project: string): OutState[] =>
		exchanges.list(project).map(({ what, ...each }) => ({
			...each,
			what: JSON.parse(what) as unknown,
			state: looked.get(each.id)?.state ?? 'away',
			waiting: exchanges.waiting(each.id),
		}));
	return {
		path,
		states,
		lookAtAll,
		/** Whether every file that is out was looked at to its end: nothing of it is being written. */
		atRest: (): boolean =>
			exchanges.list().every(({ id }) => {
				const known = looked.get(id);
				return known !== undefined && (known.done || known.state === 'gone' || known.state === 'strange');
			}),
		/** Puts a file into the folder under a free name, and notes that it is out. */
		send(project: string, what: unknown, name: string, bytes: Uint8Array): OutState {
			mkdirSync(path, { recursive: true });
			const ending = /\.(ora|png)$/i.exec(name)?.[0].toLowerCase();
			if (!ending) throw new StoreError('bad-input', 'What goes out is an OpenRaster file or a PNG.');
			const problem = unfinished(bytes, name);
			if (problem) throw new StoreError('bad-input', `What was sent is not whole: ${problem}.`);
			const stem = safeName(name.slice(0, -ending.length));
			const taken = new Set([
				...readdirSync(path).map((each) => each.toLowerCase()),
				...exchanges.list().map(({ file }) => file),
			]);
			let file = stem + ending;
			for (let n = 2; taken.has(file); n++) file = `${stem}-${n}${ending}`;
			// Noted first: a file that nobody knows of would never be taken back.
			const { id } = exchanges.begin(project, JSON.stringify(what), file, bytes);
			const [place, beside] = [join(path, file), join(path, `.${file}.part`)];
			try {
				const handle = openSync(beside, 'w');
				writeSync(handle, bytes);
				fsyncSync(handle);
				closeSync(handle);
				renameSync(beside, place);
			} catch (error) {
				// A full disk, say: nothing went out, and nothing is waited for.
				exchanges.end(id);
				rmSync(beside, { force: true });
				throw error;
			}
			changed();
			return states(project).find((each) => each.id === id) as OutState;
		},
		taken(id: string, n: number): void {
			exchanges.taken(id, n);
			changed();
		},
		/** Calls back what is out. Its file goes too, unless it holds what was never taken in: that one stays. */
		end(id: string): { readonly kept: boolean } {
			const found = exchanges.list().find((each) => each.id === id);
			if (!found) return { kept: false };
			const place = join(path, found.file);
			const agreed = sha256(exchanges.agreed(id));
			const kept = existsSync(place) && sha256(readFileSync(place)) !== agreed;
			exchanges.end(id);
			looked.delete(id);
			if (!kept && existsSync(place)) unlinkSync(place);
			changed();
			return { kept };
		},
		/** Calls back whenever anything changes; returns what ends that. */
		listen(listener: () => void): () => void {
			listeners.add(listener);
			return () => void listeners.delete(listener);
		},
		stop: () => clearInterval(timer),
	};
}
