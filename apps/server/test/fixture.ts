import { createHash } from 'node:crypto';
import { mkdtempSync } from 'node:fs';
import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { deflateRawSync } from 'node:zlib';
import { apiaryPalette } from '@eppu/core/color';
import { type Project, paintLayer } from '@eppu/core/document';
import { type Pack, type PackedTile, readPack, writePack } from '@eppu/core/format';
import { type AppOptions, createApp } from '../src/http/app.ts';
import { openSourceStore, type Store } from '../src/store/index.ts';

const model = Buffer.from('v 0 0 0');
let count = 0;

export const projectOf = (change: Partial<Project> = {}): Project => ({
	schema: 1,
	id: `p${count++}`,
	name: 'Lantern',
	palette: apiaryPalette,
	models: [
		{
			id: 'm',
			name: 'Lantern',
			asset: { hash: createHash('sha256').update(model).digest('hex'), name: 'lantern.obj' },
			parts: [{ name: 'All', sheet: 's', shown: true }],
		},
	],
	sheets: [
		{
			id: 's',
			name: 'S',
			width: 128,
			height: 128,
			bleed: 4,
			base: null,
			guide: null,
			layers: [paintLayer('l', 'Paint')],
		},
	],
	...change,
});

/** A tile of layer `l` with texels of its own. */
export const texels = (seed: number, bytes = 16384): PackedTile => {
	const raw = Buffer.alloc(bytes, seed);
	raw[5] = 200;
	raw[6] = seed >> 8;
	return {
		surface: 'l',
		index: seed % 4,
		count: 1,
		value: null,
		hash: createHash('sha256').update(raw).digest('hex'),
		blob: deflateRawSync(raw),
	};
};

/** Tiles with one value. */
export const values = (index: number, value: number, tiles = 1, surface = 'l'): PackedTile => ({
	surface,
	index,
	count: tiles,
	value,
	hash: null,
	blob: null,
});

/** A tile as its place and what it holds, to compare. */
export const told = ({ surface, index, value, hash }: PackedTile): string => `${surface} ${index} ${hash ?? value}`;

export const bytes = (method: string, body: Uint8Array<ArrayBuffer>): RequestInit => ({
	method,
	headers: { 'Content-Type': 'application/octet-stream' },
	body,
});
export const json = (method: string, value: unknown): RequestInit => ({
	method,
	headers: { 'Content-Type': 'application/json' },
	body: JSON.stringify(value),
});
export const text = async (response: Response): Promise<string> => ((await response.json()) as { text: string }).text;

export interface Served {
	readonly store: Store;
	readonly server: Server;
	readonly url: string;
	readonly file: string;
	readonly logged: unknown[];
	create(project: unknown, files?: readonly { name: string; bytes: Uint8Array }[]): Promise<Response>;
	made(change?: Partial<Project>): Promise<Project>;
	save(project: Project, revision: number, tiles?: readonly PackedTile[], save?: string): Promise<Response>;
	load(id: string): Promise<Pack<{ project: Project; problem: string | null; desk: unknown; revision: number }>>;
	close(): void;
}

let saves = 0;
export const newSave = (): string => `save-${String(saves++).padStart(8, '0')}`;

/** A real server on a real file of its own. */
export async function serve(options: Partial<AppOptions> = {}): Promise<Served> {
	const file = join(mkdtempSync(join(tmpdir(), 'eppu-')), 'test.db');
	const store = openSourceStore(file);
	const logged: unknown[] = [];
	const app = createApp({
		store,
		site: null,
		hosts: ['127.0.0.1', 'localhost'],
		token: null,
		log: (error) => logged.push(error),
		...options,
	});
	const server = createServer(app);
	await new Promise<void>((done) => server.listen(0, '127.0.0.1', done));
	const url = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
	const create: Served['create'] = (project, files = [{ name: 'lantern.obj', bytes: model }]) =>
		fetch(
			`${url}/api/projects`,
			bytes(
				'POST',
				writePack({
					head: { project, files: files.map((each) => ({ name: each.name, length: each.bytes.length })) },
					files: new Uint8Array(Buffer.concat(files.map((each) => each.bytes))),
				}),
			),
		);
	return {
		store,
		server,
		url,
		file,
		logged,
		create,
		async made(change = {}) {
			const project = projectOf(change);
			const answer = await create(project);
			if (answer.status !== 201) throw new Error(await text(answer));
			return project;
		},
		save: (project, revision, tiles = [], save = newSave()) =>
			fetch(
				`${url}/api/projects/${project.id}/revisions/${revision}`,
				bytes('PUT', writePack({ head: { project, save }, tiles })),
			),
		load: async (id) => readPack(new Uint8Array(await (await fetch(`${url}/api/projects/${id}`)).arrayBuffer())),
		close() {
			server.close();
			store.close();
		},
	};
}
