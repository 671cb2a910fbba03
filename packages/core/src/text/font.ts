import { shipped } from '#fonts';
import type { FontName, FontTexts } from './names.ts';

/** Units along an em. */
export const EM = 1000;

interface Outlines {
	readonly ascent: number;
	readonly descent: number;
	/** Advance, and outline as path commands, y upwards. */
	readonly glyphs: Readonly<Record<string, readonly [number, string]>>;
	readonly kern: Readonly<Record<string, number>>;
}

/** A letter's closed lines in units of the font, y downwards from the baseline, and how far it moves on. */
export interface Glyph {
	readonly advance: number;
	readonly lines: readonly (readonly number[])[];
}

export interface Font {
	readonly ascent: number;
	readonly descent: number;
	glyph(letter: string): Glyph;
	kern(pair: string): number;
}

const known = new Map<FontName, Font>();
/** Straight pieces of a curve: fine enough for letters of 500 texels. */
const PIECES = 8;

function linesOf(path: string): number[][] {
	const lines: number[][] = [];
	let line: number[] = [];
	let [x, y] = [0, 0];
	for (const [, code, rest] of path.matchAll(/([MLQCZ])([^MLQCZ]*)/g)) {
		const n = (rest ?? '').trim().split(' ').map(Number);
		const at = (i: number): number => n[i] as number;
		if (code === 'M') {
			line = [];
			lines.push(line);
			[x, y] = [at(0), at(1)];
			line.push(x, -y);
		} else if (code === 'L') {
			[x, y] = [at(0), at(1)];
			line.push(x, -y);
		} else if (code === 'Q' || code === 'C') {
			const [ex, ey] = code === 'Q' ? [at(2), at(3)] : [at(4), at(5)];
			for (let k = 1; k <= PIECES; k++) {
				const t = k / PIECES;
				const s = 1 - t;
				if (code === 'Q')
					line.push(s * s * x + 2 * s * t * at(0) + t * t * ex, -(s * s * y + 2 * s * t * at(1) + t * t * ey));
				else
					line.push(
						s ** 3 * x + 3 * s * s * t * at(0) + 3 * s * t * t * at(2) + t ** 3 * ex,
						-(s ** 3 * y + 3 * s * s * t * at(1) + 3 * s * t * t * at(3) + t ** 3 * ey),
					);
			}
			[x, y] = [ex, ey];
		}
	}
	return lines.filter((each) => each.length >= 6);
}

let texts = shipped;
/** What was given and is not read yet. */
let given: Uint8Array | null = null;

/** Gives the shipped fonts where there are no files at hand: the file that scripts/fonts.mjs makes. */
export function giveFonts(file: Uint8Array): void {
	given = file;
}

function textOf(name: FontName): string {
	if (given) {
		// A decoder reads no shared memory.
		texts = JSON.parse(new TextDecoder().decode(given.slice())) as FontTexts;
		given = null;
	}
	if (!texts) throw new Error('The shipped fonts were not given.');
	return texts[name];
}

/** A shipped font; letters it has not show as its question mark. */
export function fontOf(name: FontName): Font {
	const found = known.get(name);
	if (found) return found;
	const outlines = JSON.parse(textOf(name)) as Outlines;
	const glyphs = new Map<string, Glyph>();
	const font: Font = {
		ascent: outlines.ascent,
		descent: outlines.descent,
		kern: (pair) => outlines.kern[pair] ?? 0,
		glyph(letter) {
			let glyph = glyphs.get(letter);
			if (!glyph) {
				const [advance, path] = outlines.glyphs[letter] ?? outlines.glyphs['?'] ?? [EM / 2, ''];
				glyphs.set(letter, (glyph = { advance, lines: linesOf(path) }));
			}
			return glyph;
		},
	};
	known.set(name, font);
	return font;
}
