import { ACC_BYTES } from '../composite/index.ts';
import { ownMaskIdOf, stackOf } from '../derive/index.ts';
import { allTiles, CommandError, type Layer, layerOf, type Sheet } from '../document/index.ts';
import { type Picture, pictureOfSurface } from '../surface/index.ts';
import type { Engine } from './engine.ts';
import type { Workspace } from './workspace.ts';

/** What stands of a sheet by itself, as pictures of the sheet's size. */
export function pictures(workspace: Workspace): Pick<Engine, 'layerPicture' | 'maskPicture' | 'fineStacks'> {
	const { kernels, compositor, surfaces, need, settle, pictureOf } = workspace;
	const needLayer = (sheet: Sheet, id: string): Layer => {
		const layer = layerOf(sheet, id);
		if (!layer) throw new CommandError(`"${sheet.name}" has no such layer any more.`);
		return layer;
	};
	return {
		layerPicture(sheetId, layerId, bare = false) {
			const sheet = need(sheetId);
			const layer = needLayer(sheet, layerId);
			const alone = {
				...layer,
				shown: true,
				opacity: 1,
				mode: 'normal' as const,
				clip: false,
				...(bare ? { mask: null, finishes: [] } : {}),
				...('layers' in layer ? { isolated: true } : {}),
			};
			return pictureOf({ ...sheet, base: null, layers: [alone] });
		},
		maskPicture(sheetId, layerId): Picture | null {
			const sheet = need(sheetId);
			settle(sheetId);
			const layer = needLayer(sheet, layerId);
			const mask = surfaces.get(ownMaskIdOf(layer));
			return mask ? pictureOfSurface(kernels, mask) : null;
		},
		fineStacks(sheetId, stacks, visit) {
			const sheet = need(sheetId);
			settle(sheetId);
			const { heap } = kernels;
			const programs = stacks.map((stack) => stackOf({ ...sheet, ...stack }, surfaces).layers);
			const at = programs.map(() => heap.alloc(ACC_BYTES));
			for (const tile of allTiles(sheet)) {
				programs.forEach((program, i) => {
					compositor.fine(program, tile, at[i] as number);
				});
				// A program may make the memory larger: what is seen of it is taken afterwards.
				visit(
					tile,
					at.map((ptr) => new Int16Array(heap.u8.buffer, ptr, ACC_BYTES / 2)),
				);
			}
			for (const ptr of at) heap.free(ptr, ACC_BYTES);
		},
	};
}
