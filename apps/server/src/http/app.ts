import { existsSync } from 'node:fs';
import { join } from 'node:path';
import {
	cleanNameProblem,
	currentDesk,
	type Desk,
	desksProblem,
	type Project,
	projectProblem,
} from '@eppu/core/document';
import { PackError, readPictureFile } from '@eppu/core/format';
import { MOST_MODEL_BYTES } from '@eppu/core/mesh';
import express, { type Express, type NextFunction, type Request, type Response } from 'express';
import type { ExchangeFolder } from '../exchange/folder.ts';
import { isFull, type Store, StoreError } from '../store/index.ts';
import { exchangeRoutes } from './exchange.ts';
import { type GuardOptions, guard, sameMachine, securityHeaders } from './guard.ts';
import { libraryRoutes } from './library.ts';
import { type Budget, limits, usualBudget } from './limits.ts';
import { receivePack, sendPack } from './receive.ts';

const MOST_COVER = 1024 * 1024;
/** Px of the longest side of a cover. */
const MOST_COVER_SIDE = 2048;

export interface AppOptions extends GuardOptions {
	readonly store: Store;
	/** The folder that other editors save into; where it is left out there is none. */
	readonly exchange?: ExchangeFolder;
	/** How often one browser may ask; as usual where it is left out. */
	readonly budget?: Budget;
	/** Folder of the built interface; null serves the interface's data only. */
	readonly site: string | null;
	/** Told of errors that are nobody's input. */
	readonly log: (error: unknown) => void;
}

const id = (request: Request): string => String(request.params.id);
const json = express.json({ limit: '1mb' });

const nameIn = (request: Request): string => {
	const problem = cleanNameProblem(request.body?.name);
	if (problem) throw new StoreError('bad-input', problem);
	return (request.body.name as string).trim();
};

/** What stands at the head of a new project, or of one that was saved as a file. */
interface NewHead {
	readonly project: Project;
	readonly desk?: unknown;
	readonly files: readonly { readonly name: string; readonly length: number }[];
}

function filesOf({ files }: NewHead, bytes: Uint8Array): { name: string; bytes: Uint8Array }[] {
	const bad = (): never => {
		throw new StoreError('bad-input', 'What was sent for the new project is not well formed.');
	};
	if (!Array.isArray(files) || files.length > 1000) bad();
	let at = 0;
	const found = files.map((file) => {
		if (
			typeof file?.name !== 'string' ||
			file.name.length < 1 ||
			file.name.length > 255 ||
			!Number.isInteger(file.length) ||
			file.length < 0 ||
			at + file.length > bytes.length
		)
			bad();
		at += file.length;
		return { name: file.name, bytes: bytes.subarray(at - file.length, at) };
	});
	if (at !== bytes.length) bad();
	return found;
}

/** A desk as it is laid out today, or null where it is not whole. */
function wholeDesk(kept: unknown): Desk | null {
	const desk = currentDesk(kept);
	return desksProblem(desk) === null ? (desk as Desk) : null;
}

/** What is wrong with a project as it is kept, in words, and its desk where that is whole: who opens it need not look again. */
const lookedAt = ({ project, desk }: { readonly project: unknown; readonly desk: unknown }) => ({
	problem: projectProblem(project),
	desk: wholeDesk(desk),
});

/** The HTTP face of the store, and of the built interface. */
// biome-ignore lint/complexity/noExcessiveLinesPerFunction: the routes in the order in which they are asked, each a few lines.
export function createApp({ store, exchange, site, log, budget = usualBudget, ...guardOptions }: AppOptions): Express {
	const app = express();
	app.disable('x-powered-by');
	// A guard by path must not be evaded by the path's case.
	app.enable('case sensitive routing');
	app.use(securityHeaders, limits(budget), guard(guardOptions));

	app.get('/api/health', (_request, response) => void response.json({ ok: true }));
	app.get('/api/projects', (request, response) => void response.json(store.list(request.query.deleted === '1')));
	app.post('/api/projects', async (request, response) => {
		const { head, files, tiles, ahead } = await receivePack<NewHead>(request, store);
		store.create(head?.project, filesOf(head ?? {}, files), {
			desk: wholeDesk(head?.desk) ?? undefined,
			tiles,
			ahead,
		});
		response.status(201).json({ id: head.project.id });
	});
	app.get('/api/projects/:id', async (request, response) => {
		const { tiles, ...kept } = store.load(id(request));
		const head = { ...kept, ...lookedAt(kept) };
		const bare = request.query.texels === 'bare' && sameMachine(request);
		await sendPack(response, head, tiles(), bare);
	});
	// What the page draws while all else of the project is still on its way: nothing where it is not as it should be.
	app.get('/api/projects/:id/head', (request, response) => {
		const { project, desk: kept } = store.head(id(request));
		const { problem, desk } = lookedAt({ project, desk: kept });
		response.set('Cache-Control', 'no-store').json(problem === null && desk ? { project, desk } : null);
	});
	app.put('/api/projects/:id/revisions/:revision', async (request, response) => {
		const revision = Number(request.params.revision);
		if (!Number.isInteger(revision) || revision < 1) throw new StoreError('bad-input', 'A revision is a whole number.');
		const { head, tiles, ahead, content } = await receivePack<{ project: Project; save: string }>(request, store);
		if (typeof head?.save !== 'string' || !/^[A-Za-z0-9_-]{8,64}$/.test(head.save))
			throw new StoreError('bad-input', 'A save needs an id of its own.');
		response.json(
			store.save(id(request), { base: revision - 1, save: head.save, content, project: head.project, tiles, ahead }),
		);
	});
	app.put('/api/projects/:id/desk', json, (request, response) => {
		const problem = desksProblem(request.body);
		if (problem) throw new StoreError('bad-input', problem);
		store.putDesk(id(request), request.body as Desk);
		response.json({});
	});
	app.put('/api/projects/:id/cover', express.raw({ type: 'image/png', limit: MOST_COVER }), (request, response) => {
		const bytes = Buffer.isBuffer(request.body) ? request.body : Buffer.alloc(0);
		const read = readPictureFile(bytes, 'The cover');
		if (!read.ok || read.file.type !== 'image/png' || Math.max(read.file.width, read.file.height) > MOST_COVER_SIDE)
			throw new StoreError('bad-input', read.ok ? `A cover is a PNG of up to ${MOST_COVER_SIDE} px.` : read.text);
		store.putCover(id(request), bytes);
		response.json({});
	});
	app.get('/api/projects/:id/cover', (request, response) => {
		response
			.type('image/png')
			.set('Cache-Control', 'no-cache')
			.send(store.cover(id(request)));
	});
	app.post(
		'/api/projects/:id/files',
		express.raw({ type: 'application/octet-stream', limit: MOST_MODEL_BYTES }),
		(request, response) => {
			const { name } = request.query;
			if (typeof name !== 'string' || name.length < 1 || name.length > 255)
				throw new StoreError('bad-input', 'A file needs a name of up to 255 letters.');
			if (!Buffer.isBuffer(request.body) || request.body.length === 0)
				throw new StoreError('bad-input', `"${name}" is empty.`);
			response.status(201).json({ hash: store.putAsset(id(request), name, request.body) });
		},
	);
	app.get('/api/projects/:id/files/:hash', (request, response) => {
		response
			.type('application/octet-stream')
			.set('Cache-Control', 'private, max-age=31536000, immutable')
			.send(store.asset(id(request), String(request.params.hash)).bytes);
	});
	app.post('/api/projects/:id/copy', json, (request, response) => {
		const { id: newId, revision } = request.body ?? {};
		if (typeof newId !== 'string' || !/^[A-Za-z0-9_-]{1,64}$/.test(newId))
			throw new StoreError('bad-input', 'The copy needs an id of its own.');
		if (revision !== undefined && !(Number.isInteger(revision) && revision >= 1))
			throw new StoreError('bad-input', 'A revision is a whole number.');
		response.status(201).json({ id: newId, ...store.copy(id(request), newId, nameIn(request), revision) });
	});
	app.patch('/api/projects/:id', json, (request, response) => {
		store.rename(id(request), nameIn(request));
		response.json({});
	});
	app.delete('/api/projects/:id', (request, response) => {
		store.remove(id(request));
		response.json({});
	});
	app.post('/api/projects/:id/restore', (request, response) => {
		store.restore(id(request));
		response.json({});
	});
	app.get('/api/made/:name', (request, response) => {
		const bytes = store.made.get(String(request.params.name));
		// Nothing is no error: whoever asks computes it.
		if (!bytes) return void response.status(204).end();
		response.type('application/octet-stream').set('Cache-Control', 'private, max-age=31536000, immutable').send(bytes);
	});
	app.use('/api/library', libraryRoutes(store.library));
	if (exchange) app.use('/api/exchange', exchangeRoutes(store, exchange));
	app.use(
		'/api',
		(_request, response) => void response.status(404).json({ code: 'not-found', text: 'The server has no such call.' }),
	);

	if (site && existsSync(join(site, 'index.html'))) {
		app.use(
			express.static(site, {
				index: false,
				maxAge: '1y',
				immutable: true,
				// What is not named by its content must be asked for each time.
				setHeaders: (response, path) =>
					/\.html$|[\\/]shell\.js$/.test(path) && response.setHeader('Cache-Control', 'no-cache'),
			}),
		);
		app.get(
			'/{*path}',
			(_request, response) => void response.set('Cache-Control', 'no-cache').sendFile(join(site, 'index.html')),
		);
	}

	app.use((error: unknown, _request: Request, response: Response, _next: NextFunction) => {
		const answer = answerOf(error);
		if (answer.status >= 500) log(error);
		if (response.headersSent) response.destroy();
		else response.status(answer.status).json({ code: answer.code, text: answer.text });
	});
	return app;
}

function answerOf(error: unknown): { status: number; code: string; text: string } {
	if (error instanceof StoreError)
		return {
			status: { 'not-found': 404, conflict: 409, 'bad-input': 400, 'too-large': 413, 'disk-full': 507 }[error.code],
			code: error.code,
			text: error.message,
		};
	if (error instanceof PackError) return { status: 400, code: 'bad-input', text: error.message };
	const { status, type } = error as { status?: number; type?: string };
	if (type === 'entity.too.large')
		return { status: 413, code: 'too-large', text: 'That is more than the server takes in at once.' };
	if (isFull(error))
		return {
			status: 507,
			code: 'disk-full',
			text: 'The disk is full, so nothing more can be kept. Free some space; what you paint is held in the browser until then.',
		};
	if (status && status < 500) return { status, code: 'bad-input', text: 'The call could not be read.' };
	return { status: 500, code: 'failed', text: 'The server failed at this; nothing was changed. Its log says more.' };
}
