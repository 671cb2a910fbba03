import { triangleSpans } from '../atlas/index.ts';
import { type Hex, rgbOfHex, tintOf } from '../color/index.ts';
import { islandName, type Sheet } from '../document/index.ts';
import { nextCorner } from '../mesh/index.ts';
import { isEmptyRect, meet, type Path, pathCoverage, pathRect, squaredDistances } from '../raster/index.ts';
import { standsFlat } from '../regions/index.ts';
import type { Scene } from '../scene/index.ts';
import type { Picture } from '../surface/index.ts';
import { textPath } from '../text/index.ts';

/** What of a sheet's islands a template shows. */
export interface TemplateLook {
	/** Lines round the islands, and between their faces. */
	readonly borders: boolean;
	readonly inner: boolean;
	/** What the islands are filled with. */
	readonly fill: 'none' | 'white' | 'tints';
	/** The part's name on each island. */
	readonly names: boolean;
	/** Neutral grey beside the islands, from so many texels of the sheet on; null leaves all beside them clear. */
	readonly outside: number | null;
}

export const usualTemplate: TemplateLook = { borders: true, inner: true, fill: 'white', names: false, outside: null };

/** A piece of the layout, in px of the template. */
export interface TemplateIsland {
	readonly name: string;
	readonly tint: Hex;
	/** Six numbers a face. */
	readonly faces: readonly number[];
	/** Middle, and the height that its name fits in. */
	readonly middle: readonly [number, number];
	readonly letters: number;
}

/** A sheet's islands, drawn at a size. Lines are pairs of places. */
export interface TemplateDrawing {
	readonly width: number;
	readonly height: number;
	/** Px of the template along a texel of the sheet. */
	readonly scale: number;
	readonly islands: readonly TemplateIsland[];
	readonly borders: readonly number[];
	readonly inner: readonly number[];
}

export const TEMPLATE_GREY = '#808080';
export const TEMPLATE_INK = '#26231e';
/** Px that lines are wide on a template of 1024. */
const BORDER = 2;
const INNER = 0.8;
export const lineWidths = ({ width, height }: TemplateDrawing): { readonly border: number; readonly inner: number } => {
	const by = Math.max(1, Math.max(width, height) / 1024);
	return { border: BORDER * by, inner: INNER * by };
};

/** What lies on a sheet, of all models, at a width in px. */
export function templateOf(scenes: readonly Scene[], sheet: Sheet, width: number): TemplateDrawing {
	const scale = width / sheet.width;
	const height = Math.max(1, Math.round(sheet.height * scale));
	const islands: TemplateIsland[] = [];
	const [borders, inner]: [number[], number[]] = [[], []];
	for (const { mesh, topology, model, partOfFace } of scenes) {
		const here = (face: number): boolean => model.parts[partOfFace(face)]?.sheet === sheet.id;
		const place = (corner: number): [number, number] => {
			const v = mesh.indices[corner] as number;
			return [(mesh.uvs[v * 2] as number) * width, (mesh.uvs[v * 2 + 1] as number) * height];
		};
		const byIsland = new Map<number, number[]>();
		topology.islandOfFace.forEach((island, face) => {
			if (!here(face)) return;
			const list = byIsland.get(island) ?? [];
			byIsland.set(island, list);
			list.push(face);
		});
		for (const [island, faces] of byIsland) {
			const places = faces.flatMap((face) => [0, 1, 2].flatMap((k) => place(face * 3 + k)));
			const [xs, ys] = [places.filter((_, i) => i % 2 === 0), places.filter((_, i) => i % 2 === 1)];
			const [x0, x1] = [xs.reduce((a, b) => Math.min(a, b)), xs.reduce((a, b) => Math.max(a, b))];
			const [y0, y1] = [ys.reduce((a, b) => Math.min(a, b)), ys.reduce((a, b) => Math.max(a, b))];
			const name =
				islandName(model.islands, topology.islandOfFace, island) ??
				mesh.parts[partOfFace(faces[0] as number)]?.name ??
				'';
			islands.push({
				name,
				tint: tintOf(island),
				faces: places,
				middle: [(x0 + x1) / 2, (y0 + y1) / 2],
				letters: Math.min((y1 - y0) * 0.4, ((x1 - x0) * 1.3) / Math.max(3, name.length), width / 16),
			});
		}
		for (const [corners, lines] of [
			[topology.borders, borders],
			[standsFlat(mesh) ? [] : topology.inner, inner],
		] as const)
			for (const corner of corners)
				if (here(Math.floor(corner / 3))) lines.push(...place(corner), ...place(nextCorner(corner)));
	}
	return { width, height, scale, islands, borders, inner };
}

/** Lines as a path of narrow quads, all turning the same way. */
function ribbons(lines: readonly number[], wide: number): Path {
	const path: Float64Array[] = [];
	for (let i = 0; i + 3 < lines.length; i += 4) {
		const [x, y, u, v] = lines.slice(i, i + 4) as [number, number, number, number];
		const long = Math.hypot(u - x, v - y);
		if (!long) continue;
		const [dx, dy] = [((u - x) / long) * (wide / 2), ((v - y) / long) * (wide / 2)];
		path.push(
			Float64Array.of(
				x - dx - dy,
				y - dy + dx,
				u + dx - dy,
				v + dy + dx,
				u + dx + dy,
				v + dy - dx,
				x - dx + dy,
				y - dy - dx,
			),
		);
	}
	return path;
}

/** A template as a picture; beside what it shows it is clear. */
export function templatePicture(drawing: TemplateDrawing, look: TemplateLook): Picture {
	const { width, height, islands, scale } = drawing;
	const data = new Uint8Array(width * height * 4);
	const owner = new Uint32Array(width * height);
	islands.forEach(({ faces }, i) => {
		for (let at = 0; at < faces.length; at += 6) {
			const p = faces.slice(at, at + 6) as [number, number, number, number, number, number];
			triangleSpans(...p, width, height, (y, x0, x1) => owner.fill(i + 1, y * width + x0, y * width + x1));
		}
	});
	const put = (i: number, hex: Hex): void => data.set([...rgbOfHex(hex), 255], i * 4);
	if (look.fill !== 'none')
		for (let i = 0; i < owner.length; i++)
			if (owner[i]) put(i, look.fill === 'white' ? '#ffffff' : (islands[(owner[i] as number) - 1]?.tint ?? '#ffffff'));
	if (look.outside !== null) {
		const far = squaredDistances((i) => (owner[i] as number) > 0, width, height);
		const from = (look.outside * scale) ** 2;
		for (let i = 0; i < owner.length; i++) if ((far[i] as number) > from) put(i, TEMPLATE_GREY);
	}
	const [r, g, b] = rgbOfHex(TEMPLATE_INK);
	const ink = (path: Path, strength: number): void => {
		const rect = meet(pathRect(path), { x: 0, y: 0, width, height });
		if (isEmptyRect(rect)) return;
		const cover = pathCoverage(path, rect);
		for (let at = 0; at < cover.length; at++) {
			const a = ((cover[at] as number) / 255) * strength;
			if (!a) continue;
			const i = (rect.y + Math.floor(at / rect.width)) * width + rect.x + (at % rect.width);
			const under = (data[i * 4 + 3] as number) / 255;
			const alpha = a + under * (1 - a);
			[r, g, b].forEach((v, k) => {
				data[i * 4 + k] = Math.round((v * a + (data[i * 4 + k] as number) * under * (1 - a)) / alpha);
			});
			data[i * 4 + 3] = Math.round(alpha * 255);
		}
	};
	const wide = lineWidths(drawing);
	if (look.inner) ink(ribbons(drawing.inner, wide.inner), 0.55);
	if (look.borders) ink(ribbons(drawing.borders, wide.border), 1);
	if (look.names)
		for (const { name, middle, letters } of islands)
			if (letters >= 5)
				ink(
					textPath({
						...{ text: name, font: 'inscription', size: letters, color: TEMPLATE_INK, spacing: 0, leading: 1 },
						...{ align: 'middle', box: null, x: middle[0], y: middle[1], turn: 0, mirrored: false, along: null },
					}),
					1,
				);
	return { width, height, data };
}
