export { crossOf, type Figure, type FigureBox, type FigureResult, readFigure } from './figure.ts';
export { keeperFigure } from './keeper.ts';
export { figureMesh } from './mesh.ts';
