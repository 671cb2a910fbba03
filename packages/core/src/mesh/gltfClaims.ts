import { MOST_FACES } from './mesh.ts';

/** What of a glTF file is read, as it stands in its JSON: anything may be missing or of another type. */
export interface GltfJson {
	readonly accessors?: readonly GltfAccessor[];
	readonly bufferViews?: readonly {
		readonly buffer?: number;
		readonly byteOffset?: number;
		readonly byteLength?: number;
		readonly byteStride?: number;
	}[];
	readonly buffers?: readonly { readonly byteLength?: number; readonly uri?: string }[];
	readonly meshes?: readonly { readonly primitives?: readonly GltfPrimitive[] }[];
	readonly nodes?: readonly { readonly mesh?: number; readonly children?: readonly number[] }[];
	readonly scenes?: readonly { readonly nodes?: readonly number[] }[];
	extensionsRequired?: readonly string[];
	extensionsUsed?: readonly string[];
}
interface GltfAccessor {
	readonly bufferView?: number;
	readonly byteOffset?: number;
	readonly componentType?: number;
	readonly count?: number;
	readonly type?: string;
	readonly sparse?: { readonly count?: number };
}
interface GltfPrimitive {
	readonly attributes?: Readonly<Record<string, number>>;
	readonly indices?: number;
}

const COMPONENT_BYTES: Readonly<Record<number, number>> = { 5120: 1, 5121: 1, 5122: 2, 5123: 2, 5125: 4, 5126: 4 };
const COMPONENTS: Readonly<Record<string, number>> = {
	SCALAR: 1,
	VEC2: 2,
	VEC3: 3,
	VEC4: 4,
	MAT2: 4,
	MAT3: 9,
	MAT4: 16,
};
/** Elements of the largest accessor: three corners of every face that is painted, each its own. */
const MOST_COUNT = MOST_FACES * 6;
/** Elements of all accessors together. */
const MOST_ALL = MOST_COUNT * 16;
const MOST_NODES = 100_000;
const MOST_DEPTH = 512;

const whole = (v: unknown): v is number => Number.isInteger(v) && (v as number) >= 0;
const listOf = <T>(v: readonly T[] | undefined): readonly T[] => (Array.isArray(v) ? v : []);

/**
 * What a glTF file claims, looked at before any of it is believed and memory set aside for it: accessors within their
 * buffers, counts that can be, nodes that make a tree. Null where it can be read, else what is wrong.
 */
export function claimsProblem(json: GltfJson, bytes: number): string | null {
	const views = listOf(json.bufferViews);
	for (const view of views) {
		if (typeof view !== 'object' || view === null) return 'a buffer view is none';
		const { byteOffset = 0, byteLength = 0, byteStride = 4 } = view;
		if (!whole(byteOffset) || !whole(byteLength) || byteOffset + byteLength > bytes)
			return 'a part of its data lies beyond its end';
		if (!whole(byteStride) || byteStride < 1 || byteStride > 252) return 'a stride in it cannot be';
	}
	let all = 0;
	for (const accessor of listOf(json.accessors)) {
		if (typeof accessor !== 'object' || accessor === null) return 'an accessor is none';
		const { count, byteOffset = 0, componentType = 0, type = '', bufferView, sparse } = accessor;
		const size = (COMPONENT_BYTES[componentType] ?? 0) * (COMPONENTS[type] ?? 0);
		if (!whole(count) || !whole(byteOffset) || size === 0) return 'an accessor in it is not well formed';
		if (count > MOST_COUNT) return `it claims ${count.toLocaleString('en')} values in one list`;
		if (sparse !== undefined && !(whole(sparse?.count) && sparse.count <= count))
			return 'a sparse list in it claims more than it has';
		all += count;
		if (bufferView === undefined) continue;
		const view = views[bufferView];
		if (!whole(bufferView) || !view) return 'an accessor names data that is not there';
		const stride = view.byteStride ?? size;
		if (count > 0 && byteOffset + stride * (count - 1) + size > (view.byteLength ?? 0))
			return 'an accessor reaches beyond its data';
	}
	if (all > MOST_ALL) return `it claims ${all.toLocaleString('en')} values`;
	return treeProblem(json);
}

/** Nodes must make trees: none twice, none within itself, and not deeper than any hand makes them. */
function treeProblem(json: GltfJson): string | null {
	const nodes = listOf(json.nodes);
	if (nodes.length > MOST_NODES) return `it holds ${nodes.length.toLocaleString('en')} nodes`;
	const parents = new Uint8Array(nodes.length);
	for (const node of nodes)
		for (const child of listOf(node?.children)) {
			if (!whole(child) || child >= nodes.length) return 'a node names a child that is not there';
			parents[child] = (parents[child] as number) + 1;
			if ((parents[child] as number) > 1) return 'a node in it stands in two places';
		}
	let level = nodes.flatMap((_, i) => (parents[i] ? [] : [i]));
	let seen = level.length;
	for (let depth = 0; level.length; depth++) {
		if (depth > MOST_DEPTH) return 'its nodes stand too deep within each other';
		level = level.flatMap((i) => [...listOf(nodes[i]?.children)]);
		seen += level.length;
	}
	return seen === nodes.length ? null : 'a node in it stands within itself';
}
