export type { AnyTone, AreaKind, PointKind, ToneKind } from './kind.ts';
export {
	type AreaTone,
	areaKinds,
	type PointTone,
	pointKinds,
	type ToneOp,
	toneKindOf,
	toneKinds,
	toneMap,
	toneShape,
} from './list.ts';
export type { ToneMap } from './map.ts';
