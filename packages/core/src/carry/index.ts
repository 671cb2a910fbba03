export { type Carried, carrySurface, countOf, type Lying, ownersOf, type Passage, passageOf } from './carry.ts';
export { moveOf } from './move.ts';
export { type FaceWay, hasPlace, type Size, type Way, wayOfFace } from './way.ts';
