import type { PngWriter } from '@eppu/kernels';
import { type Id, type Sheet, sheetOf } from '../document/index.ts';
import type { Engine } from '../engine/index.ts';
import { meshBounds } from '../mesh/index.ts';
import { type Camera, framing, renderModel } from '../projection/index.ts';
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

/** Pixel sheets in a cover at the most. */
const MOST_ITEMS = 6;

/** The first pixel sheets side by side, each texel a square of whole px. */
function itemsPicture(engine: Engine, width: number, height: number): Picture {
	const shown = engine.project.sheets.filter(({ pixel }) => pixel).slice(0, MOST_ITEMS);
	const cols = Math.ceil(Math.sqrt((shown.length * width) / height));
	const rows = Math.ceil(shown.length / cols);
	const [w, h] = [Math.floor(width / cols), Math.floor(height / rows)];
	const out = { width, height, data: new Uint8Array(width * height * 4) };
	const words = new Uint32Array(out.data.buffer);
	shown.forEach((sheet, n) => {
		const whole = engine.composite(sheet.id);
		const times = Math.max(1, Math.floor(Math.min((w * 0.9) / sheet.width, (h * 0.9) / sheet.height)));
		const texels = new Uint32Array(whole.data.buffer, whole.data.byteOffset);
		const left = (n % cols) * w + Math.floor((w - sheet.width * times) / 2);
		const top = Math.floor(n / cols) * h + Math.floor((h - sheet.height * times) / 2);
		for (let y = 0; y < sheet.height * times; y++)
			for (let x = 0; x < sheet.width * times; x++) {
				const [u, v] = [left + x, top + y];
				if (u < 0 || v < 0 || u >= width || v >= height) continue;
				words[v * width + u] = texels[Math.floor(y / times) * sheet.width + Math.floor(x / times)] as number;
			}
	});
	return out;
}

/** A small picture of the project: its model from a camera's side, whole in view, or its first sheet. */
export function coverPicture(engine: Engine, from: Camera, width: number, height: number): Picture {
	const { project } = engine;
	const model = project.models[0];
	const scene = model && engine.scene(model.id);
	if (model && scene) {
		const made = new Map<Id, Picture>();
		const small = (id: Id): Picture | null => {
			const sheet = sheetOf(project, id);
			if (!sheet) return null;
			let picture = made.get(id);
			if (!picture) {
				const by = Math.max(1, Math.ceil(Math.max(sheet.width, sheet.height) / 1024));
				const whole = engine.composite(id);
				made.set(
					id,
					(picture = by === 1 ? whole : shrink(whole, Math.ceil(sheet.width / by), Math.ceil(sheet.height / by))),
				);
			}
			return picture;
		};
		const { center, radius } = meshBounds(scene.mesh);
		return renderModel(
			scene.mesh,
			model.parts.map((part) => small(part.sheet)),
			framing(from, center, radius * 0.94, width, height),
			width,
			height,
		);
	}
	const sheet = project.sheets[0] as Sheet;
	if (sheet.pixel) return itemsPicture(engine, width, height);
	const scale = Math.min(width / sheet.width, height / sheet.height, 1);
	return shrink(
		engine.composite(sheet.id),
		Math.max(1, Math.round(sheet.width * scale)),
		Math.max(1, Math.round(sheet.height * scale)),
	);
}
