/** Numbers of a picture as its file has them: 1 to 4 channels of 8 or 16 bits, row by row from the top. */
export interface MapPicture {
	readonly width: number;
	readonly height: number;
	/** Grey; grey and alpha; red, green, blue; those and alpha. */
	readonly channels: 1 | 2 | 3 | 4;
	readonly data: Uint8Array | Uint16Array;
}

/** Red, green, blue and alpha, 0..1. */
export type MapTexel = readonly [number, number, number, number];

/** Bits that each number has. */
export const mapBits = ({ data }: MapPicture): 8 | 16 => (data.BYTES_PER_ELEMENT === 2 ? 16 : 8);

/** What covers how much of the way from `low` to `high`, of texels from 0 to `count`: those beyond are the border's own. */
function covered(low: number, high: number, count: number): readonly (readonly [number, number])[] {
	const held = (i: number): number => Math.min(count - 1, Math.max(0, i));
	if (high - low <= 1) {
		// Between the middles of two texels lies what lies between their values.
		const at = (low + high) / 2 - 0.5;
		const first = Math.floor(at);
		return [
			[held(first), first + 1 - at],
			[held(first + 1), at - first],
		];
	}
	const out: [number, number][] = [];
	for (let i = Math.floor(low); i < high; i++)
		out.push([held(i), (Math.min(high, i + 1) - Math.max(low, i)) / (high - low)]);
	return out;
}

/**
 * Reads a map: the mean of each channel over a cell around u, v (0..1 from the left top corner) that takes `wide` by
 * `high` of the picture, as red, green, blue, alpha of 0..1; smaller than a texel, what lies between texels.
 */
export function mapReader(map: MapPicture): (u: number, v: number, wide: number, high: number) => MapTexel {
	const { width, height, channels, data } = map;
	const most = mapBits(map) === 16 ? 65535 : 255;
	const known = { columns: new Map<number, ReturnType<typeof covered>>(), wide: 0 };
	return (u, v, wide, high) => {
		if (known.wide !== wide) {
			known.columns.clear();
			known.wide = wide;
		}
		let columns = known.columns.get(u);
		if (!columns) known.columns.set(u, (columns = covered((u - wide / 2) * width, (u + wide / 2) * width, width)));
		const sums = [0, 0, 0, 0];
		for (const [y, much] of covered((v - high / 2) * height, (v + high / 2) * height, height))
			for (const [x, share] of columns) {
				const at = (y * width + x) * channels;
				for (let k = 0; k < channels; k++) sums[k] = (sums[k] as number) + much * share * (data[at + k] as number);
			}
		const of = (k: number): number => (sums[k] as number) / most;
		const colored = channels > 2;
		return [of(0), of(colored ? 1 : 0), of(colored ? 2 : 0), channels % 2 ? 1 : of(channels - 1)];
	};
}
