import type { Writers } from '@eppu/core/handoff';
import { type Codecs, once } from '@eppu/core/jobs';
import { createPngReader, createPngWriter } from '@eppu/kernels/png';
import { createWebpWriter } from '@eppu/kernels/webp';
import pngUrl from '@jsquash/png/codec/pkg/squoosh_png_bg.wasm?url&no-inline';
import webpUrl from '@jsquash/webp/codec/enc/webp_enc.wasm?url&no-inline';

/** What picture files are read and written with, each brought when it is first wanted. */
export const codecs: Codecs = {
	png: once(() => fetch(pngUrl).then(createPngWriter)),
	readPng: once(() => fetch(pngUrl).then(createPngReader)),
	webp: once(() => WebAssembly.compileStreaming(fetch(webpUrl)).then(createWebpWriter)),
};

/** The writers of all kinds of picture files. */
export const writers = async (): Promise<Writers> => {
	const [png, webp] = await Promise.all([codecs.png(), codecs.webp()]);
	return { png, webp };
};
