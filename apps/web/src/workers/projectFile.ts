import { assetsOf, eachLayer, type Project } from '@eppu/core/document';
import type { Engine } from '@eppu/core/engine';
import { writePack } from '@eppu/core/format';
import { joined } from '@eppu/core/surface';
import type { Said } from '../studio/protocol.ts';
import { pressAll } from './pressing.ts';

/** The names of the layers that own surfaces, each once. */
export const namesOf = (open: Engine, surfaces: readonly string[]): string[] =>
	open.project.sheets.flatMap((sheet) =>
		[...eachLayer(sheet.layers)]
			.filter(
				(layer) =>
					(layer.kind === 'paint' && surfaces.includes(layer.surface)) ||
					(layer.mask && surfaces.includes(layer.mask.surface)),
			)
			.map((layer) => layer.name),
	);

/** Pictures that changes name which are to be done again. */
export const picturesOfSaid = (said: readonly Said[]): (string | undefined)[] =>
	said.flatMap(({ message }) =>
		message.say === 'begin' ? [message.spec.tip.shape, message.spec.stencil?.picture] : [],
	);

/** The bytes of the files that a project names, in their order: those at hand, else from the server. */
export const assetBytes = (
	project: Project,
	files: ReadonlyMap<string, Uint8Array<ArrayBuffer>>,
): Promise<Uint8Array<ArrayBuffer>[]> =>
	Promise.all(
		assetsOf(project).map(async ({ hash, name }) => {
			const known = files.get(hash);
			if (known) return known;
			const answer = await fetch(`/api/projects/${project.id}/files/${hash}`, { signal: AbortSignal.timeout(60_000) });
			if (!answer.ok) throw new Error(`The file ${name} could not be brought from the server.`);
			return new Uint8Array(await answer.arrayBuffer());
		}),
	);

/** All of the work as one file: document, tiles, and the files that it names. */
export async function wholeFile(
	open: Engine,
	files: ReadonlyMap<string, Uint8Array<ArrayBuffer>>,
): Promise<Uint8Array<ArrayBuffer>> {
	const { project, tiles } = open.whole();
	const named = assetsOf(project);
	const bytes = await assetBytes(project, files);
	const head = { project, files: named.map(({ name }, i) => ({ name, length: bytes[i]?.length ?? 0 })) };
	return writePack({ head, tiles: await pressAll(tiles), files: joined(bytes) });
}
