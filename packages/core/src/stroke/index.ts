export { createDabs, type Dabs } from './dabs.ts';
export { createPath, type Path, type Sample } from './path.ts';
export { beginStroke, type Stroke, type StrokeMeans, type Tool } from './stroke.ts';
export { defaultTip, type Tip, underPressure } from './tip.ts';
