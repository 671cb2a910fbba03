import { freeName, type Id, SHEET_SIDE, type Sheet, usualBleed } from '@eppu/core/document';
import type { ModelHead, SheetHead } from '@eppu/core/engine';
import { modelEndings } from '@eppu/core/mesh';
import { toast } from 'sonner';
import { api } from '../server/api.ts';
import { saveFile } from '../server/library.ts';
import { question, tell, vertexFile } from '../studio/line.ts';
import { useStudio } from '../studio/store.ts';
import { heads, relay } from './layouts.ts';
import { type ReadModel, readStart, stem } from './newProject.ts';

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
async function kept(file: File): Promise<{ hash: string; read: Extract<ReadModel, { ok: true }> } | null> {
	const id = project()?.id;
	if (!id) return null;
	try {
		const result = await readStart(file, new AbortController().signal);
		if (!result) return null;
		if (!result.ok || result.start.kind !== 'model') {
			toast.error(result.ok ? `${file.name} is no model that Eppu opens (${modelEndings.join(', ')}).` : result.text);
			return null;
		}
		const { bytes, mesh, notes, laid } = result.start;
		const hash = await api.putFile(id, file.name, bytes);
		const problem = await question<'bring'>({ say: 'bring', asset: { hash, name: file.name } });
		if (problem !== null) {
			toast.error(problem);
			return null;
		}
		for (const note of notes) toast(note, { duration: 12000 });
		return { hash, read: { ok: true, mesh, notes, ...(laid ? { laid } : {}) } };
	} catch (error) {
		toast.error((error as Error).message);
		return null;
	}
}

const layoutsOf = (id: Id, { laid }: Extract<ReadModel, { ok: true }>) =>
	laid ? { layouts: [[id, laid.uvs] as const] } : {};

/** Another model, with a sheet of its own. */
export async function bringIn(file: File): Promise<void> {
	const found = await kept(file);
	if (!found) return;
	const { hash, read } = found;
	const [models, sheets] = [headsNow(), heads()];
	const like: Pick<Sheet, 'width' | 'height'> = sheets[0] ?? { width: USUAL_SIDE, height: USUAL_SIDE };
	const side = Math.min(SHEET_SIDE.most, Math.max(like.width, like.height));
	const name = freeName(
		stem(file.name),
		models.map((model) => model.name),
	);
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
	const id = crypto.randomUUID();
	const parts = read.mesh.parts.map((part) => ({ name: part.name.slice(0, 255), sheet: sheet.id }));
	relay(
		{
			...layoutsOf(id, read),
			models: [...models, { id, name, asset: { hash, name: file.name }, parts }],
			sheets: [...sheets, sheet],
		},
		`Bring in "${name}"`,
	);
}

/** The islands of a sheet's template, as the flat model that lies on it. */
export async function takeIslands(sheet: Sheet, bytes: Uint8Array): Promise<void> {
	const found = await kept(new File([bytes.slice()], 'template-islands.glb'));
	if (!found) return;
	const { hash, read } = found;
	const models = headsNow();
	const parts = read.mesh.parts.map((part) => ({ name: part.name, sheet: sheet.id }));
	const next = { id: crypto.randomUUID(), name: sheet.name, asset: { hash, name: 'template-islands.glb' }, parts };
	relay({ models: [...models, next] }, `Islands of "${sheet.name}"`);
}

/** A newer version of a model in its place: parts that it had stay on their sheets, others come to the first one's. */
export async function exchange(model: Id, file: File): Promise<void> {
	const found = await kept(file);
	const old = headsNow().find(({ id }) => id === model);
	if (!found || !old) return;
	const { hash, read } = found;
	if (hash === old.asset.hash) {
		toast(`${file.name} is the same as what is here.`);
		return;
	}
	const first = old.parts[0]?.sheet ?? (heads()[0]?.id as Id);
	const parts = read.mesh.parts.map(({ name }) => ({ name: name.slice(0, 255), sheet: first }));
	const next: ModelHead = { ...old, asset: { hash, name: file.name }, parts };
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
