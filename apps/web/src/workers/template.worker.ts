/** Reads the islands of a template picture; the page moves dials meanwhile, and asks again. */
import { topologyOf, writeGlb } from '@eppu/core/mesh';
import { type Drawn, drawnOf, flatMesh, type Reading, regionsOf, usualReading } from '@eppu/core/regions';
import type { FoundIslands, TemplateAsked } from '../studio/islands.ts';
import { shownMesh } from './shownModel.ts';

/** The longest side at which a template is read: finer lines than that do not make other islands. */
const MOST_SIDE = 2048;

let drawn: Drawn | null = null;

async function look({ picture, width, height }: Extract<TemplateAsked, { picture: Blob }>): Promise<void> {
	const by = Math.min(1, MOST_SIDE / Math.max(width, height));
	const [w, h] = [Math.max(1, Math.round(width * by)), Math.max(1, Math.round(height * by))];
	const bitmap = await createImageBitmap(picture, { resizeWidth: w, resizeHeight: h, resizeQuality: 'high' });
	const context = new OffscreenCanvas(w, h).getContext('2d') as OffscreenCanvasRenderingContext2D;
	context.drawImage(bitmap, 0, 0);
	bitmap.close();
	const { data } = context.getImageData(0, 0, w, h);
	drawn = drawnOf({ width: w, height: h, data: new Uint8Array(data.buffer) });
}

async function found(reading: Reading | null, id: string, sheet: string): Promise<FoundIslands> {
	if (!drawn) throw new Error('The template could not be read.');
	const used = reading ?? usualReading(drawn);
	const regions = regionsOf(drawn, used);
	if (regions.texels.length === 0)
		return { reading: used, islands: 0, specks: regions.specks, shown: null, file: null };
	const mesh = flatMesh(regions);
	const topology = topologyOf(mesh);
	const parts = mesh.parts.map(() => sheet);
	return {
		reading: used,
		islands: mesh.parts.length,
		specks: regions.specks,
		shown: shownMesh(id, mesh, topology, parts),
		file: await writeGlb(mesh),
	};
}

addEventListener('message', async ({ data }: MessageEvent<TemplateAsked>) => {
	try {
		if ('picture' in data) await look(data);
		postMessage({ ask: data.ask, found: await found(data.reading, 'template', data.sheet) });
	} catch (error) {
		console.error(error);
		postMessage({ ask: data.ask, found: null });
	}
});
