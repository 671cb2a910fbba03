export { nameDerived } from './contents.ts';
export { createDerivation, type Derivation } from './derivation.ts';
export { fillIdOf, isComputed, ownMaskIdOf } from './derivedId.ts';
export { layersBlock } from './layerPicture.ts';
export { splitOf, stackOf, tilesOfLayer } from './layerStack.ts';
export type { Means } from './means.ts';
export { type Pictures, picturesNamed, picturesOf } from './ownPictures.ts';
export { groundOf } from './recipeGround.ts';
