import { checkMesh, type MeshResult, MOST_FACES, meshError, type Part } from './mesh.ts';

interface Build {
	readonly positions: number[];
	readonly uvs: number[];
	readonly normals: number[];
	/** v/vt/vn of a corner to the vertex made for it */
	readonly known: Map<string, number>;
	readonly indices: Map<string, number[]>;
}

/** Index of an OBJ reference: from 1, or from the end where negative. -1 where there is none or it is out of range. */
const place = (text: string | undefined, count: number): number => {
	if (!text) return -1;
	const n = Number.parseInt(text, 10);
	const at = n < 0 ? count + n : n - 1;
	return at >= 0 && at < count ? at : Number.NaN;
};

/**
 * Reads Wavefront OBJ: v, vt, vn, f with any number of corners (cut into a fan), o and g as parts. Materials do not
 * split parts. Errors name `file` and the way out; nothing is thrown.
 */
export function readObj(text: string, file: string): MeshResult {
	if (text.trim() === '') return meshError('empty', `${file} is empty. Export the model again.`);
	const v: number[] = [];
	const vt: number[] = [];
	const vn: number[] = [];
	const build: Build = { positions: [], uvs: [], normals: [], known: new Map(), indices: new Map() };
	let part = 'Model';
	let faces = 0;
	let missingUv = false;
	let missingNormal = false;

	const corner = (word: string): number => {
		const known = build.known.get(word);
		if (known !== undefined) return known;
		const [p, t, n] = word.split('/');
		const pi = place(p, v.length / 3);
		const ti = place(t, vt.length / 2);
		const ni = place(n, vn.length / 3);
		if (!(pi >= 0) || Number.isNaN(ti) || Number.isNaN(ni)) return -1;
		if (ti < 0) missingUv = true;
		if (ni < 0) missingNormal = true;
		const index = build.positions.length / 3;
		build.positions.push(...v.slice(pi * 3, pi * 3 + 3));
		build.uvs.push(ti < 0 ? 0 : (vt[ti * 2] as number), ti < 0 ? 0 : 1 - (vt[ti * 2 + 1] as number));
		build.normals.push(...(ni < 0 ? [0, 0, 0] : vn.slice(ni * 3, ni * 3 + 3)));
		build.known.set(word, index);
		return index;
	};

	let start = 0;
	while (start < text.length) {
		let end = text.indexOf('\n', start);
		if (end < 0) end = text.length;
		const words = text.slice(start, end).trim().split(/\s+/);
		start = end + 1;
		const kind = words[0];
		if (kind === 'v') v.push(Number(words[1]), Number(words[2]), Number(words[3]));
		else if (kind === 'vt') vt.push(Number(words[1]), Number(words[2] ?? 0));
		else if (kind === 'vn') vn.push(Number(words[1]), Number(words[2]), Number(words[3]));
		else if (kind === 'o' || kind === 'g') part = words.slice(1).join(' ') || 'Model';
		else if (kind === 'f') {
			// Relative references change with every vertex, so they are made absolute before they are remembered.
			const corners = words
				.slice(1)
				.map((word) => corner(word.includes('-') ? absolute(word, v.length / 3, vt.length / 2, vn.length / 3) : word));
			if (corners.length < 3 || corners.includes(-1))
				return meshError(
					'broken',
					`${file} has a face that names a missing corner ("${words.join(' ').slice(0, 60)}"). It may be cut short; export it again.`,
				);
			let list = build.indices.get(part);
			if (!list) build.indices.set(part, (list = []));
			for (let i = 2; i < corners.length; i++)
				list.push(corners[0] as number, corners[i - 1] as number, corners[i] as number);
			faces += corners.length - 2;
			if (faces > MOST_FACES * 8) break; // far over the limit: the count no longer matters
		}
	}
	if (faces === 0 && v.length === 0 && !/^\s*(v|f|o|g|#|mtllib)\b/m.test(text))
		return meshError('unknown-format', `${file} does not read as an OBJ model. Eppu opens OBJ and GLB.`);
	if (faces > 0 && missingUv)
		return meshError(
			'no-uvs',
			`${file} has no UVs, so there is no sheet to paint on. Unwrap it in your modelling program and export it with UVs.`,
		);
	const parts: Part[] = [];
	const indices: number[] = [];
	for (const [name, list] of build.indices) {
		parts.push({ name, firstFace: indices.length / 3, faces: list.length / 3 });
		for (const i of list) indices.push(i);
	}
	return checkMesh(
		{
			positions: new Float32Array(build.positions),
			uvs: new Float32Array(build.uvs),
			normals: missingNormal || vn.length === 0 ? null : new Float32Array(build.normals),
			indices: new Uint32Array(indices),
			parts,
		},
		file,
	);
}

const absolute = (word: string, ...counts: number[]): string =>
	word
		.split('/')
		.map((n, i) => (n.startsWith('-') ? String((counts[i] ?? 0) + Number.parseInt(n, 10) + 1) : n))
		.join('/');
