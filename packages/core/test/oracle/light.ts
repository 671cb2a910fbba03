/** Light as a plain twin works it out. */
import { rgbOfHex } from '../../src/color/index.ts';
import { lightPresets, type Rig, tonedColor } from '../../src/light/index.ts';
import { directionOf } from '../../src/recipe/index.ts';

export const presetRig = (name: string, change: Partial<Rig> = {}): Rig => {
	const found = lightPresets.find((preset) => preset.name === name);
	if (!found) throw new Error(`no light "${name}"`);
	return { ...found.rig, ...change };
};

/** What a rig's light is where a surface looks along a unit normal, with no bake and no rise: r, g, b of 0..255. */
export function lightAt(rig: Rig, n: readonly [number, number, number]): number[] {
	const held = (v: number): number => Math.min(1, Math.max(0, v));
	const stepped = (tone: number): number => {
		if (rig.steps < 1) return tone;
		const low = Math.min(rig.steps - 1, Math.floor(tone * rig.steps));
		const t = held((tone * rig.steps - low - 0.5) / Math.max(0.01, rig.soft) + 0.5);
		return (low + t * t * (3 - 2 * t)) / rig.steps;
	};
	const color = (hex: string): number[] => rgbOfHex(hex).map((v) => v / 255);
	const up = stepped(held((n[1] + 1) / 2));
	const [sky, ground] = [color(rig.sky.color), color(rig.ground.color)];
	const sum = [0, 1, 2].map(
		(k) => (ground[k] as number) * rig.ground.strength * (1 - up) + (sky[k] as number) * rig.sky.strength * up,
	);
	const lamps = rig.lamps.filter(({ on }) => on);
	const keys = lamps.filter(({ key }) => key).reduce((all, { strength }) => all + strength, 0);
	let lit = 0;
	for (const lamp of lamps) {
		const way = directionOf(lamp.turn, lamp.rise);
		const toward = n[0] * way[0] + n[1] * way[1] + n[2] * way[2];
		const tone = stepped(held((toward + lamp.soft) / (1 + lamp.soft)));
		color(lamp.color).forEach((v, k) => {
			sum[k] = (sum[k] as number) + v * lamp.strength * tone;
		});
		if (lamp.key) lit += (tone * lamp.strength) / keys;
	}
	const shade = tonedColor(rig.shadow.color, rig.shadow);
	return sum.map((v, k) => {
		const through = keys ? 1 - (1 - held(lit)) * Math.min(1, rig.shadow.strength) * (1 - (shade[k] as number)) : 1;
		return 255 * held(v * through);
	});
}
