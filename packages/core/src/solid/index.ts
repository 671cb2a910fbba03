export type { SolidKind } from './kind/kind.ts';
export { type Solid, solidKindOf, solidKinds, solidMesh } from './kind/list.ts';
export type { Lathe } from './kind/round.ts';
export { type Body, meshOfBody } from './solid.ts';
