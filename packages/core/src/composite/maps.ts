import type { Kernels, Ptr } from '@eppu/kernels';
import { CUBE_BYTES, putCube } from '../color/index.ts';
import { type PointTone, toneMap } from '../tone/index.ts';

/** A change of tones in the kernels' memory, with the number by which they know its kind. */
export interface PlacedMap {
	readonly kind: 0 | 1 | 2;
	readonly at: Ptr;
}

/** Maps kept at once; a dial that is dragged makes many. */
const MOST = 24;

/** Changes of tones ready for the kernels, made once for each setting. */
export interface ToneMaps {
	of(op: PointTone): PlacedMap;
	drop(): void;
}

export function createToneMaps(kernels: Kernels): ToneMaps {
	const { heap } = kernels;
	const known = new Map<string, PlacedMap & { readonly bytes: number }>();
	const byOp = new WeakMap<PointTone, PlacedMap>();
	let turn = 0;
	const drop = (): void => {
		for (const { at, bytes } of known.values()) heap.free(at, bytes);
		known.clear();
		turn++;
	};
	const turns = new WeakMap<PointTone, number>();
	return {
		drop,
		of(op) {
			const before = byOp.get(op);
			if (before && turns.get(op) === turn) return before;
			const key = JSON.stringify(op);
			let found = known.get(key);
			if (!found) {
				if (known.size >= MOST) drop();
				const map = toneMap(op);
				const bytes = map.kind === 'cube' ? CUBE_BYTES : map.table.length;
				const at = heap.alloc(bytes);
				if (map.kind === 'cube') putCube(kernels, at, map.change);
				else heap.u8.set(map.table, at);
				found = { kind: map.kind === 'channels' ? 0 : map.kind === 'tone' ? 1 : 2, at, bytes };
				known.set(key, found);
			}
			byOp.set(op, found);
			turns.set(op, turn);
			return found;
		},
	};
}
