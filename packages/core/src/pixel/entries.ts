import type { Hex, Palette } from '../color/index.ts';
import { type Packed, packedOf } from './colors.ts';

/** What an entry of a palette is called for good, 1..2^24-1, wherever it stands and whatever its colour becomes. */
export type EntryNumber = number;

/** A palette's colours with the numbers of its entries. */
export interface Entries {
	readonly colors: readonly Hex[];
	readonly numbers: readonly EntryNumber[];
}

/** The entries of a palette: numbered from 1 by their places where nothing that fits it says otherwise. */
export const entriesOf = ({ colors }: Pick<Palette, 'colors'>, numbers?: readonly EntryNumber[]): Entries => ({
	colors,
	numbers: numbers?.length === colors.length ? numbers : colors.map((_, i) => i + 1),
});

/**
 * The numbers of a palette that takes the place of another: an entry keeps its own by its colour, one at the same place
 * first; those that are new get numbers that were never given in the palette before.
 */
export function renumbered({ colors, numbers }: Entries, next: readonly Hex[]): EntryNumber[] {
	const free = new Set(numbers.keys());
	const out = next.map((hex, i) => (colors[i] === hex && free.delete(i) ? (numbers[i] as EntryNumber) : 0));
	let fresh = Math.max(0, ...numbers);
	return out.map((number, i) => {
		if (number) return number;
		const at = [...free].find((each) => colors[each] === next[i]);
		if (at === undefined) return ++fresh;
		free.delete(at);
		return numbers[at] as EntryNumber;
	});
}

/** Colours by number, and the first number of each colour. */
function tables({ colors, numbers }: Entries) {
	const color = new Map<EntryNumber, Packed>();
	const number = new Map<Packed, EntryNumber>();
	colors.forEach((hex, i) => {
		const own = numbers[i] as EntryNumber;
		color.set(own, packedOf(hex));
		if (!number.has(packedOf(hex))) number.set(packedOf(hex), own);
	});
	return { color, number };
}

/** The entry that a texel points at: the one that its pointer names while that has its colour, else the first that has it; 0 for none. */
const meant = ({ color, number }: ReturnType<typeof tables>, texel: Packed, pointer: EntryNumber): EntryNumber =>
	color.get(pointer) === texel ? pointer : (number.get(texel) ?? 0);

const SOLID = 0xff000000;

/**
 * Texels (RGBA8 words, r lowest) that point at the entries of a palette, and their pointers (words of the same kind: the
 * number with a solid alpha, 0 for none), after another took its place. A texel whose colour is among `pairs` becomes what
 * those say; another has the colour that its entry has now, and keeps its own where its entry is gone. Alpha stays.
 */
export function followEntries(
	{ texels, pointers }: { readonly texels: Uint32Array; readonly pointers: Uint32Array },
	before: Entries,
	after: Entries,
	pairs: readonly (readonly [from: Hex, to: Hex])[] = [],
): { readonly texels: Uint32Array; readonly pointers: Uint32Array } {
	const [was, now] = [tables(before), tables(after)];
	const to = new Map<Packed, Packed>(pairs.map(([from, next]) => [packedOf(from), packedOf(next)]));
	const out = { texels: texels.slice(), pointers: new Uint32Array(pointers.length) };
	for (let i = 0; i < texels.length; i++) {
		const word = texels[i] as number;
		if (word >>> 24 === 0) continue;
		const color = word & 0xffffff;
		const entry = meant(was, color, (pointers[i] as number) & 0xffffff);
		const next = to.get(color) ?? now.color.get(entry) ?? color;
		const pointer = meant(now, next, entry);
		out.texels[i] = ((word & SOLID) | next) >>> 0;
		out.pointers[i] = pointer ? (pointer | SOLID) >>> 0 : 0;
	}
	return out;
}

/** How many texels point at each entry, in the order of the palette. */
export function entryUses(
	{ texels, pointers }: { readonly texels: Uint32Array; readonly pointers: Uint32Array },
	entries: Entries,
): number[] {
	const known = tables(entries);
	const counts = new Map<EntryNumber, number>();
	for (let i = 0; i < texels.length; i++) {
		const word = texels[i] as number;
		if (word >>> 24 === 0) continue;
		const entry = meant(known, word & 0xffffff, (pointers[i] as number) & 0xffffff);
		counts.set(entry, (counts.get(entry) ?? 0) + 1);
	}
	return entries.numbers.map((number) => counts.get(number) ?? 0);
}
