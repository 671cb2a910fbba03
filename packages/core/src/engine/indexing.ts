import { CommandError, isStrict, layerOf, ownSurfaceOf, sheetRect } from '../document/index.ts';
import { entryUses, followEntries, pixelColors } from '../pixel/index.ts';
import { readBlock } from '../raster/index.ts';
import { createSurface, pictureIntoSurface } from '../surface/index.ts';
import type { Dirty } from './dirty.ts';
import type { Engine } from './engine.ts';
import { indexedOf, projectEntries, readHeld, wordsOf, written } from './indexed.ts';
import type { Workspace } from './workspace.ts';

/** Layers whose texels point at entries of the palette. */
export function indexing(workspace: Workspace): Pick<Engine, 'pointAtEntries' | 'entryUses'> {
	const { kernels, surfaces, need, addSurface, pushRecords, run } = workspace;
	return {
		pointAtEntries(sheetId, layerId, newId): Dirty {
			const sheet = need(sheetId);
			const layer = layerOf(sheet, layerId);
			const own = layer && surfaces.get(ownSurfaceOf(layer) ?? '');
			if (!own || !sheet.pixel)
				throw new CommandError(
					'Entries are pointed at by a paint layer of a pixel sheet. Choose one. Nothing was changed.',
				);
			if (layer.locked) throw new CommandError(`"${layer.name}" is locked: unlock it first. Nothing was changed.`);
			if (!isStrict(sheet, layer))
				throw new CommandError(
					`"${layer.name}" may hold soft edges: let it hold whole texels of the palette first. Nothing was changed.`,
				);
			const { project } = workspace;
			if (!project.palette.colors.length)
				throw new CommandError('The palette has no entries to point at. Add colours to it first. Nothing was changed.');
			const entries = projectEntries(project);
			const colors = pixelColors(project.palette, { only: 'entries' });
			const block = readBlock(kernels, own, sheetRect(sheet));
			const near = wordsOf(block).map((word) =>
				word >>> 24 >= 128 ? (colors.nearest(word & 0xffffff) | 0xff000000) >>> 0 : 0,
			);
			const none = new Uint32Array(near.length);
			const { pointers } = followEntries({ texels: near, pointers: none }, entries, entries);
			const surface = createSurface(newId, 'color', sheet.width, sheet.height);
			pictureIntoSurface(
				kernels,
				{ width: sheet.width, height: sheet.height, data: new Uint8Array(pointers.buffer) },
				surface,
			);
			addSurface(surface);
			const record = written(workspace, own, block, near);
			const command = { do: 'layer.change', sheet: sheetId, layer: layerId, change: { entries: newId } } as const;
			if (!record.tiles.size) return run(command);
			const words = `Point "${layer.name}" at entries`;
			return pushRecords(words, new Map([[sheetId, [record]]]), undefined, [command]);
		},
		entryUses(sheetId) {
			const sheet = need(sheetId);
			const entries = projectEntries(workspace.project);
			const sums = entries.numbers.map(() => 0);
			for (const layer of indexedOf(sheet)) {
				const [own, pointers] = [surfaces.get(layer.surface), surfaces.get(layer.entries)];
				if (!own || !pointers) continue;
				const held = readHeld(workspace, sheet, own, pointers);
				const uses = entryUses({ texels: wordsOf(held.colors), pointers: wordsOf(held.pointers) }, entries);
				uses.forEach((count, i) => {
					sums[i] = (sums[i] as number) + count;
				});
			}
			return sums;
		},
	};
}
