import type { Ptr } from './heap.ts';

/** Two axes, (ux, uy) and (vx, vy). */
type Axes = [ux: number, uy: number, vx: number, vy: number];

/** What the module exports; the meaning of each stands with its source in `assembly/`. */
export interface KernelExports {
	runTile(program: Ptr, acc: Ptr, out: Ptr): void;
	classifyColor(tile: Ptr): 0 | 1 | 2 | 3;
	classifyMask(tile: Ptr): 0 | 1 | 2;
	classifyDeep(tile: Ptr): 0 | 1 | 2;
	clear(at: Ptr, bytes: number): void;
	copy(to: Ptr, from: Ptr, bytes: number): void;
	roundTip(tip: Ptr, side: number, cx: number, cy: number, radius: number, slope: number, ...axes: Axes): void;
	pictureTip(
		tip: Ptr,
		side: number,
		cx: number,
		cy: number,
		picture: Ptr,
		pictureSide: number,
		radius: number,
		slope: number,
		...axes: Axes
	): void;
	stampFlat(
		cov: Ptr,
		touched: Ptr,
		cols: number,
		rows: number,
		tip: Ptr,
		side: number,
		ox: number,
		oy: number,
		strength: number,
		buildUp: 0 | 1,
		a: number,
		b: number,
		c: number,
	): void;
	stampInk(
		cov: Ptr,
		touched: Ptr,
		cols: number,
		rows: number,
		tip: Ptr,
		side: number,
		ox: number,
		oy: number,
		strength: number,
		buildUp: 0 | 1,
		ink: Ptr,
		color: number,
	): void;
	dabRecords(
		texels: Ptr,
		places: Ptr,
		count: number,
		cov: Ptr,
		touched: Ptr,
		ox: number,
		oy: number,
		radius: number,
		slope: number,
		full: number,
		buildUp: 0 | 1,
		ux: number,
		uy: number,
		vx: number,
		vy: number,
		ink: Ptr,
		color: number,
	): void;
	pictureRecords(
		texels: Ptr,
		places: Ptr,
		count: number,
		cov: Ptr,
		touched: Ptr,
		ox: number,
		oy: number,
		picture: Ptr,
		side: number,
		radius: number,
		slope: number,
		full: number,
		buildUp: 0 | 1,
		ux: number,
		uy: number,
		vx: number,
		vy: number,
		ink: Ptr,
		color: number,
	): void;
	curveCoverage(cov: Ptr, curve: Ptr, out: Ptr): void;
	gateCoverage(cov: Ptr, gate: Ptr, out: Ptr): void;
	layInk(before: Ptr, step: 0 | 32, cov: Ptr, ink: Ptr, out: Ptr, lock: 0 | 1): void;
	mixColor(before: Ptr, step: 0 | 32, cov: Ptr, target: Ptr, out: Ptr, lock: 0 | 1): void;
	mapColors(src: Ptr, cube: Ptr, out: Ptr, count: number): void;
	mapTable(src: Ptr, table: Ptr, out: Ptr, count: number, byTone: 0 | 1): void;
	smearDab(
		records: Ptr,
		count: number,
		cells: number,
		step: number,
		carried: Ptr,
		under: Ptr,
		keep: number,
		lock: 0 | 1,
	): void;
	blurRegion(region: Ptr, radius: number, weights: Ptr, rows: Ptr, out: Ptr): void;
	layColor(before: Ptr, step: 0 | 32, cov: Ptr, out: Ptr, red: number, green: number, blue: number, lock: 0 | 1): void;
	wipeColor(before: Ptr, step: 0 | 32, cov: Ptr, out: Ptr): void;
	layMask(before: Ptr, step: 0 | 8, cov: Ptr, out: Ptr, value: number): void;
}
