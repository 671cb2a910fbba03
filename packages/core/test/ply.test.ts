/** PLY files, as an independent writer makes them, and ones that are damaged. */
import { expect, test } from '@jest/globals';
import fc from 'fast-check';
import { BufferAttribute, BufferGeometry, Mesh } from 'three';
import { PLYExporter } from 'three/examples/jsm/exporters/PLYExporter.js';
import { type LaidMesh, readModel } from '../src/mesh/index.ts';
import { watchCosts } from './oracle/costs.ts';
import { ball, box, tube } from './oracle/meshes.ts';

// The exporter tells that it is done by a frame of the browser; what it wrote it returns.
Object.assign(globalThis, { requestAnimationFrame: () => 0 });

type Written = 'ascii' | 'little' | 'big';

/** A mesh as three's exporter writes it. */
function written(mesh: LaidMesh, as: Written): Uint8Array {
	const geometry = new BufferGeometry();
	geometry.setAttribute('position', new BufferAttribute(mesh.positions, 3));
	if (mesh.normals) geometry.setAttribute('normal', new BufferAttribute(mesh.normals, 3));
	// Up in the file is down on a sheet.
	geometry.setAttribute(
		'uv',
		new BufferAttribute(
			mesh.uvs.map((v, i) => (i % 2 ? 1 - v : v)),
			2,
		),
	);
	geometry.setIndex(new BufferAttribute(mesh.indices, 1));
	const options = { binary: as !== 'ascii', littleEndian: as === 'little' };
	const out = new PLYExporter().parse(new Mesh(geometry), () => undefined, options as never) as unknown as
		| ArrayBuffer
		| string;
	return typeof out === 'string' ? new TextEncoder().encode(out) : new Uint8Array(out);
}

test.each(['ascii', 'little', 'big'] as const)('a file written %s by another program is read as it was', async (as) => {
	for (const mesh of [box(), ball(), tube()]) {
		const read = await readModel(written(mesh, as), 'body.ply');
		if (!read.ok) throw new Error(read.error.text);
		expect(read.notes).toEqual([]);
		expect(read.mesh.indices.length).toBe(mesh.indices.length);
		for (let corner = 0; corner < mesh.indices.length; corner++) {
			const [was, is] = [mesh.indices[corner] as number, read.mesh.indices[corner] as number];
			for (let k = 0; k < 3; k++)
				expect(read.mesh.positions[is * 3 + k]).toBeCloseTo(mesh.positions[was * 3 + k] as number, 4);
			for (let k = 0; k < 2; k++) expect(read.mesh.uvs[is * 2 + k]).toBeCloseTo(mesh.uvs[was * 2 + k] as number, 4);
		}
	}
});

const square = `ply
format ascii 1.0
comment a square with what many exporters write
element vertex 4
property float x
property float y
property float z
property uchar red
property uchar green
property uchar blue
element face 1
property list uchar int vertex_indices
property list uchar float texcoord
end_header
0 0 0 255 0 0
1 0 0 0 255 0
1 1 0 0 0 255
0 1 0 9 9 9
4 0 1 2 3 8 0 0 1 0 1 1 0 1
`;
const read = (text: string, file = 'a.ply'): ReturnType<typeof readModel> =>
	readModel(new TextEncoder().encode(text), file);

test('a polygon with UVs of its own corners, and colours that are told', async () => {
	const found = await read(square);
	if (!found.ok) throw new Error(found.error.text);
	expect(found.mesh.indices.length).toBe(6);
	expect([...found.mesh.uvs]).toEqual([0, 1, 1, 1, 1, 0, 0, 0]);
	expect(found.notes.join()).toMatch(/vertex colours/);
});

test('without UVs a model is taken, and said to be unwrapped', async () => {
	const bare = square
		.replace('property list uchar float texcoord\n', '')
		.replace('4 0 1 2 3 8 0 0 1 0 1 1 0 1', '4 0 1 2 3');
	const found = await read(bare);
	expect(found).toMatchObject({ ok: true, bare: true });
	expect(found.ok && found.notes.join()).toMatch(/has no UVs: it is unwrapped by itself/);
});

test.each([
	['not.ply', 'solid cube', /does not begin as a PLY/],
	['open.ply', 'ply\nformat ascii 1.0\nelement vertex 3\n', /no end of its header/],
	['odd.ply', square.replace('ascii', 'binary_middle_endian'), /is no PLY that Eppu reads/],
	['gone.ply', square.replace('4 0 1 2 3 8', '4 0 1 2 9 8'), /names a vertex that it does not hold/],
	['many.ply', square.replace('element vertex 4', 'element vertex 1000000000'), /cut short/],
	['flat.ply', square.replace('property float z\n', ''), /without a place/],
	['nan.ply', square.replace('1 0 0 0 255 0', 'nan 0 0 0 255 0'), /not a number/],
	['long.ply', square.replace('4 0 1 2 3 8', '4000 0 1 2 3 8'), /cut short/],
])('%s is refused by name, with the reason', async (file, text, why) => {
	const found = await read(text, file);
	expect(found).toMatchObject({ ok: false, error: { text: expect.stringMatching(why) } });
	expect(found.ok || found.error.text).toContain(file);
});

test('cut anywhere, or with any byte changed, a file is read or refused, never thrown', async () => {
	const costs = watchCosts('bytes of a PLY');
	for (const as of ['ascii', 'little', 'big'] as const) {
		const whole = written(box(), as);
		await fc.assert(
			fc.asyncProperty(fc.nat(whole.length - 1), fc.nat(255), fc.boolean(), async (at, value, cut) => {
				const bytes = cut ? whole.slice(0, at) : whole.slice();
				if (!cut) bytes[at] = value;
				const found = await costs.of(() => readModel(bytes, 'odd.ply'));
				return found.ok || found.error.text.includes('odd.ply');
			}),
			{ numRuns: process.env.LONG ? 5000 : 60 },
		);
	}
	costs.judge();
});
