import { createHash } from 'node:crypto';
import { mkdtempSync } from 'node:fs';
import { createServer, request, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { deflateRawSync } from 'node:zlib';
import { apiaryPalette } from '@eppu/core/color';
import { emptyDesk, type Project, paintLayer } from '@eppu/core/document';
import { type PackedTile, packPicture, readPack, writePack } from '@eppu/core/format';
import { presets } from '@eppu/core/recipe';
import { defaultTip } from '@eppu/core/stroke';
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import { createApp } from '../src/http/app.ts';
import { openSourceStore, type Store } from '../src/store/index.ts';

let store: Store;
let server: Server;
let url: string;
const logged: unknown[] = [];

beforeAll(async () => {
	store = openSourceStore(join(mkdtempSync(join(tmpdir(), 'eppu-')), 'test.db'));
	server = createServer(
		createApp({
			store,
			site: null,
			hosts: ['127.0.0.1', 'localhost'],
			token: null,
			log: (error) => logged.push(error),
		}),
	);
	await new Promise<void>((done) => server.listen(0, '127.0.0.1', done));
	url = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
});
afterAll(() => {
	server.close();
	store.close();
});

let count = 0;
const model = Buffer.from('v 0 0 0');
const projectOf = (change: Partial<Project> = {}): Project => ({
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
const bytes = (method: string, body: Uint8Array<ArrayBuffer>): RequestInit => ({
	method,
	headers: { 'Content-Type': 'application/octet-stream' },
	body,
});
const create = async (project: Project, files = [{ name: 'lantern.obj', bytes: model }]): Promise<Response> => {
	const head = Buffer.from(
		JSON.stringify({ project, files: files.map((file) => ({ name: file.name, length: file.bytes.length })) }),
	);
	const length = Buffer.alloc(4);
	length.writeUInt32LE(head.length);
	return fetch(
		`${url}/api/projects`,
		bytes('POST', new Uint8Array(Buffer.concat([length, head, ...files.map((file) => file.bytes)]))),
	);
};
const made = async (change: Partial<Project> = {}): Promise<Project> => {
	const project = projectOf(change);
	expect((await create(project)).status).toBe(201);
	return project;
};
const texels = (seed: number): { readonly tile: PackedTile; readonly blob: Buffer } => {
	const raw = Buffer.alloc(16384, seed);
	raw[5] = 200;
	const blob = deflateRawSync(raw);
	return {
		blob,
		tile: {
			surface: 'l',
			index: seed % 4,
			value: null,
			hash: createHash('sha256').update(raw).digest('hex'),
			length: blob.length,
		},
	};
};
const save = (
	project: Project,
	revision: number,
	tiles: PackedTile[] = [],
	blobs: Uint8Array[] = [],
): Promise<Response> =>
	fetch(
		`${url}/api/projects/${project.id}/revisions/${revision}`,
		bytes('PUT', writePack({ head: { project }, tiles, blobs })),
	);
const load = async (id: string) =>
	readPack<{ project: Project; desk: unknown; revision: number }>(
		new Uint8Array(await (await fetch(`${url}/api/projects/${id}`)).arrayBuffer()),
	);
const text = async (response: Response): Promise<string> => ((await response.json()) as { text: string }).text;

describe('keeping', () => {
	test('document and tiles come back as they were kept, revision after revision', async () => {
		const project = await made();
		const { tile, blob } = texels(1);
		expect(
			(
				await save(
					{ ...project, name: 'Storm lantern' },
					2,
					[tile, { surface: 'l', index: 3, value: 0xff00ff00, hash: null, length: 0 }],
					[blob],
				)
			).status,
		).toBe(200);
		const back = await load(project.id);
		expect(back.head).toMatchObject({ revision: 2, project: { name: 'Storm lantern' } });
		expect(back.tiles).toHaveLength(2);
		expect(Buffer.compare(Buffer.from(back.blobs[0] as Uint8Array), blob)).toBe(0);
		await save(project, 3, [{ ...tile, value: 0, hash: null, length: 0 }]);
		expect((await load(project.id)).tiles.map((each) => each.index)).toEqual([3]);
	});

	test('a save whose answer was lost is answered the same again; one from behind is a conflict and changes nothing', async () => {
		const project = await made();
		expect((await save(project, 2)).status).toBe(200);
		expect((await save(project, 2)).status).toBe(200);
		expect((await save({ ...project, name: 'Other' }, 2)).status).toBe(409);
		expect((await save(project, 9)).status).toBe(409);
		expect((await load(project.id)).head).toMatchObject({ revision: 2, project: { name: 'Lantern' } });
	});

	test('desk and cover are kept beside it', async () => {
		const project = await made();
		const desk = { ...emptyDesk, sheet: 's', front: '#123456' };
		expect(
			(
				await fetch(`${url}/api/projects/${project.id}/desk`, {
					method: 'PUT',
					headers: { 'Content-Type': 'application/json' },
					body: JSON.stringify(desk),
				})
			).status,
		).toBe(200);
		expect((await load(project.id)).head.desk).toEqual(desk);
		const cover = Uint8Array.of(137, 80, 78, 71);
		await fetch(`${url}/api/projects/${project.id}/cover`, {
			method: 'PUT',
			headers: { 'Content-Type': 'image/png' },
			body: cover,
		});
		expect(new Uint8Array(await (await fetch(`${url}/api/projects/${project.id}/cover`)).arrayBuffer())).toEqual(cover);
	});

	test('a copy shares nothing that changes; deleting has a way back', async () => {
		const project = await made();
		const { tile, blob } = texels(2);
		await save(project, 2, [tile], [blob]);
		const json = (method: string, value: unknown): RequestInit => ({
			method,
			headers: { 'Content-Type': 'application/json' },
			body: JSON.stringify(value),
		});
		expect(
			(await fetch(`${url}/api/projects/${project.id}/copy`, json('POST', { id: 'copy-1', name: 'Twin' }))).status,
		).toBe(201);
		await save({ ...project, id: 'copy-1', name: 'Twin' }, 2, [{ ...tile, value: 0, hash: null, length: 0 }]);
		expect((await load(project.id)).tiles).toHaveLength(1);
		expect((await load('copy-1')).tiles).toHaveLength(0);
		expect((await fetch(`${url}/api/projects/${project.id}/files/${project.models[0]?.asset.hash}`)).status).toBe(200);
		await fetch(`${url}/api/projects/${project.id}`, { method: 'DELETE' });
		expect((await fetch(`${url}/api/projects/${project.id}`)).status).toBe(404);
		await fetch(`${url}/api/projects/${project.id}/restore`, { method: 'POST' });
		expect((await load(project.id)).tiles).toHaveLength(1);
		await fetch(`${url}/api/projects/${project.id}`, json('PATCH', { name: 'Renamed' }));
		expect((await load(project.id)).head.project.name).toBe('Renamed');
	});

	test('sweeping lets go of what was deleted long ago and of texels that nothing names, and of nothing else', async () => {
		const [gone, stays] = [await made(), await made()];
		const [a, b] = [texels(5), texels(6)];
		await save(gone, 2, [a.tile], [a.blob]);
		await save(stays, 2, [b.tile, { ...texels(7).tile, surface: 'orphan' }], [b.blob, texels(7).blob]);
		store.remove(gone.id);
		store.sweep(Date.now() + 31 * 24 * 3600 * 1000);
		expect(() => store.restore(gone.id)).toThrow(/no such project/);
		expect((await load(stays.id)).tiles.map((tile) => tile.hash)).toEqual([b.tile.hash]);
	});
});

describe('bad input is answered and changes nothing', () => {
	test('projects that are not well formed, or whose files are missing', async () => {
		const odd = await create({ ...projectOf(), name: '' });
		expect([odd.status, await text(odd)]).toEqual([400, expect.stringMatching(/not well formed/)]);
		const bare = await create(projectOf(), []);
		expect(await text(bare)).toMatch(/"lantern\.obj" that the project names was not sent/);
		const noise = await fetch(`${url}/api/projects`, bytes('POST', Uint8Array.of(255, 255, 255, 255, 1)));
		expect(noise.status).toBe(400);
	});
	test('packs that are cut short, lie about a tile, or unpack to more than a tile', async () => {
		const project = await made();
		const { tile, blob } = texels(3);
		const put = (body: Uint8Array<ArrayBuffer>) =>
			fetch(`${url}/api/projects/${project.id}/revisions/2`, bytes('PUT', body));
		const whole = writePack({ head: { project }, tiles: [tile], blobs: [blob] });
		expect((await put(whole.slice(0, whole.length - 3))).status).toBe(400);
		const lie = await save(project, 2, [{ ...tile, hash: 'a'.repeat(64) }], [blob]);
		expect(await text(lie)).toMatch(/does not match its own hash/);
		const bomb = deflateRawSync(Buffer.alloc(50_000_000));
		const blown = await save(project, 2, [{ ...tile, length: bomb.length }], [bomb]);
		expect(await text(blown)).toMatch(/cannot be unpacked/);
		expect(
			(await put(writePack({ head: { project: { ...project, id: 'someone-else' } }, tiles: [], blobs: [] }))).status,
		).toBe(400);
		expect((await load(project.id)).head.revision).toBe(1);
	});
	test('calls that do not exist and projects that are not there', async () => {
		for (const path of [
			'/api/nothing',
			'/api/projects/none',
			'/api/projects/none/cover',
			'/api/projects/..%2f..%2fetc',
		])
			expect((await fetch(url + path)).status).toBe(404);
		expect(logged).toEqual([]);
	});
});

describe('nobody else is let in', () => {
	const ask = (headers: Record<string, string>, path = '/api/projects', at = url): Promise<number> =>
		new Promise((resolve, reject) =>
			request(at + path, { headers }, (answer) => resolve(answer.resume().statusCode ?? 0))
				.on('error', reject)
				.end(),
		);
	test('a foreign host name or page is refused', async () => {
		expect(await ask({})).toBe(200);
		expect(await ask({ Host: 'evil.example' })).toBe(421);
		expect(await ask({ Origin: 'http://evil.example' })).toBe(403);
		expect(await ask({ Origin: url })).toBe(200);
		expect(await ask({ 'Sec-Fetch-Site': 'cross-site' })).toBe(403);
	});
	test('answers carry a strict policy and isolation', async () => {
		const { headers } = await fetch(`${url}/api/health`);
		const policy = headers.get('content-security-policy') ?? '';
		expect(policy).toContain("script-src 'self' 'wasm-unsafe-eval'");
		expect(policy).not.toMatch(/script-src[^;]*unsafe-inline|upgrade-insecure/);
		expect(headers.get('cross-origin-opener-policy')).toBe('same-origin');
		expect(headers.get('cross-origin-embedder-policy')).toBe('require-corp');
		expect(headers.get('x-content-type-options')).toBe('nosniff');
		expect(headers.get('x-powered-by')).toBeNull();
	});
	test('beyond this machine a token is needed', async () => {
		const other = createServer(
			createApp({ store, site: null, hosts: ['127.0.0.1'], token: 'secret-token', log: () => undefined }),
		);
		await new Promise<void>((done) => other.listen(0, '127.0.0.1', done));
		const at = `http://127.0.0.1:${(other.address() as AddressInfo).port}`;
		expect(await ask({}, '/api/projects', at)).toBe(401);
		expect(await ask({ Authorization: 'Bearer wrong' }, '/api/projects', at)).toBe(401);
		expect(await ask({ Authorization: 'Bearer secret-token' }, '/api/projects', at)).toBe(200);
		expect(await ask({ Cookie: 'eppu_token=secret-token' }, '/api/projects', at)).toBe(200);
		other.close();
	});
});

describe('the library', () => {
	const put = (id: string, kind: string, name: string, body: Uint8Array): Promise<Response> =>
		fetch(`${url}/api/library/${id}?kind=${kind}&name=${encodeURIComponent(name)}`, {
			method: 'PUT',
			headers: { 'Content-Type': 'application/octet-stream' },
			body: Buffer.from(body),
		});
	const list = async (): Promise<{ id: string; kind: string; name: string }[]> =>
		(await fetch(`${url}/api/library`)).json();
	const json = (value: unknown): Uint8Array => new TextEncoder().encode(JSON.stringify(value));

	test('keeps pictures, tips and palettes, gives them back as they were, and lets them go', async () => {
		const picture = packPicture({ width: 4, height: 2, data: new Uint8Array(32).map((_, i) => i * 7) });
		expect((await put('pic-1', 'stencil', 'Grate', picture)).status).toBe(200);
		expect((await put('tip-1', 'preset', 'My tip', json(defaultTip))).status).toBe(200);
		expect((await put('pal-1', 'palette', 'Tin', json(apiaryPalette))).status).toBe(200);
		expect(await list()).toEqual([
			{ id: 'pic-1', kind: 'stencil', name: 'Grate' },
			{ id: 'tip-1', kind: 'preset', name: 'My tip' },
			{ id: 'pal-1', kind: 'palette', name: 'Tin' },
		]);
		const back = new Uint8Array(await (await fetch(`${url}/api/library/pic-1`)).arrayBuffer());
		expect(Buffer.compare(Buffer.from(back), Buffer.from(picture))).toBe(0);
		expect(await (await fetch(`${url}/api/library/pal-1`)).json()).toEqual(apiaryPalette);
		expect((await put('pal-1', 'palette', 'Tin again', json({ ...apiaryPalette, name: 'Tin again' }))).status).toBe(
			200,
		);
		expect((await list()).map((item) => item.name)).toEqual(['Grate', 'My tip', 'Tin again']);
		for (const id of ['pic-1', 'tip-1', 'pal-1'])
			expect((await fetch(`${url}/api/library/${id}`, { method: 'DELETE' })).status).toBe(200);
		expect(await list()).toEqual([]);
		expect((await fetch(`${url}/api/library/pic-1`)).status).toBe(404);
	});

	test('keeps mask recipes, and refuses what is none', async () => {
		for (const [i, { name, steps }] of presets.entries())
			expect((await put(`r-${i}`, 'recipe', name, json(steps))).status).toBe(200);
		expect((await list()).every((item) => item.kind === 'recipe')).toBe(true);
		expect(await (await fetch(`${url}/api/library/r-0`)).json()).toEqual(presets[0]?.steps);
		for (const wrong of [{}, [{ step: 'noise' }], [{ ...presets[0]?.steps[0], mix: 'dissolve' }]])
			expect((await put('r-bad', 'recipe', 'Bad', json(wrong))).status).toBe(400);
		for (const { id } of await list()) await fetch(`${url}/api/library/${id}`, { method: 'DELETE' });
	});

	test('answers what does not fit in words, and keeps nothing of it', async () => {
		const bad = [
			put('a', 'picture', 'A', json({})),
			put('a', 'stencil', 'A', new Uint8Array(50)),
			put('a', 'preset', 'A', json({ ...defaultTip, size: -1 })),
			put('a', 'preset', 'A', new TextEncoder().encode('{')),
			put('a', 'palette', 'A', json({ name: 'A', colors: ['red'] })),
			put('a', 'palette', ' ', json(apiaryPalette)),
			put('a b', 'palette', 'A', json(apiaryPalette)),
		];
		for (const answer of await Promise.all(bad)) {
			expect(answer.status).toBe(400);
			expect(((await answer.json()) as { text: string }).text.length).toBeGreaterThan(10);
		}
		expect(await list()).toEqual([]);
	});
});
