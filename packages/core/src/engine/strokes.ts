import { type Id, type Layer, type Sheet, sheetOf } from '../document/index.ts';
import { type Coverage, createCoverage, dropCoverage, modelTarget } from '../projection/index.ts';
import { beginScrape, beginStroke, type Sample, type Stroke } from '../stroke/index.ts';
import {
	dropRecord,
	dropTile,
	type Surface,
	sameAsBefore,
	setTileState,
	swapRecord,
	tileState,
} from '../surface/index.ts';
import { type Dirty, none } from './dirty.ts';
import type { Engine } from './engine.ts';
import { whyMissed } from './missed.ts';
import { callLayer, isUncalled } from './naming.ts';
import { type Plan, planStroke } from './plan.ts';
import { type Refusal, whyUnseen } from './refusal.ts';
import { type StrokeSpec, strokeCalled, strokeWords, surfaceFor } from './strokeSpec.ts';
import type { Workspace } from './workspace.ts';

type Stroking = Pick<Engine, 'begin' | 'extend' | 'end' | 'cancel' | 'prepare' | 'warm' | 'stroking' | 'missed'> & {
	/** The lowest layer of a sheet that is painted on now: what lies below it stays as it is. */
	on(sheet: Id): Id | undefined;
	drop(): void;
};

/** What a stroke does on one sheet. */
interface Part {
	readonly stroke: Stroke;
	readonly sheet: Sheet;
	readonly layer: Layer;
	/** The lowest layer that it changes: a scrape goes through several. */
	readonly lowest: Layer;
}

/** Places of a stroke that are remembered. */
const MOST_ASKED = 48;

/** The strokes of an engine: one at a time, on all sheets that it goes over. */
// biome-ignore lint/complexity/noExcessiveLinesPerFunction: a facet of the engine: the stroke that is being made is the state of all.
export function stroking(workspace: Workspace): Stroking {
	const { kernels, scenes, surfaces, means, derivation, need, pushRecord } = workspace;
	const { heap } = kernels;
	let parts: readonly Part[] = [];
	let words = '';
	/** What the layers that the stroke begins are called by it. */
	let calls: ReadonlyMap<Id, string> = new Map();
	let missed: Refusal | null = null;
	/** What the stroke is made with, and some of where it went: asked when it turns out to have changed nothing. */
	let made: { readonly spec: StrokeSpec; readonly samples: Sample[] } | null = null;
	/** One for each sheet: a stroke may go over several. */
	const coverages = new Map<Id, Coverage>();
	const coverageFor = (sheet: Sheet): Coverage => {
		let coverage = coverages.get(sheet.id);
		if (coverage && (coverage.width !== sheet.width || coverage.height !== sheet.height)) {
			dropCoverage(kernels, coverage);
			coverage = undefined;
		}
		coverage ??= createCoverage(kernels, sheet.width, sheet.height);
		coverages.set(sheet.id, coverage);
		return coverage;
	};
	/** Does something with each part; tells what it changed. */
	const each = (act: (stroke: Stroke) => readonly number[]): Dirty => {
		const dirty = new Map<Id, readonly number[]>();
		for (const { stroke, sheet } of parts) {
			const tiles = act(stroke);
			if (tiles.length === 0) continue;
			for (const record of stroke.records) derivation.touched(record.surface.id, tiles);
			dirty.set(sheet.id, tiles);
		}
		return dirty;
	};
	const partOf = ({ sheet, layer, coats, targets, means: how }: Plan, spec: StrokeSpec): Part => {
		const cover = coverageFor(sheet);
		const stroke = coats.length
			? beginScrape(
					kernels,
					coats.map(({ coat, mask }) => ({ ...coat, mask: surfaces.get(mask.surface) as Surface })),
					cover,
					targets,
					how,
					spec.tool === 'mend',
				)
			: beginStroke(kernels, surfaces.get(surfaceFor(layer, spec.onMask === true)) as Surface, cover, targets, how);
		return { stroke, sheet, layer, lowest: coats.at(-1) ?? layer };
	};
	/** The other sheets of the model, onto which the stroke may go over; those whose layer takes no paint now are left out. */
	const othersOf = (spec: StrokeSpec, first: readonly Sample[], begun: Sheet): Part[] => {
		const { place } = spec;
		const scene = place.on === 'model' ? scenes.get(place.model) : undefined;
		const ids = new Set(scene?.model.parts.map((part) => part.sheet));
		ids.delete(begun.id);
		return [...ids].flatMap((id) => {
			const planned = planStroke(kernels, workspace.project, scenes, means.pictures, surfaces, spec, first, id);
			const seen = planned.ok && !whyUnseen(planned.plan.sheet, planned.plan.layer, workspace.seen);
			return planned.ok && seen ? [partOf(planned.plan, spec)] : [];
		});
	};

	const missedBy = ({ sheet, layer }: Part, { spec, samples }: NonNullable<typeof made>, touched: boolean): Refusal => {
		const { place } = spec;
		const surface = surfaces.get(surfaceFor(layer, spec.onMask === true));
		const scene = place.on === 'model' ? scenes.get(place.model) : workspace.sceneOf(sheet.id);
		return whyMissed({ spec, sheet, layer, surface, scene, sheets: workspace.project.sheets, samples, touched });
	};
	workspace.stroked = () => parts.flatMap(({ stroke }) => stroke.records);
	const strokes: Stroking = {
		on: (sheet) => parts.find((part) => part.sheet.id === sheet)?.lowest.id,
		get stroking() {
			return parts.length > 0;
		},
		get missed() {
			return missed;
		},
		begin(spec, first) {
			if (parts.length) strokes.cancel();
			const planned = planStroke(kernels, workspace.project, scenes, means.pictures, surfaces, spec, first);
			if (!planned.ok) return planned;
			const { sheet, layer } = planned.plan;
			const unseen = whyUnseen(sheet, layer, workspace.seen);
			if (unseen) return { ok: false, refusal: unseen };
			parts = [partOf(planned.plan, spec), ...othersOf(spec, first, sheet)];
			words = strokeWords(spec, layer);
			const called = spec.onMask ? null : strokeCalled(spec);
			calls = new Map(
				called ? parts.filter((each) => isUncalled(workspace, each.layer)).map((each) => [each.sheet.id, called]) : [],
			);
			made = { spec, samples: first.slice(0, 1) };
			return { ok: true, sheet: sheet.id, dirty: each((stroke) => stroke.extend(first)) };
		},
		extend(samples) {
			if (made && made.samples.length < MOST_ASKED) made.samples.push(...samples.slice(-1));
			return each((stroke) => stroke.extend(samples));
		},
		end() {
			const [begun] = parts;
			if (!begun) return none;
			const dirty = each((stroke) => stroke.end());
			const records = parts.flatMap(({ stroke }) => stroke.records);
			missed = null;
			if (records.every((record) => sameAsBefore(heap, record))) {
				const touched = records.some((record) => record.tiles.size > 0);
				for (const record of records) {
					swapRecord(record);
					dropRecord(heap, record);
				}
				missed = made && missedBy(begun, made, touched);
			} else {
				const also = parts.flatMap(({ stroke, sheet, layer }) => {
					const [record] = stroke.records;
					const what = record?.tiles.size ? calls.get(sheet.id) : undefined;
					const call = record && what ? callLayer(workspace, sheet.id, layer.id, what, record) : null;
					return call ? [call] : [];
				});
				pushRecord(words, records, begun.sheet.id, undefined, also);
			}
			made = null;
			parts = [];
			return dirty;
		},
		cancel() {
			const dirty = each((stroke) => {
				const tiles = stroke.cancel();
				for (const record of stroke.records)
					for (const [index, state] of record.tiles) {
						dropTile(heap, record.surface.format, tileState(record.surface, index));
						setTileState(record.surface, index, state);
					}
				return tiles;
			});
			parts = [];
			return dirty;
		},
		prepare(id) {
			const sheet = need(id);
			coverageFor(sheet);
			for (const scene of scenes.values()) if (scene.model.parts.some((part) => part.sheet === id)) scene.mapOf(sheet);
		},
		warm(model, sight, x, y, radius) {
			const scene = scenes.get(model);
			const spot = scene?.spotAt(workspace.project.sheets, sight, x, y);
			const sheet = spot && sheetOf(workspace.project, spot.sheet);
			if (!scene || !sheet) return;
			coverageFor(sheet);
			modelTarget(kernels, scene.binsOf(sheet, sight)).warm(x, y, radius);
		},
		drop() {
			if (parts.length) strokes.cancel();
			for (const coverage of coverages.values()) dropCoverage(kernels, coverage);
			coverages.clear();
		},
	};
	return strokes;
}
