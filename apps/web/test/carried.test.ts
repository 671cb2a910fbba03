/** What the artist is told of paint that went along with a layout. */
import type { CarriedSheet } from '@eppu/core/engine';
import { expect, test } from '@jest/globals';
import { carriedWords } from '../src/studio/carried.ts';

const nothing = { exact: 0, kept: 0, enlarged: 0, shrunk: 0, bare: 0 };
const sheets = [{ id: 's', name: 'Can' }];
const sheet = (change: Partial<CarriedSheet>): CarriedSheet => ({
	sheet: 's',
	...nothing,
	parts: [],
	lost: [],
	...change,
});

test('shares and the parts that have most of it, the largest first; a hundredth is not worth a word', () => {
	const parts = [
		{ ...nothing, name: 'Lid', enlarged: 100 },
		{ ...nothing, name: 'Body', enlarged: 290 },
		{ ...nothing, name: 'Screw', enlarged: 10 },
	];
	expect(carriedWords([sheet({ kept: 590, enlarged: 400, shrunk: 10, parts })], sheets)).toEqual({
		went: 'The paint went along: 40% of it was made larger and is softer (Body, Lid).',
		lost: '',
	});
	const many = Array.from({ length: 7 }, (_, i) => ({ ...nothing, name: `P${i}`, shrunk: 100 - i, bare: 100 }));
	expect(carriedWords([sheet({ exact: 1000, shrunk: 700, bare: 300, parts: many })], sheets).went).toBe(
		'The paint went along: 35% of it was made smaller (P0, P1, P2, P3 and 3 more), 15% of it is new and bare (P0, P1, P2, P3 and 3 more).',
	);
});

test('nothing to say, all as it was, and paint that is gone with its place', () => {
	expect(carriedWords([], sheets)).toEqual({ went: '', lost: '' });
	const lost = [{ layer: 'Soot', texels: 1, at: { x: 10, y: 20, width: 5, height: 1 } }];
	const told = carriedWords([sheet({ exact: 50, lost })], sheets);
	expect(told.went).toBe('The paint went along, as it was.');
	expect(told.lost).toContain('1 texel of "Soot" (around 13, 21 of "Can" as it lay)');
});
