import type { PngPress, PngWriter, WebpWriter } from '@eppu/kernels';
import type { Hex } from '../../color/index.ts';
import type { Picture } from '../../surface/index.ts';

/** What texels of a file hold. */
export type Channels = 'rgba' | 'rgb' | 'gray' | 'indexed';

/** What files are written with: modules that the host brings. */
export interface Writers {
	readonly png: PngWriter;
	readonly webp: WebpWriter;
	/** Makes a PNG smaller; left out where that is done elsewhere. */
	readonly press?: PngPress;
}

/** How a picture is written, beside what stands in it. */
export interface FileWish {
	readonly channels: Channels;
	readonly quality: number | null;
	readonly smaller: boolean;
	/** Colours that stand first in a file with a palette, in their order. */
	readonly palette: readonly Hex[];
}

/** A kind of picture file. */
export interface FileKind {
	readonly kind: string;
	readonly words: string;
	readonly ending: string;
	readonly mime: string;
	/** Which channels it takes; the first is usual. */
	readonly channels: readonly Channels[];
	/** It can be written so that texels change. */
	readonly lossy: boolean;
	/** Most texels of a side. */
	readonly most: number;
	/** A picture of RGBA8 as a file. Throws OrderError where it does not fit. */
	write(writers: Writers, picture: Picture, wish: FileWish): Uint8Array<ArrayBuffer>;
}

/** What is asked for cannot be written; the text says why and what to do. */
export class OrderError extends Error {
	override readonly name = 'OrderError';
}
