import { type Hex, rgbOfHex } from '../color/index.ts';
import {
	innerRing,
	less,
	outerRing,
	type PixelColors,
	packedOf,
	type TexelMask,
	type Touching,
	towards,
} from '../pixel/index.ts';
import { type Block, readBlock, writeBlock } from '../raster/index.ts';
import { createRecord, type TileRecord } from '../surface/index.ts';
import type { EditKind } from './kind.ts';
import { type EditScope, gateOf } from './lay.ts';
import { whole } from './space.ts';

/** Which texels of what a layer holds: those at its border, those just beside it, or all but its border. */
export type RimOf = 'outline' | 'outside' | 'inside';

/** Texels at, beside or within the border of what a layer holds. */
export interface Rim {
	readonly of: RimOf;
	/** What touches what: at sides alone, or at corners too. */
	readonly touching: Touching;
	/** Only those that look towards a side, each -1, 0 or 1; null takes all. */
	readonly side: readonly [number, number] | null;
}

/** What is done to them. */
export interface OutlineEdit {
	readonly do: 'outline';
	readonly rim: Rim;
	readonly act:
		| { readonly to: 'color'; readonly color: Hex }
		/** A step along the ramp of each. */
		| { readonly to: 'step'; readonly by: 1 | -1 }
		| { readonly to: 'nothing' };
}

/** The texels of a block that hold something. */
export function heldBy({ rect, bytes, data }: Block): TexelMask {
	const out = new Uint8Array(rect.width * rect.height);
	for (let i = 0; i < out.length; i++) out[i] = (data[i * bytes + bytes - 1] as number) >= 128 ? 1 : 0;
	return { width: rect.width, height: rect.height, data: out };
}

/** The texels of a rim. */
export function rimMask(held: TexelMask, { of, touching, side }: Rim): TexelMask {
	if (of === 'inside') return less(held, innerRing(held, touching));
	if (of === 'outline') {
		const ring = innerRing(held, touching);
		return side ? towards(held, ring, side) : ring;
	}
	const ring = outerRing(held, touching);
	// Beside it, towards a side: what is held lies on the other.
	const [dx, dy] = side ?? [0, 0];
	return side ? towards(less(full(held), held), ring, [-dx, -dy]) : ring;
}

const full = ({ width, height }: TexelMask): TexelMask => ({
	width,
	height,
	data: new Uint8Array(width * height).fill(1),
});

function outlined({ rim, act }: OutlineEdit, scope: EditScope, colors: PixelColors | null): TileRecord {
	const { kernels, surface } = scope;
	const record = createRecord(surface);
	const rect = whole(surface);
	const block = readBlock(kernels, surface, rect);
	const mask = rimMask(heldBy(block), rim);
	const gate = gateOf(scope, rect);
	const changed = new Uint8Array(mask.data.length);
	const own = act.to === 'color' ? rgbOfHex(act.color) : null;
	const { data, bytes } = block;
	for (let i = 0; i < changed.length; i++) {
		if (!mask.data[i] || (gate && (gate[i] as number) < 128)) continue;
		// With its alpha locked nothing comes to where nothing is, and nothing goes.
		if (scope.lockAlpha && (rim.of === 'outside' || act.to === 'nothing')) continue;
		changed[i] = 1;
		if (bytes === 1) {
			data[i] = act.to === 'nothing' ? 0 : act.to === 'color' ? packedOf(act.color) & 255 : (data[i] as number);
			continue;
		}
		if (act.to === 'nothing') data.fill(0, i * 4, i * 4 + 4);
		else if (own) data.set([...own, 255], i * 4);
		else if (act.to === 'step') {
			const was = (data[i * 4] as number) | ((data[i * 4 + 1] as number) << 8) | ((data[i * 4 + 2] as number) << 16);
			const now = colors?.step(was, act.by) ?? was;
			data.set([now & 255, (now >> 8) & 255, (now >> 16) & 255], i * 4);
		}
	}
	writeBlock(kernels, record, block, changed);
	return record;
}

const rimWords: Readonly<Record<RimOf, string>> = { outline: 'outline', outside: 'ring', inside: 'inside' };

export const outline: EditKind<OutlineEdit> = {
	do: 'outline',
	words({ rim, act }, on) {
		const what = rimWords[rim.of];
		if (act.to === 'nothing') return `Take the ${what} off ${on}`;
		if (act.to === 'step') return `${act.by > 0 ? 'Lighten' : 'Darken'} the ${what} of ${on}`;
		return rim.of === 'outside' ? `Ring around ${on}` : `Colour the ${what} of ${on}`;
	},
	apply: (edit, scope) => outlined(edit, scope, scope.colors),
};
