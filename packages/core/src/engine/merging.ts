import { stackOf } from '../derive/index.ts';
import {
	CommandError,
	eachLayer,
	type GroupLayer,
	kindOf,
	type Layer,
	paintLayer,
	placeOfLayer,
	type Sheet,
} from '../document/index.ts';
import { createSurface, setTileState, settleTile, tileBytes } from '../surface/index.ts';
import type { Dirty } from './dirty.ts';
import type { Engine } from './engine.ts';
import type { Workspace } from './workspace.ts';

/** What stands out by itself cannot become a part of something that does not: the light over it would change. */
function needFlat(layers: readonly Layer[]): void {
	const raised = [...eachLayer(layers)].find(({ relief }) => relief);
	if (raised)
		throw new CommandError(
			`"${raised.name}" stands out by itself, which one layer with others cannot: lay it flat first, in its drawer. Nothing was changed.`,
		);
}

/** Layers made one. */
export function merging(workspace: Workspace): Pick<Engine, 'mergeDown' | 'flatten'> {
	const { kernels, compositor, surfaces, need, run, settle, addSurface } = workspace;
	const { heap } = kernels;
	/** Puts a new paint layer, holding what the given layers look like together, in their place. */
	const replaceBy = (
		sheet: Sheet,
		layers: readonly Layer[],
		flat: ReturnType<typeof paintLayer>,
		words: string,
		parent: GroupLayer | null,
	): Dirty => {
		settle(sheet.id);
		const stack = stackOf({ ...sheet, base: null, layers }, surfaces).layers;
		const surface = createSurface(flat.surface, 'color', sheet.width, sheet.height);
		for (let tile = 0; tile < surface.kinds.length; tile++) {
			const at = heap.alloc(tileBytes('color'));
			compositor.tile(stack, tile, at);
			setTileState(surface, tile, settleTile(kernels, 'color', at));
		}
		addSurface(surface);
		const ids = new Set(layers.map((each) => each.id));
		const put = (among: readonly Layer[]): Layer[] =>
			among.flatMap((each) => (each.id === layers[0]?.id ? [flat] : ids.has(each.id) ? [] : [each]));
		const swap = (among: readonly Layer[]): Layer[] =>
			among.map((each) =>
				!('layers' in each) ? each : { ...each, layers: each.id === parent?.id ? put(each.layers) : swap(each.layers) },
			);
		const next = parent ? swap(sheet.layers) : put(sheet.layers);
		return run({ do: 'layers.set', sheet: sheet.id, layers: next, words });
	};

	return {
		mergeDown(sheetId, layerId, newId) {
			const sheet = need(sheetId);
			const place = placeOfLayer(sheet, layerId);
			const [upper, lower] = place ? [place.among[place.at], place.among[place.at - 1]] : [];
			if (!place || !upper || !lower)
				throw new CommandError('There is no layer below to merge with. Nothing was changed.');
			if (lower.mode !== 'normal' || lower.clip || !lower.shown || !upper.shown || !kindOf(lower).finishes)
				throw new CommandError(
					`"${lower.name}" and "${upper.name}" cannot become one and look the same: both must be shown, and the lower one blend Normal and not be clipped. Nothing was changed.`,
				);
			needFlat([lower, upper]);
			return replaceBy(
				sheet,
				[lower, upper],
				paintLayer(newId, lower.name),
				`Merge "${upper.name}" down`,
				place.parent,
			);
		},
		flatten(sheetId, groupId, newId) {
			const sheet = need(sheetId);
			const place = placeOfLayer(sheet, groupId);
			const group = place?.among[place.at];
			if (!place || !group || !('layers' in group)) throw new CommandError('That is no group. Nothing was changed.');
			const { name, mode, opacity, clip, shown, mask, relief } = group;
			needFlat(group.layers);
			// What finishes follow is the shape that the mask leaves: then the mask is laid in too.
			const finished = (group.finishes ?? []).some((finish) => finish.on);
			const inner = {
				...group,
				opacity: 1,
				mode: 'normal' as const,
				clip: false,
				shown: true,
				mask: finished ? mask : null,
				isolated: true,
			};
			const flat = paintLayer(newId, name, {
				mode,
				opacity,
				clip,
				shown,
				mask: finished ? null : mask,
				...(relief ? { relief } : {}),
			});
			return replaceBy(sheet, [inner], flat, `Flatten "${name}"`, place.parent);
		},
	};
}
