export { type BlendMode, blendModes, modeNumber } from './modes.ts';
export { type Compositor, createCompositor, dropUnder, type StackLayer, type UnderCache } from './program.ts';
