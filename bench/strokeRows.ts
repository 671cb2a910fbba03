/** What is measured of strokes: on a flat sheet, on a model, through a stencil, smearing. */
import { buildTexelMap } from '@eppu/core/atlas';
import {
	type Coverage,
	clearCoverage,
	createBins,
	createCoverage,
	createView,
	dropBins,
	homeCamera,
	modelTarget,
	plainDab,
	projectionOf,
	sheetTarget,
	type Target,
	takeTouched,
} from '@eppu/core/projection';
import {
	beginStroke,
	defaultTip,
	type Sample,
	type StencilUse,
	type StrokeMeans,
	shippedStencilPicture,
	stencilTile,
	type Tip,
	unruled,
} from '@eppu/core/stroke';
import {
	createSurface,
	dropRecord,
	pictureIntoSurface,
	recordBytes,
	type Surface,
	swapRecord,
	type TileRecord,
} from '@eppu/core/surface';
import type { Kernels } from '@eppu/kernels';
import { undisturbed } from './measure.ts';
import { type Report, SIZE, upTo } from './rows.ts';
import { benchMesh, seeded } from './scenes.ts';

const tip: Tip = { ...unruled(defaultTip), size: 64, edge: 0.3, strength: 1 };
const means: StrokeMeans = {
	tool: 'draw',
	tip,
	picture: null,
	color: '#b85a33',
	seed: 1,
	amount: 1,
	lockAlpha: false,
	over: null,
	seams: null,
};

/** A wavy line about 1000 texels long. */
const wave = (): Sample[] =>
	upTo(120).map((i) => ({ x: 500 + i * 7.4, y: 900 + 60 * Math.sin(i * 0.1) + i * 1.7, pressure: 1 }));

/** A layer painted all over: the dearer case for undo and for laying. */
function painted(kernels: Kernels): Surface {
	const surface = createSurface('stroke', 'color', SIZE, SIZE);
	const random = seeded(5);
	const data = new Uint8Array(SIZE * SIZE * 4).map((_, i) => (i % 4 === 3 ? 255 : 90 + random() * 60));
	pictureIntoSurface(kernels, { width: SIZE, height: SIZE, data }, surface);
	return surface;
}

/** Makes a whole stroke and takes it back, again and again; `bytes` is what its undo keeps. */
function strokes(
	kernels: Kernels,
	surface: Surface,
	coverage: Coverage,
	targets: () => readonly Target[],
	samples: readonly Sample[],
	how: Partial<StrokeMeans>,
	runs: number,
): { readonly ms: () => Promise<number>; readonly bytes: () => number } {
	let record: TileRecord | null = null;
	let bytes = 0;
	return {
		bytes: () => bytes,
		ms: () =>
			undisturbed(
				runs,
				() => {
					const stroke = beginStroke(kernels, surface, coverage, targets(), { ...means, ...how });
					stroke.extend(samples);
					stroke.end();
					record = stroke.records[0] as TileRecord;
					bytes = recordBytes(record as TileRecord);
				},
				() => {
					if (!record) return;
					swapRecord(record);
					dropRecord(kernels.heap, record);
					record = null;
				},
			).then((ms) => {
				if (record) {
					swapRecord(record);
					dropRecord(kernels.heap, record);
					record = null;
				}
				return ms;
			}),
	};
}

export async function strokeRows(kernels: Kernels, report: Report): Promise<number> {
	const coverage = createCoverage(kernels, SIZE, SIZE);
	const surface = painted(kernels);
	const flat = (): readonly Target[] => [sheetTarget(kernels, SIZE)];
	const long = '1000 texels, coverage and blend, in one batch';
	const first = strokes(kernels, surface, coverage, flat, wave(), {}, 60);
	await report('stroke.flat.64', first.ms, 0.3, long);
	const wide = strokes(kernels, surface, coverage, flat, wave(), { tip: { ...tip, size: 512 } }, 20);
	await report('stroke.flat.512', wide.ms, null, long);
	const smear = strokes(kernels, surface, coverage, flat, wave(), { tool: 'smear', tip: { ...tip, strength: 0.8 } }, 8);
	await report('stroke.smear.64', smear.ms, null, '1000 texels, 156 dabs, each reading the one before');
	await modelRows(kernels, report, surface);
	return first.bytes();
}

async function modelRows(kernels: Kernels, report: Report, surface: Surface): Promise<void> {
	const mesh = benchMesh();
	const map = buildTexelMap(mesh, () => true, SIZE, SIZE, 16);
	const coverage = createCoverage(kernels, SIZE, SIZE);
	const sight = projectionOf({ ...homeCamera, distance: 7, target: [0, -0.4, 0] }, 640, 640);
	let bins = createBins(createView(mesh, sight), map);
	const fresh = modelTarget(kernels, bins);
	const note = `${mesh.indices.length / 3} faces, 640 by 640 px`;
	for (const [radius, bar] of [
		[32, 0.03],
		[128, null],
	] as const) {
		const dab = plainDab(320, 300, radius, 0.3, 1);
		fresh.warm(dab.x, dab.y, 2 * radius);
		await report(
			`stroke.model.${radius}.warm`,
			() =>
				undisturbed(
					60,
					() => fresh.dab(coverage, dab, false),
					() => clearCoverage(kernels, coverage, takeTouched(kernels, coverage)),
				),
			bar,
			note,
		);
	}
	const dab = plainDab(320, 300, 32, 0.3, 1);
	await report(
		'stroke.model.32.cold',
		() =>
			undisturbed(
				40,
				() => {
					bins = createBins(createView(mesh, sight), map);
					modelTarget(kernels, bins).dab(coverage, dab, false);
				},
				() => {
					dropBins(kernels, bins);
					clearCoverage(kernels, coverage, takeTouched(kernels, coverage));
				},
			),
		2.5,
		'first dab after a view change',
	);
	const use: StencilUse = {
		picture: 'shingles',
		place: [1 / 300, 0, 0, 0, 1 / 300, 0],
		space: 'view',
		tile: true,
		invert: false,
		soft: 0,
		opacity: 1,
		mode: 'print',
	};
	const picture = shippedStencilPicture('shingles');
	if (!picture) throw new Error('no shingles');
	const target = [fresh];
	const printed = strokes(
		kernels,
		surface,
		coverage,
		() => target,
		upTo(40).map((i) => ({ x: 240 + i * 4, y: 280 + 20 * Math.sin(i * 0.2), pressure: 1 })),
		{ over: (tile) => stencilTile(use, picture, target, tile, fresh.placesOf) },
		8,
	);
	await report(
		'stroke.stencil.model.64',
		printed.ms,
		null,
		'160 px on the model, printing; the stencil is read once a tile',
	);
}
