export { type Bend, bendOf, keptBend } from './bend.ts';
export { createRays, domeOf, type OcclusionOf, PLACE_NUMBERS, type Rays, raysOf } from './rays.ts';
