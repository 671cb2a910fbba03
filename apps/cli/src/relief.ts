import { mkdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { raisedOn } from '@eppu/core/document';
import { bakeNumbers, fileName, pictureAsPng } from '@eppu/core/format';
import { reliefLooks } from '@eppu/core/light';
import { loadPngWriter } from '@eppu/kernels/node';
import { depthOf } from './bake.ts';
import { CliError, withKept } from './commands.ts';

export interface ReliefOptions {
	readonly project: string;
	readonly out: string;
	readonly sheet?: string | undefined;
	/** One of the looks of relief; heights where none is named. */
	readonly look?: string | undefined;
	readonly depth?: string | undefined;
	readonly data?: string | undefined;
}

/** Writes what stands out on a project's sheets as PNG; returns the files written. */
export async function reliefOf({
	project,
	out,
	sheet: only,
	look = 'heights',
	depth = '16',
	data,
}: ReliefOptions): Promise<string[]> {
	const bits = depthOf(depth);
	if (!reliefLooks.some((each) => each.look === look))
		throw new CliError(`--look takes ${reliefLooks.map((each) => each.look).join(', ')}; not "${look}".`);
	return withKept(project, data, async (engine) => {
		const sheets = engine.project.sheets.filter(
			(sheet) => raisedOn(sheet).length > 0 && (only === undefined || sheet.name.toLowerCase() === only.toLowerCase()),
		);
		if (!sheets.length)
			throw new CliError(
				only === undefined
					? `Nothing stands out on the sheets of "${engine.project.name}".`
					: `"${engine.project.name}" has no sheet "${only}" on which anything stands out.`,
			);
		const write = await loadPngWriter();
		mkdirSync(out, { recursive: true });
		return sheets.map((sheet) => {
			const file = join(out, fileName(`{project}-{sheet}-relief-${look}`, engine.project.name, sheet, sheet.width));
			writeFileSync(file, pictureAsPng(write, bakeNumbers(engine.reliefPicture(sheet.id, look), bits)));
			return file;
		});
	});
}
