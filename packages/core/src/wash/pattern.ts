import { type Hex, rgbOfHex } from '../color/index.ts';
import { latticeValue, type Rect } from '../raster/index.ts';
import {
	bool,
	degrees,
	finite,
	hex,
	one,
	orNull,
	pictureId,
	real,
	type Shape,
	seed,
	share,
	strict,
	whole,
} from '../shape/index.ts';
import type { PaintPicture } from '../stroke/index.ts';
import { pictureTexel } from '../stroke/index.ts';

/** A picture repeated as it is. Lengths are texels, angles degrees. */
export interface Tiled {
	readonly fill: 'picture';
	readonly picture: string;
	/** Height of one repeat. */
	readonly scale: number;
	readonly turn: number;
	readonly x: number;
	readonly y: number;
	/** Its tone in one colour; null keeps its own colours. */
	readonly tint: Hex | null;
}

/** A picture set evenly over a box, whole ones only: as many across as are asked for, and as many down as fit. */
export interface Spaced {
	readonly fill: 'pattern';
	readonly picture: string;
	readonly box: Rect;
	readonly across: number;
	/** Free space beside each, in shares of its place. */
	readonly gap: number;
	/** Every other row is moved by half a place. */
	readonly staggered: boolean;
	readonly turn: number;
	/** Chance, 0..1 each. */
	readonly jitterTurn: number;
	readonly jitterSize: number;
	readonly seed: number;
	readonly tint: Hex | null;
}

/**
 * A pattern whose box's middle has come to lie elsewhere, turned (degrees, clockwise) and sized. Boxes lie straight: they
 * turn by whole quarters, and the pictures with them.
 */
export function spacedMoved(
	fill: Spaced,
	to: { readonly x: number; readonly y: number; readonly turn: number; readonly scale: number },
): Spaced {
	const { box } = fill;
	const quarters = Math.round(to.turn / 90);
	const lies = quarters % 2 !== 0;
	const side = (length: number): number => Math.max(1, Math.min(8192, length * to.scale));
	const [width, height] = [side(lies ? box.height : box.width), side(lies ? box.width : box.height)];
	const turn = fill.turn + quarters * 90;
	return {
		...fill,
		box: { x: to.x - width / 2, y: to.y - height / 2, width, height },
		// Lying on its side it takes as many across as keep the size of their places.
		across: lies ? Math.max(1, Math.min(400, Math.round((fill.across * box.height) / box.width))) : fill.across,
		turn: ((((turn + 180) % 360) + 360) % 360) - 180,
	};
}

export const tiledShape: Shape = strict({
	fill: one('picture'),
	picture: pictureId,
	scale: real(1, 8192),
	turn: degrees,
	x: finite,
	y: finite,
	tint: orNull(hex),
});

export const spacedShape: Shape = strict({
	fill: one('pattern'),
	picture: pictureId,
	box: strict({ x: finite, y: finite, width: real(1, 8192), height: real(1, 8192) }),
	across: whole(1, 400),
	gap: real(0, 0.95),
	staggered: bool,
	turn: degrees,
	jitterTurn: share,
	jitterSize: share,
	seed,
	tint: orNull(hex),
});

type Texel = [number, number, number, number];

/** What a picture shows at u, v: red, green, blue, alpha 0..255; `per` is how much of it a texel takes, 0..1 of its height. */
function texelOf(
	picture: PaintPicture,
	u: number,
	v: number,
	per: number,
	tint: readonly number[] | null,
	repeats: boolean,
	out: Texel,
): void {
	const { rgba, tone } = pictureTexel(picture, u, v, per * picture.height, repeats);
	if (tint) {
		for (let k = 0; k < 3; k++) out[k] = tint[k] as number;
		out[3] = tone;
	} else for (let k = 0; k < 4; k++) out[k] = rgba[k] as number;
}

/** A repeated picture's texels in a rectangle: RGBA8. */
export function tiledBlock(fill: Tiled, picture: PaintPicture, rect: Rect): Uint8Array {
	const out = new Uint8Array(rect.width * rect.height * 4);
	const tint = fill.tint ? rgbOfHex(fill.tint) : null;
	const angle = (fill.turn * Math.PI) / 180;
	const [c, s] = [Math.cos(angle), Math.sin(angle)];
	const wide = (fill.scale * picture.width) / picture.height;
	const texel: Texel = [0, 0, 0, 0];
	for (let i = 0; i < rect.width * rect.height; i++) {
		const x = rect.x + (i % rect.width) + 0.5 - fill.x;
		const y = rect.y + Math.floor(i / rect.width) + 0.5 - fill.y;
		texelOf(picture, (x * c + y * s) / wide, (-x * s + y * c) / fill.scale, 1 / fill.scale, tint, true, texel);
		out.set(texel, i * 4);
	}
	return out;
}

/** Columns, rows and the side of each place: as many rows as fit the box with places as wide as tall as the picture is. */
export function gridOf(
	{ box, across }: Spaced,
	picture: PaintPicture,
): { readonly columns: number; readonly rows: number; readonly w: number; readonly h: number } {
	const columns = Math.max(1, Math.round(across));
	const w = box.width / columns;
	const rows = Math.max(1, Math.round(box.height / ((w * picture.height) / picture.width)));
	return { columns, rows, w, h: box.height / rows };
}

/** An evenly set pattern's texels in a rectangle: RGBA8. */
export function spacedBlock(fill: Spaced, picture: PaintPicture, rect: Rect): Uint8Array {
	const out = new Uint8Array(rect.width * rect.height * 4);
	const tint = fill.tint ? rgbOfHex(fill.tint) : null;
	const { columns, rows, w, h } = gridOf(fill, picture);
	const texel: Texel = [0, 0, 0, 0];
	const fit = Math.max(0.05, 1 - fill.gap);
	for (let i = 0; i < rect.width * rect.height; i++) {
		const x = rect.x + (i % rect.width) + 0.5 - fill.box.x;
		const y = rect.y + Math.floor(i / rect.width) + 0.5 - fill.box.y;
		const row = Math.floor(y / h);
		if (row < 0 || row >= rows) continue;
		const moved = fill.staggered && row % 2 === 1 ? 0.5 : 0;
		const column = Math.floor(x / w - moved);
		// A moved row has one place less: half ones at both ends are left out.
		if (column < 0 || column >= columns - (moved ? 1 : 0)) continue;
		const chance = (channel: number): number => latticeValue(column, row, channel, fill.seed) - 0.5;
		const angle = ((fill.turn + 360 * fill.jitterTurn * chance(0)) * Math.PI) / 180;
		const size = fit * (1 + fill.jitterSize * (chance(1) - 0.5) * 0.8);
		const px = (x - (column + 0.5 + moved) * w) / size;
		const py = (y - (row + 0.5) * h) / size;
		const [c, s] = [Math.cos(angle), Math.sin(angle)];
		const u = (px * c + py * s) / w + 0.5;
		const v = (-px * s + py * c) / h + 0.5;
		if (u < 0 || v < 0 || u >= 1 || v >= 1) continue;
		texelOf(picture, u, v, 1 / (h * size), tint, false, texel);
		out.set(texel, i * 4);
	}
	return out;
}
