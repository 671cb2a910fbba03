/** The Hand off stage as it is drawn: bays that show what is chosen, and only what that obeys. */
import './browser.ts';
import './page.ts';
import { usualOrder } from '@eppu/core/handoff';
import { expect, test } from '@jest/globals';
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import type { ReactNode } from 'react';
import { renderToStaticMarkup } from 'react-dom/server';
import { deliver, handedOff, kilobytes } from '../src/actions/handoff.ts';
import { outputs } from '../src/screens/handoff/outputs.ts';
import { FileBay, NameBay, SizeBay, SourceBay } from '../src/screens/handoff/TextureBays.tsx';
import { useStudio } from '../src/studio/store.ts';

const drawn = (node: ReactNode): string =>
	renderToStaticMarkup(<QueryClientProvider client={new QueryClient()}>{node}</QueryClientProvider>);
const put = (): void => undefined;

test('outputs have names of their own, each with a panel', () => {
	expect(new Set(outputs.map(({ kind }) => kind)).size).toBe(outputs.length);
	for (const { name, words, Panel } of outputs)
		expect([name.length > 2, words.length > 5, typeof Panel]).toEqual([true, true, 'function']);
});

test('a file without alpha asks what lies under clear texels; one with it whether colours are multiplied', () => {
	const opaque = drawn(<FileBay order={{ ...usualOrder, channels: 'rgb' }} put={put} />);
	expect(opaque).toContain('Under clear texels');
	expect(opaque).not.toContain('Colours times alpha');
	const clear = drawn(<FileBay order={usualOrder} put={put} />);
	expect(clear).toContain('Colours times alpha');
	expect(clear).not.toContain('Quality');
	expect(drawn(<FileBay order={{ ...usualOrder, file: 'webp' }} put={put} />)).toContain('Every texel as it is');
	expect(drawn(<FileBay order={{ ...usualOrder, file: 'webp', quality: 60 }} put={put} />)).toContain(
		'aria-label="Quality"',
	);
});

test('sizes that are chosen are pressed, also those that nobody offers; bleed asks how far only where it is by texels', () => {
	const sizes = drawn(<SizeBay order={{ ...usualOrder, sizes: [0, 300, 128] }} put={put} />);
	expect([...sizes.matchAll(/aria-pressed="true"[^>]*>([^<]+)</g)].map(([, words]) => words)).toEqual([
		'Its own',
		'128',
		'300',
	]);
	expect(sizes).not.toContain('aria-label="Texels"');
	expect(drawn(<SizeBay order={{ ...usualOrder, bleed: 16 }} put={put} />)).toContain('aria-label="Texels"');
});

test('names show what the first file will be called, or why there is none', () => {
	const file = { sheet: 's', part: '', width: 8, height: 8, path: 'lid_8.png' };
	expect(drawn(<NameBay order={usualOrder} put={put} files={[file]} />)).toContain('Such as lid_8.png');
	expect(drawn(<NameBay order={{ ...usualOrder, pattern: '{lid}' }} put={put} files={[]} />)).toContain(
		'There is no {lid}',
	);
	expect(drawn(<SourceBay order={usualOrder} put={put} sheets={1} only="all" setOnly={put} />)).not.toContain(
		'This sheet',
	);
	expect(drawn(<SourceBay order={usualOrder} put={put} sheets={2} only="all" setOnly={put} />)).toContain('This sheet');
});

test('sizes of files are said so that they can be told apart', () => {
	expect([kilobytes(10), kilobytes(999_499), kilobytes(1_250_000)]).toEqual(['1 KB', '999 KB', '1.3 MB']);
	expect(deliver([], 'x', 'y')).toBe('Nothing was written.');
	expect(handedOff('nobody')).toEqual([]);
	localStorage.setItem('eppu-handed-off hurt', '{no json');
	expect(handedOff('hurt')).toEqual([]);
	expect(useStudio.getState().exchange).toBeNull();
});
