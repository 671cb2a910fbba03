import { Document, type Material, type PlatformIO, WebIO } from '@gltf-transform/core';
import { KHRMaterialsUnlit } from '@gltf-transform/extensions';
import { linearOfSrgb } from '../color/index.ts';
import type { LaidMesh, Part } from './mesh.ts';

/** How a part looks: the picture that lies on it, and how that is drawn. */
export interface Look {
	readonly name: string;
	/** Its file, with where it is found from the model's own file. */
	readonly picture: { readonly path: string; readonly bytes: Uint8Array; readonly mime: string } | null;
	/** Each texel a square. */
	readonly nearest: boolean;
	/** What becomes of clear texels. */
	readonly alpha: 'opaque' | 'cut' | 'blend';
	/** Drawn as it is painted, without any light of the program that shows it. */
	readonly unlit: boolean;
}

/** The look of each part in their order; parts that share one name it alike. */
export type Looks = readonly (Look | null)[];

/** A file's name and its bytes. */
export type NamedFile = readonly [path: string, bytes: Uint8Array<ArrayBuffer>];

const bytesOf = (text: string): Uint8Array<ArrayBuffer> => new TextEncoder().encode(text);

/** Materials that parts of a Wavefront OBJ name, as MTL text: a picture as the diffuse colour. */
const mtlText = (looks: readonly Look[]): string =>
	looks
		.map(({ name, picture, alpha }) =>
			[
				`newmtl ${name}`,
				'Kd 1 1 1',
				'Ks 0 0 0',
				'illum 1',
				...(picture ? [`map_Kd ${picture.path}`, ...(alpha === 'opaque' ? [] : [`map_d ${picture.path}`])] : []),
			].join('\n'),
		)
		.join('\n\n')
		.concat('\n');

/**
 * The mesh as Wavefront OBJ text: one object a part, positions, UVs (v upwards) and normals. `materials` names the file
 * of its looks.
 */
export function writeObj(mesh: LaidMesh, looks: Looks = [], materials?: string): string {
	const lines: string[] = materials ? [`mtllib ${materials}`] : [];
	const n = (v: number | undefined): string => String(Number((v as number).toFixed(6)));
	for (let i = 0; i < mesh.positions.length; i += 3)
		lines.push(`v ${[0, 1, 2].map((k) => n(mesh.positions[i + k])).join(' ')}`);
	for (let i = 0; i < mesh.uvs.length; i += 2) lines.push(`vt ${n(mesh.uvs[i])} ${n(1 - (mesh.uvs[i + 1] as number))}`);
	if (mesh.normals)
		for (let i = 0; i < mesh.normals.length; i += 3)
			lines.push(`vn ${[0, 1, 2].map((k) => n(mesh.normals?.[i + k])).join(' ')}`);
	mesh.parts.forEach((part, at) => {
		const look = looks[at];
		lines.push(`o ${part.name}`, ...(look ? [`usemtl ${look.name}`] : []));
		for (let face = part.firstFace; face < part.firstFace + part.faces; face++)
			lines.push(
				`f ${[0, 1, 2]
					.map((k) => (mesh.indices[face * 3 + k] as number) + 1)
					.map((i) => (mesh.normals ? `${i}/${i}/${i}` : `${i}/${i}`))
					.join(' ')}`,
			);
	});
	return `${lines.join('\n')}\n`;
}

const looksOnce = (looks: Looks): Look[] => [
	...new Map(looks.flatMap((look) => (look ? [[look.name, look] as const] : []))).values(),
];

/** The mesh as OBJ with its materials as MTL beside it; their pictures are files that the caller writes. */
export function writeObjFiles(mesh: LaidMesh, looks: Looks, stem: string): NamedFile[] {
	const once = looksOnce(looks);
	if (!once.length) return [[`${stem}.obj`, bytesOf(writeObj(mesh))]];
	return [
		[`${stem}.obj`, bytesOf(writeObj(mesh, looks, `${stem}.mtl`))],
		[`${stem}.mtl`, bytesOf(mtlText(once))],
	];
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
	const start = bytesOf(head);
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

const NEAREST = 9728;
const LINEAR = 9729;
const LINEAR_MIPS = 9987;
const ALPHA = { opaque: 'OPAQUE', cut: 'MASK', blend: 'BLEND' } as const;

/** The looks as materials of a glTF, each once, by their names. */
function materialsOf(document: Document, looks: Looks): ReadonlyMap<string, Material> {
	const once = looksOnce(looks);
	const unlit = once.some((look) => look.unlit) ? document.createExtension(KHRMaterialsUnlit) : null;
	return new Map(
		once.map((look) => {
			const material = document
				.createMaterial(look.name)
				.setAlphaMode(ALPHA[look.alpha])
				.setMetallicFactor(0)
				.setRoughnessFactor(1);
			if (look.unlit && unlit) material.setExtension('KHR_materials_unlit', unlit.createUnlit());
			if (look.picture) {
				const { path, bytes, mime } = look.picture;
				material.setBaseColorTexture(document.createTexture(look.name).setURI(path).setImage(bytes).setMimeType(mime));
				material
					.getBaseColorTextureInfo()
					?.setMagFilter(look.nearest ? NEAREST : LINEAR)
					.setMinFilter(look.nearest ? NEAREST : LINEAR_MIPS);
			}
			return [look.name, material] as const;
		}),
	);
}

/** A part's own vertices and faces as a glTF primitive. */
function primitiveOf(document: Document, mesh: LaidMesh, part: Part): ReturnType<Document['createPrimitive']> {
	const buffer = document.getRoot().listBuffers()[0] ?? document.createBuffer();
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
	if (mesh.normals) primitive.setAttribute('NORMAL', accessor('VEC3', unitNormals(gather(mesh.normals, 3))));
	if (mesh.colors) {
		const linear = gather(mesh.colors, 4).map((v, i) => (i % 4 < 3 ? linearOfSrgb(v) : v));
		primitive.setAttribute('COLOR_0', accessor('VEC4', linear));
	}
	return primitive;
}

/** Normals of length one, as glTF asks for; what has none points upwards. */
function unitNormals(normals: Float32Array<ArrayBuffer>): Float32Array<ArrayBuffer> {
	for (let i = 0; i < normals.length; i += 3) {
		const [x, y, z] = [normals[i] as number, normals[i + 1] as number, normals[i + 2] as number];
		const length = Math.hypot(x, y, z);
		if (Math.abs(length - 1) < 1e-6) continue;
		normals.set(length > 0 ? [x / length, y / length, z / length] : [0, 1, 0], i);
	}
	return normals;
}

function gltfOf(mesh: LaidMesh, looks: Looks): { readonly document: Document; readonly io: PlatformIO } {
	const document = new Document();
	document.createBuffer();
	const scene = document.createScene('Scene');
	const materials = materialsOf(document, looks);
	mesh.parts.forEach((part, i) => {
		const primitive = primitiveOf(document, mesh, part);
		primitive.setMaterial(materials.get(looks[i]?.name ?? '') ?? null);
		scene.addChild(document.createNode(part.name).setMesh(document.createMesh(part.name).addPrimitive(primitive)));
	});
	return { document, io: new WebIO().registerExtensions([KHRMaterialsUnlit]) };
}

/** The mesh as self-contained binary glTF: one node a part, its looks within; vertex colours where it has some. */
export async function writeGlb(mesh: LaidMesh, looks: Looks = []): Promise<Uint8Array> {
	const { document, io } = gltfOf(mesh, looks);
	return io.writeBinary(document);
}

/** The mesh as glTF with its buffer beside it; its pictures are files that the caller writes. */
export async function writeGltfFiles(mesh: LaidMesh, looks: Looks, stem: string): Promise<NamedFile[]> {
	const { document, io } = gltfOf(mesh, looks);
	document.getRoot().listBuffers()[0]?.setURI(`${stem}.bin`);
	const { json, resources } = await io.writeJSON(document, { basename: stem });
	const pictures = new Set(looksOnce(looks).map(({ picture }) => picture?.path));
	return [
		[`${stem}.gltf`, bytesOf(JSON.stringify(json))],
		...Object.entries(resources).flatMap(([path, bytes]) =>
			pictures.has(path) ? [] : [[path, new Uint8Array(bytes)] as const],
		),
	];
}

const GLB = 0x46546c67;
const JSON_CHUNK = 0x4e4f534a;
const BIN_CHUNK = 0x004e4942;

/** The mesh as binary glTF whose pictures lie beside it (glTF 2.0, GLB container). */
export async function writeGlbBeside(mesh: LaidMesh, looks: Looks): Promise<Uint8Array<ArrayBuffer>> {
	const { document, io } = gltfOf(mesh, looks);
	document.getRoot().listBuffers()[0]?.setURI('buffer.bin');
	const { json, resources } = await io.writeJSON(document);
	const bin = resources['buffer.bin'] ?? new Uint8Array(0);
	for (const buffer of json.buffers ?? []) delete buffer.uri;
	const text = bytesOf(JSON.stringify(json));
	const [first, second] = [Math.ceil(text.length / 4) * 4, Math.ceil(bin.length / 4) * 4];
	const out = new Uint8Array(12 + 8 + first + 8 + second);
	const view = new DataView(out.buffer);
	[GLB, 2, out.length, first, JSON_CHUNK].forEach((word, i) => {
		view.setUint32(i * 4, word, true);
	});
	out.fill(0x20, 20, 20 + first).set(text, 20);
	view.setUint32(20 + first, second, true);
	view.setUint32(24 + first, BIN_CHUNK, true);
	out.set(bin, 28 + first);
	return out;
}
