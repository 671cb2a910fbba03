import type { PngReader } from '@eppu/kernels';
import { XMLParser } from 'fast-xml-parser';
import { MOST_NESTED } from '../composite/index.ts';
import { type OpenZip, openZip, readPictureFile } from '../format/index.ts';
import type { Picture } from '../surface/index.ts';
import { OVER } from './modes.ts';
import type { OraImage, OraNode, Own } from './node.ts';
import type { Patch } from './patch.ts';
import { EPPU, ownAttributes } from './write.ts';

/** More of these are refused: the file would hold the machine. */
const MOST_XML = 16 * 1024 * 1024;
const MOST_ELEMENTS = 2000;
const MOST_TEXELS = 1 << 28;
const MOST_SIDE = 8192;

/** A file that is no picture in layers; the text says what is wrong and what to do. */
export class OpenRasterError extends Error {
	override readonly name = 'OpenRasterError';
}

/** An element as the parser gives it. */
interface Element {
	readonly tag: string;
	readonly at: Readonly<Record<string, string>>;
	readonly children: readonly Element[];
}

/** Deeper than layers may stand, with the stacks that masks and clipped sets make. */
const MOST_DEPTH = MOST_NESTED * 3 + 4;

function elementsOf(xml: string, name: string): Element {
	// Entities of a file's own are how a small file becomes a large one, or reads another: no picture needs them.
	if (/<!(DOCTYPE|ENTITY)/i.test(xml))
		throw new OpenRasterError(`${name} declares entities of its own, as no picture needs. It was not opened.`);
	let parsed: unknown;
	try {
		parsed = new XMLParser({
			preserveOrder: true,
			ignoreAttributes: false,
			attributeNamePrefix: '',
			parseAttributeValue: false,
			processEntities: true,
			htmlEntities: true,
			trimValues: true,
			maxNestedTags: 200,
		}).parse(xml, true);
	} catch {
		throw new OpenRasterError(`The list of layers in ${name} is damaged. Save it again and open it.`);
	}
	let count = 0;
	const within = (list: unknown, depth: number): Element[] => {
		if (depth > MOST_DEPTH)
			throw new OpenRasterError(`${name} has groups more than ${MOST_NESTED} deep. Open some of them.`);
		return (Array.isArray(list) ? list : []).flatMap((raw): Element[] => {
			const tag = Object.keys(raw as object).find((key) => key !== ':@' && key !== '#text' && !key.startsWith('?'));
			if (!tag) return [];
			if (++count > MOST_ELEMENTS)
				throw new OpenRasterError(`${name} has more than ${MOST_ELEMENTS} layers. It was not opened.`);
			const at = (raw as { ':@'?: Record<string, string> })[':@'] ?? {};
			return [{ tag, at, children: within((raw as Record<string, unknown>)[tag], depth + 1) }];
		});
	};
	const image = within(parsed, 0).find(({ tag }) => tag === 'image');
	if (!image) throw new OpenRasterError(`${name} has no list of layers. It is no OpenRaster file.`);
	return image;
}

const numberOf = (text: string | undefined, usual: number): number => {
	const value = Number(text ?? usual);
	return Number.isFinite(value) ? value : usual;
};

/** The prefix that a file gives our namespace. */
const prefixOf = ({ at }: Element): string | null => {
	const found = Object.entries(at).find(([key, value]) => key.startsWith('xmlns:') && value === EPPU);
	return found ? `${found[0].slice(6)}:` : null;
};

/** Pictures that were read already, by the length and check of their files: of several savings most are the same. */
export type Pictures = Map<string, Omit<Patch, 'x' | 'y'>>;

const MERGED = 'mergedimage.png';
/** A picture's name by what the file's directory says of it, so that one that is known needs not be looked into. */
const pictureName = (zip: OpenZip, path: string): string =>
	`${zip.files.find((each) => each.path === path)?.size} ${zip.crcOf(path)}`;

/** Why a picture of a file is not read by what it claims; `room` counts the texels of those that are. */
function pictureProblem(path: string, bytes: Uint8Array, room: { texels: number }): string | null {
	const head = readPictureFile(bytes, path);
	if (!head.ok) return head.text;
	if (head.file.type !== 'image/png') return `${path} is no PNG.`;
	room.texels += head.file.width * head.file.height;
	return room.texels > MOST_TEXELS ? `${path} is left out: the pictures together are too large.` : null;
}

/**
 * The pictures in an OpenRaster file by their names among `Pictures`, so that others can read them beforehand: null where
 * they are known; that of all of it only where `merged` asks for it.
 */
export function picturesIn(
	bytes: Uint8Array,
	name: string,
	merged: boolean,
	known: Pictures = new Map(),
): Map<string, Uint8Array | null> {
	const found = new Map<string, Uint8Array | null>();
	const zip = openZip(bytes, name);
	if (typeof zip === 'string') return found;
	const room = { texels: 0 };
	for (const { path } of zip.files) {
		if (!path.endsWith('.png') || path.startsWith('Thumbnails/') || (path === MERGED && !merged)) continue;
		const picture = pictureName(zip, path);
		if (known.has(picture)) {
			found.set(picture, null);
			continue;
		}
		const file = zip.at(path);
		if (typeof file !== 'string' && !pictureProblem(path, file, room)) found.set(picture, file);
	}
	return found;
}

/** Reads patches one after the other, and holds what they claim against what is sensible. */
function patchReader(
	zip: OpenZip,
	read: PngReader,
	known: Pictures,
): (path: string) => Omit<Patch, 'x' | 'y'> | string {
	const room = { texels: 0 };
	return (path) => {
		const name = pictureName(zip, path);
		const before = known.get(name);
		if (before) return before;
		const bytes = zip.at(path);
		if (typeof bytes === 'string') return bytes;
		const problem = pictureProblem(path, bytes, room);
		if (problem) return problem;
		try {
			const picture = read(bytes);
			known.set(name, picture);
			return picture;
		} catch {
			return `${path} is damaged: its beginning can be read, the picture cannot.`;
		}
	};
}

/**
 * An OpenRaster file by any writer. What cannot be taken is named in its notes. `known` are pictures of other savings. Throws OpenRasterError where it is no
 * such file, or its claims do not hold.
 */
export function readOpenRaster(
	bytes: Uint8Array,
	name: string,
	read: PngReader,
	known: Pictures = new Map(),
): OraImage {
	const zip = openZip(bytes, name);
	if (typeof zip === 'string') throw new OpenRasterError(zip);
	const size = zip.files.find(({ path }) => path === 'stack.xml')?.size ?? 0;
	if (size > MOST_XML) throw new OpenRasterError(`The list of layers in ${name} is too long. It was not opened.`);
	const xml = zip.at('stack.xml');
	if (typeof xml === 'string') throw new OpenRasterError(`${name} is no OpenRaster file: ${xml}`);
	const image = elementsOf(new TextDecoder().decode(xml), name);
	const [width, height] = [numberOf(image.at.w, 0), numberOf(image.at.h, 0)];
	if (![width, height].every((side) => Number.isInteger(side) && side >= 1 && side <= MOST_SIDE))
		throw new OpenRasterError(
			`${name} says it is ${image.at.w} by ${image.at.h} px; 1 to ${MOST_SIDE} a side are taken.`,
		);
	const prefix = prefixOf(image);
	const patchAt = patchReader(zip, read, known);
	const notes: string[] = [];
	const texels = new Map<string, Patch>();
	const ownOf = (at: Element['at']): Own | null => {
		if (prefix === null || at[`${prefix}role`] === undefined) return null;
		const own: Partial<Record<keyof Own, string>> = {};
		for (const key of ownAttributes) if (at[prefix + key] !== undefined) own[key] = at[prefix + key];
		return own as unknown as Own;
	};
	const nodeOf = ({ tag, at, children }: Element): OraNode[] => {
		if (tag !== 'layer' && tag !== 'stack') {
			// The format knows text in files of its own; nothing of it is drawn by what is here.
			notes.push(`"${at.name ?? tag}" is of a kind (${tag}) that is not read here, and was left out.`);
			return [];
		}
		const base = {
			name: (at.name ?? '').trim() || (tag === 'layer' ? 'Layer' : 'Group'),
			opacity: Math.min(1, Math.max(0, numberOf(at.opacity, 1))),
			shown: at.visibility !== 'hidden',
			locked: at['edit-locked'] === 'true',
			op: at['composite-op'] ?? OVER,
			own: ownOf(at),
		};
		for (const [path, x, y] of ownPlaces(base.own).values()) {
			const patch = patchAt(path);
			if (typeof patch !== 'string') texels.set(path, { ...patch, x, y });
		}
		if (tag === 'stack') {
			const inner = [...children].reverse().flatMap(nodeOf);
			return [{ kind: 'stack', ...base, isolated: at.isolation === 'isolate', children: inner }];
		}
		const patch = patchAt(at.src ?? '');
		if (typeof patch === 'string') {
			notes.push(`"${base.name}": ${patch} It comes without pixels.`);
			return [
				{ kind: 'layer', ...base, own: null, patch: { x: 0, y: 0, width: 1, height: 1, data: new Uint8Array(4) } },
			];
		}
		const [x, y] = [Math.round(numberOf(at.x, 0)), Math.round(numberOf(at.y, 0))];
		return [{ kind: 'layer', ...base, patch: { ...patch, x, y } }];
	};
	const root = image.children.find(({ tag }) => tag === 'stack');
	if (!root) throw new OpenRasterError(`${name} has no layers.`);
	const children = [...root.children].reverse().flatMap(nodeOf);
	const merged = (): Picture | null => {
		const found = patchAt(MERGED);
		return typeof found === 'string' ? null : found;
	};
	return { width, height, children, texels, notes, merged };
}

/** Where surfaces of ours that stand in no element are: path, x, y; by their ids. */
export function ownPlaces(own: Own | null): ReadonlyMap<string, readonly [path: string, x: number, y: number]> {
	const found = own?.texels === undefined ? null : safeJson(own.texels);
	if (typeof found !== 'object' || found === null) return new Map();
	return new Map(
		Object.entries(found).flatMap(([id, place]) => {
			const [path, x, y] = Array.isArray(place) ? place : [];
			return typeof path === 'string' && Number.isInteger(x) && Number.isInteger(y)
				? [[id, [path, x as number, y as number] as const] as const]
				: [];
		}),
	);
}

/** JSON, or null where it is none. */
export function safeJson(text: string): unknown {
	try {
		return JSON.parse(text);
	} catch {
		return null;
	}
}
