export { colorsNamed, hexOfPacked, labOf, type Packed, type PixelColors, packedOf, pixelColors } from './colors.ts';
export { type Dither, type DitherName, ditherOf, dithers, isLaid, type Mixing, mixingShape } from './dither.ts';
export {
	type Entries,
	type EntryNumber,
	entriesOf,
	entryUses,
	followEntries,
	renumbered,
} from './entries.ts';
export { hardenCoverage, hardenRecord } from './hard.ts';
export { heldMesh } from './held.ts';
export { type Texels, type TexelTrail, texelCurve, texelLine, texelTrail, withoutCorners } from './line.ts';
export { type ColorPair, colorMapping, colorsOfTexels } from './mapping.ts';
export { type BoxMove, heldMove } from './move.ts';
export { type PassSpec, passMasks } from './pass.ts';
export {
	MOST_PAIRS,
	MOST_RECOLORS,
	pathHas,
	type Recolor,
	recoloredBy,
	recoloredTexels,
	recolorShape,
	recolorsFor,
} from './recolor.ts';
export {
	ellipseMask,
	emptyMask,
	innerRing,
	less,
	outerRing,
	type TexelMask,
	type Touching,
	towards,
	withoutRim,
} from './ring.ts';
