/** What pixel sheets and bundles cost: an item in the hand made anew, checks, and a bundle of thousands of textures. */

import { findAll } from '@eppu/core/check';
import { apiaryPalette } from '@eppu/core/color';
import { encodePng, readBundle } from '@eppu/core/format';
import { heldMesh, pixelColors } from '@eppu/core/pixel';
import type { Picture } from '@eppu/core/surface';
import { loadPngWriter } from '@eppu/kernels/node';
import { zipSync } from 'fflate';
import { bundleRow } from './bundleRow.ts';
import { undisturbed } from './measure.ts';
import type { Report } from './rows.ts';

/** A frame of a 60 Hz screen, ms, and the longest that a view may stand still. */
const FRAME = 1000 / 60;
const LONGEST = 100;
const TEXTURES = 2000;

/** Texels of the palette in a disc with holes. */
function item(side: number, seed = 1): Picture {
	const data = new Uint8Array(side * side * 4);
	for (let i = 0; i < side * side; i++) {
		const [x, y] = [(i % side) - side / 2, Math.floor(i / side) - side / 2];
		if (x * x + y * y > (side * side) / 4 || (i * 7 + seed) % 11 === 0) continue;
		const hex = apiaryPalette.colors[(i * 5 + seed) % apiaryPalette.colors.length] as string;
		data.set([...[1, 3, 5].map((at) => Number.parseInt(hex.slice(at, at + 2), 16)), 255], i * 4);
	}
	return { width: side, height: side, data };
}

export async function pixelRows(report: Report): Promise<void> {
	const frame = { ms: FRAME };
	const [small, large] = [item(64), item(128)];
	await report('held.64', () => undisturbed(20, () => void heldMesh(small)), frame, 'a block a texel, made anew');
	await report('held.128', () => undisturbed(20, () => void heldMesh(large)), null, 'a block a texel, made anew');
	const palette = pixelColors(apiaryPalette);
	await report(
		'check.64',
		() => undisturbed(10, () => void findAll({ picture: small, palette, set: null })),
		{ ms: LONGEST },
		'all checks',
	);
	const write = await loadPngWriter();
	const files = Object.fromEntries(
		Array.from({ length: TEXTURES }, (_, i) => [`t/${i}.png`, encodePng(write, item(16, i))] as const),
	);
	const zip = zipSync(files, { level: 6 });
	const note = `${TEXTURES} textures of 16², ${Math.round(zip.length / 1024)} KB`;
	await report('bundle.open.2000', () => undisturbed(6, () => void readBundle(zip, 'set.zip')), { ms: LONGEST }, note);
	const read = readBundle(zip, 'set.zip');
	if (!read.ok) throw new Error(read.text);
	const change = new Map([[7, files['t/8.png'] as Uint8Array]]);
	await report('bundle.write.2000', () => undisturbed(6, () => void read.bundle.written(change)), null, 'one changed');
	await bundleRow(report, new Uint8Array(zip), TEXTURES);
}
