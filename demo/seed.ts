/** Puts the demo projects into the data file where they are not there yet. Usage: tsx demo/seed.ts [DATA-FILE] */
import { mkdirSync, writeFileSync } from 'node:fs';
import { dirname } from 'node:path';
import { coverPicture, encodePng } from '@eppu/core/format';
import { loadPngWriter } from '@eppu/kernels/node';
import { dataFile, keepMade, openSourceStore, packDelta } from '@eppu/server/store';
import { demoIds, makeDemoProjects } from './projects.ts';

const file = process.argv[2] ?? dataFile();
mkdirSync(dirname(file), { recursive: true });
const store = openSourceStore(file);
const write = await loadPngWriter();
const here = new Set([...store.list(), ...store.list(true)].map((card) => card.id));
const start = performance.now();
if (demoIds.some((id) => !here.has(id)))
	for (const { engine, desk, file: model, view } of (await makeDemoProjects((id) => !here.has(id))).reverse()) {
		const delta = engine.takeDelta();
		const tiles = packDelta(delta ?? { project: engine.project, tiles: [] });
		store.create(engine.project, [model], { desk, tiles });
		const cover = encodePng(write, coverPicture(engine, view, 480, 320));
		store.putCover(engine.project.id, Buffer.from(cover));
		// The first visit finds it as it was left.
		keepMade(store.made, engine);
		// The meshes stand beside the scripts that made them, for whoever wants to open them elsewhere.
		writeFileSync(new URL(`./out/${model.name}`, import.meta.url), model.bytes);
		console.log(
			`painted ${engine.project.name} (${tiles.length} tiles) after ${((performance.now() - start) / 1000).toFixed(1)} s`,
		);
	}
store.close();
