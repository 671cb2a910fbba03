/** The fonts that ship, all under the SIL Open Font License; scripts/fonts.mjs says which files they are. */
export const fontNames = [
	{ name: 'signboard', label: 'Signboard' },
	{ name: 'brush', label: 'Brush hand' },
	{ name: 'inscription', label: 'Inscription' },
	{ name: 'crate', label: 'Crate stencil' },
	{ name: 'pixel', label: 'Pixel grid' },
] as const;
export type FontName = (typeof fontNames)[number]['name'];
/** The JSON of each shipped font. */
export type FontTexts = Readonly<Record<FontName, string>>;
