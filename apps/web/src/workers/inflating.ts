import type { KeptTile } from '@eppu/core/engine';
import type { PackedTile } from '@eppu/core/format';
import { type Inflated, joinedBytes, type Pool, partsOfBytes } from '@eppu/core/jobs';
import { inflateTexels } from '@eppu/core/surface';

/** Tiles that are inflated at once: enough for whoever does it beside the hand, few enough to be shared. */
const BATCH = 48;

interface Batch {
	readonly tiles: readonly PackedTile[];
	done(kept: KeptTile[]): void;
	failed(error: unknown): void;
}

/** Inflates packed tiles beside the hand, and here as well where their texels are waited for. */
export interface Inflating {
	/** Begins; `help` does what nobody has begun yet while it waits. */
	begin(tiles: readonly PackedTile[]): Inflation;
}
export interface Inflation {
	help(): Promise<KeptTile[]>;
}

const kept = ({ surface, index, count, value }: PackedTile, texels: Uint8Array | null): KeptTile => ({
	surface,
	index,
	count,
	value,
	texels: texels as Uint8Array<ArrayBuffer> | null,
});

/** Whether a tile's texels have to be inflated: those of the same machine come as they are. */
const isDeflated = ({ blob, bare }: PackedTile): boolean => blob !== null && !bare;

/** Ends this turn of the thread: answers of others are heard before what follows. */
const nextTurn = (): Promise<void> =>
	new Promise((resolve) => {
		const { port1, port2 } = new MessageChannel();
		port1.onmessage = () => {
			port1.close();
			resolve();
		};
		port2.postMessage(null);
	});

export function createInflating(pool: () => Pool | null): Inflating {
	const due: Batch[] = [];
	const here = ({ tiles, done, failed }: Batch): void => {
		try {
			done(tiles.map((tile) => kept(tile, tile.blob && (tile.bare ? tile.blob : inflateTexels(tile.blob)))));
		} catch (error) {
			failed(error);
		}
	};
	const give = (): void => {
		const members = pool();
		while (members && members.idle > 0) {
			const batch = due.shift();
			if (!batch) return;
			const packed = batch.tiles.filter(isDeflated);
			const work = { job: 'inflate', ...joinedBytes(packed.map(({ blob }) => blob as Uint8Array)) } as const;
			void members.do<Inflated>(work).then((made) => {
				give();
				if (!made) return here(batch);
				const texels = partsOfBytes(made);
				let at = 0;
				batch.done(batch.tiles.map((tile) => kept(tile, isDeflated(tile) ? (texels[at++] ?? null) : tile.blob)));
			});
		}
	};
	return {
		begin(tiles) {
			if (!tiles.some(isDeflated)) {
				const all = tiles.map((tile) => kept(tile, tile.blob));
				return { help: async () => all };
			}
			const parts = Array.from({ length: Math.ceil(tiles.length / BATCH) }, (_, n) => {
				const part = tiles.slice(n * BATCH, (n + 1) * BATCH);
				let batch: Batch | null = null;
				const done = new Promise<KeptTile[]>((resolve, reject) => {
					batch = { tiles: part, done: resolve, failed: reject };
				});
				// Who waits for it hears of it; nobody may.
				done.catch(() => {});
				due.push(batch as unknown as Batch);
				return { batch: batch as unknown as Batch, done };
			});
			give();
			return {
				async help() {
					const own = new Set(parts.map(({ batch }) => batch));
					for (
						let at = due.findIndex((batch) => own.has(batch));
						at >= 0;
						at = due.findIndex((batch) => own.has(batch))
					) {
						here(due.splice(at, 1)[0] as Batch);
						await nextTurn();
						give();
					}
					return (await Promise.all(parts.map(({ done }) => done))).flat();
				},
			};
		},
	};
}
