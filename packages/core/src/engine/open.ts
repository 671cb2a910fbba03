import type { Kernels } from '@eppu/kernels';
import { CommandError, type Id, type Project, sheetOf } from '../document/index.ts';
import type { Mesh } from '../mesh/index.ts';
import type { KeptTile } from './delta.ts';
import type { Engine } from './engine.ts';
import { isMemoryFull, memoryWords, ROOM_FOR_SAMPLES, roomForSheet } from './memory.ts';
import { changing } from './pixels.ts';
import { selecting } from './selections.ts';
import type { StrokeSpec } from './strokeSpec.ts';
import { stroking } from './strokes.ts';
import { reading } from './views.ts';
import { createCore } from './workspace.ts';

/** Opens a project with its kept tiles and the meshes of its models. Tiles that do not fit are left out and told. */
export function openEngine(
	kernels: Kernels,
	opened: Project,
	tiles: Iterable<KeptTile>,
	meshes: ReadonlyMap<Id, Mesh>,
): Engine {
	const core = createCore(kernels, opened, tiles, meshes);
	const { derivation, history, scenes, surfaces, turned } = core;
	const strokes = stroking(core);
	/** Does what may need room only where there is room for it, known before anything is changed. */
	const roomy =
		<A extends readonly unknown[], R>(bytes: (...args: NoInfer<A>) => number, act: (...args: A) => R) =>
		(...args: A): R => {
			try {
				kernels.heap.reserve(bytes(...args));
			} catch (error) {
				if (isMemoryFull(error)) throw new CommandError(memoryWords(core.project, surfaces));
				throw error;
			}
			return act(...args);
		};
	/** Bytes of the coverage of a stroke on the sheets that it may go over. */
	const coverageBytes = ({ layers }: StrokeSpec): number =>
		Object.keys(layers).reduce((sum, id) => {
			const sheet = sheetOf(core.project, id);
			return sum + (sheet ? sheet.width * sheet.height * 2 : 0);
		}, 0);
	const wholeSheet = (id: Id, ..._rest: readonly unknown[]): number => roomForSheet(sheetOf(core.project, id));
	const pixels = changing(core);
	const selections = selecting(core);
	const { begin, extend, end, cancel, prepare, warm } = strokes;
	return {
		...selections,
		...pixels,
		fill: roomy(wholeSheet, pixels.fill),
		edit: roomy(wholeSheet, pixels.edit),
		changeMask: roomy(wholeSheet, pixels.changeMask),
		mergeDown: roomy(wholeSheet, pixels.mergeDown),
		flatten: roomy(wholeSheet, pixels.flatten),
		lay: roomy(wholeSheet, pixels.lay),
		paste: roomy((_clip, sheet, ..._rest) => wholeSheet(sheet), pixels.paste),
		select: roomy(wholeSheet, selections.select),
		changeSelection: roomy(wholeSheet, selections.changeSelection),
		moveSelection: roomy(wholeSheet, selections.moveSelection),
		...reading(core, strokes),
		kernels,
		history,
		begin: roomy((spec: StrokeSpec, ..._rest) => ROOM_FOR_SAMPLES + coverageBytes(spec), begin),
		extend: roomy((..._rest) => ROOM_FOR_SAMPLES, extend),
		end,
		cancel,
		prepare,
		warm,
		pictures: core.means.pictures,
		run: roomy(
			(command, ..._rest) => (command.do === 'layer.add' && command.copyOf ? wholeSheet(command.sheet) : 0),
			core.run,
		),
		takeDelta: core.takeDelta,
		takeKept: core.takeKept,
		whole: core.whole,
		adopt: core.adopt,
		leftOut: core.leftOut,
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
