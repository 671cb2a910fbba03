import type { Bvh } from './build.ts';

/** Numbers of a node: least and most of its four children, x, y, z, and what each is. */
export const NODE_WORDS = 28;
/** Numbers of a leaf: first corners and both sides of four triangles, x, y and z apart. */
export const LEAF_WORDS = 36;
/** What a node has in the place of a child that is not there. */
const NONE = 0x7fffffff;

/** A tree with four children a node and four triangles a leaf, as the ray kernel reads it (kernels/assembly/rays.ts). */
export interface FourTree {
	/** Boxes as floats; children as whole numbers: another node, or a leaf's number with all its bits turned. */
	readonly nodes: Float32Array;
	readonly leaves: Float32Array;
	/** The mesh's number of each leaf's four triangles. */
	readonly faces: Uint32Array;
}

/** Makes every two levels of a tree one. */
export function fourTree({ mesh, bounds, first, count, order }: Bvh): FourTree {
	const { positions, indices } = mesh;
	const nodes: number[][] = [];
	const leaves: number[][] = [];
	const children: number[][] = [];
	const faces: number[] = [];
	const areaOf = (node: number): number => {
		const [x, y, z] = [0, 1, 2].map((k) => (bounds[node * 6 + 3 + k] as number) - (bounds[node * 6 + k] as number));
		return (x as number) * (y as number) + (y as number) * (z as number) + (z as number) * (x as number);
	};
	const leaf = (node: number): number => {
		const out = new Array<number>(LEAF_WORDS).fill(0);
		for (let i = 0; i < (count[node] as number); i++) {
			const face = order[(first[node] as number) + i] as number;
			faces[leaves.length * 4 + i] = face;
			const corner = (k: number): number[] => {
				const at = (indices[face * 3 + k] as number) * 3;
				return [...positions.subarray(at, at + 3)];
			};
			const [a, b, c] = [corner(0), corner(1), corner(2)] as [number[], number[], number[]];
			for (let k = 0; k < 3; k++) {
				out[k * 4 + i] = a[k] as number;
				out[12 + k * 4 + i] = (b[k] as number) - (a[k] as number);
				out[24 + k * 4 + i] = (c[k] as number) - (a[k] as number);
			}
		}
		return ~(leaves.push(out) - 1);
	};
	const build = (list: number[]): number => {
		const own = [...list];
		while (own.length < 4) {
			const inner = own.filter((node) => count[node] === 0);
			if (inner.length === 0) break;
			const largest = inner.reduce((best, each) => (areaOf(each) > areaOf(best) ? each : best));
			own.splice(own.indexOf(largest), 1, largest + 1, first[largest] as number);
		}
		const at = nodes.length;
		const box = new Array<number>(24).fill(0);
		for (let i = 0; i < 4; i++)
			for (let k = 0; k < 3; k++) {
				const node = own[i];
				const [low, high] =
					node === undefined ? [0, 0] : [bounds[node * 6 + k] as number, bounds[node * 6 + 3 + k] as number];
				// A little larger, so that a ray along a side of it meets it too.
				const more = 1e-6 * Math.max(Math.abs(low), Math.abs(high), high - low);
				box[k * 8 + i] = low - more;
				box[k * 8 + 4 + i] = high + more;
			}
		nodes.push(box);
		const made: number[] = [];
		children.push(made);
		for (const node of own)
			made.push((count[node] as number) > 0 ? leaf(node) : build([node + 1, first[node] as number]));
		return at;
	};
	build(count.length ? [0] : []);
	const packed = new Float32Array(nodes.length * NODE_WORDS);
	const words = new Int32Array(packed.buffer);
	nodes.forEach((box, i) => {
		packed.set(box, i * NODE_WORDS);
		for (let k = 0; k < 4; k++) words[i * NODE_WORDS + 24 + k] = children[i]?.[k] ?? NONE;
	});
	return {
		nodes: packed,
		leaves: Float32Array.from(leaves.flat()),
		faces: Uint32Array.from({ length: leaves.length * 4 }, (_, i) => faces[i] ?? 0),
	};
}
