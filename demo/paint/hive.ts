/** Paints the plank hive: bare boards, a chalky blue coat that flakes, moss from below, and light. */
import { adjustLayer, type Engine, groupLayer, type Layer, paintLayer, washLayer } from '@eppu/core/document';
import { hiveRects } from '../mesh/hive.ts';
import type { Rect } from '../mesh/shapes.ts';
import { blend, clamp, clouds, noise, type Place, paintTexels, rgba, seeded, step, stroke } from './brushwork.ts';

export const hiveLayers: readonly Layer[] = [
	washLayer('hive-wood', 'Bare pine', '#b98d55'),
	paintLayer('hive-grain', 'Grain'),
	paintLayer('hive-coat', 'Chalk blue', { mask: { surface: 'hive-coat-mask', on: true } }),
	paintLayer('hive-joints', 'Plank joints', { mode: 'multiply' }),
	paintLayer('hive-moss', 'Moss', { opacity: 0.9 }),
	groupLayer('hive-lights', 'Lights', [
		paintLayer('hive-light', 'Soft light', { mode: 'multiply', opacity: 0.85 }),
		paintLayer('hive-edge', 'Edge light', { mode: 'screen', opacity: 0.8 }),
	]),
	adjustLayer('hive-pull', 'Pull together', { op: 'pull', color: '#b98d55', amount: 0.16 }),
];

const isRoof = (place: Place): boolean => place.part === 'Roof';
/** Height within a plank, 0..1, where the boxes are boarded across. */
const inPlank = ({ p }: Place): number => ((((p[1] + 2) * 5.55) % 1) + 1) % 1;

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
	paintTexels(engine, 'hive', 'hive-light', 'color', 'Lay soft light', ({ p, n, part }) => {
		const eaves =
			part === 'Upper box'
				? 0.5 + 0.5 * step(0.78, 0.55, p[1])
				: part === 'Lower box'
					? 0.6 + 0.4 * step(0.25, 0.05, p[1])
					: 1;
		const tone =
			(0.55 + 0.25 * n[1] + 0.26 * clamp(0.7 * n[2] + 0.4 * n[0])) * eaves * (0.75 + 0.25 * step(-0.55, 0.3, p[1]));
		return rgba(blend('#3f3556', '#ffffff', clamp(tone * 1.15)));
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
