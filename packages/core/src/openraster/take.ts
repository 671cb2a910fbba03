import type { Hex } from '../color/index.ts';
import {
	cleanNameProblem,
	eachLayer,
	groupLayer,
	type Id,
	type Layer,
	type LayerBase,
	type Mask,
	paintLayer,
	projectProblem,
	type Sheet,
	surfacesOfLayer,
	withSurfaces,
} from '../document/index.ts';
import type { SurfaceId } from '../surface/index.ts';
import { ATOP, CUT, KEEP, modeOfOp, OVER } from './modes.ts';
import { lookOf, type OraImage, type OraLayer, type OraNode, type OraStack } from './node.ts';
import { goesBeyond, isOneOf, maskSum, type Patch, sumOf } from './patch.ts';
import { ownPlaces, safeJson } from './read.ts';

/** Layers that an OpenRaster picture holds, as ours. */
export interface TakenLayers {
	readonly base: Hex | null;
	readonly layers: readonly Layer[];
	/** What lies on their surfaces: colours, or alpha for masks. */
	readonly texels: ReadonlyMap<SurfaceId, { readonly format: 'color' | 'mask'; readonly patch: Patch }>;
	/** What came otherwise than it was, in words. */
	readonly notes: readonly string[];
}

const cleanName = (name: string): string => {
	const short = name.trim().slice(0, 120).trim();
	return cleanNameProblem(short) === null ? short : short.replace(/[^\p{L}\p{N}\p{P}\p{S} ]/gu, '').trim() || 'Layer';
};

/** Why a layer of ours cannot stand in a document, or null where it can. */
const layerProblem = (layer: Layer): string | null =>
	projectProblem({
		schema: 1,
		id: 'p',
		name: 'p',
		palette: { name: 'p', colors: ['#000000'] },
		models: [],
		sheets: [{ id: '_', name: 's', width: 64, height: 64, bleed: 0, base: null, guide: null, layers: [layer] }],
	});

/** Whether the look of a layer follows from more than its pixels; what stands in a group has elements of its own. */
const isComputed = (layer: Layer): boolean =>
	(layer.kind !== 'paint' && layer.kind !== 'group') ||
	(layer.finishes ?? []).some((finish) => finish.on) ||
	('layers' in layer && layer.layers.length > 0);

/** A layer that is what is painted on it, and no more. */
const isPaint = (layer: Layer): boolean =>
	layer.kind === 'paint' && !(layer.finishes ?? []).some((finish) => finish.on);

/** Every text in a value that is one of these ids becomes another. */
export function renamed<T>(value: T, names: ReadonlyMap<string, string>): T {
	if (typeof value === 'string') return (names.get(value) ?? value) as T;
	if (Array.isArray(value)) return value.map((each) => renamed(each, names)) as T;
	if (typeof value !== 'object' || value === null) return value;
	return Object.fromEntries(Object.entries(value).map(([key, each]) => [key, renamed(each, names)])) as T;
}

/** The alpha of a patch turned round, over a whole sheet. */
function cutPatch(patch: Patch, width: number, height: number): Patch {
	const data = new Uint8Array(width * height * 4).fill(255);
	for (let y = 0; y < patch.height; y++)
		for (let x = 0; x < patch.width; x++) {
			const [u, v] = [patch.x + x, patch.y + y];
			if (u < 0 || v < 0 || u >= width || v >= height) continue;
			data[(v * width + u) * 4 + 3] = 255 - (patch.data[(y * patch.width + x) * 4 + 3] as number);
		}
	return { x: 0, y: 0, width, height, data };
}

/** A patch within the shape of another. */
function shaped(patch: Patch, shape: Patch): Patch {
	const data = patch.data.slice();
	for (let y = 0; y < patch.height; y++)
		for (let x = 0; x < patch.width; x++) {
			const [u, v] = [patch.x + x - shape.x, patch.y + y - shape.y];
			const within = u >= 0 && v >= 0 && u < shape.width && v < shape.height;
			const alpha = within ? (shape.data[(v * shape.width + u) * 4 + 3] as number) : 0;
			const at = (y * patch.width + x) * 4 + 3;
			data[at] = Math.round(((data[at] as number) * alpha) / 255);
		}
	return { ...patch, data };
}

/**
 * The layers of an OpenRaster picture as ours. What we wrote and nobody changed comes back as it was; what was changed
 * comes as paint. `newId` names what is new; with `asPixels` all that is computed comes as pixels too. `ids`
 * are names for what is not ours.
 */
// biome-ignore lint/complexity/noExcessiveLinesPerFunction: one way of taking after the other over what is gathered.
export function takeLayers(
	image: OraImage,
	newId: () => string,
	asPixels = false,
	ids: ReadonlyMap<OraNode, Id> = new Map(),
): TakenLayers {
	const { width, height } = image;
	const notes = [...image.notes];
	const texels = new Map<SurfaceId, { readonly format: 'color' | 'mask'; readonly patch: Patch }>();
	const seen = new Set<Id>();
	let base: Hex | null = null;

	const told = (node: OraLayer): Patch => {
		if (goesBeyond(node.patch, image))
			notes.push(`"${node.name}" goes beyond the picture: what lies there was left out.`);
		return node.patch;
	};
	/** What every program sees of an element, as ours: all of it, or only what was changed of what we wrote. */
	const looks = (node: OraNode, whole = false): Partial<LayerBase> => {
		const mode = modeOfOp(node.op);
		if (mode === undefined && node.op !== ATOP)
			notes.push(`"${node.name}" is laid by ${node.op}, which is not known here: it is laid as normal.`);
		const all = {
			name: cleanName(node.name),
			opacity: node.opacity,
			shown: node.shown,
			locked: node.locked,
			mode: mode ?? ('normal' as const),
		};
		const before = whole || node.own?.look === undefined ? null : safeJson(node.own.look);
		if (!Array.isArray(before)) return all;
		const now = JSON.parse(lookOf(node)) as unknown[];
		const keys = ['name', 'opacity', 'shown', 'locked', 'mode'] as const;
		return Object.fromEntries(keys.flatMap((key, i) => (now[i] === before[i] ? [] : [[key, all[key]]])));
	};
	/** Our layer as an element says it, with names of its own where the element was doubled; null where it says none. */
	const ownLayer = (node: OraNode): { readonly layer: Layer; readonly names: ReadonlyMap<string, string> } | null => {
		const found = node.own?.layer === undefined ? null : (safeJson(node.own.layer) as Layer | null);
		if (typeof found !== 'object' || found === null || layerProblem(found) !== null) return null;
		if (asPixels && isComputed(found)) return null;
		const within = [...eachLayer([found])];
		const ids = [...within.map(({ id }) => id), ...surfacesOfLayer(found).map(({ id }) => id)];
		const doubled = within.some(({ id }) => seen.has(id));
		const names = new Map(doubled ? ids.map((id) => [id, newId()]) : []);
		for (const { id } of within) seen.add(names.get(id) ?? id);
		return { layer: renamed(found, names), names };
	};
	const putOwn = (node: OraNode, names: ReadonlyMap<string, string>, layer: Layer): void => {
		const formats = new Map(surfacesOfLayer(layer).map(({ id, format }) => [id, format as 'color' | 'mask']));
		for (const [id, [path]] of ownPlaces(node.own)) {
			const to = names.get(id) ?? id;
			const patch = image.texels.get(path);
			const format = formats.get(to);
			if (patch && format) texels.set(to, { format, patch });
		}
	};
	/** Layers that came as paint and say of themselves only what stands on their own element. */
	const anew = new WeakSet<Layer>();
	const painted = (node: OraNode, patch: Patch, change: Partial<LayerBase> = {}, own?: Layer): Layer => {
		// What was computed and is paint now is still that layer: taken in twice it is not there twice.
		const layer = paintLayer(ids.get(node) ?? own?.id ?? newId(), cleanName(node.name), change);
		anew.add(layer);
		texels.set(layer.surface, { format: 'color', patch });
		return layer;
	};
	/** The name of a group that is made for the sake of an element. */
	const around = (node: OraNode): Id => (ids.has(node) ? `${ids.get(node)}-g` : newId());
	const maskOf = (node: OraLayer): Mask => {
		const surface = newId();
		const patch = node.op === CUT ? cutPatch(node.patch, width, height) : node.patch;
		texels.set(surface, { format: 'mask', patch });
		return { surface, on: node.shown };
	};
	/** A layer's mask as it was where nobody changed it, else as it is now. */
	const maskAgain = (layer: Layer, node: OraLayer): Layer => {
		const { mask } = layer;
		if (!mask || (asPixels && mask.recipe?.length) || !isOneOf(maskSum(node.patch), node.own?.sum))
			return { ...layer, mask: maskOf(node) };
		if (!mask.recipe?.length) texels.set(mask.surface, { format: 'mask', patch: node.patch });
		return { ...layer, mask: { ...mask, on: node.shown } };
	};
	const leafOf = (node: OraLayer): Layer => {
		const patch = told(node);
		const same = isOneOf(sumOf(patch), node.own?.sum);
		const own = ownLayer(node);
		// What is paint stays the layer that it was, with other paint on it; what is computed becomes paint.
		if (!own || !(same || isPaint(own.layer)))
			return painted(node, patch, { ...looks(node, true), clip: false }, own?.layer);
		const { layer, names } = own;
		if (!same && 'surface' in layer) texels.set(layer.surface, { format: 'color', patch });
		putOwn(node, names, layer);
		if ('surface' in layer && !texels.has(layer.surface)) texels.set(layer.surface, { format: 'color', patch });
		return { ...layer, ...looks(node) };
	};
	const isMask = (node: OraNode | undefined): boolean =>
		node?.kind === 'layer' && (node.op === KEEP || node.op === CUT);

	/** A layer and its mask, which stand in a stack of their own. */
	const maskedOf = (node: OraStack, inner: OraLayer, mask: OraLayer): Layer => {
		const leaf = leafOf(inner);
		// What came as other paint than ours says of itself only what stands on the stack.
		const made = maskAgain({ ...leaf, ...looks(node, anew.has(leaf)) }, mask);
		if (anew.has(leaf)) anew.add(made);
		return made;
	};
	const runOf = (node: OraStack): Layer[] | null => {
		const own = node.own?.layer === undefined ? null : (safeJson(node.own.layer) as Layer | null);
		const [first, ...rest] = node.children;
		if (!own || !first || isMask(first) || first.op !== OVER) return null;
		const shape = rest.at(-1)?.own?.role === 'shape' ? (rest.pop() as OraLayer) : null;
		if (rest.some((each) => isMask(each))) return null;
		const base = shape && first.kind === 'layer' ? first : null;
		const changed =
			base && shape && !(isOneOf(sumOf(base.patch), base.own?.sum) && isOneOf(maskSum(shape.patch), shape.own?.sum));
		let [under] = changed ? [] : layersOf([first]);
		// The pixels of what was made opaque are nothing without their shape.
		if (base && shape && (!under || anew.has(under))) under = painted(node, shaped(base.patch, shape.patch));
		if (!under || layerProblem(own) !== null) return null;
		const { opacity, mode, shown, clip } = own;
		const kept = 'layers' in under && 'isolated' in own ? { isolated: (own as { isolated: boolean }).isolated } : {};
		const bottom = { ...under, ...kept, opacity, mode, shown, clip, ...looks(node) } as Layer;
		return [bottom, ...rest.flatMap((each) => layersOf([each])).map((layer) => ({ ...layer, clip: true }))];
	};
	const groupOf = (node: OraStack): Layer => {
		const children = [...node.children];
		const mask = isMask(children.at(-1)) ? (children.pop() as OraLayer) : null;
		const own = ownLayer(node);
		const inner = layersOf(children);
		if (own && 'layers' in own.layer) {
			putOwn(node, own.names, own.layer);
			const layer: Layer = { ...own.layer, ...looks(node), layers: inner };
			return mask ? maskAgain(layer, mask) : { ...layer, mask: null };
		}
		const layer = groupLayer<Layer>(ids.get(node) ?? newId(), cleanName(node.name), inner, {
			...looks(node),
			isolated: node.isolated || node.opacity < 1 || node.op !== OVER,
		});
		return mask ? { ...layer, mask: maskOf(mask) } : layer;
	};
	const stackOf = (node: OraStack): Layer[] => {
		const [inner, mask, more] = node.children;
		if (node.own?.role === 'run') {
			const found = runOf(node);
			if (found) return found;
		}
		if (inner?.kind === 'layer' && !isMask(inner) && isMask(mask) && !more && node.own?.role !== 'group')
			if (node.own?.role === 'masked' || (inner.op === OVER && inner.opacity === 1 && inner.shown))
				return [maskedOf(node, inner, mask as OraLayer)];
		return [groupOf(node)];
	};
	/** `ground` where all of them stand on a colour that covers everything: atop of it is over it. */
	const layersOf = (list: readonly OraNode[], ground = false): Layer[] => {
		let out: Layer[] = [];
		for (const node of list) {
			if (isMask(node)) {
				// It keeps all that lies below it in its stack: that becomes a group with a mask.
				if (out.length)
					out = [
						groupLayer<Layer>(around(node), cleanName(node.name), out, {
							isolated: true,
							mask: maskOf(node as OraLayer),
						}),
					];
				continue;
			}
			const made = node.kind === 'stack' ? stackOf(node) : [leafOf(node)];
			// What stood clipped on what only changes what is below it was not cut by it; by its pixels it would be. It was
			// hidden with it.
			const unclipped = (layer: Layer, i: number): Layer =>
				i === 0 && layer.clip ? { ...layer, clip: false, shown: layer.shown && node.shown } : layer;
			const free = asPixels && node.op !== ATOP ? made.map(unclipped) : made;
			// What we wrote as laid atop for its look alone says itself whether it is clipped, unless it is paint now.
			const before = node.own?.look === undefined ? null : (safeJson(node.own.look) as unknown[] | null);
			const ours = before?.[4] === node.op && made[0] && !anew.has(made[0]) && node.own?.role !== undefined;
			if (node.op === ATOP && !ours && !ground) {
				const [under] = out;
				if (out.length > 1 || (under && (under.mode !== 'normal' || under.opacity < 1)))
					out = [
						groupLayer<Layer>(around(node), `Below ${cleanName(node.name)}`.slice(0, 120), out, { isolated: true }),
					];
				out.push(...made.map((layer) => ({ ...layer, clip: out.length > 0 })));
			} else out.push(...free);
		}
		return out;
	};

	let list = image.children;
	const [first] = list;
	if (
		first?.kind === 'layer' &&
		first.own?.role === 'base' &&
		first.own.sum === sumOf(first.patch) &&
		first.own.look === lookOf(first)
	) {
		base = safeJson(first.own.layer ?? '') as Hex;
		list = list.slice(1);
	}
	return { base, layers: layersOf(list, base !== null), texels, notes: [...new Set(notes)] };
}

/** Layers that were taken, under names that a sheet has no others of; and which surfaces it has already. */
export function namedFor(
	taken: TakenLayers,
	sheet: Sheet | null,
	others: ReadonlySet<Id>,
	same: (surface: SurfaceId, patch: Patch) => boolean,
	newId: () => string,
): Pick<TakenLayers, 'layers' | 'texels'> {
	const here = new Map((sheet ? [...eachLayer(sheet.layers)] : []).map((layer) => [layer.id, layer]));
	const names = new Map<string, string>();
	const texels = new Map<SurfaceId, { readonly format: 'color' | 'mask'; readonly patch: Patch }>();
	/** The surface that a layer has here already, where the same lies on it; else a name of its own. */
	const place = (from: SurfaceId, own: SurfaceId | undefined): void => {
		const brought = taken.texels.get(from);
		// A layer and its surface often bear one name: the surface is named apart.
		const key = `surface ${from}`;
		if (own !== undefined) {
			if (brought && !same(own, brought.patch)) texels.set(own, brought);
			return void names.set(key, own);
		}
		const free = newId();
		names.set(key, free);
		if (brought) texels.set(free, brought);
	};
	for (const layer of eachLayer(taken.layers)) {
		// A layer keeps its name where the sheet had it; on another sheet all are new.
		if (!sheet || others.has(layer.id)) names.set(layer.id, newId());
		const own = here.get(layer.id);
		const pointers = 'entries' in layer && layer.entries;
		if (pointers) place(pointers, (own && 'entries' in own && own.entries) || undefined);
		if ('surface' in layer) place(layer.surface, own && 'surface' in own ? own.surface : undefined);
		if (layer.mask) place(layer.mask.surface, own?.mask?.surface);
	}
	const ids = new Map([...names].filter(([from]) => !from.startsWith('surface ')));
	const layers = taken.layers
		.map((layer) => withSurfaces(layer, (surface) => names.get(`surface ${surface}`) ?? surface))
		.map((layer) => renamed(layer, ids));
	return { layers, texels };
}
