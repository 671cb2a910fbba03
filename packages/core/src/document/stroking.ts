import { beginScrape, beginStroke, type Stroke } from '../stroke/index.ts';
import {
	dropRecord,
	dropTile,
	type Surface,
	sameAsBefore,
	setTileState,
	swapRecord,
	tileState,
} from '../surface/index.ts';
import { type Coverage, createCoverage, dropCoverage, modelTarget } from '../target/index.ts';
import type { Core } from './core.ts';
import { type Dirty, none } from './dirty.ts';
import type { Engine } from './engine.ts';
import { planStroke } from './plan.ts';
import { type Layer, type Sheet, sheetOf } from './project.ts';
import { nothingSelected, type Refusal, whyUnseen } from './refusal.ts';
import { strokeWords, surfaceFor } from './spec.ts';

type Stroking = Pick<Engine, 'begin' | 'extend' | 'end' | 'cancel' | 'prepare' | 'warm' | 'stroking' | 'missed'> & {
	/** The layer that is painted on now. */
	readonly on: { readonly sheet: Sheet; readonly layer: Layer } | null;
	drop(): void;
};

/** The strokes of an engine: one at a time. */
export function stroking(core: Core): Stroking {
	const { kernels, scenes, surfaces, means, derivation, need, pushRecord } = core;
	const { heap } = kernels;
	let stroke: { stroke: Stroke; sheet: Sheet; layer: Layer; words: string } | null = null;
	let coverage: Coverage | null = null;
	let missed: Refusal | null = null;
	const coverageFor = (sheet: Sheet): Coverage => {
		if (coverage && (coverage.width !== sheet.width || coverage.height !== sheet.height)) {
			dropCoverage(kernels, coverage);
			coverage = null;
		}
		coverage ??= createCoverage(kernels, sheet.width, sheet.height);
		return coverage;
	};
	const dirtyTiles = (found: readonly number[]): Dirty => {
		if (!stroke || found.length === 0) return none;
		for (const record of stroke.stroke.records) derivation.touched(record.surface.id, found);
		return new Map([[stroke.sheet.id, found]]);
	};

	const strokes: Stroking = {
		get on() {
			return stroke;
		},
		get stroking() {
			return stroke !== null;
		},
		get missed() {
			return missed;
		},
		begin(spec, first) {
			if (stroke) strokes.cancel();
			const planned = planStroke(kernels, core.project, scenes, means.pictures, surfaces, spec, first);
			if (!planned.ok) return planned;
			const { sheet, layer, coats, targets, means: how } = planned.plan;
			const unseen = whyUnseen(sheet, layer, core.seen);
			if (unseen) return { ok: false, refusal: unseen };
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
				words: strokeWords(spec, layer),
			};
			return { ok: true, sheet: sheet.id, dirty: dirtyTiles(stroke.stroke.extend(first)) };
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
			const spot = scene?.spotAt(core.project.sheets, sight, x, y);
			const sheet = spot && sheetOf(core.project, spot.sheet);
			if (!scene || !sheet) return;
			coverageFor(sheet);
			modelTarget(kernels, scene.binsOf(sheet, sight)).warm(x, y, radius);
		},
		drop() {
			if (stroke) strokes.cancel();
			if (coverage) dropCoverage(kernels, coverage);
			coverage = null;
		},
	};
	return strokes;
}
