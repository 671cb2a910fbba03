import type { DialOf } from '../../shape/index.ts';
import { type Body, circle, type Point, rings } from '../solid.ts';
import type { SolidKind } from './kind.ts';

const size = (of: string, label: string, usual: number): DialOf => ({
	of,
	label,
	least: 0.02,
	most: 10,
	usual,
	ratio: true,
});
const around: DialOf = { of: 'around', label: 'Around', least: 3, most: 64, usual: 16, whole: true };

export interface Cylinder {
	readonly solid: 'cylinder';
	readonly radius: number;
	readonly height: number;
	readonly around: number;
}

export const cylinder: SolidKind<Cylinder> = {
	solid: 'cylinder',
	words: 'Cylinder',
	usual: { solid: 'cylinder', radius: 0.5, height: 1.2, around: 16 },
	dials: [size('radius', 'Radius', 0.5), size('height', 'Height', 1.2), around],
	body: ({ radius, height, around: n }) =>
		rings([circle(radius, 0, n), circle(radius, height, n)], { first: 'closed', last: 'closed' }),
	way: { way: 'cylinder', axis: 'y' },
};

export interface Ball {
	readonly solid: 'sphere';
	readonly radius: number;
	readonly around: number;
}

export const sphere: SolidKind<Ball> = {
	solid: 'sphere',
	words: 'Sphere',
	usual: { solid: 'sphere', radius: 0.6, around: 20 },
	dials: [size('radius', 'Radius', 0.6), around],
	body({ radius, around: n }) {
		const rows = Math.max(2, Math.round(n / 2));
		const list = Array.from({ length: rows - 1 }, (_, i) => {
			const angle = (Math.PI * (i + 1)) / rows;
			return circle(radius * Math.sin(angle), radius - radius * Math.cos(angle), n);
		});
		return capped(rings(list, { first: 'open', last: 'open' }), n, [0, 0, 0], [0, 2 * radius, 0]);
	},
	way: { way: 'automatic', less: 0.5 },
};

/** Rings closed at both ends by fans around a point. */
function capped({ points, polygons }: Body, n: number, below: Point, above: Point): Body {
	const [low, high] = [points.length, points.length + 1];
	const last = points.length - n;
	const fans = Array.from({ length: n }, (_, i) => {
		const next = (i + 1) % n;
		return [
			[low, next, i],
			[high, last + i, last + next],
		];
	}).flat();
	return { points: [...points, below, above], polygons: [...polygons, ...fans] };
}

export interface Ring {
	readonly solid: 'ring';
	readonly radius: number;
	readonly thick: number;
	readonly around: number;
}

export const ring: SolidKind<Ring> = {
	solid: 'ring',
	words: 'Ring',
	usual: { solid: 'ring', radius: 0.5, thick: 0.15, around: 20 },
	dials: [size('radius', 'Radius', 0.5), size('thick', 'Thick', 0.15), around],
	body({ radius, thick, around: n }) {
		const cross = Math.max(6, Math.round(n / 2));
		const list = Array.from({ length: cross + 1 }, (_, i) => {
			const angle = (2 * Math.PI * i) / cross;
			return circle(radius - thick * Math.cos(angle), thick - thick * Math.sin(angle), n);
		});
		// The last ring is the first again: the same points.
		const { points, polygons } = rings(list, { first: 'open', last: 'open' });
		const many = cross * n;
		return { points: points.slice(0, many), polygons: polygons.map((each) => each.map((v) => v % many)) };
	},
	way: { way: 'automatic', less: 0.3 },
};

export interface Lathe {
	readonly solid: 'lathe';
	/** Radius and height of each point of the line that is turned, from below to above. */
	readonly profile: readonly (readonly [radius: number, height: number])[];
	readonly around: number;
}

/** A radius below this is a point on the axis. */
const POINT = 1e-3;

export const lathe: SolidKind<Lathe> = {
	solid: 'lathe',
	words: 'Lathe',
	usual: {
		solid: 'lathe',
		profile: [
			[0.38, 0],
			[0.5, 0.25],
			[0.42, 0.8],
			[0.22, 1.05],
			[0.28, 1.2],
		],
		around: 18,
	},
	dials: [around],
	profile: 'profile',
	body({ profile, around: n }) {
		const line = profile.filter(([r], i) => r > POINT || i === 0 || i === profile.length - 1);
		const inner = line.filter(([r]) => r > POINT);
		const body = rings(
			inner.map(([r, y]) => circle(r, y, n)),
			{
				first: (line[0]?.[0] ?? 0) > POINT ? 'closed' : 'open',
				last: (line.at(-1)?.[0] ?? 0) > POINT ? 'closed' : 'open',
			},
		);
		const points = [...body.points];
		const polygons = [...body.polygons];
		const last = (inner.length - 1) * n;
		// An end on the axis is a fan.
		for (const [end, first] of [
			[line[0], true],
			[line.at(-1), false],
		] as const) {
			if (!end || end[0] > POINT) continue;
			const tip = points.push([0, end[1], 0]) - 1;
			for (let i = 0; i < n; i++) {
				const next = (i + 1) % n;
				polygons.push(first ? [tip, next, i] : [tip, last + i, last + next]);
			}
		}
		return { points, polygons };
	},
	way: { way: 'angle', most: 50 },
};
