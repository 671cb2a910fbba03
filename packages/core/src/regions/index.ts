export { flatMesh, simplified, standsFlat } from './flat.ts';
export type { Drawn } from './groups.ts';
export { drawnOf } from './lines.ts';
export { type Reading, type Regions, regionsOf, usualReading } from './regions.ts';
