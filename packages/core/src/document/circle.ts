import { tapsOf } from '../recipe/index.ts';
import { belowOf } from './below.ts';
import { kindOf } from './layer/index.ts';
import { eachLayer, layerOf, layersIn } from './layerTree.ts';
import { raisedUnder } from './relief.ts';
import type { Layer, Sheet } from './types.ts';

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
			for (const inner of layersIn(layer)) go('image', inner);
			const content = kindOf(layer).content?.(layer);
			if (content?.relief)
				for (const { layer: own, bases, groups } of raisedUnder(sheet, layer.id)) {
					for (const each of [own, ...bases]) go('image', each);
					for (const group of groups) go('mask', group);
				}
			if (content?.below) for (const lower of belowOf(sheet, layer.id)) go('image', lower);
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
