import type { PngWriter } from '@eppu/kernels';
import { type Hex, hexOfRgb, type Palette, type Ramp, rgbOfHex } from '../color/index.ts';
import type { Picture } from '../surface/index.ts';
import { encodePng } from './png.ts';

/** Colours of a palette at the most. */
const MOST_COLORS = 512;

export type PaletteResult =
	| { readonly ok: true; readonly palette: Palette }
	| { readonly ok: false; readonly text: string };

const made = (name: string, colors: readonly Hex[], file: string): PaletteResult => {
	if (colors.length === 0) return { ok: false, text: `${file} holds no colours that Eppu reads.` };
	if (colors.length > MOST_COLORS)
		return { ok: false, text: `${file} holds ${colors.length} colours; a palette takes up to ${MOST_COLORS}.` };
	return { ok: true, palette: { name: (name.trim() || 'Palette').slice(0, 120), colors } };
};

/** Short and long hex, with or without #, alpha left out; null where it is none. */
function readHex(text: string): Hex | null {
	const found = /^#?([0-9a-f]{3}|[0-9a-f]{6}|[0-9a-f]{8})$/i.exec(text.trim());
	if (!found) return null;
	const digits = (found[1] as string).toLowerCase();
	return `#${digits.length === 3 ? [...digits].map((d) => d + d).join('') : digits.slice(0, 6)}`;
}

/** Where ramps stand in a group's extensions. */
const RAMPS = 'eppu.ramps';

/**
 * A palette as design tokens (Design Tokens Community Group format): one group, a colour token a place; its ramps stand in
 * the group's extensions, which other programs keep as they are.
 */
export function paletteTokens({ name, colors, ramps }: Palette): string {
	const group: Record<string, unknown> = {
		$type: 'color',
		...(ramps?.length ? { $extensions: { [RAMPS]: ramps } } : {}),
	};
	colors.forEach((hex, i) => {
		group[String(i + 1).padStart(3, '0')] = {
			$value: {
				colorSpace: 'srgb',
				components: rgbOfHex(hex).map((v) => Math.round((v / 255) * 1e5) / 1e5),
				hex,
			},
		};
	});
	return `${JSON.stringify({ [name]: group }, null, 2)}\n`;
}

/** Ramps as a file says them: those that are well formed. */
function rampsOf(value: unknown): readonly Ramp[] {
	if (!Array.isArray(value)) return [];
	return value.slice(0, 64).flatMap((each: unknown): Ramp[] => {
		const { name, colors } = (typeof each === 'object' && each !== null ? each : {}) as Partial<
			Record<string, unknown>
		>;
		if (typeof name !== 'string' || !name.trim() || !Array.isArray(colors)) return [];
		const read = colors.slice(0, 64).map((hex: unknown) => (typeof hex === 'string' ? readHex(hex) : null));
		return read.length && read.every((hex) => hex !== null)
			? [{ name: name.trim().slice(0, 120), colors: read as Hex[] }]
			: [];
	});
}

/** A palette from design tokens: every colour token in order, its value an object of sRGB components or a hex text. */
export function paletteOfTokens(text: string, file: string): PaletteResult {
	let tree: unknown;
	try {
		tree = JSON.parse(text);
	} catch {
		return { ok: false, text: `${file} is not JSON. Export the tokens again.` };
	}
	const colors: Hex[] = [];
	let name = '';
	let ramps: readonly Ramp[] = [];
	const walk = (node: unknown, type: unknown, depth: number): void => {
		if (typeof node !== 'object' || node === null || depth > 20) return;
		const { $value, $type, $extensions } = node as {
			$value?: unknown;
			$type?: unknown;
			$extensions?: Record<string, unknown>;
		};
		if (!ramps.length) ramps = rampsOf($extensions?.[RAMPS]);
		const now = $type ?? type;
		if ($value !== undefined) {
			if (now !== 'color') return;
			const { hex, colorSpace, components } = (typeof $value === 'object' && $value !== null ? $value : {}) as {
				hex?: unknown;
				colorSpace?: unknown;
				components?: unknown;
			};
			const given = typeof $value === 'string' ? readHex($value) : typeof hex === 'string' ? readHex(hex) : null;
			if (given) colors.push(given);
			else if (
				colorSpace === 'srgb' &&
				Array.isArray(components) &&
				components.length >= 3 &&
				components.every(Number.isFinite)
			)
				colors.push(hexOfRgb(components.slice(0, 3).map((v: number) => v * 255)));
			return;
		}
		for (const [child, value] of Object.entries(node))
			if (!child.startsWith('$')) {
				if (depth === 0 && !name) name = child;
				walk(value, now, depth + 1);
			}
	};
	walk(tree, undefined, 0);
	const result = made(name, colors, file);
	return result.ok && ramps.length ? { ok: true, palette: { ...result.palette, ramps } } : result;
}

/** A palette as lines of hex colours. */
export const hexList = ({ name, colors }: Palette): string => `; ${name}\n${colors.join('\n')}\n`;

/** A palette from any text with hex colours, one or several a line; lines that begin with ; or // are left out. */
export function paletteOfHexList(text: string, file: string): PaletteResult {
	const colors: Hex[] = [];
	for (const line of text.split(/\r?\n/)) {
		if (/^\s*(;|\/\/)/.test(line)) continue;
		for (const word of line.split(/[\s,]+/)) {
			const hex = readHex(word);
			if (hex) colors.push(hex);
		}
	}
	return made(file.replace(/\.[^.]+$/, ''), colors, file);
}

/** A palette as a strip of squares, `side` px each, in one row. */
export function palettePicture({ colors }: Palette, side = 16): Picture {
	const width = colors.length * side;
	const data = new Uint8Array(width * side * 4);
	const row = new Uint8Array(width * 4);
	colors.forEach((hex, i) => {
		for (let x = 0; x < side; x++) row.set([...rgbOfHex(hex), 255], (i * side + x) * 4);
	});
	for (let y = 0; y < side; y++) data.set(row, y * width * 4);
	return { width, height: side, data };
}

/** A palette from a picture: each colour once, in the order of its rows; clear texels are left out. */
export function paletteOfPicture({ data }: Picture, file: string): PaletteResult {
	const colors = new Set<Hex>();
	for (let i = 0; i < data.length && colors.size <= MOST_COLORS; i += 4)
		if ((data[i + 3] as number) > 127) colors.add(hexOfRgb([...data.subarray(i, i + 3)]));
	return made(file.replace(/\.[^.]+$/, ''), [...colors], file);
}

/** What palettes are written as: design tokens with its ramps, a list of hex colours, or a strip that any program can sample. */
export const paletteKinds = ['json', 'txt', 'png'] as const;
export type PaletteKind = (typeof paletteKinds)[number];

/** A palette as a file. */
export function paletteBytes(palette: Palette, as: PaletteKind, write: PngWriter): Uint8Array<ArrayBuffer> {
	if (as === 'png') return encodePng(write, palettePicture(palette));
	return new TextEncoder().encode(as === 'json' ? paletteTokens(palette) : hexList(palette));
}

/** The name of its file. */
export const paletteName = ({ name }: Palette, as: PaletteKind): string =>
	`${name.toLowerCase().replace(/[^a-z0-9]+/g, '-') || 'palette'}.${as}`;
