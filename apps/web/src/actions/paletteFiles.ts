import type { Palette } from '@eppu/core/color';
import { type PaletteKind, paletteBytes, paletteName } from '@eppu/core/format';
import type { NamedFile } from '@eppu/core/mesh';

export type { PaletteKind };

/** What palettes are written as, and what each is called. */
export const paletteKinds: readonly (readonly [PaletteKind, string])[] = [
	['json', 'Tokens'],
	['txt', 'Hex list'],
	['png', 'PNG strip'],
];

/** A palette as a file. */
export async function paletteFile(palette: Palette, as: PaletteKind): Promise<NamedFile> {
	// The writer comes when it is wanted, and not with the page.
	const { codecs } = await import('../server/codecs.ts');
	return [paletteName(palette, as), paletteBytes(palette, as, await codecs.png())];
}
