import { mkdirSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { pictureWith, settleWith } from '@eppu/core/engine';
import { zipOf } from '@eppu/core/format';
import {
	type Channels,
	fileKindOf,
	fileKinds,
	OrderError,
	orderProblem,
	type TextureOrder,
	textureFiles,
	usualOrder,
	usualOrders,
	type Writers,
	writeTexture,
} from '@eppu/core/handoff';
import { loadPngPress, loadPngWriter, loadWebpWriter } from '@eppu/kernels/node';
import { openPool } from '@eppu/server/jobs';
import { bringMade, keepMade, type Store } from '@eppu/server/store';
import { CliError, cardOf, open, openKept, sheetsNamed, threadsOf } from './commands.ts';

/** How textures are written, as it is typed; what is left out is as the preset has it, or as usual. */
export interface ExportOptions {
	readonly project: string;
	readonly out: string;
	readonly sheet?: string | undefined;
	/** A preset of the house, or one that was kept. */
	readonly preset?: string | undefined;
	readonly of?: string | undefined;
	readonly file?: string | undefined;
	readonly channels?: string | undefined;
	readonly quality?: string | undefined;
	readonly ground?: string | undefined;
	readonly bleed?: string | undefined;
	readonly premultiplied?: boolean | undefined;
	/** Texels of the longer side; several with commas. */
	readonly size?: string | undefined;
	readonly pattern?: string | undefined;
	readonly smaller?: boolean | undefined;
	/** All files in one ZIP of this name within `out`. */
	readonly zip?: string | undefined;
	readonly data?: string | undefined;
	/** Threads that compute; 1 does all in this one. Usually one, and for large sheets one a core, four at the most. */
	readonly jobs?: string | undefined;
	/** Told of each file as it is begun. */
	readonly progress?: ((done: number, all: number, name: string) => void) | undefined;
}

/** What pictures are written with, in Node. */
export const loadWriters = async (press = false): Promise<Writers> => ({
	png: await loadPngWriter(),
	webp: await loadWebpWriter(),
	...(press ? { press: await loadPngPress() } : {}),
});

function presetNamed(store: Store, name: string): TextureOrder {
	const house = usualOrders.find(([each]) => each.toLowerCase() === name.toLowerCase())?.[1];
	if (house) return house;
	const kept = store.library.list().filter(({ kind }) => kind === 'order');
	const item = kept.find((each) => each.name.toLowerCase() === name.toLowerCase());
	if (!item)
		throw new CliError(
			`There is no preset "${name}". There are: ${[...usualOrders.map(([each]) => each), ...kept.map((each) => each.name)].join(', ')}.`,
		);
	return JSON.parse(new TextDecoder().decode(store.library.body(item.id))) as TextureOrder;
}

const numberIn = (option: string, text: string): number => {
	const value = Number(text);
	if (text.trim() === '' || !Number.isFinite(value)) throw new CliError(`--${option} takes a number; not "${text}".`);
	return value;
};

/** The order that options say. */
function orderOf(options: ExportOptions, start: TextureOrder): TextureOrder {
	const { of, file, channels, quality, ground, bleed, size, pattern } = options;
	if (file !== undefined && !fileKinds.some(({ kind }) => kind === file))
		throw new CliError(`--file takes ${fileKinds.map(({ kind }) => kind).join(' or ')}; not "${file}".`);
	const kind = fileKindOf(file ?? start.file);
	const usual = of !== undefined && of !== 'sheet' && pattern === undefined ? '{sheet}/{layer}' : start.pattern;
	const order: TextureOrder = {
		...start,
		of: of ?? start.of,
		file: kind.kind,
		channels: (channels as Channels | undefined) ?? (kind.channels.includes(start.channels) ? start.channels : 'rgba'),
		quality: quality === undefined ? (kind.lossy ? start.quality : null) : numberIn('quality', quality),
		ground: ground ?? start.ground,
		bleed: bleed === undefined ? start.bleed : bleed === 'all' ? 'all' : numberIn('bleed', bleed),
		premultiplied: options.premultiplied ?? start.premultiplied,
		sizes: size === undefined ? start.sizes : size.split(',').map((each) => numberIn('size', each)),
		pattern: pattern ?? usual,
		smaller: options.smaller ?? start.smaller,
	};
	const problem = orderProblem(order);
	if (problem) throw new CliError(problem);
	return order;
}

/** Writes pictures of a project's sheets, layers, groups, masks or bakes, and returns the files written. */
export async function exportProject(options: ExportOptions): Promise<string[]> {
	const store = open(options.data);
	try {
		const card = cardOf(store, options.project);
		const order = orderOf(options, options.preset === undefined ? usualOrder : presetNamed(store, options.preset));
		const engine = await openKept(store, card.id);
		bringMade(store.made, engine);
		const sheets = sheetsNamed(engine, card, options.sheet);
		const files = textureFiles(
			engine.project,
			sheets.map(({ id }) => id),
			order,
		);
		const writers = await loadWriters(order.smaller);
		const threads = threadsOf(options.jobs, sheets);
		const pool = threads > 1 ? await openPool(engine.kernels, threads) : null;
		const made: [string, Uint8Array][] = [];
		const written: string[] = [];
		try {
			if (pool) await settleWith(engine, pool);
			for (const [i, file] of files.entries()) {
				options.progress?.(i, files.length, file.path);
				const whole = pool && order.of === 'sheet' ? await pictureWith(engine, pool, file.sheet) : null;
				const bytes = writeTexture(engine, file, order, writers, whole);
				if (options.zip === undefined) written.push(...putFiles(options.out, [[file.path, bytes]]));
				else made.push([file.path, bytes]);
			}
		} finally {
			pool?.end();
		}
		keepMade(store.made, engine);
		return options.zip === undefined ? written : putFiles(options.out, [[options.zip, zipOf(made)]]);
	} catch (error) {
		if (error instanceof OrderError) throw new CliError(error.message);
		throw error;
	} finally {
		store.close();
	}
}

/** Puts files into a folder, with folders of their own where their paths have some; returns where they are. */
export function putFiles(out: string, files: readonly (readonly [path: string, bytes: Uint8Array])[]): string[] {
	return files.map(([path, bytes]) => {
		const file = join(out, path);
		mkdirSync(dirname(file), { recursive: true });
		writeFileSync(file, bytes);
		return file;
	});
}
