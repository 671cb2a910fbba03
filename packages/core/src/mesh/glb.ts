import { type Document, type mat4, type Node, type Primitive, WebIO } from '@gltf-transform/core';
import { srgbOfLinear } from '../color/index.ts';
import { createMeshBuild, type MeshBuild } from './build.ts';
import { tooManyFaces } from './check.ts';
import { claimsProblem, type GltfJson } from './gltfClaims.ts';
import { type MeshResult, MOST_FACES, meshError } from './mesh.ts';

const MAGIC = 0x46546c67;
const JSON_CHUNK = 0x4e4f534a;

/** Extensions that a file may require and that change no geometry, or only how its numbers are stored. */
const harmless =
	/^(KHR_mesh_quantization|KHR_materials_.*|KHR_lights_.*|KHR_texture_.*|KHR_xmp.*|KHR_animation_.*|KHR_node_visibility|EXT_texture_.*|EXT_lights_.*|EXT_mesh_gpu_instancing)$/;
const compressed: Readonly<Record<string, string>> = {
	KHR_draco_mesh_compression: 'Draco compression',
	EXT_meshopt_compression: 'meshopt compression',
	KHR_meshopt_compression: 'meshopt compression',
};

/** The bytes with other JSON in their first chunk. */
function withJson(bytes: Uint8Array, json: unknown, end: number): Uint8Array<ArrayBuffer> {
	const text = new TextEncoder().encode(JSON.stringify(json));
	const length = Math.ceil(text.length / 4) * 4;
	const rest = bytes.subarray(end);
	const out = new Uint8Array(20 + length + rest.length).fill(32, 20);
	const view = new DataView(out.buffer);
	view.setUint32(0, MAGIC, true);
	view.setUint32(4, 2, true);
	view.setUint32(8, out.length, true);
	view.setUint32(12, length, true);
	view.setUint32(16, JSON_CHUNK, true);
	out.set(text, 20);
	out.set(rest, 20 + length);
	return out;
}

/** The file checked and ready for the reader, or why it is not. */
function opened(bytes: Uint8Array, file: string): { readonly bytes: Uint8Array; readonly json: GltfJson } | MeshResult {
	if (bytes.length === 0) return meshError('empty', `${file} is empty. Export the model again.`);
	const head = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
	if (bytes.length < 12 || head.getUint32(0, true) !== MAGIC)
		return meshError('unknown-format', `${file} does not read as a GLB model. Eppu opens OBJ and GLB.`);
	if (head.getUint32(8, true) > bytes.length)
		return meshError(
			'broken',
			`${file} is cut short: it says ${head.getUint32(8, true)} bytes and has ${bytes.length}. Copy or export it again.`,
		);
	const damaged = (why: string): MeshResult =>
		meshError('broken', `${file} is damaged: ${why}. Export it again as a plain, self-contained GLB.`);
	const length = bytes.length >= 20 ? head.getUint32(12, true) : 0;
	if (bytes.length < 20 || head.getUint32(16, true) !== JSON_CHUNK || 20 + length > bytes.length)
		return damaged('its description is missing');
	let json: GltfJson;
	try {
		json = JSON.parse(new TextDecoder('utf-8', { fatal: true }).decode(bytes.slice(20, 20 + length)));
	} catch {
		return damaged('its description cannot be read');
	}
	if (typeof json !== 'object' || json === null) return damaged('its description cannot be read');
	const required = Array.isArray(json.extensionsRequired) ? json.extensionsRequired.map(String) : [];
	const missing = required.find((name) => !harmless.test(name));
	if (missing)
		return meshError(
			'unsupported',
			compressed[missing]
				? `${file} is stored with ${compressed[missing]} (${missing}), which Eppu does not read. Export it without compression.`
				: `${file} needs "${missing}" to be read, which Eppu does not know. Export it without.`,
		);
	if (
		Array.isArray(json.buffers) &&
		json.buffers.some((buffer) => typeof buffer?.uri === 'string' && !buffer.uri.startsWith('data:'))
	)
		return meshError('unsupported', `${file} keeps its data in other files. Export it as a self-contained GLB.`);
	const problem = claimsProblem(json, bytes.length);
	if (problem) return damaged(problem);
	const { extensionsRequired: _, extensionsUsed: __, ...plain } = json;
	return { bytes: withJson(bytes, plain, 20 + length), json };
}

type Matrix = readonly number[];

/** Transforms a point (w 1) or a direction (w 0) by a column-major 4x4 matrix. */
const transform = (m: Matrix, p: readonly number[], w: 0 | 1): number[] =>
	[0, 1, 2].map(
		(i) =>
			(m[i] as number) * (p[0] as number) +
			(m[4 + i] as number) * (p[1] as number) +
			(m[8 + i] as number) * (p[2] as number) +
			w * (m[12 + i] as number),
	);

/** The cofactors of a matrix's turning part: what normals are transformed by, also where scale differs by axis. */
function normalMatrix(m: Matrix): Matrix {
	const c = (i: number, j: number): number => m[j * 4 + i] as number;
	const cofactor = (i: number, j: number): number => {
		const [a, b] = [(i + 1) % 3, (i + 2) % 3];
		const [d, e] = [(j + 1) % 3, (j + 2) % 3];
		return c(a, d) * c(b, e) - c(a, e) * c(b, d);
	};
	const out: number[] = new Array<number>(16).fill(0);
	for (let i = 0; i < 3; i++) for (let j = 0; j < 3; j++) out[j * 4 + i] = cofactor(i, j);
	return out;
}

const determinant = (m: Matrix): number => {
	const n = normalMatrix(m);
	return [0, 1, 2].reduce((sum, i) => sum + (m[i] as number) * (n[i] as number), 0);
};

const times = (a: Matrix, b: Matrix): number[] =>
	Array.from({ length: 16 }, (_, at) => {
		const [j, i] = [Math.floor(at / 4), at % 4];
		return [0, 1, 2, 3].reduce((sum, k) => sum + (a[k * 4 + i] as number) * (b[j * 4 + k] as number), 0);
	});

/** The triangles of a primitive's corners, whichever way they are listed; null where it has none. */
function trianglesOf(mode: number, count: number): ((visit: (a: number, b: number, c: number) => void) => void) | null {
	if (mode === 4)
		return (visit) => {
			for (let i = 0; i + 2 < count; i += 3) visit(i, i + 1, i + 2);
		};
	if (mode === 5)
		return (visit) => {
			// Every other triangle of a strip runs the other way round.
			for (let i = 0; i + 2 < count; i++) visit(i, i + 1 + (i % 2), i + 2 - (i % 2));
		};
	if (mode === 6)
		return (visit) => {
			for (let i = 1; i + 1 < count; i++) visit(0, i, i + 1);
		};
	return null;
}

/** Where each vertex of a skinned primitive stands while its bones rest, by one matrix a vertex. */
function restMatrices(node: Node, primitive: Primitive): ((vertex: number) => Matrix) | null {
	const skin = node.getSkin();
	const joints = primitive.getAttribute('JOINTS_0');
	const weights = primitive.getAttribute('WEIGHTS_0');
	if (!skin || !joints || !weights) return null;
	const inverse = skin.getInverseBindMatrices();
	const bones = skin.listJoints().map((joint, i) => {
		const world = joint.getWorldMatrix() as Matrix;
		return inverse ? times(world, inverse.getElement(i, [] as unknown as mat4) as Matrix) : world;
	});
	return (vertex) => {
		const [j, w] = [joints, weights].map((list) => list.getElement(vertex, [] as number[])) as [number[], number[]];
		const sum = w.reduce((all, each) => all + each, 0) || 1;
		const out: number[] = new Array<number>(16).fill(0);
		j.forEach((bone, k) => {
			const m = bones[bone];
			if (m) for (let i = 0; i < 16; i++) out[i] = (out[i] as number) + ((w[k] as number) / sum) * (m[i] as number);
		});
		return out;
	};
}

/** Every node with a mesh, those of the scene that is shown first, without stepping into itself for depth. */
function meshNodes(document: Document): Node[] {
	const root = document.getRoot();
	const scene = root.getDefaultScene() ?? root.listScenes()[0];
	const found: Node[] = [];
	const open: Node[] = scene ? [...scene.listChildren()].reverse() : [];
	while (open.length) {
		const node = open.pop() as Node;
		if (node.getMesh()) found.push(node);
		open.push(...[...node.listChildren()].reverse());
	}
	return found;
}

/** The places at which a node's mesh stands: several where its file sets it many times at once. */
function placesOf(node: Node, index: number, json: GltfJson, document: Document): Matrix[] {
	const world = node.getWorldMatrix() as Matrix;
	const named = (
		json.nodes?.[index] as { extensions?: Record<string, { attributes?: Record<string, number> }> } | undefined
	)?.extensions?.EXT_mesh_gpu_instancing?.attributes;
	if (!named) return [world];
	const list = document.getRoot().listAccessors();
	const values = (name: string, usual: number[]): ((i: number) => number[]) => {
		const accessor = named[name] === undefined ? undefined : list[named[name]];
		return (i) => (accessor ? accessor.getElement(i, []) : usual);
	};
	const [moved, turned, scaled] = [
		values('TRANSLATION', [0, 0, 0]),
		values('ROTATION', [0, 0, 0, 1]),
		values('SCALE', [1, 1, 1]),
	];
	const count = Math.min(...Object.values(named).map((at) => list[at]?.getCount() ?? 0));
	return Array.from({ length: Number.isFinite(count) ? count : 0 }, (_, i) => {
		const [[tx = 0, ty = 0, tz = 0], [x = 0, y = 0, z = 0, w = 1], [sx = 1, sy = 1, sz = 1]] = [
			moved(i),
			turned(i),
			scaled(i),
		];
		const local = [
			(1 - 2 * (y * y + z * z)) * sx,
			2 * (x * y + z * w) * sx,
			2 * (x * z - y * w) * sx,
			0,
			2 * (x * y - z * w) * sy,
			(1 - 2 * (x * x + z * z)) * sy,
			2 * (y * z + x * w) * sy,
			0,
			2 * (x * z + y * w) * sz,
			2 * (y * z - x * w) * sz,
			(1 - 2 * (x * x + y * y)) * sz,
			0,
			tx,
			ty,
			tz,
			1,
		];
		return times(world, local);
	});
}

/** Adds one primitive of a node at a place; tells what of it could not be. */
function addPrimitive(build: MeshBuild, node: Node, primitive: Primitive, place: Matrix, uvSet?: number): void {
	const position = primitive.getAttribute('POSITION');
	if (!position || position.getCount() === 0) return;
	const list = primitive.getIndices();
	const triangles = trianglesOf(primitive.getMode(), list ? list.getCount() : position.getCount());
	if (!triangles) {
		build.note('Points and lines in the file are left out: only faces take paint.');
		return;
	}
	const used = uvSet ?? primitive.getMaterial()?.getBaseColorTextureInfo()?.getTexCoord() ?? 0;
	const sets = [used, 0, 1, 2, 3].map((n) => primitive.getAttribute(`TEXCOORD_${n}`));
	const uv = sets.find((each) => each !== null) ?? null;
	if (uv && primitive.getAttribute('TEXCOORD_1') && primitive.getAttribute('TEXCOORD_0'))
		build.note(
			`The file holds several UV sets; the one that its colour uses (${uv === primitive.getAttribute(`TEXCOORD_${used}`) ? used + 1 : 1}) is painted on. Lay out has the others, in the menu of the model.`,
		);
	const tint = primitive.getAttribute('COLOR_0');
	// glTF 2.0, 3.7.2.1: vertex colours are linear.
	const colorOf = (i: number): number[] | null =>
		tint?.getElement(i, [] as number[]).map((v, k) => (k < 3 ? srgbOfLinear(Math.max(0, Math.min(1, v))) : v)) ?? null;
	const normal = primitive.getAttribute('NORMAL');
	const rest = restMatrices(node, primitive);
	if (rest) build.note('The model has bones; it is painted in its rest pose.');
	if (primitive.listTargets().length) build.note('The model has shape keys; it is painted without them.');
	const flipped = !rest && determinant(place) < 0;
	const normals = normalMatrix(place);
	const base: number[] = [];
	for (let i = 0; i < position.getCount(); i++) {
		const m = rest ? rest(i) : place;
		const way = normal && transform(rest ? normalMatrix(m) : normals, normal.getElement(i, []), 0);
		base.push(
			build.vertex(
				transform(m, position.getElement(i, []), 1),
				uv ? uv.getElement(i, []) : null,
				way && flipped ? way.map((v) => -v) : way,
				colorOf(i),
			),
		);
	}
	const at = (k: number): number => base[list ? list.getScalar(k) : k] ?? Number.NaN;
	triangles((a, b, c) => build.triangle(at(a), flipped ? at(c) : at(b), flipped ? at(b) : at(c)));
}

/**
 * Reads binary glTF 2.0 (GLB) with everything in one file: each node with a mesh is a part, each of its materials a part
 * of its own; transforms, instances and the rest pose of bones applied. What is left out is told in the notes, what
 * cannot be read in words. Nothing is thrown.
 */
export async function readGlb(bytes: Uint8Array, file: string, uvSet?: number): Promise<MeshResult> {
	const ready = opened(bytes, file);
	if (!('bytes' in ready)) return ready;
	try {
		const document = await new WebIO().readBinary(ready.bytes);
		const build = createMeshBuild();
		const places = new Map(
			document
				.getRoot()
				.listNodes()
				.map((node, i) => [node, i]),
		);
		let faces = 0;
		for (const node of meshNodes(document)) {
			const primitives = node.getMesh()?.listPrimitives() ?? [];
			const materials = new Set(primitives.map((primitive) => primitive.getMaterial()));
			const name = node.getName() || node.getMesh()?.getName() || 'Part';
			for (const place of placesOf(node, places.get(node) ?? -1, ready.json, document)) {
				// Counted before anything is gathered: instances may say more than they hold.
				for (const primitive of primitives)
					faces += (primitive.getIndices()?.getCount() ?? primitive.getAttribute('POSITION')?.getCount() ?? 0) / 3;
				if (faces > MOST_FACES * 3) return tooManyFaces(file, Math.round(faces));
				for (const material of materials) {
					const own = material?.getName();
					build.part(materials.size > 1 && own ? `${name} · ${own}` : name);
					for (const primitive of primitives)
						if (primitive.getMaterial() === material) addPrimitive(build, node, primitive, place, uvSet);
				}
			}
		}
		return build.done(file);
	} catch {
		return meshError(
			'broken',
			`${file} could not be read as GLB: its inside is damaged. Export it again as a plain, self-contained GLB.`,
		);
	}
}
