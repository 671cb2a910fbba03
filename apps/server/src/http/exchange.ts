import express, { type Request, type Response, Router } from 'express';
import type { ExchangeFolder } from '../exchange/folder.ts';
import { type Store, StoreError } from '../store/index.ts';

/** Bytes of the largest file that goes out. */
const MOST_OUT = '512mb';
/** So long the first page may take over what waits, ms, before the next is asked; and how often that is looked at. */
const PATIENCE_MS = 20_000;
const LOOK_MS = 1000;
/** How often a line that says nothing is kept open by a word. */
const STILL_HERE_MS = 15_000;

const whatOf = (text: unknown): unknown => {
	try {
		return JSON.parse(String(text));
	} catch {
		throw new StoreError('bad-input', 'What goes out is not said well.');
	}
};

/** A page that hears of a project. */
interface Line {
	/** Tells it how all stands. */
	readonly say: () => void;
}

/** The exchange folder's calls: what goes out to another editor, and what it saved. */
export function exchangeRoutes(store: Store, folder: ExchangeFolder, patience = PATIENCE_MS): Router {
	const router = Router();
	/** The pages that hear of a project, by when they came. */
	const linesOf = new Map<string, Line[]>();
	/** What waits longest of a project, since when the first page has it, and how many had it before. */
	const waitingOf = new Map<string, { readonly key: string | undefined; since: number; passed: number }>();
	/** A page that vanished without a word, with its machine say, keeps its place: what waits goes on to the next. */
	const passOn = (of: string, lines: Line[], now = Date.now()): void => {
		const [first] = folder.states(of).flatMap(({ id, waiting }) => waiting.map((n) => `${id} ${n}`));
		const before = waitingOf.get(of);
		const known = before && before.key === first ? before : { key: first, since: now, passed: 0 };
		waitingOf.set(of, known);
		if (first === undefined || known.passed >= lines.length - 1 || now - known.since < patience) return;
		known.since = now;
		known.passed++;
		lines.push(lines.shift() as Line);
		for (const each of lines) each.say();
	};
	const project = (request: Request): string => String(request.params.project);
	router.get('/projects/:project', (request, response) => {
		folder.lookAtAll();
		response.json({ folder: folder.path, out: folder.states(project(request)) });
	});
	// A line on which the page hears of every change (Server-Sent Events).
	router.get('/projects/:project/line', (request: Request, response: Response) => {
		response.set({ 'Content-Type': 'text/event-stream', 'Cache-Control': 'no-store' });
		response.flushHeaders();
		// Where the line is cut it is opened again so soon, ms.
		response.write('retry: 400\n\n');
		const of = project(request);
		const lines = linesOf.get(of) ?? [];
		linesOf.set(of, lines);
		const say = (): void => {
			// One page takes savings in, the first that is there: two browsers would each make a revision of it.
			const out = folder.states(of).map((each) => (lines[0] === line ? each : { ...each, waiting: [] }));
			response.write(`data: ${JSON.stringify({ folder: folder.path, out })}\n\n`);
		};
		const line: Line = { say };
		lines.push(line);
		say();
		const end = folder.listen(say);
		const here = setInterval(() => response.write(': here\n\n'), STILL_HERE_MS);
		const look = setInterval(() => lines[0] === line && passOn(of, lines), LOOK_MS);
		response.on('close', () => {
			end();
			clearInterval(here);
			clearInterval(look);
			lines.splice(lines.indexOf(line), 1);
			lines[0]?.say();
		});
	});
	router.post(
		'/projects/:project',
		express.raw({ type: 'application/octet-stream', limit: MOST_OUT }),
		(request, response) => {
			const { name, what } = request.query;
			if (typeof name !== 'string' || name.length < 5 || name.length > 200)
				throw new StoreError('bad-input', 'A file that goes out needs a name.');
			if (!Buffer.isBuffer(request.body)) throw new StoreError('bad-input', 'This call needs bytes.');
			response.status(201).json(folder.send(project(request), whatOf(what), name, request.body));
		},
	);
	/** As it is: a mark for what is asked for once would be a sum over megabytes. */
	const give = (response: Response, bytes: Buffer): void => {
		response.type('application/octet-stream').set('Content-Length', String(bytes.length)).end(bytes);
	};
	for (const which of ['sent', 'agreed'] as const)
		router.get(`/:id/${which}`, (request, response) => {
			give(response, store.exchanges[which](String(request.params.id)));
		});
	router.get('/:id/savings/:n', (request, response) => {
		const { id, n } = request.params;
		give(response, store.exchanges.saving(String(id), Number(n)));
	});
	router.post('/:id/savings/:n/taken', (request, response) => {
		folder.taken(String(request.params.id), Number(request.params.n));
		response.json({});
	});
	router.delete('/:id', (request, response) => void response.json(folder.end(String(request.params.id))));
	return router;
}
