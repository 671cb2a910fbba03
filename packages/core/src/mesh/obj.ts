import { createMeshBuild, cutPolygon, type MeshBuild } from './build.ts';
import { tooManyFaces } from './check.ts';
import { createIndex, mixed } from './hashIndex.ts';
import { type MeshResult, MOST_FACES, meshError } from './mesh.ts';

/** A reference of a corner: from 0, -1 where there is none, NaN where it names what is not there. */
function place(text: string | undefined, count: number): number {
	if (text === undefined || text === '') return -1;
	const n = Number(text);
	if (!Number.isInteger(n) || n === 0) return Number.NaN;
	const at = n < 0 ? count + n : n - 1;
	return at >= 0 && at < count ? at : Number.NaN;
}

/** Polygons of a part: how many corners each has, and each corner's references (place, UV, normal; -1 for none). */
interface Polygons {
	readonly name: string;
	readonly counts: number[];
	readonly refs: number[];
}

/** The text of an OBJ file: UTF-8, or UTF-16 where it begins with its mark. */
export function textOfObj(bytes: Uint8Array): string {
	const [a, b] = bytes;
	const utf16 = a === 0xff && b === 0xfe ? 'utf-16le' : a === 0xfe && b === 0xff ? 'utf-16be' : null;
	return new TextDecoder(utf16 ?? 'utf-8').decode(bytes);
}

/** Each statement of the file: lines that end in a backslash go on in the next, what follows # is a comment. */
function* statements(file: string): Generator<string> {
	const text = file.includes('\r') ? file.replace(/\r/g, '\n') : file;
	let held = '';
	let start = 0;
	while (start < text.length) {
		const found = text.indexOf('\n', start);
		const end = found < 0 ? text.length : found;
		let line = text.slice(start, end);
		start = end + 1;
		const hash = line.indexOf('#');
		if (hash >= 0) line = line.slice(0, hash);
		line = line.trimEnd();
		if (line.endsWith('\\')) {
			held += `${line.slice(0, -1)} `;
			continue;
		}
		if (held || line) yield (held + line).trim();
		held = '';
	}
	if (held) yield held.trim();
}

/** Makes vertices and triangles of what was read; places, UVs and normals as they are in the file. */
function layParts(
	lists: readonly Polygons[],
	v: readonly number[],
	vt: readonly number[],
	vn: readonly number[],
	colorOf: (vertex: number) => readonly number[] | null,
	build: MeshBuild,
): void {
	// A material is named only where it tells parts of one name apart.
	const sameName = new Map<string, Set<string>>();
	for (const { name } of lists) {
		const [own = '', of = ''] = name.split('\n');
		sameName.set(own, (sameName.get(own) ?? new Set()).add(of));
	}
	for (const { name, counts, refs } of lists) {
		const [own = '', of = ''] = name.split('\n');
		build.part((sameName.get(own)?.size ?? 0) > 1 && of ? `${own} · ${of}` : own);
		const ref = (corner: number, k: number): number => refs[corner * 3 + k] as number;
		const point = (corner: number): number[] => [0, 1, 2].map((k) => v[ref(corner, 0) * 3 + k] as number);
		const same = (i: number, j: number): boolean =>
			ref(i, 0) === ref(j, 0) && ref(i, 1) === ref(j, 1) && ref(i, 2) === ref(j, 2);
		const firsts = createIndex(refs.length / 3, (i) => mixed(mixed(mixed(ref(i, 0)) ^ ref(i, 1)) ^ ref(i, 2)));
		const made = new Uint32Array(refs.length / 3);
		let start = 0;
		for (const count of counts) {
			for (let corner = start; corner < start + count; corner++) {
				const first = firsts(corner, same);
				const [t, n] = [ref(corner, 1), ref(corner, 2)];
				made[corner] =
					first !== corner
						? (made[first] as number)
						: build.vertex(
								point(corner),
								t < 0 ? null : [vt[t * 2] as number, 1 - (vt[t * 2 + 1] as number)],
								n < 0 ? null : vn.slice(n * 3, n * 3 + 3),
								colorOf(ref(corner, 0)),
							);
			}
			const at = (i: number): number => made[start + i] as number;
			if (count === 3) build.triangle(at(0), at(1), at(2));
			else {
				const cut = cutPolygon(Array.from({ length: count }, (_, i) => point(start + i)));
				for (let i = 0; i < cut.length; i += 3)
					build.triangle(at(cut[i] as number), at(cut[i + 1] as number), at(cut[i + 2] as number));
			}
			start += count;
		}
	}
}

/**
 * Reads Wavefront OBJ: v, vt, vn, f with any number of corners, also turning inwards; objects, groups and materials as
 * parts. Errors name `file` and the way out; nothing is thrown.
 */
export function readObj(text: string, file: string): MeshResult {
	if (text.trim() === '') return meshError('empty', `${file} is empty. Export the model again.`);
	const v: number[] = [];
	const vt: number[] = [];
	const vn: number[] = [];
	const colors = new Map<number, readonly number[]>();
	const build = createMeshBuild();
	let [object, group, material] = ['', '', ''];
	/** Corners by part: a part that is named again goes on, but an object that begins anew does not. */
	const lists = new Map<string, Polygons>();
	let objects = 0;
	let list: Polygons | null = null;
	let faces = 0;
	let known = false;
	const broken = (words: readonly string[], why: string): MeshResult =>
		meshError(
			'broken',
			`${file} has a face ${why} ("${words.join(' ').slice(0, 60)}"). It may be cut short; export it again.`,
		);

	for (const statement of statements(text)) {
		const words = statement.split(/\s+/);
		const kind = words[0];
		if (kind === 'v') {
			v.push(Number(words[1]), Number(words[2]), Number(words[3]));
			// A fourth value is a weight; six are a place and a colour.
			if (words.length >= 7) colors.set(v.length / 3 - 1, words.slice(4, 8).map(Number));
		} else if (kind === 'vt') vt.push(Number(words[1]), Number(words[2] ?? 0));
		else if (kind === 'vn') vn.push(Number(words[1]), Number(words[2]), Number(words[3]));
		else if (kind === 'o' || kind === 'g' || kind === 'usemtl') {
			const name = words.slice(1).join(' ');
			if (kind === 'o') {
				object = name;
				group = '';
				objects++;
			} else if (kind === 'g') group = name;
			else material = name;
			list = null;
		} else if (kind === 'f' && faces > MOST_FACES) {
			// Far too many: how many is all that still counts.
			faces += words.length - 3;
		} else if (kind === 'f') {
			const count = words.length - 1;
			if (count < 3) return broken(words, 'with fewer than three corners');
			const refs: number[] = [];
			for (let i = 1; i <= count; i++) {
				const [p, t, n] = (words[i] as string).split('/');
				refs.push(place(p, v.length / 3), place(t, vt.length / 2), place(n, vn.length / 3));
			}
			if (refs.some((ref, i) => Number.isNaN(ref) || (i % 3 === 0 && ref < 0)))
				return broken(words, 'that names a corner which the file does not hold');
			if (!list) {
				const key = `${objects}\n${group}\n${material}`;
				const name = group || object || 'Model';
				const found = lists.get(key) ?? { name: material ? `${name}\n${material}` : name, counts: [], refs: [] };
				lists.set(key, found);
				list = found;
			}
			list.counts.push(count);
			for (const ref of refs) list.refs.push(ref);
			faces += count - 2;
		} else if (!['mtllib', 's', 'l', 'p', 'vp', ''].includes(kind ?? '')) continue;
		known = true;
	}
	if (!known) return meshError('unknown-format', `${file} does not read as an OBJ model. Eppu opens OBJ and GLB.`);
	if (faces > MOST_FACES) return tooManyFaces(file, faces);
	// Some write them as bytes.
	const by = [...colors.values()].some((color) => color.some((c) => c > 1)) ? 255 : 1;
	const colorOf = (vertex: number): readonly number[] | null => colors.get(vertex)?.map((c) => c / by) ?? null;
	layParts([...lists.values()], v, vt, vn, colorOf, build);
	return build.done(file);
}
