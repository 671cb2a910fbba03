import type { Kernels, Ptr } from '@eppu/kernels';
import { buildBvh, fourTree } from '../bvh/index.ts';
import { type Mesh, meshBounds } from '../mesh/index.ts';

/** Entries of the kernel's stack, 8 bytes each. */
const STACK_BYTES = 128 * 8;
/** Places that are asked about at once. */
const BATCH = 4096;

/** Rays that are sent by one call, some 20 ms: between calls whoever does them can let others go first. */
const MOST_RAYS = 131_072;

/** Numbers that tell of a place: see `occlusion` in kernels/assembly/rays.ts. */
export const PLACE_NUMBERS = 12;

/** What occlusion is asked for. */
export interface OcclusionOf {
	/** Rays a place. */
	readonly rays: number;
	/** How far what hides counts, in the mesh's units. */
	readonly reach: number;
	/** What is farther counts for the less. */
	readonly fades: boolean;
	/** Half the angle of the cone that is looked into, degrees; 90 is all that a surface can see. */
	readonly spread: number;
}

/** Rays against a mesh, in the kernels; whoever makes it drops it. */
export interface Rays {
	/** How much of what places could see is hidden, 0..1: twelve numbers a place, see `occlusion` in kernels/assembly/rays.ts. */
	occlusion(places: Float32Array, of: OcclusionOf): Float32Array;
	/** How far the nearest triangle is along rays of six numbers, up to `far`. */
	lengths(rays: Float32Array, far: number): Float32Array;
	/** The same with the face that each meets; -1 where it meets none. */
	meets(rays: Float32Array, far: number): { readonly lengths: Float32Array; readonly faces: Int32Array };
	drop(): void;
}

/**
 * Directions about an upright normal, as often as a surface sees light from there (by the cosine): places of a sunflower
 * on the disc below, lifted onto the dome. Source: H. Vogel, "A better way to construct the sunflower head" (1979).
 */
export function domeOf(count: number, spread = 90): Float32Array {
	const out = new Float32Array(count * 3);
	const rim = Math.sin((Math.min(90, spread) * Math.PI) / 180);
	const golden = Math.PI * (3 - Math.sqrt(5));
	for (let i = 0; i < count; i++) {
		const radius = rim * Math.sqrt((i + 0.5) / count);
		const turn = i * golden;
		out.set([radius * Math.cos(turn), radius * Math.sin(turn), Math.sqrt(Math.max(0, 1 - radius * radius))], i * 3);
	}
	return out;
}

export function createRays(kernels: Kernels, mesh: Mesh): Rays {
	const { heap, run } = kernels;
	const { nodes, leaves, faces } = fourTree(buildBvh(mesh));
	const { radius } = meshBounds(mesh);
	/** Rays begin so far off the surface that they do not meet what they begin on. */
	const lift = radius * 2e-5;
	const sizes = [
		nodes.byteLength,
		Math.max(16, leaves.byteLength),
		STACK_BYTES,
		BATCH * PLACE_NUMBERS * 4,
		BATCH * 4,
	] as const;
	const [tree, triangles, stack, places, out] = sizes.map((size) => heap.alloc(size)) as [Ptr, Ptr, Ptr, Ptr, Ptr];
	const floats = (at: Ptr, count: number): Float32Array => new Float32Array(heap.memory.buffer, at, count);
	// As bits: children are whole numbers, which a float may not hold as they are.
	new Uint32Array(heap.memory.buffer, tree, nodes.length).set(
		new Uint32Array(nodes.buffer, nodes.byteOffset, nodes.length),
	);
	floats(triangles, leaves.length).set(leaves);
	/** Asks in batches: `size` numbers each. */
	const batched = (list: Float32Array, size: number, ask: (count: number) => void, most = BATCH): Float32Array => {
		const all = list.length / size;
		const found = new Float32Array(all);
		for (let done = 0; done < all; done += most) {
			const count = Math.min(most, all - done);
			floats(places, count * size).set(list.subarray(done * size, (done + count) * size));
			ask(count);
			found.set(floats(out, count), done);
		}
		return found;
	};
	return {
		occlusion(list, { rays, reach, fades, spread }) {
			const ways = domeOf(rays, spread);
			const at = heap.alloc(ways.byteLength);
			floats(at, ways.length).set(ways);
			const most = Math.max(16, Math.min(BATCH, Math.floor(MOST_RAYS / rays)));
			const far = Math.min(reach, 1e30);
			const ask = (count: number): void =>
				run.occlusion(tree, triangles, stack, places, count, at, rays, far, fades ? 1 : 0, lift, out);
			const found = batched(list, PLACE_NUMBERS, ask, most);
			heap.free(at, ways.byteLength);
			return found;
		},
		lengths: (list, far) =>
			batched(list, 6, (count) => run.rayLengths(tree, triangles, stack, places, count, far, out)),
		meets(list, far) {
			const all = new Int32Array(list.length / 6);
			const at = heap.alloc(BATCH * 4);
			let done = 0;
			const lengths = batched(list, 6, (count) => {
				run.rayMeets(tree, triangles, stack, places, count, far, out, at);
				new Int32Array(heap.memory.buffer, at, count).forEach((met, i) => {
					all[done + i] = met < 0 ? -1 : (faces[met] as number);
				});
				done += count;
			});
			heap.free(at, BATCH * 4);
			return { lengths, faces: all };
		},
		drop() {
			for (const [i, size] of sizes.entries()) heap.free([tree, triangles, stack, places, out][i] as Ptr, size);
		},
	};
}

/** Trees that are kept at hand, for each kernels: a model is asked about tile by tile. */
const MOST_KEPT = 8;
const kept = new WeakMap<Kernels, { readonly mesh: Mesh; readonly rays: Rays }[]>();

/** Rays against a mesh that are kept at hand; those asked for longest ago are let go of. */
export function raysOf(kernels: Kernels, mesh: Mesh): Rays {
	const list = kept.get(kernels) ?? [];
	kept.set(kernels, list);
	const at = list.findIndex((each) => each.mesh === mesh);
	const found = at >= 0 ? (list.splice(at, 1)[0] as (typeof list)[0]) : { mesh, rays: createRays(kernels, mesh) };
	list.push(found);
	while (list.length > MOST_KEPT) list.shift()?.rays.drop();
	return found.rays;
}
