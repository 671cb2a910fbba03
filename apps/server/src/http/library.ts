import { cleanNameProblem } from '@eppu/core/document';
import express, { Router } from 'express';
import { type Library, type LibraryKind, libraryKinds, StoreError } from '../store/index.ts';

/** Bytes of the largest item that is taken. */
const MOST_ITEM = 20 * 1024 * 1024;

/** The library's calls: what artists keep for all their projects. */
export function libraryRoutes(library: Library): Router {
	const router = Router();
	router.get('/', (_request, response) => void response.json(library.list()));
	router.get('/:id', (request, response) => {
		response.type('application/octet-stream').set('Cache-Control', 'no-cache').send(library.body(request.params.id));
	});
	router.put('/:id', express.raw({ type: 'application/octet-stream', limit: MOST_ITEM }), (request, response) => {
		const { kind, name } = request.query;
		const id = String(request.params.id);
		if (!/^[A-Za-z0-9_-]{1,80}$/.test(id)) throw new StoreError('bad-input', 'An item needs an id of its own.');
		if (typeof kind !== 'string' || !libraryKinds.includes(kind as LibraryKind))
			throw new StoreError(
				'bad-input',
				'The library keeps tips, stencils, references (of all projects or pinned to one), presets, palettes, recipes, lights and ways of writing.',
			);
		const problem = cleanNameProblem(name);
		if (problem) throw new StoreError('bad-input', problem);
		const clean = (name as string).trim();
		if (!Buffer.isBuffer(request.body))
			throw new StoreError('bad-input', 'This call needs bytes (application/octet-stream).');
		library.put({ id, kind: kind as LibraryKind, name: clean }, request.body);
		response.json({ id });
	});
	router.delete('/:id', (request, response) => {
		library.remove(request.params.id);
		response.json({});
	});
	return router;
}
