export { createRays, domeOf, type OcclusionOf, PLACE_NUMBERS, type Rays, raysOf } from './rays.ts';
