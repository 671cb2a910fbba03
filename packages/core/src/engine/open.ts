import type { Kernels } from '@eppu/kernels';
import { CommandError, commandKindOf, type Doing, type Id, type Project, sheetOf } from '../document/index.ts';
import type { LaidMesh } from '../mesh/index.ts';
import { surfaceBytes } from '../surface/index.ts';
import { bringing } from './bringing.ts';
import { clips } from './clips.ts';
import type { KeptTile } from './delta.ts';
import type { Engine } from './engine.ts';
import { gridding } from './grid.ts';
import { indexing } from './indexing.ts';
import { layouts } from './layouts.ts';
import { madeKeeping } from './made.ts';
import { masks } from './masks.ts';
import { isMemoryFull, memoryWords, ROOM_FOR_SAMPLES, roomForSheet } from './memory.ts';
import { merging } from './merging.ts';
import { passing } from './passes.ts';
import { pictures } from './pictures.ts';
import { pixels } from './pixels.ts';
import { recoloring } from './recolor.ts';
import { seenEdits } from './seen.ts';
import { selecting } from './selections.ts';
import { stepKeeping } from './steps.ts';
import type { StrokeSpec } from './strokeSpec.ts';
import { stroking } from './strokes.ts';
import { twins } from './twin.ts';
import { vertexColors } from './vertexColors.ts';
import { reading } from './views.ts';
import { createWorkspace } from './workspace.ts';

/** Opens a project with its kept tiles and the meshes of its models. Tiles that do not fit are left out and told. */
// biome-ignore lint/complexity/noExcessiveLinesPerFunction: the list of what an engine offers, put together from its facets.
export function openEngine(
	kernels: Kernels,
	opened: Project,
	tiles: Iterable<KeptTile>,
	meshes: ReadonlyMap<Id, LaidMesh>,
): Engine {
	const workspace = createWorkspace(kernels, opened, tiles, meshes);
	const { derivation, history, scenes, surfaces, turned } = workspace;
	const strokes = stroking(workspace);
	/** Does what may need room only where there is room for it, known before anything is changed. */
	const roomy =
		<A extends readonly unknown[], R>(bytes: (...args: NoInfer<A>) => number, act: (...args: A) => R) =>
		(...args: A): R => {
			try {
				kernels.heap.reserve(bytes(...args));
			} catch (error) {
				if (isMemoryFull(error)) throw new CommandError(memoryWords(workspace.project, surfaces));
				throw error;
			}
			return act(...args);
		};
	/** Bytes of the coverage of a stroke on the sheets that it may go over. */
	const coverageBytes = ({ layers }: StrokeSpec): number =>
		Object.keys(layers).reduce((sum, id) => {
			const sheet = sheetOf(workspace.project, id);
			return sum + (sheet ? sheet.width * sheet.height * 2 : 0);
		}, 0);
	const wholeSheet = (id: Id, ..._rest: readonly unknown[]): number => roomForSheet(sheetOf(workspace.project, id));
	const wholeModel = (id: Id): number =>
		[...new Set(scenes.get(id)?.model.parts.map((part) => part.sheet))].reduce(
			(sum, sheet) => sum + wholeSheet(sheet),
			0,
		);
	const pixel = pixels(workspace);
	const mask = masks(workspace);
	const merge = merging(workspace);
	const laying = layouts(workspace);
	const grids = gridding(workspace, laying.relay);
	const painted = vertexColors(workspace);
	const clip = clips(workspace);
	const selections = selecting(workspace);
	const seen = seenEdits(workspace);
	const brought = bringing(workspace);
	const seenAlone = pictures(workspace);
	const { begin, extend, end, cancel, prepare, warm } = strokes;
	return {
		...selections,
		...seen,
		...stepKeeping(workspace),
		...madeKeeping(workspace),
		...recoloring(workspace),
		...indexing(workspace),
		...brought,
		...passing(workspace, { ...seenAlone, ...brought }),
		...grids,
		...twins(workspace),
		...clip,
		fill: roomy(wholeSheet, pixel.fill),
		edit: roomy(wholeSheet, pixel.edit),
		changeMask: roomy(wholeSheet, mask.changeMask),
		mergeDown: roomy(wholeSheet, merge.mergeDown),
		flatten: roomy(wholeSheet, merge.flatten),
		lay: roomy(wholeSheet, pixel.lay),
		cut: roomy(wholeSheet, clip.cut),
		paste: roomy((_clip, sheet, ..._rest) => wholeSheet(sheet), clip.paste),
		editSeen: roomy((model, ..._rest) => wholeModel(model), seen.editSeen),
		selectSeen: roomy((model, ..._rest) => wholeModel(model), selections.selectSeen),
		select: roomy(wholeSheet, selections.select),
		changeSelection: roomy(wholeSheet, selections.changeSelection),
		moveSelection: roomy(wholeSheet, selections.moveSelection),
		...reading(workspace, strokes),
		...seenAlone,
		kernels,
		history,
		begin: roomy((spec: StrokeSpec, ..._rest) => ROOM_FOR_SAMPLES + coverageBytes(spec), begin),
		extend: roomy((..._rest) => ROOM_FOR_SAMPLES, extend),
		end,
		cancel,
		prepare,
		warm,
		pictures: workspace.means.pictures,
		run: roomy(
			(command: Doing, ..._rest) =>
				(commandKindOf(command).surfaces?.(command, workspace.project) ?? []).reduce(
					(sum, { start, sheet }) => sum + (typeof start === 'object' && sheet !== null ? wholeSheet(sheet) : 0),
					0,
				),
			workspace.run,
		),
		runAll: roomy((..._rest) => 0, workspace.runAll),
		takeDelta: workspace.takeDelta,
		takeKept: workspace.takeKept,
		whole: workspace.whole,
		adopt: workspace.adopt,
		layAgain: workspace.layAgain,
		meshes: workspace.meshes,
		seams: laying.seams,
		markSeams: laying.markSeams,
		sceneAs(id, layout) {
			const model = workspace.project.models.find((each) => each.id === id);
			return model && scenes.has(id) ? workspace.sceneAs(model, layout) : null;
		},
		...painted,
		vertexLayer: roomy((model, ..._rest) => wholeModel(model), painted.vertexLayer),
		relay: roomy((..._rest) => [...surfaces.values()].reduce((sum, each) => sum + surfaceBytes(each), 0), laying.relay),
		leftOut: workspace.leftOut,
		get project() {
			return workspace.project;
		},
		get stroking() {
			return strokes.stroking;
		},
		get missed() {
			return strokes.missed;
		},
		get turn() {
			return workspace.turn;
		},
		get selectionTurn() {
			return workspace.selectionTurn;
		},
		get due() {
			return derivation.due;
		},
		get left() {
			return derivation.left;
		},
		refresh(stop, others) {
			const found = derivation.refresh(stop, others);
			if (found.size) workspace.unders.drop();
			return new Map([...found].map(([sheet, list]) => [sheet, [...list]]));
		},
		near: (sheet, x, y) => derivation.near(sheet, x, y),
		renew: () => derivation.follow(workspace.project),
		lend(most) {
			const loan = derivation.lend(most);
			return loan && { job: 'derive', ...loan };
		},
		returned: (work, made) => derivation.returned(work, made),
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
			workspace.close();
		},
	};
}
