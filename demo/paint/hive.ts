/** Paints the plank hive: bare boards, a chalky blue coat that flakes, moss from below, and light. */
import { adjustLayer, groupLayer, type Layer, paintLayer, sheetOf, textLayer, washLayer } from '@eppu/core/document';
import type { Engine } from '@eppu/core/engine';
import { newFinish } from '@eppu/core/finish';
import { newStep, presets } from '@eppu/core/recipe';
import { hiveRects } from '../mesh/hive.ts';
import type { Rect } from '../mesh/shapes.ts';
import { blend, clamp, clouds, noise, type Place, paintTexels, rgba, seeded, step, stroke } from './brushwork.ts';
import { inStrokes, lit } from './light.ts';

export const hiveLayers: readonly Layer[] = [
	washLayer('hive-wood', 'Bare pine', '#b98d55'),
	paintLayer('hive-grain', 'Grain'),
	groupLayer('hive-paint', 'Old paint', [
		paintLayer('hive-coat', 'Chalk blue', {
			mask: { surface: 'hive-coat-mask', on: true },
			relief: { from: 'shape', height: 0.35, soft: 1 },
		}),
		paintLayer('hive-tint', 'Sun-bleached', { mode: 'soft-light', opacity: 0.8, clip: true }),
		washLayer('hive-worn', 'Worn to the wood', '#c79a60', {
			mask: { surface: 'hive-worn-mask', on: true, recipe: presets[0]?.steps ?? [] },
		}),
	]),
	groupLayer('hive-cloth', 'Cloth band', [
		washLayer('hive-band', 'Red linen', '#9a3a36', {
			mask: { surface: 'hive-band-mask', on: true },
			finishes: [
				{ ...newFinish('pattern', 'weave'), opacity: 0.35, mode: 'multiply' },
				{ ...newFinish('outline', 'hem'), side: 'in', width: 3, color: '#6b2330', opacity: 0.7 } as ReturnType<
					typeof newFinish
				>,
				{ ...newFinish('stitch', 'seam'), inset: 8, dash: 10, gap: 6, thick: 3.6 } as ReturnType<typeof newFinish>,
			],
		}),
		paintLayer('hive-folds', 'Folds', { mode: 'multiply', opacity: 0.7, clip: true }),
	]),
	textLayer(
		'hive-letters',
		'Lettering',
		{
			text: 'MOSSBARROW\nNo 4',
			font: 'crate',
			size: 31,
			color: '#f3e9d2',
			spacing: 0.02,
			leading: 0.9,
			align: 'middle',
			box: null,
			x: 512,
			y: 512,
			turn: 0,
			mirrored: false,
			along: null,
		},
		{
			opacity: 0.92,
			mask: {
				surface: 'hive-letters-mask',
				on: true,
				recipe: [
					{ ...newStep('clouds', 'worn'), mix: 'replace', size: 2, contrast: 0.35 } as ReturnType<typeof newStep>,
					{ ...newStep('levels', 'sharp'), black: 0.02, white: 0.32 } as ReturnType<typeof newStep>,
				],
			},
		},
	),
	paintLayer('hive-joints', 'Plank joints', {
		mode: 'multiply',
		relief: { from: 'shape', height: -0.7, soft: 1.5 },
	}),
	paintLayer('hive-moss', 'Moss', { opacity: 0.9, relief: { from: 'shape', height: 0.8, soft: 2 } }),
	groupLayer('hive-lights', 'Lights', [
		lit('hive-light', 'Soft light', 'Warm', { strokes: inStrokes(4) }, { opacity: 0.9 }),
		lit('hive-rims', 'Edges picked out', 'Edges picked out', {}, { opacity: 0.45 }),
		paintLayer('hive-edge', 'Edge light', { mode: 'screen', opacity: 0.8 }),
	]),
	adjustLayer('hive-pull', 'Pull together', { op: 'pull', color: '#b98d55', amount: 0.16 }),
];

const isRoof = (place: Place): boolean => place.part === 'Roof';
/** Height within a plank, 0..1, where the boxes are boarded across. */
const inPlank = ({ p }: Place): number => ((((p[1] + 2) * 5.55) % 1) + 1) % 1;

// biome-ignore lint/complexity/noExcessiveLinesPerFunction: a painting, stroke after stroke.
export function paintHive(engine: Engine): void {
	const size = 1024;
	const random = seeded(47);
	const walls: Rect[] = [...hiveRects.upper, ...hiveRects.lower, ...hiveRects.roofSlopes];
	for (const rect of walls)
		for (let i = 0; i < 46; i++) {
			const [x, y] = [random() * 0.8, random()];
			const along = 0.12 + random() * 0.3;
			const points = Array.from({ length: 6 }, (_, k): [number, number] => [
				size * (rect.x + rect.w * Math.min(1, x + (along * k) / 5)),
				size * (rect.y + rect.h * y + (random() - 0.5) * 0.003),
			]);
			stroke(
				engine,
				'hive',
				'hive-grain',
				['#8d6636', '#d9b277', '#7a5530', '#e6c78f'][Math.floor(random() * 4)] as string,
				points,
				{ size: 4 + random() * 9, strength: 0.5, edge: 0.35 },
			);
		}
	paintTexels(engine, 'hive', 'hive-coat', 'color', 'Lay chalk blue', (place) =>
		isRoof(place)
			? rgba(blend('#7d4032', '#a95c41', clouds(place.p, 4)))
			: rgba(
					blend(
						'#6d93a3',
						'#a5c3c9',
						0.6 * clouds(place.p, 3) + 0.4 * noise(place.p[0] * 3, place.p[1] * 40, place.p[2] * 3),
					),
				),
	);
	paintTexels(engine, 'hive', 'hive-coat', 'mask', 'Flake the coat', (place) => {
		if (place.part === 'Floor' || place.part === 'Feet') return 0;
		const plank = inPlank(place);
		const edge = isRoof(place) ? 0 : Math.max(step(0.12, 0.0, plank), step(0.9, 1, plank));
		const corner = step(0.4, 0.53, Math.max(Math.abs(place.p[0]), 0)) * step(0.34, 0.46, Math.abs(place.p[2]));
		return (
			1 -
			step(
				0.5,
				0.57,
				0.42 * edge + 0.5 * corner + 0.75 * (clouds([place.p[0], place.p[1] * 1.8, place.p[2]], 3.2) - 0.12) - 0.14,
			)
		);
	});
	paintTexels(engine, 'hive', 'hive-tint', 'color', 'Bleach the sunny side', ({ p, n }) =>
		rgba('#f1dcae', clamp(0.65 * n[0] + 0.35 * n[1]) * step(0.42, 0.62, clouds(p, 2.4))),
	);
	paintTexels(engine, 'hive', 'hive-band', 'mask', 'Cut the cloth', ({ p, n, part }) => {
		if (part !== 'Upper box' || Math.abs(n[1]) > 0.5) return 0;
		const hang = 0.012 * Math.sin(p[0] * 19 + p[2] * 23);
		return step(0.5 + hang, 0.506 + hang, p[1]) * step(0.69, 0.684, p[1]);
	});
	paintTexels(engine, 'hive', 'hive-folds', 'color', 'Lay the folds', ({ p, part }) => {
		if (part !== 'Upper box') return null;
		const fold = 0.5 + 0.5 * Math.sin(p[0] * 19 + p[2] * 23 + 0.9 * noise(p[0] * 4, p[1] * 6, p[2] * 4));
		return rgba('#4a2338', 0.7 * fold * step(0.7, 0.5, p[1]));
	});
	standLettering(engine);
	paintTexels(engine, 'hive', 'hive-joints', 'color', 'Sink the joints', (place) => {
		if (place.part === 'Floor' || place.part === 'Feet') return null;
		const across = isRoof(place) ? ((((place.p[2] + 2) * 4.5) % 1) + 1) % 1 : inPlank(place);
		const joint = Math.max(step(0.09, 0.02, across), 0.5 * step(0.93, 1, across));
		return rgba('#4a3340', joint * 0.95);
	});
	paintTexels(engine, 'hive', 'hive-moss', 'color', 'Let moss climb', (place) => {
		const low = step(0.15, -0.5, place.p[1] - 0.5 * (clouds(place.p, 4) - 0.5));
		const roof = isRoof(place) ? step(0.52, 0.62, clouds(place.p, 3.3)) * 0.9 : 0;
		return rgba(
			blend('#4b653f', '#9fb07c', clouds(place.p, 12)),
			Math.max(low * step(0.4, 0.6, clouds(place.p, 6)), roof),
		);
	});
	for (const rect of walls)
		for (let k = 0; k < 4; k++)
			for (let i = 0; i < 7; i++) {
				const [x, y] = [i / 7 + random() * 0.03, [0.015, 0.985, 0.35, 0.68][k] as number];
				if (random() < 0.75)
					stroke(
						engine,
						'hive',
						'hive-edge',
						'#f3e4c4',
						[0, 0.03, 0.07, 0.11].map((d) => [
							size * (rect.x + rect.w * Math.min(0.995, x + d)),
							size * (rect.y + rect.h * y),
						]),
						{ size: 2.5 + random() * 2.5, strength: 0.5, edge: 0.5 },
					);
			}
}

/** Sets the lettering in the middle of the lower box's front, as an artist does with one press. */
function standLettering(engine: Engine): void {
	const sheet = sheetOf(engine.project, 'hive');
	const scene = engine.scene(engine.project.models[0]?.id ?? '');
	const layer = sheet?.layers.find((each) => each.id === 'hive-letters');
	if (!sheet || !scene || layer?.kind !== 'text') throw new Error('no lettering');
	for (const rect of hiveRects.lower) {
		const [x, y] = [sheet.width * (rect.x + rect.w / 2), sheet.height * (rect.y + rect.h * 0.55)];
		const spot = scene.spotOn(sheet, null, x, y);
		const front = spot && (scene.mesh.normals?.[(scene.mesh.indices[spot.face * 3] as number) * 3 + 2] ?? 0) > 0.9;
		const place = front ? engine.letterPlace('hive', x, y) : null;
		if (!place) continue;
		const text = { ...layer.text, x: place.x, y: place.y, turn: place.turn, mirrored: place.mirrored };
		engine.run({ do: 'layer.change', sheet: 'hive', layer: layer.id, change: { text } });
		return;
	}
	throw new Error('the front is not found');
}
