import { isAreaTone } from '../color/index.ts';
import { tapsOf } from '../recipe/index.ts';
import { eachLayer, type Id, type Layer, layerOf, placeOfLayer, type Sheet } from './project.ts';

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

/** The name of a layer whose picture or mask would be made from itself, or null where there is none. */
export function readingCircle(sheet: Sheet): string | null {
	const open = new Set<string>();
	const done = new Set<string>();
	const visit = (what: 'image' | 'mask', layer: Layer): string | null => {
		const key = `${what} ${layer.id}`;
		if (done.has(key)) return null;
		if (open.has(key)) return layer.name;
		open.add(key);
		let found: string | null = null;
		const go = (next: 'image' | 'mask', other: Layer | undefined): void => {
			if (other && found === null) found = visit(next, other);
		};
		if (what === 'mask')
			for (const tap of tapsOf(layer.mask?.recipe ?? []))
				go(tap.of === 'mask' ? 'mask' : 'image', layerOf(sheet, tap.layer));
		else {
			go('mask', layer);
			if (layer.kind === 'group') for (const inner of layer.layers) go('image', inner);
			if (layer.kind === 'adjust' && isAreaTone(layer.tone))
				for (const lower of belowOf(sheet, layer.id)) go('image', lower);
		}
		open.delete(key);
		done.add(key);
		return found;
	};
	for (const layer of eachLayer(sheet.layers)) {
		const found = visit('image', layer);
		if (found !== null) return found;
	}
	return null;
}
