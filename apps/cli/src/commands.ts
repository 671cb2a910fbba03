import { existsSync, mkdirSync, statSync, writeFileSync } from 'node:fs';
import { availableParallelism } from 'node:os';
import { join } from 'node:path';
import { picturesNamed } from '@eppu/core/derive';
import { bakeFilesOf, type Sheet } from '@eppu/core/document';
import { type Engine, openEngine } from '@eppu/core/engine';
import {
	encodePng,
	fileName,
	isPictureName,
	readMapFile,
	templateOf,
	templatePicture,
	templateSvg,
	unpackPicture,
	usualTemplate,
} from '@eppu/core/format';
import { type LaidMesh, readModel } from '@eppu/core/mesh';
import type { PartMeasures } from '@eppu/core/report';
import { sceneReport } from '@eppu/core/scene';
import { loadKernels, loadPngReader, loadPngWriter } from '@eppu/kernels/node';
import { dataFile, keptTiles, openSourceStore, type ProjectCard, type Store } from '@eppu/server/store';

/** What the caller asked for cannot be done; the text says why. */
export class CliError extends Error {
	override readonly name = 'CliError';
}

/** Opened files by where they lie: a connection stays until the process ends, and so is used again. */
const opened = new Map<string, Store>();

/** The data file that is meant, opened. */
export function open(data: string | undefined): Store {
	const file = data ?? dataFile();
	if (!existsSync(file))
		throw new CliError(`There is no data file at ${file}. Start Eppu once, or name it with --data.`);
	const { dev, ino } = statSync(file);
	const key = `${dev} ${ino}`;
	const known = opened.get(key) ?? openSourceStore(file);
	opened.set(key, known);
	return known;
}

export function listProjects(data?: string): ProjectCard[] {
	const store = open(data);
	try {
		return store.list();
	} finally {
		store.close();
	}
}

/** Pictures of the artist's own that the document names: without them fills and patterns would come out empty. */
function bringPictures(store: Store, engine: Engine): void {
	const own = new Set(store.library.list().map((item) => item.id));
	for (const id of picturesNamed(engine.project))
		if (own.has(id)) engine.pictures.put(id, unpackPicture(store.library.body(id)));
	engine.renew();
}

/** What is wrong with a data file: its own checks, documents that cannot be opened, tiles that do not fit them. */
export async function checkData(file: string): Promise<string[]> {
	if (!existsSync(file)) throw new CliError(`There is no data file at ${file}.`);
	const store = openSourceStore(file);
	const problems = [...store.problems()];
	for (const card of [...store.list(), ...store.list(true)]) {
		const named = (words: string): string => `"${card.name}": ${words}`;
		problems.push(...store.problemsOf(card.id).map(named));
	}
	store.close();
	return problems;
}

/** Opens a kept project in an engine, as the browser does. */
export async function openKept(store: Store, id: string): Promise<Engine> {
	const stored = store.load(id);
	const meshes = new Map<string, LaidMesh>();
	for (const model of stored.project.models) {
		const { name, bytes } = store.asset(id, model.asset.hash);
		const read = await readModel(new Uint8Array(bytes), name);
		if (read.ok) meshes.set(model.id, read.mesh);
		else throw new CliError(read.error.text);
	}
	const engine = openEngine(await loadKernels(), stored.project, keptTiles(stored.tiles()), meshes);
	for (const { hash } of bakeFilesOf(stored.project)) {
		const { name, bytes } = store.asset(id, hash);
		if (isPictureName(name)) {
			const map = readMapFile(new Uint8Array(bytes), name, await loadPngReader());
			if (!map.ok) throw new CliError(map.text);
			engine.pictures.maps.set(hash, map.map);
			continue;
		}
		const read = await readModel(new Uint8Array(bytes), name);
		if (!read.ok) throw new CliError(read.error.text);
		engine.meshes.set(hash, read.mesh);
	}
	bringPictures(store, engine);
	return engine;
}

/** The project of a name or id. */
export function cardOf(store: Store, project: string): ProjectCard {
	const cards = store.list();
	const card = cards.find((each) => each.id === project || each.name.toLowerCase() === project.toLowerCase());
	if (card) return card;
	throw new CliError(
		`There is no project "${project}". These are kept: ${cards.map((each) => each.name).join(', ') || 'none'}.`,
	);
}

/** Does something with a kept project in an engine; the store is shut afterwards. */
export async function withKept<T>(
	project: string,
	data: string | undefined,
	/** `file` gives the bytes of a file that is kept with it. */
	work: (engine: Engine, file: (hash: string) => Uint8Array) => Promise<T>,
): Promise<T> {
	const store = open(data);
	try {
		const { id } = cardOf(store, project);
		return await work(await openKept(store, id), (hash) => new Uint8Array(store.asset(id, hash).bytes));
	} finally {
		store.close();
	}
}

/** What is told of a project's models: per model its findings in words, and figures of its parts and sheets. */
export interface ModelReport {
	readonly model: string;
	readonly findings: readonly {
		readonly kind: string;
		readonly words: string;
		readonly todo: string;
		readonly grave: boolean;
	}[];
	readonly parts: readonly PartMeasures[];
	/** The share of each sheet that the model's faces cover. */
	readonly fill: Readonly<Record<string, number>>;
}

/** Looks at the models of a project as they lie on their sheets. */
export async function reportProject(project: string, data?: string): Promise<ModelReport[]> {
	const store = open(data);
	try {
		const engine = await openKept(store, cardOf(store, project).id);
		const { models, sheets } = engine.project;
		return models.flatMap(({ id, name }) => {
			const scene = engine.scene(id);
			if (!scene) return [];
			const { findings, parts, fill } = sceneReport(scene, sheets);
			return [
				{
					model: name,
					findings: findings.map(({ faces: _, ...told }) => told),
					parts,
					fill: Object.fromEntries(sheets.map((sheet, i) => [sheet.name, fill[i] as number])),
				},
			];
		});
	} finally {
		store.close();
	}
}

export interface TemplateOptions {
	readonly project: string;
	readonly out: string;
	readonly sheet?: string | undefined;
	readonly size?: string | undefined;
	readonly svg?: boolean | undefined;
	readonly data?: string | undefined;
}

const MOST_TEMPLATE = 8192;

/** Writes templates of a project's sheets that models lie on, as PNG or SVG, and returns the files written. */
export async function templateProject(options: TemplateOptions): Promise<string[]> {
	const store = open(options.data);
	try {
		const card = cardOf(store, options.project);
		const engine = await openKept(store, card.id);
		const { models } = engine.project;
		const sheets = sheetsNamed(engine, card, options.sheet).filter(({ id }) =>
			models.some(({ parts }) => parts.some(({ sheet }) => sheet === id)),
		);
		if (!sheets.length)
			throw new CliError(`No model of "${card.name}" lies on that sheet: there is no template of it.`);
		const asked = options.size === undefined ? null : Number(options.size);
		if (asked !== null && !(Number.isInteger(asked) && asked >= 16 && asked <= MOST_TEMPLATE))
			throw new CliError(`--size takes 16 to ${MOST_TEMPLATE} px for templates; not "${options.size}".`);
		mkdirSync(options.out, { recursive: true });
		const write = await loadPngWriter();
		const scenes = models.flatMap(({ id }) => engine.scene(id) ?? []);
		return sheets.map((sheet) => {
			const drawing = templateOf(scenes, sheet, asked ?? sheet.width);
			const name = fileName('{project}-{sheet}-template', card.name, sheet, drawing.width);
			const file = join(options.out, options.svg ? name.replace(/png$/, 'svg') : name);
			writeFileSync(
				file,
				options.svg ? templateSvg(drawing, usualTemplate) : encodePng(write, templatePicture(drawing, usualTemplate)),
			);
			return file;
		});
	} finally {
		store.close();
	}
}

/** The sheets of a project, or the one of a name. */
export function sheetsNamed(
	{ project }: Engine,
	card: Pick<ProjectCard, 'name'>,
	name: string | undefined,
): readonly Sheet[] {
	const sheets = project.sheets.filter((sheet) => !name || sheet.name.toLowerCase() === name.toLowerCase());
	if (sheets.length) return sheets;
	throw new CliError(
		`"${card.name}" has no sheet "${name}". It has: ${project.sheets.map((sheet) => sheet.name).join(', ')}.`,
	);
}

/** Fewer texels than this are made before threads have begun: each takes a second to start. */
const LEAST_SHARED = 1 << 24;
const MOST_THREADS = 4;

/** How many threads compute: as many as asked for, or what is worth it. */
export function threadsOf(asked: string | undefined, sheets: readonly Sheet[]): number {
	if (asked !== undefined) {
		const count = Number(asked);
		if (!Number.isInteger(count) || count < 1 || count > 64)
			throw new CliError(`--jobs takes a whole number of threads, 1 to 64; not "${asked}".`);
		return count;
	}
	const texels = sheets.reduce((sum, sheet) => sum + sheet.width * sheet.height, 0);
	return texels < LEAST_SHARED ? 1 : Math.min(MOST_THREADS, availableParallelism());
}
