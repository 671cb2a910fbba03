import type { Kernels } from '@eppu/kernels';
import type { Mesh } from '../mesh/index.ts';
import { changing } from './changing.ts';
import { createCore } from './core.ts';
import type { KeptTile } from './dirty.ts';
import type { Engine } from './engine.ts';
import type { Id, Project } from './project.ts';
import { reading } from './reading.ts';
import { selecting } from './selecting.ts';
import { stroking } from './stroking.ts';

/** Opens a project with its kept tiles and the meshes of its models. Throws RangeError where a tile does not fit. */
export function openEngine(
	kernels: Kernels,
	opened: Project,
	tiles: Iterable<KeptTile>,
	meshes: ReadonlyMap<Id, Mesh>,
): Engine {
	const core = createCore(kernels, opened, tiles, meshes);
	const { derivation, history, scenes, surfaces, turned } = core;
	const strokes = stroking(core);
	const { begin, extend, end, cancel, prepare, warm } = strokes;
	return {
		...selecting(core),
		...changing(core),
		...reading(core, strokes),
		kernels,
		history,
		begin,
		extend,
		end,
		cancel,
		prepare,
		warm,
		pictures: core.means.pictures,
		run: core.run,
		takeDelta: core.takeDelta,
		get project() {
			return core.project;
		},
		get stroking() {
			return strokes.stroking;
		},
		get missed() {
			return strokes.missed;
		},
		get selectionTurn() {
			return core.selectionTurn;
		},
		get due() {
			return derivation.due;
		},
		get left() {
			return derivation.left;
		},
		refresh(stop) {
			const found = derivation.refresh(stop);
			if (found.size) core.dropUnders();
			return new Map([...found].map(([sheet, list]) => [sheet, [...list]]));
		},
		renew: () => derivation.follow(core.project),
		scene: (model) => scenes.get(model),
		surface: (id) => surfaces.get(id),
		undo() {
			const step = history.back();
			return step && { words: step.words, dirty: turned(step.undo, step.records) };
		},
		redo() {
			const step = history.forth();
			return step && { words: step.words, dirty: turned(step.redo, step.records) };
		},
		close() {
			strokes.drop();
			core.close();
		},
	};
}
