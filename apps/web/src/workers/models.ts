/** Meshes of files that the document does not name yet, or not any more: steps, and changes that were said, do. */
import type { Asset, Doing, Model } from '@eppu/core/document';
import type { Engine, ModelHead } from '@eppu/core/engine';
import type { Bake } from '@eppu/core/light';
import { readModel } from '@eppu/core/mesh';
import type { Said } from '../studio/protocol.ts';
import { fileOf, OpenError } from './fetchProject.ts';

/** Has the meshes of files at hand; throws OpenError, in words, where one cannot be read. */
export async function bringMeshes(engine: Engine, project: string, assets: readonly Asset[]): Promise<void> {
	for (const { hash, name } of assets) {
		if (engine.meshes.has(hash)) continue;
		const read = await readModel(await fileOf(project, hash), name);
		if (!read.ok) throw new OpenError(read.error.text);
		engine.meshes.set(hash, read.mesh);
	}
}

const assetsIn = (list: readonly unknown[]): Asset[] =>
	list.flatMap((each) => {
		if (typeof each !== 'object' || each === null) return [];
		if ('models' in each && Array.isArray(each.models))
			return (each.models as (Model | ModelHead)[]).map(({ asset }) => asset);
		return 'bakes' in each && Array.isArray(each.bakes)
			? (each.bakes as Bake[]).flatMap(({ finer }) => (finer ? [finer.asset] : []))
			: [];
	});

/** Model files that changes which are to be done again name. */
export const assetsOfSaid = (said: readonly Said[]): Asset[] =>
	assetsIn(
		said.flatMap(({ message }): unknown[] =>
			message.say === 'relay'
				? [message.change]
				: message.say === 'run'
					? [message.command]
					: message.say === 'run-all'
						? [...message.commands]
						: [],
		),
	);

/** Model files that steps bring back. */
export const assetsOfSteps = (steps: readonly { readonly undo: readonly Doing[]; readonly redo: readonly Doing[] }[]) =>
	assetsIn(steps.flatMap(({ undo, redo }) => [...undo, ...redo]));
