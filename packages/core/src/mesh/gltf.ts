import type { GltfJson } from './gltfClaims.ts';
import { type MeshError, meshError } from './mesh.ts';

const MAGIC = 0x46546c67;
const JSON_CHUNK = 0x4e4f534a;
const BIN_CHUNK = 0x004e4942;

interface Image {
	uri?: string;
	bufferView?: number;
	mimeType?: string;
	readonly name?: string;
}
type View = { buffer?: number; byteOffset?: number; byteLength?: number };
/** What is rewritten, or looked up, beside what the reader of geometry looks at. */
type Gltf = Omit<GltfJson, 'buffers' | 'bufferViews'> & {
	buffers?: { byteLength?: number; uri?: string }[];
	bufferViews?: View[];
	images?: Image[];
	readonly textures?: readonly { readonly source?: number }[];
	readonly materials?: readonly {
		readonly pbrMetallicRoughness?: { readonly baseColorTexture?: { readonly index?: number } };
	}[];
};

const padded = (length: number): number => Math.ceil(length / 4) * 4;

/** The bytes of a `data:` address; null where it is none. */
function ofDataUri(uri: string): Uint8Array | null {
	const found = /^data:[^,]*?(;base64)?,(.*)$/s.exec(uri);
	if (!found) return null;
	try {
		const text = found[1] ? atob(found[2] as string) : decodeURIComponent(found[2] as string);
		return Uint8Array.from(text, (letter) => letter.charCodeAt(0));
	} catch {
		return null;
	}
}

/** Takes every texture out of materials: their pictures are not at hand. */
function withoutTextures(value: unknown): unknown {
	if (Array.isArray(value)) return value.map(withoutTextures);
	if (typeof value !== 'object' || value === null) return value;
	return Object.fromEntries(
		Object.entries(value).flatMap(([key, each]) => (/texture$/i.test(key) ? [] : [[key, withoutTextures(each)]])),
	);
}

/**
 * A glTF file (JSON) with what lies beside it, as one GLB. `beside` are the files that were chosen with it, by their
 * names. What of its geometry is missing is named; pictures that are missing are left out.
 */
export function packGltf(
	bytes: Uint8Array,
	beside: ReadonlyMap<string, Uint8Array>,
	file: string,
): { readonly ok: true; readonly bytes: Uint8Array<ArrayBuffer> } | { readonly ok: false; readonly error: MeshError } {
	const refused = (code: MeshError['code'], text: string) =>
		meshError(code, text) as { readonly ok: false; readonly error: MeshError };
	let json: Gltf;
	try {
		json = JSON.parse(new TextDecoder('utf-8', { fatal: true }).decode(bytes)) as Gltf;
	} catch {
		return refused('broken', `${file} does not read as glTF. Export it again, as GLB where that is offered.`);
	}
	if (typeof json !== 'object' || json === null)
		return refused('broken', `${file} does not read as glTF. Export it again, as GLB where that is offered.`);
	const list = <T>(value: readonly T[] | undefined): readonly T[] => (Array.isArray(value) ? value : []);
	const fileOf = (uri: string): Uint8Array | null => {
		if (uri.startsWith('data:')) return ofDataUri(uri);
		let name = uri.split('/').pop() ?? uri;
		try {
			name = decodeURIComponent(name);
		} catch {
			// As it is written.
		}
		return beside.get(name) ?? null;
	};
	const parts: Uint8Array[] = [];
	let end = 0;
	const put = (part: Uint8Array): number => {
		const at = end;
		parts.push(part);
		end += padded(part.length);
		return at;
	};
	const starts: number[] = [];
	for (const buffer of list(json.buffers)) {
		const uri = buffer?.uri;
		const found = typeof uri === 'string' ? fileOf(uri) : null;
		if (!found)
			return refused(
				'unsupported',
				`${file} keeps its geometry in "${typeof uri === 'string' && !uri.startsWith('data:') ? uri : 'a buffer that is missing'}". Choose both together, or export it as GLB.`,
			);
		starts.push(put(found));
	}
	const bufferViews = list(json.bufferViews).map((view) => ({
		...view,
		buffer: 0,
		byteOffset: (view?.byteOffset ?? 0) + (starts[view?.buffer ?? 0] ?? 0),
	}));
	let missing = false;
	const images = list(json.images).map((image): Image => {
		if (typeof image?.uri !== 'string') return image;
		const found = fileOf(image.uri);
		if (!found) {
			missing = true;
			return image;
		}
		const { uri, ...rest } = image;
		bufferViews.push({ buffer: 0, byteOffset: put(found), byteLength: found.length });
		const mimeType = image.mimeType ?? (/^data:image\/png|\.png$/i.test(uri) ? 'image/png' : 'image/jpeg');
		return { ...rest, mimeType, bufferView: bufferViews.length - 1 };
	});
	const whole: Gltf = { ...json, bufferViews, buffers: [{ byteLength: end }], images };
	const { images: _i, textures: _t, ...bare } = whole;
	return { ok: true, bytes: glbOf(missing ? (withoutTextures(bare) as Gltf) : whole, parts, end) };
}

/** A GLB of a description and the pieces of its one buffer, each padded to whole words. */
function glbOf(json: Gltf, parts: readonly Uint8Array[], length: number): Uint8Array<ArrayBuffer> {
	const text = new TextEncoder().encode(JSON.stringify(json));
	const out = new Uint8Array(20 + padded(text.length) + 8 + length);
	out.fill(32, 20, 20 + padded(text.length));
	const view = new DataView(out.buffer);
	[MAGIC, 2, out.length, padded(text.length), JSON_CHUNK].forEach((v, i) => void view.setUint32(i * 4, v, true));
	out.set(text, 20);
	let at = 20 + padded(text.length);
	view.setUint32(at, length, true);
	view.setUint32(at + 4, BIN_CHUNK, true);
	at += 8;
	for (const part of parts) {
		out.set(part, at);
		at += padded(part.length);
	}
	return out;
}

/** What a GLB holds beside its geometry. */
export interface GlbContents {
	/** Pictures of its materials' colour, each once. */
	readonly pictures: readonly { readonly name: string; readonly type: string; readonly bytes: Uint8Array }[];
	/** How many UV sets some of it has. */
	readonly uvSets: number;
}

/** Looks into a GLB; of a file that is none, or damaged, there is nothing. */
export function contentsOfGlb(bytes: Uint8Array): GlbContents {
	const nothing: GlbContents = { pictures: [], uvSets: 0 };
	try {
		const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
		if (view.getUint32(0, true) !== MAGIC || view.getUint32(16, true) !== JSON_CHUNK) return nothing;
		const length = view.getUint32(12, true);
		const json = JSON.parse(new TextDecoder().decode(bytes.slice(20, 20 + length))) as Gltf;
		const start = 20 + length + 8;
		const used = new Set(
			(json.materials ?? []).flatMap((material) => {
				const texture = material.pbrMetallicRoughness?.baseColorTexture?.index;
				const source = texture === undefined ? undefined : json.textures?.[texture]?.source;
				return source === undefined ? [] : [source];
			}),
		);
		const pictures = [...used].flatMap((i) => {
			const image = json.images?.[i];
			const from = image?.bufferView === undefined ? undefined : json.bufferViews?.[image.bufferView];
			if (!image || !from) return [];
			const at = start + (from.byteOffset ?? 0);
			const own = bytes.slice(at, at + (from.byteLength ?? 0));
			if (own.length === 0) return [];
			return [{ name: image.name || `Picture ${i + 1}`, type: image.mimeType ?? 'image/png', bytes: own }];
		});
		const sets = (json.meshes ?? []).flatMap((mesh) =>
			(mesh.primitives ?? []).map(
				({ attributes }) => Object.keys(attributes ?? {}).filter((name) => name.startsWith('TEXCOORD_')).length,
			),
		);
		return { pictures, uvSets: Math.max(0, ...sets) };
	} catch {
		return nothing;
	}
}
