import { createMeshBuild, cutPolygon } from './build.ts';
import { tooManyFaces } from './check.ts';
import { type MeshResult, MOST_FACES, meshError } from './mesh.ts';

/** A reference of a corner: from 0, -1 where there is none, NaN where it names what is not there. */
function place(text: string | undefined, count: number): number {
	if (text === undefined || text === '') return -1;
	const n = Number(text);
	if (!Number.isInteger(n) || n === 0) return Number.NaN;
	const at = n < 0 ? count + n : n - 1;
	return at >= 0 && at < count ? at : Number.NaN;
}

/** The text of an OBJ file: UTF-8, or UTF-16 where it begins with its mark. */
export function textOfObj(bytes: Uint8Array): string {
	const [a, b] = bytes;
	const utf16 = a === 0xff && b === 0xfe ? 'utf-16le' : a === 0xfe && b === 0xff ? 'utf-16be' : null;
	return new TextDecoder(utf16 ?? 'utf-8').decode(bytes);
}

/** Each statement of the file: lines that end in a backslash go on in the next, what follows # is a comment. */
function* statements(text: string): Generator<string> {
	let held = '';
	let start = 0;
	while (start < text.length) {
		let end = start;
		while (end < text.length && text[end] !== '\n' && text[end] !== '\r') end++;
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

/**
 * Reads Wavefront OBJ: v, vt, vn, f with any number of corners, also turning inwards; objects, groups and materials as
 * parts. Errors name `file` and the way out; nothing is thrown.
 */
export function readObj(text: string, file: string): MeshResult {
	if (text.trim() === '') return meshError('empty', `${file} is empty. Export the model again.`);
	const v: number[] = [];
	const vt: number[] = [];
	const vn: number[] = [];
	const build = createMeshBuild();
	let [object, group, material] = ['', '', ''];
	/** Corners by part: a part that is named again goes on, but an object that begins anew does not. */
	const lists = new Map<string, { readonly name: string; readonly corners: number[][] }>();
	let objects = 0;
	let list: number[][] | null = null;
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
		if (kind === 'v') v.push(Number(words[1]), Number(words[2]), Number(words[3]));
		else if (kind === 'vt') vt.push(Number(words[1]), Number(words[2] ?? 0));
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
			const corners = words.slice(1).map((word): number[] => {
				const [p, t, n] = word.split('/');
				return [place(p, v.length / 3), place(t, vt.length / 2), place(n, vn.length / 3)];
			});
			if (corners.length < 3) return broken(words, 'with fewer than three corners');
			if (corners.some((corner) => corner.some(Number.isNaN) || (corner[0] as number) < 0))
				return broken(words, 'that names a corner which the file does not hold');
			if (!list) {
				const key = `${objects}\n${group}\n${material}`;
				const name = group || object || 'Model';
				const found = lists.get(key) ?? { name: material ? `${name}\n${material}` : name, corners: [] };
				lists.set(key, found);
				list = found.corners;
			}
			list.push(corners.flat());
			faces += corners.length - 2;
		} else if (!['mtllib', 's', 'l', 'p', 'vp', ''].includes(kind ?? '')) continue;
		known = true;
	}
	if (!known) return meshError('unknown-format', `${file} does not read as an OBJ model. Eppu opens OBJ and GLB.`);
	if (faces > MOST_FACES) return tooManyFaces(file, faces);
	// A material is named only where it tells parts of one name apart.
	const sameName = new Map<string, Set<string>>();
	for (const { name } of lists.values()) {
		const [own = '', of = ''] = name.split('\n');
		sameName.set(own, (sameName.get(own) ?? new Set()).add(of));
	}
	for (const { name, corners } of lists.values()) {
		const [own = '', of = ''] = name.split('\n');
		build.part((sameName.get(own)?.size ?? 0) > 1 && of ? `${own} · ${of}` : own);
		const made = new Map<string, number>();
		for (const flat of corners) {
			const count = flat.length / 3;
			const at = Array.from({ length: count }, (_, i) => {
				const [p, t, n] = [flat[i * 3] as number, flat[i * 3 + 1] as number, flat[i * 3 + 2] as number];
				const key = `${p}/${t}/${n}`;
				let index = made.get(key);
				if (index === undefined) {
					index = build.vertex(
						v.slice(p * 3, p * 3 + 3),
						t < 0 ? null : [vt[t * 2] as number, 1 - (vt[t * 2 + 1] as number)],
						n < 0 ? null : vn.slice(n * 3, n * 3 + 3),
					);
					made.set(key, index);
				}
				return index;
			});
			const cut = cutPolygon(at.map((_, i) => v.slice((flat[i * 3] as number) * 3, (flat[i * 3] as number) * 3 + 3)));
			for (let i = 0; i < cut.length; i += 3)
				build.triangle(
					at[cut[i] as number] as number,
					at[cut[i + 1] as number] as number,
					at[cut[i + 2] as number] as number,
				);
		}
	}
	return build.done(file);
}
