import express, { type Request, type Response, Router } from 'express';
import type { ExchangeFolder } from '../exchange/folder.ts';
import { type Store, StoreError } from '../store/index.ts';

/** Bytes of the largest file that goes out. */
const MOST_OUT = '512mb';
/** How often a line that says nothing is kept open by a word. */
const STILL_HERE_MS = 15_000;

const whatOf = (text: unknown): unknown => {
	try {
		return JSON.parse(String(text));
	} catch {
		throw new StoreError('bad-input', 'What goes out is not said well.');
	}
};

/** The exchange folder's calls: what goes out to another editor, and what it saved. */
export function exchangeRoutes(store: Store, folder: ExchangeFolder): Router {
	const router = Router();
	/** The pages that hear of a project, by when they came. */
	const linesOf = new Map<string, (() => void)[]>();
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
			const out = folder.states(of).map((each) => (lines[0] === say ? each : { ...each, waiting: [] }));
			response.write(`data: ${JSON.stringify({ folder: folder.path, out })}\n\n`);
		};
		lines.push(say);
		say();
		const end = folder.listen(say);
		const timer = setInterval(() => response.write(': here\n\n'), STILL_HERE_MS);
		response.on('close', () => {
			end();
			clearInterval(timer);
			lines.splice(lines.indexOf(say), 1);
			lines[0]?.();
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
	for (const which of ['sent', 'agreed'] as const)
		router.get(`/:id/${which}`, (request, response) => {
			response.type('application/octet-stream').send(store.exchanges[which](String(request.params.id)));
		});
	router.get('/:id/savings/:n', (request, response) => {
		const { id, n } = request.params;
		response.type('application/octet-stream').send(store.exchanges.saving(String(id), Number(n)));
	});
	router.post('/:id/savings/:n/taken', (request, response) => {
		folder.taken(String(request.params.id), Number(request.params.n));
		response.json({});
	});
	router.delete('/:id', (request, response) => void response.json(folder.end(String(request.params.id))));
	return router;
}
