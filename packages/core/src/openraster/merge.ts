import { eachLayer, freeName, type Id, type Layer, type Mask, paintLayer } from '../document/index.ts';
import { crc32 } from '../format/index.ts';
import type { SurfaceId } from '../surface/index.ts';
import type { OraImage, OraNode } from './node.ts';
import { maskSum, type Patch, sumOf } from './patch.ts';
import type { TakenLayers } from './take.ts';

/** A file that came back without our attributes gets those of what went out, where an element is the same there. */
export function withOwn(image: OraImage, agreed: OraImage): OraImage {
	const has = (list: readonly OraNode[]): boolean =>
		list.some((node) => node.own !== null || (node.kind === 'stack' && has(node.children)));
	if (has(image.children)) return image;
	const within = (list: readonly OraNode[], before: readonly OraNode[]): OraNode[] => {
		const left = [...before];
		return list.map((node) => {
			// Of one name the first that is left: programs keep the order of what they do not move.
			const at = left.findIndex((each) => each.kind === node.kind && each.name === node.name);
			const [found] = at < 0 ? [] : left.splice(at, 1);
			if (!found) return node.kind === 'stack' ? { ...node, children: within(node.children, []) } : node;
			if (node.kind === 'layer') return { ...node, own: found.own };
			const inner = found.kind === 'stack' ? found.children : [];
			return { ...node, own: found.own, children: within(node.children, inner) };
		});
	};
	return { ...image, children: within(image.children, agreed.children), texels: agreed.texels };
}

/** Names for elements, by where they stand and what they are called: the same for every saving of a file. */
export function placeIds(image: OraImage): ReadonlyMap<OraNode, Id> {
	const out = new Map<OraNode, Id>();
	const within = (list: readonly OraNode[], path: string): void => {
		const counts = new Map<string, number>();
		for (const node of list) {
			const n = counts.get(node.name) ?? 0;
			counts.set(node.name, n + 1);
			const place = `${path}/${node.kind} ${n} ${node.name}`;
			out.set(node, `e-${crc32(new TextEncoder().encode(place)).toString(36)}`);
			if (node.kind === 'stack') within(node.children, place);
		}
	};
	within(image.children, '');
	return out;
}

/** What both sides made of layers that they last agreed on. */
export interface MergedLayers {
	readonly layers: readonly Layer[];
	readonly texels: TakenLayers['texels'];
	/** What was changed on both sides, or taken away on one and changed on the other, in words. */
	readonly notes: readonly string[];
}

const props = ['name', 'opacity', 'shown', 'locked', 'mode', 'clip'] as const;

/**
 * Layers as they are here, with what was changed elsewhere since both sides agreed. `sumHere` says what is on a surface
 * here, as `sumOf` and `maskSum` do. What was painted on both sides is here as it was here, and what is from elsewhere
 * stands above it as a layer of its own: nothing is lost, and it is said.
 */
export function mergeLayers(
	agreed: TakenLayers,
	theirs: TakenLayers,
	here: readonly Layer[],
	sumHere: (surface: SurfaceId, format: 'color' | 'mask') => string,
	newId: () => string,
): MergedLayers {
	const byId = (layers: readonly Layer[]): ReadonlyMap<Id, Layer> =>
		new Map([...eachLayer(layers)].map((layer) => [layer.id, layer]));
	const [was, now, ours] = [byId(agreed.layers), byId(theirs.layers), byId(here)];
	const texels = new Map<SurfaceId, { readonly format: 'color' | 'mask'; readonly patch: Patch }>();
	const notes: string[] = [];
	const taken = [...ours.values()].map(({ name }) => name);
	const sum = (from: TakenLayers, surface: SurfaceId | undefined): string => {
		const found = surface === undefined ? undefined : from.texels.get(surface);
		return found ? (found.format === 'mask' ? maskSum(found.patch) : sumOf(found.patch)) : '';
	};
	const surfaceOf = (layer: Layer | undefined): SurfaceId | undefined =>
		layer && 'surface' in layer ? layer.surface : undefined;
	/** What lies on a surface there lies on one here. */
	const lay = (to: SurfaceId, from: SurfaceId, format: 'color' | 'mask'): SurfaceId => {
		const found = theirs.texels.get(from);
		if (found) texels.set(to, { format, patch: found.patch });
		return to;
	};
	const put = (from: SurfaceId, format: 'color' | 'mask'): SurfaceId => lay(newId(), from, format);
	/** A layer from elsewhere that is not here: with names and surfaces of its own. */
	const fresh = (layer: Layer): Layer => ({
		...layer,
		id: ours.has(layer.id) ? newId() : layer.id,
		...('surface' in layer ? { surface: put(layer.surface, 'color') } : {}),
		...('entries' in layer && layer.entries ? { entries: put(layer.entries, 'color') } : {}),
		mask: layer.mask && { ...layer.mask, surface: put(layer.mask.surface, 'mask') },
		...('layers' in layer ? { layers: build(layer.layers) } : {}),
	});
	const maskNow = (their: Layer, before: Layer, own: Layer): Mask | null => {
		const there = their.mask && sum(theirs, their.mask.surface);
		const then = before.mask && sum(agreed, before.mask.surface);
		if (there === then && their.mask?.on === before.mask?.on) return own.mask;
		if (there === then) return own.mask && { ...own.mask, on: their.mask?.on ?? true };
		// What is on it counts, not which surface: what was taken in before stands on one of its own.
		const held = own.mask && sumHere(own.mask.surface, 'mask');
		if (own.mask && their.mask && held === there)
			return their.mask.on === before.mask?.on ? own.mask : { ...own.mask, on: their.mask.on };
		const changedHere = held !== then;
		if (changedHere && !own.mask?.recipe?.length) {
			notes.push(`The mask of "${own.name}" was changed on both sides: it stays as it is here.`);
			return own.mask;
		}
		if (!their.mask) return null;
		const over = own.mask && !own.mask.recipe?.length ? own.mask.surface : null;
		return {
			...their.mask,
			surface: over === null ? put(their.mask.surface, 'mask') : lay(over, their.mask.surface, 'mask'),
		};
	};
	const joined = (their: Layer, before: Layer, own: Layer): Layer[] => {
		const change = Object.fromEntries(props.flatMap((key) => (their[key] === before[key] ? [] : [[key, their[key]]])));
		const inner = 'layers' in their && 'layers' in own ? { layers: build(their.layers) } : {};
		const base = { ...own, ...change, mask: maskNow(their, before, own), ...inner } as Layer;
		const [there, then] = [surfaceOf(their), surfaceOf(before)];
		const on = surfaceOf(own);
		if (there === undefined || on === undefined || sum(theirs, there) === sum(agreed, then)) return [base];
		if (sumHere(on, 'color') === sum(agreed, then)) {
			lay(on, there, 'color');
			return [base];
		}
		if (sumHere(on, 'color') === sum(theirs, there)) return [base];
		const name = freeName(`${own.name}, from elsewhere`.slice(0, 120), taken);
		taken.push(name);
		notes.push(`"${own.name}" was painted on both sides: what is from elsewhere stands above it as "${name}".`);
		const beside = paintLayer(newId(), name, { ...base, finishes: [], mask: null, clip: base.clip });
		return [base, { ...beside, id: beside.id, name, surface: put(there, 'color') }];
	};
	const build = (list: readonly Layer[]): Layer[] =>
		list.flatMap((their): Layer[] => {
			const [before, own] = [was.get(their.id), ours.get(their.id)];
			if (own) return joined(their, before ?? own, own);
			if (!before) return [fresh(their)];
			const changed =
				sum(theirs, surfaceOf(their)) !== sum(agreed, surfaceOf(before)) ||
				props.some((key) => their[key] !== before[key]);
			// Taken away here, and left alone there: it stays away.
			if (!changed) return 'layers' in their ? build(their.layers) : [];
			notes.push(`"${their.name}" was taken away here and changed elsewhere: it is here again.`);
			return [fresh(their)];
		});
	const list = build(theirs.layers);
	return { layers: withOurs(list, here, (layer) => isMissing(layer)), texels, notes };

	/** Whether a layer that is here and not elsewhere stays. */
	function isMissing(layer: Layer): boolean {
		if (now.has(layer.id)) return false;
		const before = was.get(layer.id);
		if (!before) return true;
		const on = surfaceOf(layer);
		const changed =
			(on !== undefined && sumHere(on, 'color') !== sum(agreed, surfaceOf(before))) ||
			props.some((key) => layer[key] !== before[key]);
		if (changed) notes.push(`"${layer.name}" was taken away elsewhere and changed here: it stays.`);
		return changed;
	}
}

/** Layers with those that are only here put back in: each above the one that it stood on. */
function withOurs(list: readonly Layer[], here: readonly Layer[], stays: (layer: Layer) => boolean): Layer[] {
	const out = list.map((layer): Layer => {
		const own = [...eachLayer(here)].find(({ id }) => id === layer.id);
		return 'layers' in layer && own && 'layers' in own
			? { ...layer, layers: withOurs(layer.layers, own.layers, stays) }
			: layer;
	});
	here.forEach((layer, i) => {
		if (out.some(({ id }) => id === layer.id) || !stays(layer)) return;
		const below = here.slice(0, i).findLast(({ id }) => out.some((each) => each.id === id));
		out.splice(below ? out.findIndex(({ id }) => id === below.id) + 1 : 0, 0, layer);
	});
	return out;
}
