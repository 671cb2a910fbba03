export { type Bend, bendOf, keptBend, OFF_FACE } from './bend.ts';
export { createRays, domeOf, type OcclusionOf, PLACE_NUMBERS, type Rays, raysOf } from './rays.ts';
export { boxedList, type TablesAt, tablesAt } from './tables.ts';
