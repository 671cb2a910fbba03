import { placeOfLayer } from './layerTree.ts';
import type { Id, Layer, Sheet } from './types.ts';

/**
 * What lies under a layer in the picture that it changes: its base and the layers clipped to that where it is clipped,
 * else all layers below it, also those below the groups around it that are not blended as one. Lowest first.
 */
export function belowOf(sheet: Sheet, id: Id): Layer[] {
	const place = placeOfLayer(sheet, id);
	const layer = place?.among[place.at];
	if (!place || !layer) return [];
	if (layer.clip && place.at > 0) {
		let base = place.at - 1;
		while (base > 0 && place.among[base]?.clip) base--;
		return place.among.slice(base, place.at);
	}
	const out = place.among.slice(0, place.at);
	for (const group of [...place.path].reverse()) {
		if (group.isolated || group.mode !== 'normal') break;
		const around = placeOfLayer(sheet, group.id);
		if (around) out.unshift(...around.among.slice(0, around.at));
	}
	return out;
}
