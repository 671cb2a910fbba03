import { closeSync, fsyncSync, openSync, readFileSync, renameSync, writeFileSync, writeSync } from 'node:fs';
import { basename, dirname, join } from 'node:path';
import { encodePng, openZip, zipOf } from '@eppu/core/format';
import { loadPngReader, loadPngWriter } from '@eppu/kernels/node';
import { CliError } from './commands.ts';

/** Ways in which programs save: over the file as it is, by another name that takes its place, or slowly. */
export const savingWays = ['in-place', 'rename', 'slow'] as const;
export type SavingWay = (typeof savingWays)[number];

export interface StandInOptions {
	readonly file: string;
	readonly way: SavingWay;
	/** Says which picture is changed and how; the same number changes the same. */
	readonly seed: number;
	/** Keeps what it does not know in the list of layers, or leaves it out as many programs do. */
	readonly keeps: boolean;
}

const pause = (ms: number): Promise<void> => new Promise((resolve) => setTimeout(resolve, ms));
/** Pieces and pauses of a slow saving. */
const PIECES = 6;
const PAUSE_MS = 60;

/** A square of one colour painted on a picture, at a place that follows from the seed. */
function dab(data: Uint8Array, width: number, height: number, seed: number): void {
	const side = Math.max(1, Math.floor(Math.min(width, height) / 4));
	const [left, top] = [(seed * 7) % Math.max(1, width - side), (seed * 13) % Math.max(1, height - side)];
	const color = [(seed * 37) % 256, (seed * 91) % 256, (seed * 53) % 256, 255];
	for (let y = top; y < top + side; y++) for (let x = left; x < left + side; x++) data.set(color, (y * width + x) * 4);
}

/** The file with one of its pictures painted on: of layers by turns a layer and a mask. */
async function painted({ file, seed, keeps }: StandInOptions): Promise<Uint8Array> {
	const [read, write] = [await loadPngReader(), await loadPngWriter()];
	const bytes = new Uint8Array(readFileSync(file));
	const paint = (png: Uint8Array): Uint8Array<ArrayBuffer> => {
		const { data, width, height } = read(png);
		dab(data, width, height, seed);
		return encodePng(write, { data, width, height });
	};
	if (!/\.ora$/i.test(file)) return paint(bytes);
	const zip = openZip(bytes, basename(file));
	if (typeof zip === 'string') throw new CliError(zip);
	const xml = zip.at('stack.xml');
	if (typeof xml === 'string') throw new CliError(xml);
	const text = new TextDecoder().decode(xml);
	const elements = [...text.matchAll(/<layer[^>]* src="([^"]+)"[^>]*>/g)].map(([element, src]) => ({
		src: src as string,
		mask: element.includes('svg:dst-in'),
		locked: element.includes('edit-locked="true"'),
	}));
	const kind = elements.filter(({ mask, locked }) => mask === (seed % 2 === 1) && !locked);
	const [chosen] = [(kind.length ? kind : elements)[seed % (kind.length || elements.length)]];
	const next = keeps ? text : text.replace(/ (?:xmlns:)?eppu(?::\w+)?="[^"]*"/g, '');
	return zipOf(
		zip.files.flatMap(({ path }, i): (readonly [string, Uint8Array, boolean?])[] => {
			if (!keeps && path.startsWith('eppu/')) return [];
			if (path === 'stack.xml') return [[path, new TextEncoder().encode(next), true]];
			const content = zip.content(i);
			if (typeof content === 'string') throw new CliError(content);
			return [[path, path === chosen?.src ? paint(content) : content]];
		}),
	);
}

/**
 * A stand-in for another editor, for tests and tries: opens a file, paints on a layer or a mask, and saves it in one of
 * the ways that programs have. Returns what it wrote.
 */
export async function standIn(options: StandInOptions): Promise<Uint8Array> {
	const bytes = await painted(options);
	const { file, way } = options;
	if (way === 'in-place') writeFileSync(file, bytes);
	else if (way === 'rename') {
		const beside = join(dirname(file), `.${basename(file)}.new`);
		writeFileSync(beside, bytes);
		renameSync(beside, file);
	} else {
		const handle = openSync(file, 'w');
		const piece = Math.ceil(bytes.length / PIECES);
		for (let at = 0; at < bytes.length; at += piece) {
			writeSync(handle, bytes, at, Math.min(piece, bytes.length - at));
			fsyncSync(handle);
			await pause(PAUSE_MS);
		}
		closeSync(handle);
	}
	return bytes;
}
