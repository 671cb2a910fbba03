import type { PngWriter } from '@eppu/kernels';
import { createPngReader, createPngWriter, type PngReader } from '@eppu/kernels/png';
import wasmUrl from '@jsquash/png/codec/pkg/squoosh_png_bg.wasm?url&no-inline';

let known: Promise<PngWriter> | null = null;

/** The PNG writer, brought when it is first wanted. */
export function pngWriter(): Promise<PngWriter> {
	known ??= fetch(wasmUrl).then(createPngWriter);
	known.catch(() => {
		known = null;
	});
	return known;
}

let knownReader: Promise<PngReader> | null = null;

/** The PNG reader, brought when it is first wanted. */
export function pngReader(): Promise<PngReader> {
	knownReader ??= fetch(wasmUrl).then(createPngReader);
	knownReader.catch(() => {
		knownReader = null;
	});
	return knownReader;
}
