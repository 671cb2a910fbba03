import { type Asset, freeName, type Id, SHEET_SIDE, type Sheet, usualBleed } from '@eppu/core/document';
import type { ModelHead, SheetHead } from '@eppu/core/engine';
import { encodePng, MOST_PICTURE_SIDE } from '@eppu/core/format';
import { layoutOf } from '@eppu/core/layout';
import { contentsOfGlb, type GlbContents, isFigureName, modelEndings, readModel } from '@eppu/core/mesh';
import { toast } from 'sonner';
import { api, fileUrl } from '../server/api.ts';
import { codecs } from '../server/codecs.ts';
import { chooseFiles, choosePictures, pictureOfFile, saveFile } from '../server/library.ts';
import { question, tell, vertexFile } from '../studio/line.ts';
import { activeSheet, cellsShown, useStudio } from '../studio/store.ts';
import { pastePicture } from './layers.ts';
import { heads, relay } from './layouts.ts';
import { inWorker, type ReadModel, readStart, stem } from './newProject.ts';

/** Models that come into the open project, go, and are exchanged for newer versions. */
const project = () => useStudio.getState().outline?.project;

const headsNow = (): ModelHead[] =>
	project()?.models.map(({ id, name, asset, parts }) => ({
		id,
		name,
		asset,
		parts: parts.map((part) => ({ name: part.name, sheet: part.sheet })),
	})) ?? [];

/** Texels along the sheet of a model that comes in, where the project has none to go by. */
const USUAL_SIDE = 1024;

/** A model's file, read and kept with the project, so that a change may name it; null where that could not be, and is told. */
async function kept(
	given: File,
	beside: readonly File[] = [],
): Promise<{ asset: Asset; read: Extract<ReadModel, { ok: true }> } | null> {
	const id = project()?.id;
	if (!id) return null;
	try {
		if (isFigureName(given.name)) return await keptFigure(id, given);
		const result = await readStart(given, new AbortController().signal, beside);
		if (!result) return null;
		if (!result.ok || result.start.kind !== 'model') {
			toast.error(result.ok ? `${given.name} is no model that Eppu opens (${modelEndings.join(', ')}).` : result.text);
			return null;
		}
		const { name, bytes, mesh, notes, laid } = result.start;
		const hash = await api.putFile(id, name, bytes);
		const asset = { hash, name };
		const problem = await question<'bring'>({ say: 'bring', asset });
		if (problem !== null) {
			toast.error(problem);
			return null;
		}
		for (const note of notes) toast(note, { duration: 12000 });
		return { asset, read: { ok: true, mesh, notes, ...(laid ? { laid } : {}) } };
	} catch (error) {
		toast.error((error as Error).message);
		return null;
	}
}

/** A figure of boxes, read and kept with the project. */
async function keptFigure(id: Id, given: File): ReturnType<typeof kept> {
	const bytes = new Uint8Array(await given.arrayBuffer());
	const read = await readModel(bytes, given.name);
	if (!read.ok) throw new Error(read.error.text);
	const asset = { hash: await api.putFile(id, given.name, bytes), name: given.name };
	const problem = await question<'bring'>({ say: 'bring', asset });
	if (problem !== null) throw new Error(problem);
	return { asset, read };
}

/** A picture as a PNG of 8 bits where it is none: what the browser reads of it. */
async function asPngFile(given: File): Promise<File> {
	if (given.name.toLowerCase().endsWith('.png')) return given;
	const read = await pictureOfFile(given, MOST_PICTURE_SIDE);
	if (!read.ok) throw new Error(read.text);
	return new File([encodePng(await codecs.png(), read.picture)], `${given.name}.png`);
}

/** A map that was baked elsewhere, as a file of the project: chosen, read, kept; null where there is none. */
export async function mapFile(): Promise<Asset | null> {
	const [given] = await choosePictures(false);
	const id = project()?.id;
	if (!given || !id) return null;
	try {
		const png = await asPngFile(given);
		const asset = { hash: await api.putFile(id, png.name, new Uint8Array(await png.arrayBuffer())), name: png.name };
		const problem = await question<'bring'>({ say: 'bring', asset });
		if (problem === null) return asset;
		toast.error(problem);
	} catch (error) {
		toast.error((error as Error).message);
	}
	return null;
}

/** A finer mesh for a bake: chosen, read, and kept with the project; null where there is none. */
export async function finerMesh(): Promise<Asset | null> {
	const [given] = await chooseFiles(modelEndings.join(), false);
	return given ? ((await kept(given))?.asset ?? null) : null;
}

const layoutsOf = (id: Id, { laid }: Extract<ReadModel, { ok: true }>) =>
	laid ? { layouts: [[id, laid.uvs] as const] } : {};

/** Another model, with a sheet of its own. */
export async function bringIn(file: File, beside: readonly File[]): Promise<void> {
	const found = await kept(file, beside);
	if (!found) return;
	const { asset, read } = found;
	const [models, sheets] = [headsNow(), heads()];
	const like: Pick<Sheet, 'width' | 'height'> = sheets[0] ?? { width: USUAL_SIDE, height: USUAL_SIDE };
	const side = Math.min(SHEET_SIDE.most, Math.max(like.width, like.height));
	const name = freeName(
		stem(file.name),
		models.map((model) => model.name),
	);
	const grid = cellsShown(useStudio.getState());
	const active = activeSheet(useStudio.getState());
	const id = crypto.randomUUID();
	if (grid && active) {
		// On a colour grid it lies in the first cell until its parts are put in others.
		const first = grid.cells[0] ?? { col: 0, row: 0 };
		const middle = [(first.col + 0.5) / grid.cols, (first.row + 0.5) / grid.rows] as const;
		const uvs = Float32Array.from({ length: read.mesh.indices.length * 2 }, (_, i) => middle[i % 2] as number);
		const parts = read.mesh.parts.map((part) => ({ name: part.name.slice(0, 255), sheet: active.id }));
		return relay({ layouts: [[id, uvs]], models: [...models, { id, name, asset, parts }] }, `Bring in "${name}"`);
	}
	const sheet: SheetHead = {
		id: crypto.randomUUID(),
		name: freeName(
			name,
			sheets.map((each) => each.name),
		),
		width: side,
		height: side,
		bleed: usualBleed(side, side),
		base: '#b4a58c',
	};
	const parts = read.mesh.parts.map((part) => ({ name: part.name.slice(0, 255), sheet: sheet.id }));
	relay(
		{
			...layoutsOf(id, read),
			models: [...models, { id, name, asset, parts }],
			sheets: [...sheets, sheet],
		},
		`Bring in "${name}"`,
	);
}

/** The islands of a sheet's template, as the flat model that lies on it. */
export async function takeIslands(sheet: Sheet, bytes: Uint8Array): Promise<void> {
	const found = await kept(new File([bytes.slice()], 'template-islands.glb'));
	if (!found) return;
	const { asset, read } = found;
	const models = headsNow();
	const parts = read.mesh.parts.map((part) => ({ name: part.name, sheet: sheet.id }));
	const next = { id: crypto.randomUUID(), name: sheet.name, asset, parts };
	relay({ models: [...models, next] }, `Islands of "${sheet.name}"`);
}

/** A newer version of a model in its place: parts that it had stay on their sheets, others come to the first one's. */
export async function exchange(model: Id, file: File, beside: readonly File[]): Promise<void> {
	const found = await kept(file, beside);
	const old = headsNow().find(({ id }) => id === model);
	if (!found || !old) return;
	const { asset, read } = found;
	if (asset.hash === old.asset.hash) {
		toast(`${file.name} is the same as what is here.`);
		return;
	}
	const first = old.parts[0]?.sheet ?? (heads()[0]?.id as Id);
	const parts = read.mesh.parts.map(({ name }) => ({ name: name.slice(0, 255), sheet: first }));
	const next: ModelHead = { ...old, asset, parts };
	relay(
		{ ...layoutsOf(model, read), models: headsNow().map((each) => (each.id === model ? next : each)) },
		`Newer version of "${old.name}"`,
	);
}

/** The vertex colours of a model's file, as a layer on each of its sheets. */
export const layVertexColors = (model: Id): void => tell({ say: 'vertex-layer', model, seed: crypto.randomUUID() });

/** Writes a model with what is painted as colours at its vertices. */
export async function saveVertexColors(model: Id, as: 'ply' | 'glb'): Promise<void> {
	const { bytes, text } = await vertexFile(model, as);
	const name = project()?.models.find(({ id }) => id === model)?.name ?? 'model';
	if (bytes) saveFile(`${name}.${as}`, new Blob([bytes]));
	else if (text) toast.error(text);
}

/** What the file of a model holds beside its geometry. */
export async function contentsOf({ hash, name }: Asset): Promise<GlbContents> {
	const id = project()?.id;
	if (!id || !/\.glb$/i.test(name)) return { pictures: [], uvSets: 0 };
	const response = await fetch(fileUrl(id, { hash, name }));
	return contentsOfGlb(new Uint8Array(await response.arrayBuffer()));
}

/** Lays a model out by another UV set of its file; the paint goes along. */
export async function layBySet(model: Id, asset: Asset, uvSet: number): Promise<void> {
	const id = project()?.id;
	if (!id) return;
	const bytes = new Uint8Array(await (await fetch(fileUrl(id, asset))).arrayBuffer());
	const read = await inWorker({ bytes, name: asset.name, uvSet }, asset.name);
	if (!read?.ok) return void toast.error(read ? read.error.text : 'The file could not be read.');
	const { uvs } = layoutOf(read.mesh);
	const faces = useStudio.getState().models.find((each) => each.id === model)?.indices.length;
	if (faces !== read.mesh.indices.length)
		return void toast.error(
			`UV set ${uvSet + 1} runs over the sheet's border, where its faces are cut otherwise. Bring the file in as a model of its own.`,
		);
	relay({ layouts: [[model, uvs]] }, `By UV set ${uvSet + 1}`);
}

/** A picture of a model's file becomes a layer of the sheet that is shown, as large as it. */
export const layPicture = ({ name, type, bytes }: GlbContents['pictures'][number]): Promise<void> =>
	pastePicture(new Blob([bytes.slice()], { type }), name, true);

/** Takes a model out of the project; its sheets stay, with what is painted on them. */
export function takeAway(model: Id): void {
	const models = headsNow();
	const name = models.find(({ id }) => id === model)?.name;
	relay({ models: models.filter(({ id }) => id !== model) }, `Take "${name}" away`);
}

export function renamePart(model: Id, part: number, name: string): void {
	const models = headsNow();
	const old = models.find(({ id }) => id === model);
	const was = old?.parts[part]?.name;
	const next = name.trim().slice(0, 255);
	if (!old || was === undefined || !next || next === was) return;
	const parts = old.parts.map((each, i) => (i === part ? { ...each, name: next } : each));
	relay({ models: models.map((each) => (each === old ? { ...old, parts } : each)) }, `Call "${was}" "${next}"`);
}

export function renameModel(model: Id, name: string): void {
	const models = headsNow();
	const old = models.find(({ id }) => id === model);
	const next = name.trim().slice(0, 120);
	if (!old || !next || next === old.name) return;
	relay(
		{ models: models.map((each) => (each === old ? { ...old, name: next } : each)) },
		`Call "${old.name}" "${next}"`,
	);
}
