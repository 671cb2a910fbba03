/** Meshes and maps of files that the document does not name yet, or not any more: steps, and changes that were said, do. */
import { type Asset, type Doing, filesOfBakes, type Model } from '@eppu/core/document';
import type { Engine, ModelHead } from '@eppu/core/engine';
import { isPictureName, type ReadMapWork, readMapFile } from '@eppu/core/format';
import type { Pool } from '@eppu/core/jobs';
import type { Bake } from '@eppu/core/light';
import { readModel } from '@eppu/core/mesh';
import { codecs } from '../server/codecs.ts';
import type { Said } from '../studio/protocol.ts';
import { fileOf, OpenError } from './fetchProject.ts';

/** Has what is in files at hand: meshes, and maps from elsewhere. Throws OpenError, in words, where one cannot be read. */
export async function bringFiles(
	engine: Engine,
	project: string,
	assets: readonly Asset[],
	pool: Pool | null = null,
): Promise<void> {
	for (const { hash, name } of assets) {
		if (engine.meshes.has(hash) || engine.pictures.maps.has(hash)) continue;
		const bytes = await fileOf(project, hash);
		if (isPictureName(name)) {
			const beside = await pool?.do({ job: 'read-map', bytes, name } as ReadMapWork);
			const read = beside ?? readMapFile(bytes, name, await codecs.readPng());
			if (!read.ok) throw new OpenError(read.text);
			engine.pictures.maps.set(hash, read.map);
			continue;
		}
		const read = await readModel(bytes, name);
		if (!read.ok) throw new OpenError(read.error.text);
		engine.meshes.set(hash, read.mesh);
	}
}

const assetsIn = (list: readonly unknown[]): Asset[] =>
	list.flatMap((each) => {
		if (typeof each !== 'object' || each === null) return [];
		if ('models' in each && Array.isArray(each.models))
			return (each.models as (Model | ModelHead)[]).map(({ asset }) => asset);
		return 'bakes' in each && Array.isArray(each.bakes) ? filesOfBakes(each.bakes as Bake[]) : [];
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
