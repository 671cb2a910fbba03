export { giveFonts } from './font.ts';
export { type FontName, fontNames } from './names.ts';
export { type Text, textPath, textShape } from './text.ts';
