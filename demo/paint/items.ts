/** The pixel items of the demo world, drawn texel by texel in its palette, and tiles made from its ramps. */
import { apiaryPalette, type Hex, rgbOfHex } from '@eppu/core/color';
import type { Picture } from '@eppu/core/surface';
import { seeded } from './brushwork.ts';

/** The palette's places by letters: straw a–f, rust g–l, tin m–r, leaf s–x, sky A–F, plum G–L. */
const inks = new Map(
	[...'abcdefghijklmnopqrstuvwxABCDEFGHIJKL'].map((ink, i) => [ink, apiaryPalette.colors[i] as Hex]),
);

const SIDE = 16;

/** A drawing as texels: x, y, colour. */
export const texelsOf = (rows: readonly string[]): (readonly [number, number, Hex])[] =>
	rows.flatMap((row, y) =>
		[...row].flatMap((ink, x) => {
			const color = inks.get(ink);
			return color ? [[x, y, color] as const] : [];
		}),
	);

export const drawings: Readonly<Record<string, readonly string[]>> = {
	'Honey dipper': [
		'................',
		'..........fff...',
		'........ffggaf..',
		'.......fggihgif.',
		'......fgihgihgif',
		'......fihgihgihf',
		'......fhgihgihif',
		'......fgihgihif.',
		'.......fhgihif..',
		'......fcfihff...',
		'.....fcdfff.....',
		'....fcdef.......',
		'...fcdef........',
		'..fbdef.........',
		'.fbdef..........',
		'..fff...........',
	],
	'Hive tool': [
		'............qq..',
		'...........qmmq.',
		'..........qmnoq.',
		'.........qmnoq..',
		'........qmnoq...',
		'.......qmnoq....',
		'......qmnoq.....',
		'.....lgnoq......',
		'....lghiq.......',
		'...lghijl.......',
		'..lghijl........',
		'..qhijl.........',
		'.qmnjl..........',
		'.qnoq...........',
		'.qnoqq..........',
		'..qqppq.........',
	],
	'Bee brush': [
		'.............ff.',
		'............fbdf',
		'...........fbdef',
		'..........fcdef.',
		'.........fcdef..',
		'........fcdef...',
		'.......fcdef....',
		'......fddef.....',
		'.....fjiief.....',
		'....fabjief.....',
		'...faabbdjf.....',
		'..fabaabcdf.....',
		'.fabcabbcdf.....',
		'.facbacacdf.....',
		'.fcacbcdcf......',
		'..fffffff.......',
	],
	Smoker: [
		'.....nn.........',
		'....n..nn.......',
		'.......n........',
		'.....rrrr.......',
		'....rpqqr.......',
		'...rmnopqr......',
		'..rmnooppqr.....',
		'..rrrrrrrrrfff..',
		'..rmmnoopqfbcef.',
		'..rnmnoopqfcdef.',
		'..rmmnoopqfdcef.',
		'..rhhiijjrfcdef.',
		'..rmmnoopqfdcef.',
		'..rnmnoopqfcdef.',
		'..rrrrrrrrrfff..',
		'................',
	],
	'Honey jar': [
		'................',
		'.....ffffff.....',
		'....fcbccdef....',
		'....fddddeef....',
		'.....llllll.....',
		'....lggghhil....',
		'...lgaghhhhil...',
		'...lgaghhhhil...',
		'...lbbbbbbbcl...',
		'...lbffbffbcl...',
		'...lbbffffbcl...',
		'...lccccccccl...',
		'...lghhhhhiil...',
		'...lhhhhiiijl...',
		'....lllllllll...',
		'................',
	],
	'Wax block': [
		'................',
		'................',
		'................',
		'....ffffffff....',
		'...fabbbbbbcf...',
		'..fabggbbgccdf..',
		'..fbbgbbgbccdf..',
		'.fffffffffffdf..',
		'.fggghghhhifdf..',
		'.fghghghhhifef..',
		'.fghghhhihifef..',
		'.fhhhhhihiifef..',
		'.fhhihiiiiif....',
		'.ffffffffff.....',
		'................',
		'................',
	],
	Bee: [
		'................',
		'.......EE.EE....',
		'......EABEABE...',
		'......EAABABE...',
		'.......EABBE....',
		'....rrrrEBErr...',
		'...rggrrggrrrr..',
		'..rghgrrhgrrqmr.',
		'.lrghhrrhhrrqrr.',
		'..rhhirrhirrrr..',
		'...rhirrhirrr...',
		'....rrrrrrrr....',
		'.....r..r..r....',
		'................',
		'................',
		'................',
	],
	Clover: [
		'................',
		'......KKK.......',
		'.....KGHHK......',
		'....KGHGHIK.....',
		'....KHGHIIK.....',
		'....KHIIHJK.....',
		'.....KIIJK......',
		'......KKK.......',
		'.......w........',
		'..ww...v...ww...',
		'.wstw..v..wstw..',
		'.wttuw.v.wttuw..',
		'..wuuv.v.vuuw...',
		'...www.v.www....',
		'.......v........',
		'.......w........',
	],
};

/** A tile of a ramp: what says how light each texel is, 0..1. */
const tile = (ramp: number, light: (x: number, y: number) => number): Picture => {
	const colors = apiaryPalette.ramps?.[ramp]?.colors ?? [];
	const data = new Uint8Array(SIDE * SIDE * 4);
	for (let i = 0; i < SIDE * SIDE; i++) {
		const share = Math.min(0.999, Math.max(0, light(i % SIDE, Math.floor(i / SIDE))));
		const color = colors[colors.length - 1 - Math.floor(share * colors.length)] as Hex;
		data.set([...rgbOfHex(color), 255], i * 4);
	}
	return { width: SIDE, height: SIDE, data };
};

/** Noise that joins at the tile's borders. */
function speckle(seed: number): (x: number, y: number) => number {
	const random = seeded(seed);
	const values = Array.from({ length: SIDE * SIDE }, random);
	return (x, y) => values[(y & 15) * SIDE + (x & 15)] as number;
}

/** Tiles of the yard that join each other. */
export function tiles(): Readonly<Record<string, Picture>> {
	const [a, b, c, d] = [3, 7, 11, 19].map(speckle) as [
		ReturnType<typeof speckle>,
		ReturnType<typeof speckle>,
		ReturnType<typeof speckle>,
		ReturnType<typeof speckle>,
	];
	return {
		plank: tile(
			0,
			(x, y) =>
				(y % 8 === 7 ? 0.05 : y % 8 === 0 ? 0.72 : 0.5) +
				(a(x >> 2, y >> 3) - 0.5) * 0.16 -
				((x === 3 && y < 8) || (x === 11 && y >= 8) ? 0.3 : 0),
		),
		straw: tile(
			0,
			(x, y) =>
				0.55 + 0.25 * Math.sin(((x + (y >> 2) * 5) * Math.PI) / 4) * (y % 4 === 3 ? -1 : 1) + (b(x, y) - 0.5) * 0.2,
		),
		// Six-sided cells, eight texels apart: the walls are where two middles are as near.
		comb: tile(1, (x, y) => {
			const middles = [-1, 0, 1, 2].flatMap((v) =>
				[-1, 0, 1, 2].map((u) => [u * 8 + 3.5 + (v & 1) * 4, v * 8 + 3.5] as const),
			);
			const far = middles
				.map(([u, v]) => Math.max(Math.abs(y - v), Math.abs(x - u) + Math.abs(y - v) * 0.5))
				.sort((p, q) => p - q);
			const [near, next] = far as [number, number];
			if (next - near < 1) return 0.94;
			return near < 1.6 ? 0.34 + c(x, y) * 0.08 : y % 8 < 3 ? 0.55 : 0.72;
		}),
		grass: tile(
			3,
			(x, y) => 0.45 + (d(x, y) > 0.82 ? 0.3 : d(x, y) < 0.2 ? -0.2 : 0) + (a(x >> 1, y >> 2) - 0.5) * 0.2,
		),
		cobble: tile(2, (x, y) => {
			const [u, v] = [(x + (Math.floor(y / 5) % 2) * 3) % 6, y % 5];
			return (u === 5 || v === 4 ? 0.12 : u === 0 || v === 0 ? 0.7 : 0.5) + (b(x, y) - 0.5) * 0.14;
		}),
		water: tile(
			4,
			(x, y) => 0.42 + ((x + 3 * (y >> 2)) % 16 < 5 && y % 4 === 1 ? 0.32 : 0) + (c(x >> 1, y >> 1) - 0.5) * 0.12,
		),
	};
}
