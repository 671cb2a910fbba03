export { CUBE_NODES, type ToneTool, toneCube } from './cube.ts';
export { distance, hexOfOklch, inSrgb, type Oklab, type Oklch, oklabOfSrgb, oklchOfHex, srgbOfOklab } from './oklch.ts';
export { apiaryPalette, type Palette } from './palette.ts';
export { type Hex, hexOfRgb, linearOfSrgb, type Rgb8, rgbOfHex, srgbOfLinear } from './srgb.ts';
