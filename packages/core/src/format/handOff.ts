import type { PngWriter } from '@eppu/kernels';
import type { Sheet } from '../document/index.ts';
import type { Picture } from '../surface/index.ts';
import { encodePng } from './png.ts';
import { shrink } from './resize.ts';

/** A sheet's texture as PNG at a size: its composite, and nothing but it. */
export const sheetPng = (
	write: PngWriter,
	composite: Picture,
	size: { readonly width: number; readonly height: number },
): Uint8Array<ArrayBuffer> => encodePng(write, shrink(composite, size.width, size.height));

/** A name that every file system takes: letters, digits, hyphens. */
export const safeName = (text: string): string =>
	text
		.replace(/[^\p{L}\p{N}_-]+/gu, '-')
		.replace(/^-+|-+$/g, '')
		.toLowerCase() || 'sheet';

/** A file name from a pattern with {project}, {sheet} and {size}. */
export const fileName = (pattern: string, project: string, sheet: Sheet, width: number): string =>
	`${pattern.replace('{project}', safeName(project)).replace('{sheet}', safeName(sheet.name)).replace('{size}', String(width))}.png`;
