export { type Landing, type Partners, type SeamReader, seamReader } from './partners.ts';
export { triangleSpans } from './spans.ts';
export { buildTexelMap, eachTexelOfFace, faceAt, type TexelMap } from './texelMap.ts';
export { facesOfTile, gutterOfTile } from './tileFaces.ts';
