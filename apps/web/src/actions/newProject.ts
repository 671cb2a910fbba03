import { apiaryPalette } from '@eppu/core/color';
import {
	type Asset,
	type Desk,
	type Project,
	paintLayer,
	SHEET_SIDE,
	type Sheet,
	usualBleed,
	washLayer,
} from '@eppu/core/document';
import { type Figure, figureText, readFigure } from '@eppu/core/figure';
import { type Bundle, isPictureName, type PackedTile, readBundle, readPictureFile } from '@eppu/core/format';
import { isModelName, type LaidMesh, type MeshResult, packGltf } from '@eppu/core/mesh';
import type { Solid } from '@eppu/core/solid';
import { cellsOfRamps } from '@eppu/core/wash';
import { api, hashOf } from '../server/api.ts';

/** Numbers of a model as they are kept, packed. */
export interface PackedNumbers {
	readonly surface: string;
	readonly bytes: number;
	readonly tiles: readonly PackedTile[];
	/** Where each corner lies: two a corner. */
	readonly uvs: Float32Array;
}

/** A model as it was read; laid out where its file does not say how. */
export type ReadModel = MeshResult & {
	readonly laid?: PackedNumbers;
	/** The file that it makes, of a shape. */
	readonly bytes?: Uint8Array;
};

/** What a file holds that a whole project comes from. */
export interface ReadWork {
	readonly project: Project;
	readonly desk: Desk | null;
	readonly tiles: readonly PackedTile[];
	readonly files: readonly { readonly name: string; readonly bytes: Uint8Array }[];
	/** The artist's own pictures that it is made with, packed. */
	readonly pictures: readonly { readonly id: string; readonly bytes: Uint8Array }[];
	/** What of it could not be read. */
	readonly notes: readonly string[];
}

/** A model or a template picture looked at before a project is made from it. */
export type NewStart =
	| {
			readonly kind: 'model';
			readonly name: string;
			readonly bytes: Uint8Array;
			readonly mesh: LaidMesh;
			readonly notes: readonly string[];
			/** Where its corners lie, of a model whose file does not say it. */
			readonly laid: PackedNumbers | null;
	  }
	| {
			readonly kind: 'picture';
			readonly name: string;
			readonly bytes: Uint8Array;
			readonly width: number;
			readonly height: number;
	  };

/** A file looked at before a project is made from it. */
export type Start =
	| NewStart
	| { readonly kind: 'figure'; readonly name: string; readonly figure: Figure }
	| { readonly kind: 'bundle'; readonly name: string; readonly bytes: Uint8Array; readonly bundle: Bundle };

export type StartResult = { readonly ok: true; readonly start: Start } | { readonly ok: false; readonly text: string };

type Asked = { readonly bytes: Uint8Array; readonly name: string; readonly uvSet?: number } | { readonly solid: Solid };

/** A model read or made in a worker of its own; nothing where it was stopped. */
export function inWorker(asked: Asked, name: string, stop?: AbortSignal): Promise<ReadModel | null> {
	return new Promise((resolve) => {
		const worker = new Worker(new URL('../workers/model.worker.ts', import.meta.url), { type: 'module' });
		const done = (result: ReadModel | null): void => {
			worker.terminate();
			resolve(result);
		};
		stop?.addEventListener('abort', () => done(null));
		worker.onmessage = (event: MessageEvent<ReadModel>) => done(event.data);
		worker.onerror = () =>
			done({
				ok: false,
				error: { code: 'broken', text: `${name} could not be read: it needs more memory than this browser gives.` },
			});
		worker.postMessage(asked);
	});
}

/** A shape as a model that a project begins with. */
export async function startOfSolid(solid: Solid): Promise<NewStart> {
	const name = `${solid.solid}.glb`;
	const read = await inWorker({ solid }, name);
	if (!read?.ok || !read.bytes) throw new Error(read && !read.ok ? read.error.text : 'The shape could not be made.');
	return { kind: 'model', name, bytes: read.bytes, mesh: read.mesh, notes: [], laid: null };
}

/** A blank pixel sheet; `path` is its file in a bundle. */
export const pixelSheet = (name: string, width: number, height: number, path?: string): Sheet => ({
	id: crypto.randomUUID(),
	name,
	width,
	height,
	bleed: 0,
	base: null,
	guide: null,
	pixel: true,
	...(path === undefined ? {} : { path }),
	layers: [paintLayer(crypto.randomUUID(), path === undefined ? 'Texels' : 'Texture')],
});

/** A figure of boxes as the file that a model is made of. */
export const figureFile = (figure: Figure): File =>
	new File([figureText(figure)], `${figure.name.toLowerCase().replace(/[^a-z0-9]+/g, '-') || 'figure'}.json`);

/** Makes a project of a figure of boxes and the pixel sheet that it wears; returns its id. */
export async function createWorn(figure: Figure): Promise<string> {
	const file = figureFile(figure);
	const bytes = new Uint8Array(await file.arrayBuffer());
	const [width, height] = figure.sheet;
	const sheet = pixelSheet(figure.name, width, height);
	const project: Project = {
		schema: 1,
		id: crypto.randomUUID(),
		name: figure.name,
		palette: apiaryPalette,
		sheets: [sheet],
		models: [
			{
				id: crypto.randomUUID(),
				name: figure.name,
				asset: { hash: await hashOf(bytes), name: file.name },
				parts: figure.boxes.map(({ name }) => ({ name, sheet: sheet.id, shown: true })),
			},
		],
	};
	await api.create(project, [{ name: file.name, bytes }], []);
	return project.id;
}

/** A glTF file with what was chosen beside it as one GLB; any other file as it is. */
async function gathered(
	file: File,
	beside: readonly File[],
): Promise<{ readonly file: File; readonly bytes: Uint8Array<ArrayBuffer> } | { readonly text: string }> {
	const bytes = new Uint8Array(await file.arrayBuffer());
	if (!/\.gltf$/i.test(file.name)) return { file, bytes };
	const others = await Promise.all(
		beside.map(async (each) => [each.name, new Uint8Array(await each.arrayBuffer())] as const),
	);
	const result = packGltf(bytes, new Map(others), file.name);
	if (!result.ok) return { text: result.error.text };
	return { file: new File([result.bytes], file.name.replace(/\.gltf$/i, '.glb')), bytes: result.bytes };
}

/**
 * Reads a model or a picture that a project is to be made from; what does not fit is told in plain words. `beside` are
 * files that were chosen with it: those that a glTF file names.
 */
export async function readStart(
	given: File,
	stop: AbortSignal,
	beside: readonly File[] = [],
): Promise<StartResult | null> {
	const packed = await gathered(given, beside);
	if ('text' in packed) return { ok: false, text: packed.text };
	const { file, bytes } = packed;
	if (/\.json$/i.test(file.name)) {
		const read = readFigure(new TextDecoder().decode(bytes), file.name);
		return read.ok ? { ok: true, start: { kind: 'figure', name: file.name, figure: read.figure } } : read;
	}
	if (/\.zip$/i.test(file.name)) {
		const read = readBundle(bytes, file.name);
		return read.ok ? { ok: true, start: { kind: 'bundle', name: file.name, bytes, bundle: read.bundle } } : read;
	}
	if (isPictureName(file.name)) {
		const read = readPictureFile(bytes, file.name);
		if (!read.ok) return read;
		try {
			// As it is shown, turned the way its camera was held: that is the size of the sheet.
			const bitmap = await createImageBitmap(new Blob([bytes], { type: read.file.type }));
			const { width, height } = bitmap;
			bitmap.close();
			return { ok: true, start: { kind: 'picture', name: file.name, bytes, width, height } };
		} catch {
			return {
				ok: false,
				text: `${file.name} is damaged: its beginning can be read, the picture cannot. Save it again.`,
			};
		}
	}
	if (isModelName(file.name) || bytes.length === 0) {
		const read = await inWorker({ bytes, name: file.name }, file.name, stop);
		if (!read) return null;
		return read.ok
			? {
					ok: true,
					start: { kind: 'model', name: file.name, bytes, mesh: read.mesh, notes: read.notes, laid: read.laid ?? null },
				}
			: { ok: false, text: read.error.text };
	}
	return {
		ok: false,
		text: `${file.name} is neither a model (OBJ, GLB, glTF, PLY), a picture (PNG, JPEG, WebP) nor a bundle (ZIP) that Eppu opens.`,
	};
}

export const stem = (file: string): string =>
	file
		.replace(/\.[^.]+$/, '')
		.replace(/[-_]+/g, ' ')
		.trim()
		.slice(0, 100) || 'Untitled';

const sheetOf = (name: string, width: number, height: number, guide: Asset | null): Sheet => {
	const id = (): string => crypto.randomUUID();
	return {
		id: id(),
		name,
		width,
		height,
		bleed: usualBleed(width, height),
		base: null,
		guide,
		layers: [washLayer(id(), 'Ground', '#b4a58c'), paintLayer(id(), 'First coat')],
	};
};

/** Makes the project on the server and returns its id. */
export async function createFrom(start: NewStart, name: string, width: number, height = width): Promise<string> {
	const asset = { hash: await hashOf(start.bytes), name: start.name };
	const title = stem(start.name);
	const sheet = sheetOf(
		start.kind === 'model' ? title : 'Sheet',
		width,
		height,
		start.kind === 'picture' ? asset : null,
	);
	const project: Project = {
		schema: 1,
		id: crypto.randomUUID(),
		name: name.trim() || title,
		palette: apiaryPalette,
		sheets: [sheet],
		models:
			start.kind === 'model'
				? [
						{
							id: crypto.randomUUID(),
							name: title,
							asset,
							...(start.laid ? { layout: { surface: start.laid.surface, bytes: start.laid.bytes } } : {}),
							parts: start.mesh.parts.map((part) => ({ name: part.name.slice(0, 255), sheet: sheet.id, shown: true })),
						},
					]
				: [],
	};
	const tiles = start.kind === 'model' ? (start.laid?.tiles ?? []) : [];
	await api.create(project, [{ name: start.name, bytes: start.bytes }], tiles);
	return project.id;
}

/** Makes a project of one blank pixel sheet; returns its id. */
export async function createPixels(name: string, width: number, height: number): Promise<string> {
	const title = name.trim() || 'Pixel sheet';
	const sheet = pixelSheet(title, width, height);
	const project: Project = {
		schema: 1,
		id: crypto.randomUUID(),
		name: title,
		palette: apiaryPalette,
		sheets: [sheet],
		models: [],
	};
	await api.create(project, [], []);
	return project.id;
}

/** Texels along a colour grid, and its cells, as it begins. */
const GRID_SIDE = 256;
const GRID_CELLS = 8;

/** Makes a project of a colour grid with the palette's ramps in its cells; returns its id. */
export async function createGrid(): Promise<string> {
	const fill = cellsOfRamps(apiaryPalette.ramps ?? [], GRID_CELLS, GRID_CELLS);
	const sheet: Sheet = {
		id: crypto.randomUUID(),
		name: 'Colour grid',
		width: GRID_SIDE,
		height: GRID_SIDE,
		bleed: 0,
		base: null,
		guide: null,
		layers: [washLayer(crypto.randomUUID(), 'Cells', '#b4a58c', { fill })],
	};
	const project: Project = {
		schema: 1,
		id: crypto.randomUUID(),
		name: 'Colour grid',
		palette: apiaryPalette,
		sheets: [sheet],
		models: [],
	};
	await api.create(project, [], []);
	return project.id;
}

/** A sheet size near a picture's own, kept within what a sheet may be. */
export function fittingSide(side: number): number {
	return Math.max(SHEET_SIDE.least, Math.min(4096, side));
}

export const nameOf = (start: NewStart): string => stem(start.name);
