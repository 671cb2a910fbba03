import { createHash } from 'node:crypto';
import { pipeline } from 'node:stream/promises';
import { setImmediate } from 'node:timers/promises';
import { createPackReader, MOST_PACK, type PackedTile, packEnd, packHead, packTiles } from '@eppu/core/format';
import type { Request, Response } from 'express';
import { bareTiles, type Store, StoreError } from '../store/index.ts';

/** What came in a pack; texels of a large one were put down as they came, so that it is never held whole. */
export interface Received<Head> {
	readonly head: Head;
	readonly tiles: readonly PackedTile[];
	readonly ahead: ReadonlyMap<string, number>;
	readonly files: Uint8Array;
	/** SHA-256 of all that came. */
	readonly content: string;
}

/** Bytes of texels that are held before they are put down. */
const HELD = 8 * 1024 * 1024;
/** Bytes of all files that come with a new project. */
const MOST_FILES = 192 * 1024 * 1024;

const tooLarge = (most: number): StoreError =>
	new StoreError(
		'too-large',
		`That is more than the server takes in at once (${Math.round(most / 1048576)} MB). Make sheets smaller, or merge layers.`,
	);

/** Reads a pack as it comes in. Throws PackError or StoreError; what was put down by then is swept. */
export async function receivePack<Head>(request: Request, store: Store): Promise<Received<Head>> {
	if (!/^application\/octet-stream\b/.test(request.headers['content-type'] ?? ''))
		throw new StoreError('bad-input', 'This call needs bytes (application/octet-stream).');
	if (Number(request.headers['content-length'] ?? 0) > MOST_PACK) throw tooLarge(MOST_PACK);
	const reader = createPackReader<Head>();
	const content = createHash('sha256');
	const ahead = new Map<string, number>();
	const tiles: PackedTile[] = [];
	const files: Uint8Array[] = [];
	let head: Head | undefined;
	let held: PackedTile[] = [];
	let heldBytes = 0;
	let all = 0;
	let fileBytes = 0;
	for await (const piece of request as AsyncIterable<Buffer>) {
		all += piece.length;
		if (all > MOST_PACK) throw tooLarge(MOST_PACK);
		content.update(piece);
		for (const part of reader.push(piece))
			if (part.part === 'head') head = part.head;
			else if (part.part === 'files') {
				fileBytes += part.bytes.length;
				if (fileBytes > MOST_FILES) throw tooLarge(MOST_FILES);
				files.push(part.bytes.slice());
			} else
				for (const tile of part.tiles) {
					held.push(tile);
					heldBytes += tile.blob?.length ?? 0;
				}
		if (heldBytes < HELD) continue;
		for (const [hash, length] of store.putAhead(held)) ahead.set(hash, length);
		for (const tile of held) tiles.push({ ...tile, blob: null });
		held = [];
		heldBytes = 0;
		// Other artists' calls are heard in between.
		await setImmediate();
	}
	reader.end();
	const joined = Buffer.concat(files);
	return {
		head: head as Head,
		tiles: [...tiles, ...held],
		ahead,
		files: new Uint8Array(joined.buffer, joined.byteOffset, joined.length),
		content: content.digest('hex'),
	};
}

/** Answers with a pack a piece at a time, no faster than it is taken; `bare` has its texels as they are. */
export async function sendPack(
	response: Response,
	head: unknown,
	tiles: Iterable<readonly PackedTile[]>,
	bare: boolean,
): Promise<void> {
	response.type('application/octet-stream').set('Cache-Control', 'no-store');
	async function* pieces(): AsyncGenerator<Uint8Array> {
		yield packHead(head);
		for (const some of tiles) {
			yield* packTiles(bare ? bareTiles(some) : some);
			// Other artists' calls are heard in between.
			await setImmediate();
		}
		yield packEnd();
	}
	await pipeline(pieces, response).catch((error: NodeJS.ErrnoException) => {
		// Who asked went away.
		if (error.code !== 'ERR_STREAM_PREMATURE_CLOSE') throw error;
	});
}
