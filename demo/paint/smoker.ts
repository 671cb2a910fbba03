/** Paints the smoker: tin, primer, stove black worn at the edges, soot, and light, the way a hand would build it up. */

import { type Layer, paintLayer, washLayer } from '@eppu/core/document';
import type { Engine } from '@eppu/core/engine';
import type { Rect } from '../mesh/shapes.ts';
import { bellowsRects, canRects } from '../mesh/smoker.ts';
import { blend, clamp, clouds, noise, type Place, paintTexels, rgba, seeded, step, stroke } from './brushwork.ts';
import { inStrokes, lit } from './light.ts';

const mask = (id: string) => ({ mask: { surface: `${id}-mask`, on: true } });

export const canLayers: readonly Layer[] = [
	washLayer('can-tin', 'Bare tin', '#8f9792'),
	paintLayer('can-brushing', 'Tin brushing'),
	paintLayer('can-primer', 'Red primer', { ...mask('can-primer'), coat: { depth: 0.62, falloff: 0.12 } }),
	paintLayer('can-black', 'Stove black', { ...mask('can-black'), coat: { depth: 0.2, falloff: 0.3 } }),
	paintLayer('can-warm', 'Warm tint', { mode: 'overlay', opacity: 0.7, clip: true }),
	paintLayer('can-soot', 'Soot streaks', { mode: 'multiply', opacity: 0.9 }),
	lit('can-light', 'Soft light', 'Warm', { strokes: inStrokes(3.5) }, { opacity: 0.9 }),
	paintLayer('can-sky', 'Sky glow', { mode: 'screen', opacity: 0.35 }),
	lit('can-rims', 'Edges picked out', 'Edges picked out', {}, { opacity: 0.32 }),
	paintLayer('can-edge', 'Edge light'),
];

export const bellowsLayers: readonly Layer[] = [
	washLayer('bel-wood', 'Beech board', '#a8743f'),
	paintLayer('bel-grain', 'Grain'),
	paintLayer('bel-leather', 'Leather'),
	paintLayer('bel-tacks', 'Brass tacks'),
	lit('bel-light', 'Soft light', 'Warm', { strokes: inStrokes(3.5) }, { opacity: 0.9 }),
	lit('bel-rims', 'Edges picked out', 'Edges picked out', {}, { opacity: 0.5 }),
	paintLayer('bel-edge', 'Edge light', { mode: 'screen', opacity: 0.7 }),
];

/** Points of a slightly unsteady line between two places of a rectangle, given 0..1 within it, in texels. */
const line = (
	size: number,
	rect: Rect,
	random: () => number,
	from: readonly [number, number],
	to: readonly [number, number],
	wobble = 0.004,
): [number, number][] => {
	const n = 7;
	return Array.from({ length: n + 1 }, (_, i) => {
		const t = i / n;
		return [
			size * (rect.x + rect.w * (from[0] + (to[0] - from[0]) * t) + (random() - 0.5) * wobble),
			size * (rect.y + rect.h * (from[1] + (to[1] - from[1]) * t) + (random() - 0.5) * wobble),
		];
	});
};

/** How near a place of the can is to an edge that hands and ground rub, 0..1. */
function rub({ p, part }: Place): number {
	const [x, y, z] = p;
	const near = (at: number, reach: number): number => clamp(1 - Math.abs(y - at) / reach);
	if (part === 'Body')
		return Math.max(
			near(0.625, 0.06),
			near(-0.53, 0.09),
			Math.abs(y + 0.58) < 0.001 ? step(0.3, 0.52, Math.sqrt(x * x + z * z)) : 0,
		);
	if (part === 'Lid') return Math.max(near(0.68, 0.05), near(1.05, 0.07));
	return Math.max(clamp((z - 0.2) * 3.5), near(1.02, 0.06));
}

// biome-ignore lint/complexity/noExcessiveLinesPerFunction: a painting, stroke after stroke.
function paintCan(engine: Engine): void {
	const size = 1024;
	const random = seeded(11);
	const many = (count: number, draw: (x: number, y: number) => void): void => {
		for (let i = 0; i < count; i++) draw(random(), random());
	};
	many(150, (x, y) =>
		stroke(
			engine,
			'can',
			'can-brushing',
			random() < 0.5 ? '#b9c0ba' : '#6d7672',
			line(size, canRects.body, random, [x, y * 0.9], [x + 0.01, y * 0.9 + 0.08 + random() * 0.1]),
			{ size: 10 + random() * 18, strength: 0.35, edge: 0.3 },
		),
	);
	many(60, (x, y) =>
		stroke(
			engine,
			'can',
			'can-brushing',
			random() < 0.5 ? '#c2c8c2' : '#707975',
			line(size, canRects.lid, random, [x, y * 0.8], [x, y * 0.8 + 0.2]),
			{ size: 8 + random() * 14, strength: 0.35, edge: 0.3 },
		),
	);

	paintTexels(engine, 'can', 'can-primer', 'color', 'Lay red primer', (place) =>
		rgba(blend('#8a3f2c', '#b0603f', clouds(place.p, 5))),
	);
	paintTexels(
		engine,
		'can',
		'can-primer',
		'mask',
		'Wear the primer',
		(place) => 1 - step(0.62, 0.74, rub(place) * 0.75 + 0.35 * (clouds(place.p, 9) - 0.35)),
	);

	paintTexels(engine, 'can', 'can-black', 'color', 'Lay stove black', (place) => {
		const grain = noise(place.p[0] * 14, place.p[1] * 3, place.p[2] * 14);
		return rgba(blend('#2c2d2e', '#4a4947', 0.55 * clouds(place.p, 3) + 0.45 * grain));
	});
	paintTexels(engine, 'can', 'can-black', 'mask', 'Wear the stove black', (place) => {
		const worn = rub(place) * 0.8 + 0.62 * (clouds(place.p, 7) - 0.42);
		const patch = step(0.66, 0.7, clouds([place.p[0] + 9, place.p[1] * 0.7, place.p[2]], 4.5));
		return 1 - Math.max(step(0.42, 0.5, worn), 0.95 * patch);
	});
	// Scratches cut through the black with a small hard tip.
	for (let i = 0; i < 46; i++) {
		const [x, y, lean] = [random(), 0.15 + random() * 0.65, (random() - 0.5) * 0.03];
		stroke(
			engine,
			'can',
			'can-black',
			'#000000',
			line(size, canRects.body, random, [x, y], [x + lean, y + 0.04 + random() * 0.14], 0.002),
			{ size: 2 + random() * 3, strength: 0.9, edge: 0.9 },
			'wipe',
		);
	}
	many(120, (x, y) =>
		stroke(
			engine,
			'can',
			'can-warm',
			random() < 0.6 ? '#c98a54' : '#7d9aa6',
			line(size, canRects.body, random, [x, y * 0.9], [x + 0.006, y * 0.9 + 0.06 + random() * 0.1]),
			{ size: 8 + random() * 16, strength: 0.5, edge: 0.4 },
		),
	);

	// Knocks and scratches through black and primer down to the tin.
	for (const [x, y, dx, dy, wide] of [
		[0.16, 0.36, 0.07, 0.06, 44],
		[0.25, 0.6, 0.03, 0.16, 34],
		[0.13, 0.62, 0.03, 0.16, 15],
		[0.34, 0.55, 0.06, -0.1, 18],
		[0.52, 0.4, 0.02, 0.2, 13],
		[0.7, 0.66, 0.08, -0.06, 20],
		[0.86, 0.45, 0.05, 0.12, 16],
	] as const)
		stroke(
			engine,
			'can',
			'can-black',
			'#000000',
			line(size, canRects.body, random, [x, y], [x + dx, y + dy], 0.006),
			{ size: wide, strength: 1, edge: 0.1 },
			'scrape',
		);
	paintTexels(engine, 'can', 'can-soot', 'color', 'Breathe soot on the lid', ({ p, part }) => {
		const high =
			part === 'Spout'
				? 0.35 + 0.65 * clamp((p[2] + 0.05) * 2)
				: part === 'Lid'
					? step(0.7, 1.1, p[1])
					: step(0.35, 0.75, p[1]) * 0.7;
		return rgba('#3a322e', high * (0.35 + 0.65 * clouds(p, 6)));
	});
	for (let i = 0; i < 70; i++) {
		const x = random();
		const length = 0.1 + random() * random() * 0.75;
		stroke(
			engine,
			'can',
			'can-soot',
			'#2f2a28',
			line(size, canRects.body, random, [x, 0.12], [x + (random() - 0.5) * 0.008, 0.12 + length]),
			{ size: 5 + random() * 16, strength: 0.45, edge: 0.2 },
		);
	}
	paintTexels(engine, 'can', 'can-sky', 'color', 'Lay sky glow', ({ n, p }) =>
		rgba('#a8cfe6', step(0.15, 0.9, n[1]) * (0.6 + 0.4 * clouds(p, 5))),
	);

	// Edge light: broken strokes along the rims, brightest where hands have polished them.
	const rim = (rect: Rect, v: number, color: string, width: number): void => {
		for (let x = 0; x < 1; ) {
			const run = 0.02 + random() * 0.09;
			if (random() < 0.8)
				stroke(engine, 'can', 'can-edge', color, line(size, rect, random, [x, v], [Math.min(1, x + run), v], 0.0015), {
					size: width * (0.7 + 0.6 * random()),
					strength: 0.55 + 0.35 * random(),
					edge: 0.6,
				});
			x += run + random() * 0.02;
		}
	};
	rim(canRects.body, 0.035, '#e6dfce', 5);
	rim(canRects.body, 0.93, '#d3b58c', 4.5);
	rim(canRects.lid, 0.8, '#ece5d4', 5);
	rim(canRects.lid, 0.09, '#cfc8b8', 3.5);
	rim(canRects.spout, 0.045, '#e2d3b4', 4.5);
}

function paintBellows(engine: Engine): void {
	const size = 512;
	const random = seeded(29);
	for (const rect of [bellowsRects.near, bellowsRects.far])
		for (let i = 0; i < 90; i++) {
			const [x, y] = [random(), random()];
			stroke(
				engine,
				'bellows',
				'bel-grain',
				['#7d5431', '#c4904f', '#8d5f33', '#d8ab68'][Math.floor(random() * 4)] as string,
				line(size, rect, random, [x, y * 0.8], [x + (random() - 0.5) * 0.03, y * 0.8 + 0.12 + random() * 0.2]),
				{ size: 3 + random() * 7, strength: 0.5, edge: 0.4 },
			);
		}
	paintTexels(engine, 'bellows', 'bel-leather', 'color', 'Lay leather', ({ p, v }) => {
		if (v < bellowsRects.leather.y - 0.012 || v > bellowsRects.leather.y + bellowsRects.leather.h + 0.012) return null;
		const t = (v - bellowsRects.leather.y) / bellowsRects.leather.h;
		const fold = 0.5 + 0.5 * Math.cos(t * 12 * Math.PI);
		return rgba(blend(blend('#4a2320', '#9c4f36', fold), '#c98a54', 0.35 * fold * clouds(p, 8)));
	});
	for (const rect of [bellowsRects.nearEdge, bellowsRects.farEdge])
		for (let i = 0; i < 30; i++) {
			const [x, y] = [size * (rect.x + rect.w * ((i + 0.5) / 30)), size * (rect.y + rect.h / 2)];
			stroke(
				engine,
				'bellows',
				'bel-tacks',
				'#6b4a1c',
				[
					[x, y + 1],
					[x + 0.6, y + 1],
				],
				{ size: 9, strength: 1, edge: 0.8, rules: [] },
			);
			stroke(
				engine,
				'bellows',
				'bel-tacks',
				'#f1cf7c',
				[
					[x - 0.8, y - 1],
					[x - 0.2, y - 1.2],
				],
				{ size: 5, strength: 1, edge: 0.5, rules: [] },
			);
		}
	for (const rect of [bellowsRects.near, bellowsRects.far])
		for (let i = 0; i < 26; i++) {
			const at = (t: number): [number, number] => [
				size * (rect.x + (rect.w / 2) * (1 + 0.95 * Math.cos(t))),
				size * (rect.y + (rect.h / 2) * (1 - 0.95 * Math.sin(t))),
			];
			const t = (i / 26) * 2 * Math.PI;
			if (random() < 0.8)
				stroke(engine, 'bellows', 'bel-edge', '#f6dcae', [at(t), at(t + 0.08), at(t + 0.17), at(t + 0.22)], {
					size: 3 + random() * 3,
					strength: 0.7,
					edge: 0.5,
				});
		}
}

export function paintSmoker(engine: Engine): void {
	paintCan(engine);
	paintBellows(engine);
}
