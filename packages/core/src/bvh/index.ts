export { type Bvh, buildBvh } from './build.ts';
export { type Near, nearestOn } from './nearest.ts';
