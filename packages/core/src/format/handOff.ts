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

/** A file name from a pattern with {project}, {sheet} and {size}; what a file system may refuse becomes a hyphen. */
export function fileName(pattern: string, project: string, sheet: Sheet, width: number): string {
	const safe = (text: string): string =>
		text
			.replace(/[^\p{L}\p{N}_-]+/gu, '-')
			.replace(/^-+|-+$/g, '')
			.toLowerCase() || 'sheet';
	return `${pattern.replace('{project}', safe(project)).replace('{sheet}', safe(sheet.name)).replace('{size}', String(width))}.png`;
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
	const scale = Math.min(width / sheet.width, height / sheet.height, 1);
	return shrink(
		engine.composite(sheet.id),
		Math.max(1, Math.round(sheet.width * scale)),
		Math.max(1, Math.round(sheet.height * scale)),
	);
}
