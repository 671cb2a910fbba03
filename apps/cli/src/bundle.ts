import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import { basename } from 'node:path';
import type { Palette } from '@eppu/core/color';
import {
	type Bundle,
	encodePng,
	paletteOfHexList,
	paletteOfPicture,
	paletteOfTokens,
	readBundle,
} from '@eppu/core/format';
import {
	colorMapping,
	colorsOfTexels,
	hexOfPacked,
	pathHas,
	recoloredBy,
	recoloredTexels,
	recolorsFor,
} from '@eppu/core/pixel';
import type { Picture } from '@eppu/core/surface';
import { loadPngReader, loadPngWriter } from '@eppu/kernels/node';
import type { PngReader } from '@eppu/kernels/png';
import { CliError, withKept } from './commands.ts';

export interface BundleOptions {
	/** A project's name or id. */
	readonly project: string;
	readonly out: string;
	readonly data?: string | undefined;
}

/** What was written of a bundle. */
export interface BundleWritten {
	/** Paths of the textures that differ from the bundle as it was. */
	readonly changed: readonly string[];
	readonly files: number;
}

function opened(bytes: Uint8Array, name: string): Bundle {
	const read = readBundle(bytes, name);
	if (!read.ok) throw new CliError(read.text);
	return read.bundle;
}

const same = (a: Picture, b: Picture): boolean =>
	a.width === b.width && a.height === b.height && a.data.every((v, i) => v === b.data[i]);

/** A texture of a bundle; null where it cannot be read. */
function texture(bundle: Bundle, file: number, read: PngReader): Picture | null {
	const bytes = bundle.content(file);
	if (typeof bytes === 'string') return null;
	try {
		return read(bytes);
	} catch {
		return null;
	}
}

/** Writes the bundle of a kept project with the textures that were changed in it; all else is as it was. */
export async function writeProjectBundle({ project, out, data }: BundleOptions): Promise<BundleWritten> {
	const [read, write] = [await loadPngReader(), await loadPngWriter()];
	return withKept(project, data, async (engine, file) => {
		const asset = engine.project.bundle;
		if (!asset) throw new CliError(`"${engine.project.name}" has no bundle: its textures go out with "export".`);
		const bundle = opened(file(asset.hash), asset.name);
		const changes = new Map<number, Uint8Array>();
		const open = new Set<number>();
		for (const sheet of engine.project.sheets) {
			const at = bundle.files.findIndex(({ path, problem }) => path === sheet.path && problem === null);
			if (at < 0) continue;
			const now = engine.composite(sheet.id);
			const was = texture(bundle, at, read);
			open.add(at);
			if (!was || !same(was, now)) changes.set(at, encodePng(write, now));
		}
		const recolors = engine.project.recolors ?? [];
		bundle.files.forEach(({ path, kind }, at) => {
			const own = recolorsFor(path, recolors);
			const was = kind === 'texture' && !open.has(at) && own.length ? texture(bundle, at, read) : null;
			const now = was && recoloredBy(was, own);
			if (now !== was && now) changes.set(at, encodePng(write, now));
		});
		writeFileSync(out, bundle.written(changes));
		return {
			changed: [...changes.keys()].map((at) => bundle.files[at]?.path as string),
			files: bundle.files.length,
		};
	});
}

export interface RecolorOptions {
	/** A bundle: a ZIP of PNG textures. */
	readonly bundle: string;
	/** Design tokens, a list of hex colours, or a PNG strip. */
	readonly palette: string;
	readonly out: string;
	/** 'near' or 'light'. */
	readonly way?: string | undefined;
	/** Only textures whose path has these words in it. */
	readonly only?: string | undefined;
}

async function paletteOf(file: string, read: PngReader): Promise<Palette> {
	if (!existsSync(file)) throw new CliError(`There is no file ${file}.`);
	const name = basename(file);
	const bytes = readFileSync(file);
	const result = /\.json$/i.test(name)
		? paletteOfTokens(bytes.toString('utf8'), name)
		: /\.png$/i.test(name)
			? paletteOfPicture(read(bytes), name)
			: paletteOfHexList(bytes.toString('utf8'), name);
	if (!result.ok) throw new CliError(result.text);
	return result.palette;
}

/** Brings the textures of a bundle onto a palette: each colour to the nearest, or by lightness; alpha stays. */
export async function recolorBundle({
	bundle: from,
	palette: named,
	out,
	way = 'near',
	only,
}: RecolorOptions): Promise<BundleWritten> {
	if (way !== 'near' && way !== 'light') throw new CliError(`--way takes near or light; not "${way}".`);
	if (!existsSync(from)) throw new CliError(`There is no file ${from}.`);
	const [read, write] = [await loadPngReader(), await loadPngWriter()];
	const { colors } = await paletteOf(named, read);
	const bundle = opened(readFileSync(from), basename(from));
	const changes = new Map<number, Uint8Array>();
	bundle.files.forEach(({ path, kind }, at) => {
		const was = kind === 'texture' && pathHas(path, only ?? '') ? texture(bundle, at, read) : null;
		if (!was) return;
		const used = colorsOfTexels(was.data).colors.map(([color]) => hexOfPacked(color));
		const pairs = colorMapping(used, colors, way);
		const data = recoloredTexels(was.data, pairs);
		if (data !== was.data) changes.set(at, encodePng(write, { ...was, data }));
	});
	writeFileSync(out, bundle.written(changes));
	return { changed: [...changes.keys()].map((at) => bundle.files[at]?.path as string), files: bundle.files.length };
}
