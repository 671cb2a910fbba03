/** Reads a file that a whole project comes from, so that the page goes on meanwhile. */
import { apiaryPalette } from '@eppu/core/color';
import { assetsOf, type Desk, type Project } from '@eppu/core/document';
import { openEngine } from '@eppu/core/engine';
import { packPicture } from '@eppu/core/format';
import { OrderError, readProjectZip } from '@eppu/core/handoff';
import { bringOpenRaster, OpenRasterError, readOpenRaster } from '@eppu/core/openraster';
import { createKernels } from '@eppu/kernels';
import wasmUrl from '@eppu/kernels/kernels.wasm?url&no-inline';
import type { ReadWork } from '../actions/newProject.ts';
import { codecs } from '../server/codecs.ts';
import { pressAll } from './pressing.ts';

const stem = (name: string): string => name.replace(/\.[^.]+$/, '').slice(0, 100) || 'Untitled';

/** A picture in layers as a project of one sheet. */
async function layered(bytes: Uint8Array, name: string): Promise<ReadWork> {
	const image = readOpenRaster(bytes, name, await codecs.readPng());
	const id = crypto.randomUUID();
	const project: Project = { schema: 1, id, name: stem(name), palette: apiaryPalette, models: [], sheets: [] };
	const compiled = await fetch(wasmUrl).then((response) => WebAssembly.compileStreaming(response));
	const engine = openEngine(await createKernels(compiled), project, [], new Map());
	try {
		const { notes } = bringOpenRaster(engine, image, stem(name), () => crypto.randomUUID());
		const { project: made, tiles } = engine.whole();
		return { project: made, desk: null, tiles: await pressAll(tiles), files: [], pictures: [], notes };
	} finally {
		engine.close();
	}
}

/** A whole project, under an id of its own: the one that it was written from may be here too. */
async function whole(bytes: Uint8Array, name: string): Promise<ReadWork> {
	const { project, desk, tiles, files, pictures, notes } = readProjectZip(bytes, name, await codecs.readPng());
	const named = assetsOf(project);
	return {
		project: { ...project, id: crypto.randomUUID() },
		desk: desk as Desk | null,
		tiles: await pressAll(tiles),
		files: [...files].map(([hash, content]) => ({
			name: named.find((each) => each.hash === hash)?.name ?? hash.slice(0, 12),
			bytes: content,
		})),
		pictures: [...pictures].map(([id, picture]) => ({ id, bytes: packPicture(picture) })),
		notes,
	};
}

addEventListener('message', async ({ data }: MessageEvent<{ readonly bytes: Uint8Array; readonly name: string }>) => {
	try {
		postMessage(await (/\.ora$/i.test(data.name) ? layered(data.bytes, data.name) : whole(data.bytes, data.name)));
	} catch (error) {
		const known = error instanceof OrderError || error instanceof OpenRasterError;
		postMessage({
			text: known ? (error as Error).message : `${data.name} could not be read: ${(error as Error).message}`,
		});
	}
});
