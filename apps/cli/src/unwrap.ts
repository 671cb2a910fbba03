/** A model file laid out anew, and written with its new UVs. */
import { readFileSync, writeFileSync } from 'node:fs';
import { basename } from 'node:path';
import { type AnewLayout, LayoutError, layAllAnew, usualArrange } from '@eppu/core/arrange';
import { layOut } from '@eppu/core/layout';
import { readModel, writeGlb, writeObj } from '@eppu/core/mesh';
import { type UnwrapWay, unwrapKinds } from '@eppu/core/unwrap';
import { CliError } from './commands.ts';

export interface UnwrapOptions {
	readonly model: string;
	readonly out: string;
	readonly way?: string | undefined;
	readonly seams?: string | undefined;
	readonly size?: string | undefined;
	readonly margin?: string | undefined;
}

/** A whole number of an option, within its range. */
function numberOf(name: string, text: string | undefined, usual: number, least: number, most: number): number {
	const value = text === undefined ? usual : Number(text);
	if (Number.isInteger(value) && value >= least && value <= most) return value;
	throw new CliError(`--${name} takes a whole number, ${least} to ${most}; not "${text}".`);
}

/** Unwraps a model and writes it as OBJ or GLB, by the ending of `out`. Throws CliError in plain words. */
export async function unwrapModel(options: UnwrapOptions): Promise<AnewLayout> {
	const { model, out } = options;
	const ending = /\.(obj|glb)$/i.exec(out)?.[1]?.toLowerCase();
	if (!ending) throw new CliError(`--out names a file that ends in .obj or .glb; not "${out}".`);
	const kind = unwrapKinds.find(({ way }) => way === (options.way ?? 'automatic'));
	if (!kind)
		throw new CliError(`--way is one of ${unwrapKinds.map(({ way }) => way).join(', ')}; not "${options.way}".`);
	const size = numberOf('size', options.size, 1024, 16, 8192);
	const margin = numberOf('margin', options.margin, usualArrange.margin, 0, 64);
	const seams = numberOf('seams', options.seams, 50, 0, 100);
	const way = (kind.way === 'automatic' ? { ...kind.usual, less: seams / 100 } : kind.usual) as UnwrapWay;
	let bytes: Uint8Array;
	try {
		bytes = new Uint8Array(readFileSync(model));
	} catch {
		throw new CliError(`There is no file "${model}" that can be read.`);
	}
	const read = await readModel(bytes, basename(model));
	if (!read.ok) throw new CliError(read.error.text);
	const { mesh } = read;
	try {
		const found = layAllAnew(mesh, way, size, { ...usualArrange, margin });
		const laid = layOut(mesh, found);
		writeFileSync(out, ending === 'obj' ? writeObj(laid) : await writeGlb(laid));
		return found;
	} catch (error) {
		if (error instanceof LayoutError) throw new CliError(error.message);
		throw error;
	}
}
