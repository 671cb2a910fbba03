import type { Kernels, Ptr } from '@eppu/kernels';
import type { Hex } from '../color/index.ts';
import { rgbOfHex } from '../color/index.ts';
import { type Compositor, createCompositor, dropUnder, type UnderCache } from '../composite/index.ts';
import type { Mesh } from '../mesh/index.ts';
import { contentTiles, isEmptyRect, type Rect, readBlock, writeBlock } from '../raster/index.ts';
import { recipeField, toneOfField } from '../recipe/index.ts';
import { changedSelection, contourOf, type Joining, joined, type SelectionChange } from '../select/index.ts';
import { beginScrape, beginStroke, type Sample, type Stroke } from '../stroke/index.ts';
import {
	clearSurface,
	copySurface,
	createRecord,
	createSurface,
	dropRecord,
	dropTile,
	Kind,
	type Picture,
	pictureIntoSurface,
	pictureOfSurface,
	readTexels,
	type Surface,
	type SurfaceId,
	sameAsBefore,
	setTileState,
	settleTile,
	swapRecord,
	TILE,
	type TileRecord,
	texelAt,
	tileBytes,
	tileIntoPicture,
	tileState,
} from '../surface/index.ts';
import { type Coverage, createCoverage, dropCoverage, modelTarget } from '../target/index.ts';
import { belowOf } from './circle.ts';
import { type Clip, clipOf, placedClip } from './clip.ts';
import { applyCommand, type Command, CommandError, surfacesOfCommand } from './command.ts';
import { createDerivation } from './derivation.ts';
import { groundOf, layersBlock, type Means } from './derived.ts';
import { applyEdit, type Edit, editWords } from './edits.ts';
import { fillRecord } from './fill.ts';
import { modelGround, sceneOfSheet } from './ground.ts';
import { createHistory, type History } from './history.ts';
import { type LetterPlace, letterPlace } from './letterPlace.ts';
import { linesOnModel } from './lines.ts';
import { fillMask, invertMask, maskIntoAlpha } from './masks.ts';
import { type Pictures, picturesOf } from './pictures.ts';
import { guardRefusal, planStroke } from './plan.ts';
import {
	eachLayer,
	type GroupLayer,
	type Id,
	type Layer,
	layerOf,
	type Project,
	paintLayer,
	placeOfLayer,
	type Sheet,
	sheetOf,
	surfacesOfLayer,
	surfacesOfSheet,
} from './project.ts';
import { nothingSelected, type Refusal, whyNotPaint } from './refusal.ts';
import { meanColor } from './sample.ts';
import { createScene, type Scene, type Sight } from './scene.ts';
import { type Look, type Seen, seenTile } from './seen.ts';
import { type SelectBy, selectedTone, selectionIdOf, wholeSelection } from './selection.ts';
import { type Guard, guardLets, type StrokeSpec, strokeWords, surfaceFor } from './spec.ts';
import { allTiles, fillIdOf, maskIdOf, splitOf, stackOf, tilesOfLayer } from './stack.ts';

/** A tile as it is kept: its one value, or its texels; neither where it is empty. */
export interface KeptTile {
	readonly surface: SurfaceId;
	readonly index: number;
	readonly value: number | null;
	readonly texels: Uint8Array<ArrayBuffer> | null;
}

/** What must be kept since the last delta was taken. */
export interface Delta {
	readonly project: Project;
	readonly tiles: readonly KeptTile[];
}

/** Tiles of sheets whose composite is not what it was. */
export type Dirty = ReadonlyMap<Id, readonly number[]>;

export type Begun =
	| { readonly ok: true; readonly sheet: Id; readonly dirty: Dirty }
	| { readonly ok: false; readonly refusal: Refusal };

/** One document open for work: every change goes through here, in any host. */
export interface Engine {
	readonly kernels: Kernels;
	readonly project: Project;
	readonly history: History;
	/** Pictures that tips and stencils are made of. */
	readonly pictures: Pictures;
	scene(model: Id): Scene | undefined;
	run(command: Command, gesture?: string): Dirty;
	undo(): { readonly words: string; readonly dirty: Dirty } | null;
	redo(): { readonly words: string; readonly dirty: Dirty } | null;
	/** Begins with the first samples, since on the model they say which sheet is painted. */
	begin(spec: StrokeSpec, first: readonly Sample[]): Begun;
	extend(samples: readonly Sample[]): Dirty;
	end(): Dirty;
	/** Why the last stroke changed nothing, or null where it did. */
	readonly missed: Refusal | null;
	cancel(): Dirty;
	readonly stroking: boolean;
	/** Makes ready what the first stroke on each sheet will need; some hundred ms for a large sheet. */
	prepare(sheet: Id): void;
	/** Makes ready what a stroke near a px of a view will need. */
	warm(model: Id, sight: Sight, x: number, y: number, radius: number): void;
	/** Fills the island at a texel, or the whole sheet where there is none; a wash takes the colour. */
	fill(
		sheet: Id,
		layer: Id | undefined,
		x: number,
		y: number,
		color: Hex,
		guard?: Guard | null,
		onMask?: boolean,
	): { readonly ok: true; readonly dirty: Dirty } | { readonly ok: false; readonly refusal: Refusal };
	/**
	 * Changes the pixels of a paint layer or a mask at once; the selection and a guard limit it. Edits of one gesture
	 * replace each other and are one step.
	 */
	edit(sheet: Id, layer: Id | undefined, edit: Edit, options?: EditOptions): Edited;
	/** Joins what is asked for to the sheet's selection; tells where there is nothing of the kind. */
	select(sheet: Id, by: SelectBy, joining: Joining): Edited;
	changeSelection(sheet: Id, change: SelectionChange): Edited;
	/** The lines between what is selected and what is not, in texels; empty where nothing is selected. */
	selectionLines(sheet: Id): Int32Array[];
	/** Moves the selection's outline alone, not what is in it. */
	moveSelection(sheet: Id, map: readonly [number, number, number, number, number, number], gesture?: string): Edited;
	/** Counts changes of selections. */
	readonly selectionTurn: number;
	/** The selection's lines on the model that shows the sheet: pairs of places x, y, z. */
	selectionOnModel(sheet: Id): Float32Array;
	/** The texels that what would be moved lies in: what is selected, else the layer's content; null where there is none. */
	bounds(sheet: Id, layer: Id | undefined, onMask: boolean): Rect | null;
	/** How often each tone, and each value of red, green and blue, occurs: 4 × 256 counts of a layer alone, or of what lies below an adjust layer. */
	histogram(sheet: Id, layer: Id | undefined): Uint32Array;
	/** Where lettering reads right on the island at a texel. */
	letterPlace(sheet: Id, x: number, y: number): LetterPlace | null;
	/** Takes a layer up, only what is selected of it where there is a selection. */
	clip(sheet: Id, layer: Id): Clip;
	/** Puts a clip down as a new layer; returns its id. */
	paste(
		clip: Clip,
		sheet: Id,
		at: number,
		parent: Id | null,
		newId: () => string,
	): { readonly layer: Id; readonly dirty: Dirty };
	/** Computes what follows from the document and is due, until told to stop: recipes, lettering, fills, finishes. */
	refresh(stop: () => boolean): Dirty;
	readonly due: boolean;
	/** Pictures of the artist's own have come: what is made with them is due. */
	renew(): void;
	/** What each step of a mask's recipe makes so far, as A8 squares of `side`. */
	recipeSteps(sheet: Id, layer: Id, side: number): Uint8Array[];
	/** Inverts a layer's mask, fills it with one value, or turns it into the layer's own alpha. */
	changeMask(sheet: Id, layer: Id, change: MaskChange): Dirty;
	/**
	 * Makes one paint layer of a layer and the one below it, or of a group. Throws CommandError, changing nothing, where
	 * the picture would not stay as it is seen.
	 */
	mergeDown(sheet: Id, layer: Id, newId: Id): Dirty;
	flatten(sheet: Id, group: Id, newId: Id): Dirty;
	/** Lays a picture of the sheet's size on a paint layer or a layer's mask. */
	lay(sheet: Id, layer: Id, on: 'color' | 'mask', picture: Picture, words: string): Dirty;
	/** What `compositeTile` shows of a sheet from now on; null shows all again. Exports stay whole. */
	look(sheet: Id, seen: Look | null): Dirty;
	/** What each of the layers of a sheet adds, lowest first: the picture up to each of them, groups as one. */
	buildUp(sheet: Id, visit: (picture: Picture, name: string) => void): void;
	/** Writes a tile of a sheet's composite, RGBA8, to `out`. */
	compositeTile(sheet: Id, tile: number, out: Ptr): void;
	composite(sheet: Id): Picture;
	/** Mean colour of a square of `size` texels around one of the composite, or of a layer alone, as r, g, b, a. */
	sample(sheet: Id, x: number, y: number, layer?: Id, size?: number): readonly [number, number, number, number];
	surface(id: SurfaceId): Surface | undefined;
	takeDelta(): Delta | null;
	close(): void;
}

/** What is done to a whole mask at once; 'selection' shows what is selected and hides the rest; 'painted' turns a recipe's mask into one painted by hand. */
export type MaskChange =
	| { readonly to: 'inverse' | 'pixels' | 'selection' | 'painted' }
	| { readonly to: 'value'; readonly value: number };

export interface EditOptions {
	readonly onMask?: boolean;
	readonly guard?: Guard | null;
	readonly gesture?: string;
}

export type Edited = { readonly ok: true; readonly dirty: Dirty } | { readonly ok: false; readonly refusal: Refusal };

const none: Dirty = new Map();
/** 32 KiB each: 24 MB at the most. */
const UNDER_TILES = 768;

/** Opens a project with its kept tiles and the meshes of its models. Throws RangeError where a tile does not fit. */
export function openEngine(
	kernels: Kernels,
	opened: Project,
	tiles: Iterable<KeptTile>,
	meshes: ReadonlyMap<Id, Mesh>,
): Engine {
	const { heap } = kernels;
	const compositor: Compositor = createCompositor(kernels);
	const surfaces = new Map<SurfaceId, Surface>();
	const scenes = new Map<Id, Scene>();
	const changed = new Map<SurfaceId, Set<number>>();
	let project = opened;
	let outlineChanged = false;
	let stroke: { stroke: Stroke; sheet: Sheet; layer: Layer; coverage: Coverage; words: string } | null = null;
	let coverage: Coverage | null = null;
	let under: { key: string; cache: UnderCache } | null = null;
	let seen: Seen | null = null;
	let selectionTurn = 0;
	let missed: Refusal | null = null;
	const pictures = picturesOf(kernels);
	const means: Means = { kernels, compositor, surfaces, scenes, pictures };
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
	const markWhole = (surface: Surface): void => {
		changed.set(surface.id, new Set(Array.from(surface.kinds, (kind, i) => (kind ? i : -1)).filter((i) => i >= 0)));
	};
	const dropUnders = (): void => {
		if (under) dropUnder(kernels, under.cache);
		under = null;
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
		if (command.do === 'selection.set') selectionTurn++;
		derivation.follow(project);
		outlineChanged = true;
		dropUnders();
		return { inverse: applied.inverse, words: applied.words, dirty: dirtyOf(command, before) };
	};
	const dirtyOf = (command: Command, before: Project): Dirty => {
		if (!('sheet' in command) || command.do === 'selection.set') return none;
		const sheet = need(command.sheet);
		if (!('layer' in command))
			return new Map([
				[sheet.id, Array.from({ length: Math.ceil(sheet.width / TILE) * Math.ceil(sheet.height / TILE) }, (_, i) => i)],
			]);
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
	const merge = (list: readonly Dirty[]): Dirty => {
		const out = new Map<Id, number[]>();
		for (const dirty of list)
			for (const [sheet, found] of dirty) out.set(sheet, [...new Set([...(out.get(sheet) ?? []), ...found])]);
		return out;
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
	/** Puts a whole selection, A8, in place as one step. */
	const putSelection = (sheet: Sheet, tone: Uint8Array, words: string, gesture?: string): Dirty => {
		const back = retake(gesture);
		const id = sheet.selection ?? selectionIdOf(sheet);
		const any = tone.some((v) => v > 0);
		const command: Command = { do: 'selection.set', sheet: sheet.id, selection: any ? id : null, words };
		const same = (sheet.selection ?? null) === command.selection;
		const carried = same ? null : carry(command);
		const records: TileRecord[] = [];
		const surface = surfaces.get(id);
		if (any && surface) {
			const record = createRecord(surface);
			writeBlock(kernels, record, {
				rect: { x: 0, y: 0, width: sheet.width, height: sheet.height },
				bytes: 1,
				data: tone,
			});
			records.push(record);
			markChanged(record);
		}
		if (!carried && records.length === 0) return back;
		history.push({
			words,
			undo: carried ? [carried.inverse] : [],
			redo: carried ? [command] : [],
			records,
			...(gesture ? { gesture } : {}),
		});
		return back;
	};
	const selectionOf = (sheet: Sheet): Surface | undefined => surfaces.get(sheet.selection ?? '');
	const sceneOf = (sheet: Id): Scene | undefined => sceneOfSheet(scenes, sheet);
	/** The tiles of what was computed anew, made ready to be shown. */
	const settle = (sheet?: Id): void => {
		const dirty = derivation.refresh(() => false, sheet);
		if (dirty.size) dropUnders();
	};
	const needScope = (sheet: Sheet, layerId: Id | undefined, onMask: boolean): Refusal | Surface => {
		const refusal = whyNotPaint(project, sheet.id, layerId, onMask);
		const layer = layerOf(sheet, layerId);
		return refusal ?? (surfaces.get(surfaceFor(layer as Layer, onMask)) as Surface);
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
		return merge(dirties);
	};
	const coverageFor = (sheet: Sheet): Coverage => {
		if (coverage && (coverage.width !== sheet.width || coverage.height !== sheet.height)) {
			dropCoverage(kernels, coverage);
			coverage = null;
		}
		coverage ??= createCoverage(kernels, sheet.width, sheet.height);
		return coverage;
	};
	/** While a stroke runs, what lies under its layer is composited once a tile. */
	const underFor = (sheet: Sheet): UnderCache | undefined => {
		if (!stroke || stroke.sheet.id !== sheet.id) return undefined;
		const key = `${sheet.id}/${stroke.layer.id}`;
		if (under?.key !== key) {
			dropUnders();
			under = {
				key,
				cache: { split: splitOf(stackOf(sheet, surfaces, stroke.layer.id)), tiles: new Map(), limit: UNDER_TILES },
			};
		}
		return under?.cache;
	};
	const dirtyTiles = (found: readonly number[]): Dirty => {
		if (!stroke || found.length === 0) return none;
		for (const record of stroke.stroke.records) derivation.touched(record.surface.id, found);
		return new Map([[stroke.sheet.id, found]]);
	};

	for (const sheet of project.sheets)
		for (const { id, format } of surfacesOfSheet(sheet))
			if (!surfaces.has(id)) surfaces.set(id, createSurface(id, format, sheet.width, sheet.height));
	for (const tile of tiles) {
		const surface = surfaces.get(tile.surface);
		if (!surface) continue;
		const { format } = surface;
		if (tile.index >= surface.kinds.length || (tile.texels && tile.texels.length !== tileBytes(format)))
			throw new RangeError(`A kept tile of "${tile.surface}" does not fit its sheet.`);
		dropTile(heap, format, tileState(surface, tile.index));
		if (tile.texels) {
			const at = heap.alloc(tileBytes(format));
			heap.u8.set(tile.texels, at);
			setTileState(surface, tile.index, settleTile(kernels, format, at));
		} else setTileState(surface, tile.index, { kind: tile.value ? Kind.uniform : Kind.empty, data: tile.value ?? 0 });
	}
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
	/** Puts a new paint layer, holding what the given layers look like together, in their place. */
	const replaceBy = (
		sheet: Sheet,
		layers: readonly Layer[],
		flat: ReturnType<typeof paintLayer>,
		words: string,
		parent: GroupLayer | null,
	): Dirty => {
		settle(sheet.id);
		const stack = stackOf({ ...sheet, base: null, layers }, surfaces).layers;
		const surface = createSurface(flat.surface, 'color', sheet.width, sheet.height);
		for (let tile = 0; tile < surface.kinds.length; tile++) {
			const at = heap.alloc(tileBytes('color'));
			compositor.tile(stack, tile, at);
			setTileState(surface, tile, settleTile(kernels, 'color', at));
		}
		surfaces.set(surface.id, surface);
		markWhole(surface);
		const ids = new Set(layers.map((each) => each.id));
		const put = (among: readonly Layer[]): Layer[] =>
			among.flatMap((each) => (each.id === layers[0]?.id ? [flat] : ids.has(each.id) ? [] : [each]));
		const swap = (among: readonly Layer[]): Layer[] =>
			among.map((each) =>
				each.kind !== 'group'
					? each
					: { ...each, layers: each.id === parent?.id ? put(each.layers) : swap(each.layers) },
			);
		const next = parent ? swap(sheet.layers) : put(sheet.layers);
		return engine.run({ do: 'layers.set', sheet: sheet.id, layers: next, words });
	};

	const engine: Engine = {
		kernels,
		get project() {
			return project;
		},
		history,
		pictures,
		get due() {
			return derivation.due;
		},
		refresh(stop) {
			const found = derivation.refresh(stop);
			if (found.size) dropUnders();
			return new Map([...found].map(([sheet, tiles]) => [sheet, [...tiles]]));
		},
		renew: () => derivation.follow(project),
		get stroking() {
			return stroke !== null;
		},
		scene: (model) => scenes.get(model),
		surface: (id) => surfaces.get(id),
		run(command, gesture) {
			const { inverse, words, dirty } = carry(command);
			history.push({ words, undo: [inverse], redo: [command], records: [], ...(gesture ? { gesture } : {}) });
			return dirty;
		},
		undo() {
			const step = history.back();
			return step && { words: step.words, dirty: turned(step.undo, step.records) };
		},
		redo() {
			const step = history.forth();
			return step && { words: step.words, dirty: turned(step.redo, step.records) };
		},
		begin(spec, first) {
			if (stroke) engine.cancel();
			const planned = planStroke(kernels, project, scenes, engine.pictures, surfaces, spec, first);
			if (!planned.ok) return planned;
			const { sheet, layer, coats, targets, means: how } = planned.plan;
			const surface = surfaces.get(surfaceFor(layer, spec.onMask === true)) as Surface;
			const cover = coverageFor(sheet);
			stroke = {
				stroke: coats.length
					? beginScrape(
							kernels,
							coats.map(({ coat, mask }) => ({ ...coat, mask: surfaces.get(mask.surface) as Surface })),
							cover,
							targets,
							how,
							spec.tool === 'mend',
						)
					: beginStroke(kernels, surface, cover, targets, how),
				sheet,
				layer,
				coverage: cover,
				words: strokeWords(spec, layer),
			};
			return { ok: true, sheet: sheet.id, dirty: dirtyTiles(stroke.stroke.extend(first)) };
		},
		get missed() {
			return missed;
		},
		extend: (samples) => (stroke ? dirtyTiles(stroke.stroke.extend(samples)) : none),
		end() {
			if (!stroke) return none;
			const dirty = dirtyTiles(stroke.stroke.end());
			const { records } = stroke.stroke;
			missed = null;
			if (stroke.sheet.selection && records.every((record) => sameAsBefore(heap, record))) {
				for (const record of records) {
					swapRecord(record);
					dropRecord(heap, record);
				}
				missed = nothingSelected(stroke.sheet);
			} else pushRecord(stroke.words, records, stroke.sheet.id);
			stroke = null;
			return dirty;
		},
		cancel() {
			if (!stroke) return none;
			const tiles = stroke.stroke.cancel();
			for (const record of stroke.stroke.records)
				for (const [index, state] of record.tiles) {
					dropTile(heap, record.surface.format, tileState(record.surface, index));
					setTileState(record.surface, index, state);
				}
			const dirty = dirtyTiles(tiles);
			stroke = null;
			return dirty;
		},
		prepare(id) {
			const sheet = need(id);
			coverageFor(sheet);
			for (const scene of scenes.values()) if (scene.model.parts.some((part) => part.sheet === id)) scene.mapOf(sheet);
		},
		warm(model, sight, x, y, radius) {
			const scene = scenes.get(model);
			const spot = scene?.spotAt(project.sheets, sight, x, y);
			const sheet = spot && sheetOf(project, spot.sheet);
			if (!scene || !sheet) return;
			coverageFor(sheet);
			modelTarget(kernels, scene.binsOf(sheet, sight)).warm(x, y, radius);
		},
		fill(sheetId, layerId, x, y, color, guard, onMask = false) {
			const sheet = need(sheetId);
			const layer = layerOf(sheet, layerId);
			if (layer?.kind === 'wash' && !layer.locked && !onMask)
				return {
					ok: true,
					dirty: engine.run({ do: 'layer.change', sheet: sheet.id, layer: layer.id, change: { color } }),
				};
			const refusal = whyNotPaint(project, sheetId, layerId, onMask);
			if (refusal || !layer) return { ok: false, refusal: refusal as Refusal };
			const surface = surfaces.get(surfaceFor(layer, onMask)) as Surface;
			const scene = sceneOf(sheet.id);
			const spot = scene?.spotOn(sheet, null, x, y);
			const guarded = guardRefusal(guard, spot ?? null, scene !== undefined);
			if (guarded) return { ok: false, refusal: guarded };
			if (sheet.selection)
				return engine.edit(sheetId, layerId, { do: 'fill', color }, { onMask, guard: guard ?? null });
			const island = spot && scene ? { map: scene.mapOf(sheet), topology: scene.topology, island: spot.island } : null;
			dropUnders();
			const record = fillRecord(kernels, surface, island, rgbOfHex(color), layer.lockAlpha);
			return {
				ok: true,
				dirty: pushRecord(island ? `Fill an island on "${layer.name}"` : `Fill "${layer.name}"`, [record], sheet.id),
			};
		},
		edit(sheetId, layerId, edit, { onMask = false, guard = null, gesture } = {}) {
			const sheet = need(sheetId);
			const scope = needScope(sheet, layerId, onMask);
			if ('code' in scope) return { ok: false, refusal: scope };
			const layer = layerOf(sheet, layerId) as Layer;
			const scene = sceneOf(sheetId);
			dropUnders();
			const back = retake(gesture);
			const moves = edit.do === 'transform';
			const selection = selectionOf(sheet);
			const ground = {
				kernels,
				surface: scope,
				selection,
				lockAlpha: layer.lockAlpha && !moves,
				guarded:
					guard && scene
						? (rect: Parameters<typeof readBlock>[2]) =>
								Uint8Array.from(modelGround(scene, sheet).facesIn(rect, 1), (face) =>
									face >= 0 &&
									guardLets(guard, face, scene.partOfFace(face), scene.topology.islandOfFace[face] as number)
										? 255
										: 0,
								)
						: null,
			};
			const records = [applyEdit(edit, ground)];
			// What is selected moves along with what is in it.
			if (moves && selection)
				records.push(
					applyEdit(edit, { kernels, surface: selection, selection: undefined, lockAlpha: false, guarded: null }),
				);
			const words = editWords(edit, `${onMask ? 'the mask of ' : ''}"${layer.name}"`);
			const dirty = merge([back, pushRecord(words, records, sheetId, gesture)]);
			if ([...(dirty.get(sheetId) ?? [])].length === 0 && !moves)
				return {
					ok: false,
					refusal: { code: 'nothing-there', text: `There is nothing on "${layer.name}" here to change.`, mend: null },
				};
			return { ok: true, dirty };
		},
		select(sheetId, by, joining) {
			const sheet = need(sheetId);
			settle(sheetId);
			const rect = { x: 0, y: 0, width: sheet.width, height: sheet.height };
			const blockOf = (id: Id | null): Picture => {
				const layer = layerOf(sheet, id ?? undefined);
				if (!layer) return pictureOf(sheet);
				const { data } = layersBlock(means, sheet, [{ ...layer, shown: true, clip: false }], rect);
				return { width: sheet.width, height: sheet.height, data };
			};
			const tone = selectedTone(by, sheet, sceneOf(sheetId), blockOf, (id, of) => {
				const layer = layerOf(sheet, id);
				if (!layer) return null;
				if (of === 'shape') {
					const { data } = blockOf(id);
					return Uint8Array.from({ length: data.length / 4 }, (_, i) => data[i * 4 + 3] as number);
				}
				const mask = surfaces.get(layer.mask ? maskIdOf({ ...layer, mask: { ...layer.mask, on: true } }) : '');
				return mask ? readBlock(kernels, mask, rect).data : null;
			});
			if (!tone)
				return {
					ok: false,
					refusal: {
						code: by.by === 'layer' ? 'no-mask' : 'off-model',
						text:
							by.by === 'layer'
								? 'That layer has no mask to select by.'
								: 'There is nothing of the model here to select.',
						mend: null,
					},
				};
			const selection = selectionOf(sheet);
			const was = selection ? readBlock(kernels, selection, rect).data : new Uint8Array(tone.length);
			const words = {
				replace: 'Select',
				add: 'Add to the selection',
				take: 'Take from the selection',
				meet: 'Keep only what is selected twice',
			};
			// With nothing selected there is nothing to take from or to meet: all is.
			if (!selection && (joining === 'take' || joining === 'meet')) was.fill(255);
			return { ok: true, dirty: putSelection(sheet, joined(was, tone, joining), words[joining]) };
		},
		changeSelection(sheetId, change) {
			const sheet = need(sheetId);
			const selection = selectionOf(sheet);
			const rect = { x: 0, y: 0, width: sheet.width, height: sheet.height };
			const was = selection ? readBlock(kernels, selection, rect).data : new Uint8Array(sheet.width * sheet.height);
			const words = {
				all: 'Select all',
				none: 'Select nothing',
				inverse: 'Invert the selection',
				grown: 'Grow the selection',
				soft: 'Soften the selection',
				border: 'Select the border',
			};
			if (!selection && change.to === 'none') return { ok: true, dirty: none };
			return {
				ok: true,
				dirty: putSelection(
					sheet,
					changedSelection(was, sheet.width, sheet.height, change),
					change.to === 'grown' && change.by < 0 ? 'Shrink the selection' : words[change.to],
				),
			};
		},
		selectionLines(sheetId) {
			const sheet = need(sheetId);
			const selection = selectionOf(sheet);
			if (!selection) return [];
			const box = contentTiles(selection);
			return contourOf(readBlock(kernels, selection, box).data, box.width, box.height).map((line) =>
				line.map((v, i) => v + (i % 2 ? box.y : box.x)),
			);
		},
		moveSelection(sheetId, map, gesture) {
			const sheet = need(sheetId);
			if (!selectionOf(sheet)) return { ok: true, dirty: none };
			const back = retake(gesture);
			const surface = selectionOf(need(sheetId)) as Surface;
			const record = applyEdit(
				{ do: 'transform', map, smooth: true },
				{ kernels, surface, selection: undefined, lockAlpha: false, guarded: null },
			);
			pushRecord('Move the selection', [record], sheetId, gesture);
			return { ok: true, dirty: back };
		},
		get selectionTurn() {
			return selectionTurn;
		},
		selectionOnModel(sheetId) {
			const scene = sceneOf(sheetId);
			const sheet = need(sheetId);
			const selection = selectionOf(sheet);
			return scene && selection
				? linesOnModel(scene, sheet, wholeSelection(kernels, sheet, selection))
				: new Float32Array(0);
		},
		bounds(sheetId, layerId, onMask) {
			const sheet = need(sheetId);
			const layer = layerOf(sheet, layerId);
			// Lettering moves as a whole, whatever is selected.
			if (layer?.kind === 'text') settle(sheetId);
			const surface =
				layer?.kind === 'text' && !onMask
					? surfaces.get(fillIdOf(layer))
					: (selectionOf(sheet) ?? (layer && surfaces.get(surfaceFor(layer, onMask))));
			if (!surface) return null;
			const box = contentTiles(surface);
			if (isEmptyRect(box)) return null;
			const { data, bytes } = readBlock(kernels, surface, box);
			let [x0, y0, x1, y1] = [Infinity, Infinity, -1, -1];
			for (let i = 0; i < box.width * box.height; i++) {
				if (!data[i * bytes + bytes - 1]) continue;
				const [x, y] = [i % box.width, Math.floor(i / box.width)];
				[x0, y0, x1, y1] = [Math.min(x0, x), Math.min(y0, y), Math.max(x1, x), Math.max(y1, y)];
			}
			return x1 < 0 ? null : { x: box.x + x0, y: box.y + y0, width: x1 - x0 + 1, height: y1 - y0 + 1 };
		},
		histogram(sheetId, layerId) {
			const sheet = need(sheetId);
			settle(sheetId);
			const layer = layerOf(sheet, layerId);
			const rect = { x: 0, y: 0, width: sheet.width, height: sheet.height };
			const looked = !layer
				? sheet.layers
				: layer.kind === 'adjust'
					? belowOf(sheet, layer.id)
					: [{ ...layer, shown: true, clip: false }];
			const { data } = layersBlock(means, sheet, looked, rect);
			const counts = new Uint32Array(4 * 256);
			const count = (at: number): void => {
				counts[at] = (counts[at] as number) + 1;
			};
			for (let i = 0; i < data.length; i += 4) {
				if ((data[i + 3] as number) < 8) continue;
				const [r, g, b] = [data[i] as number, data[i + 1] as number, data[i + 2] as number];
				count(Math.round(0.299 * r + 0.587 * g + 0.114 * b));
				count(256 + r);
				count(512 + g);
				count(768 + b);
			}
			return counts;
		},
		letterPlace(sheetId, x, y) {
			const scene = sceneOf(sheetId);
			return scene ? letterPlace(scene, need(sheetId), x, y) : null;
		},
		clip(sheetId, layerId) {
			const sheet = need(sheetId);
			const layer = layerOf(sheet, layerId);
			if (!layer) throw new CommandError('That layer is not here any more. Nothing was taken up.');
			const selection = selectionOf(sheet);
			return clipOf(kernels, sheet, layer, surfaces, selection ? wholeSelection(kernels, sheet, selection) : null);
		},
		paste(clip, sheetId, at, parent, newId) {
			const sheet = need(sheetId);
			const { layer, pictures: texels } = placedClip(clip, sheet, newId);
			for (const { id, format } of surfacesOfLayer(layer))
				surfaces.set(id, createSurface(id, format, sheet.width, sheet.height));
			for (const { surface: id, picture } of texels) {
				const surface = surfaces.get(id);
				if (!surface) continue;
				pictureIntoSurface(kernels, picture, surface);
				markWhole(surface);
			}
			return { layer: layer.id, dirty: engine.run({ do: 'layer.add', sheet: sheetId, layer, at, parent }) };
		},
		recipeSteps(sheetId, layerId, side) {
			const sheet = need(sheetId);
			const layer = layerOf(sheet, layerId);
			const recipe = layer?.mask?.recipe ?? [];
			if (!layer) return [];
			const step = Math.max(sheet.width, sheet.height) / side;
			const rect = { x: 0, y: 0, width: sheet.width, height: sheet.height };
			const ground = groundOf(means, sheet, layer, rect, step);
			const out: Uint8Array[] = [];
			let field: Float32Array | null = null;
			recipe.forEach((_, i) => {
				field = recipeField(recipe, ground, i + 1, field ? { from: i, field } : undefined);
				out.push(toneOfField(field));
			});
			return out;
		},
		changeMask(sheetId, layerId, change) {
			const sheet = need(sheetId);
			const layer = layerOf(sheet, layerId);
			const mask = surfaces.get(layer?.mask?.surface ?? '');
			if (!layer || !mask) throw new CommandError('That layer has no mask. Nothing was changed.');
			dropUnders();
			if (change.to === 'selection') {
				const record = createRecord(mask);
				const data = wholeSelection(kernels, sheet, selectionOf(sheet));
				writeBlock(kernels, record, { rect: { x: 0, y: 0, width: sheet.width, height: sheet.height }, bytes: 1, data });
				return pushRecord(`Mask "${layer.name}" by the selection`, [record], sheetId);
			}
			if (change.to === 'painted') {
				settle(sheetId);
				const made = surfaces.get(maskIdOf({ ...layer, mask: layer.mask && { ...layer.mask, on: true } }));
				if (!layer.mask || !made || made === mask)
					throw new CommandError(`The mask of "${layer.name}" has no recipe. Nothing was changed.`);
				const record = pictureIntoSurface(kernels, pictureOfSurface(kernels, made), mask);
				const command: Command = {
					do: 'layer.change',
					sheet: sheetId,
					layer: layerId,
					change: { mask: { ...layer.mask, recipe: null } },
				};
				const { inverse, dirty } = carry(command);
				history.push({
					words: `Paint over the mask of "${layer.name}"`,
					undo: [inverse],
					redo: [command],
					records: [record],
				});
				markChanged(record);
				return merge([dirty, new Map([[sheetId, [...record.tiles.keys()]]])]);
			}
			if (change.to === 'pixels') {
				settle(sheetId);
				if (layer.kind !== 'paint')
					throw new CommandError(`Only a paint layer has pixels that a mask can become. Nothing was changed.`);
				const counts = surfaces.get(maskIdOf({ ...layer, mask: layer.mask && { ...layer.mask, on: true } })) ?? mask;
				const record = maskIntoAlpha(kernels, surfaces.get(layer.surface) as Surface, counts);
				const command: Command = { do: 'layer.change', sheet: sheetId, layer: layerId, change: { mask: null } };
				const { inverse, dirty } = carry(command);
				history.push({
					words: `Turn the mask of "${layer.name}" into pixels`,
					undo: [inverse],
					redo: [command],
					records: [record],
				});
				markChanged(record);
				return merge([dirty, new Map([[sheetId, [...record.tiles.keys()]]])]);
			}
			const record = change.to === 'value' ? fillMask(kernels, mask, change.value) : invertMask(kernels, mask);
			return pushRecord(
				`${change.to === 'inverse' ? 'Invert' : 'Fill'} the mask of "${layer.name}"`,
				[record],
				sheetId,
			);
		},
		mergeDown(sheetId, layerId, newId) {
			const sheet = need(sheetId);
			const place = placeOfLayer(sheet, layerId);
			const [upper, lower] = place ? [place.among[place.at], place.among[place.at - 1]] : [];
			if (!place || !upper || !lower)
				throw new CommandError('There is no layer below to merge with. Nothing was changed.');
			if (lower.mode !== 'normal' || lower.clip || !lower.shown || !upper.shown || lower.kind === 'adjust')
				throw new CommandError(
					`"${lower.name}" and "${upper.name}" cannot become one and look the same: both must be shown, and the lower one blend Normal and not be clipped. Nothing was changed.`,
				);
			return replaceBy(
				sheet,
				[lower, upper],
				paintLayer(newId, lower.name),
				`Merge "${upper.name}" down`,
				place.parent,
			);
		},
		flatten(sheetId, groupId, newId) {
			const sheet = need(sheetId);
			const place = placeOfLayer(sheet, groupId);
			const group = place?.among[place.at];
			if (!place || group?.kind !== 'group') throw new CommandError('That is no group. Nothing was changed.');
			const { name, mode, opacity, clip, shown, mask } = group;
			const inner = {
				...group,
				opacity: 1,
				mode: 'normal' as const,
				clip: false,
				shown: true,
				mask: null,
				isolated: true,
			};
			const flat = paintLayer(newId, name, { mode, opacity, clip, shown, mask });
			return replaceBy(sheet, [inner], flat, `Flatten "${name}"`, place.parent);
		},
		lay(sheetId, layerId, on, picture, words) {
			const layer = layerOf(need(sheetId), layerId);
			const id = on === 'mask' ? layer?.mask?.surface : layer?.kind === 'paint' ? layer.surface : undefined;
			const surface = surfaces.get(id ?? '');
			if (!surface) throw new CommandError('That layer has nothing to lay a picture on. Nothing was changed.');
			dropUnders();
			return pushRecord(words, [pictureIntoSurface(kernels, picture, surface)], sheetId);
		},
		look(sheetId, next) {
			const sheet = need(sheetId);
			if (!seen && !next) return none;
			seen = next && { ...next, sheet: sheetId };
			return new Map([[sheetId, allTiles(sheet)]]);
		},
		buildUp(sheetId, visit) {
			const sheet = need(sheetId);
			sheet.layers.forEach((layer, i) => {
				if (layer.shown) visit(pictureOf({ ...sheet, layers: sheet.layers.slice(0, i + 1) }), layer.name);
			});
		},
		compositeTile(sheetId, tile, out) {
			const sheet = need(sheetId);
			if (seen?.sheet === sheetId && seenTile(kernels, compositor, surfaces, sheet, seen, tile, out)) return;
			compositor.tile(stackOf(sheet, surfaces).layers, tile, out, underFor(sheet));
		},
		composite: (sheetId) => pictureOf(need(sheetId)),
		sample(sheetId, x, y, layerId, size = 1) {
			const sheet = need(sheetId);
			const layer = layerOf(sheet, layerId);
			if (layer?.kind === 'wash') return [...rgbOfHex(layer.color), 255];
			const own = layer?.kind === 'paint' ? surfaces.get(layer.surface) : undefined;
			const out = heap.alloc(tileBytes('color'));
			let ready = -1;
			const texel = (tx: number, ty: number): readonly [number, number, number, number] => {
				if (tx < 0 || ty < 0 || tx >= sheet.width || ty >= sheet.height) return [0, 0, 0, 0];
				if (own) return texelAt(heap, own, tx, ty);
				const tile = Math.floor(ty / TILE) * Math.ceil(sheet.width / TILE) + Math.floor(tx / TILE);
				if (tile !== ready) engine.compositeTile(sheetId, tile, out);
				ready = tile;
				const at = out + ((ty % TILE) * TILE + (tx % TILE)) * 4;
				return [...heap.u8.subarray(at, at + 4)] as [number, number, number, number];
			};
			const color = meanColor(x, y, size, texel);
			heap.free(out, tileBytes('color'));
			return color;
		},
		takeDelta() {
			if (!outlineChanged && changed.size === 0) return null;
			const list: KeptTile[] = [];
			for (const [id, set] of changed) {
				const surface = surfaces.get(id);
				if (!surface) continue;
				for (const index of set) {
					const { kind, data } = tileState(surface, index);
					list.push({
						surface: id,
						index,
						value: kind === Kind.uniform ? data : null,
						texels: kind >= Kind.mixed ? readTexels(heap, surface, index) : null,
					});
				}
			}
			changed.clear();
			outlineChanged = false;
			return { project, tiles: list };
		},
		close() {
			if (stroke) engine.cancel();
			history.clear();
			dropUnders();
			derivation.drop();
			for (const scene of scenes.values()) scene.drop();
			for (const surface of surfaces.values()) clearSurface(heap, surface);
			if (coverage) dropCoverage(kernels, coverage);
			compositor.drop();
			coverage = null;
		},
	};
	return engine;
}
