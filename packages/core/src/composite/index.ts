export { createToneMaps } from './maps.ts';
export { type BlendMode, blendKinds, blendModes, modeNumber, modeWords } from './modes.ts';
export { pictureOfStack } from './picture.ts';
export {
	ACC_BYTES,
	type Compositor,
	createCompositor,
	dropUnder,
	MOST_NESTED,
	type StackAdjust,
	type StackGroup,
	type StackLayer,
	type UnderCache,
} from './program.ts';
