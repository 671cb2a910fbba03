export { CUBE_NODES, cubeOf, type ToneTool, toneCube } from './cube.ts';
export { curveAt } from './curve.ts';
export { type Hsv, hexOfHsv, hsvOfHex } from './hsv.ts';
export { colorsOfPicture } from './ofPicture.ts';
export { distance, hexOfOklch, inSrgb, type Oklab, type Oklch, oklabOfSrgb, oklchOfHex, srgbOfOklab } from './oklch.ts';
export { apiaryPalette, type Palette, paletteShape } from './palette.ts';
export { ramp, toneChart } from './ramp.ts';
export { type Hex, hexOfRgb, linearOfSrgb, luma, type Rgb8, rgbOfHex, srgbOfLinear } from './srgb.ts';
export { colorWords } from './words.ts';
