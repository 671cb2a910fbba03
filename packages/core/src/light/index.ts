export { type IdsBake, partColor, pieceColor } from './bake/ids.ts';
export { anyBakeShape, type Bake, bakeKindOf, bakeKinds, isToneBake } from './bake/index.ts';
export { assetShape, type BakeKind, type Finer, type KeptFile } from './bake/kind.ts';
export type { MapBake } from './bake/map.ts';
export type { NormalsBake } from './bake/normals.ts';
export { type BakedStep, bakedSteps, type ToneBake, toneBake } from './bake/tone.ts';
export { type GreenWay, greenWay } from './greenWay.ts';
export { type LightPreset, lightPresets } from './presets.ts';
export {
	LEVEL,
	MOST_HEIGHT,
	MOST_SOFT,
	type Relief,
	RISES,
	reliefShape,
	risesOver,
	type Slopes,
	STEEPEST,
	slopeWord,
	usualRelief,
} from './relief.ts';
export { type ReliefLook, reliefLooks, reliefValues } from './reliefLook.ts';
export {
	type BakedTint,
	bakesOfRig,
	isShaded,
	type Lamp,
	MOST_LAMPS,
	type Rig,
	rigNumbers,
	rigShape,
	type StrokesOf,
	type Tint,
	type Toned,
	tonedColor,
} from './rig.ts';
export { shadeBlock } from './shade.ts';
export { layStrokes } from './strokes.ts';
