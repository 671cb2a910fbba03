export type { AnyFinish, FinishKind, FinishTexels, Followed } from './kind/kind.ts';
export { anyFinishShape, type Finish, finishKindOf, finishKinds, newFinish } from './kind/list.ts';
export type { Outline } from './outline.ts';
export type { Stitch } from './stitch.ts';
