export type { BakeState, DeepPicture } from './deepPicture.ts';
export type { Delta, KeptTile } from './delta.ts';
export type { Dirty } from './dirty.ts';
export type {
	ActiveLayers,
	ColorCount,
	Edited,
	EditOptions,
	Engine,
	LooseStack,
	MaskChange,
	SeenOptions,
	SeenSpot,
} from './engine.ts';
export type { Look } from './focus.ts';
export { gridOfSheet } from './grid.ts';
export type { Spill, Spilled, Step } from './history.ts';
export type { KeptStep, StoredTile } from './keptStep.ts';
export { createLending, type Lending } from './lending.ts';
export type { FarReads, Made, MadeKeeping } from './made.ts';
export { openEngine } from './open.ts';
export { pictureWith, settleWith } from './pooled.ts';
export type { Refusal } from './refusal.ts';
export type { CarriedSheet, ModelHead, Relaying, SheetHead } from './relaying.ts';
export type { StrokePlace, StrokeSpec } from './strokeSpec.ts';
export { twinOf } from './twin.ts';
