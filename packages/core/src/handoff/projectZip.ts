import type { PngReader, PngWriter } from '@eppu/kernels';
import {
	assetsOf,
	type Desk,
	desksProblem,
	type KeptPlace,
	type Project,
	projectProblem,
	surfacesOfProject,
} from '../document/index.ts';
import type { KeptTile } from '../engine/index.ts';
import { openZip, type Plan, planned, readPictureFile, safeName, zipOf } from '../format/index.ts';
import { type Picture, TILE, texelBytes } from '../surface/index.ts';
import { OrderError } from './file/index.ts';

/** What a project as one open file holds beside its document. */
export interface ProjectParts {
	readonly project: Project;
	readonly desk: Desk | null;
	/** Texels of its surfaces; those that are left out are empty. */
	readonly tiles: readonly KeptTile[];
	/** Models, guides and finer meshes by their hashes. */
	readonly files: ReadonlyMap<string, Uint8Array>;
	/** The artist's own pictures that it is made with, by their ids. */
	readonly pictures: ReadonlyMap<string, Picture>;
}

const FORMAT = 'eppu-project';
const VERSION = 1;

const readMe = (name: string): string => `${name}: a project of Eppu, whole.

project.json   the document: sheets, layers, models, palette
desk.json      what the project was last looked at with; may be left out
surfaces/      what is painted, a PNG a surface, by the ids in the document: colours as RGBA, masks and numbers as greys
files/         models, guides and finer meshes, by the SHA-256 of their bytes
pictures/      pictures of the artist's own that fills and patterns are made with

Eppu opens this file again to the same texels. Any other program can read what is in it.
`;

/** The surfaces as pictures of one or four bytes a texel; nothing for those that are empty. */
function surfacePictures(places: readonly KeptPlace[], tiles: readonly KeptTile[]): Map<string, Picture> {
	const out = new Map<string, Picture>();
	const byId = new Map(places.map((place) => [place.id, place]));
	for (const { surface, index, count = 1, value, texels } of tiles) {
		const place = byId.get(surface);
		if (!place || (!texels && !value && !out.has(surface))) continue;
		const bytes = texelBytes(place.format);
		let picture = out.get(surface);
		if (!picture) {
			const { width, height } = place;
			out.set(surface, (picture = { width, height, data: new Uint8Array(width * height * bytes) }));
		}
		const tile = texels ?? uniform(value ?? 0, bytes);
		for (let i = index; i < index + count; i++)
			eachRow(picture, i, bytes, (at, from, length) => picture.data.set(tile.subarray(from, from + length), at));
	}
	return out;
}

const uniform = (value: number, bytes: number): Uint8Array =>
	bytes === 4
		? new Uint8Array(new Uint32Array(TILE * TILE).fill(value).buffer)
		: new Uint8Array(TILE * TILE).fill(value);

/** Rows of a tile in a picture: where they begin, where in the tile, and how many bytes of them the picture has. */
function eachRow(
	{ width, height }: Picture,
	index: number,
	bytes: number,
	row: (at: number, from: number, length: number) => void,
): void {
	const columns = Math.ceil(width / TILE);
	const [left, top] = [(index % columns) * TILE, Math.floor(index / columns) * TILE];
	const length = Math.min(TILE, width - left) * bytes;
	for (let y = 0; y < Math.min(TILE, height - top); y++)
		row(((top + y) * width + left) * bytes, y * TILE * bytes, length);
}

/** A picture as tiles to be kept: one value where a tile has no other. */
function* tilesOf(picture: Picture, { id, format }: KeptPlace): Generator<KeptTile> {
	const bytes = texelBytes(format);
	const tiles = Math.ceil(picture.width / TILE) * Math.ceil(picture.height / TILE);
	for (let index = 0; index < tiles; index++) {
		const texels = new Uint8Array(TILE * TILE * bytes);
		eachRow(picture, index, bytes, (at, from, length) => texels.set(picture.data.subarray(at, at + length), from));
		const words = bytes === 4 ? new Uint32Array(texels.buffer) : texels;
		const first = words[0] as number;
		if (!words.every((word) => word === first)) yield { surface: id, index, value: null, texels };
		else if (first) yield { surface: id, index, value: first, texels: null };
	}
}

/** A whole project as one open ZIP: JSON, PNG, and its files as they came. Throws OrderError where a file is missing. */
export const planProjectZip =
	({ project, desk, tiles, files, pictures }: ProjectParts): Plan<Uint8Array<ArrayBuffer>> =>
	(take) => {
		const json = (value: unknown): Uint8Array => new TextEncoder().encode(`${JSON.stringify(value, null, '\t')}\n`);
		/** What stands in it; a number is that of a PNG. */
		const out: [string, Uint8Array | number, boolean?][] = [
			['read-me.txt', new TextEncoder().encode(readMe(project.name)), true],
			['project.json', json({ format: FORMAT, version: VERSION, project }), true],
		];
		if (desk) out.push(['desk.json', json(desk), true]);
		for (const [id, { width, height, data }] of surfacePictures(surfacesOfProject(project), tiles))
			out.push([`surfaces/${id}.png`, take({ width, height, data })]);
		for (const asset of new Map(assetsOf(project).map((each) => [each.hash, each])).values()) {
			const bytes = files.get(asset.hash);
			if (!bytes)
				throw new OrderError(`The file ${asset.name} is not at hand. Open the project once more and try again.`);
			out.push([`files/${asset.hash}`, bytes, true]);
		}
		for (const [id, picture] of pictures) out.push([`pictures/${safeName(id)}.png`, take(picture)]);
		return (pngs) =>
			zipOf(
				out.map(
					([path, each, press]) => [path, typeof each === 'number' ? (pngs[each] as Uint8Array) : each, press] as const,
				),
			);
	};

/** The same, all of it written here. */
export const writeProjectZip = (parts: ProjectParts, write: PngWriter): Uint8Array<ArrayBuffer> =>
	planned(write, planProjectZip(parts));

/**
 * A project from its ZIP. A surface that cannot be read is named and comes empty; anything else that does not hold is
 * refused. Throws OrderError, in words.
 */
export function readProjectZip(
	bytes: Uint8Array,
	name: string,
	read: PngReader,
): ProjectParts & { readonly notes: readonly string[] } {
	const zip = openZip(bytes, name);
	if (typeof zip === 'string') throw new OrderError(zip);
	const json = (path: string): unknown => {
		const found = zip.at(path);
		if (typeof found === 'string') throw new OrderError(`${name} is no whole project: ${found}`);
		try {
			return JSON.parse(new TextDecoder('utf-8', { fatal: true }).decode(found));
		} catch {
			throw new OrderError(`${path} in ${name} is damaged. Save the project again.`);
		}
	};
	const head = json('project.json') as { format?: unknown; version?: unknown; project?: unknown } | null;
	if (head?.format !== FORMAT) throw new OrderError(`project.json in ${name} is of another program.`);
	if (head.version !== VERSION)
		throw new OrderError(`${name} was made by a newer Eppu (version ${head.version}). Open it there.`);
	const problem = projectProblem(head.project);
	if (problem) throw new OrderError(`${name}: ${problem}`);
	const project = head.project as Project;
	const desk = zip.files.some(({ path }) => path === 'desk.json') ? json('desk.json') : null;
	const notes: string[] = [];
	const pictureAt = (path: string): Picture | string => {
		const found = zip.at(path);
		if (typeof found === 'string') return found;
		const known = readPictureFile(found, path);
		if (!known.ok) return known.text;
		try {
			return read(found);
		} catch {
			return `${path} is damaged.`;
		}
	};
	const has = new Set(zip.files.map(({ path }) => path));
	const tiles: KeptTile[] = [];
	for (const place of surfacesOfProject(project)) {
		const path = `surfaces/${place.id}.png`;
		if (!has.has(path)) continue;
		const picture = pictureAt(path);
		if (typeof picture === 'string') notes.push(`${picture} What was painted there is left out.`);
		else if (picture.width !== place.width || picture.height !== place.height)
			notes.push(`${path} is not of its sheet's size. What was painted there is left out.`);
		else {
			const one = place.format === 'color' ? picture : { ...picture, data: picture.data.filter((_, i) => i % 4 === 0) };
			for (const tile of tilesOf(one, place)) tiles.push(tile);
		}
	}
	const files = new Map<string, Uint8Array>();
	for (const { hash, name: file } of assetsOf(project)) {
		const found = zip.at(`files/${hash}`);
		if (typeof found === 'string') throw new OrderError(`${name} lacks the file ${file}. Save the project again.`);
		files.set(hash, found);
	}
	const pictures = new Map<string, Picture>();
	for (const { path } of zip.files.filter((each) => each.path.startsWith('pictures/'))) {
		const picture = pictureAt(path);
		if (typeof picture === 'string') notes.push(picture);
		else pictures.set(path.slice(9).replace(/\.png$/, ''), picture);
	}
	return { project, desk: desksProblem(desk) === null ? (desk as Desk) : null, tiles, files, pictures, notes };
}
