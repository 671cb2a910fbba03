import { type Hex, oklabOfSrgb, rgbOfHex, srgbOfOklab } from '../color/index.ts';
import { directionOf } from '../recipe/index.ts';
import { bool, hex, id, list, name, orNull, real, type Shape, seed, share, strict, whole } from '../shape/index.ts';

/** A light that comes from one side. */
export interface Lamp {
	readonly id: string;
	readonly name: string;
	readonly on: boolean;
	/** Where it stands: degrees about the upright from the front (Z) towards X, and above the level. */
	readonly turn: number;
	readonly rise: number;
	readonly color: Hex;
	/** 0..2 */
	readonly strength: number;
	/** How far its light goes round what it meets, 0..1. */
	readonly soft: number;
	/** Where it does not reach counts as shadow. */
	readonly key: boolean;
}

/** A colour and how much of it there is, 0..2. */
export interface Tint {
	readonly color: Hex;
	readonly strength: number;
}

/** The same where a bake says. */
export interface BakedTint extends Tint {
	readonly bake: string | null;
}

/** What a colour of shade is turned by: cooler or warmer, -1..1, and its chroma times so much, 0..2. */
export interface Toned {
	readonly warmth: number;
	readonly chroma: number;
}

/** The strokes that light is laid in. */
export interface StrokesOf {
	/** Across, in hundredths of the model; and how many times as long. */
	readonly size: number;
	readonly length: number;
	/** Degrees from the way down the form. */
	readonly turn: number;
	/** How hard their rims are, 0..1. */
	readonly edge: number;
	/** How much their tones differ, 0..1. */
	readonly contrast: number;
	readonly seed: number;
}

/** How a model is lit: what a light layer is made from. */
export interface Rig {
	readonly lamps: readonly Lamp[];
	/** What comes from above and from below, wherever nothing is in the way. */
	readonly sky: Tint;
	readonly ground: Tint;
	readonly shadow: Tint & Toned;
	readonly occlusion: BakedTint & Toned;
	readonly edges: BakedTint;
	readonly hollows: BakedTint;
	/** A colour that lies on what is low, from the bottom (`from`) to where it has gone (`to`), in shares of the model's height. */
	readonly rise: Tint & { readonly from: number; readonly to: number };
	/** In how many steps tones go: 0 is smooth. */
	readonly steps: number;
	/** How soft the borders between steps are, 0..1. */
	readonly soft: number;
	readonly strokes: StrokesOf | null;
}

export const MOST_LAMPS = 8;

const strength = real(0, 2);
const tint = { color: hex, strength };
const baked = { ...tint, bake: orNull(id) };
const toned = { warmth: real(-1, 1), chroma: real(0, 2) };

export const rigShape: Shape = strict({
	lamps: list(
		strict({
			id,
			name,
			on: bool,
			turn: real(-180, 180),
			rise: real(-90, 90),
			color: hex,
			strength,
			soft: share,
			key: bool,
		}),
		MOST_LAMPS,
	),
	sky: strict(tint),
	ground: strict(tint),
	shadow: strict({ ...tint, ...toned }),
	occlusion: strict({ ...baked, ...toned }),
	edges: strict(baked),
	hollows: strict(baked),
	rise: strict({ ...tint, from: real(-1, 2), to: real(-1, 2) }),
	steps: whole(0, 8),
	soft: share,
	strokes: orNull(
		strict({
			size: real(0.5, 40),
			length: real(1, 12),
			turn: real(-180, 180),
			edge: share,
			contrast: share,
			seed,
		}),
	),
});

/** Bakes that a rig reads, each once. */
export const bakesOfRig = ({ occlusion, edges, hollows }: Rig): readonly string[] => [
	...new Set([occlusion, edges, hollows].flatMap(({ bake, strength }) => (bake && strength > 0 ? [bake] : []))),
];

/** Whether a rig's light depends on which way a surface looks. */
export const isShaded = ({ lamps, sky, ground }: Rig): boolean =>
	lamps.some(({ on, strength }) => on && strength > 0) ||
	sky.color !== ground.color ||
	sky.strength !== ground.strength;

/** How far a whole step of warmth goes along a and b of OKLab: towards orange, or away from it. */
const WARM = [0.03, 0.075] as const;

/** A colour made warmer or cooler and more or less lively, as lively as sRGB allows; r, g, b of 0..1. */
export function tonedColor(color: Hex, { warmth, chroma }: Toned): [number, number, number] {
	const [red, green, blue] = rgbOfHex(color);
	const [L, a, b] = oklabOfSrgb(red / 255, green / 255, blue / 255);
	const toned = srgbOfOklab([L, a * chroma + WARM[0] * warmth, b * chroma + WARM[1] * warmth]);
	return toned.map((v) => Math.min(1, Math.max(0, v))) as [number, number, number];
}

/** Numbers of a rig before its lamps, and of a lamp: as `shadeCells` in kernels/assembly/shade.ts takes them. */
const RIG_NUMBERS = 36;
const LAMP_NUMBERS = 8;

/** A rig as the kernel takes it. */
export function rigNumbers(rig: Rig): Float32Array {
	const lamps = rig.lamps.filter(({ on }) => on);
	const out = new Float32Array(RIG_NUMBERS + lamps.length * LAMP_NUMBERS);
	const plain = (color: Hex, by = 1): number[] => rgbOfHex(color).map((v) => (v / 255) * by);
	const [above, below] = [rig.sky, rig.ground].map(({ color, strength }) => plain(color, strength)) as [
		number[],
		number[],
	];
	const taken = (color: readonly number[], strength: number): number[] =>
		color.map((channel) => strength * (1 - channel));
	out.set([...above.map((v, k) => v - (below[k] as number)), ...below], 0);
	const keys = lamps.filter(({ key }) => key).reduce((sum, each) => sum + each.strength, 0);
	out.set(taken(tonedColor(rig.shadow.color, rig.shadow), keys > 0 ? Math.min(1, rig.shadow.strength) : 0), 6);
	out.set(taken(tonedColor(rig.occlusion.color, rig.occlusion), rig.occlusion.strength), 10);
	out.set(plain(rig.edges.color, rig.edges.strength), 14);
	out.set(taken(plain(rig.hollows.color), rig.hollows.strength), 18);
	out.set(taken(plain(rig.rise.color), rig.rise.strength), 22);
	out.set([rig.steps, 1 / Math.max(0.01, rig.soft), rig.strokes ? rig.strokes.contrast * 0.5 : 0, lamps.length], 26);
	lamps.forEach(({ turn, rise, soft, color, strength, key }, n) => {
		out.set(
			[
				...[...directionOf(turn, rise), soft].map((v) => v / (1 + soft)),
				...plain(color, strength),
				key ? strength / keys : 0,
			],
			RIG_NUMBERS + n * LAMP_NUMBERS,
		);
	});
	return out;
}
