/** Puts the demo projects into the data file where they are not there yet. Usage: tsx demo/seed.ts [DATA-FILE] */
import { mkdirSync, writeFileSync } from 'node:fs';
import { dirname } from 'node:path';
import { coverOf, encodePng } from '@eppu/core/format';
import { loadPngWriter } from '@eppu/kernels/node';
import { dataFile, keepMade, openSourceStore, packDelta } from '@eppu/server/store';
import { gridIds, makeGridProjects } from './grid.ts';
import { itemIds, makeItemProjects } from './items.ts';
import { demoIds, makeDemoProjects } from './projects.ts';
import { makeSuitProjects, suitIds } from './suit.ts';

const file = process.argv[2] ?? dataFile();
mkdirSync(dirname(file), { recursive: true });
const store = openSourceStore(file);
const write = await loadPngWriter();
const here = new Set([...store.list(), ...store.list(true)].map((card) => card.id));
const start = performance.now();
const missing = (id: string): boolean => !here.has(id);
if ([...demoIds, ...itemIds, ...gridIds, ...suitIds].some(missing))
	for (const { engine, desk, files, view } of [
		...(await makeItemProjects(missing)),
		...(await makeSuitProjects(missing)),
		...(await makeGridProjects(missing)),
		...(await makeDemoProjects(missing)).reverse(),
	]) {
		const delta = engine.takeDelta();
		const tiles = packDelta(delta ?? { project: engine.project, tiles: [] });
		store.create(engine.project, files, { desk, tiles });
		const cover = encodePng(write, coverOf(engine, view, 480, 320));
		store.putCover(engine.project.id, Buffer.from(cover));
		// The first visit finds it as it was left.
		keepMade(store.made, engine);
		// The meshes stand beside the scripts that made them, for whoever wants to open them elsewhere.
		for (const { name, bytes } of files) writeFileSync(new URL(`./out/${name}`, import.meta.url), bytes);
		console.log(
			`painted ${engine.project.name} (${tiles.length} tiles) after ${((performance.now() - start) / 1000).toFixed(1)} s`,
		);
	}
store.close();
