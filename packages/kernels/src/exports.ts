import type { Ptr } from './heap.ts';

/** What the module exports; the meaning of each stands with its source in `assembly/`. */
export interface KernelExports {
	runTile(program: Ptr, acc: Ptr, out: Ptr): void;
	classifyColor(tile: Ptr): 0 | 1 | 2 | 3;
	classifyMask(tile: Ptr): 0 | 1 | 2;
	dabFlat(
		cov: Ptr,
		touched: Ptr,
		cols: number,
		width: number,
		height: number,
		cx: number,
		cy: number,
		radius: number,
		slope: number,
		full: number,
		buildUp: 0 | 1,
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
	): void;
	layColor(
		before: Ptr,
		step: 0 | 32,
		cov: Ptr,
		out: Ptr,
		red: number,
		green: number,
		blue: number,
		opacity: number,
		lock: 0 | 1,
	): void;
	wipeColor(before: Ptr, step: 0 | 32, cov: Ptr, out: Ptr, opacity: number): void;
	layMask(before: Ptr, step: 0 | 8, cov: Ptr, out: Ptr, value: number, opacity: number): void;
}
