import type { PngWriter } from '@eppu/kernels';
import { type Id, sheetOf } from '../document/index.ts';
import type { Engine } from '../engine/index.ts';
import { type Plan, planned, shrink, zipOf } from '../format/index.ts';
import type { OraNode, Own } from './node.ts';
import { nodesOf } from './nodes.ts';
import type { Patch } from './patch.ts';

/** Our own attributes stand in this namespace. */
export const EPPU = 'urn:eppu:layers:1';
/** Longest side of the small picture that the format asks for. */
const THUMBNAIL = 256;

const ours = ['role', 'layer', 'sum', 'texels', 'look'] as const satisfies readonly (keyof Own)[];
export const ownAttributes: readonly (keyof Own)[] = ours;

/** What XML 1.0 cannot hold is left out: other control characters, and halves of letters. */
const unfit = /[\p{Cs}\ufffe\uffff]|(?![\t\n\r])\p{Cc}/gu;
const escaped = (text: string): string =>
	text.replace(unfit, '').replace(/[&<>"\t\n\r]/g, (sign) => `&#${sign.charCodeAt(0)};`);

const attributes = (values: Readonly<Record<string, string | number | undefined>>): string =>
	Object.entries(values)
		.flatMap(([name, value]) => (value === undefined ? [] : [` ${name}="${escaped(String(value))}"`]))
		.join('');

/** An element of the stack and what is in it, the top first, as the format has it. */
function elementOf(node: OraNode, put: (patch: Patch) => string, indent: string): string {
	const own = Object.fromEntries(ours.map((name) => [`eppu:${name}`, node.own?.[name]]));
	const common = {
		name: node.name,
		opacity: node.opacity,
		visibility: node.shown ? 'visible' : 'hidden',
		'composite-op': node.op,
		'edit-locked': node.locked ? 'true' : undefined,
	};
	if (node.kind === 'layer') {
		const { x, y } = node.patch;
		return `${indent}<layer${attributes({ ...common, x, y, src: put(node.patch), ...own })}/>\n`;
	}
	const children = [...node.children].reverse().map((child) => elementOf(child, put, `${indent} `));
	const isolation = node.isolated ? 'isolate' : 'auto';
	return `${indent}<stack${attributes({ ...common, isolation, ...own })}>\n${children.join('')}${indent}</stack>\n`;
}

/** An OpenRaster file, and notes on what other programs may show otherwise. */
export interface WrittenLayers {
	readonly bytes: Uint8Array<ArrayBuffer>;
	readonly notes: readonly string[];
}

/**
 * A sheet's layers as an OpenRaster file (version 0.0.6 of the format), of the moment in which it is planned. Masks keep
 * what lies below them (`svg:dst-in`), what is clipped lies atop (`svg:src-atop`). What the format has no words for goes
 * as pixels with attributes of ours, from which it comes back as it was where nobody changed it.
 */
export const planOpenRaster =
	(engine: Engine, id: Id): Plan<WrittenLayers> =>
	(take) => {
		const sheet = sheetOf(engine.project, id);
		if (!sheet) throw new RangeError('The sheet is not in this project any more.');
		const pictures: [path: string, png: number][] = [];
		const put =
			(folder: string) =>
			(patch: Patch): string => {
				const path = `${folder}/${String(pictures.length).padStart(3, '0')}.png`;
				const { width, height, data, fine } = patch;
				pictures.push([path, take(fine ? { width, height, numbers: fine, colors: true } : { width, height, data })]);
				return path;
			};
		const { nodes, notes } = nodesOf(engine, sheet, put('eppu'));
		const layers = [...nodes].reverse().map((node) => elementOf(node, put('data'), '  '));
		const { width, height } = sheet;
		const xml = `<?xml version="1.0" encoding="UTF-8"?>\n<image version="0.0.6" w="${width}" h="${height}" xmlns:eppu="${EPPU}">\n <stack>\n${layers.join('')} </stack>\n</image>\n`;
		const merged = engine.composite(id);
		pictures.push(['mergedimage.png', take(merged)]);
		const by = Math.min(1, THUMBNAIL / Math.max(width, height));
		const small = shrink(merged, Math.max(1, Math.round(width * by)), Math.max(1, Math.round(height * by)));
		pictures.push(['Thumbnails/thumbnail.png', take(small)]);
		return (pngs) => ({
			bytes: zipOf([
				['mimetype', new TextEncoder().encode('image/openraster')],
				['stack.xml', new TextEncoder().encode(xml), true],
				...pictures.map(([path, png]) => [path, pngs[png] as Uint8Array] as const),
			]),
			notes,
		});
	};

/** The same, all of it written here. */
export const writeOpenRaster = (engine: Engine, id: Id, write: PngWriter): WrittenLayers =>
	planned(write, planOpenRaster(engine, id));
