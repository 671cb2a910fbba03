export type { Check, Checked, Finding, Threshold } from './kind.ts';
export { type Found, findAll, pixelChecks } from './list.ts';
