/** glTF with files beside it, its UV sets, and the pictures that a GLB holds. */
import { Document, WebIO } from '@gltf-transform/core';
import { beforeAll, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { contentsOfGlb, type LaidMesh, packGltf, readModel } from '../src/mesh/index.ts';
import { box } from './oracle/meshes.ts';

/** A one-texel PNG. */
const png = Uint8Array.from(
	Buffer.from(
		'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mP8z8BQDwAEhQGAhKmMIQAAAABJRU5ErkJggg==',
		'base64',
	),
);
const mesh = box();
let json: Uint8Array;
let beside: Map<string, Uint8Array>;
beforeAll(async () => {
	const document = new Document();
	const buffer = document.createBuffer();
	const accessor = (type: 'VEC3' | 'VEC2', list: Float32Array) =>
		document.createAccessor().setType(type).setArray(new Float32Array(list)).setBuffer(buffer);
	const texture = document.createTexture('Bark').setImage(png).setMimeType('image/png').setURI('bark 1.png');
	const primitive = document
		.createPrimitive()
		.setAttribute('POSITION', accessor('VEC3', mesh.positions))
		.setAttribute('TEXCOORD_0', accessor('VEC2', mesh.uvs))
		.setAttribute(
			'TEXCOORD_1',
			accessor(
				'VEC2',
				mesh.uvs.map((v) => v * 0.5),
			),
		)
		.setIndices(document.createAccessor().setType('SCALAR').setArray(new Uint32Array(mesh.indices)).setBuffer(buffer))
		.setMaterial(document.createMaterial('Wood').setBaseColorTexture(texture));
	document.createScene().addChild(document.createNode('Crate').setMesh(document.createMesh().addPrimitive(primitive)));
	const written = await new WebIO().writeJSON(document, { basename: 'crate' });
	json = new TextEncoder().encode(JSON.stringify(written.json));
	beside = new Map(Object.entries(written.resources).map(([name, bytes]) => [decodeURIComponent(name), bytes]));
});
const read = async (bytes: Uint8Array, set?: number): Promise<LaidMesh> => {
	const found = await readModel(bytes, 'crate.glb', set);
	if (!found.ok) throw new Error(found.error.text);
	return found.mesh;
};
const packed = (files: ReadonlyMap<string, Uint8Array>): Uint8Array => {
	const found = packGltf(json, files, 'crate.gltf');
	if (!found.ok) throw new Error(found.error.text);
	return found.bytes;
};

test('with its buffer and picture beside it, it is read as it was, and its picture is there', async () => {
	expect(beside.size).toBe(2);
	const glb = packed(beside);
	const found = await read(glb);
	expect(found.positions).toEqual(mesh.positions);
	expect(found.uvs).toEqual(mesh.uvs);
	const { pictures, uvSets } = contentsOfGlb(glb);
	expect(uvSets).toBe(2);
	expect(pictures.map(({ name, type }) => [name, type])).toEqual([['Bark', 'image/png']]);
	expect(Buffer.from(pictures[0]?.bytes ?? []).equals(Buffer.from(png))).toBe(true);
});

test('another of its UV sets is what it lies by where that is asked for', async () => {
	expect((await read(packed(beside), 1)).uvs).toEqual(mesh.uvs.map((v) => v * 0.5));
});

test('without its picture the geometry is read; without its buffer the file that is missing is named', async () => {
	const [bin] = [...beside].filter(([name]) => name.endsWith('.bin'));
	if (!bin) throw new Error('no buffer');
	const bare = packed(new Map([bin]));
	expect((await read(bare)).positions).toEqual(mesh.positions);
	expect(contentsOfGlb(bare).pictures).toEqual([]);
	const missing = packGltf(json, new Map(), 'crate.gltf');
	expect(missing.ok ? '' : missing.error.text).toMatch(/crate\.gltf keeps its geometry in "crate\.bin"\. Choose both/);
	const alone = await readModel(json, 'crate.gltf');
	expect(alone.ok ? '' : alone.error.text).toMatch(/crate\.bin/);
});

test('with all of it inside, as data addresses, it is read alone', async () => {
	const whole = JSON.parse(new TextDecoder().decode(json)) as { buffers: { uri: string }[]; images: { uri: string }[] };
	for (const each of [...whole.buffers, ...whole.images])
		each.uri = `data:application/octet-stream;base64,${Buffer.from(beside.get(decodeURIComponent(each.uri)) ?? []).toString('base64')}`;
	const found = await readModel(new TextEncoder().encode(JSON.stringify(whole)), 'crate.gltf');
	expect(found.ok && found.mesh.positions).toEqual(mesh.positions);
});

test('what is damaged is told with the file’s name, and never thrown', async () => {
	await fc.assert(
		fc.asyncProperty(fc.nat({ max: 3000 }), fc.uint8Array({ maxLength: 12 }), fc.boolean(), async (at, patch, cut) => {
			const bytes = json.slice(0, cut ? at : json.length);
			bytes.set(patch.subarray(0, Math.max(0, bytes.length - Math.min(at, bytes.length))), Math.min(at, bytes.length));
			const found = packGltf(bytes, beside, 'crate.gltf');
			if (!found.ok) expect(found.error.text).toMatch(/crate\.gltf/);
			else {
				contentsOfGlb(found.bytes);
				const result = await readModel(found.bytes, 'crate.glb');
				if (!result.ok) expect(result.error.text).toMatch(/crate\.glb/);
			}
		}),
		{ numRuns: 120 },
	);
	expect(contentsOfGlb(new Uint8Array(30))).toEqual({ pictures: [], uvSets: 0 });
});
