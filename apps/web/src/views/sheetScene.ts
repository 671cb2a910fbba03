import { type Guard, guardLets, type Sheet, type SheetPlace } from '@eppu/core/document';
import { nextCorner } from '@eppu/core/mesh';
import { TILE } from '@eppu/core/surface';
import type { SheetPicture } from '../studio/pictures.ts';
import type { Pixeling } from '../studio/slices/habits.ts';
import type { Shading } from '../studio/slices/screen.ts';
import type { ShownModel } from '../studio/told.ts';

/** The template of a sheet: edges of its islands, and the edges within them, in texels. */
export interface Template {
	readonly borders: Path2D;
	readonly inner: Path2D;
	/** Mean length of the edges within, in texels. */
	readonly fineness: number;
}

/** Px: edges closer than this would be a veil over the paint, and slow to draw. */
const LEAST_APART = 6;

export function templateOf(sheet: Sheet, models: readonly ShownModel[]): Template {
	const [borders, inner] = [new Path2D(), new Path2D()];
	let [count, length] = [0, 0];
	for (const model of models) {
		const { parts, indices, uvs, partOfFace } = model;
		const here = parts.map((part) => part.sheet === sheet.id);
		const draw = (path: Path2D, corner: number): number => {
			const face = Math.floor(corner / 3);
			if (!here[partOfFace[face] as number]) return 0;
			const [a, b] = [indices[corner] as number, indices[nextCorner(corner)] as number];
			const [x, y] = [(uvs[a * 2] as number) * sheet.width, (uvs[a * 2 + 1] as number) * sheet.height];
			const [u, v] = [(uvs[b * 2] as number) * sheet.width, (uvs[b * 2 + 1] as number) * sheet.height];
			path.moveTo(x, y);
			path.lineTo(u, v);
			return Math.hypot(u - x, v - y);
		};
		for (const corner of model.borders) draw(borders, corner);
		for (const corner of model.inner) {
			const long = draw(inner, corner);
			if (long > 0) [count, length] = [count + 1, length + long];
		}
	}
	return { borders, inner, fineness: count ? length / count : 0 };
}

/** Adds a face as it lies on a sheet, in texels. */
function addFace(path: Path2D, sheet: Sheet, { indices, uvs }: ShownModel, face: number): void {
	for (let k = 0; k < 3; k++) {
		const v = indices[face * 3 + k] as number;
		const [x, y] = [(uvs[v * 2] as number) * sheet.width, (uvs[v * 2 + 1] as number) * sheet.height];
		if (k === 0) path.moveTo(x, y);
		else path.lineTo(x, y);
	}
	path.closePath();
}

/** The faces of a sheet that a guard keeps paint off. */
export function dimmedOf(sheet: Sheet, models: readonly ShownModel[], guard: Guard): Path2D {
	const path = new Path2D();
	for (const model of models)
		for (const part of model.parts) {
			if (part.sheet !== sheet.id) continue;
			for (let face = part.firstFace; face < part.firstFace + part.faces; face++) {
				if (guardLets(guard, face, model.partOfFace[face] as number, model.islandOfFace[face] as number)) continue;
				addFace(path, sheet, model, face);
			}
		}
	return path;
}

/** Faces of one colour on a sheet, and how they are laid over it. */
export interface ShadedFaces {
	readonly path: Path2D;
	readonly color: string;
	readonly opacity: number;
}

/** The colours of faces on a sheet, and over them the faces that are pointed out. */
export function shadedOf(
	sheet: Sheet,
	models: readonly ShownModel[],
	{ model: id, colors, lit }: Shading,
): ShadedFaces[] {
	const model = models.find((each) => each.id === id);
	if (!model) return [];
	const { indices, parts, partOfFace } = model;
	const draw = (path: Path2D, face: number): void => {
		if (parts[partOfFace[face] as number]?.sheet === sheet.id) addFace(path, sheet, model, face);
	};
	const paths = new Map<string, Path2D>();
	for (let face = 0; colors && face < indices.length / 3; face++) {
		const color = `rgb(${colors.subarray(face * 3, face * 3 + 3).join(' ')})`;
		let path = paths.get(color);
		if (!path) paths.set(color, (path = new Path2D()));
		draw(path, face);
	}
	const pointed = new Path2D();
	for (const face of lit ?? []) draw(pointed, face);
	return [
		...[...paths].map(([color, path]) => ({ path, color, opacity: 0.8 })),
		{ path: pointed, color: '#e9a23b', opacity: 0.75 },
	];
}

/** Edges of a model on a sheet, each by a corner that it begins at. */
export function edgesOn(sheet: Sheet, models: readonly ShownModel[], id: string, corners: Uint32Array | null): Path2D {
	const path = new Path2D();
	const model = models.find((each) => each.id === id);
	for (const corner of (model && corners) || []) {
		const { indices, uvs, parts, partOfFace } = model as ShownModel;
		if (parts[partOfFace[Math.floor(corner / 3)] as number]?.sheet !== sheet.id) continue;
		const [a, b] = [indices[corner] as number, indices[nextCorner(corner)] as number];
		path.moveTo((uvs[a * 2] as number) * sheet.width, (uvs[a * 2 + 1] as number) * sheet.height);
		path.lineTo((uvs[b * 2] as number) * sheet.width, (uvs[b * 2 + 1] as number) * sheet.height);
	}
	return path;
}

export interface SheetLook {
	readonly place: SheetPlace;
	/** Css px, and device px per css px. */
	readonly width: number;
	readonly height: number;
	readonly ratio: number;
	readonly template: Template | null;
	/** Faces that a guard keeps paint off, in texels. */
	readonly dimmed: Path2D | null;
	/** Colours of faces, in texels. */
	readonly shaded: readonly ShadedFaces[] | null;
	/** In the place of the paint. */
	readonly checker: HTMLCanvasElement | null;
	/** Edges that are marked to be cut, in texels. */
	readonly marked: Path2D | null;
	/** The cut that is pointed at. */
	readonly cut: Path2D | null;
	readonly guide: CanvasImageSource | null;
	/** How a pixel sheet is looked at; null for others. */
	readonly texels: Pick<Pixeling, 'grid' | 'guides' | 'repeat'> | null;
	readonly surround: string;
}

/** Texel rectangle [x0, y0, x1, y1]. */
export type TexelBox = readonly [number, number, number, number];

/** The box around the tiles of a patch. */
export function boxOfTiles(tiles: Uint32Array, width: number): TexelBox {
	const cols = Math.ceil(width / TILE);
	let [x0, y0, x1, y1] = [Infinity, Infinity, -Infinity, -Infinity];
	for (const tile of tiles) {
		const [x, y] = [(tile % cols) * TILE, Math.floor(tile / cols) * TILE];
		[x0, y0, x1, y1] = [Math.min(x0, x), Math.min(y0, y), Math.max(x1, x + TILE), Math.max(y1, y + TILE)];
	}
	return [x0, y0, x1, y1];
}

let checker: CanvasPattern | null = null;
function checkerOf(context: CanvasRenderingContext2D): CanvasPattern | null {
	if (checker) return checker;
	const tile = Object.assign(document.createElement('canvas'), { width: 16, height: 16 });
	const c = tile.getContext('2d');
	if (!c) return null;
	c.fillStyle = '#8b8b8b';
	c.fillRect(0, 0, 16, 16);
	c.fillStyle = '#7f7f7f';
	c.fillRect(0, 0, 8, 8);
	c.fillRect(8, 8, 8, 8);
	checker = context.createPattern(tile, 'repeat');
	return checker;
}

/** Draws the sheet, or only what lies within `part` of it. */
export function drawSheet(
	context: CanvasRenderingContext2D,
	picture: SheetPicture,
	look: SheetLook,
	part?: TexelBox,
): void {
	const { place, width, height, ratio } = look;
	const [left, top] = [width / 2 - place.x * place.zoom, height / 2 - place.y * place.zoom];
	context.setTransform(ratio, 0, 0, ratio, 0, 0);
	context.save();
	if (part) {
		// To whole px of the screen: at a border between them the surround would show through.
		const margin = 2 + place.zoom;
		const low = (from: number, texel: number): number =>
			Math.floor((from + texel * place.zoom - margin) * ratio) / ratio;
		const high = (from: number, texel: number): number =>
			Math.ceil((from + texel * place.zoom + margin) * ratio) / ratio;
		const [x, y] = [low(left, part[0]), low(top, part[1])];
		context.beginPath();
		context.rect(x, y, high(left, part[2]) - x, high(top, part[3]) - y);
		context.clip();
	}
	context.fillStyle = look.surround;
	context.fillRect(0, 0, width, height);
	const [w, h] = [picture.width * place.zoom, picture.height * place.zoom];
	context.fillStyle = checkerOf(context) ?? '#808080';
	context.fillRect(left, top, w, h);
	// Close up each texel is a clean square; far away neighbours are averaged.
	context.imageSmoothingEnabled = place.zoom < 1.5 && !look.texels;
	context.imageSmoothingQuality = place.zoom < 0.6 ? 'medium' : 'low';
	context.drawImage(look.checker ?? picture.canvas, left, top, w, h);
	if (look.texels?.repeat) drawAround(context, picture, left, top, w, h);
	if (look.guide) {
		context.globalAlpha = 0.55;
		context.drawImage(look.guide, left, top, w, h);
		context.globalAlpha = 1;
	}
	context.translate(left, top);
	context.scale(place.zoom, place.zoom);
	for (const { path, color, opacity } of look.shaded ?? []) {
		context.globalAlpha = opacity;
		context.fillStyle = color;
		context.fill(path);
	}
	context.globalAlpha = 1;
	if (look.dimmed) {
		context.fillStyle = 'rgb(70 70 70 / 0.72)';
		context.fill(look.dimmed);
	}
	if (look.template) {
		// A dark and a light line together stand out from any paint.
		const line = (path: Path2D, color: string, wide: number): void => {
			context.strokeStyle = color;
			context.lineWidth = wide / place.zoom;
			context.stroke(path);
		};
		if (look.template.fineness * place.zoom >= LEAST_APART) {
			line(look.template.inner, 'rgb(0 0 0 / 0.22)', 1.8);
			line(look.template.inner, 'rgb(255 255 255 / 0.3)', 0.7);
		}
		line(look.template.borders, 'rgb(20 18 15 / 0.6)', 2.8);
		line(look.template.borders, 'rgb(255 255 255 / 0.9)', 1.1);
	}
	if (look.cut) {
		context.strokeStyle = '#e9a23b';
		context.lineWidth = 5 / place.zoom;
		context.lineCap = 'round';
		context.stroke(look.cut);
	}
	if (look.marked) {
		context.strokeStyle = '#a92c45';
		context.lineWidth = 2.6 / place.zoom;
		context.stroke(look.marked);
	}
	if (look.texels) drawGrid(context, picture, look.texels, place.zoom);
	context.restore();
}

/** The picture set beside itself on all sides, paler: how it joins is seen. */
function drawAround(
	context: CanvasRenderingContext2D,
	picture: SheetPicture,
	left: number,
	top: number,
	w: number,
	h: number,
): void {
	context.globalAlpha = 0.6;
	for (const dy of [-1, 0, 1])
		for (const dx of [-1, 0, 1]) if (dx || dy) context.drawImage(picture.canvas, left + dx * w, top + dy * h, w, h);
	context.globalAlpha = 1;
}

/** Px of a texel from which on its borders are drawn. */
const GRID_FROM = 6;

/** Borders of texels, and of halves or quarters of the sheet; the context stands in texels. */
function drawGrid(
	context: CanvasRenderingContext2D,
	{ width, height }: SheetPicture,
	{ grid, guides }: Pick<Pixeling, 'grid' | 'guides'>,
	zoom: number,
): void {
	const lines = (stepX: number, stepY: number): Path2D => {
		const path = new Path2D();
		for (let x = stepX; x < width; x += stepX) {
			path.moveTo(x, 0);
			path.lineTo(x, height);
		}
		for (let y = stepY; y < height; y += stepY) {
			path.moveTo(0, y);
			path.lineTo(width, y);
		}
		return path;
	};
	// A dark and a light line together stand out from any paint.
	const draw = (path: Path2D, dark: string, light: string, wide: number): void => {
		context.strokeStyle = dark;
		context.lineWidth = (wide + 1) / zoom;
		context.stroke(path);
		context.strokeStyle = light;
		context.lineWidth = wide / 2 / zoom;
		context.stroke(path);
	};
	if (grid && zoom >= GRID_FROM) draw(lines(1, 1), 'rgb(0 0 0 / 0.16)', 'rgb(255 255 255 / 0.22)', 1);
	if (guides === 'none') return;
	const parts = guides === 'halves' ? 2 : 4;
	draw(lines(width / parts, height / parts), 'rgb(20 18 15 / 0.7)', 'rgb(255 255 255 / 0.9)', 1.6);
}
