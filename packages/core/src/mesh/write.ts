import { Document, WebIO } from '@gltf-transform/core';
import { linearOfSrgb } from '../color/index.ts';
import type { LaidMesh } from './mesh.ts';

/** The mesh as Wavefront OBJ text: one object a part, positions, UVs (v upwards) and normals. */
export function writeObj(mesh: LaidMesh): string {
	const lines: string[] = [];
	const n = (v: number | undefined): string => String(Number((v as number).toFixed(6)));
	for (let i = 0; i < mesh.positions.length; i += 3)
		lines.push(`v ${[0, 1, 2].map((k) => n(mesh.positions[i + k])).join(' ')}`);
	for (let i = 0; i < mesh.uvs.length; i += 2) lines.push(`vt ${n(mesh.uvs[i])} ${n(1 - (mesh.uvs[i + 1] as number))}`);
	if (mesh.normals)
		for (let i = 0; i < mesh.normals.length; i += 3)
			lines.push(`vn ${[0, 1, 2].map((k) => n(mesh.normals?.[i + k])).join(' ')}`);
	for (const part of mesh.parts) {
		lines.push(`o ${part.name}`);
		for (let face = part.firstFace; face < part.firstFace + part.faces; face++)
			lines.push(
				`f ${[0, 1, 2]
					.map((k) => (mesh.indices[face * 3 + k] as number) + 1)
					.map((i) => (mesh.normals ? `${i}/${i}/${i}` : `${i}/${i}`))
					.join(' ')}`,
			);
	}
	return `${lines.join('\n')}\n`;
}

/** The mesh as binary PLY: places, normals, UVs, and its colours where it has some. */
export function writePly(mesh: LaidMesh): Uint8Array<ArrayBuffer> {
	const { positions, normals, uvs, colors, indices } = mesh;
	const count = positions.length / 3;
	const floats = ['x', 'y', 'z', ...(normals ? ['nx', 'ny', 'nz'] : []), 's', 't'];
	const bytes = colors ? ['red', 'green', 'blue', 'alpha'] : [];
	const head = [
		'ply',
		'format binary_little_endian 1.0',
		`element vertex ${count}`,
		...floats.map((name) => `property float ${name}`),
		...bytes.map((name) => `property uchar ${name}`),
		`element face ${indices.length / 3}`,
		'property list uchar uint vertex_indices',
		'end_header\n',
	].join('\n');
	const start = new TextEncoder().encode(head);
	const out = new Uint8Array(start.length + count * (floats.length * 4 + bytes.length) + (indices.length / 3) * 13);
	out.set(start);
	const view = new DataView(out.buffer);
	let at = start.length;
	const put = (v: number): void => {
		view.setFloat32(at, v, true);
		at += 4;
	};
	for (let i = 0; i < count; i++) {
		for (const v of positions.subarray(i * 3, i * 3 + 3)) put(v);
		for (const v of normals?.subarray(i * 3, i * 3 + 3) ?? []) put(v);
		put(uvs[i * 2] as number);
		put(1 - (uvs[i * 2 + 1] as number));
		for (const v of colors?.subarray(i * 4, i * 4 + 4) ?? []) out[at++] = Math.round(v * 255);
	}
	for (let i = 0; i < indices.length; i += 3) {
		out[at++] = 3;
		for (const v of indices.subarray(i, i + 3)) {
			view.setUint32(at, v, true);
			at += 4;
		}
	}
	return out;
}

/** The mesh as self-contained binary glTF: one node a part, no material; vertex colours where it has some. */
export async function writeGlb(mesh: LaidMesh): Promise<Uint8Array> {
	const document = new Document();
	const buffer = document.createBuffer();
	const scene = document.createScene('Scene');
	for (const part of mesh.parts) {
		const run = mesh.indices.subarray(part.firstFace * 3, (part.firstFace + part.faces) * 3);
		const used = [...new Set(run)];
		const place = new Map(used.map((v, i) => [v, i]));
		const gather = (from: Float32Array, size: number): Float32Array<ArrayBuffer> =>
			new Float32Array(used.flatMap((v) => [...from.subarray(v * size, v * size + size)]));
		const accessor = (type: 'VEC4' | 'VEC3' | 'VEC2', array: Float32Array<ArrayBuffer>) =>
			document.createAccessor().setType(type).setArray(array).setBuffer(buffer);
		const primitive = document
			.createPrimitive()
			.setAttribute('POSITION', accessor('VEC3', gather(mesh.positions, 3)))
			.setAttribute('TEXCOORD_0', accessor('VEC2', gather(mesh.uvs, 2)))
			.setIndices(
				document
					.createAccessor()
					.setType('SCALAR')
					.setArray(new Uint32Array([...run].map((v) => place.get(v) as number)))
					.setBuffer(buffer),
			);
		if (mesh.normals) primitive.setAttribute('NORMAL', accessor('VEC3', gather(mesh.normals, 3)));
		if (mesh.colors) {
			const linear = gather(mesh.colors, 4).map((v, i) => (i % 4 < 3 ? linearOfSrgb(v) : v));
			primitive.setAttribute('COLOR_0', accessor('VEC4', linear));
		}
		scene.addChild(document.createNode(part.name).setMesh(document.createMesh(part.name).addPrimitive(primitive)));
	}
	return new WebIO().writeBinary(document);
}
