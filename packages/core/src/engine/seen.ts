import { CommandError, type Id, layerOf, type Sheet, sheetOf } from '../document/index.ts';
import { type Edit, type EditScope, editKindOf, type SeenModel, viewSpace } from '../edit/index.ts';
import { type Bins, facesSeen, type Sight } from '../projection/index.ts';
import { around, isEmptyRect, type Rect, readBlock } from '../raster/index.ts';
import type { Scene } from '../scene/index.ts';
import type { TileRecord } from '../surface/index.ts';
import { merged } from './dirty.ts';
import type { ActiveLayers, Engine, SeenOptions } from './engine.ts';
import { callLayer, isUncalled } from './naming.ts';
import type { Refusal } from './refusal.ts';
import { scopeOf, selectionScope } from './scope.ts';
import { makeWhole } from './whole.ts';
import type { Workspace } from './workspace.ts';

/** A sheet of a model, and how a view shows it. */
interface SheetSeen {
	readonly sheet: Sheet;
	readonly bins: Bins;
}

const needScene = ({ scenes }: Workspace, model: Id): Scene => {
	const scene = scenes.get(model);
	if (!scene) throw new CommandError('That model is not in this project any more. Nothing was changed.');
	return scene;
};

/** The sheets that a view of a model shows. Throws CommandError where the model is not there. */
export function sheetsSeen(workspace: Workspace, model: Id, sight: Sight): SheetSeen[] {
	const scene = needScene(workspace, model);
	return [...new Set(scene.model.parts.map((part) => part.sheet))].flatMap((id) => {
		const sheet = sheetOf(workspace.project, id);
		return sheet ? [{ sheet, bins: scene.binsOf(sheet, sight) }] : [];
	});
}

/** A sheet on which an edit in a view works. */
interface ScopeSeen extends SheetSeen {
	readonly scope: EditScope;
}

/** What is done in the plane of a view of a model. */
// biome-ignore lint/complexity/noExcessiveLinesPerFunction: a facet of the engine: one method after the other over one workspace.
export function seenEdits(workspace: Workspace): Pick<Engine, 'editSeen' | 'boundsSeen' | 'spotsSeen'> {
	const { kernels, pushRecords, retake, unders } = workspace;
	/** The scopes of an edit on all sheets that take it, and why the first that does not does not. */
	const scopesOf = (
		model: Id,
		sight: Sight,
		layers: ActiveLayers,
		{ onMask = false, guard = null, outlineOnly = false, lifts }: SeenOptions,
		moves: boolean,
	): { readonly list: ScopeSeen[]; readonly refusal: Refusal | null } => {
		let refusal: Refusal | null = null;
		const list = sheetsSeen(workspace, model, sight).flatMap((each): ScopeSeen[] => {
			const space = () => viewSpace(kernels, each.bins);
			const scope = scopeOf(workspace, each.sheet, layers[each.sheet.id], { onMask, guard, moves }, space);
			if ('code' in scope) {
				refusal ??= scope;
				return [];
			}
			if (!outlineOnly) return [{ ...each, scope }];
			return scope.selection ? [{ ...each, scope: selectionScope(scope, space) }] : [];
		});
		// Where something is selected on one sheet, or one layer is meant, what lies on others stays where it is.
		const any = list.some(({ scope }) => scope.selection);
		const moved = ({ scope, sheet }: ScopeSeen): boolean =>
			any ? scope.selection !== undefined : lifts === undefined || sheet.id === lifts;
		const stays = ({ width, height }: Rect): Uint8Array => new Uint8Array(width * height);
		return {
			list:
				moves && !outlineOnly
					? list.map((each) => (moved(each) ? each : { ...each, scope: { ...each.scope, guarded: stays } }))
					: list,
			refusal,
		};
	};
	/** The faces that a view shows; the last one is remembered, since a move asks for it once a frame. */
	let facesOf: { readonly key: unknown; readonly faces: Int32Array } | null = null;
	const modelSeen = (model: Id, sight: Sight, sheets: readonly SheetSeen[]): SeenModel => {
		const scene = needScene(workspace, model);
		const view = scene.viewOf(sight);
		if (facesOf?.key !== view) facesOf = { key: view, faces: facesSeen(view) };
		const places = scene.model.parts.map((part) => sheets.findIndex(({ sheet }) => sheet.id === part.sheet));
		const { width, height } = view.projection;
		return { faces: facesOf.faces, width, height, sheetOf: (face) => places[scene.partOfFace(face)] ?? -1 };
	};
	const apply = (
		edit: Edit,
		list: readonly ScopeSeen[],
		model: Id,
		sight: Sight,
	): readonly (readonly [Id, TileRecord])[] => {
		const kind = editKindOf(edit);
		const records = kind.applySeen
			? kind.applySeen(
					edit,
					list.map(({ scope, bins }) => {
						const { seen } = scope.space;
						if (!seen) throw new Error('An edit in a view has a space of that view.');
						return { scope, bins, seen };
					}),
					modelSeen(model, sight, list),
				)
			: list.map(({ scope }) => kind.apply(edit, scope));
		return records.map((record, i) => [(list[i] as ScopeSeen).sheet.id, record] as const);
	};
	return {
		editSeen(model, sight, layers, edit, options = {}) {
			const kind = editKindOf(edit);
			const moves = kind.moves === true;
			const { list, refusal } = scopesOf(model, sight, layers, options, moves);
			if (refusal && list.length === 0) return { ok: false, refusal };
			unders.drop();
			const back = retake(options.gesture);
			const uncalled =
				options.onMask || !kind.called
					? []
					: list.filter(({ sheet }) => isUncalled(workspace, layerOf(sheet, layers[sheet.id])));
			const records = new Map<Id, TileRecord[]>();
			const put = (made: ReturnType<typeof apply>): void => {
				for (const [sheet, record] of made) records.set(sheet, [...(records.get(sheet) ?? []), record]);
			};
			put(apply(edit, list, model, sight));
			const selected = list.filter(({ scope }) => scope.selection);
			if (moves && selected.length)
				put(
					apply(
						edit,
						selected.map((each) => ({
							...each,
							scope: selectionScope(each.scope, () => viewSpace(kernels, each.bins)),
						})),
						model,
						sight,
					),
				);
			for (const { sheet } of list)
				makeWhole(workspace, sheet, layerOf(sheet, layers[sheet.id]), records.get(sheet.id)?.slice(0, 1) ?? [], edit);
			const names = list.map(({ sheet }) => layerOf(sheet, layers[sheet.id])?.name);
			const on = `${options.onMask ? 'the mask of ' : ''}"${names[0]}"`;
			const words = options.outlineOnly ? 'Move the selection' : kind.words(edit, on);
			const also = uncalled.flatMap(({ sheet }) => {
				const [record] = records.get(sheet.id) ?? [];
				const what = record?.tiles.size ? kind.called?.(edit) : undefined;
				const call = what && record ? callLayer(workspace, sheet.id, layers[sheet.id] as Id, what, record) : null;
				return call ? [call] : [];
			});
			const dirty = merged([back, pushRecords(words, records, options.gesture, also)]);
			if (![...dirty.values()].some((tiles) => [...tiles].length > 0) && !moves)
				return {
					ok: false,
					refusal: { code: 'off-model', text: 'There is nothing of the model here to change.', mend: null },
				};
			return { ok: true, dirty };
		},
		boundsSeen(model, sight, layers, options = {}) {
			let box: Rect = { x: 0, y: 0, width: 0, height: 0 };
			for (const { scope } of scopesOf(model, sight, layers, options, true).list) {
				const { seen } = scope.space;
				if (!seen || isEmptyRect(seen.rect)) continue;
				const { data, bytes } = readBlock(kernels, scope.selection ?? scope.surface, seen.rect);
				const free = scope.guarded?.(seen.rect);
				let [x0, y0, x1, y1] = [Infinity, Infinity, -Infinity, -Infinity];
				for (let i = 0; i < seen.share.length; i++) {
					if (!seen.share[i] || !data[i * bytes + bytes - 1] || (free && !free[i])) continue;
					const [x, y] = [seen.places[i * 2] as number, seen.places[i * 2 + 1] as number];
					[x0, y0, x1, y1] = [Math.min(x0, x), Math.min(y0, y), Math.max(x1, x), Math.max(y1, y)];
				}
				if (x1 < x0) continue;
				const [x, y] = [Math.floor(x0), Math.floor(y0)];
				box = around(box, { x, y, width: Math.ceil(x1) - x, height: Math.ceil(y1) - y });
			}
			return isEmptyRect(box) ? null : box;
		},
		spotsSeen(model, sight, points) {
			const scene = needScene(workspace, model);
			return Array.from({ length: points.length / 2 }, (_, i) => {
				const spot = scene.spotAt(
					workspace.project.sheets,
					sight,
					points[i * 2] as number,
					points[i * 2 + 1] as number,
				);
				return spot && { sheet: spot.sheet, island: spot.island, x: spot.x, y: spot.y };
			});
		},
	};
}
