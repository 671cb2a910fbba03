import { existsSync } from 'node:fs';
import { join } from 'node:path';
import { type Desk, desksProblem, type Project } from '@eppu/core/document';
import { PackError, readPack, writePack } from '@eppu/core/format';
import express, { type Express, type NextFunction, type Request, type Response } from 'express';
import { rateLimit } from 'express-rate-limit';
import { type Store, StoreError } from '../store/index.ts';
import { type GuardOptions, guard, securityHeaders } from './guard.ts';
import { libraryRoutes } from './library.ts';

/** Bytes of the largest body that is taken. */
const MOST_BODY = 256 * 1024 * 1024;
const MOST_COVER = 1024 * 1024;

export interface AppOptions extends GuardOptions {
	readonly store: Store;
	/** Folder of the built interface; null serves the interface's data only. */
	readonly site: string | null;
	/** Told of errors that are nobody's input. */
	readonly log: (error: unknown) => void;
}

const id = (request: Request): string => String(request.params.id);
const bytes = express.raw({ type: 'application/octet-stream', limit: MOST_BODY });
const json = express.json({ limit: '1mb' });

const body = (request: Request): Uint8Array => {
	if (!Buffer.isBuffer(request.body))
		throw new StoreError('bad-input', 'This call needs bytes (application/octet-stream).');
	return request.body;
};

const nameIn = (request: Request): string => {
	const name = typeof request.body?.name === 'string' ? request.body.name.trim() : '';
	if (name.length < 1 || name.length > 120) throw new StoreError('bad-input', 'A name needs 1 to 120 letters.');
	return name;
};

/** The files that come with a new project: their names and lengths stand in the head, their bytes follow it. */
interface NewHead {
	readonly project: Project;
	readonly files: readonly { readonly name: string; readonly length: number }[];
}

/** Reads a new project: u32 length of a JSON head, the head, then the files' bytes. */
function readNew(given: Uint8Array): { head: NewHead; files: { name: string; bytes: Uint8Array }[] } {
	const bad = (): never => {
		throw new StoreError('bad-input', 'What was sent for the new project is not well formed.');
	};
	if (given.length < 4) bad();
	const length = new DataView(given.buffer, given.byteOffset).getUint32(0, true);
	if (4 + length > given.length) bad();
	let head: NewHead | undefined;
	try {
		head = JSON.parse(new TextDecoder().decode(given.subarray(4, 4 + length)));
	} catch {
		bad();
	}
	if (!head || !Array.isArray(head.files)) return bad();
	let at = 4 + length;
	const files = head.files.map((file) => {
		if (
			typeof file?.name !== 'string' ||
			file.name.length < 1 ||
			file.name.length > 255 ||
			!Number.isInteger(file.length) ||
			file.length < 0 ||
			at + file.length > given.length
		)
			bad();
		at += file.length;
		return { name: file.name, bytes: given.subarray(at - file.length, at) };
	});
	return { head, files };
}

/** The HTTP face of the store, and of the built interface. */
export function createApp({ store, site, log, ...guardOptions }: AppOptions): Express {
	const app = express();
	app.disable('x-powered-by');
	app.use(securityHeaders, guard(guardOptions));
	app.use('/api', rateLimit({ windowMs: 10_000, limit: 2000, standardHeaders: false, legacyHeaders: false }));

	app.get('/api/health', (_request, response) => void response.json({ ok: true }));
	app.get('/api/projects', (request, response) => void response.json(store.list(request.query.deleted === '1')));
	app.post('/api/projects', bytes, (request, response) => {
		const { head, files } = readNew(body(request));
		store.create(head.project, files);
		response.status(201).json({ id: head.project.id });
	});
	app.get('/api/projects/:id', (request, response) => {
		const stored = store.load(id(request));
		response.type('application/octet-stream').set('Cache-Control', 'no-store');
		response.write(
			writePack({
				head: { project: stored.project, desk: stored.desk, revision: stored.revision },
				tiles: stored.tiles,
				blobs: [],
			}),
		);
		for (const blob of stored.blobs()) response.write(blob);
		response.end();
	});
	app.put('/api/projects/:id/revisions/:revision', bytes, (request, response) => {
		const pack = readPack<{ project: Project }>(body(request));
		const revision = Number(request.params.revision);
		if (!Number.isInteger(revision) || revision < 1) throw new StoreError('bad-input', 'A revision is a whole number.');
		response.json({
			revision: store.save(id(request), {
				base: revision - 1,
				project: pack.head?.project,
				tiles: pack.tiles,
				blobs: pack.blobs,
			}),
		});
	});
	app.put('/api/projects/:id/desk', json, (request, response) => {
		const problem = desksProblem(request.body);
		if (problem) throw new StoreError('bad-input', problem);
		store.putDesk(id(request), request.body as Desk);
		response.json({});
	});
	app.put('/api/projects/:id/cover', express.raw({ type: 'image/png', limit: MOST_COVER }), (request, response) => {
		store.putCover(id(request), body(request) as Buffer);
		response.json({});
	});
	app.get('/api/projects/:id/cover', (request, response) => {
		response
			.type('image/png')
			.set('Cache-Control', 'no-cache')
			.send(store.cover(id(request)));
	});
	app.get('/api/projects/:id/files/:hash', (request, response) => {
		response
			.type('application/octet-stream')
			.set('Cache-Control', 'private, max-age=31536000, immutable')
			.send(store.asset(id(request), String(request.params.hash)).bytes);
	});
	app.post('/api/projects/:id/copy', json, (request, response) => {
		const newId =
			typeof request.body?.id === 'string' && /^[A-Za-z0-9_-]{1,64}$/.test(request.body.id) ? request.body.id : null;
		if (!newId) throw new StoreError('bad-input', 'The copy needs an id of its own.');
		store.copy(id(request), newId, nameIn(request));
		response.status(201).json({ id: newId });
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
	app.use('/api/library', libraryRoutes(store.library));
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
				setHeaders: (response, path) => path.endsWith('.html') && response.setHeader('Cache-Control', 'no-cache'),
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
			status: { 'not-found': 404, conflict: 409, 'bad-input': 400 }[error.code],
			code: error.code,
			text: error.message,
		};
	if (error instanceof PackError) return { status: 400, code: 'bad-input', text: error.message };
	const { status, type, code } = error as { status?: number; type?: string; code?: string };
	if (type === 'entity.too.large')
		return { status: 413, code: 'too-large', text: 'That is more than the server takes in at once (256 MB).' };
	if (code === 'SQLITE_FULL')
		return {
			status: 507,
			code: 'disk-full',
			text: 'The disk is full, so nothing more can be kept. Free some space; what you paint is held in the browser until then.',
		};
	if (status && status < 500) return { status, code: 'bad-input', text: 'The call could not be read.' };
	return { status: 500, code: 'failed', text: 'The server failed at this; nothing was changed. Its log says more.' };
}
