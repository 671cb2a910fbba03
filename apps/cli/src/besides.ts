import { mkdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { buildUpPicture, encodePng, fileName, paletteBytes, paletteKinds, paletteName } from '@eppu/core/format';
import { loadPngWriter } from '@eppu/kernels/node';
import { CliError, sheetsNamed, withKept } from './commands.ts';

interface Wanted {
	/** A project's name or id. */
	readonly project: string;
	readonly out: string;
	readonly data?: string | undefined;
}

export interface PaletteOptions extends Wanted {
	/** 'json' (design tokens), 'txt' (hex colours) or 'png' (a strip). */
	readonly as?: string | undefined;
}

/** Writes a project's palette into a folder; returns the file. */
export async function writePalette({ project, out, as = 'json', data }: PaletteOptions): Promise<string[]> {
	const kind = paletteKinds.find((each) => each === as);
	if (!kind) throw new CliError(`--as takes ${paletteKinds.join(', ')}; not "${as}".`);
	const write = await loadPngWriter();
	return withKept(project, data, async ({ project: { palette } }) => {
		mkdirSync(out, { recursive: true });
		const file = join(out, paletteName(palette, kind));
		writeFileSync(file, paletteBytes(palette, kind, write));
		return [file];
	});
}

export interface BuildUpOptions extends Wanted {
	/** Only the sheet of this name. */
	readonly sheet?: string | undefined;
}

/** Writes each sheet's picture after each of its layers, as one PNG a sheet; returns the files. */
export async function writeBuildUps({ project, out, sheet, data }: BuildUpOptions): Promise<string[]> {
	const write = await loadPngWriter();
	return withKept(project, data, async (engine) => {
		const { name } = engine.project;
		const wanted = sheetsNamed(engine, engine.project, sheet);
		mkdirSync(out, { recursive: true });
		return wanted.map((each) => {
			const file = join(out, fileName('{project}-{sheet}-build-up', name, each, each.width));
			writeFileSync(file, encodePng(write, buildUpPicture(engine, each.id)));
			return file;
		});
	});
}
