import type { Id } from '@eppu/core/document';
import type { ExchangeWhat } from '@eppu/core/handoff';
import { toast } from 'sonner';
import { exchangeApi } from '../server/exchange.ts';
import { allKept } from '../studio/allKept.ts';
import { exchangeIn, exchangeOut } from '../studio/line.ts';
import { activeLayer, activeSheet, useStudio } from '../studio/store.ts';
import type { OutThere } from '../studio/told.ts';
import type { AppCommand } from './command.ts';

const get = useStudio.getState;
const set = useStudio.setState;

/** How long until what failed is tried again, ms. */
const AGAIN_MS = 600;

const rest = (ms: number): Promise<void> => new Promise((resolve) => setTimeout(resolve, ms));

/** Savings that do not fit any more: said once, and not tried again. */
const refused = new Set<string>();

/** Takes one saving in. It is the server's until what came of it is kept there: nothing is lost between the two. */
async function takeOne(out: OutThere, n: number): Promise<boolean> {
	const { id, file, project } = out;
	const { text, notes, changed, again } = await exchangeIn(out, n);
	if (get().outline?.project.id !== project) return false;
	if (again) {
		await rest(AGAIN_MS);
		return false;
	}
	if (text) {
		refused.add(`${id} ${n}`);
		toast.error(`${text} The file stays in the exchange folder.`, { duration: 12000 });
		return false;
	}
	if (changed || notes.length)
		toast([`${file} was saved elsewhere, and is here.`, ...notes].join(' '), { duration: notes.length ? 15000 : 3000 });
	if (!(await allKept(project))) return false;
	await exchangeApi.taken(id, n);
	return true;
}

/** Takes in what other editors save of a project, as soon as they save it; returns what ends that. */
export function followExchange(project: Id): () => void {
	let ended = false;
	let busy = false;
	const work = async (): Promise<void> => {
		if (busy) return;
		busy = true;
		try {
			while (!ended) {
				const next = get()
					.exchange?.out.flatMap((each) => each.waiting.map((n) => [each, n] as const))
					.find(([{ id }, n]) => !refused.has(`${id} ${n}`));
				if (!next || get().outline?.project.id !== project) return;
				const [out, n] = next;
				try {
					const took = await takeOne(out, n);
					if (took) forget(out.id, n);
				} catch {
					// The server is away, or has taken it already: it is asked again.
					await rest(AGAIN_MS);
				}
			}
		} finally {
			busy = false;
		}
	};
	/** Until the server tells it anew, that saving does not wait any more. */
	const forget = (id: string, n: number): void => {
		const { exchange } = get();
		if (!exchange) return;
		const out = exchange.out.map((each) =>
			each.id === id ? { ...each, agreed: n, waiting: each.waiting.filter((other) => other > n) } : each,
		);
		set({ exchange: { ...exchange, out } });
	};
	const end = exchangeApi.listen(project, (told) => {
		if (ended) return;
		set({ exchange: told });
		void work();
	});
	return () => {
		ended = true;
		end();
		set({ exchange: null });
	};
}

/** Sends a sheet, a layer or a mask out to another editor; what it saves comes back by itself. */
export async function sendOut(what: ExchangeWhat): Promise<string> {
	const project = get().outline?.project.id;
	if (!project) return 'There is no project open.';
	const { out, notes, text } = await exchangeOut(project, what);
	if (!out) return `${text} Nothing went out.`;
	return [`${out.file} is in the exchange folder. Each saving of it comes back here.`, ...notes].join(' ');
}

/** Calls back what is out; its file goes, unless it holds what was never taken in. */
export async function callBack({ id, file }: OutThere): Promise<void> {
	try {
		const { kept } = await exchangeApi.end(id);
		toast(
			kept
				? `${file} is called back. It holds what was not taken in, and stays in the folder.`
				: `${file} is called back.`,
		);
	} catch (error) {
		toast.error((error as Error).message);
	}
}

/** Sends what is worked on, from any stage, and says what became of it. */
const send = (what: ExchangeWhat | null): void => {
	if (what) void sendOut(what).then((words) => toast(words, { duration: 8000 }));
};

export const exchangeCommands: readonly AppCommand[] = [
	{
		id: 'send-sheet',
		label: 'Send the sheet with its layers to another editor',
		run: () => {
			const sheet = activeSheet(get());
			send(sheet ? { of: 'sheet', sheet: sheet.id } : null);
		},
	},
	{
		id: 'send-layer',
		label: 'Send the layer to another editor',
		run: () => {
			const [sheet, layer] = [activeSheet(get()), activeLayer(get())];
			send(sheet && layer ? { of: 'layer', sheet: sheet.id, layer: layer.id } : null);
		},
	},
];
