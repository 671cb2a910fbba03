export { type Finish, finishPlace, newFinish, type Outline, type Stitch } from './finish.ts';
export { outlineBlock, outlineReach } from './outline.ts';
export { stitchBlock, stitchThreads, type Thread } from './stitch.ts';
