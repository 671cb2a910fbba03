import type { Palette } from '@eppu/core/color';
import { apiaryPalette, colorsOfPicture, oklchOfHex } from '@eppu/core/color';
import { type Asset, freeName, type Project, type Sheet } from '@eppu/core/document';
import { type Bundle, readBundle, textureSize } from '@eppu/core/format';
import { colorsOfTexels, hexOfPacked, type Packed, recoloredBy, recolorsFor } from '@eppu/core/pixel';
import { toast } from 'sonner';
import { api, fileUrl, hashOf } from '../server/api.ts';
import { saveFile } from '../server/library.ts';
import { pictures } from '../studio/hears.ts';
import { tell, textureOut } from '../studio/line.ts';
import { useStudio } from '../studio/store.ts';
import { pixelSheet, stem } from './newProject.ts';
import { showSheet } from './views.ts';

/** Textures whose colours are gathered for the palette of a bundle, and colours that it takes as they are. */
const MOST_GATHERED = 32;
const MOST_OWN = 96;

/** A texture of a bundle as it is in it. */
export interface Texture {
	readonly width: number;
	readonly height: number;
	readonly data: Uint8Array<ArrayBuffer>;
}

/** Reads a texture of a bundle texel for texel; in words why it cannot be a sheet. */
export async function readTexture(bundle: Bundle, file: number): Promise<Texture | string> {
	const bytes = bundle.content(file);
	if (typeof bytes === 'string') return bytes;
	const path = bundle.files[file]?.path ?? '';
	const size = textureSize(bytes, path);
	if (typeof size === 'string') return size;
	try {
		// Its module is fetched only where a bundle is open.
		const { codecs } = await import('../server/codecs.ts');
		return (await codecs.readPng())(bytes);
	} catch {
		return `${path} is damaged: it cannot be read. It is kept as it is.`;
	}
}

/** A texture's name: its file's, without folders and ending. */
const nameOfPath = (path: string): string => stem(path.split('/').at(-1) ?? path);

/** A sheet for a texture of a bundle, under a name that no other sheet has. */
const sheetFor = (path: string, { width, height }: Texture, names: readonly string[]): Sheet =>
	pixelSheet(freeName(nameOfPath(path), names), width, height, path);

/** The colours that the first textures of a bundle have, dark to light; fewer that stand for them where there are many. */
async function paletteOfBundle(bundle: Bundle, name: string): Promise<Palette> {
	const found = new Map<number, number>();
	let data = new Uint8Array(0);
	let read = 0;
	for (let file = 0; file < bundle.files.length && read < MOST_GATHERED; file++) {
		if (bundle.files[file]?.kind !== 'texture') continue;
		const texture = await readTexture(bundle, file);
		if (typeof texture === 'string') continue;
		read++;
		for (const [color, texels] of colorsOfTexels(texture.data).colors)
			found.set(color, (found.get(color) ?? 0) + texels);
		if (data.length < 1 << 22) {
			const joined = new Uint8Array(data.length + texture.data.length);
			joined.set(data);
			joined.set(texture.data, data.length);
			data = joined;
		}
	}
	if (!found.size) return apiaryPalette;
	const colors = found.size <= MOST_OWN ? [...found.keys()].map(hexOfPacked) : colorsOfPicture(data, 48);
	return { name: name.slice(0, 120), colors: colors.sort((a, b) => oklchOfHex(a).l - oklchOfHex(b).l) };
}

/** Makes a project of a bundle; returns its id. The first texture is opened when it is first seen. */
export async function createFromBundle(name: string, bytes: Uint8Array, bundle: Bundle): Promise<string> {
	const asset: Asset = { hash: await hashOf(bytes), name };
	const title = stem(name);
	const first = bundle.files.findIndex(({ kind, problem }) => kind === 'texture' && problem === null);
	const texture = await readTexture(bundle, first);
	const project: Project = {
		schema: 1,
		id: crypto.randomUUID(),
		name: title,
		palette: await paletteOfBundle(bundle, title),
		bundle: asset,
		models: [],
		// A project has a sheet: a small one of its own stands before the first texture is opened.
		sheets: [
			pixelSheet(
				'Loose texels',
				typeof texture === 'string' ? 16 : texture.width,
				typeof texture === 'string' ? 16 : texture.height,
			),
		],
	};
	await api.create(project, [{ name, bytes }], []);
	return project.id;
}

/** The places of the textures that can be read. */
export const texturesOf = (bundle: Bundle): number[] =>
	bundle.files.flatMap(({ kind, problem }, file) => (kind === 'texture' && problem === null ? [file] : []));

/** Ms after which the page has its turn. */
const TURN_MS = 12;

/** Reads textures one after the other, and gives the page its turns; false stops. */
async function eachTexture(
	bundle: Bundle,
	files: readonly number[],
	visit: (texture: Texture, file: number, path: string) => unknown,
): Promise<void> {
	let from = performance.now();
	for (const file of files) {
		const texture = await readTexture(bundle, file);
		const path = bundle.files[file]?.path ?? '';
		if (typeof texture !== 'string' && (await visit(texture, file, path)) === false) return;
		if (performance.now() - from < TURN_MS) continue;
		await new Promise((resolve) => setTimeout(resolve));
		from = performance.now();
	}
}

/** What textures are painted with: each colour by its texels and by how many textures have it. */
export interface BundleColors {
	readonly colors: readonly (readonly [color: Packed, texels: number, textures: number])[];
	/** Textures by how many of their colours are none of `known`, the most first; none that keeps to them. */
	readonly strange: readonly (readonly [file: number, colors: number, of: number])[];
	/** Textures that were looked at. */
	readonly seen: number;
}

/**
 * Counts the colours of textures as they are now, told now and then while it goes on. A sheet that is open counts as it is
 * seen. `told` says false to stop.
 */
export async function countColors(
	bundle: Bundle,
	files: readonly number[],
	{ sheets, recolors = [] }: Project,
	known: ReadonlySet<Packed>,
	told: (found: BundleColors, done: boolean) => boolean,
): Promise<void> {
	const all = new Map<Packed, [texels: number, textures: number]>();
	const strange: [number, number, number][] = [];
	const own = new Map(sheets.map(({ path, id }) => [path, pictures.get(id)]));
	let seen = 0;
	let last = performance.now();
	const now = (): BundleColors => ({
		colors: [...all]
			.map(([color, [texels, textures]]) => [color, texels, textures] as const)
			.sort((a, b) => b[1] - a[1]),
		strange: [...strange].sort((a, b) => b[1] - a[1]),
		seen,
	});
	let stopped = false;
	await eachTexture(bundle, files, (texture, file, path) => {
		const data = own.get(path)?.data ?? recoloredBy(texture, recolorsFor(path, recolors)).data;
		const { colors } = colorsOfTexels(data);
		for (const [color, texels] of colors) {
			const before = all.get(color);
			if (before) {
				before[0] += texels;
				before[1]++;
			} else all.set(color, [texels, 1]);
		}
		const off = colors.filter(([color]) => !known.has(color)).length;
		if (off) strange.push([file, off, colors.length]);
		seen++;
		if (performance.now() - last < 250) return true;
		last = performance.now();
		stopped = !told(now(), false);
		return !stopped;
	});
	if (!stopped) told(now(), true);
}

const open = new Map<string, Promise<Bundle>>();

/** The bundle of the open project, read once. Throws Error in words where it cannot be had. */
export function bundleOf(project: string, asset: Asset): Promise<Bundle> {
	let known = open.get(asset.hash);
	if (!known) {
		known = (async () => {
			const answer = await fetch(fileUrl(project, asset));
			if (!answer.ok) throw new Error(`${asset.name} cannot be had from the server now.`);
			const read = readBundle(new Uint8Array(await answer.arrayBuffer()), asset.name);
			if (!read.ok) throw new Error(read.text);
			return read.bundle;
		})();
		known.catch(() => open.delete(asset.hash));
		open.set(asset.hash, known);
	}
	return known;
}

/** Shows a texture of the bundle; one that is not open yet becomes a sheet. */
export async function openTexture(bundle: Bundle, file: number): Promise<void> {
	const path = bundle.files[file]?.path;
	const project = useStudio.getState().outline?.project;
	if (!path || !project) return;
	const known = project.sheets.find((sheet) => sheet.path === path);
	if (known) return showSheet(known.id);
	const texture = await readTexture(bundle, file);
	if (typeof texture === 'string') return void toast(texture);
	const sheet = sheetFor(
		path,
		texture,
		project.sheets.map(({ name }) => name),
	);
	tell({ say: 'bring-sheet', sheet, picture: recoloredBy(texture, recolorsFor(path, project.recolors ?? [])) });
	showSheet(sheet.id);
}

/** Whether a texture, as it is now, differs from what it was: what is told in the list. */
export const isOther = (now: Omit<Texture, 'data'> & { readonly data: Uint8Array }, was: Texture): boolean =>
	now.width !== was.width || now.height !== was.height || now.data.some((v, i) => v !== was.data[i]);

/** Writes the bundle with the textures that were changed; returns in words what was written. */
export async function writeBundle(bundle: Bundle, project: Project, name: string): Promise<string> {
	const { usualOrder } = await import('@eppu/core/handoff');
	const changes = new Map<number, Uint8Array>();
	const open = new Set<string>();
	for (const sheet of project.sheets) {
		if (!sheet.path) continue;
		const file = bundle.files.findIndex(({ path, problem }) => path === sheet.path && problem === null);
		if (file < 0) return `"${sheet.name}" has no place in ${name} any more (${sheet.path}). Nothing was written.`;
		// The whole sheet, also where only a part of its stack is looked at.
		const { id, width, height } = sheet;
		const { files, text } = await textureOut({ sheet: id, part: '', width, height, path: sheet.path }, usualOrder);
		const bytes = files[0]?.[1];
		if (!bytes) return `${text} Nothing was written.`;
		open.add(sheet.path);
		const texture = await readTexture(bundle, file);
		const { codecs } = await import('../server/codecs.ts');
		if (typeof texture !== 'string' && !isOther((await codecs.readPng())(bytes), texture)) continue;
		changes.set(file, bytes);
	}
	await eachTexture(bundle, texturesOf(bundle), async (texture, file, path) => {
		const now = open.has(path) ? texture : recoloredBy(texture, recolorsFor(path, project.recolors ?? []));
		if (now === texture) return;
		const [{ codecs }, { encodePng }] = await Promise.all([import('../server/codecs.ts'), import('@eppu/core/format')]);
		changes.set(file, encodePng(await codecs.png(), now));
	});
	const bytes = bundle.written(changes);
	saveFile(name, new Blob([bytes], { type: 'application/zip' }));
	const rest = bundle.files.length - changes.size;
	return `${name} is made: ${changes.size} ${changes.size === 1 ? 'texture' : 'textures'} changed, ${rest} ${rest === 1 ? 'file' : 'files'} as they were.`;
}
