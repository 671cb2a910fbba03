import { joined } from '../surface/index.ts';
import { pngChunk, pngChunks } from './png.ts';

/** Bytes of a PNG's signature. */
const SIGNATURE = 8;

const number32 = (value: number): Uint8Array => {
	const out = new Uint8Array(4);
	new DataView(out.buffer).setUint32(0, value);
	return out;
};

/**
 * Pictures of one size and kind as one animated PNG that begins again when it ends (W3C PNG 3, animation chunks). Each is a
 * PNG already, and is not pressed anew. Throws RangeError where there is none.
 */
export function animatedPng(frames: readonly Uint8Array[], milliseconds: number): Uint8Array<ArrayBuffer> {
	const [first] = frames;
	if (!first) throw new RangeError('An animated picture needs one picture at least.');
	const head = pngChunks(first).find(({ type }) => type === 'IHDR')?.data as Uint8Array;
	const parts = [
		first.subarray(0, SIGNATURE),
		pngChunk('IHDR', head),
		pngChunk('acTL', joined([number32(frames.length), number32(0)])),
	];
	let sequence = 0;
	frames.forEach((frame, n) => {
		const [delay, whole] = [new Uint8Array(4), new Uint8Array(2)];
		new DataView(delay.buffer).setUint16(0, milliseconds);
		new DataView(delay.buffer).setUint16(2, 1000);
		const place = [number32(0), number32(0)];
		parts.push(pngChunk('fcTL', joined([number32(sequence++), head.subarray(0, 8), ...place, delay, whole])));
		for (const { type, data } of pngChunks(frame)) {
			if (type !== 'IDAT') continue;
			parts.push(n === 0 ? pngChunk('IDAT', data) : pngChunk('fdAT', joined([number32(sequence++), data])));
		}
	});
	parts.push(pngChunk('IEND', new Uint8Array(0)));
	return joined(parts);
}
