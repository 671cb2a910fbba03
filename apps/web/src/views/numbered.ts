import { tintOf } from '@eppu/core/color';

/** Fields along the longer side of a sheet. */
const FIELDS = 16;
/** Px of the picture's longer side. */
const SIDE = 1024;

const known = new Map<string, HTMLCanvasElement>();

/**
 * A checker whose fields have letters and numbers: how large its squares are shows how fine texels are, how square they
 * stay shows stretch, and what can be read shows which way islands lie.
 */
export function numberedChecker(width: number, height: number): HTMLCanvasElement {
	const key = `${width}x${height}`;
	const before = known.get(key);
	if (before) return before;
	const by = SIDE / Math.max(width, height);
	const canvas = document.createElement('canvas');
	Object.assign(canvas, { width: Math.round(width * by), height: Math.round(height * by) });
	const context = canvas.getContext('2d') as CanvasRenderingContext2D;
	const field = SIDE / FIELDS;
	context.textAlign = 'center';
	context.textBaseline = 'middle';
	context.font = `600 ${field * 0.42}px ${getComputedStyle(document.body).fontFamily}`;
	for (let row = 0; row * field < canvas.height; row++)
		for (let col = 0; col * field < canvas.width; col++) {
			const dark = (row + col) % 2 === 1;
			context.fillStyle = tintOf(Math.floor(row / 4) * 4 + Math.floor(col / 4));
			context.fillRect(col * field, row * field, field, field);
			context.fillStyle = dark ? 'rgb(0 0 0 / 0.34)' : 'rgb(255 255 255 / 0.3)';
			context.fillRect(col * field, row * field, field, field);
			context.fillStyle = dark ? '#ffffff' : '#221d18';
			context.fillText(`${String.fromCharCode(65 + row)}${col + 1}`, (col + 0.5) * field, (row + 0.54) * field);
		}
	known.set(key, canvas);
	return canvas;
}
