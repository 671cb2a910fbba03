/** What handing off costs: picture files, a sheet of layers out to another editor and back from it. */

import { apiaryPalette } from '@eppu/core/color';
import { paintLayer, washLayer } from '@eppu/core/document';
import { openEngine } from '@eppu/core/engine';
import { fileKindOf, spread } from '@eppu/core/handoff';
import { mergeOpenRaster, readOpenRaster, savedLayers, writeOpenRaster } from '@eppu/core/openraster';
import type { Picture } from '@eppu/core/surface';
import type { Kernels } from '@eppu/kernels';
import { loadPngReader, loadPngWriter, loadWebpWriter } from '@eppu/kernels/node';
import { undisturbed } from './measure.ts';
import type { Report } from './rows.ts';

/** What comes back from another editor is to be here within so many ms of its saving; looking takes 320 of them. */
const BACK_MS = 1000 - 320;
const SIDE = 1024;
const LAYERS = 8;

/** Strokes of a few colours, with clear between them. */
function strokes(side: number, seed: number): Picture {
	const data = new Uint8Array(side * side * 4);
	for (let y = 0; y < side; y++)
		for (let x = 0; x < side; x++) {
			const band = Math.floor((x + y * 0.3 + 40 * Math.sin((y + seed * 90) / 70)) / 48);
			if (band % 3 === 0) continue;
			const shade = (band * 53 + seed * 31 + ((x * 7 + y * 13) % 9)) & 255;
			data.set([shade, (shade * 3) & 255, 255 - shade, 255], (y * side + x) * 4);
		}
	return { width: side, height: side, data };
}

export async function handoffRows(kernels: Kernels, report: Report): Promise<void> {
	const [png, read, webp] = [await loadPngWriter(), await loadPngReader(), await loadWebpWriter()];
	const picture = strokes(SIDE, 1);
	const wish = { channels: 'rgb', quality: null, smaller: false, palette: [] } as const;
	await report(
		'file.rgb.1024',
		() => undisturbed(4, () => void fileKindOf('png').write({ png, webp }, picture, wish)),
		null,
		'PNG without alpha',
	);
	await report(
		'file.webp.1024',
		() => undisturbed(3, () => void webp(picture.data, SIDE, SIDE, null)),
		null,
		'lossless',
	);
	await report('spread.all.1024', () => undisturbed(4, () => void spread(picture, 'all', true)), null, 'all filled');
	const layers = [
		washLayer('w', 'W', '#667788'),
		...Array.from({ length: LAYERS }, (_, i) => paintLayer(`l${i}`, `L${i}`)),
	];
	const sheet = { id: 's', name: 'S', width: SIDE, height: SIDE, bleed: 4, base: null, guide: null, layers };
	const project = { schema: 1, id: 'p', name: 'P', palette: apiaryPalette, models: [], sheets: [sheet] } as const;
	const engine = openEngine(kernels, project, [], new Map());
	for (let i = 0; i < LAYERS; i++) engine.lay('s', `l${i}`, 'color', strokes(SIDE, i), 'Lay');
	const note = `${LAYERS} paint layers and a wash`;
	await report('layers.out.1024', () => undisturbed(2, () => void writeOpenRaster(engine, 's', png)), null, note);
	const { bytes: sent } = writeOpenRaster(engine, 's', png);
	engine.lay('s', 'l3', 'color', strokes(SIDE, 77), 'Lay');
	const { bytes: saved } = writeOpenRaster(engine, 's', png);
	engine.undo();
	await report(
		'exchange.back.1024',
		() =>
			undisturbed(3, () => {
				const known = new Map();
				const [a, b] = [readOpenRaster(sent, 'a.ora', read, known), readOpenRaster(saved, 'a.ora', read, known)];
				const newId = (): string => crypto.randomUUID();
				const [before, now] = [savedLayers(a, a, newId), savedLayers(b, a, newId)];
				if (mergeOpenRaster(engine, 's', before, now, 'Take', newId).changed) engine.undo();
			}),
		{ ms: BACK_MS },
		`one of ${note} changed`,
	);
	engine.close();
}
