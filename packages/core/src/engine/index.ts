export type { Delta, KeptTile } from './delta.ts';
export type { Dirty } from './dirty.ts';
export type { ActiveLayers, Edited, EditOptions, Engine, MaskChange, SeenOptions, SeenSpot } from './engine.ts';
export type { Look } from './focus.ts';
export type { Spill, Spilled, Step } from './history.ts';
export type { KeptStep, StoredTile } from './keptStep.ts';
export { openEngine } from './open.ts';
export type { Refusal } from './refusal.ts';
export type { StrokePlace, StrokeSpec } from './strokeSpec.ts';
