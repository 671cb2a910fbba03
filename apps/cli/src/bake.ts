import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { basename, join } from 'node:path';
import { apiaryPalette } from '@eppu/core/color';
import { type Model, type Project, usualBleed } from '@eppu/core/document';
import { type Engine, openEngine } from '@eppu/core/engine';
import { bakeNumbers, fileName, pictureAsPng } from '@eppu/core/format';
import { type Bake, bakedSteps, toneBake } from '@eppu/core/light';
import { readModel } from '@eppu/core/mesh';
import { loadKernels, loadPngWriter } from '@eppu/kernels/node';
import { CliError, withKept } from './commands.ts';

export interface BakeOptions {
	/** A project's name or id, or a model file. */
	readonly of: string;
	readonly out: string;
	readonly sheet?: string | undefined;
	/** Only the bake of this name. */
	readonly bake?: string | undefined;
	/** Made as it is first made in the Light stage, whether the project has it or not. */
	readonly kind?: string | undefined;
	/** 8 or 16 bits a channel. */
	readonly depth?: string | undefined;
	/** Of a model file: the sheet's side, texels. */
	readonly size?: string | undefined;
	readonly data?: string | undefined;
}

/** Bakes that can be asked for by name. */
const kinds: Readonly<Record<string, () => Bake>> = {
	...Object.fromEntries(bakedSteps.map((step) => [step, () => toneBake(step, step, step)])),
	edges: () => toneBake('edges', 'edges', 'curvature', { of: 'edges' }),
	hollows: () => toneBake('hollows', 'hollows', 'curvature', { of: 'hollows' }),
	normals: () => ({ id: 'normals', name: 'normals', bake: 'normals' }),
	ids: () => ({ id: 'ids', name: 'ids', bake: 'ids', by: 'part', seed: 1 }),
	vertex: () => ({ id: 'vertex', name: 'vertex', bake: 'vertex' }),
};

/** 8 or 16, as it is asked for. */
export function depthOf(asked: string | undefined): 8 | 16 {
	if (asked === undefined || asked === '8') return 8;
	if (asked === '16') return 16;
	throw new CliError(`--depth takes 8 or 16 bits; not "${asked}".`);
}

function kindNamed(name: string): Bake {
	const make = kinds[name];
	if (!make) throw new CliError(`There is no bake "${name}". There are: ${Object.keys(kinds).join(', ')}.`);
	return make();
}

/** A project of nothing but a model file. */
async function openModel(file: string, size: string | undefined): Promise<Engine> {
	const side = size === undefined ? 1024 : Number(size);
	if (!Number.isInteger(side) || side < 16 || side > 8192)
		throw new CliError(`--size takes 16 to 8192 texels; not "${size}".`);
	const read = await readModel(new Uint8Array(readFileSync(file)), basename(file));
	if (!read.ok) throw new CliError(read.error.text);
	if (read.bare) throw new CliError(`"${basename(file)}" has no UVs: lay it out with "eppu unwrap" first.`);
	const name = basename(file).replace(/\.[^.]+$/, '');
	const model: Model = {
		id: 'model',
		name,
		asset: { hash: '0'.repeat(64), name: basename(file) },
		parts: read.mesh.parts.map((part) => ({ name: part.name, sheet: 'sheet', shown: true })),
	};
	const sheet = {
		id: 'sheet',
		name,
		width: side,
		height: side,
		bleed: usualBleed(side, side),
		base: null,
		guide: null,
		layers: [],
	};
	const project: Project = { schema: 1, id: 'model', name, models: [model], sheets: [sheet], palette: apiaryPalette };
	return openEngine(await loadKernels(), project, [], new Map([['model', read.mesh]]));
}

async function bakeAll(engine: Engine, { out, sheet: only, bake: named, kind, depth }: BakeOptions): Promise<string[]> {
	const bits = depthOf(depth);
	const added = kind === undefined ? null : kindNamed(kind);
	const write = await loadPngWriter();
	const written: string[] = [];
	const { name: projectName } = engine.project;
	for (const model of engine.project.models) {
		if (added) engine.run({ do: 'bakes.set', model: model.id, bakes: [added] });
		const bakes = (added ? [added] : (model.bakes ?? [])).filter(
			({ name }) => named === undefined || name.toLowerCase() === named.toLowerCase(),
		);
		const sheets = engine.project.sheets.filter(
			({ id, name }) =>
				model.parts.some((part) => part.sheet === id) &&
				(only === undefined || name.toLowerCase() === only.toLowerCase()),
		);
		for (const sheet of sheets)
			for (const bake of bakes) {
				const pattern = `{project}-{sheet}-${bake.name.toLowerCase().replace(/[^a-z0-9]+/g, '-')}`;
				const file = join(out, fileName(pattern, projectName, sheet, sheet.width));
				mkdirSync(out, { recursive: true });
				writeFileSync(file, pictureAsPng(write, bakeNumbers(engine.bakePicture(sheet.id, bake.id), bits)));
				written.push(file);
			}
	}
	if (written.length) return written;
	throw new CliError(
		`"${projectName}" has no such bake or sheet. Name a kind with --kind: ${Object.keys(kinds).join(', ')}.`,
	);
}

/** Writes the bakes of a project, or one kind of bake of a project or a model file, as PNG; returns the files written. */
export async function bakeProject(options: BakeOptions): Promise<string[]> {
	if (/\.(obj|glb|gltf|ply)$/i.test(options.of)) {
		if (!existsSync(options.of)) throw new CliError(`There is no file ${options.of}.`);
		if (options.kind === undefined)
			throw new CliError(`Name what is baked with --kind: ${Object.keys(kinds).join(', ')}.`);
		const engine = await openModel(options.of, options.size);
		try {
			return await bakeAll(engine, options);
		} finally {
			engine.close();
		}
	}
	return withKept(options.of, options.data, (engine) => bakeAll(engine, options));
}
