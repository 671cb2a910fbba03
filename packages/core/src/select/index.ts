export { changedSelection, type Joining, joined, type SelectionChange } from './change.ts';
export { type Clinging, clingFrom, edgeStrength } from './cling.ts';
export { outlinePath, type Repeat, repeatedPath, type Shape, shapePath } from './shape.ts';
export { similarTo, toneRange, withinTones } from './similar.ts';
export { texelCover } from './texelCover.ts';
