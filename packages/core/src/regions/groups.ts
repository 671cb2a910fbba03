import { squaredDistances } from '../raster/index.ts';

/** What of a template picture is drawn, and what is the ground around it. */
export interface Drawn {
	readonly width: number;
	readonly height: number;
	/** 0..1 of each texel: how far it is from the ground, 1 where it is as far as what is drawn is. */
	readonly far: Float32Array;
	/** From here on a texel counts as drawn. */
	readonly least: number;
}

/** Texels in groups. */
export interface Groups {
	/** The number of each texel's group, 0 where it is in none. */
	readonly group: Uint32Array;
	readonly sizes: number[];
}

/** Groups of texels for which `like` holds that hang together by their sides; each gets a number from 1 on. */
export function groupsOf(like: (i: number) => boolean, width: number, height: number): Groups {
	const group = new Uint32Array(width * height);
	const sizes: number[] = [];
	const stack: number[] = [];
	for (let start = 0; start < group.length; start++) {
		if (group[start] || !like(start)) continue;
		const number = sizes.length + 1;
		let size = 0;
		group[start] = number;
		stack.push(start);
		const visit = (i: number): void => {
			if (group[i] || !like(i)) return;
			group[i] = number;
			stack.push(i);
		};
		while (stack.length) {
			const i = stack.pop() as number;
			size++;
			const x = i % width;
			if (x > 0) visit(i - 1);
			if (x < width - 1) visit(i + 1);
			if (i >= width) visit(i - width);
			if (i < group.length - width) visit(i + width);
		}
		sizes.push(size);
	}
	return { group, sizes };
}

/** What lies outside of all that is drawn: reached from the rim without passing a line, gaps closed. */
export function outsideOf({ width, height, far, least }: Drawn, gap: number): Uint8Array {
	const reach = gap / 2;
	const drawn = (i: number): boolean => (far[i] as number) >= least;
	const away = squaredDistances(drawn, width, height);
	const open = (i: number): boolean => (away[i] as number) > reach * reach && !drawn(i);
	const { group } = groupsOf(open, width, height);
	const deep = Math.max(4, Math.round(Math.min(width, height) * 0.008));
	const atRim = new Set<number>();
	for (let y = 0; y < height; y++)
		for (let x = 0; x < width; x++)
			if (x < deep || y < deep || x >= width - deep || y >= height - deep) atRim.add(group[y * width + x] as number);
	atRim.delete(0);
	const reached = (i: number): boolean => atRim.has(group[i] as number);
	// What the closing took away beside lines is given back, up to the lines themselves.
	const back = squaredDistances(reached, width, height);
	const grown = (i: number): boolean => !drawn(i) && (back[i] as number) <= (reach + 0.5) ** 2;
	return Uint8Array.from({ length: width * height }, (_, i) => Number(reached(i) || grown(i)));
}
