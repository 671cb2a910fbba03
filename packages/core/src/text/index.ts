export { type FontName, fontNames } from './names.ts';
export { type Text, textPath } from './text.ts';
