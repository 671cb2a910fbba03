export { type Clip, clipOf, placedClip } from './clip.ts';
export { applyEdit, type Edit, editWords } from './edit.ts';
export { fillRecord } from './islandFill.ts';
export { fillMask, greyTile, invertMask, maskIntoAlpha } from './mask.ts';
export { meanColor } from './meanColor.ts';
export { type SelectBy, selectedTile, selectedTone, selectionIdOf, wholeSelection } from './selection.ts';
