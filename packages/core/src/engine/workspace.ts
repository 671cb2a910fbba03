import type { Kernels } from '@eppu/kernels';
import { type Compositor, createCompositor, pictureOfStack } from '../composite/index.ts';
import { createDerivation, type Derivation, type Means, picturesOf, stackOf, tilesOfLayer } from '../derive/index.ts';
import {
	type Applied,
	allTiles,
	applyCommand,
	bakeFilesOf,
	type Command,
	CommandError,
	commandKindOf,
	type Doing,
	eachLayer,
	type Id,
	layerOf,
	type Model,
	needSheet,
	type Project,
	type Sheet,
	sheetOf,
	surfacesNamed,
	surfacesOfProject,
	surfacesOfSheet,
} from '../document/index.ts';
import { layoutOfBytes } from '../layout/index.ts';
import type { LaidMesh } from '../mesh/index.ts';
import { createScenes, type Scene, type Scenes, sceneOfSheet } from '../scene/index.ts';
import { bytesOfSurface, type Picture, type Surface, type SurfaceId, type TileRecord } from '../surface/index.ts';
import type { Delta, KeptTile } from './delta.ts';
import { type Dirty, merged, none } from './dirty.ts';
import type { Seen } from './focus.ts';
import { createHistory, type History } from './history.ts';
import { followedRecords, hasIndexed, projectEntries } from './indexed.ts';
import { createSurfaces, type Surfaces } from './surfaces.ts';
import { createUnders, type Unders } from './unders.ts';

/** What a command did: what takes it back, the step in words, and what must be shown anew. */
export interface Carried extends Omit<Applied, 'project'> {
	readonly dirty: Dirty;
}

/** What the facets of an engine share: the document, its surfaces and history, and the one way in which all change. */
export interface Workspace {
	readonly kernels: Kernels;
	readonly compositor: Compositor;
	readonly surfaces: ReadonlyMap<SurfaceId, Surface>;
	readonly scenes: ReadonlyMap<Id, Scene>;
	readonly means: Means;
	readonly derivation: Derivation;
	readonly history: History;
	readonly unders: Unders;
	readonly project: Project;
	/** Counts changes of any kind, undo and redo among them: whoever remembers what was made asks it. */
	readonly turn: number;
	/** Counts changes of selections. */
	readonly selectionTurn: number;
	/** The part of a sheet that is looked at; null where all is. */
	seen: Seen | null;
	/** A sheet by its id; throws CommandError where it is not there. */
	need(id: Id): Sheet;
	sceneOf(sheet: Id): Scene | undefined;
	selectionOf(sheet: Sheet): Surface | undefined;
	/** Applies a command and what it asks of the surfaces; history is the caller's. */
	carry(command: Command | Doing): Carried;
	/** Applies a command as a step of its own. */
	run(command: Command | Doing, gesture?: string): Dirty;
	/** Applies commands one after the other as one step; where one does not fit none is done. */
	runAll(commands: readonly (Command | Doing)[], words: string, gesture?: string): Dirty;
	/** Puts changes of texels into history as one step, together with commands that belong to it. */
	pushRecord(
		words: string,
		records: readonly TileRecord[],
		sheet: Id,
		gesture?: string,
		also?: readonly Doing[],
	): Dirty;
	/** The same of several sheets. */
	pushRecords(
		words: string,
		records: ReadonlyMap<Id, readonly TileRecord[]>,
		gesture?: string,
		also?: readonly Doing[],
	): Dirty;
	/** Takes back the last step of a gesture that goes on. */
	retake(gesture: string | undefined): Dirty;
	/** Does the commands of a step that history turned, and shows its records. */
	turned(commands: readonly Doing[], records: readonly TileRecord[]): Dirty;
	/** Notes a record's tiles as to be kept, and what reads them as to be computed. */
	markChanged(record: TileRecord): void;
	/** A surface that was made and filled beside the document takes its place. */
	addSurface(surface: Surface): void;
	/** Computes all that is due for a sheet. */
	settle(sheet?: Id): void;
	/** The composite of a sheet as one picture. */
	pictureOf(sheet: Sheet): Picture;
	takeDelta(): Delta | null;
	whole(): Delta;
	/** The records of a stroke that is being made: what is kept meanwhile is without it. */
	stroked: () => readonly TileRecord[];
	/** Takes kept tiles in, as the project is opened: nothing of them is told or kept anew. */
	takeKept(tiles: Iterable<KeptTile>): void;
	/** After more kept tiles came: models lie as those say. */
	layAgain(): void;
	/** A model's scene as if it were another, to look at beforehand; whoever asks drops it. */
	sceneAs: Scenes['as'];
	/** Meshes as their files say, by the hash of the file: one is put in before a command names it. */
	readonly meshes: Map<string, LaidMesh>;
	/** Surfaces of kept tiles that did not fit, and so are not here, one for each tile. */
	readonly leftOut: readonly SurfaceId[];
	/** The project goes on under another id and name: no step, and nothing to be kept. */
	adopt(id: Id, name: string): void;
	close(): void;
}

/** Tiles of a sheet that a change of one layer of it may show in. */
function tilesTouched(before: Project, now: Sheet, layer: Id, surfaces: Surfaces['map']): number[] {
	const was = sheetOf(before, now.id);
	const found = new Set<number>();
	// Taking a base away lets what was clipped to it be shaped by another: those layers' tiles too.
	const seen = [was, now].flatMap((sheet) => [
		...[layerOf(sheet, layer)].filter((each) => each !== undefined),
		...[...eachLayer(sheet?.layers ?? [])].filter((each) => each.clip),
	]);
	for (const each of new Set(seen)) for (const tile of tilesOfLayer(now, each, surfaces)) found.add(tile);
	return [...found];
}

/** Opens a project with its kept tiles and the meshes of its models. Tiles that do not fit are left out and told. */
// biome-ignore lint/complexity/noExcessiveLinesPerFunction: the one owner of the document: what changes it stands in one place.
export function createWorkspace(
	kernels: Kernels,
	opened: Project,
	tiles: Iterable<KeptTile>,
	meshes: ReadonlyMap<Id, LaidMesh>,
): Workspace {
	const { heap } = kernels;
	const compositor = createCompositor(kernels);
	const owned = createSurfaces(kernels, opened);
	const surfaces = owned.map;
	const unders = createUnders(kernels, surfaces);
	/** By the hash of the file: what the project names now, and what its steps bring back. */
	const byFile = new Map<string, LaidMesh>();
	for (const { id, asset } of opened.models) {
		const mesh = meshes.get(id);
		if (mesh) byFile.set(asset.hash, mesh);
	}
	const meshOf = ({ asset }: Model): LaidMesh | undefined => byFile.get(asset.hash);
	const scenes = createScenes(kernels, meshOf, ({ layout }) => {
		const surface = surfaces.get(layout?.surface ?? '');
		return layout && surface ? layoutOfBytes(bytesOfSurface(heap, surface, layout.bytes)) : null;
	});
	let project = opened;
	let turn = 0;
	let selectionTurn = 0;
	const pictures = picturesOf(kernels);
	const means: Means = {
		kernels,
		compositor,
		surfaces,
		scenes: scenes.map,
		meshes: byFile,
		pictures,
		prefixes: { current: null },
	};
	const derivation = createDerivation(means, surfaces);
	const surfacesNow = (each: Project): SurfaceId[] => surfacesOfProject(each).map(({ id }) => id);

	const history = createHistory(kernels, (gone) => {
		const live = new Set(surfacesNow(project));
		for (const step of [...history.done, ...history.undone])
			for (const command of [...step.undo, ...step.redo]) for (const id of surfacesNamed(command)) live.add(id);
		owned.forget([...gone].filter((id) => !live.has(id)));
	});

	const need = (id: Id): Sheet => needSheet(project, id);
	const markChanged = (record: TileRecord): void => {
		turn++;
		owned.touch(record);
		derivation.touched(record.surface.id, record.tiles.keys());
		if (project.sheets.some((sheet) => sheet.selection === record.surface.id)) selectionTurn++;
	};
	const carry = (command: Doing): Carried => {
		const before = project;
		const kind = commandKindOf(command);
		const applied = applyCommand(project, command);
		for (const each of kind.surfaces?.(command, before) ?? []) {
			if (each.sheet !== null) owned.begin(each, need(each.sheet));
			else if (!surfaces.has(each.id))
				throw new CommandError('What that step needs is not in memory any more. Nothing was changed.');
		}
		const strange = applied.project.models.find(
			(model) => !meshOf(model) && !before.models.some(({ asset }) => asset.hash === model.asset.hash),
		);
		if (strange)
			throw new CommandError(
				`The file of "${strange.name}" (${strange.asset.name}) is not at hand. Nothing was changed.`,
			);
		const lost = bakeFilesOf(applied.project).find(
			({ hash }) =>
				!byFile.has(hash) && !pictures.maps.has(hash) && !bakeFilesOf(before).some((each) => each.hash === hash),
		);
		if (lost) throw new CommandError(`The file ${lost.name} is not at hand. Nothing was changed.`);
		project = applied.project;
		turn++;
		// What comes back (undo, redo) may have been let go of where it is kept: all of it is given again.
		const named = new Set(surfacesNow(before));
		for (const id of surfacesNow(project)) if (!named.has(id)) owned.touchAll(id);
		if (project.sheets.some((sheet, i) => sheet.selection !== before.sheets[i]?.selection)) selectionTurn++;
		scenes.follow(project);
		derivation.follow(project);
		owned.touchDocument();
		unders.drop();
		const { inverse, words } = applied;
		const touched = kind.touched(command);
		if (touched === 'everything')
			return { inverse, words, dirty: new Map(project.sheets.map((each) => [each.id, allTiles(each)])) };
		if (touched === 'nothing' || 'model' in touched) return { inverse, words, dirty: none };
		const sheet = need(touched.sheet);
		const tiles = touched.layer === undefined ? allTiles(sheet) : tilesTouched(before, sheet, touched.layer, surfaces);
		return { inverse, words, dirty: new Map([[sheet.id, tiles]]) };
	};
	const pushRecords = (
		words: string,
		records: ReadonlyMap<Id, readonly TileRecord[]>,
		gesture?: string,
		also: readonly Doing[] = [],
	): Dirty => {
		const full = [...records].flatMap(([sheet, list]) => {
			const changed = list.filter((record) => record.tiles.size > 0);
			return changed.length ? [[sheet, changed] as const] : [];
		});
		if (full.length === 0) return new Map();
		const all = full.flatMap(([, list]) => list);
		const done = also.map(carry);
		const undo = done.map(({ inverse }) => inverse).reverse();
		history.push({ words, undo, redo: also, records: all, ...(gesture ? { gesture } : {}) });
		for (const record of all) markChanged(record);
		const laid = new Map(
			full.map(([sheet, list]) => [sheet, [...new Set(list.flatMap((record) => [...record.tiles.keys()]))]]),
		);
		return merged([...done.map(({ dirty }) => dirty), laid]);
	};
	const pushRecord: Workspace['pushRecord'] = (words, records, sheet, gesture, also) =>
		pushRecords(words, new Map([[sheet, records]]), gesture, also);
	const turned = (commands: readonly Doing[], records: readonly TileRecord[]): Dirty => {
		const dirties = commands.map((command) => carry(command).dirty);
		for (const record of records) {
			markChanged(record);
			const sheet = project.sheets.find((each) =>
				surfacesOfSheet(each).some((s) => s.id === record.surface.id && s.id !== each.selection),
			);
			if (sheet) dirties.push(new Map([[sheet.id, [...record.tiles.keys()]]]));
		}
		unders.drop();
		return merged(dirties);
	};
	/** What points at entries goes along where commands put another palette in place. */
	const followed = (commands: readonly Doing[]): Map<Id, TileRecord[]> => {
		if (!hasIndexed(project)) return new Map();
		const next = commands.reduce((each, command) => applyCommand(each, command).project, project);
		if (next.palette === project.palette) return new Map();
		return followedRecords({ kernels, surfaces }, project.sheets, projectEntries(project), projectEntries(next));
	};
	const settle = (sheet?: Id): void => {
		if (derivation.settle(sheet)) unders.drop();
	};
	owned.takeKept(tiles);
	scenes.follow(project);
	derivation.follow(project);

	const workspace: Workspace = {
		seen: null,
		stroked: () => [],
		leftOut: owned.leftOut,
		takeKept: owned.takeKept,
		layAgain() {
			if (project.models.some(({ layout }) => layout)) scenes.again(project);
		},
		sceneAs: scenes.as,
		meshes: byFile,
		kernels,
		compositor,
		surfaces,
		scenes: scenes.map,
		means,
		derivation,
		history,
		unders,
		get project() {
			return project;
		},
		get turn() {
			return turn;
		},
		get selectionTurn() {
			return selectionTurn;
		},
		need,
		sceneOf: (sheet) => sceneOfSheet(scenes.map, sheet),
		selectionOf: (sheet) => surfaces.get(sheet.selection ?? ''),
		carry,
		pushRecord,
		pushRecords,
		turned,
		markChanged,
		addSurface: owned.add,
		settle,
		retake(gesture) {
			if (!gesture || history.done.at(-1)?.gesture !== gesture) return none;
			const step = history.back();
			const dirty = step ? turned(step.undo, step.records) : none;
			history.cut();
			return dirty;
		},
		pictureOf(sheet) {
			settle(sheet.id);
			return pictureOfStack(kernels, compositor, stackOf(sheet, surfaces).layers, sheet.width, sheet.height);
		},
		run(command, gesture) {
			const records = followed([command]);
			if (records.size) return pushRecords(applyCommand(project, command).words, records, gesture, [command]);
			const { inverse, words, dirty } = carry(command);
			history.push({ words, undo: [inverse], redo: [command], records: [], ...(gesture ? { gesture } : {}) });
			return dirty;
		},
		runAll(commands, words, gesture) {
			const records = followed(commands);
			if (records.size) return pushRecords(words, records, gesture, commands);
			const undo: Doing[] = [];
			let dirty: Dirty = none;
			try {
				for (const command of commands) {
					const did = carry(command);
					undo.unshift(did.inverse);
					dirty = merged([dirty, did.dirty]);
				}
			} catch (error) {
				for (const inverse of undo) carry(inverse);
				throw error;
			}
			if (undo.length) history.push({ words, undo, redo: commands, records: [], ...(gesture ? { gesture } : {}) });
			return dirty;
		},
		takeDelta: () => owned.takeDelta(project, workspace.stroked()),
		whole: () => owned.whole(project, workspace.stroked()),
		adopt(id, name) {
			project = { ...project, id, name };
		},
		close() {
			history.clear();
			unders.drop();
			derivation.drop();
			scenes.drop();
			owned.close();
			compositor.drop();
		},
	};
	return workspace;
}
