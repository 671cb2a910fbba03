import { createHash } from 'node:crypto';
import { deflateRawSync, inflateRawSync } from 'node:zlib';
import { type Project, surfacesOfProject } from '@eppu/core/document';
import type { Delta, KeptTile } from '@eppu/core/engine';
import type { PackedTile } from '@eppu/core/format';
import { TILE, tileBytes } from '@eppu/core/surface';
import { asc, eq, inArray, sql } from 'drizzle-orm';
import type { Database } from './database.ts';
import { StoreError } from './error.ts';
import { blobs, tiles, WHOLE } from './schema.ts';

export const sha256 = (bytes: Uint8Array): string => createHash('sha256').update(bytes).digest('hex');

/** What the document says of a surface: bytes of a tile's texels, and how many tiles it has. */
export interface SurfaceShape {
	readonly bytes: number;
	readonly tiles: number;
}

/** Every surface that a project names. */
export const shapesOf = (project: Project): Map<string, SurfaceShape> =>
	new Map(
		surfacesOfProject(project).map(({ id, format, width, height }): [string, SurfaceShape] => [
			id,
			{ bytes: tileBytes(format), tiles: Math.ceil(width / TILE) * Math.ceil(height / TILE) },
		]),
	);

/** Refuses tiles that do not fit the project: of no surface of it, beyond a sheet, or of values that cannot be. */
export function checkPlaces(shapes: ReadonlyMap<string, SurfaceShape>, list: readonly PackedTile[]): void {
	for (const { surface, index, count, value } of list) {
		const shape = shapes.get(surface);
		if (!shape) throw new StoreError('bad-input', 'A tile in what was sent belongs to no layer of the project.');
		if (index + count > shape.tiles)
			throw new StoreError('bad-input', 'A tile in what was sent lies beyond its sheet.');
		if (value !== null && shape.bytes === TILE * TILE && value > 255)
			throw new StoreError('bad-input', 'A tile of a mask in what was sent holds a value that is none.');
	}
}

/**
 * Tiles with their texels as they are: for who reads them at once on the same machine, where a wire costs nothing. One
 * that cannot be inflated goes as it is kept: whoever opens the project says what is wrong.
 */
export const bareTiles = (list: readonly PackedTile[]): PackedTile[] =>
	list.map((tile) => {
		if (!tile.blob) return tile;
		try {
			return { ...tile, blob: inflateRawSync(tile.blob, { maxOutputLength: tileBytes('color') }), bare: true };
		} catch {
			return tile;
		}
	});

/** Bytes of texels by their hash. */
export type Lengths = ReadonlyMap<string, number>;

/** Keeps texels by their hash and tells their lengths. Those that are not what they say are refused. */
export function putBlobs(db: Pick<Database, 'insert'>, list: readonly PackedTile[]): Lengths {
	const lengths = new Map<string, number>();
	for (const { blob, hash, bare } of list) {
		if (!blob || !hash) continue;
		if (bare) throw new StoreError('bad-input', 'A tile in what was sent is not packed.');
		let raw: Buffer;
		try {
			raw = inflateRawSync(blob, { maxOutputLength: tileBytes('color') });
		} catch {
			throw new StoreError('bad-input', 'A tile in what was sent cannot be unpacked.');
		}
		if (sha256(raw) !== hash) throw new StoreError('bad-input', 'A tile in what was sent does not match its own hash.');
		lengths.set(hash, raw.length);
		db.insert(blobs)
			.values({ hash, bytes: Buffer.from(blob) })
			.onConflictDoNothing()
			.run();
	}
	return lengths;
}

/**
 * Puts tiles in their places; what stood there is noted as what was until revision `until` (null notes nothing: the
 * project is new). Texels must be kept already, with `lengths`.
 */
export function putTiles(
	db: Database,
	project: string,
	shapes: ReadonlyMap<string, SurfaceShape>,
	list: readonly PackedTile[],
	lengths: Lengths,
	until: number | null,
	at: number,
): void {
	checkPlaces(shapes, list);
	for (const { surface, hash } of list)
		if (hash && lengths.get(hash) !== shapes.get(surface)?.bytes)
			throw new StoreError('bad-input', 'A tile in what was sent is not of its layer’s kind.');
	const place = {
		project: sql.placeholder('project'),
		surface: sql.placeholder('surface'),
		index: sql.placeholder('index'),
	};
	const here = sql`project = ${place.project} and surface = ${place.surface} and idx = ${place.index}`;
	const what = { value: sql`excluded.value`, hash: sql`excluded.hash` };
	const put = db
		.insert(tiles)
		.values({ ...place, value: sql.placeholder('value'), hash: sql.placeholder('hash') })
		.onConflictDoUpdate({ target: [tiles.project, tiles.surface, tiles.index], set: what })
		.prepare();
	const take = db.delete(tiles).where(here).prepare();
	const note = (surface: string, index: number): void => {
		if (until !== null)
			db.run(
				sql`insert or ignore into past_tile (project, surface, idx, until, value, hash, at) select ${project}, ${surface}, ${index}, ${until}, tile.value, tile.hash, ${at} from (select 1) left join tile on tile.project = ${project} and tile.surface = ${surface} and tile.idx = ${index}`,
			);
	};
	const wholes = new Map<string, boolean>();
	const hasWhole = (surface: string): boolean => {
		let found = wholes.get(surface);
		if (found === undefined) {
			found = Boolean(
				db.get(sql`select 1 from tile where project = ${project} and surface = ${surface} and idx = ${WHOLE}`),
			);
			wholes.set(surface, found);
		}
		return found;
	};
	for (const { surface, index, count, value, hash } of list) {
		if (count === shapes.get(surface)?.tiles && value !== null && count > 1) {
			if (until !== null)
				db.run(
					sql`insert or ignore into past_tile (project, surface, idx, until, value, hash, at) select project, surface, idx, ${until}, value, hash, ${at} from tile where project = ${project} and surface = ${surface}`,
				);
			note(surface, WHOLE);
			db.run(sql`delete from tile where project = ${project} and surface = ${surface}`);
			if (value !== 0) put.run({ project, surface, index: WHOLE, value, hash: null });
			wholes.set(surface, value !== 0);
			continue;
		}
		for (let i = index; i < index + count; i++) {
			note(surface, i);
			// An empty tile has no row, but where the whole has a value it must say that it is empty.
			if (value === 0 && !hasWhole(surface)) take.run({ project, surface, index: i });
			else put.run({ project, surface, index: i, value, hash });
		}
	}
}

/** The tiles of a project that its document names, texels left out: their hashes say which they are. */
export function tilesOf(db: Database, id: string, shapes: ReadonlyMap<string, SurfaceShape>): PackedTile[] {
	const list = db
		.select({ surface: tiles.surface, index: tiles.index, value: tiles.value, hash: tiles.hash })
		.from(tiles)
		.where(eq(tiles.project, id))
		.orderBy(asc(tiles.surface), asc(tiles.index))
		.all();
	return list.flatMap(({ surface, index, value, hash }) => {
		const shape = shapes.get(surface);
		if (!shape) return [];
		const whole = index === WHOLE;
		return [{ surface, index: whole ? 0 : index, count: whole ? shape.tiles : 1, value, hash, blob: null }];
	});
}

/** So many tiles are read at once. */
const AT_ONCE = 64;

/** Tiles with their texels, some at a time. One whose texels are gone is left out. */
export function* withTexels(db: Database, list: readonly PackedTile[]): Generator<PackedTile[]> {
	for (let at = 0; at < list.length; at += AT_ONCE) {
		const some = list.slice(at, at + AT_ONCE);
		const hashes = some.flatMap((tile) => tile.hash ?? []);
		const found = new Map(
			hashes.length
				? db
						.select()
						.from(blobs)
						.where(inArray(blobs.hash, hashes))
						.all()
						.map((row) => [row.hash, row.bytes])
				: [],
		);
		yield some.flatMap((tile) => {
			if (tile.hash === null) return [tile];
			const blob = found.get(tile.hash);
			return blob ? [{ ...tile, blob }] : [];
		});
	}
}

/** What is wrong with kept tiles: texels that are not what they say, or do not fit their surface. */
export function tileProblems(shapes: ReadonlyMap<string, SurfaceShape>, list: readonly PackedTile[]): string[] {
	return list.flatMap(({ surface, index, count, hash, blob }) => {
		const shape = shapes.get(surface);
		if (shape && index + count > shape.tiles) return [`Tile ${index} of "${surface}" lies beyond its sheet.`];
		if (!blob) return [];
		try {
			const raw = inflateRawSync(blob);
			if (sha256(raw) === hash && raw.length === shape?.bytes) return [];
		} catch {
			// Told below.
		}
		return [`Tile ${index} of "${surface}" is not what it was.`];
	});
}

/** A tile as it is stored: texels deflated, with their hash. */
export function packedTile({ surface, index, count = 1, value, texels }: KeptTile): PackedTile {
	if (!texels) return { surface, index, count, value: value ?? 0, hash: null, blob: null };
	const blob = deflateRawSync(texels, { level: 1 });
	return { surface, index, count: 1, value: null, hash: sha256(texels), blob };
}

/** A delta as it is stored. */
export const packDelta = ({ tiles: list }: Delta): PackedTile[] => list.map(packedTile);

/** Stored tiles as the engine opens them. */
export function* keptTiles(list: Iterable<readonly PackedTile[]>): Iterable<KeptTile> {
	for (const some of list)
		for (const { surface, index, count, value, blob } of some)
			yield { surface, index, count, value, texels: blob ? new Uint8Array(inflateRawSync(blob)) : null };
}
