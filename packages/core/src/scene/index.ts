export { type IslandView, islandView, readOver, tilesOver } from './islandView.ts';
export { type LetterPlace, letterPlace } from './letterPlace.ts';
export { modelGround } from './modelGround.ts';
export { islandRect, pieceTone } from './pieces.ts';
export type { Spot } from './pointing.ts';
export { createScene, type MirrorSpot, type Scene, sceneOfSheet } from './scene.ts';
export { sceneReport } from './sceneReport.ts';
export { createScenes, type Scenes } from './scenes.ts';
export { linesOnModel } from './selectionOnModel.ts';
