import type { Kernels, Ptr } from '@eppu/kernels';
import { linearOfSrgb, srgbOfLinear } from './srgb.ts';

/** Nodes along a side of a colour cube; the kernel mapColors knows it too. */
export const CUBE_NODES = 33;

/** What a tone brush does to a colour. */
export type ToneTool = 'lighten' | 'darken' | 'contrast' | 'saturate' | 'hue';

/** L, chroma as a, b in OKLab, changed by a tool at full strength; amount -1..1. */
function toned(tool: ToneTool, amount: number, l: number, a: number, b: number): [number, number, number] {
	if (tool === 'lighten') return [l + (1 - l) * 0.4 * amount, a, b];
	if (tool === 'darken') return [l * (1 - 0.45 * amount), a, b];
	if (tool === 'contrast') {
		const k = amount > 0 ? 1 + amount : 1 + 0.7 * amount;
		return [Math.min(1, Math.max(0, 0.55 + (l - 0.55) * k)), a, b];
	}
	if (tool === 'saturate') {
		const k = amount > 0 ? 1 + 1.2 * amount : 1 + amount;
		return [l, a * k, b * k];
	}
	const [c, s] = [Math.cos(Math.PI * amount), Math.sin(Math.PI * amount)];
	return [l, a * c - b * s, a * s + b * c];
}

/** A change of OKLab colours. */
export type ColorChange = (l: number, a: number, b: number) => readonly [number, number, number];

/** Bytes of a colour cube in the kernels' memory. */
export const CUBE_BYTES = CUBE_NODES ** 3 * 16;

/** Steps of the table of encoded light: what is read of it is within 0.001 of 255. */
const STEPS = 2048;
/** Linear light of a cube's steps, then encoded light 0..255 by the root of linear light, as the kernels read them. */
let tables: Float64Array | null = null;
const tablesMade = (): Float64Array =>
	Float64Array.from({ length: CUBE_NODES + STEPS + 2 }, (_, i) =>
		i < CUBE_NODES ? linearOfSrgb(i / (CUBE_NODES - 1)) : 255 * srgbOfLinear(((i - CUBE_NODES) / STEPS) ** 2),
	);

/**
 * Writes a change of OKLab colours to `at` (CUBE_BYTES) as a cube of 33³ nodes of four floats (red, green, blue 0..255,
 * one unused), red fastest. What leaves sRGB loses chroma, keeping lightness and hue, until it fits.
 */
export function putCube({ heap, run }: Kernels, at: Ptr, change: ColorChange): void {
	tables ??= tablesMade();
	const [nodes, bytes] = [CUBE_NODES ** 3, tables.byteLength];
	const place = heap.alloc(bytes);
	new Float64Array(heap.memory.buffer, place, tables.length).set(tables);
	run.cubeLabs(CUBE_NODES, place, at);
	const floats = new Float32Array(heap.memory.buffer, at, nodes * 4);
	for (let i = 0; i < nodes * 4; i += 4)
		floats.set(change(floats[i] as number, floats[i + 1] as number, floats[i + 2] as number), i);
	run.fitCube(at, nodes, place + CUBE_NODES * 8, STEPS);
	heap.free(place, bytes);
}

/** A tone brush at full strength. */
export const toneChanged =
	(tool: ToneTool, amount: number): ColorChange =>
	(l, a, b) =>
		toned(tool, amount, l, a, b);
