export { type Clip, clipOf, placedClip } from './clip.ts';
export { fillRecord } from './islandFill.ts';
export { EditError, type EditKind } from './kind.ts';
export type { EditScope } from './lay.ts';
export { type Edit, editKindOf, editKinds } from './list.ts';
export { fillMask, greyTile, invertMask, maskIntoAlpha } from './mask.ts';
export { meanColor } from './meanColor.ts';
export { type SelectBy, selectedTile, selectedTone, selectionIdOf, wholeSelection } from './selection.ts';
export { transform } from './transform.ts';
