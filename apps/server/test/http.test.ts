import { createServer, request } from 'node:http';
import type { AddressInfo } from 'node:net';
import { deflateRawSync, deflateSync } from 'node:zlib';
import { apiaryPalette } from '@eppu/core/color';
import { paintLayer } from '@eppu/core/document';
import { packPicture, writePack } from '@eppu/core/format';
import { presets } from '@eppu/core/recipe';
import { defaultTip } from '@eppu/core/stroke';
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import LibSql from 'libsql';
import { createApp } from '../src/http/app.ts';
import { bytes, json, newSave, projectOf, type Served, serve, texels, text, values } from './fixture.ts';

let here: Served;
let url: string;
beforeAll(async () => {
	here = await serve();
	({ url } = here);
});
afterAll(() => here.close());
const create: Served['create'] = (...args) => here.create(...args);
const made: Served['made'] = (...args) => here.made(...args);
const save: Served['save'] = (...args) => here.save(...args);
const load: Served['load'] = (...args) => here.load(...args);

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
		const tile = texels(3);
		const put = (body: Uint8Array<ArrayBuffer>) =>
			fetch(`${url}/api/projects/${project.id}/revisions/2`, bytes('PUT', body));
		const whole = writePack({ head: { project, save: newSave() }, tiles: [tile] });
		expect((await put(whole.slice(0, whole.length - 3))).status).toBe(400);
		const lie = await save(project, 2, [{ ...tile, hash: 'a'.repeat(64) }]);
		expect(await text(lie)).toMatch(/does not match its own hash/);
		const blown = await save(project, 2, [{ ...tile, blob: deflateRawSync(Buffer.alloc(50_000_000)) }]);
		expect(await text(blown)).toMatch(/cannot be unpacked/);
		expect(
			(await put(writePack({ head: { project: { ...project, id: 'someone-else' }, save: newSave() } }))).status,
		).toBe(400);
		expect((await put(writePack({ head: { project } }))).status).toBe(400);
		expect((await load(project.id)).head.revision).toBe(1);
	});
	test('tiles beyond their sheet, of the wrong length, of no layer, of values that are none', async () => {
		const project = await made();
		for (const [tile, words] of [
			[values(4, 7), /beyond its sheet/],
			[values(0, 7, 5), /beyond its sheet/],
			[texels(3, 4096), /not of its layer’s kind/],
			[values(0, 7, 1, 'nobody'), /belongs to no layer/],
		] as const) {
			const answer = await save(project, 2, [tile]);
			expect(answer.status).toBe(400);
			expect(await text(answer)).toMatch(words);
		}
		const masked = await made({
			sheets: projectOf().sheets.map((sheet) => ({
				...sheet,
				layers: [paintLayer('l', 'Paint', { mask: { surface: 'k', on: true } })],
			})),
		});
		expect(await text(await save(masked, 2, [values(0, 256, 1, 'k')]))).toMatch(/a value that is none/);
		expect((await save(masked, 2, [values(0, 255, 4, 'k')])).status).toBe(200);
	});
	test('deep trees, taken ids, covers that are no pictures, names that mislead', async () => {
		const project = await made();
		// Too deep for JSON.stringify: written as text, and framed by hand.
		const [before, after] = JSON.stringify({
			...paintLayer('g', 'Group'),
			kind: 'group',
			isolated: false,
			layers: ['@'],
			surface: undefined,
		}).split('"@"') as [string, string];
		const deep = before.repeat(4000) + after.repeat(4000);
		const whole = JSON.stringify({
			project: { ...projectOf(), sheets: [{ ...project.sheets[0], layers: ['@'] }] },
			files: [],
		}).replace('"@"', deep);
		const head = Buffer.from(whole);
		const frame = Buffer.alloc(9);
		frame.write('EPK2', 'latin1');
		frame.writeUInt32LE(head.length, 4);
		frame[8] = 1;
		const trees = await fetch(
			`${url}/api/projects`,
			bytes('POST', new Uint8Array(Buffer.concat([frame, head, Buffer.alloc(5)]))),
		);
		expect([trees.status, await text(trees)]).toEqual([400, expect.stringMatching(/nested too deep|well formed/)]);
		const taken = await create(project);
		expect([taken.status, await text(taken)]).toEqual([409, expect.stringMatching(/here already/)]);
		const copy = (id: string, name: string) =>
			fetch(`${url}/api/projects/${project.id}/copy`, json('POST', { id, name }));
		expect((await copy(project.id, 'Twin')).status).toBe(409);
		for (const name of ['Lan\u0007tern', 'Lan\u202etern', '', ' ', 'x'.repeat(121)]) {
			expect((await create({ ...projectOf(), name })).status).toBe(400);
			expect((await copy('fresh', name)).status).toBe(400);
			expect((await fetch(`${url}/api/projects/${project.id}`, json('PATCH', { name }))).status).toBe(400);
		}
		for (const cover of [Uint8Array.of(137, 80, 78, 71), new Uint8Array(0), new Uint8Array(2000).fill(7)]) {
			const answer = await fetch(`${url}/api/projects/${project.id}/cover`, {
				method: 'PUT',
				headers: { 'Content-Type': 'image/png' },
				body: cover,
			});
			expect(answer.status).toBe(400);
			expect((await text(answer)).length).toBeGreaterThan(10);
		}
		expect(here.logged).toEqual([]);
	});
	test('a packed picture that would unpack without end is refused at once', async () => {
		const head = Buffer.alloc(12);
		head.write('EPX1', 'latin1');
		head.writeUInt32LE(4, 4);
		head.writeUInt32LE(4, 8);
		const bomb = deflateSync(Buffer.alloc(400_000_000), { level: 9 });
		const before = performance.now();
		const answer = await fetch(
			`${url}/api/library/bomb?kind=tip&name=Bomb`,
			bytes('PUT', new Uint8Array(Buffer.concat([head, bomb]))),
		);
		expect(answer.status).toBe(400);
		// Not a speed: inflating all of it takes seconds, the first piece none.
		expect(performance.now() - before).toBeLessThan(1500);
	});
	test('calls that do not exist and projects that are not there', async () => {
		for (const path of [
			'/api/nothing',
			'/api/projects/none',
			'/api/projects/none/cover',
			'/api/projects/..%2f..%2fetc',
		])
			expect((await fetch(url + path)).status).toBe(404);
		expect(here.logged).toEqual([]);
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
			createApp({ store: here.store, site: null, hosts: ['127.0.0.1'], token: 'secret-token', log: () => undefined }),
		);
		await new Promise<void>((done) => other.listen(0, '127.0.0.1', done));
		const at = `http://127.0.0.1:${(other.address() as AddressInfo).port}`;
		expect(await ask({}, '/api/projects', at)).toBe(401);
		expect(await ask({ Authorization: 'Bearer wrong' }, '/api/projects', at)).toBe(401);
		expect(await ask({ Authorization: 'Bearer secret-token' }, '/api/projects', at)).toBe(200);
		expect(await ask({ Cookie: 'eppu_token=secret-token' }, '/api/projects', at)).toBe(200);
		expect(await ask({ Cookie: 'eppu_token=old' }, '/api/projects?token=secret-token', at)).toBe(200);
		for (const odd of ['%', '%E0%A4%A', '%00', 'ä', 'a;b'])
			expect(await ask({ Cookie: `eppu_token=${encodeURI(odd)}` }, '/api/projects', at)).toBe(401);
		expect(await ask({}, '/API/projects', at)).toBe(401);
		other.close();
	});
	test('who tries tokens is made to wait', async () => {
		const other = await serve({ token: 'secret-token' });
		const got: number[] = [];
		for (let i = 0; i < 25; i++) got.push(await ask({ Authorization: `Bearer ${i}` }, '/api/projects', other.url));
		expect(got.slice(0, 20).every((status) => status === 401)).toBe(true);
		expect(got.at(-1)).toBe(429);
		other.close();
	});
	test('the case of a path evades no guard', async () => {
		expect(await ask({ 'Sec-Fetch-Site': 'cross-site' }, '/API/projects')).toBe(403);
		expect(await ask({}, '/API/projects')).toBe(404);
	});
	test('who asks too often is told so in JSON, and saves have a budget of their own', async () => {
		const other = await serve({ budget: { calls: 40, saves: 400 } });
		const project = await other.made();
		const all = await Promise.all(
			Array.from({ length: 60 }, () =>
				fetch(`${other.url}/api/health`, { headers: { Cookie: 'eppu_session=aaaaaaaaaaaaaaaaaaaa' } }),
			),
		);
		const refused = all.filter((answer) => answer.status === 429);
		expect(refused.length).toBeGreaterThan(0);
		expect(refused[0]?.headers.get('retry-after')).toBe('10');
		expect(await text(refused[0] as Response)).toMatch(/asked too often/);
		expect((await fetch(`${other.url}/api/health`)).status).toBe(200);
		expect((await other.save(project, 2)).status).toBe(200);
		other.close();
	});
});

test('keeps a file that a project is about to name, and refuses one that cannot be', async () => {
	const project = await here.made();
	const put = (name: string, body: Uint8Array<ArrayBuffer>, id = project.id): Promise<Response> =>
		fetch(`${url}/api/projects/${id}/files?name=${encodeURIComponent(name)}`, bytes('POST', body));
	const body = Uint8Array.from(Buffer.from('v 0 0 0'));
	const answer = await put('second.obj', body);
	expect(answer.status).toBe(201);
	const { hash } = (await answer.json()) as { hash: string };
	const back = new Uint8Array(await (await fetch(`${url}/api/projects/${project.id}/files/${hash}`)).arrayBuffer());
	expect(Buffer.compare(Buffer.from(back), Buffer.from(body))).toBe(0);
	expect((await put('second.obj', body)).status).toBe(201);
	expect((await put('', body)).status).toBe(400);
	expect((await put('empty.obj', new Uint8Array())).status).toBe(400);
	expect((await put('x.obj', body, 'nobody')).status).toBe(404);
});

test('what is kept and not whole any more is told with it, and nothing of it is taken for whole', async () => {
	const project = await made();
	const whole = (await load(project.id)).head;
	expect([whole.problem, whole.desk]).toEqual([null, null]);
	const tip = { id: 'tip-odd', kind: 'preset', name: 'Odd' } as const;
	here.store.library.put(tip, new TextEncoder().encode(JSON.stringify(defaultTip)));
	expect((await fetch(`${url}/api/library/tip-odd`)).status).toBe(200);
	const db = new LibSql(here.file);
	db.prepare('update project set document = ?, desk = ? where id = ?').run(
		JSON.stringify({ ...project, extra: 1 }),
		'{"front":"red"}',
		project.id,
	);
	db.prepare('update library set body = ? where id = ?').run(Buffer.from('{"shape":7}'), tip.id);
	db.close();
	const { head } = await load(project.id);
	expect([head.problem, head.desk]).toEqual([expect.stringMatching(/not well formed/), null]);
	expect(await (await fetch(`${url}/api/projects/${project.id}/head`)).json()).toBeNull();
	const odd = await fetch(`${url}/api/library/tip-odd`);
	expect([odd.status, await text(odd)]).toEqual([400, expect.stringMatching(/tip is not well formed/)]);
	here.store.library.remove(tip.id);
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
	const encoded = (value: unknown): Uint8Array => new TextEncoder().encode(JSON.stringify(value));

	test('keeps pictures, tips and palettes, gives them back as they were, and lets them go', async () => {
		const picture = packPicture({ width: 4, height: 2, data: new Uint8Array(32).map((_, i) => i * 7) });
		expect((await put('pic-1', 'stencil', 'Grate', picture)).status).toBe(200);
		expect((await put('tip-1', 'preset', 'My tip', encoded(defaultTip))).status).toBe(200);
		expect((await put('pal-1', 'palette', 'Tin', encoded(apiaryPalette))).status).toBe(200);
		expect(await list()).toEqual([
			{ id: 'pic-1', kind: 'stencil', name: 'Grate' },
			{ id: 'tip-1', kind: 'preset', name: 'My tip' },
			{ id: 'pal-1', kind: 'palette', name: 'Tin' },
		]);
		const back = new Uint8Array(await (await fetch(`${url}/api/library/pic-1`)).arrayBuffer());
		expect(Buffer.compare(Buffer.from(back), Buffer.from(picture))).toBe(0);
		expect(await (await fetch(`${url}/api/library/pal-1`)).json()).toEqual(apiaryPalette);
		expect((await put('pal-1', 'palette', 'Tin again', encoded({ ...apiaryPalette, name: 'Tin again' }))).status).toBe(
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
			expect((await put(`r-${i}`, 'recipe', name, encoded(steps))).status).toBe(200);
		expect((await list()).every((item) => item.kind === 'recipe')).toBe(true);
		expect(await (await fetch(`${url}/api/library/r-0`)).json()).toEqual(presets[0]?.steps);
		for (const wrong of [{}, [{ step: 'noise' }], [{ ...presets[0]?.steps[0], mix: 'dissolve' }]])
			expect((await put('r-bad', 'recipe', 'Bad', encoded(wrong))).status).toBe(400);
		for (const { id } of await list()) await fetch(`${url}/api/library/${id}`, { method: 'DELETE' });
	});

	test('answers what does not fit in words, and keeps nothing of it', async () => {
		const bad = [
			put('a', 'picture', 'A', encoded({})),
			put('a', 'stencil', 'A', new Uint8Array(50)),
			put('a', 'preset', 'A', encoded({ ...defaultTip, size: -1 })),
			put('a', 'preset', 'A', new TextEncoder().encode('{')),
			put('a', 'palette', 'A', encoded({ name: 'A', colors: ['red'] })),
			put('a', 'palette', ' ', encoded(apiaryPalette)),
			put('a b', 'palette', 'A', encoded(apiaryPalette)),
		];
		for (const answer of await Promise.all(bad)) {
			expect(answer.status).toBe(400);
			expect(((await answer.json()) as { text: string }).text.length).toBeGreaterThan(10);
		}
		expect(await list()).toEqual([]);
	});
});
