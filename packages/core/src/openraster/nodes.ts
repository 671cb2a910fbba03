import { rgbOfHex } from '../color/index.ts';
import { kindOf, type Layer, type Sheet, surfacesOfLayer } from '../document/index.ts';
import type { Engine, LooseStack } from '../engine/index.ts';
import { type Picture, pictureOfSurface } from '../surface/index.ts';
import { ATOP, KEEP, OVER, opOfMode } from './modes.ts';
import { lookOf, type OraLayer, type OraNode, type OraStack, type Own } from './node.ts';
import { maskSum, maskSumsOf, type Patch, sumOf, sumsOf, trimmed, whiteOf } from './patch.ts';
import { asFaded, asItIs, asLaid, asOpaque, asShape, pressed } from './pressed.ts';

/** The stack that layers blend with, with others in their place. */
type Context = (inner: readonly Layer[]) => LooseStack;

const noMask = (layer: Layer): Layer => ({ ...layer, mask: null });
/** Finishes follow the shape that the mask leaves: there it stays within the picture. */
const unmasked = (layer: Layer): Layer => (finished(layer) ? layer : noMask(layer));
const full = (layer: Layer): Layer => ({ ...layer, opacity: 1 });
const finished = ({ finishes }: Layer): boolean => (finishes ?? []).some((finish) => finish.on);
const adjusts = (layer: Layer): boolean => !('layers' in layer) && !kindOf(layer).finishes;

/** Whether layers look the same laid on nothing as laid on what lies below them. */
const isPlain = (layers: readonly Layer[]): boolean =>
	layers.every(
		(layer) =>
			!layer.shown || (layer.mode === 'normal' && !adjusts(layer) && !('layers' in layer && !isPlain(layer.layers))),
	);

const isolates = (layer: Layer): boolean =>
	'layers' in layer && (layer.isolated || layer.mode !== 'normal' || finished(layer));

/**
 * The layers of a sheet as elements of an OpenRaster picture, bottom first, and notes on what other programs may show
 * otherwise. `put` keeps a picture that stands in no element, and returns its path.
 */
// biome-ignore lint/complexity/noExcessiveLinesPerFunction: one kind of element after the other, all over one sheet and its notes.
export function nodesOf(
	engine: Engine,
	sheet: Sheet,
	put: (patch: Patch) => string,
): { readonly nodes: OraNode[]; readonly notes: string[] } {
	const notes: string[] = [];
	const { kernels } = engine;
	const whole: Context = (layers) => ({ layers, base: sheet.base });
	const alone: Context = (layers) => ({ layers, base: null });
	const surfacePatch = (id: string, format: string): Patch => {
		const surface = engine.surface(id);
		if (!surface) return { x: 0, y: 0, width: 1, height: 1, data: new Uint8Array(4) };
		const picture = pictureOfSurface(kernels, surface);
		return trimmed(format === 'mask' ? whiteOf(picture) : picture);
	};
	/** Surfaces of a layer that no element shows as they are. */
	const kept = (layer: Layer, shown: readonly string[]): string | undefined => {
		const hidden = surfacesOfLayer(layer).filter(({ id }) => !shown.includes(id));
		if (!hidden.length) return undefined;
		return keptAs(hidden);
	};
	const keptAs = (list: readonly { readonly id: string; readonly format: string }[]): string =>
		JSON.stringify(
			Object.fromEntries(
				list.map(({ id, format }) => {
					const patch = surfacePatch(id, format);
					return [id, [put(patch), patch.x, patch.y]];
				}),
			),
		);
	const head = (layer: Layer, op: string): Omit<OraLayer, 'kind' | 'patch' | 'own'> => ({
		name: layer.name,
		opacity: layer.opacity,
		shown: layer.shown,
		locked: layer.locked,
		op,
	});
	/** A layer on nothing, at full strength. */
	const itself = (layer: Layer): LooseStack =>
		alone([
			{
				...unmasked(full(layer)),
				shown: true,
				mode: 'normal',
				clip: false,
				...('layers' in layer ? { isolated: true } : {}),
			} as Layer,
		]);
	/** What has finishes, as it looks with them. */
	const withFinishes = (layer: Layer, op: string): OraLayer =>
		flat(layer, pressed(engine, sheet, [itself(layer)], asItIs), op);
	const withLook = <N extends OraNode>(node: N): N => ({ ...node, own: { ...(node.own as Own), look: lookOf(node) } });
	const inner = (layer: Layer) => ({ name: layer.name, opacity: 1, shown: true, locked: layer.locked, op: OVER });
	/** What of a layer stands in its own JSON: children are elements of their own unless they went as one picture. */
	const jsonOf = (layer: Layer, children: boolean): string =>
		JSON.stringify('layers' in layer && !children ? { ...layer, layers: [] } : layer);

	const maskNode = (layer: Layer, picture: Picture): OraLayer => {
		const patch = trimmed(whiteOf(picture));
		const { mask } = layer;
		return withLook({
			kind: 'layer',
			name: `${layer.name}: mask`,
			opacity: 1,
			shown: mask?.on ?? true,
			locked: false,
			op: KEEP,
			patch,
			own: { role: 'mask', sum: maskSum(patch) },
		});
	};
	/** A layer whose look is one picture, with everything else of it in its own JSON. */
	const flat = (layer: Layer, picture: Picture, op: string, shown: readonly string[] = []): OraLayer => {
		const patch = trimmed(picture);
		const texels = kept(layer, shown);
		const own: Own = { role: 'layer', layer: jsonOf(layer, true), sum: sumsOf(patch), ...(texels ? { texels } : {}) };
		return withLook({ kind: 'layer', ...head(layer, op), patch, own });
	};
	/** The same with its mask as an element beside it. */
	const masked = (layer: Layer, picture: Picture, op: string, shown: readonly string[] = []): OraNode => {
		const mask = engine.maskPicture(sheet.id, layer.id);
		if (!layer.mask || !mask) return flat(layer, picture, op, shown);
		const patch = trimmed(picture);
		const masks = layer.mask.recipe?.length ? [] : [layer.mask.surface];
		const texels = kept(layer, [...shown, ...masks]);
		const own: Own = { role: 'layer', layer: jsonOf(layer, true), sum: sumsOf(patch), ...(texels ? { texels } : {}) };
		const child = withLook<OraLayer>({ kind: 'layer', ...inner(layer), patch, own });
		return withLook<OraStack>({
			kind: 'stack',
			...head(layer, op),
			isolated: true,
			children: [child, maskNode(layer, mask)],
			own: { role: 'masked' },
		});
	};

	const shown = (layer: Layer, picture: Picture, op: string): OraNode =>
		finished(layer) ? flat(layer, picture, op) : masked(layer, picture, op);

	/** How a layer is laid whose mode has no registered name, or that changes what lies below: as it looks there. */
	const asSeen = (layer: Layer, context: Context, below: readonly Layer[]): OraNode => {
		const seen = context([...below, unmasked(full({ ...layer, shown: true, clip: false }))]);
		if (adjusts(layer)) return shown(layer, pressed(engine, sheet, [seen], asOpaque), ATOP);
		return shown(layer, pressed(engine, sheet, [context(below), seen, itself(layer)], asLaid), OVER);
	};

	const groupNode = (
		layer: Layer & { readonly layers: readonly Layer[] },
		op: string,
		context: Context,
		below: readonly Layer[],
		clipped: boolean,
	): OraNode => {
		const mask = layer.mask && engine.maskPicture(sheet.id, layer.id);
		const fades = layer.opacity < 1 || Boolean(layer.mask?.on);
		const isolated = clipped || isolates(layer) || (fades && isPlain(layer.layers));
		if (finished(layer)) return withFinishes(layer, op);
		if (!isolated && fades) {
			notes.push(`"${layer.name}" is faded and its layers blend with what lies below it: they went as one picture.`);
			const seen = context([...below, noMask(full({ ...layer, shown: true }))]);
			return masked(layer, pressed(engine, sheet, [context(below), seen], asFaded), op);
		}
		const within: Context = isolated ? alone : (list) => context([...below, { ...layer, layers: list } as Layer]);
		const children = nodes(layer.layers, within);
		const texels =
			mask && layer.mask?.recipe?.length ? keptAs([{ id: layer.mask.surface, format: 'mask' }]) : undefined;
		return withLook<OraStack>({
			kind: 'stack',
			...head(layer, op),
			isolated,
			children: mask ? [...children, maskNode(layer, mask)] : children,
			own: { role: 'group', layer: jsonOf(layer, false), ...(texels ? { texels } : {}) },
		});
	};

	/** A layer by itself, laid on what lies below it with `op`. */
	const single = (
		layer: Layer,
		op: string | undefined,
		context: Context,
		below: readonly Layer[],
		clipped = false,
	): OraNode => {
		if (adjusts(layer) || op === undefined) return asSeen(layer, context, below);
		if ('layers' in layer) return groupNode(layer, op, context, below, clipped);
		if (finished(layer)) return withFinishes(layer, op);
		if ('surface' in layer) {
			const surface = engine.surface(layer.surface);
			if (surface) return masked(layer, pictureOfSurface(kernels, surface), op, [layer.surface]);
		}
		return masked(layer, engine.layerPicture(sheet.id, layer.id, true), op);
	};

	/** A layer with what is clipped to it. */
	const run = (base: Layer, clips: readonly Layer[], op: string): OraNode => {
		const bare: Layer = {
			...base,
			opacity: 1,
			mode: 'normal',
			shown: true,
			clip: false,
			...('layers' in base ? { isolated: true } : {}),
		};
		const blends = clips.some((each) => each.shown && each.mode !== 'normal' && !adjusts(each));
		const clipNode = (layer: Layer, at: number, over: string | undefined): OraNode => {
			const below = [bare, ...clips.slice(0, at)];
			// Added up inside a shape is another sum than the registered one.
			const added = layer.mode === 'plus-lighter' || over === undefined;
			return added || adjusts(layer) ? asClipped(layer, below) : single(layer, over, alone, [], true);
		};
		/** As it looks on the base, laid atop. */
		const asClipped = (layer: Layer, below: readonly Layer[]): OraNode => {
			const seen = alone([...below, unmasked(full({ ...layer, shown: true, clip: true }))]);
			const stacks = adjusts(layer) ? [seen] : [seen, itself(layer)];
			return shown(layer, pressed(engine, sheet, stacks, asOpaque), ATOP);
		};
		if (!blends) {
			const children = [single(bare, OVER, alone, []), ...clips.map((each, i) => clipNode(each, i, ATOP))];
			return withLook<OraStack>({
				kind: 'stack',
				...head(base, op),
				isolated: true,
				children,
				own: { role: 'run', layer: jsonOf(base, false) },
			});
		}
		// On an opaque base the registered modes are exact; its shape cuts all of it out at the end.
		const shape = pressed(engine, sheet, [alone([bare])], asShape);
		const children = [
			flat(bare, pressed(engine, sheet, [alone([bare])], asOpaque), OVER),
			...clips.map((each, i) => clipNode(each, i, opOfMode(each.mode))),
			withLook<OraLayer>({
				kind: 'layer',
				name: `${base.name}: shape`,
				opacity: 1,
				shown: true,
				locked: false,
				op: KEEP,
				patch: shape,
				own: { role: 'shape', sum: maskSumsOf(shape) },
			}),
		];
		return withLook<OraStack>({
			kind: 'stack',
			...head(base, op),
			isolated: true,
			children,
			own: { role: 'run', layer: jsonOf(base, false) },
		});
	};

	const nodes = (layers: readonly Layer[], context: Context): OraNode[] => {
		const out: OraNode[] = [];
		let free: 'shown' | 'hidden' | null = null;
		for (let i = 0; i < layers.length; ) {
			const base = layers[i] as Layer;
			let next = i + 1;
			// What is clipped to a change of tones stands free, and goes with it where it is hidden.
			if (!base.clip || i === 0) free = adjusts(base) ? (base.shown ? 'shown' : 'hidden') : null;
			const unclipped = adjusts(base) || (free !== null && (free === 'hidden' || !base.shown));
			while (!unclipped && next < layers.length && layers[next]?.clip) next++;
			const below = layers.slice(0, i);
			const op = opOfMode(base.mode);
			if (next > i + 1) {
				if (op === undefined)
					notes.push(
						`"${base.name}" blends ${base.mode}, which has no name in OpenRaster: with what is clipped to it, another program shows it as normal.`,
					);
				out.push(run(base, layers.slice(i + 1, next), op ?? OVER));
			} else {
				const node = single(base, op, context, below);
				out.push(free === 'hidden' ? withLook({ ...node, shown: false }) : node);
			}
			i = next;
		}
		return out;
	};
	const list = nodes(sheet.layers, whole);
	if (sheet.base) {
		const [r, g, b] = rgbOfHex(sheet.base);
		const data = new Uint8Array(sheet.width * sheet.height * 4);
		new Uint32Array(data.buffer).fill((r | (g << 8) | (b << 16) | (255 << 24)) >>> 0);
		const patch: Patch = { x: 0, y: 0, width: sheet.width, height: sheet.height, data };
		list.unshift(
			withLook<OraLayer>({
				kind: 'layer',
				name: 'Base colour',
				opacity: 1,
				shown: true,
				locked: true,
				op: OVER,
				patch,
				own: { role: 'base', layer: JSON.stringify(sheet.base), sum: sumOf(patch) },
			}),
		);
	}
	return { nodes: list, notes: [...new Set(notes)] };
}
