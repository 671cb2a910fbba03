import type { Writers } from '@eppu/core/handoff';
import { createWebpWriter } from '@eppu/kernels/webp';
import webpUrl from '@jsquash/webp/codec/enc/webp_enc.wasm?url&no-inline';
import { pngWriter } from './pngWriter.ts';

let known: Promise<Writers> | null = null;

/** What pictures are written with, brought when it is first wanted. */
export function writers(): Promise<Writers> {
	known ??= Promise.all([pngWriter(), WebAssembly.compileStreaming(fetch(webpUrl)).then(createWebpWriter)]).then(
		([png, webp]) => ({ png, webp }),
	);
	known.catch(() => {
		known = null;
	});
	return known;
}
