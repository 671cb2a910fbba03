import { innerRing, less, type TexelMask, type Touching, towards } from './ring.ts';

/** Where light falls on what is held, and where it does not: so many texels deep from its border. */
export interface PassSpec {
	/** Where the light comes from: a step, each -1, 0 or 1. */
	readonly side: readonly [number, number];
	readonly touching: Touching;
	readonly deep: number;
	/** Within the outline, which stays as it is. */
	readonly within: boolean;
}

/**
 * The texels that look towards the light, and those that look away from it. Rings are taken off one after the other, as many
 * as it is deep; what looks both ways, being thin, is in neither.
 */
export function passMasks(
	held: TexelMask,
	{ side, touching, deep, within }: PassSpec,
): { readonly light: TexelMask; readonly dark: TexelMask } {
	const away = [-side[0], -side[1]] as const;
	const [light, dark] = [0, 0].map(() => new Uint8Array(held.data.length)) as [Uint8Array, Uint8Array];
	let now = within ? less(held, innerRing(held, touching)) : held;
	for (let ring = 0; ring < deep; ring++) {
		const border = innerRing(now, touching);
		const [lit, shaded] = [towards(now, border, side), towards(now, border, away)];
		for (let i = 0; i < light.length; i++) {
			if (lit.data[i] === shaded.data[i]) continue;
			(lit.data[i] ? light : dark)[i] = 1;
		}
		now = less(now, border);
	}
	const { width, height } = held;
	return { light: { width, height, data: light }, dark: { width, height, data: dark } };
}
