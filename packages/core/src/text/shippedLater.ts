import type { FontTexts } from './names.ts';

/** A browser has no files at hand: who begins there gives the shipped fonts. */
export const shipped: FontTexts | null = null;
