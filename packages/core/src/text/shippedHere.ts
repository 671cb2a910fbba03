import fonts from './gen/fonts.json' with { type: 'json' };
import type { FontTexts } from './names.ts';

/** The shipped fonts, where files are at hand. */
export const shipped: FontTexts | null = fonts;
