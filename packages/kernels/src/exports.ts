import type { Ptr } from './heap.ts';

/** Two axes, (ux, uy) and (vx, vy). */
type Axes = [ux: number, uy: number, vx: number, vy: number];

/** Reads a run of texels of another picture (assembly/carry.ts); tells how many were missed. */
type CarryRun = (
	from: Ptr,
	deep: Ptr,
	width: number,
	height: number,
	island: number,
	x: number,
	y: number,
	dx: number,
	dy: number,
	ex: number,
	ey: number,
	samples: number,
	count: number,
	out: Ptr,
	missed: Ptr,
) => number;

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
	cubeLabs(side: number, light: Ptr, out: Ptr): void;
	fitCube(nodes: Ptr, count: number, table: Ptr, steps: number): void;
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
	clouds(
		x: Ptr,
		y: Ptr,
		z: Ptr,
		count: number,
		kx: number,
		ky: number,
		kz: number,
		seed: number,
		octaves: number,
		rough: number,
		slope: number,
		out: Ptr,
	): void;
	speckle(
		x: Ptr,
		y: Ptr,
		z: Ptr,
		count: number,
		k: number,
		seed: number,
		dense: number,
		soft: number,
		flat: 0 | 1,
		scratch: Ptr,
		out: Ptr,
	): void;
	brushed(
		u: Ptr,
		v: Ptr,
		w: Ptr,
		count: number,
		k: number,
		turnCos: number,
		turnSin: number,
		long: number,
		seed: number,
		scratch: Ptr,
		out: Ptr,
	): void;
	scratched(
		u: Ptr,
		v: Ptr,
		w: Ptr,
		count: number,
		k: number,
		turns: Ptr,
		seed: number,
		dense: number,
		thick: number,
		out: Ptr,
	): void;
	dripped(u: Ptr, v: Ptr, w: Ptr, count: number, k: number, fall: number, seed: number, dense: number, out: Ptr): void;
	placeCells(cells: Ptr, width: number, height: number, table: Ptr, unit: 0 | 1, x: Ptr, y: Ptr, z: Ptr): void;
	placeSome(
		cell: Ptr,
		x: Ptr,
		y: Ptr,
		count: number,
		cells: Ptr,
		x0: number,
		y0: number,
		step: number,
		table: Ptr,
		unit: 0 | 1,
		toX: Ptr,
		toY: Ptr,
		toZ: Ptr,
	): void;
	wantedCells(cells: Ptr, only: Ptr, count: number, index: Ptr): number;
	takeCells(index: Ptr, count: number, plane: Ptr, out: Ptr): void;
	putCells(index: Ptr, count: number, values: Ptr, plane: Ptr): void;
	alongSurface(x: Ptr, y: Ptr, z: Ptr, nx: Ptr, ny: Ptr, nz: Ptr, count: number, u: Ptr, v: Ptr, w: Ptr): void;
	joinFields(how: number, field: Ptr, source: Ptr, count: number, amount: number): void;
	levelField(field: Ptr, count: number, black: number, over: number, power: number): void;
	fillField(field: Ptr, count: number, value: number): void;
	toneBytes(field: Ptr, count: number, out: Ptr): void;
	boxField(field: Ptr, width: number, height: number, r: number, lines: Ptr): void;
	growField(field: Ptr, width: number, height: number, by: number, levels: Ptr, out: Ptr): void;
	widenField(field: Ptr, width: number, height: number, by: number, out: Ptr): void;
	smudgeField(
		wide: Ptr,
		width: number,
		height: number,
		by: number,
		taps: number,
		length: number,
		dx: number,
		dy: number,
		out: Ptr,
	): void;
	warpField(field: Ptr, clouds: Ptr, width: number, height: number, by: number, most: number, out: Ptr): void;
	rampCells(cells: Ptr, plane: Ptr, count: number, by: number, add: number, out: Ptr): void;
	edgeSquares(
		cells: Ptr,
		width: number,
		height: number,
		islands: Ptr,
		x0: number,
		y0: number,
		step: number,
		edges: Ptr,
		count: number,
		reach: number,
		out: Ptr,
	): void;
	bandField(field: Ptr, count: number, inner: number, end: number, reach: number): void;
	finerBytes(
		field: Ptr,
		width: number,
		height: number,
		scale: number,
		x: number,
		y: number,
		lines: Ptr,
		out: Ptr,
		outWidth: number,
		outHeight: number,
	): number;
	hashBytes(at: Ptr, bytes: number, seed: number, out: Ptr): void;
	occlusion(
		nodes: Ptr,
		leaves: Ptr,
		stack: Ptr,
		places: Ptr,
		count: number,
		ways: Ptr,
		rays: number,
		reach: number,
		fades: 0 | 1,
		lift: number,
		out: Ptr,
	): void;
	rayLengths(nodes: Ptr, leaves: Ptr, stack: Ptr, rays: Ptr, count: number, far: number, out: Ptr): void;
	rayMeets(nodes: Ptr, leaves: Ptr, stack: Ptr, rays: Ptr, count: number, far: number, out: Ptr, faces: Ptr): void;
	shadeCells(
		cells: Ptr,
		x: Ptr,
		y: Ptr,
		z: Ptr,
		rise: Ptr,
		occluded: Ptr,
		edge: Ptr,
		hollow: Ptr,
		jitter: Ptr,
		count: number,
		rig: Ptr,
		room: Ptr,
		out: Ptr,
	): void;
	leanNormals(cells: Ptr, x: Ptr, y: Ptr, z: Ptr, count: number, slopes: Ptr, step: number, rises: Ptr): void;
	strokeNormals(
		cells: Ptr,
		px: Ptr,
		py: Ptr,
		pz: Ptr,
		nx: Ptr,
		ny: Ptr,
		nz: Ptr,
		count: number,
		strokes: Ptr,
		from: Ptr,
		list: Ptr,
		low: number,
		box: number,
		side: number,
		jitter: Ptr,
	): void;
	bendCells(
		cells: Ptr,
		px: Ptr,
		py: Ptr,
		pz: Ptr,
		nx: Ptr,
		ny: Ptr,
		nz: Ptr,
		count: number,
		edges: Ptr,
		from: Ptr,
		list: Ptr,
		x0: number,
		y0: number,
		z0: number,
		box: number,
		side: number,
		width: number,
		off: number,
		out: Ptr,
		into: Ptr,
	): void;
	slopeField(plane: Ptr, count: number, by: number, add: number, out: Ptr): void;
	deepTones(field: Ptr, count: number, out: Ptr): void;
	toneDeeps(tones: Ptr, count: number, out: Ptr): void;
	carryColor: CarryRun;
	carryMask: CarryRun;
}
