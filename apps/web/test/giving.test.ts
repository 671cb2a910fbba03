/** What the keeper makes of the server's answers, and how held work is sent to another address. */
import { apiaryPalette } from '@eppu/core/color';
import { type Project, paintLayer } from '@eppu/core/document';
import { type PackedTile, readPack, writePack } from '@eppu/core/format';
import { describe, expect, test } from '@jest/globals';
import type { Entry } from '../src/studio/journal.ts';
import { limitFor, readAnswer, readdressed } from '../src/workers/giving.ts';

describe('an answer is read as what it is', () => {
	test.each([
		[200, { revision: 4, name: 'Lantern' }, { done: 'given', revision: 4, name: 'Lantern' }],
		[409, { text: 'changed' }, { done: 'conflict' }],
		[400, { text: 'A tile does not fit.' }, { done: 'refused', why: 'A tile does not fit.' }],
		[
			413,
			{ text: 'That is more than the server takes in at once.' },
			{ done: 'refused', why: expect.stringContaining('more than') },
		],
		[404, null, { done: 'refused', why: 'The project was deleted elsewhere.' }],
		[401, null, { done: 'later', why: expect.stringContaining('token') }],
		[500, { text: 'failed' }, { done: 'later', why: expect.stringContaining('failed at it') }],
		[502, null, { done: 'later', why: expect.stringContaining('failed at it') }],
		[507, { text: 'full' }, { done: 'later', why: expect.stringContaining('disk of the server is full') }],
		// Something that answers for the server but is not it.
		[200, null, { done: 'later', why: expect.stringContaining('failed at it') }],
	])('%d', (status, answer, wanted) => {
		expect(readAnswer(status, answer, null)).toEqual(wanted);
	});
	test('a pause that is asked for is kept to, and never none', () => {
		expect(readAnswer(429, null, '7')).toMatchObject({ done: 'later', pause: 7000 });
		expect(readAnswer(429, null, 'soon')).toMatchObject({ done: 'later', pause: 5000 });
		expect(readAnswer(429, null, '0.001')).toMatchObject({ pause: 1000 });
	});
	test('no status is called away: only a network that brings no answer is', () => {
		for (let status = 100; status < 600; status++) {
			const given = readAnswer(status, null, null);
			expect('why' in given ? given.why : '').not.toMatch(/away/);
		}
	});
	test('more bytes have more time', async () => {
		expect(limitFor(0).aborted).toBe(false);
		expect(limitFor(1e9).aborted).toBe(false);
	});
});

describe('held work goes to another address', () => {
	const project: Project = {
		schema: 1,
		id: 'lamp',
		name: 'Lamp',
		palette: apiaryPalette,
		models: [],
		sheets: [
			{
				id: 's',
				name: 'S',
				width: 64,
				height: 64,
				bleed: 4,
				base: null,
				guide: null,
				layers: [paintLayer('l', 'Paint')],
			},
		],
	};
	const tile: PackedTile = { surface: 'l', index: 0, count: 1, value: 7, hash: null, blob: null };
	const entry: Entry = {
		project: 'lamp',
		order: 3,
		base: 9,
		save: 'save-0001',
		strokes: 2,
		name: 'Lamp',
		pack: writePack({ head: { project, save: 'save-0001' }, tiles: [tile] }),
	};
	test('with the same save and tiles, under the new id and name', () => {
		const moved = readdressed(entry, { id: 'here-1', name: 'Lamp (painted here)' }, 1);
		expect(moved).toMatchObject({
			project: 'here-1',
			base: 1,
			save: 'save-0001',
			strokes: 2,
			name: 'Lamp (painted here)',
		});
		const { head, tiles } = readPack<{ project: Project; save: string }>(moved.pack);
		expect(head).toEqual({ project: { ...project, id: 'here-1', name: 'Lamp (painted here)' }, save: 'save-0001' });
		expect(tiles).toEqual([tile]);
	});
	test('twice the same bytes, so that the server knows the repeat', () => {
		const to = { id: 'here-1', name: 'Lamp (painted here)' };
		expect(Buffer.compare(readdressed(entry, to, 1).pack, readdressed(entry, to, 1).pack)).toBe(0);
	});
});
