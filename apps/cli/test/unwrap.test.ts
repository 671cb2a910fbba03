/** A model file is unwrapped and written anew, with no browser. */
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { type MeshResult, readModel, topologyOf, writeObj } from '@eppu/core/mesh';
import { expect, test } from '@jest/globals';
import { box } from '../../../packages/core/test/oracle/meshes.ts';
import { unwrapModel } from '../src/unwrap.ts';

const folder = mkdtempSync(join(tmpdir(), 'eppu-unwrap-'));
const model = join(folder, 'box.obj');
writeFileSync(
	model,
	writeObj(box())
		.replace(/^vt .*$/gm, '')
		.replace(/(\d+)\/\d+\/(\d+)/g, '$1//$2'),
);
const written = async (name: string): Promise<Extract<MeshResult, { ok: true }>> => {
	const read = await readModel(new Uint8Array(readFileSync(join(folder, name))), name);
	if (!read.ok) throw new Error(read.error.text);
	return read;
};

test('a model without UVs comes out with them, as OBJ and as GLB', async () => {
	for (const name of ['laid.obj', 'laid.glb']) {
		const found = await unwrapModel({ model, out: join(folder, name), size: '512', margin: '4' });
		expect(found.pieces).toBe(6);
		const { mesh, bare } = await written(name);
		expect(bare).toBeUndefined();
		expect(mesh.indices.length).toBe(box().indices.length);
		expect(topologyOf(mesh).islands).toBe(6);
	}
});

test.each([
	[{ out: 'laid.fbx' }, /ends in \.obj or \.glb/],
	[{ way: 'magic' }, /--way is one of automatic/],
	[{ size: '9000' }, /--size takes a whole number, 16 to 8192/],
	[{ seams: 'few' }, /--seams takes a whole number, 0 to 100/],
	[{ model: 'nowhere.obj' }, /There is no file/],
	[{ size: '16', margin: '64' }, /do not fit/],
])('%j is answered in plain words', async (change, words) => {
	await expect(unwrapModel({ model, out: join(folder, 'never.obj'), ...change })).rejects.toThrow(words);
});
