export { boxRenamed, boxTaken, newBox } from './boxes.ts';
export {
	crossOf,
	type Figure,
	type FigureBox,
	type FigurePose,
	type FigureResult,
	figureText,
	readFigure,
	TEXELS_A_UNIT,
	type Turns,
} from './figure.ts';
export { keeperFigure } from './keeper.ts';
export { freePlace } from './place.ts';
export { type Placed, placesIn, posed } from './pose.ts';
