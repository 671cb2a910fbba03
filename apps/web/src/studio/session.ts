import type { Id } from '@eppu/core/document';
import { toast } from 'sonner';
import { askHead } from './ahead.ts';
import { flushDesk } from './desk.ts';
import { fromStudio, pictures } from './hears.ts';
import { holdProject, letGo } from './hold.ts';
import type { FromKeeper, Moved } from './keeping.ts';
import { address, addressed, listen, numberFrom, stopWorkers, tell, tellKeeper } from './line.ts';
import { heard } from './slices/heard.ts';
import { screen } from './slices/screen.ts';
import { session } from './slices/session.ts';
import { useStudio } from './store.ts';

const set = useStudio.setState;
const get = useStudio.getState;

/** Everything of a project let go of; the artist's habits stay. */
const unopened = { ...session, ...heard, ...screen };

/** Told once the keeper has all of a project that is left. */
let left: (() => void) | null = null;

/**
 * Opens a project once no other tab of this browser has it; while one has, `status` says so, and it opens by itself when
 * that lets go. 'take' asks the other tab for it; 'queue' waits its turn from the start.
 */
export async function openProject(id: Id, how: 'open' | 'take' | 'queue' = 'open'): Promise<void> {
	if (addressed() === id && how === 'open' && get().status !== 'failed') return;
	closeProject();
	address(id);
	askHead(id);
	waiting = new AbortController();
	const { signal } = waiting;
	set({ ...unopened, status: how === 'queue' ? 'elsewhere' : 'opening' });
	await leaving;
	if (signal.aborted) return;
	const held = await hold(id, how === 'take', signal);
	if (!held || signal.aborted) return;
	set({ status: 'opening' });
	tellKeeper({ say: 'settle', project: id });
}
/** Ends the waiting for the project that is to be opened. */
let waiting = new AbortController();

/** The last project's way out: the next is opened only after it. */
let leaving: Promise<void> = Promise.resolve();

/** Longest wait for the workers to give away what is left. */
const LEAVE_MS = 5000;

export function closeProject(): void {
	waiting.abort();
	const id = addressed();
	if (id) {
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
	address(null);
	pictures.clear();
	set(unopened);
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
				if (addressed() === id) void giveAway(id);
			},
			lost: () => {
				if (addressed() !== id) return;
				stopWorkers();
				address(null);
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
			return message.project === addressed()
				? tell({ say: 'adopt', project: message.project, name: message.name })
				: undefined;
		case 'moved':
			return message.moved.from === addressed() ? goOnAs(message.moved) : undefined;
		case 'settled': {
			if (message.asked !== addressed()) return;
			numberFrom(message.next);
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
	const before = addressed();
	address(moved.to);
	void hold(moved.to, true, waiting.signal);
	if (before) letGo(before);
	if (get().status === 'open') tell({ say: 'adopt', project: moved.to, name: moved.name });
	toast(movedWords(moved), { duration: 20000 });
	// Only what has stood there for a while has been read: a tab that dies at once tells it again.
	setTimeout(() => tellKeeper({ say: 'told', project: moved.to }), READ_MS);
	set({ movedTo: moved.to });
}

listen({
	studio: fromStudio,
	keeper: fromKeeper,
	stopped() {
		left?.();
		set({
			status: 'failed',
			failure: {
				text: 'The studio stopped working, or its parts could not be loaded. What was painted is kept; open the project again.',
				why: 'broken',
			},
		});
	},
});
addEventListener('pagehide', () => {
	flushDesk();
	if (addressed() && get().status === 'open') tell({ say: 'keep-now' });
});
addEventListener('beforeunload', (event) => {
	// What is only in this tab would be gone with it.
	const { keeping } = get();
	if ((keeping.state === 'held' || keeping.state === 'refused') && keeping.in === 'tab') event.preventDefault();
});
