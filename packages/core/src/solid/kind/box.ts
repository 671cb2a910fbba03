import type { DialOf } from '../../shape/index.ts';
import type { Body, Point } from '../solid.ts';
import type { SolidKind } from './kind.ts';

const size = (of: string, label: string, usual: number): DialOf => ({
	of,
	label,
	least: 0.05,
	most: 10,
	usual,
	ratio: true,
});

/** The corners of a box around the middle, standing on the ground. */
function boxBody(width: number, height: number, depth: number): Body {
	const [x, z] = [width / 2, depth / 2];
	const points: Point[] = [
		[-x, 0, z],
		[x, 0, z],
		[x, 0, -z],
		[-x, 0, -z],
		[-x, height, z],
		[x, height, z],
		[x, height, -z],
		[-x, height, -z],
	];
	return {
		points,
		polygons: [
			[0, 1, 5, 4],
			[1, 2, 6, 5],
			[2, 3, 7, 6],
			[3, 0, 4, 7],
			[4, 5, 6, 7],
			[3, 2, 1, 0],
		],
	};
}

export interface Box {
	readonly solid: 'box';
	readonly width: number;
	readonly height: number;
	readonly depth: number;
}

export const box: SolidKind<Box> = {
	solid: 'box',
	words: 'Box',
	usual: { solid: 'box', width: 1, height: 1, depth: 1 },
	dials: [size('width', 'Width', 1), size('height', 'Height', 1), size('depth', 'Depth', 1)],
	body: ({ width, height, depth }) => boxBody(width, height, depth),
	way: { way: 'box' },
};

export interface Plank {
	readonly solid: 'plank';
	readonly length: number;
	readonly width: number;
	readonly thick: number;
}

export const plank: SolidKind<Plank> = {
	solid: 'plank',
	words: 'Plank',
	usual: { solid: 'plank', length: 2, width: 0.3, thick: 0.08 },
	dials: [size('length', 'Length', 2), size('width', 'Width', 0.3), { ...size('thick', 'Thick', 0.08), least: 0.005 }],
	body: ({ length, width, thick }) => boxBody(length, thick, width),
	way: { way: 'box' },
};

export interface Plane {
	readonly solid: 'plane';
	readonly width: number;
	readonly height: number;
}

export const plane: SolidKind<Plane> = {
	solid: 'plane',
	words: 'Plane',
	usual: { solid: 'plane', width: 1, height: 1 },
	dials: [size('width', 'Width', 1), size('height', 'Height', 1)],
	body: ({ width, height }) => ({
		points: [
			[-width / 2, 0, 0],
			[width / 2, 0, 0],
			[width / 2, height, 0],
			[-width / 2, height, 0],
		],
		polygons: [[0, 1, 2, 3]],
	}),
	way: { way: 'flat', from: 'best' },
};
