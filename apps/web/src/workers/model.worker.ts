/** Reads one model file, so that the page goes on meanwhile; whoever asked ends the worker to stop it. */
import { readModel } from '@eppu/core/mesh';

addEventListener('message', async (event: MessageEvent<{ readonly bytes: Uint8Array; readonly name: string }>) => {
	const result = await readModel(event.data.bytes, event.data.name);
	postMessage(result);
});
