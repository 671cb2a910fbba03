import type { LaidMesh } from '../mesh/index.ts';
import { triangleSpans } from './spans.ts';

/**
 * Which texel of a sheet shows which face. Inside, each face has row spans; around the islands lies the gutter, whose
 * texels (the bleed) each continue the face of their nearest inside texel.
 */
export interface TexelMap {
	readonly width: number;
	readonly height: number;
	/** Texels that the gutter reaches out. */
	readonly bleed: number;
	/** Face + 1 of each inside texel, else 0; row by row. */
	readonly faceOfTexel: Uint16Array | Uint32Array;
	/** Per face: its first row; its spans are spans[2·offset .. ] as [x0, x1) pairs, one a row. */
	readonly firstRow: Uint16Array;
	readonly spanOffset: Uint32Array;
	readonly spans: Uint16Array;
	/** Per face: its run in the gutter lists. */
	readonly gutterOffset: Uint32Array;
	/** Gutter texels as row-by-row indexes, and for each the inside texel that it continues. */
	readonly gutterTexel: Uint32Array;
	readonly gutterSource: Uint32Array;
}

/** A list of unsigned integers that grows. */
class Growing {
	list = new Uint32Array(1 << 14);
	length = 0;
	push(value: number): void {
		if (this.length === this.list.length) {
			const more = new Uint32Array(this.length * 2);
			more.set(this.list);
			this.list = more;
		}
		this.list[this.length++] = value;
	}
}

/** The texel map of the faces for which `onSheet` holds, for a sheet of width by height and a gutter of `bleed`. */
export function buildTexelMap(
	mesh: LaidMesh,
	onSheet: (face: number) => boolean,
	width: number,
	height: number,
	bleed: number,
): TexelMap {
	const { uvs, indices } = mesh;
	const faces = indices.length / 3;
	const faceOfTexel = faces < 65535 ? new Uint16Array(width * height) : new Uint32Array(width * height);
	const firstRow = new Uint16Array(faces);
	const spanOffset = new Uint32Array(faces + 1);
	let spans = new Uint16Array(1 << 16);
	let count = 0;
	for (let face = 0; face < faces; face++) {
		spanOffset[face] = count;
		if (!onSheet(face)) continue;
		const [a, b, c] = [indices[face * 3] as number, indices[face * 3 + 1] as number, indices[face * 3 + 2] as number];
		const first = triangleSpans(
			(uvs[a * 2] as number) * width,
			(uvs[a * 2 + 1] as number) * height,
			(uvs[b * 2] as number) * width,
			(uvs[b * 2 + 1] as number) * height,
			(uvs[c * 2] as number) * width,
			(uvs[c * 2 + 1] as number) * height,
			width,
			height,
			(y, x0, x1) => {
				if (count * 2 === spans.length) {
					const more = new Uint16Array(spans.length * 2);
					more.set(spans);
					spans = more;
				}
				spans[count * 2] = x0;
				spans[count * 2 + 1] = x1;
				count++;
				faceOfTexel.fill(face + 1, y * width + x0, y * width + x1);
			},
		);
		firstRow[face] = Math.max(0, first);
	}
	spanOffset[faces] = count;
	const gutter = growGutter(faceOfTexel, width, height, bleed);
	// The gutter by face, so that a face is walked with the texels that continue it.
	const gutterOffset = new Uint32Array(faces + 1);
	const sources = gutter.source;
	for (let i = 0; i < gutter.texels.length; i++) {
		const face = faceOfTexel[sources[gutter.texels.list[i] as number] as number] as number;
		gutterOffset[face] = (gutterOffset[face] as number) + 1;
	}
	for (let face = 0; face < faces; face++)
		gutterOffset[face + 1] = (gutterOffset[face + 1] as number) + (gutterOffset[face] as number);
	const next = gutterOffset.slice();
	const gutterTexel = new Uint32Array(gutter.texels.length);
	const gutterSource = new Uint32Array(gutter.texels.length);
	for (let i = 0; i < gutter.texels.length; i++) {
		const texel = gutter.texels.list[i] as number;
		const source = sources[texel] as number;
		const face = (faceOfTexel[source] as number) - 1;
		const at = next[face] as number;
		next[face] = at + 1;
		gutterTexel[at] = texel;
		gutterSource[at] = source;
	}
	return {
		width,
		height,
		bleed,
		faceOfTexel,
		firstRow,
		spanOffset,
		spans: spans.slice(0, count * 2),
		gutterOffset,
		gutterTexel,
		gutterSource,
	};
}

/** Breadth-first from the islands' borders: each gutter texel keeps the nearest inside texel that reaches it. */
function growGutter(
	faceOfTexel: Uint16Array | Uint32Array,
	width: number,
	height: number,
	bleed: number,
): { readonly texels: Growing; readonly source: Int32Array } {
	const source = new Int32Array(width * height).fill(-1);
	const texels = new Growing();
	let front = new Growing();
	for (let y = 0; y < height; y++)
		for (let x = 0, i = y * width; x < width; x++, i++) {
			if (!faceOfTexel[i]) continue;
			if (
				(x > 0 && !faceOfTexel[i - 1]) ||
				(x + 1 < width && !faceOfTexel[i + 1]) ||
				(y > 0 && !faceOfTexel[i - width]) ||
				(y + 1 < height && !faceOfTexel[i + width])
			) {
				source[i] = i;
				front.push(i);
			}
		}
	const reach = bleed * bleed;
	for (let ring = 0; ring < bleed && front.length; ring++) {
		const last = front;
		front = new Growing();
		for (let k = 0; k < last.length; k++) {
			const i = last.list[k] as number;
			const from = source[i] as number;
			const fx = from % width;
			const fy = (from - fx) / width;
			const x = i % width;
			const y = (i - x) / width;
			for (let yy = Math.max(0, y - 1); yy <= Math.min(height - 1, y + 1); yy++)
				for (let xx = Math.max(0, x - 1); xx <= Math.min(width - 1, x + 1); xx++) {
					const j = yy * width + xx;
					if (faceOfTexel[j]) continue;
					const d = (xx - fx) * (xx - fx) + (yy - fy) * (yy - fy);
					if (d > reach) continue;
					const known = source[j] as number;
					if (known < 0) {
						source[j] = from;
						texels.push(j);
						front.push(j);
					} else if (known !== from) {
						const kx = known % width;
						const ky = (known - kx) / width;
						if (d < (xx - kx) * (xx - kx) + (yy - ky) * (yy - ky)) source[j] = from;
					}
				}
		}
	}
	return { texels, source };
}

/** Calls `run(y, x0, x1)` for the spans of a face and `texel(x, y)` for the gutter that continues it. */
export function eachTexelOfFace(
	map: TexelMap,
	face: number,
	run: (y: number, x0: number, x1: number) => void,
	texel: (x: number, y: number) => void,
): void {
	const start = map.spanOffset[face] as number;
	const end = map.spanOffset[face + 1] as number;
	for (let s = start, y = map.firstRow[face] as number; s < end; s++, y++) {
		const x0 = map.spans[s * 2] as number;
		const x1 = map.spans[s * 2 + 1] as number;
		if (x1 > x0) run(y, x0, x1);
	}
	for (let g = map.gutterOffset[face] as number; g < (map.gutterOffset[face + 1] as number); g++) {
		const i = map.gutterTexel[g] as number;
		texel(i % map.width, Math.floor(i / map.width));
	}
}

/** The face whose inside (or bleed) covers a texel, or -1. */
export function faceAt(map: TexelMap, x: number, y: number): number {
	const [tx, ty] = [Math.floor(x), Math.floor(y)];
	if (tx < 0 || ty < 0 || tx >= map.width || ty >= map.height) return -1;
	return (map.faceOfTexel[ty * map.width + tx] as number) - 1;
}
