import { colorWords } from '../color/index.ts';
import { type DitherName, ditherOf } from '../pixel/index.ts';
import { isEmptyRect, readBlock, writeBlock } from '../raster/index.ts';
import { createRecord } from '../surface/index.ts';
import { type Gradient, gradientBlock } from '../wash/index.ts';
import type { EditKind } from './kind.ts';
import { gateOf, layTexel, selectedRect } from './lay.ts';

export interface GradientEdit {
	readonly do: 'gradient';
	readonly gradient: Gradient;
	/** Between its colours stand texels of both, in a pattern. */
	readonly dither?: DitherName | null;
}

export const gradient: EditKind<GradientEdit> = {
	do: 'gradient',
	words: (_edit, on) => `Gradient on ${on}`,
	called: ({ gradient: { colors, fade } }) => (fade ? `${colorWords(colors[0] ?? '#000000')} gradient` : 'Gradient'),
	apply(edit, scope) {
		const { kernels, surface, lockAlpha } = scope;
		const { seen } = scope.space;
		const rect = seen?.rect ?? selectedRect(scope);
		const record = createRecord(surface);
		if (isEmptyRect(rect)) return record;
		const dithered = edit.dither && !seen ? ditherOf(edit.dither) : null;
		const ink = gradientBlock(edit.gradient, rect, seen?.places, dithered?.threshold);
		const gate = gateOf(scope, rect);
		const block = readBlock(kernels, surface, rect);
		const changed = seen?.share.map((v, i) => (v && (!gate || gate[i]) ? 1 : 0));
		for (let i = 0; i < rect.width * rect.height; i++) {
			if (changed && !changed[i]) continue;
			const share = seen ? (seen.share[i] as number) / 255 : 1;
			const c = share * ((ink[i * 4 + 3] as number) / 255) * (gate ? (gate[i] as number) / 255 : 1);
			const [r, g, b] = [ink[i * 4] as number, ink[i * 4 + 1] as number, ink[i * 4 + 2] as number];
			layTexel(block.data, i, block.bytes, r, g, b, c, lockAlpha);
		}
		writeBlock(kernels, record, block, changed ?? undefined);
		return record;
	},
};
