import { existsSync, readdirSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { emptyDesk, type Project, paintLayer } from '@eppu/core/document';
import { encodePng, type PackedTile, readPack, writePack } from '@eppu/core/format';
import { loadPngWriter } from '@eppu/kernels/node';
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import LibSql from 'libsql';
import { openSourceStore, sha256 } from '../src/store/index.ts';
import { json, newSave, projectOf, type Served, serve, texels, text, told, values } from './fixture.ts';

let here: Served;
beforeAll(async () => {
	here = await serve();
});
afterAll(() => here.close());
/** The long run: npm run test:long. */
const [CLIENTS, SAVES] = process.env.LONG ? [50, 100] : [20, 10];
const DAY = 24 * 3600 * 1000;
const placesOf = async (id: string): Promise<string[]> => (await here.load(id)).tiles.map(told).sort();

describe('keeping', () => {
	test('document and tiles come back as they were kept, revision after revision', async () => {
		const project = await here.made();
		const tile = texels(1);
		const next = { ...project, palette: { name: 'Dusk', colors: ['#112233'] } };
		expect((await here.save(next, 2, [tile, values(3, 0xff00ff00)])).status).toBe(200);
		const back = await here.load(project.id);
		expect(back.head).toMatchObject({ revision: 2, project: { palette: { name: 'Dusk' } } });
		expect(back.tiles.map(told).sort()).toEqual([told(tile), told(values(3, 0xff00ff00))].sort());
		expect(Buffer.compare(back.tiles.find((each) => each.blob)?.blob as Uint8Array, tile.blob as Uint8Array)).toBe(0);
		await here.save(project, 3, [values(tile.index, 0)]);
		expect(await placesOf(project.id)).toEqual([told(values(3, 0xff00ff00))]);
	});

	test('a value for a whole surface is one row, and tiles of it may be empty or other', async () => {
		const project = await here.made();
		await here.save(project, 2, [texels(1)]);
		await here.save(project, 3, [values(0, 0xff112233, 4)]);
		expect((await here.load(project.id)).tiles).toEqual([values(0, 0xff112233, 4)]);
		await here.save(project, 4, [values(2, 0), texels(3)]);
		expect(await placesOf(project.id)).toEqual(
			[told(values(0, 0xff112233)), told(values(2, 0)), told(texels(3))].sort(),
		);
		await here.save(project, 5, [values(0, 0, 4)]);
		expect(await placesOf(project.id)).toEqual([]);
	});

	test('texels come as they are to who asks so from this machine, and packed to all others', async () => {
		const project = await here.made();
		const list = [texels(1), texels(2), values(3, 77)];
		expect((await here.save(project, 2, list)).status).toBe(200);
		const ask = async (query: string, headers: Record<string, string> = {}) =>
			readPack(
				new Uint8Array(
					await (await fetch(`${here.url}/api/projects/${project.id}${query}`, { headers })).arrayBuffer(),
				),
			).tiles;
		const whole = await ask('?texels=bare');
		expect(whole.map(told)).toEqual(list.map(told));
		expect(whole.map(({ blob, bare }) => (bare ? sha256(blob as Uint8Array) : null))).toEqual(
			list.map(({ hash }) => hash),
		);
		const far = [await ask(''), await ask('?texels=bare', { 'X-Forwarded-For': '10.0.0.7' })];
		for (const tiles of far) {
			expect(tiles.map(told)).toEqual(list.map(told));
			expect(tiles.some(({ bare }) => bare)).toBe(false);
		}
		// One that is damaged on the disk goes as it is kept: the rest is here, and whoever opens it says so.
		const file = new LibSql(here.file);
		file.prepare('update blob set bytes = ? where hash = ?').run(Buffer.of(7, 7, 7), list[1]?.hash);
		file.close();
		const damaged = await ask('?texels=bare');
		expect(damaged.map(({ bare, blob }) => (blob ? [bare ?? false, blob.length] : null))).toEqual([
			[true, 16384],
			[false, 3],
			null,
		]);
		// What is kept is packed: nothing comes in otherwise.
		const sent = await here.save(project, 3, [{ ...(whole[0] as PackedTile), index: 2 }]);
		expect([sent.status, await text(sent)]).toEqual([400, expect.stringMatching(/is not packed/)]);
	});
	test('of a project that was never open, or whose desk is none, there is nothing to draw ahead', async () => {
		const project = await here.made();
		const head = async (): Promise<unknown> => (await fetch(`${here.url}/api/projects/${project.id}/head`)).json();
		expect(await head()).toBeNull();
		expect((await fetch(`${here.url}/api/projects/nobody/head`)).status).toBe(404);
	});
	test('desk and cover are kept beside it', async () => {
		const project = await here.made();
		const desk = { ...emptyDesk, sheet: 's', front: '#123456' };
		expect((await fetch(`${here.url}/api/projects/${project.id}/desk`, json('PUT', desk))).status).toBe(200);
		expect((await here.load(project.id)).head.desk).toEqual(desk);
		const head = await fetch(`${here.url}/api/projects/${project.id}/head`);
		expect(await head.json()).toEqual({ project: (await here.load(project.id)).head.project, desk });
		const cover = encodePng(await loadPngWriter(), {
			width: 2,
			height: 1,
			data: Uint8Array.of(1, 2, 3, 255, 4, 5, 6, 255),
		});
		const at = `${here.url}/api/projects/${project.id}/cover`;
		await fetch(at, { method: 'PUT', headers: { 'Content-Type': 'image/png' }, body: cover });
		expect(new Uint8Array(await (await fetch(at)).arrayBuffer())).toEqual(new Uint8Array(cover));
	});

	test('a copy shares nothing that changes; deleting has a way back', async () => {
		const project = await here.made();
		await here.save(project, 2, [texels(2)]);
		const at = `${here.url}/api/projects/${project.id}`;
		expect((await fetch(`${at}/copy`, json('POST', { id: 'copy-1', name: 'Twin' }))).status).toBe(201);
		await here.save({ ...project, id: 'copy-1', name: 'Twin' }, 2, [values(2, 0)]);
		expect((await here.load(project.id)).tiles).toHaveLength(1);
		expect((await here.load('copy-1')).tiles).toHaveLength(0);
		expect((await fetch(`${at}/files/${project.models[0]?.asset.hash}`)).status).toBe(200);
		await fetch(at, { method: 'DELETE' });
		expect((await fetch(at)).status).toBe(404);
		await fetch(`${at}/restore`, { method: 'POST' });
		expect((await here.load(project.id)).tiles).toHaveLength(1);
	});

	test('many clients save at once: every one is kept', async () => {
		const clients = await Promise.all(Array.from({ length: CLIENTS }, () => here.made()));
		const times: number[] = [];
		const statuses = await Promise.all(
			clients.map(async (project, client) => {
				const got: number[] = [];
				for (let i = 0; i < SAVES; i++) {
					const headers = {
						'Content-Type': 'application/octet-stream',
						Cookie: `eppu_session=session-of-client-${client}`,
					};
					const from = performance.now();
					const answer = await fetch(`${here.url}/api/projects/${project.id}/revisions/${i + 2}`, {
						method: 'PUT',
						headers,
						body: writePack({ head: { project, save: newSave() }, tiles: [texels(client * SAVES + i)] }),
					});
					got.push(answer.status);
					await answer.arrayBuffer();
					times.push(performance.now() - from);
				}
				return got;
			}),
		);
		times.sort((a, b) => a - b);
		const at = (share: number): number => times[Math.floor(times.length * share)] as number;
		if (process.env.LONG)
			console.log(
				`saves: p50 ${at(0.5).toFixed(0)} ms, p99 ${at(0.99).toFixed(0)} ms, ratio ${(at(0.99) / at(0.5)).toFixed(2)}`,
			);
		expect(statuses.flat().filter((status) => status !== 200)).toEqual([]);
		for (const project of clients) expect((await here.load(project.id)).head.revision).toBe(SAVES + 1);
	});
});

describe('two hands on one project', () => {
	test('the same save again is answered the same; another over the same revision is a conflict, never dropped', async () => {
		for (let round = 0; round < 20; round++) {
			const project = await here.made();
			const [one, other] = [newSave(), newSave()];
			const answers = await Promise.all([
				here.save(project, 2, [texels(1)], one),
				here.save(project, 2, [texels(2)], other),
			]);
			expect(answers.map((answer) => answer.status).sort()).toEqual([200, 409]);
			const won = answers[0]?.status === 200;
			expect(await placesOf(project.id)).toEqual([told(texels(won ? 1 : 2))]);
			const again = await here.save(project, 2, [texels(won ? 1 : 2)], won ? one : other);
			expect([again.status, await again.json()]).toEqual([200, { revision: 2, name: 'Lantern' }]);
			// The same name for something else is no repeat.
			expect((await here.save(project, 2, [texels(3)], won ? one : other)).status).toBe(409);
		}
	});
	test('a repeat is known also when others were kept after it', async () => {
		const project = await here.made();
		const save = newSave();
		await here.save(project, 2, [texels(1)], save);
		await here.save(project, 3, [texels(2)]);
		const again = await here.save(project, 2, [texels(1)], save);
		expect([again.status, ((await again.json()) as { revision: number }).revision]).toEqual([200, 2]);
		expect((await here.save(project, 9)).status).toBe(409);
	});
	test('the copy of the later side is of the revision that it went out from, and making it twice makes one', async () => {
		const project = await here.made();
		await here.save(project, 2, [texels(1), values(2, 9)]);
		const renamed = { ...project, palette: { name: 'Later', colors: [] } };
		await here.save(renamed, 3, [texels(3), values(2, 0), values(0, 0xff000001)]);
		await here.save(renamed, 4, [values(0, 0, 4)]);
		const copy = (name = 'Lantern (painted here)', revision = 2) =>
			fetch(`${here.url}/api/projects/${project.id}/copy`, json('POST', { id: `${project.id}-here`, name, revision }));
		expect(await (await copy()).json()).toEqual({ id: `${project.id}-here`, exact: true });
		expect((await copy()).status).toBe(201);
		expect((await copy('Another', 3)).status).toBe(409);
		const back = await here.load(`${project.id}-here`);
		expect(back.tiles.map(told).sort()).toEqual([told(texels(1)), told(values(2, 9))].sort());
		expect(back.head).toMatchObject({
			revision: 1,
			project: { name: 'Lantern (painted here)', palette: project.palette },
		});
		expect(await placesOf(project.id)).toEqual([]);
	});
	test('a new name from elsewhere is no other hand: the next save is kept under it', async () => {
		const project = await here.made();
		await fetch(`${here.url}/api/projects/${project.id}`, json('PATCH', { name: 'Storm lantern' }));
		const answer = await here.save(project, 2, [texels(1)]);
		expect([answer.status, await answer.json()]).toEqual([200, { revision: 2, name: 'Storm lantern' }]);
		expect((await here.load(project.id)).head.project.name).toBe('Storm lantern');
	});
});

describe('computed pictures', () => {
	test('are given under their names, and what was used longest ago goes first where there are too many', async () => {
		const file = join(dirname(here.file), 'made.db');
		const { made, close } = openSourceStore(file);
		const bytes = (value: number): Uint8Array => new Uint8Array(100).fill(value);
		['a', 'b', 'c'].forEach((name, i) => {
			made.put(name, bytes(i), i);
		});
		expect(made.get('b', 3)?.equals(bytes(1))).toBe(true);
		expect(made.get('nobody')).toBeNull();
		// Used again after more than a day, it is among the latest.
		expect(made.get('a', 2 * DAY)?.equals(bytes(0))).toBe(true);
		made.put('d', bytes(3), 2 * DAY + 1, 300);
		expect(['a', 'b', 'c', 'd'].filter((name) => made.has(name))).toEqual(['a', 'c', 'd']);
		close();
	});

	test('are served as they are, and what is not there is no error', async () => {
		here.store.made.put('name', new Uint8Array([1, 2, 3]));
		const there = await fetch(`${here.url}/api/made/name`);
		expect([there.status, [...new Uint8Array(await there.arrayBuffer())]]).toEqual([200, [1, 2, 3]]);
		expect((await fetch(`${here.url}/api/made/other`)).status).toBe(204);
	});
});

describe('sweeping', () => {
	test('lets go of what was deleted long ago and of texels that nothing names, and of nothing else', async () => {
		const [gone, stays] = [await here.made(), await here.made()];
		await here.save(gone, 2, [texels(40005)]);
		await here.save(stays, 2, [texels(40006)]);
		await here.save(stays, 3, [values(2, 0), texels(40007)]);
		here.store.remove(gone.id);
		here.store.sweep(Date.now() + 31 * DAY);
		expect(() => here.store.restore(gone.id)).toThrow(/no such project/);
		expect(await placesOf(stays.id)).toEqual([told(texels(40007))]);
		const db = new LibSql(here.file, { readonly: true });
		const held = db
			.prepare('select count(*) as n from blob where hash in (?, ?)')
			.get(texels(40005).hash, texels(40006).hash);
		expect(held).toMatchObject({ n: 0 });
	});
	test('what a deleted layer held stays for days, since undo may bring it back without its texels', async () => {
		const project = await here.made();
		await here.save(project, 2, [texels(1)]);
		const without: Project = {
			...project,
			sheets: project.sheets.map((sheet) => ({ ...sheet, layers: [paintLayer('other', 'Other')] })),
		};
		await here.save(without, 3);
		here.store.sweep(Date.now() + 3 * DAY);
		await here.save(project, 4);
		expect(await placesOf(project.id)).toEqual([told(texels(1))]);
		await here.save(without, 5);
		here.store.sweep(Date.now() + 20 * DAY);
		await here.save(project, 6);
		expect(await placesOf(project.id)).toEqual([]);
	});
});

describe('the file', () => {
	test('a full disk is told as one, and keeps what was kept', async () => {
		const full = await serve();
		const project = await full.made();
		await full.save(project, 2, [texels(1)]);
		full.store.limitTo(160 * 1024);
		let refused: Response | undefined;
		for (let i = 0; i < 400 && !refused; i++) {
			const layers = Array.from({ length: 40 }, (_, k) => paintLayer(`l${k}-${i}`, 'x'.repeat(100)));
			const grown = {
				...project,
				sheets: project.sheets.map((sheet) => ({ ...sheet, layers: [...sheet.layers, ...layers] })),
			};
			const answer = await full.save(grown, i + 3);
			if (answer.status !== 200) refused = answer;
		}
		expect(refused?.status).toBe(507);
		expect(await text(refused as Response)).toMatch(/^The disk is full/);
		expect((await full.load(project.id)).tiles.map(told)).toEqual([told(texels(1))]);
		full.store.limitTo(1e9);
		const { revision } = (await full.load(project.id)).head;
		expect((await full.save(project, revision + 1, [texels(2)])).status).toBe(200);
		full.close();
	});
	test('is copied before it is migrated, and its checks find it whole', async () => {
		const one = await serve();
		await one.made();
		expect(one.store.problems()).toEqual([]);
		one.close();
		const db = new LibSql(one.file);
		// As it stood before the third migration.
		db.exec(
			'delete from __drizzle_migrations where created_at >= (select created_at from __drizzle_migrations order by created_at limit 1 offset 2)',
		);
		db.exec(
			'drop table saving; drop table exchange; drop table made; drop table past_tile; drop table revision; alter table project drop column origin',
		);
		const again = openSourceStore(one.file);
		expect(again.list()).toHaveLength(1);
		expect(readdirSync(join(dirname(one.file), 'before-migrations'))).toContain('test.db.before-3');
		expect(existsSync(one.file)).toBe(true);
		again.close();
	});
	test('what was out at another editor before its bytes stood apart goes on', async () => {
		const old = await serve();
		const project = projectOf();
		await old.create(project);
		old.close();
		const db = new LibSql(old.file);
		db.exec('delete from __drizzle_migrations where created_at = (select max(created_at) from __drizzle_migrations)');
		db.exec(
			'drop table exchange; create table exchange (id text primary key not null, project text not null, what text not null, file text not null, sent blob not null, agreed blob not null, seen text not null, at integer not null)',
		);
		const put = db.prepare('insert into exchange values (?, ?, ?, ?, ?, ?, ?, ?)');
		put.run('fresh', project.id, '{}', 'a.png', Buffer.from('sent a'), Buffer.from('sent a'), 'sum', 1);
		put.run('taken', project.id, '{}', 'b.png', Buffer.from('sent b'), Buffer.from('agreed b'), 'sum', 2);
		db.prepare('insert into saving values (?, ?, ?, ?)').run('taken', 1_800_000_000_000, Buffer.from('waits'), 3);
		const { exchanges, close } = openSourceStore(old.file);
		expect(exchanges.list(project.id).map(({ id, file }) => [id, file])).toEqual([
			['fresh', 'a.png'],
			['taken', 'b.png'],
		]);
		const told = (id: string) => [exchanges.sent(id), exchanges.agreed(id)].map(String);
		expect(told('fresh')).toEqual(['sent a', 'sent a']);
		expect(told('taken')).toEqual(['sent b', 'agreed b']);
		expect([exchanges.waiting('fresh'), exchanges.waiting('taken')]).toEqual([[], [1_800_000_000_000]]);
		exchanges.taken('taken', 1_800_000_000_000);
		expect(told('taken')).toEqual(['sent b', 'waits']);
		close();
	});
	test('projects kept before revisions were noted go on', async () => {
		const old = await serve();
		const project = projectOf();
		await old.create(project);
		const db = new LibSql(old.file);
		db.exec('delete from revision');
		expect((await old.save(project, 2, [texels(1)])).status).toBe(200);
		old.close();
	});
});
