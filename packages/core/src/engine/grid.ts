import {
	CommandError,
	eachLayer,
	type Id,
	type Layer,
	type Project,
	type Sheet,
	type WashLayer,
} from '../document/index.ts';
import { type Along, assignedUvs, type CellPlace, regriddedUvs } from '../grid/index.ts';
import { type Layout, layoutOf } from '../layout/index.ts';
import type { Surface, SurfaceId } from '../surface/index.ts';
import { type Cells, cellAt } from '../wash/index.ts';
import { merged } from './dirty.ts';
import type { Engine } from './engine.ts';
import { nextModels } from './nextModels.ts';
import type { Relaying } from './relaying.ts';
import type { Workspace } from './workspace.ts';

/** The wash of a sheet that is a colour grid, with its cells; null where it is none. */
export function gridOfSheet(sheet: Sheet): { readonly layer: WashLayer; readonly cells: Cells } | null {
	for (const layer of eachLayer(sheet.layers))
		if (layer.kind === 'wash' && layer.fill?.fill === 'cells') return { layer, cells: layer.fill };
	return null;
}

/** Colour grids: cells that keep their places, and models whose faces lie in them. */
export function gridding(workspace: Workspace, relay: Engine['relay']): Pick<Engine, 'changeCells' | 'assignCell'> {
	const { scenes, need, addSurface, run } = workspace;
	const grid = (id: Id) => {
		const sheet = need(id);
		const found = gridOfSheet(sheet);
		if (!found) throw new CommandError(`"${sheet.name}" is no colour grid. Nothing was changed.`);
		return { sheet, ...found };
	};
	const withFill = (sheet: Sheet, layer: Layer, fill: Cells): Sheet => {
		const change = (list: readonly Layer[]): readonly Layer[] =>
			list.map((each) =>
				each.id === layer.id
					? ({ ...each, fill } as Layer)
					: 'layers' in each
						? ({ ...each, layers: change(each.layers) } as Layer)
						: each,
			);
		return { ...sheet, layers: change(sheet.layers) };
	};
	/** Puts sheets and layouts in place as one step. */
	const put = (
		project: Project,
		layouts: NonNullable<Relaying['layouts']>,
		words: string,
		newId: () => SurfaceId,
		gesture?: string,
	) => {
		const made: Surface[] = [];
		const models = nextModels(workspace, { layouts }, newId, (surface) => void made.push(surface));
		for (const surface of made) addSurface(surface);
		return run({ do: 'layout.set', sheets: project.sheets, models, words }, gesture);
	};
	return {
		changeCells(sheetId, next, moves, words, newId, gesture) {
			grid(sheetId);
			const places = new Set(next.cells.map(({ col, row }) => `${col} ${row}`));
			if (places.size !== next.cells.length)
				throw new CommandError('Two cells cannot stand in one place. Nothing was changed.');
			const lost = next.cells.find(({ col, row }) => col >= next.cols || row >= next.rows);
			if (lost)
				throw new CommandError(
					`"${lost.name}" would have no place in ${next.cols} by ${next.rows} cells: move it first. Nothing was changed.`,
				);
			const back = workspace.retake(gesture);
			const { sheet, layer, cells } = grid(sheetId);
			const to = new Map(moves.map(([from, place]) => [`${from.col} ${from.row}`, place]));
			const moved = (cell: CellPlace): CellPlace => to.get(`${cell.col} ${cell.row}`) ?? cell;
			const layouts = new Map<Id, Layout>();
			for (const scene of scenes.values()) {
				const on = (face: number): boolean => scene.model.parts[scene.partOfFace(face)]?.sheet === sheetId;
				const { uvs } = layoutOf(scene.mesh);
				const laid = regriddedUvs(uvs, on, cells, next, moved);
				if (laid.some((v, i) => v !== uvs[i])) layouts.set(scene.model.id, { uvs: laid });
			}
			const project = workspace.project;
			const sheets = project.sheets.map((each) => (each === sheet ? withFill(sheet, layer, next) : each));
			const dirty = layouts.size
				? put({ ...project, sheets }, layouts, words, newId, gesture)
				: run({ do: 'layer.change', sheet: sheetId, layer: layer.id, change: { fill: next } }, gesture);
			return merged([back, dirty]);
		},
		assignCell(sheetId, taken, place, along: Along, newId) {
			const { sheet, cells } = grid(sheetId);
			const cell = cellAt(cells, place.col, place.row);
			if (!cell) throw new CommandError('That cell is spare: give it a colour first. Nothing was changed.');
			const layouts = new Map<Id, Layout>();
			const homes = new Map<Id, Id[]>();
			let count = 0;
			for (const [modelId, asked] of taken) {
				const scene = scenes.get(modelId);
				if (!scene) throw new CommandError('That model is not in this project any more. Nothing was changed.');
				// A part that comes from another sheet comes as a whole.
				const strange = new Set(
					asked.map((face) => scene.partOfFace(face)).filter((part) => scene.model.parts[part]?.sheet !== sheetId),
				);
				const faces = Array.from({ length: scene.mesh.indices.length / 3 }, (_, face) => face);
				const wanted = new Set(asked);
				const own = faces.filter((face) => wanted.has(face) || strange.has(scene.partOfFace(face)));
				layouts.set(modelId, { uvs: assignedUvs(scene.mesh, layoutOf(scene.mesh).uvs, own, cells, cell, along) });
				count += own.length;
				if (strange.size)
					homes.set(
						modelId,
						scene.model.parts.map((part, i) => (strange.has(i) ? sheet.id : part.sheet)),
					);
			}
			const words = `${count} ${count === 1 ? 'face' : 'faces'} in "${cell.name}"`;
			if (!homes.size) return put(workspace.project, layouts, words, newId);
			return relay({ layouts, parts: homes }, words, newId).dirty;
		},
	};
}
