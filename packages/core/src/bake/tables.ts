import type { Kernels, Ptr } from '@eppu/kernels';
import type { Mesh } from '../mesh/index.ts';

/** Tables in the kernels' memory, in their order, with what else was made with them. */
export interface TablesAt<T> {
	readonly at: readonly Ptr[];
	readonly of: T;
}

interface Kept {
	readonly mesh: Mesh;
	readonly says: string;
	readonly made: TablesAt<unknown>;
	drop(): void;
}

/** So many are kept at hand for each kernels. */
const MOST_KEPT = 6;
const kept = new WeakMap<Kernels, Kept[]>();

/** Tables of a mesh by what they say, made where they are not at hand; those asked for longest ago are let go of. */
export function tablesAt<T>(
	kernels: Kernels,
	mesh: Mesh,
	says: string,
	make: () => { readonly tables: readonly (Float32Array | Uint32Array)[]; readonly of: T },
): TablesAt<T> {
	const { heap } = kernels;
	const list = kept.get(kernels) ?? [];
	kept.set(kernels, list);
	const n = list.findIndex((each) => each.mesh === mesh && each.says === says);
	let found = n >= 0 ? (list.splice(n, 1)[0] as Kept) : null;
	if (!found) {
		const { tables, of } = make();
		const sizes = tables.map((table) => Math.max(16, table.byteLength));
		const at = sizes.map((size) => heap.alloc(size));
		tables.forEach((table, i) => {
			const to = new Uint8Array(heap.memory.buffer, at[i] as Ptr, table.byteLength);
			to.set(new Uint8Array(table.buffer, table.byteOffset, table.byteLength));
		});
		const drop = (): void => at.forEach((each, i) => void heap.free(each, sizes[i] as number));
		found = { mesh, says, made: { at, of }, drop };
	}
	list.push(found);
	while (list.length > MOST_KEPT) list.shift()?.drop();
	return found.made as TablesAt<T>;
}

/** What lies in the boxes of a grid: where each box begins in the list, and the numbers of all, box by box. */
export function boxedList(
	boxes: number,
	each: (visit: (box: number, number: number) => void) => void,
): { readonly from: Uint32Array; readonly list: Uint32Array } {
	const from = new Uint32Array(boxes + 1);
	each((box) => {
		from[box + 1] = (from[box + 1] as number) + 1;
	});
	for (let n = 0; n < boxes; n++) from[n + 1] = (from[n + 1] as number) + (from[n] as number);
	const list = new Uint32Array(from[boxes] as number);
	const next = from.slice();
	each((box, number) => {
		list[next[box] as number] = number;
		next[box] = (next[box] as number) + 1;
	});
	return { from, list };
}
