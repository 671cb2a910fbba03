import type { Kernels } from '@eppu/kernels';
import type { Hex } from '../color/index.ts';
import { createCoverage, dropCoverage, sheetTarget, type TipPicture } from '../projection/index.ts';
import { clearSurface, createSurface, dropRecord, type Picture, pictureOfSurface } from '../surface/index.ts';
import type { Sample } from './path.ts';
import { beginStroke } from './stroke.ts';
import type { Tip } from './tip.ts';

/** Tips are shown no larger than this share of the preview's height. */
const LARGEST = 0.55;

/** A stroke of a tip, pressed in its middle, on nothing: to choose tips by. */
export function previewStroke(
	kernels: Kernels,
	tip: Tip,
	picture: TipPicture | null,
	width: number,
	height: number,
	color: Hex,
): Picture {
	const surface = createSurface('preview', 'color', width, height);
	const coverage = createCoverage(kernels, width, height);
	const size = tip.shape === 'pixel' ? 4 : Math.min(tip.size, height * LARGEST);
	const stroke = beginStroke(kernels, surface, coverage, [sheetTarget(kernels, width)], {
		tool: 'draw',
		tip: { ...tip, size, steady: 0 },
		picture,
		color,
		seed: 11,
		amount: 1,
		lockAlpha: false,
		over: null,
		seams: null,
	});
	const inset = height * 0.42;
	stroke.extend(
		Array.from({ length: 25 }, (_, i): Sample => {
			const t = i / 24;
			return {
				x: inset + (width - 2 * inset) * t,
				y: height * (0.5 - 0.17 * Math.sin(2 * Math.PI * t)),
				pressure: 0.15 + 0.85 * Math.sin(Math.PI * t),
				tilt: 0.3,
				azimuth: 0.8,
				time: i * 12,
			};
		}),
	);
	stroke.end();
	const shown = pictureOfSurface(kernels, surface);
	for (const record of stroke.records) dropRecord(kernels.heap, record);
	clearSurface(kernels.heap, surface);
	dropCoverage(kernels, coverage);
	return shown;
}
