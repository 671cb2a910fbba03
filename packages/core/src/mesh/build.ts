import earcut from 'earcut';
import { checkMesh } from './check.ts';
import type { MeshResult, Part } from './mesh.ts';

/** Gathers a mesh corner by corner while a file is read. */
export interface MeshBuild {
	/** Begins a part; a name that was there before gets a number, so that equal names stay apart. */
	part(name: string): void;
	/** Adds a vertex and returns its index. Without UV it lies nowhere on the sheet. */
	vertex(
		position: readonly number[],
		uv: readonly number[] | null,
		normal: readonly number[] | null,
		/** sRGB, and alpha where there is one, 0..1 */
		color?: readonly number[] | null,
	): number;
	triangle(a: number, b: number, c: number): void;
	readonly faces: number;
	/** Something that the artist is to know of what was read. */
	note(text: string): void;
	/** The mesh, checked; `file` is named where it is refused. */
	done(file: string): MeshResult;
}

/** What is told of a file that has colours at its vertices. */
const HAS_COLORS = 'The file has vertex colours: Lay out makes a layer of them, in the menu of the model.';

export function createMeshBuild(): MeshBuild {
	const positions: number[] = [];
	const uvs: number[] = [];
	const normals: number[] = [];
	const colors: number[] = [];
	let colored = false;
	const indices: number[] = [];
	const parts: { name: string; firstFace: number; faces: number; bare: number }[] = [];
	/** Names taken, and the number up to which each is. */
	const names = new Map<string, number>();
	const notes = new Set<string>();
	const bare = new Set<number>();
	let bareNormals = false;
	return {
		part(name) {
			const clean = name.trim().slice(0, 240) || 'Part';
			let free = clean;
			for (let n = (names.get(clean) ?? 1) + 1; names.has(free); n++) {
				free = `${clean} ${n}`;
				names.set(clean, n);
			}
			names.set(free, names.get(free) ?? 1);
			parts.push({ name: free, firstFace: indices.length / 3, faces: 0, bare: 0 });
		},
		vertex(position, uv, normal, color) {
			const index = positions.length / 3;
			positions.push(position[0] as number, position[1] as number, position[2] as number);
			if (uv) uvs.push(uv[0] as number, uv[1] as number);
			else {
				uvs.push(0, 0);
				bare.add(index);
			}
			const length = normal ? Math.hypot(...normal) : 0;
			// A normal that is none is made anew from the faces.
			if (normal && Number.isFinite(length) && length > 0) normals.push(...normal.slice(0, 3).map((v) => v / length));
			else {
				normals.push(0, 0, 0);
				bareNormals = true;
			}
			// What has no colour beside what has one is white, which changes nothing where it is multiplied.
			for (let k = 0; k < 4; k++) colors.push(Math.max(0, Math.min(1, color?.[k] ?? 1)) || 0);
			if (color) colored = true;
			return index;
		},
		triangle(a, b, c) {
			if (parts.length === 0) this.part('Model');
			const part = parts.at(-1) as (typeof parts)[number];
			part.faces++;
			if (bare.has(a) || bare.has(b) || bare.has(c)) part.bare++;
			indices.push(a, b, c);
		},
		get faces() {
			return indices.length / 3;
		},
		note: (text) => void notes.add(text),
		done(file) {
			const full = parts.filter((part) => part.faces > 0);
			const without = full.filter((part) => part.bare > 0);
			const bareFaces = without.reduce((sum, part) => sum + part.bare, 0);
			const allBare = full.length > 0 && bareFaces === indices.length / 3;
			if (allBare) notes.add(`${file} has no UVs: it is unwrapped by itself, and can be laid out otherwise.`);
			else
				for (const part of without)
					notes.add(
						part.bare === part.faces
							? `"${part.name}" has no UVs: it is shown, but takes no paint until it is unwrapped.`
							: `${part.bare} faces of "${part.name}" have no UVs: they are shown, but take no paint until they are unwrapped.`,
					);
			if (colored) notes.add(HAS_COLORS);
			return checkMesh(
				{
					positions: new Float32Array(positions),
					uvs: new Float32Array(uvs),
					normals: bareNormals || normals.length === 0 ? null : new Float32Array(normals),
					...(colored ? { colors: new Float32Array(colors) } : {}),
					indices: new Uint32Array(indices),
					parts: full.map(({ name, firstFace, faces }): Part => ({ name, firstFace, faces })),
				},
				file,
				[...notes],
				allBare,
			);
		},
	};
}

/**
 * A polygon of any shape cut into triangles, as indexes of its corners: seen along its own direction (Newell's), so that
 * one that turns inwards is cut right. A polygon without area gives a fan.
 */
export function cutPolygon(points: readonly (readonly number[])[]): number[] {
	const count = points.length;
	const fan = (): number[] => Array.from({ length: count - 2 }, (_, i) => [0, i + 1, i + 2]).flat();
	if (count === 3) return [0, 1, 2];
	const n = [0, 0, 0];
	for (let i = 0; i < count; i++) {
		const [p, q] = [points[i] as number[], points[(i + 1) % count] as number[]];
		for (let k = 0; k < 3; k++) {
			const [u, v] = [(k + 1) % 3, (k + 2) % 3];
			n[k] = (n[k] as number) + ((p[u] as number) - (q[u] as number)) * ((p[v] as number) + (q[v] as number));
		}
	}
	const size = n.map(Math.abs);
	const axis = size.indexOf(Math.max(...size));
	if (!((size[axis] as number) > 0)) return fan();
	const flip = (n[axis] as number) < 0;
	const [u, v] = [(axis + 1) % 3, (axis + 2) % 3];
	const flat = points.flatMap((p) => (flip ? [p[v] as number, p[u] as number] : [p[u] as number, p[v] as number]));
	const cut = earcut(flat);
	if (cut.length !== (count - 2) * 3) return fan();
	// Seen this way the polygon runs counter-clockwise: its triangles are to run as it does.
	const [a, b, c] = [cut[0] as number, cut[1] as number, cut[2] as number];
	const at = (i: number, k: number): number => flat[i * 2 + k] as number;
	const area = (at(b, 0) - at(a, 0)) * (at(c, 1) - at(a, 1)) - (at(c, 0) - at(a, 0)) * (at(b, 1) - at(a, 1));
	if (area > 0) return cut;
	const turned: number[] = [];
	for (let i = 0; i < cut.length; i += 3) turned.push(cut[i] as number, cut[i + 2] as number, cut[i + 1] as number);
	return turned;
}
