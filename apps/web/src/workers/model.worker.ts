/** Reads one model file, so that the page goes on meanwhile; whoever asked ends the worker to stop it. */
import { layAllAnew } from '@eppu/core/arrange';
import { bytesOfLayout } from '@eppu/core/layout';
import { type LaidMesh, readModel, writeGlb } from '@eppu/core/mesh';
import { type Solid, solidMesh } from '@eppu/core/solid';
import { TILE } from '@eppu/core/surface';
import type { PackedNumbers, ReadModel } from '../actions/newProject.ts';
import { pressAll } from './pressing.ts';

/** Texels along the sheet for which a model without UVs is laid out at first. */
const SIDE = 1024;

/** A model that has no UVs, unwrapped by itself: as numbers beside the project. */
async function laidOut(mesh: LaidMesh): Promise<PackedNumbers> {
	const layout = layAllAnew(mesh, { way: 'automatic', less: 0.5 }, SIDE);
	const bytes = bytesOfLayout(layout);
	const surface = crypto.randomUUID();
	const size = TILE * TILE;
	const tiles = Array.from({ length: Math.ceil(bytes.length / size) }, (_, index) => {
		const texels = new Uint8Array(size);
		texels.set(bytes.subarray(index * size, (index + 1) * size));
		return { surface, index, value: null, texels };
	});
	return { surface, bytes: bytes.length, tiles: await pressAll(tiles), uvs: layout.uvs };
}

/** A file to be read, or a shape to be made: as a file too, so that it is a model as any other. */
type ModelAsked =
	| { readonly bytes: Uint8Array; readonly name: string; readonly uvSet?: number }
	| { readonly solid: Solid };

async function read(asked: ModelAsked): Promise<ReadModel> {
	if ('solid' in asked) {
		const mesh = solidMesh(asked.solid);
		return { ok: true, mesh, notes: [], bytes: await writeGlb(mesh) };
	}
	const result = await readModel(asked.bytes, asked.name, asked.uvSet);
	return result.ok && result.bare ? { ...result, laid: await laidOut(result.mesh) } : result;
}

addEventListener('message', async (event: MessageEvent<ModelAsked>) => {
	postMessage(await read(event.data));
});
