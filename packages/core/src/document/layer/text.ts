import { rgbOfHex } from '../../color/index.ts';
import { isEmptyRect, meet, pathCoverage, pathRect } from '../../raster/index.ts';
import { one, shared } from '../../shape/index.ts';
import { type Text, textPath } from '../../text/index.ts';
import { type Id, type LayerBase, layerShape, usualLayer } from '../layerBase.ts';
import type { LayerKind } from './kind.ts';

/** Lettering that stays editable. */
export interface TextLayer extends LayerBase {
	readonly kind: 'text';
	readonly text: Text;
}

export const textLayer = (id: Id, name: string, text: Text, change: Partial<LayerBase> = {}): TextLayer => ({
	...usualLayer,
	...change,
	id,
	name,
	kind: 'text',
	text,
});

export const text: LayerKind<TextLayer> = {
	kind: 'text',
	words: 'Lettering',
	shape: layerShape({ kind: one('text'), text: shared('text') }),
	own: { text: { words: 'Lettering', without: 'is no lettering' } },
	finishes: true,
	source: (_layer, at) => at.content() ?? 0,
	content({ text }) {
		let path: ReturnType<typeof textPath> | null = null;
		const lines = (): ReturnType<typeof textPath> => {
			path ??= textPath(text);
			return path;
		};
		const [x, y] = text.along?.length ? (text.along as readonly [number, number]) : [text.x, text.y];
		const [r, g, b] = rgbOfHex(text.color);
		const word = (r | (g << 8) | (b << 16)) >>> 0;
		return {
			says: text,
			pictures: [],
			below: false,
			reach: 0,
			stands: { at: [x, y], bounds: () => pathRect(lines()) },
			make(rect) {
				if (isEmptyRect(meet(pathRect(lines()), rect))) return null;
				const cover = pathCoverage(lines(), rect);
				const out = new Uint32Array(cover.length);
				for (let i = 0; i < out.length; i++) if (cover[i]) out[i] = (word | ((cover[i] as number) << 24)) >>> 0;
				return new Uint8Array(out.buffer);
			},
		};
	},
	moved(layer, move) {
		const { text } = layer;
		const to = move(text.x, text.y);
		if (!to) return layer;
		const along = text.along?.flatMap((_, i, all) => {
			if (i % 2) return [];
			const [x, y] = [all[i] as number, all[i + 1] as number];
			const at = move(x, y);
			return at ? [at.x, at.y] : [x, y];
		});
		// A flip from above to below is one from left to right, and half a turn.
		const turned = to.flipped ? to.turn - text.turn + 180 : to.turn + text.turn;
		return {
			...layer,
			text: {
				...text,
				x: to.x,
				y: to.y,
				turn: ((((turned + 180) % 360) + 360) % 360) - 180,
				mirrored: text.mirrored !== to.flipped,
				size: Math.min(4096, Math.max(1, text.size * to.scale)),
				box: text.box === null ? null : text.box * to.scale,
				along: along ?? null,
			},
		};
	},
	called: ({ text: { text: words } }) => words.replace(/\s+/g, ' ').trim().slice(0, 32).trim() || null,
	noPaint: ({ name }) => ({
		code: 'no-pixels',
		text: `"${name}" is lettering that stays editable. Strokes need a paint layer.`,
		instead: 'layer',
	}),
};
