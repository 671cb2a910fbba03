export { clear } from './clear.ts';
export { type Clip, clipOf, pictureClip, placedClip } from './clip.ts';
export { fillRecord } from './islandFill.ts';
export { EditError, type EditKind } from './kind.ts';
export type { EditScope, SeenModel, SeenSheet } from './lay.ts';
export { type Edit, editKindOf, editKinds } from './list.ts';
export { fillMask, greyTile, invertMask, maskIntoAlpha } from './mask.ts';
export { meanColor } from './meanColor.ts';
export { heldBy, type OutlineEdit, type Rim, type RimOf, rimMask } from './outline.ts';
export { type RecolorEdit, recolored } from './recolor.ts';
export {
	type DrawnShape,
	type SelectBy,
	selectedTile,
	selectedTone,
	selectionIdOf,
	wholeSelection,
} from './selection.ts';
export { type DrawSpace, sheetSpace, viewSpace } from './space.ts';
export { transform } from './transform.ts';
