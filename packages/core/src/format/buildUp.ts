import type { Id } from '../document/index.ts';
import type { Engine } from '../engine/index.ts';
import type { Picture } from '../surface/index.ts';
import { shrink } from './resize.ts';

/** Side of one step of a build-up sheet, px, and the space around each. */
const STEP = 320;
const SPACE = 16;
const GROUND = [119, 119, 119, 255] as const;

/** Columns and rows that a number of steps is laid out in: no taller than wide. */
export function gridOf(steps: number): { readonly columns: number; readonly rows: number } {
	const columns = Math.max(1, Math.ceil(Math.sqrt(steps)));
	return { columns, rows: Math.max(1, Math.ceil(steps / columns)) };
}

/** A sheet's build-up as one picture: the picture after each layer, from the bare to the finished, row by row. */
export function buildUpPicture(engine: Engine, sheet: Id): Picture {
	const steps: Picture[] = [];
	engine.buildUp(sheet, (picture) => {
		const scale = Math.min(1, STEP / Math.max(picture.width, picture.height));
		steps.push(
			shrink(picture, Math.max(1, Math.round(picture.width * scale)), Math.max(1, Math.round(picture.height * scale))),
		);
	});
	const { columns, rows } = gridOf(steps.length);
	const width = columns * (STEP + SPACE) + SPACE;
	const height = rows * (STEP + SPACE) + SPACE;
	const data = new Uint8Array(width * height * 4);
	for (let i = 0; i < width * height; i++) data.set(GROUND, i * 4);
	steps.forEach((step, i) => {
		const left = SPACE + (i % columns) * (STEP + SPACE) + Math.floor((STEP - step.width) / 2);
		const top = SPACE + Math.floor(i / columns) * (STEP + SPACE) + Math.floor((STEP - step.height) / 2);
		for (let y = 0; y < step.height; y++)
			for (let x = 0; x < step.width; x++) {
				const from = (y * step.width + x) * 4;
				const to = ((top + y) * width + left + x) * 4;
				const a = (step.data[from + 3] as number) / 255;
				for (let k = 0; k < 3; k++)
					data[to + k] = Math.round((data[to + k] as number) * (1 - a) + (step.data[from + k] as number) * a);
			}
	});
	return { width, height, data };
}
