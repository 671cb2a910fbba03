import type { Kernels } from '@eppu/kernels';
import { type Compositor, createCompositor, dropUnder, type UnderCache } from '../composite/index.ts';
import {
	createDerivation,
	type Derivation,
	type Means,
	picturesOf,
	splitOf,
	stackOf,
	tilesOfLayer,
} from '../derive/index.ts';
import {
	allTiles,
	applyCommand,
	type Command,
	CommandError,
	eachLayer,
	type Id,
	type Layer,
	layerOf,
	type Project,
	type Sheet,
	sheetOf,
	surfacesOfCommand,
	surfacesOfLayer,
	surfacesOfSheet,
} from '../document/index.ts';
import type { Mesh } from '../mesh/index.ts';
import { createScene, type Scene, sceneOfSheet } from '../scene/index.ts';
import {
	clearSurface,
	copySurface,
	createSurface,
	dropTile,
	Kind,
	type Picture,
	type Surface,
	type SurfaceId,
	setTileState,
	settleTile,
	type TileRecord,
	tileBytes,
	tileIntoPicture,
	tileState,
} from '../surface/index.ts';
import { type Delta, deltaTiles, type KeptTile } from './delta.ts';
import { type Dirty, merged, none } from './dirty.ts';
import type { Seen } from './focus.ts';
import { createHistory, type History } from './history.ts';

/** What the parts of an engine share: the document, its surfaces and history, and the one way in which both change. */
export interface Core {
	readonly kernels: Kernels;
	readonly compositor: Compositor;
	readonly surfaces: Map<SurfaceId, Surface>;
	readonly scenes: ReadonlyMap<Id, Scene>;
	readonly means: Means;
	readonly derivation: Derivation;
	readonly history: History;
	readonly project: Project;
	/** Counts changes of selections. */
	readonly selectionTurn: number;
	/** The part of a sheet that is looked at; null where all is. */
	seen: Seen | null;
	/** A sheet by its id; throws CommandError where it is not there. */
	need(id: Id): Sheet;
	sceneOf(sheet: Id): Scene | undefined;
	selectionOf(sheet: Sheet): Surface | undefined;
	/** Applies a command and what it asks of the surfaces; what must be shown anew is told, history is the caller's. */
	carry(command: Command): { readonly inverse: Command; readonly words: string; readonly dirty: Dirty };
	/** Applies a command as a step of its own. */
	run(command: Command, gesture?: string): Dirty;
	/** Puts changes of texels into history as one step. */
	pushRecord(words: string, records: readonly TileRecord[], sheet: Id, gesture?: string): Dirty;
	/** Takes back the last step of a gesture that goes on. */
	retake(gesture: string | undefined): Dirty;
	/** Does the commands of a step that history turned, and shows its records. */
	turned(commands: readonly Command[], records: readonly TileRecord[]): Dirty;
	/** Notes a record's tiles as to be kept, and what reads them as to be computed. */
	markChanged(record: TileRecord): void;
	/** Notes all of a new surface as to be kept. */
	markWhole(surface: Surface): void;
	/** Computes all that is due for a sheet. */
	settle(sheet?: Id): void;
	/** The composite of a sheet as one picture. */
	pictureOf(sheet: Sheet): Picture;
	underFor(sheet: Sheet, layer: Id): UnderCache;
	dropUnders(): void;
	takeDelta(): Delta | null;
	whole(): Delta;
	/** The records of a stroke that is being made: what is kept meanwhile is without it. */
	stroked: () => readonly TileRecord[];
	/** Takes kept tiles in, as the project is opened: nothing of them is told or kept anew. */
	takeKept(tiles: Iterable<KeptTile>): void;
	/** Surfaces of kept tiles that did not fit, and so are not here, one for each tile. */
	readonly leftOut: readonly SurfaceId[];
	/** The project goes on under another id and name: no step, and nothing to be kept. */
	adopt(id: Id, name: string): void;
	close(): void;
}

/** 32 KiB each: 24 MB at the most. */
const UNDER_TILES = 768;

/** Opens a project with its kept tiles and the meshes of its models. Tiles that do not fit are left out and told. */
export function createCore(
	kernels: Kernels,
	opened: Project,
	tiles: Iterable<KeptTile>,
	meshes: ReadonlyMap<Id, Mesh>,
): Core {
	const { heap } = kernels;
	const compositor: Compositor = createCompositor(kernels);
	const surfaces = new Map<SurfaceId, Surface>();
	const scenes = new Map<Id, Scene>();
	const changed = new Map<SurfaceId, Set<number>>();
	/** Surfaces of which all is to be kept: new ones, and those that came back. */
	const wholes = new Set<SurfaceId>();
	const leftOut: string[] = [];
	let project = opened;
	let outlineChanged = false;
	const unders = new Map<Id, { readonly layer: Id; readonly cache: UnderCache }>();
	let selectionTurn = 0;
	const pictures = picturesOf(kernels);
	const means: Means = { kernels, compositor, surfaces, scenes, pictures, prefixes: { current: null } };
	const derivation = createDerivation(means, surfaces);

	const history = createHistory(kernels, (gone) => {
		const live = new Set(project.sheets.flatMap((sheet) => surfacesOfSheet(sheet).map((s) => s.id)));
		for (const step of [...history.done, ...history.undone])
			for (const command of [...step.undo, ...step.redo]) for (const id of surfacesOfCommand(command)) live.add(id);
		for (const id of gone) {
			const surface = surfaces.get(id);
			if (!surface || live.has(id)) continue;
			clearSurface(heap, surface);
			surfaces.delete(id);
			changed.delete(id);
			wholes.delete(id);
		}
	});

	const need = (id: Id): Sheet => {
		const sheet = sheetOf(project, id);
		if (!sheet) throw new CommandError('That sheet is not in this project any more. Nothing was changed.');
		return sheet;
	};
	const ensureSurfaces = (sheet: Sheet, layer: Layer): void => {
		for (const { id, format } of surfacesOfLayer(layer))
			if (!surfaces.has(id)) surfaces.set(id, createSurface(id, format, sheet.width, sheet.height));
	};
	const markChanged = (record: TileRecord): void => {
		let set = changed.get(record.surface.id);
		if (!set) changed.set(record.surface.id, (set = new Set()));
		for (const index of record.tiles.keys()) set.add(index);
		derivation.touched(record.surface.id, record.tiles.keys());
		if (project.sheets.some((sheet) => sheet.selection === record.surface.id)) selectionTurn++;
	};
	const markWhole = (surface: Surface): void => void wholes.add(surface.id);
	const dropUnders = (): void => {
		for (const { cache } of unders.values()) dropUnder(kernels, cache);
		unders.clear();
	};

	/** Applies a command and what it asks of the surfaces; returns what must be shown anew. */
	const carry = (command: Command): { readonly inverse: Command; readonly words: string; readonly dirty: Dirty } => {
		const before = project;
		const applied = applyCommand(project, command);
		if (command.do === 'layer.add') {
			const sheet = need(command.sheet);
			if (command.copyOf) {
				const from = layerOf(sheet, command.copyOf);
				const [theirs, ours] = [from ? surfacesOfLayer(from) : [], surfacesOfLayer(command.layer)];
				ours.forEach(({ id, format }, i) => {
					const source = theirs[i]?.format === format ? surfaces.get(theirs[i].id) : undefined;
					if (surfaces.has(id) || !source) return;
					const copy = copySurface(heap, source, id);
					surfaces.set(id, copy);
					markWhole(copy);
				});
			}
			ensureSurfaces(sheet, command.layer);
		}
		if (command.do === 'selection.set' && command.selection && !surfaces.has(command.selection)) {
			const sheet = need(command.sheet);
			surfaces.set(command.selection, createSurface(command.selection, 'mask', sheet.width, sheet.height));
		}
		if (command.do === 'layer.change' && command.change.mask && !surfaces.has(command.change.mask.surface)) {
			const sheet = need(command.sheet);
			const mask = createSurface(command.change.mask.surface, 'mask', sheet.width, sheet.height);
			// A new mask shows all.
			mask.kinds.fill(Kind.uniform);
			mask.data.fill(255);
			surfaces.set(mask.id, mask);
			markWhole(mask);
		}
		project = applied.project;
		// What comes back (undo, redo) may have been let go of where it is kept: all of it is given again.
		const named = new Set(before.sheets.flatMap(surfacesOfSheet).map((each) => each.id));
		for (const { id } of project.sheets.flatMap(surfacesOfSheet)) if (!named.has(id)) wholes.add(id);
		if (command.do === 'selection.set') selectionTurn++;
		derivation.follow(project);
		outlineChanged = true;
		dropUnders();
		return { inverse: applied.inverse, words: applied.words, dirty: dirtyOf(command, before) };
	};
	const dirtyOf = (command: Command, before: Project): Dirty => {
		if (!('sheet' in command) || command.do === 'selection.set') return none;
		const sheet = need(command.sheet);
		if (!('layer' in command)) return new Map([[sheet.id, allTiles(sheet)]]);
		if (
			command.do === 'layer.change' &&
			Object.keys(command.change).every((key) => key === 'name' || key === 'coat' || key.startsWith('lock'))
		)
			return none;
		const id = typeof command.layer === 'string' ? command.layer : command.layer.id;
		const was = layerOf(sheetOf(before, command.sheet), id);
		const now = layerOf(sheet, id);
		const found = new Set<number>();
		for (const layer of [was, now]) if (layer) for (const tile of tilesOfLayer(sheet, layer, surfaces)) found.add(tile);
		// Taking a base away lets what was clipped to it be shaped by another: those layers' tiles too.
		const all = [...eachLayer(sheetOf(before, command.sheet)?.layers ?? []), ...eachLayer(sheet.layers)];
		for (const layer of all) if (layer.clip) for (const tile of tilesOfLayer(sheet, layer, surfaces)) found.add(tile);
		return new Map([[sheet.id, [...found]]]);
	};
	const pushRecord = (words: string, records: readonly TileRecord[], sheet: Id, gesture?: string): Dirty => {
		const full = records.filter((record) => record.tiles.size > 0);
		if (full.length === 0) return none;
		history.push({ words, undo: [], redo: [], records: full, ...(gesture ? { gesture } : {}) });
		for (const record of full) markChanged(record);
		return new Map([[sheet, [...new Set(full.flatMap((record) => [...record.tiles.keys()]))]]]);
	};
	/** Takes back the last step of a gesture that goes on. */
	const retake = (gesture: string | undefined): Dirty => {
		if (!gesture || history.done.at(-1)?.gesture !== gesture) return none;
		const step = history.back();
		const dirty = step ? turned(step.undo, step.records) : none;
		history.cut();
		return dirty;
	};
	const selectionOf = (sheet: Sheet): Surface | undefined => surfaces.get(sheet.selection ?? '');
	const sceneOf = (sheet: Id): Scene | undefined => sceneOfSheet(scenes, sheet);
	const settle = (sheet?: Id): void => {
		if (derivation.settle(sheet)) dropUnders();
	};
	const turned = (commands: readonly Command[], records: readonly TileRecord[]): Dirty => {
		const dirties = commands.map((command) => carry(command).dirty);
		for (const record of records) {
			markChanged(record);
			const sheet = project.sheets.find((each) =>
				surfacesOfSheet(each).some((s) => s.id === record.surface.id && s.id !== each.selection),
			);
			if (sheet) dirties.push(new Map([[sheet.id, [...record.tiles.keys()]]]));
		}
		dropUnders();
		return merged(dirties);
	};
	for (const sheet of project.sheets)
		for (const { id, format } of surfacesOfSheet(sheet))
			if (!surfaces.has(id)) surfaces.set(id, createSurface(id, format, sheet.width, sheet.height));
	const takeKept = (list: Iterable<KeptTile>): void => {
		for (const { surface: id, index, count = 1, value, texels } of list) {
			const surface = surfaces.get(id);
			if (!surface) continue;
			const { format } = surface;
			if (index + count > surface.kinds.length || (texels && texels.length !== tileBytes(format))) {
				leftOut.push(id);
				continue;
			}
			for (let i = index; i < index + count; i++) {
				dropTile(heap, format, tileState(surface, i));
				if (texels) {
					const at = heap.alloc(tileBytes(format));
					heap.u8.set(texels, at);
					setTileState(surface, i, settleTile(kernels, format, at));
				} else setTileState(surface, i, { kind: value ? Kind.uniform : Kind.empty, data: value ?? 0 });
			}
		}
	};
	takeKept(tiles);
	for (const model of project.models) {
		const mesh = meshes.get(model.id);
		if (mesh) scenes.set(model.id, createScene(kernels, model, mesh));
	}
	derivation.follow(project);

	/** The composite of a sheet as one picture. */
	const pictureOf = (sheet: Sheet): Picture => {
		const picture = {
			width: sheet.width,
			height: sheet.height,
			data: new Uint8Array(sheet.width * sheet.height * 4),
		};
		settle(sheet.id);
		const stack = stackOf(sheet, surfaces).layers;
		const out = heap.alloc(tileBytes('color'));
		for (const tile of allTiles(sheet)) {
			compositor.tile(stack, tile, out);
			tileIntoPicture(heap.u8.subarray(out, out + tileBytes('color')), picture, tile);
		}
		heap.free(out, tileBytes('color'));
		return picture;
	};
	/** What lies under a layer that is painted on, composited once a tile while the stroke runs. */
	const underFor = (sheet: Sheet, layer: Id): UnderCache => {
		const known = unders.get(sheet.id);
		if (known?.layer === layer) return known.cache;
		if (known) dropUnder(kernels, known.cache);
		const cache = { split: splitOf(stackOf(sheet, surfaces, layer)), tiles: new Map(), limit: UNDER_TILES };
		unders.set(sheet.id, { layer, cache });
		return cache;
	};

	const core: Core = {
		seen: null,
		stroked: () => [],
		leftOut,
		takeKept,
		kernels,
		compositor,
		surfaces,
		scenes,
		means,
		derivation,
		history,
		get project() {
			return project;
		},
		get selectionTurn() {
			return selectionTurn;
		},
		need,
		sceneOf,
		selectionOf,
		carry,
		pushRecord,
		retake,
		turned,
		markChanged,
		markWhole,
		settle,
		pictureOf,
		underFor,
		dropUnders,
		run(command, gesture) {
			const { inverse, words, dirty } = carry(command);
			history.push({ words, undo: [inverse], redo: [command], records: [], ...(gesture ? { gesture } : {}) });
			return dirty;
		},
		takeDelta() {
			if (!outlineChanged && changed.size === 0 && wholes.size === 0) return null;
			const list = deltaTiles(heap, project, surfaces, changed, wholes, core.stroked());
			changed.clear();
			wholes.clear();
			outlineChanged = false;
			return { project, tiles: list };
		},
		whole: () => ({
			project,
			tiles: deltaTiles(heap, project, surfaces, changed, new Set(surfaces.keys()), core.stroked()),
		}),
		adopt(id, name) {
			project = { ...project, id, name };
		},
		close() {
			history.clear();
			dropUnders();
			derivation.drop();
			for (const scene of scenes.values()) scene.drop();
			for (const surface of surfaces.values()) clearSurface(heap, surface);
			compositor.drop();
		},
	};
	return core;
}
