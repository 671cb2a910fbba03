export { createDabs, type Dabs, stampDabs } from './dabs.ts';
export { createPath, type Path, type Point, type Sample } from './path.ts';
export type { Pencil, PencilWay } from './pencil.ts';
export { previewStroke } from './preview.ts';
export type { Reading } from './reading.ts';
export { beginScrape, coatGone, type ScrapedCoat } from './scrape.ts';
export { shippedStencil, shippedStencilPicture, shippedStencils } from './shipped/stencils.ts';
export { shippedTip, shippedTips, shippedTipTone, TIP_SIDE, tipOfShipped } from './shipped/tips.ts';
export {
	type PaintPicture,
	paintPictureOf,
	pictureTexel,
	type StencilTile,
	type StencilUse,
	stencilTile,
	tipToneOf,
} from './stencil.ts';
export { beginStroke, type Stroke, type StrokeMeans, type Tool } from './stroke.ts';
export {
	defaultTip,
	type Jitter,
	noJitter,
	type Rule,
	type Ruled,
	ruledDials,
	straightCurve,
	type Tip,
	tipShape,
	unruled,
} from './tip.ts';
