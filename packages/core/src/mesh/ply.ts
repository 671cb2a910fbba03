import { createMeshBuild, cutPolygon } from './build.ts';
import { tooManyFaces } from './check.ts';
import { type MeshResult, MOST_FACES, meshError } from './mesh.ts';

/** A number of a PLY file: its bytes, and how it is read from them. */
interface NumberKind {
	readonly bytes: number;
	read(view: DataView, at: number, little: boolean): number;
}

const byte: NumberKind = { bytes: 1, read: (view, at) => view.getInt8(at) };
const uByte: NumberKind = { bytes: 1, read: (view, at) => view.getUint8(at) };
const short: NumberKind = { bytes: 2, read: (view, at, little) => view.getInt16(at, little) };
const uShort: NumberKind = { bytes: 2, read: (view, at, little) => view.getUint16(at, little) };
const int: NumberKind = { bytes: 4, read: (view, at, little) => view.getInt32(at, little) };
const uInt: NumberKind = { bytes: 4, read: (view, at, little) => view.getUint32(at, little) };
const float: NumberKind = { bytes: 4, read: (view, at, little) => view.getFloat32(at, little) };
const double: NumberKind = { bytes: 8, read: (view, at, little) => view.getFloat64(at, little) };

const kinds: Readonly<Record<string, NumberKind>> = {
	char: byte,
	int8: byte,
	uchar: uByte,
	uint8: uByte,
	short,
	int16: short,
	ushort: uShort,
	uint16: uShort,
	int,
	int32: int,
	uint: uInt,
	uint32: uInt,
	float,
	float32: float,
	double,
	float64: double,
};

interface Property {
	readonly name: string;
	readonly kind: NumberKind;
	/** Of a list: how its length is written. */
	readonly count: NumberKind | null;
}
interface Element {
	readonly name: string;
	readonly count: number;
	readonly properties: Property[];
}
interface Header {
	readonly format: 'ascii' | 'little' | 'big';
	readonly elements: readonly Element[];
	/** Where what follows it begins. */
	readonly end: number;
}

/** Longest header that is looked at. */
const MOST_HEADER = 1 << 16;
/** Elements and properties that a file may have; a list longer than this is none of ours. */
const [MOST_ELEMENTS, MOST_LIST] = [64, 1024];

/** The header of a file, or why it is none. */
function headerOf(bytes: Uint8Array): Header | string {
	const text = new TextDecoder('latin1').decode(bytes.subarray(0, MOST_HEADER));
	const found = /(^|\n)end_header\r?\n/.exec(text);
	if (!/^ply\r?\n/.test(text)) return 'does not begin as a PLY file does';
	if (!found) return 'has no end of its header';
	let format: Header['format'] | null = null;
	const elements: Element[] = [];
	for (const line of text.slice(0, found.index).split(/\r?\n/)) {
		const words = line.trim().split(/\s+/);
		if (words[0] === 'format') {
			format =
				({ ascii: 'ascii', binary_little_endian: 'little', binary_big_endian: 'big' } as const)[words[1] as 'ascii'] ??
				null;
			if (!format) return `is written as "${words[1] ?? ''}", which is no PLY that Eppu reads`;
		} else if (words[0] === 'element') {
			const count = Number(words[2]);
			if (!words[1] || !Number.isInteger(count) || count < 0 || elements.length >= MOST_ELEMENTS)
				return 'has a header that cannot be read';
			elements.push({ name: words[1], count, properties: [] });
		} else if (words[0] === 'property') {
			const list = words[1] === 'list';
			const [kind, count] = [kinds[words[list ? 3 : 1] ?? ''], list ? kinds[words[2] ?? ''] : null];
			const name = words[list ? 4 : 2];
			const element = elements.at(-1);
			if (!kind || count === undefined || !name || !element || element.properties.length >= MOST_ELEMENTS)
				return 'has a header that cannot be read';
			element.properties.push({ name, kind, count });
		}
	}
	return format ? { format, elements, end: found.index + found[0].length } : 'does not say how it is written';
}

/** Reads one number after the other; NaN once the file is over. */
type Source = (kind: NumberKind) => number;

function sourceOf(bytes: Uint8Array, { format, end }: Header): Source {
	if (format === 'ascii') {
		const words = new TextDecoder('latin1').decode(bytes.subarray(end)).match(/\S+/g) ?? [];
		let at = 0;
		return () => (at < words.length ? Number(words[at++]) : Number.NaN);
	}
	const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
	let at = end;
	return (kind) => {
		if (at + kind.bytes > bytes.byteLength) return Number.NaN;
		const value = kind.read(view, at, format === 'little');
		at += kind.bytes;
		return value;
	};
}

const uvNames = [
	['s', 't'],
	['u', 'v'],
	['texture_u', 'texture_v'],
	['texcoord_u', 'texcoord_v'],
] as const;

/**
 * Reads a PLY file: ASCII or binary of either byte order, with places, normals and UVs of its vertices, or UVs a corner
 * (`texcoord`). Source: G. Turk, "The PLY polygon file format" (1994).
 */
export function readPly(bytes: Uint8Array, file: string): MeshResult {
	const header = headerOf(bytes);
	if (typeof header === 'string') return meshError('broken', `${file} ${header}. Export it again.`);
	const cut = (): MeshResult => meshError('broken', `${file} is cut short. Export it again.`);
	const source = sourceOf(bytes, header);
	const build = createMeshBuild();
	build.part(file.replace(/\.[^.]+$/, ''));
	const shared = new Map<number, number>();
	const places: number[][] = [];
	const normals: (number[] | null)[] = [];
	const uvs: (number[] | null)[] = [];
	const colors: (number[] | null)[] = [];
	for (const { name, count, properties } of header.elements) {
		const at = (each: string): number => properties.findIndex((property) => property.name === each);
		if (name === 'vertex') {
			const [place, normal] = [['x', 'y', 'z'].map(at), ['nx', 'ny', 'nz'].map(at)];
			const uv = uvNames.map((pair) => pair.map(at)).find((pair) => pair.every((i) => i >= 0));
			if (place.some((i) => i < 0))
				return meshError('broken', `${file} has vertices without a place. Export it again.`);
			const names = ['red', 'green', 'blue', 'alpha'].map((each) => Math.max(at(each), at(`diffuse_${each}`)));
			const tint = names.slice(0, 3).every((i) => i >= 0) ? names.filter((i) => i >= 0) : null;
			// Whole numbers count to 255, others to 1.
			const full = tint?.map((i) => ([float, double].includes(properties[i]?.kind ?? uByte) ? 1 : 255)) ?? [];
			// A count that the file cannot hold is not waited for.
			if (count > bytes.length) return cut();
			for (let i = 0; i < count; i++) {
				const values = rowOf(properties, source);
				if (!values) return cut();
				const of = (list: readonly number[]): number[] => list.map((k) => (values[k] as number[])[0] as number);
				places.push(of(place));
				normals.push(normal.every((k) => k >= 0) ? of(normal) : null);
				uvs.push(uv ? of(uv) : null);
				colors.push(tint ? of(tint).map((v, k) => v / (full[k] as number)) : null);
			}
			continue;
		}
		const corners = Math.max(at('vertex_indices'), at('vertex_index'));
		const own = at('texcoord');
		if (name === 'face' && corners < 0)
			return meshError('broken', `${file} has faces without corners. Export it again.`);
		if (count > bytes.length) return cut();
		for (let i = 0; i < count; i++) {
			const values = rowOf(properties, source);
			if (!values) return cut();
			if (name !== 'face') continue;
			const list = values[corners] as number[];
			const coords = own >= 0 ? (values[own] as number[]) : null;
			if (list.length < 3) continue;
			if (list.some((v) => !Number.isInteger(v) || v < 0 || v >= places.length))
				return meshError(
					'broken',
					`${file} names a vertex that it does not hold. It may be cut short; export it again.`,
				);
			if (build.faces + list.length - 2 > MOST_FACES) return tooManyFaces(file, build.faces + list.length - 2);
			addFace(
				build,
				list,
				places,
				normals,
				colors,
				(k) => {
					const uv =
						coords && coords.length >= list.length * 2
							? [coords[k * 2] as number, coords[k * 2 + 1] as number]
							: (uvs[list[k] as number] ?? null);
					// PLY counts v upwards, a sheet downwards.
					return uv && [uv[0] as number, 1 - (uv[1] as number)];
				},
				coords ? null : shared,
			);
		}
	}
	return build.done(file);
}

/** The values of one element, a list a property; null where the file is over or a list is none. */
function rowOf(properties: readonly Property[], source: Source): number[][] | null {
	const out: number[][] = [];
	for (const { kind, count } of properties) {
		const length = count ? source(count) : 1;
		if (!(length >= 0 && length <= MOST_LIST)) return null;
		const list: number[] = [];
		for (let i = 0; i < length; i++) {
			const value = source(kind);
			// What is no number at all is told by the checks that follow; the end of the file is not one of them.
			if (Number.isNaN(value) && kind !== float && kind !== double) return null;
			list.push(value);
		}
		out.push(list);
	}
	return out;
}

function addFace(
	build: ReturnType<typeof createMeshBuild>,
	list: readonly number[],
	places: readonly number[][],
	normals: readonly (number[] | null)[],
	colors: readonly (number[] | null)[],
	uvOf: (corner: number) => number[] | null,
	shared: Map<number, number> | null,
): void {
	const points = list.map((v) => places[v] as number[]);
	// A vertex serves all its faces, but where each corner has UVs of its own.
	const made = list.map((v, k) => {
		const known = shared?.get(v);
		if (known !== undefined) return known;
		const vertex = build.vertex(places[v] as number[], uvOf(k), normals[v] ?? null, colors[v] ?? null);
		shared?.set(v, vertex);
		return vertex;
	});
	const cut = cutPolygon(points);
	for (let i = 0; i < cut.length; i += 3)
		build.triangle(
			made[cut[i] as number] as number,
			made[cut[i + 1] as number] as number,
			made[cut[i + 2] as number] as number,
		);
}
