/** A library that cuts, flattens and packs meshes, to compare with. */
import { Atlas, Initialize } from 'watlas';
import { type LaidMesh, topologyOf } from '../../src/mesh/index.ts';

/** Brings the library; before anything is asked of it. */
export const bringLibrary = (): Promise<void> => Initialize();

const newAtlas = (): Atlas => new (Atlas as unknown as new () => Atlas)();

/** Twice the area of a triangle of a plane. */
const doubled = (uvs: ArrayLike<number>, at: number): number => {
	const n = (k: number): number => uvs[at + k] as number;
	return Math.abs((n(2) - n(0)) * (n(5) - n(1)) - (n(4) - n(0)) * (n(3) - n(1)));
};

/** Corners of the first mesh's faces, texels. */
function cornersOf(atlas: Atlas): Float64Array {
	const mesh = atlas.getMesh(0);
	const indices = new Uint32Array(mesh.indexCount);
	mesh.getIndexArray(indices);
	const places = Array.from({ length: mesh.vertexCount }, (_, v) => mesh.getVertex(v).uv);
	return Float64Array.from([...indices].flatMap((v) => places[v] as [number, number]));
}

/** Square texels that an atlas covers: what is too long for it is made smaller than the rest. */
function coveredBy(atlas: Atlas): number {
	const corners = cornersOf(atlas);
	let sum = 0;
	for (let i = 0; i < corners.length; i += 6) sum += doubled(corners, i) / 2;
	return sum;
}

/** The share of a square sheet that the library's quick packing covers with pieces, at the largest size that fits. */
export function fillOfLibrary(pieces: readonly { readonly uvs: Float64Array }[], side: number, margin: number): number {
	const [places, indices]: [number[], number[]] = [[], []];
	let [area, right] = [0, 0];
	for (const { uvs } of pieces) {
		const known = new Map<string, number>();
		const across = uvs.filter((_, i) => i % 2 === 0);
		const shift = right - Math.min(...across);
		right += Math.max(...across) - Math.min(...across) + 0.01;
		for (let i = 0; i < uvs.length; i += 2) {
			const [u, v] = [uvs[i] as number, uvs[i + 1] as number];
			const key = `${u.toFixed(7)} ${v.toFixed(7)}`;
			const at = known.get(key) ?? places.length / 2;
			// Pieces that lie apart are charts of their own.
			if (at === places.length / 2) places.push(u + shift, v);
			known.set(key, at);
			indices.push(at);
		}
		for (let i = 0; i < uvs.length; i += 6) area += doubled(uvs, i) / 2;
	}
	const atlas = newAtlas();
	atlas.addUvMesh({
		vertexUvData: Float32Array.from(places),
		vertexCount: places.length / 2,
		vertexStride: 8,
		indexData: Uint32Array.from(indices),
		indexCount: indices.length,
	});
	atlas.computeCharts({});
	let [low, high] = [0, Math.sqrt((side * side) / area)];
	for (let round = 0; round < 10; round++) {
		const middle = (low + high) / 2;
		atlas.packCharts({ padding: margin, resolution: side, texelsPerUnit: middle, bilinear: false });
		const fits = atlas.atlasCount === 1 && Math.max(atlas.width, atlas.height) <= side;
		if (fits) low = middle;
		else high = middle;
	}
	atlas.packCharts({ padding: margin, resolution: side, texelsPerUnit: low, bilinear: false });
	if (atlas.chartCount !== pieces.length) throw new Error('The library took other islands.');
	const covered = coveredBy(atlas) / (side * side);
	atlas.delete();
	return covered;
}

/** What the library makes of a mesh as it is: corners of its faces in texels, and how many charts. */
export function libraryUnwraps(
	mesh: LaidMesh,
	side: number,
	margin: number,
): { readonly uvs: Float64Array; readonly charts: number } {
	const { place } = topologyOf(mesh);
	const atlas = newAtlas();
	atlas.addMesh({
		vertexPositionData: mesh.positions,
		vertexCount: mesh.positions.length / 3,
		vertexPositionStride: 12,
		indexData: mesh.indices.map((v) => place[v] as number),
		indexCount: mesh.indices.length,
	});
	atlas.generate({}, { padding: margin, resolution: side });
	const uvs = cornersOf(atlas);
	const charts = atlas.chartCount;
	atlas.delete();
	return { uvs, charts };
}
