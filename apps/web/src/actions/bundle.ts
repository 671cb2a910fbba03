import type { Palette } from '@eppu/core/color';
import { apiaryPalette, colorsOfPicture, oklchOfHex } from '@eppu/core/color';
import { type Asset, freeName, type Project, type Sheet } from '@eppu/core/document';
import { type Bundle, readBundle, textureSize } from '@eppu/core/format';
import { colorsOfTexels, hexOfPacked } from '@eppu/core/pixel';
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
	tell({ say: 'bring-sheet', sheet, picture: texture });
	showSheet(sheet.id);
}

const isOther = (now: Omit<Texture, 'data'> & { readonly data: Uint8Array }, texture: Texture): boolean =>
	now.width !== texture.width || now.height !== texture.height || now.data.some((v, i) => v !== texture.data[i]);

/** Whether what is seen of a sheet differs from a texture: what is told in the list. What is written asks for the whole sheet. */
export const differs = (sheet: Sheet, texture: Texture): boolean => {
	const now = pictures.get(sheet.id);
	return now ? isOther(now, texture) : false;
};

/** Writes the bundle with the textures that were changed; returns in words what was written. */
export async function writeBundle(bundle: Bundle, project: Project, name: string): Promise<string> {
	const { usualOrder } = await import('@eppu/core/handoff');
	const changes = new Map<number, Uint8Array>();
	for (const sheet of project.sheets) {
		if (!sheet.path) continue;
		const file = bundle.files.findIndex(({ path, problem }) => path === sheet.path && problem === null);
		if (file < 0) return `"${sheet.name}" has no place in ${name} any more (${sheet.path}). Nothing was written.`;
		// The whole sheet, also where only a part of its stack is looked at.
		const { id, width, height } = sheet;
		const { files, text } = await textureOut({ sheet: id, part: '', width, height, path: sheet.path }, usualOrder);
		const bytes = files[0]?.[1];
		if (!bytes) return `${text} Nothing was written.`;
		const texture = await readTexture(bundle, file);
		const { codecs } = await import('../server/codecs.ts');
		if (typeof texture !== 'string' && !isOther((await codecs.readPng())(bytes), texture)) continue;
		changes.set(file, bytes);
	}
	const bytes = bundle.written(changes);
	saveFile(name, new Blob([bytes], { type: 'application/zip' }));
	const rest = bundle.files.length - changes.size;
	return `${name} is made: ${changes.size} ${changes.size === 1 ? 'texture' : 'textures'} changed, ${rest} ${rest === 1 ? 'file' : 'files'} as they were.`;
}
