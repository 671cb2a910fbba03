/** Makes one PNG smaller, which takes seconds; whoever asked ends the worker. */
import { createPngPress } from '@eppu/kernels/png';
import wasmUrl from '@jsquash/oxipng/codec/pkg/squoosh_oxipng_bg.wasm?url&no-inline';

addEventListener('message', async ({ data }: MessageEvent<Uint8Array>) => {
	try {
		const press = await createPngPress(await fetch(wasmUrl));
		postMessage({ png: press(data) });
	} catch (error) {
		console.error(error);
		postMessage({ png: null });
	}
});
