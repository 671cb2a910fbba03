import { existsSync, readFileSync } from 'node:fs';
import { basename } from 'node:path';
import { apiaryPalette } from '@eppu/core/color';
import { assetsOf, CommandError, type Project } from '@eppu/core/document';
import { type Engine, openEngine } from '@eppu/core/engine';
import { packPicture, pictureWriter, safeName } from '@eppu/core/format';
import {
	type ModelOrder,
	OrderError,
	readProjectZip,
	textureWriter,
	usualModelOrder,
	usualPage,
	writeModel,
	writePage,
	writeProjectZip,
} from '@eppu/core/handoff';
import {
	bringOpenRaster,
	OpenRasterError,
	readOpenRaster,
	takeOpenRaster,
	writeOpenRaster,
} from '@eppu/core/openraster';
import { loadKernels, loadPngReader, loadPngWriter, loadWebpWriter } from '@eppu/kernels/node';
import { openSourceStore, packDelta } from '@eppu/server/store';
import { CliError, cardOf, open, openKept, sheetsNamed, withKept } from './commands.ts';
import { loadWriters, putFiles } from './textures.ts';

/** What is told of orders that cannot be, in the words of the command line. */
async function told<T>(work: () => Promise<T>): Promise<T> {
	try {
		return await work();
	} catch (error) {
		if (error instanceof OrderError || error instanceof OpenRasterError) throw new CliError(error.message);
		throw error;
	}
}

export interface ModelsOptions {
	readonly project: string;
	readonly out: string;
	/** Only the model of this name. */
	readonly model?: string | undefined;
	readonly as?: string | undefined;
	readonly textures?: string | undefined;
	readonly parts?: string | undefined;
	readonly size?: string | undefined;
	readonly scale?: string | undefined;
	readonly up?: string | undefined;
	/** Lit by whoever shows it. */
	readonly lit?: boolean | undefined;
	readonly data?: string | undefined;
}

const among = <T extends string>(option: string, value: string | undefined, values: readonly T[], usual: T): T => {
	if (value === undefined) return usual;
	if ((values as readonly string[]).includes(value)) return value as T;
	throw new CliError(`--${option} takes ${values.join(', ')}; not "${value}".`);
};

/** Writes the models of a project with what is painted on them, and returns the files written. */
export const writeModels = ({ project, out, model, data, ...asked }: ModelsOptions): Promise<string[]> =>
	told(() =>
		withKept(project, data, async (engine) => {
			const as = asked.as ?? 'glb';
			const order: ModelOrder = {
				as,
				parts:
					asked.parts === undefined || asked.parts === 'all'
						? 'all'
						: asked.parts === 'shown'
							? 'shown'
							: asked.parts.split(','),
				textures: among('textures', asked.textures, ['inside', 'beside', 'none'], as === 'glb' ? 'inside' : 'beside'),
				size: Number(asked.size ?? 0),
				scale: Number(asked.scale ?? 1),
				up: among('up', asked.up, ['y', 'z'], 'y'),
				unlit: asked.lit ? false : usualModelOrder.unlit,
			};
			const models = engine.project.models.filter(
				({ name }) => model === undefined || name.toLowerCase() === model.toLowerCase(),
			);
			if (!models.length) throw new CliError(`"${engine.project.name}" has no such model.`);
			const write = textureWriter(engine, await loadWriters());
			const written: string[] = [];
			for (const { id, name } of models) {
				const files = await writeModel(engine, id, order, write);
				const folder = models.length > 1 && files.length > 1 ? `${safeName(name)}/` : '';
				written.push(
					...putFiles(
						out,
						files.map(([path, bytes]) => [folder + path, bytes] as const),
					),
				);
			}
			return written;
		}),
	);

/** Writes the layers of a project's sheets as OpenRaster; returns the files and what others may show otherwise. */
export const writeLayers = (options: {
	readonly project: string;
	readonly out: string;
	readonly sheet?: string | undefined;
	readonly data?: string | undefined;
}): Promise<{ readonly files: string[]; readonly notes: string[] }> =>
	told(() =>
		withKept(options.project, options.data, async (engine) => {
			const png = await loadPngWriter();
			const { project } = engine;
			const sheets = project.sheets.filter(
				({ name }) => options.sheet === undefined || name.toLowerCase() === options.sheet.toLowerCase(),
			);
			if (!sheets.length) throw new CliError(`"${project.name}" has no sheet "${options.sheet}".`);
			const notes: string[] = [];
			const files = sheets.flatMap((sheet) => {
				const made = writeOpenRaster(engine, sheet.id, png);
				notes.push(...made.notes);
				return putFiles(options.out, [[`${safeName(project.name)}-${safeName(sheet.name)}.ora`, made.bytes]]);
			});
			return { files, notes };
		}),
	);

/** Writes a page that shows a project as one HTML file. */
export const writeShowPage = (options: {
	readonly project: string;
	readonly out: string;
	readonly turns?: string | undefined;
	readonly title?: string | undefined;
	readonly words?: string | undefined;
	readonly data?: string | undefined;
	readonly progress?: ((done: number) => void) | undefined;
}): Promise<string[]> =>
	told(() =>
		withKept(options.project, options.data, async (engine) => {
			const order = {
				...usualPage,
				...(options.turns === undefined ? {} : { turns: Number(options.turns) }),
				title: options.title ?? '',
				words: options.words ?? '',
			};
			const write = pictureWriter({ png: loadPngWriter, webp: loadWebpWriter });
			const bytes = await writePage(engine, order, write, (done) => {
				options.progress?.(done);
				return true;
			});
			return putFiles(options.out, bytes ? [[`${safeName(engine.project.name)}.html`, bytes]] : []);
		}),
	);

/** Writes a whole project as one open ZIP. */
export const writeWhole = (options: {
	readonly project: string;
	readonly out: string;
	readonly data?: string | undefined;
}): Promise<string[]> =>
	told(async () => {
		const store = open(options.data);
		try {
			const { id } = cardOf(store, options.project);
			const engine = await openKept(store, id);
			const { project, tiles } = engine.whole();
			const files = new Map(
				assetsOf(project).map(({ hash }) => [hash, new Uint8Array(store.asset(id, hash).bytes)] as const),
			);
			const desk = store.load(id).desk ?? null;
			const pictures = new Map(engine.pictures.own);
			const zip = writeProjectZip({ project, desk, tiles, files, pictures }, await loadPngWriter());
			return putFiles(options.out, [[`${safeName(project.name)}-project.zip`, zip]]);
		} finally {
			store.close();
		}
	});

/**
 * Takes the layers of an OpenRaster file into a sheet of a kept project, as one more revision; nothing where it changes
 * nothing. Whoever has the project open is told as of any other's change.
 */
export const takeFile = (options: {
	readonly project: string;
	readonly file: string;
	readonly sheet?: string | undefined;
	readonly data?: string | undefined;
}): Promise<{ readonly sheet: string; readonly changed: boolean; readonly notes: readonly string[] }> =>
	told(async () => {
		if (!existsSync(options.file)) throw new CliError(`There is no file ${options.file}.`);
		const store = open(options.data);
		try {
			const card = cardOf(store, options.project);
			const { revision } = store.load(card.id);
			const engine = await openKept(store, card.id);
			const [sheet] = sheetsNamed(engine, card, options.sheet ?? engine.project.sheets[0]?.name);
			if (!sheet) throw new CliError(`"${card.name}" has no sheets.`);
			const name = basename(options.file);
			const image = readOpenRaster(new Uint8Array(readFileSync(options.file)), name, await loadPngReader());
			const { changed, notes } = takeOpenRaster(engine, sheet.id, image, `Take "${name}" in`, () =>
				crypto.randomUUID(),
			);
			const delta = engine.takeDelta();
			if (changed && delta) {
				const save = crypto.randomUUID();
				store.save(card.id, { base: revision, save, content: save, project: delta.project, tiles: packDelta(delta) });
			}
			engine.close();
			return { sheet: sheet.name, changed: changed > 0, notes };
		} catch (error) {
			if (error instanceof CommandError) throw new CliError(error.message);
			throw error;
		} finally {
			store.close();
		}
	});

/** What a project begins with, read from a file. */
interface Begun {
	readonly project: Project;
	readonly engine: Engine | null;
	readonly delta: ReturnType<Engine['whole']>;
	readonly files: readonly { readonly name: string; readonly bytes: Uint8Array }[];
	readonly pictures: ReadonlyMap<string, Parameters<typeof packPicture>[0]>;
	readonly notes: readonly string[];
}

async function readBeginning(file: string): Promise<Begun> {
	const bytes = new Uint8Array(readFileSync(file));
	const name = basename(file);
	const read = await loadPngReader();
	const id = crypto.randomUUID();
	if (!/\.ora$/i.test(name)) {
		const { project, tiles, files, pictures, notes } = readProjectZip(bytes, name, read);
		const own = { ...project, id };
		const named = assetsOf(project);
		return {
			project: own,
			engine: null,
			delta: { project: own, tiles },
			files: [...files].map(([hash, content]) => ({
				name: named.find((each) => each.hash === hash)?.name ?? hash,
				bytes: content,
			})),
			pictures,
			notes,
		};
	}
	const stem = name.replace(/\.[^.]+$/, '').slice(0, 100) || 'Untitled';
	const empty: Project = { schema: 1, id, name: stem, palette: apiaryPalette, models: [], sheets: [] };
	const engine = openEngine(await loadKernels(), empty, [], new Map());
	const { notes } = bringOpenRaster(engine, readOpenRaster(bytes, name, read), stem, () => crypto.randomUUID());
	return { project: engine.project, engine, delta: engine.whole(), files: [], pictures: new Map(), notes };
}

/** Makes a project of an OpenRaster file or of a project's open ZIP; returns its id and what could not be read. */
export const beginProject = (
	file: string,
	data?: string,
): Promise<{ readonly id: string; readonly name: string; readonly notes: readonly string[] }> =>
	told(async () => {
		if (!existsSync(file)) throw new CliError(`There is no file ${file}.`);
		const begun = await readBeginning(file);
		const store = data === undefined ? open(undefined) : openSourceStore(data);
		try {
			const known = new Set(store.library.list().map(({ id }) => id));
			for (const [id, picture] of begun.pictures)
				if (!known.has(id))
					store.library.put(
						{ id, kind: 'stencil', name: `From ${begun.project.name}`.slice(0, 120) },
						packPicture(picture),
					);
			store.create(begun.project, begun.files, { tiles: packDelta(begun.delta) });
			return { id: begun.project.id, name: begun.project.name, notes: begun.notes };
		} finally {
			begun.engine?.close();
			store.close();
		}
	});
