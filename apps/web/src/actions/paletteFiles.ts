import type { Palette } from '@eppu/core/color';
import { encodePng, hexList, palettePicture, paletteTokens } from '@eppu/core/format';
import type { NamedFile } from '@eppu/core/mesh';

/** What palettes are written as, and what each is called. */
export const paletteKinds = [
	['json', 'Tokens'],
	['txt', 'Hex list'],
	['png', 'PNG strip'],
] as const;
export type PaletteKind = (typeof paletteKinds)[number][0];

/** A palette as a file: design tokens with its ramps, a list of hex colours, or a strip that any program can sample. */
export async function paletteFile(palette: Palette, as: PaletteKind): Promise<NamedFile> {
	const stem = palette.name.toLowerCase().replace(/[^a-z0-9]+/g, '-') || 'palette';
	const text = (words: string): Uint8Array<ArrayBuffer> => new TextEncoder().encode(words);
	// The writer comes when it is wanted, and not with the page.
	const strip = async (): Promise<Uint8Array<ArrayBuffer>> =>
		encodePng(await (await import('../server/codecs.ts')).codecs.png(), palettePicture(palette));
	const bytes = as === 'json' ? text(paletteTokens(palette)) : as === 'txt' ? text(hexList(palette)) : await strip();
	return [`${stem}.${as}`, bytes];
}
