/** The pixel items of the demo world as a project, and its bundle of textures. */
import { createHash } from 'node:crypto';
import { apiaryPalette } from '@eppu/core/color';
import { type Desk, emptyDesk, type Project, paintLayer, type Sheet } from '@eppu/core/document';
import { type Engine, openEngine } from '@eppu/core/engine';
import { encodePng } from '@eppu/core/format';
import { homeCamera } from '@eppu/core/projection';
import type { Picture } from '@eppu/core/surface';
import { loadKernels, loadPngWriter } from '@eppu/kernels/node';
import { zipSync } from 'fflate';
import { drawings, texelsOf, tiles } from './paint/items.ts';
import type { DemoProject } from './projects.ts';

/** Ids of the projects that are made of texels. */
export const itemIds = ['demo-items', 'demo-bundle'];

const nameOf = (name: string): string => name.toLowerCase().replace(/[^a-z]+/g, '-');

const sheetOf = (name: string, path?: string): Sheet => ({
	id: `item-${nameOf(name)}`,
	name,
	width: 16,
	height: 16,
	bleed: 0,
	base: null,
	guide: null,
	pixel: true,
	...(path ? { path } : {}),
	layers: [paintLayer(`item-${nameOf(name)}-texels`, 'Texels')],
});

const projectOf = (id: string, name: string, sheets: readonly Sheet[]): Project => ({
	schema: 1,
	id,
	name,
	palette: apiaryPalette,
	models: [],
	sheets,
});

const deskOf = (sheets: readonly Sheet[]): Desk => ({
	...emptyDesk,
	sheet: sheets[0]?.id ?? null,
	front: '#e8b345',
	back: '#523521',
});

/** Draws the items on their sheets. */
function draw(engine: Engine): void {
	for (const sheet of engine.project.sheets)
		engine.edit(sheet.id, sheet.layers[0]?.id, { do: 'texels', set: texelsOf(drawings[sheet.name] ?? []) });
}

/** The items' textures and the yard's tiles as a ZIP, with a file that says what it is. */
async function bundleZip(engine: Engine): Promise<Uint8Array<ArrayBuffer>> {
	const write = await loadPngWriter();
	const png = (picture: Picture): Uint8Array => encodePng(write, picture);
	const files: Record<string, [Uint8Array, { mtime: string }]> = {};
	const put = (path: string, bytes: Uint8Array): void => {
		files[path] = [bytes, { mtime: '2026-05-01T08:00:00Z' }];
	};
	put(
		'about.json',
		new TextEncoder().encode(`${JSON.stringify({ name: 'Mossbarrow textures', texels: 16 }, null, 2)}\n`),
	);
	for (const sheet of engine.project.sheets)
		put(`textures/items/${nameOf(sheet.name)}.png`, png(engine.composite(sheet.id)));
	for (const [name, picture] of Object.entries(tiles())) put(`textures/yard/${name}.png`, png(picture));
	put('notes/light.txt', new TextEncoder().encode('Light falls from the upper left.\n'));
	return new Uint8Array(zipSync(files));
}

/** Draws those of them that are asked for. */
export async function makeItemProjects(wanted: (id: string) => boolean): Promise<DemoProject[]> {
	const kernels = await loadKernels();
	const all = Object.keys(drawings).map((name) => sheetOf(name));
	const whole = openEngine(kernels, projectOf('all', 'All', all), [], new Map());
	draw(whole);
	const zip = await bundleZip(whole);
	whole.close();
	const file = { name: 'mossbarrow-textures.zip', bytes: zip };
	const own = all.slice(0, 4);
	const opened = [sheetOf('Honey jar', 'textures/items/honey-jar.png'), sheetOf('Bee', 'textures/items/bee.png')];
	const bundle = { hash: createHash('sha256').update(zip).digest('hex'), name: file.name };
	return (
		[
			{ project: projectOf('demo-items', 'Mossbarrow items', own), files: [] },
			{ project: { ...projectOf('demo-bundle', 'Mossbarrow textures', opened), bundle }, files: [file] },
		] as const
	)
		.filter(({ project }) => wanted(project.id))
		.map(({ project, files }) => {
			const engine = openEngine(kernels, project, [], new Map());
			draw(engine);
			return { engine, view: homeCamera, files, desk: deskOf(project.sheets) };
		});
}
