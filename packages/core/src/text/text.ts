import type { Hex } from '../color/index.ts';
import { type Affine, mappedPath, type Path } from '../raster/index.ts';
import {
	among,
	bool,
	degrees,
	finite,
	hex,
	list,
	orNull,
	real,
	type Shape,
	strict,
	texels,
	words,
} from '../shape/index.ts';
import { EM, fontOf } from './font.ts';
import { type FontName, fontNames } from './names.ts';

/** Lettering that stays editable. Lengths are texels, angles degrees clockwise on the sheet. */
export interface Text {
	readonly text: string;
	readonly font: FontName;
	/** Height of an em. */
	readonly size: number;
	readonly color: Hex;
	/** Between letters, in shares of an em; and from line to line, in ems. */
	readonly spacing: number;
	readonly leading: number;
	readonly align: 'left' | 'middle' | 'right';
	/** Lines break to fit this width; null breaks only where the text does. */
	readonly box: number | null;
	/** The middle of the text on the sheet. */
	readonly x: number;
	readonly y: number;
	readonly turn: number;
	/** Set as in a mirror, so that it reads right where the island is mirrored. */
	readonly mirrored: boolean;
	/** The first line runs along these places (x, y, x, y …) instead of straight. */
	readonly along: readonly number[] | null;
}

export const textShape: Shape = strict({
	text: words(0, 2000),
	font: among(fontNames.map(({ name }) => name)),
	size: real(1, 4096),
	color: hex,
	spacing: real(-0.5, 4),
	leading: real(0.2, 6),
	align: among(['left', 'middle', 'right']),
	box: orNull(texels),
	x: finite,
	y: finite,
	turn: degrees,
	mirrored: bool,
	along: orNull(list(finite, 4000)),
});

interface Placed {
	readonly letter: string;
	/** Units of the font. */
	readonly x: number;
}
interface Line {
	readonly letters: readonly Placed[];
	readonly width: number;
}

function lineOf(text: string, { font, spacing }: Text): Line {
	const face = fontOf(font);
	const letters: Placed[] = [];
	let x = 0;
	let before = '';
	for (const letter of text) {
		x += face.kern(before + letter);
		letters.push({ letter, x });
		x += face.glyph(letter).advance + spacing * EM;
		before = letter;
	}
	return { letters, width: Math.max(0, x - (letters.length ? spacing * EM : 0)) };
}

/** Lines as they fit a width: words move on, and a word longer than the width stands alone. */
function linesOf(text: Text): Line[] {
	const { box, size } = text;
	const most = box === null ? Infinity : (box / size) * EM;
	return text.text.split('\n').flatMap((paragraph) => {
		const lines: Line[] = [];
		let held = '';
		for (const word of paragraph.split(' ')) {
			const longer = held ? `${held} ${word}` : word;
			if (held && lineOf(longer, text).width > most) {
				lines.push(lineOf(held, text));
				held = word;
			} else held = longer;
		}
		return [...lines, lineOf(held, text)];
	});
}

/** Place and direction at a length along a line of places; beyond its ends it goes straight on. */
function alongLine(places: readonly number[], length: number): readonly [number, number, number, number] {
	let left = length;
	for (let i = 0; i + 3 < places.length; i += 2) {
		const [ax, ay, bx, by] = places.slice(i, i + 4) as [number, number, number, number];
		const long = Math.hypot(bx - ax, by - ay);
		if (long === 0) continue;
		const last = i + 5 >= places.length;
		if (left <= long || last) {
			const [dx, dy] = [(bx - ax) / long, (by - ay) / long];
			return [ax + dx * left, ay + dy * left, dx, dy];
		}
		left -= long;
	}
	return [places[0] ?? 0, places[1] ?? 0, 1, 0];
}

const lengthOf = (places: readonly number[]): number => {
	let sum = 0;
	for (let i = 0; i + 3 < places.length; i += 2)
		sum += Math.hypot(
			(places[i + 2] as number) - (places[i] as number),
			(places[i + 3] as number) - (places[i + 1] as number),
		);
	return sum;
};

/** The letters of a text as closed lines in texels. */
export function textPath(text: Text): Path {
	const face = fontOf(text.font);
	const k = text.size / EM;
	const flip = text.mirrored ? -1 : 1;
	const out: Float64Array[] = [];
	const set = (letter: string, map: Affine): void => {
		out.push(
			...mappedPath(
				face.glyph(letter).lines.map((line) => Float64Array.from(line)),
				map,
			),
		);
	};
	const lines = text.along ? [lineOf(text.text.replace(/\s+/g, ' '), text)] : linesOf(text);
	const wide = Math.max(0, ...lines.map((line) => line.width));
	const shift = (width: number, room: number): number =>
		text.align === 'left' ? 0 : text.align === 'right' ? room - width : (room - width) / 2;
	if (text.along && text.along.length >= 4) {
		const [line] = lines as [Line];
		const start = shift(line.width * k, lengthOf(text.along));
		// Letters stand with their middle height on the line.
		const drop = (face.ascent - face.descent) / 2;
		for (const { letter, x } of line.letters) {
			const half = face.glyph(letter).advance / 2;
			const at = start + (x + half) * k;
			const [px, py, dx, dy] = alongLine(text.along, text.mirrored ? lengthOf(text.along) - at : at);
			// A mirrored line is walked backwards, and its letters are turned over.
			set(letter, [
				k * dx * flip,
				-k * dy,
				px - k * (half * dx * flip - drop * -dy),
				k * dy * flip,
				k * dx,
				py - k * (half * dy * flip - drop * dx),
			]);
		}
		return out;
	}
	const angle = (text.turn * Math.PI) / 180;
	const [c, s] = [Math.cos(angle), Math.sin(angle)];
	const step = text.leading * EM;
	const tall = face.ascent + face.descent + step * (lines.length - 1);
	lines.forEach((line, n) => {
		for (const { letter, x } of line.letters) {
			const ox = x + shift(line.width, wide) - wide / 2;
			const oy = face.ascent + step * n - tall / 2;
			const [a, b, d, e] = [k * c * flip, -k * s, k * s * flip, k * c];
			set(letter, [a, b, a * ox + b * oy + text.x, d, e, d * ox + e * oy + text.y]);
		}
	});
	return out;
}
