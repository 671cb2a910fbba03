import { allTiles, type Id, sheetOf } from '../document/index.ts';
import type { Pool } from '../jobs/index.ts';
import { type Picture, tileBytes, tileIntoPicture } from '../surface/index.ts';
import type { Engine } from './engine.ts';
import { createLending } from './lending.ts';

/** Tiles that a member composites at a time. */
const BATCH = 64;
/** After all others: what is on the screen comes first. */
const RANK = 2;

/** Computes all that follows from the document with a pool, for an engine that nobody looks at or changes meanwhile. */
export async function settleWith(engine: Engine, pool: Pool): Promise<void> {
	const lending = createLending(() => true);
	let wake = (): void => {};
	while (engine.due) {
		const back = new Promise<void>((resolve) => {
			wake = resolve;
		});
		lending.lend(engine, pool, () => wake());
		// What nobody else can do is done here; what they have is waited for.
		if (lending.out) await back;
		else engine.refresh(() => false);
		if (!engine.left) engine.refresh(() => true);
	}
}

/**
 * A sheet's composite, made by a pool: the texels of `engine.composite`, all of one moment. Null where the engine was
 * changed or painted meanwhile, or the pool could not do it: whoever asked has it made by the engine then.
 */
export async function pictureWith(engine: Engine, pool: Pool, id: Id): Promise<Picture | null> {
	const sheet = sheetOf(engine.project, id);
	if (!sheet || engine.due || engine.stroking) return null;
	const { turn } = engine;
	const picture = { width: sheet.width, height: sheet.height, data: new Uint8Array(sheet.width * sheet.height * 4) };
	const tiles = allTiles(sheet);
	const bytes = tileBytes('color');
	const done = await Promise.all(
		Array.from({ length: Math.ceil(tiles.length / BATCH) }, async (_, n) => {
			const part = tiles.slice(n * BATCH, (n + 1) * BATCH);
			const work = engine.compositeWork(id, part);
			const made = work && (await pool.do(work, RANK));
			part.forEach((tile, i) => {
				if (made) tileIntoPicture(made.subarray(i * bytes, (i + 1) * bytes), picture, tile);
			});
			return made !== null;
		}),
	);
	return engine.turn === turn && !engine.stroking && done.every(Boolean) ? picture : null;
}
