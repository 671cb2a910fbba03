export { type Across, acrossOf, byNumber } from './across.ts';
export { type Carried, carrySurface, countOf, isOpen, nothingCarried, type Passage, passageOf } from './carry.ts';
export { marksAcross } from './marks.ts';
export { moveOf } from './move.ts';
export { type Lying, type Owners, ownersOf } from './owners.ts';
export { type FaceWay, hasPlace, type Size, type Way, wayOfFace } from './way.ts';
