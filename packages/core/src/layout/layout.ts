import type { LaidMesh, Mesh } from '../mesh/index.ts';

/**
 * Where each corner of a mesh's faces lies on its sheet: u, v, 6 numbers a face, from the sheet's upper left corner, v
 * downwards. Data beside the mesh, so that one mesh may be laid out anew.
 */
export interface Layout {
	readonly uvs: Float32Array;
}

/** The layout that a mesh has: of a model as it is read, the file's own. */
export function layoutOf({ indices, uvs }: LaidMesh): Layout {
	const out = new Float32Array(indices.length * 2);
	indices.forEach((v, corner) => {
		out[corner * 2] = uvs[v * 2] as number;
		out[corner * 2 + 1] = uvs[v * 2 + 1] as number;
	});
	return { uvs: out };
}

/**
 * A mesh laid out: a vertex whose corners lie apart is split, the first place keeping its number, so that a mesh with
 * the layout it came with comes back as it was. Throws RangeError where the layout is of another mesh.
 */
export function layOut(mesh: Mesh, { uvs }: Layout): LaidMesh {
	if (uvs.length !== mesh.indices.length * 2)
		throw new RangeError(
			`The layout is of ${uvs.length / 6} faces, the model has ${mesh.indices.length / 3}: it belongs to another model.`,
		);
	const count = mesh.positions.length / 3;
	const places: number[] = new Array(count * 2).fill(0);
	const indices = mesh.indices.slice();
	/** The vertex that each split vertex was, from `count` on. */
	const origin: number[] = [];
	const taken = new Uint8Array(count);
	/** Split vertices of a vertex. */
	const splits = new Map<number, number[]>();
	const isAt = (vertex: number, u: number, v: number): boolean =>
		places[vertex * 2] === u && places[vertex * 2 + 1] === v;
	indices.forEach((vertex, corner) => {
		const [u, v] = [uvs[corner * 2] as number, uvs[corner * 2 + 1] as number];
		if (!taken[vertex]) {
			taken[vertex] = 1;
			places[vertex * 2] = u;
			places[vertex * 2 + 1] = v;
			return;
		}
		if (isAt(vertex, u, v)) return;
		const list = splits.get(vertex) ?? [];
		let found = list.find((each) => isAt(each, u, v));
		if (found === undefined) {
			found = count + origin.length;
			origin.push(vertex);
			places.push(u, v);
			splits.set(vertex, [...list, found]);
		}
		indices[corner] = found;
	});
	const grown = (list: Float32Array, size: number): Float32Array => {
		if (origin.length === 0) return list;
		const out = new Float32Array(list.length + origin.length * size);
		out.set(list);
		origin.forEach((from, i) => out.set(list.subarray(from * size, from * size + size), list.length + i * size));
		return out;
	};
	return {
		positions: grown(mesh.positions, 3),
		normals: mesh.normals && grown(mesh.normals, 3),
		...(mesh.colors ? { colors: grown(mesh.colors, 4) } : {}),
		uvs: new Float32Array(places),
		indices,
		parts: mesh.parts,
	};
}

/** The bytes of a layout, as it is kept: its numbers of 32 bits, the lowest byte first. */
export function bytesOfLayout({ uvs }: Layout): Uint8Array<ArrayBuffer> {
	const view = new DataView(new ArrayBuffer(uvs.length * 4));
	uvs.forEach((v, i) => void view.setFloat32(i * 4, v, true));
	return new Uint8Array(view.buffer);
}

/** A layout from its bytes. Null where they are none: a number that is no number, or none at all. */
export function layoutOfBytes(bytes: Uint8Array): Layout | null {
	const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
	const uvs = Float32Array.from({ length: bytes.length >> 2 }, (_, i) => view.getFloat32(i * 4, true));
	return uvs.every(Number.isFinite) && uvs.some((v) => v !== 0) ? { uvs } : null;
}
