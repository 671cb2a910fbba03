import { mkdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import type { Sheet } from '@eppu/core/document';
import { gridOfSheet } from '@eppu/core/engine';
import { encodePng, fileName } from '@eppu/core/format';
import { writeGlb, writeObj } from '@eppu/core/mesh';
import { cellsBlock } from '@eppu/core/wash';
import { loadPngWriter } from '@eppu/kernels/node';
import { CliError, withKept } from './commands.ts';

export interface GridOptions {
	/** A project's name or id. */
	readonly project: string;
	readonly out: string;
	/** Texels along the grid, 16 to 1024; the sheet's own width where it is left out. */
	readonly size?: string | undefined;
	readonly data?: string | undefined;
}

function sizeOf(asked: string | undefined, sheet: Sheet): number {
	if (asked === undefined) return sheet.width;
	const side = Number(asked);
	if (!Number.isInteger(side) || side < 16 || side > 1024)
		throw new CliError(`--size takes 16 to 1024 texels; not "${asked}".`);
	return side;
}

/** Writes a project's colour grids as PNG, drawn anew at the size that is asked for, and the models on them as GLB and OBJ. */
export async function writeGrids({ project, out, size, data }: GridOptions): Promise<string[]> {
	const write = await loadPngWriter();
	return withKept(project, data, async (engine) => {
		const written: string[] = [];
		const put = (name: string, bytes: Uint8Array | string): void => {
			mkdirSync(out, { recursive: true });
			const file = join(out, name);
			writeFileSync(file, bytes);
			written.push(file);
		};
		const { sheets, models, name } = engine.project;
		const grids = sheets.flatMap((sheet) => {
			const grid = gridOfSheet(sheet);
			return grid ? [{ sheet, cells: grid.cells }] : [];
		});
		if (!grids.length) throw new CliError(`"${name}" has no colour grid: its sheets go out with "export".`);
		for (const { sheet, cells } of grids) {
			const width = sizeOf(size, sheet);
			const height = Math.max(1, Math.round((width * sheet.height) / sheet.width));
			const texels = cellsBlock(cells, { x: 0, y: 0, width, height }, width, height);
			put(fileName('{project}-{sheet}-{size}', name, sheet, width), encodePng(write, { width, height, data: texels }));
		}
		const on = new Set(grids.map(({ sheet }) => sheet.id));
		for (const model of models) {
			const scene = engine.scene(model.id);
			if (!scene || !model.parts.some((part) => on.has(part.sheet))) continue;
			const stem = model.name.toLowerCase().replace(/[^\p{L}\p{N}]+/gu, '-');
			put(`${stem}.glb`, await writeGlb(scene.mesh));
			put(`${stem}.obj`, writeObj(scene.mesh));
		}
		return written;
	});
}
