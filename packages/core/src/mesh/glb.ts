import { type Document, type Node, WebIO } from '@gltf-transform/core';
import { checkMesh, type MeshResult, meshError, type Part } from './mesh.ts';

const MAGIC = 0x46546c67;

/** Every mesh node of the scene with its world matrix. */
const meshNodes = (document: Document): Node[] => {
	const scene = document.getRoot().getDefaultScene() ?? document.getRoot().listScenes()[0];
	const found: Node[] = [];
	scene?.traverse((node) => {
		if (node.getMesh()) found.push(node);
	});
	return found;
};

/** Transforms a point (w 1) or a direction (w 0) by a column-major 4x4 matrix. */
const transform = (m: readonly number[], p: readonly number[], w: 0 | 1): number[] =>
	[0, 1, 2].map(
		(i) =>
			(m[i] as number) * (p[0] as number) +
			(m[4 + i] as number) * (p[1] as number) +
			(m[8 + i] as number) * (p[2] as number) +
			w * (m[12 + i] as number),
	);

/**
 * Reads binary glTF 2.0 (GLB) with everything in one file: each node with a mesh is a part, transforms applied.
 * Triangles only; compressed or sparse-extension meshes are refused in words. Nothing is thrown.
 */
export async function readGlb(bytes: Uint8Array, file: string): Promise<MeshResult> {
	if (bytes.length === 0) return meshError('empty', `${file} is empty. Export the model again.`);
	const head = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
	if (bytes.length < 12 || head.getUint32(0, true) !== MAGIC)
		return meshError('unknown-format', `${file} does not read as a GLB model. Eppu opens OBJ and GLB.`);
	if (head.getUint32(8, true) > bytes.length)
		return meshError(
			'broken',
			`${file} is cut short: it says ${head.getUint32(8, true)} bytes and has ${bytes.length}. Copy or export it again.`,
		);
	let document: Document;
	try {
		document = await new WebIO().readBinary(bytes);
	} catch {
		return meshError(
			'broken',
			`${file} could not be read as GLB: its inside is damaged, or it uses compression or outside files that Eppu does not read. Export it again as a plain, self-contained GLB.`,
		);
	}
	const positions: number[] = [];
	const uvs: number[] = [];
	const normals: number[] = [];
	const indices: number[] = [];
	const parts: Part[] = [];
	let allNormals = true;
	for (const node of meshNodes(document)) {
		const matrix = node.getWorldMatrix();
		const flipped = determinant(matrix) < 0;
		const firstFace = indices.length / 3;
		for (const primitive of node.getMesh()?.listPrimitives() ?? []) {
			if (primitive.getMode() !== 4) continue;
			const position = primitive.getAttribute('POSITION');
			const uv = primitive.getAttribute('TEXCOORD_0');
			const normal = primitive.getAttribute('NORMAL');
			if (!position || position.getCount() === 0) continue;
			if (!uv)
				return meshError(
					'no-uvs',
					`"${node.getName() || 'A part'}" in ${file} has no UVs, so there is no sheet to paint on. Unwrap it in your modelling program and export it with UVs.`,
				);
			const base = positions.length / 3;
			for (let i = 0; i < position.getCount(); i++) {
				for (const v of transform(matrix, position.getElement(i, []), 1)) positions.push(v);
				const [u = 0, v = 0] = uv.getElement(i, []);
				uvs.push(u, v);
				if (normal) {
					const n = transform(matrix, normal.getElement(i, []), 0);
					const length = Math.sqrt(n.reduce((sum, v) => sum + v * v, 0)) || 1;
					normals.push(...n.map((v) => v / length));
				} else normals.push(0, 0, 0);
			}
			if (!normal) allNormals = false;
			const list = primitive.getIndices();
			const count = list ? list.getCount() : position.getCount();
			for (let i = 0; i + 2 < count; i += 3) {
				const [a, b, c] = [i, i + 1, i + 2].map((k) => base + (list ? list.getScalar(k) : k)) as [
					number,
					number,
					number,
				];
				if (flipped) indices.push(a, c, b);
				else indices.push(a, b, c);
			}
		}
		const faces = indices.length / 3 - firstFace;
		if (faces)
			parts.push({ name: node.getName() || node.getMesh()?.getName() || `Part ${parts.length + 1}`, firstFace, faces });
	}
	return checkMesh(
		{
			positions: new Float32Array(positions),
			uvs: new Float32Array(uvs),
			normals: allNormals && normals.length ? new Float32Array(normals) : null,
			indices: new Uint32Array(indices),
			parts,
		},
		file,
	);
}

const determinant = (m: readonly number[]): number => {
	const [a, b, c] = [m.slice(0, 3), m.slice(4, 7), m.slice(8, 11)] as [number[], number[], number[]];
	const cross = [
		(b[1] as number) * (c[2] as number) - (b[2] as number) * (c[1] as number),
		(b[2] as number) * (c[0] as number) - (b[0] as number) * (c[2] as number),
		(b[0] as number) * (c[1] as number) - (b[1] as number) * (c[0] as number),
	];
	return cross.reduce((sum, v, i) => sum + v * (a[i] as number), 0);
};
