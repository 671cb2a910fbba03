import { type ExchangeWhat, type ReadSaving, readSaving } from '@eppu/core/handoff';
import type { Pool } from '@eppu/core/jobs';
import { exchangeApi } from '../server/exchange.ts';
import type { OutThere } from '../studio/told.ts';
import { picturesBeside, readerBeside } from './reading.ts';

/** More bytes of pictures than these are not held for the next saving. */
const MOST_HELD = 192 * 1024 * 1024;

/** What went out or was saved, by what is out and its number: the next saving is laid beside it. */
const held = new Map<string, ReadSaving>();

const keyOf = (id: string, n: number): string => `${id} ${n}`;

/** Bytes of the pictures of a saving that was read; those that several share count once. */
const picturesOf = (saving: ReadSaving): readonly Uint8Array[] =>
	saving.of === 'picture' ? [saving.picture.data] : [...saving.layers.texels.values()].map(({ patch }) => patch.data);

/** Forgets what was read: another project is opened. */
export const forgetSavings = (): void => held.clear();

/** Holds what both sides agree on, and what went out, while there is room for it. */
function hold(id: string, n: number, saving: ReadSaving): void {
	for (const key of held.keys()) if (key !== keyOf(id, 0)) held.delete(key);
	held.set(keyOf(id, n), saving);
	const all = new Set([...held.values()].flatMap(picturesOf));
	if ([...all].reduce((sum, { byteLength }) => sum + byteLength, 0) > MOST_HELD) held.clear();
}

async function readOne(
	pool: Pool | null,
	what: ExchangeWhat,
	bytes: Uint8Array,
	name: string,
	sent: ReadSaving | null,
): Promise<ReadSaving> {
	const layered = what.of === 'sheet';
	const known = layered ? await picturesBeside(pool, [bytes], name, false) : undefined;
	const read = await readerBeside(pool, layered ? [] : [bytes]);
	return readSaving(what, bytes, name, read, () => crypto.randomUUID(), sent, known);
}

/** What went out just now is most of what will come back: it is read before that does. */
export async function readSent(pool: Pool | null, { id, what, file }: OutThere, bytes: Uint8Array): Promise<void> {
	hold(id, 0, await readOne(pool, what, bytes, file, null));
}

/**
 * What both sides agree on of what is out, and a saving of it: the server has both, and gives what is not held. Throws
 * ApiError where it does not, OpenRasterError and OrderError where it cannot be read.
 */
export async function sidesOf(
	pool: Pool | null,
	{ id, what, file, agreed }: OutThere,
	n: number,
): Promise<{ readonly agreed: ReadSaving; readonly saved: ReadSaving }> {
	const bytes = exchangeApi.saving(id, n);
	// It is waited for further down; where what comes before it fails, that is told.
	bytes.catch(() => undefined);
	const sent = held.get(keyOf(id, 0)) ?? (await readOne(pool, what, await exchangeApi.sent(id), file, null));
	const before =
		agreed === 0
			? sent
			: (held.get(keyOf(id, agreed)) ?? (await readOne(pool, what, await exchangeApi.agreed(id), file, sent)));
	const saved = await readOne(pool, what, await bytes, file, sent);
	hold(id, 0, sent);
	hold(id, n, saved);
	return { agreed: before, saved };
}
