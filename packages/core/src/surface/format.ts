import type { Heap, Kernels, Ptr } from '@eppu/kernels';
import { type Kind, TILE_TEXELS } from './tile.ts';

/** What a texel is. All that differs between formats stands here; whoever keeps texels asks it. */
export interface TexelKind {
	/** Bytes of a texel, which is also how many planes of bytes it is pressed in. */
	readonly bytes: 1 | 2 | 4;
	/** What texels at an address are, all alike, empty, or mixed. */
	classify(kernels: Kernels, at: Ptr): Kind;
	/** The value of the first texel at an address. */
	first(heap: Heap, at: Ptr): number;
	/** One value as so many texels side by side, in memory of the format's own width. */
	fill(texels: Uint8Array, value: number): void;
	/** A value as a word of RGBA8, red lowest; what has one channel shows it in all four. */
	word(value: number): number;
}

const wordsOf = ({ buffer, byteOffset, byteLength }: Uint8Array): Uint32Array =>
	new Uint32Array(buffer, byteOffset, byteLength >> 2);
const halvesOf = ({ buffer, byteOffset, byteLength }: Uint8Array): Uint16Array =>
	new Uint16Array(buffer, byteOffset, byteLength >> 1);

const formats = {
	/** Straight-alpha sRGB RGBA8. */
	color: {
		bytes: 4,
		classify: ({ run }, at) => run.classifyColor(at),
		first: ({ u32 }, at) => u32[at >> 2] ?? 0,
		fill: (texels, value) => void wordsOf(texels).fill(value),
		word: (v) => v,
	},
	/** A8. */
	mask: {
		bytes: 1,
		classify: ({ run }, at) => run.classifyMask(at),
		first: ({ u8 }, at) => u8[at] ?? 0,
		fill: (texels, value) => void texels.fill(value),
		word: (v) => v * 0x01010101,
	},
	/** One channel of 16 bits: heights, coverage, what is baked. */
	deep: {
		bytes: 2,
		classify: ({ run }, at) => run.classifyDeep(at),
		first: ({ u8 }, at) => (u8[at] ?? 0) | ((u8[at + 1] ?? 0) << 8),
		fill: (texels, value) => void halvesOf(texels).fill(value),
		word: (v) => (v >> 8) * 0x01010101,
	},
} satisfies Record<string, TexelKind>;

export type TexelFormat = keyof typeof formats;
export const texelFormats = formats as Readonly<Record<TexelFormat, TexelKind>>;

/** Bytes of one texel. */
export const texelBytes = (format: TexelFormat): 1 | 2 | 4 => texelFormats[format].bytes;
/** Bytes of one tile's texels. */
export const tileBytes = (format: TexelFormat): number => TILE_TEXELS * texelBytes(format);
