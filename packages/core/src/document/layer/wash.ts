import { colorWords, type Hex, rgbOfHex } from '../../color/index.ts';
import { hex, one, orNull, shared } from '../../shape/index.ts';
import { fillBlock, fillPictures, spacedMoved, type WashFill } from '../../wash/index.ts';
import { type Id, type LayerBase, layerShape, usualLayer } from '../layerBase.ts';
import type { LayerKind } from './kind.ts';

/** One colour, a gradient or a pattern everywhere, shaped only by its mask. */
export interface WashLayer extends LayerBase {
	readonly kind: 'wash';
	readonly color: Hex;
	/** What is laid instead of the plain colour; null goes back to it. */
	readonly fill?: WashFill | null;
}

export const washLayer = (
	id: Id,
	name: string,
	color: Hex,
	change: Partial<LayerBase> & { readonly fill?: WashFill } = {},
): WashLayer => ({ ...usualLayer, ...change, id, name, kind: 'wash', color });

export const wash: LayerKind<WashLayer> = {
	kind: 'wash',
	words: 'Wash',
	shape: layerShape({ kind: one('wash'), color: hex, fill: orNull(shared('fill')) }, ['fill']),
	own: {
		color: { words: 'Colour', without: 'is no wash, so it has no colour of its own' },
		fill: { words: 'Fill', without: 'is no wash, so it has no fill of its own' },
	},
	finishes: true,
	source(layer, at) {
		if (layer.fill) return at.content() ?? 0;
		const [r, g, b] = rgbOfHex(layer.color);
		return (r | (g << 8) | (b << 16) | (255 << 24)) >>> 0;
	},
	content({ fill }) {
		if (!fill) return null;
		return {
			says: fill,
			pictures: fillPictures(fill),
			below: false,
			reach: 0,
			make: (rect, { picture, sheet }) => fillBlock(fill, rect, picture, sheet),
		};
	},
	moved(wash, move) {
		const { fill } = wash;
		if (fill?.fill === 'gradient') {
			const [from, to] = [move(...fill.from), move(...fill.to)];
			return from && to ? { ...wash, fill: { ...fill, from: [from.x, from.y], to: [to.x, to.y] } } : wash;
		}
		if (fill?.fill === 'pattern') {
			const { box } = fill;
			const at = move(box.x + box.width / 2, box.y + box.height / 2);
			return at ? { ...wash, fill: spacedMoved(fill, at) } : wash;
		}
		// A repeated picture keeps its size and turn: it is of the sheet, not of the surface.
		const at = fill?.fill === 'picture' ? move(fill.x, fill.y) : null;
		return at && fill?.fill === 'picture' ? { ...wash, fill: { ...fill, x: at.x, y: at.y } } : wash;
	},
	called: ({ color, fill }) =>
		fill
			? fill.fill === 'gradient'
				? 'Gradient'
				: fill.fill === 'cells'
					? 'Colour grid'
					: 'Pattern'
			: `${colorWords(color)} wash`,
	plain: ({ color, fill }) => (fill ? null : color),
	filled: ({ fill }, color) => ({ color, ...(fill ? { fill: null } : {}) }),
	noPaint: ({ name }) => ({
		code: 'wash',
		text: `"${name}" is a wash: one colour, shaped by its mask. Strokes go on its mask, or on a paint layer.`,
		instead: 'mask',
	}),
};
