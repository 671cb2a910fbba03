export { type Bvh, buildBvh } from './build.ts';
export { type FourTree, fourTree } from './four.ts';
export { type Near, nearestOn } from './nearest.ts';
