import type { Sheet } from '../document/index.ts';

/** A name that every file system takes: letters, digits, hyphens. */
export const safeName = (text: string): string =>
	text
		.replace(/[^\p{L}\p{N}_-]+/gu, '-')
		.replace(/^-+|-+$/g, '')
		.toLowerCase() || 'sheet';

/** A file name from a pattern with {project}, {sheet} and {size}. */
export const fileName = (pattern: string, project: string, sheet: Sheet, width: number): string =>
	`${pattern.replace('{project}', safeName(project)).replace('{sheet}', safeName(sheet.name)).replace('{size}', String(width))}.png`;
