export { triangleSpans } from './spans.ts';
export { buildTexelMap, eachTexelOfFace, faceAt, type TexelMap } from './texelMap.ts';
