import type { Picture } from '../surface/index.ts';

/** Which way the green of a normal picture goes, and how sure that is, 0..1; null where it is no normal picture. */
export interface GreenWay {
	/** 'up' is green where the surface looks to the picture's upper border. */
	readonly way: 'up' | 'down';
	readonly sure: number;
}

/** So many of the colours must be those of unit normals that look outwards. */
const MOST_STRANGE = 0.08;

/**
 * A picture of normals is one of a surface: its slopes across and down come from one height, so that their mixed
 * derivatives agree. The way of green is the one with which they agree better (R. Frankot, R. Chellappa, "A method for
 * enforcing integrability in shape from shading algorithms", 1988).
 */
export function greenWay({ width, height, data }: Picture): GreenWay | null {
	if (width < 4 || height < 4) return null;
	let [strange, seen] = [0, 0];
	const [across, down] = [new Float32Array(width * height), new Float32Array(width * height)];
	const known = new Uint8Array(width * height);
	for (let i = 0; i < known.length; i++) {
		if ((data[i * 4 + 3] as number) < 250) continue;
		const [x, y, z] = [0, 1, 2].map((k) => ((data[i * 4 + k] as number) - 127.5) / 127.5) as [number, number, number];
		seen++;
		const length = Math.hypot(x, y, z);
		if (z < 0.05 || length < 0.8 || length > 1.2) {
			strange++;
			continue;
		}
		across[i] = -x / z;
		down[i] = y / z;
		known[i] = 1;
	}
	if (seen === 0 || strange / seen > MOST_STRANGE) return null;
	let [up, other] = [0, 0];
	for (let y = 1; y + 1 < height; y++)
		for (let x = 1; x + 1 < width; x++) {
			const i = y * width + x;
			if (!known[i - 1] || !known[i + 1] || !known[i - width] || !known[i + width]) continue;
			const one = (across[i + width] as number) - (across[i - width] as number);
			const two = (down[i + 1] as number) - (down[i - 1] as number);
			up += (one - two) ** 2;
			other += (one + two) ** 2;
		}
	const all = up + other;
	// A picture that is level all over tells nothing.
	if (all < known.length * 1e-6) return { way: 'up', sure: 0 };
	return { way: up <= other ? 'up' : 'down', sure: Math.abs(up - other) / all };
}
