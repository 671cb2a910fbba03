// Writes the outlines of the shipped fonts (all under the SIL Open Font License) as one file: the studio, the command line
// and the server set the same letters.
import { mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';

export const fonts = 'packages/core/src/text/gen/fonts.json';
export const shipped = [
	{ name: 'signboard', folder: 'rye', weight: 400 },
	{ name: 'brush', folder: 'caveat-brush', weight: 400 },
	{ name: 'inscription', folder: 'alegreya-sc', weight: 700 },
	{ name: 'crate', folder: 'stardos-stencil', weight: 700 },
	{ name: 'pixel', folder: 'pixelify-sans', weight: 500 },
];

const EM = 1000;
const kerned = [..."ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789.,-'"];

export async function makeFonts(root) {
	const {
		default: { parse },
	} = await import('opentype.js');
	const made = shipped.map(({ name, folder, weight }) => {
		const file = join(root, `node_modules/@fontsource/${folder}/files/${folder}-latin-${weight}-normal.woff`);
		const bytes = readFileSync(file);
		const font = parse(bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.length));
		const scale = EM / font.unitsPerEm;
		const n = (v) => Math.round(v * scale);
		const glyphs = {};
		for (let code = 32; code < 0x2100; code++) {
			const letter = String.fromCharCode(code);
			if (!font.charToGlyphIndex(letter)) continue;
			const glyph = font.charToGlyph(letter);
			const path = glyph.path.commands
				.map((c) =>
					c.type === 'Z'
						? 'Z'
						: c.type +
							[c.x1, c.y1, c.x2, c.y2, c.x, c.y]
								.filter((v) => v !== undefined)
								.map(n)
								.join(' '),
				)
				.join('');
			glyphs[letter] = [n(glyph.advanceWidth ?? 0), path];
		}
		const kern = {};
		for (const a of kerned)
			for (const b of kerned) {
				const by = n(font.getKerningValue(font.charToGlyph(a), font.charToGlyph(b)));
				if (by) kern[a + b] = by;
			}
		return [name, JSON.stringify({ ascent: n(font.ascender), descent: n(-font.descender), glyphs, kern })];
	});
	mkdirSync(dirname(join(root, fonts)), { recursive: true });
	// Each as the text of its JSON: read when the font is first asked for, not by everything that starts.
	writeFileSync(join(root, fonts), JSON.stringify(Object.fromEntries(made)));
}
