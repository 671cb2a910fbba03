import { surfacesNamed, surfacesOfProject } from '../document/index.ts';
import { createRecord, createSurface, inflateTexels, Kind, type SurfaceId } from '../surface/index.ts';
import { type KeptTile, keptSurface } from './delta.ts';
import type { Engine } from './engine.ts';
import type { Pressed, Step } from './history.ts';
import type { KeptStep, StoredTile } from './keptStep.ts';
import type { Workspace } from './workspace.ts';

const inflated = ({ surface, index, count, value, blob }: StoredTile): KeptTile => ({
	surface,
	index,
	count,
	value,
	texels: blob ? inflateTexels(blob) : null,
});

/** Steps that go with the work from one visit to the next. */
export function stepKeeping(workspace: Workspace): Pick<Engine, 'packStep' | 'recallSteps'> {
	const { kernels, history, surfaces, addSurface, takeKept } = workspace;
	/** What a step's tiles were, still deflated; null where one of its surfaces is not here. */
	const recalled = ({ tiles, surfaces: _own, ...step }: KeptStep<StoredTile>) => {
		const records = new Map<SurfaceId, Pressed>();
		for (const { surface: id, index, count, value, blob } of tiles) {
			const surface = surfaces.get(id);
			if (!surface || index + count > surface.kinds.length) return null;
			const pressed = records.get(id) ?? { record: createRecord(surface), tiles: new Map(), plain: true };
			records.set(id, pressed);
			for (let i = index; i < index + count; i++)
				pressed.record.tiles.set(
					i,
					blob ? { kind: Kind.mixed, data: 0 } : { kind: value ? Kind.uniform : Kind.empty, data: value ?? 0 },
				);
			if (blob) pressed.tiles.set(index, blob);
		}
		const list = [...records.values()];
		return { step: { ...step, records: list.map(({ record }) => record) }, pressed: list };
	};
	return {
		packStep(step) {
			const { words, undo, redo, gesture, records } = step;
			const named = new Set(surfacesOfProject(workspace.project).map(({ id }) => id));
			const gone = [...new Set(undo.flatMap(surfacesNamed))].filter((id) => !named.has(id));
			return {
				words,
				undo,
				redo,
				...(gesture ? { gesture } : {}),
				tiles: records.flatMap((record) =>
					[...record.tiles.keys()].map((index): KeptTile => {
						const { state, texels } = history.before(step, record, index);
						const value = texels ? null : state.kind === Kind.uniform ? state.data : 0;
						return { surface: record.surface.id, index, value, texels: texels as KeptTile['texels'] };
					}),
				),
				surfaces: gone.flatMap((id) => {
					const surface = surfaces.get(id);
					if (!surface) return [];
					const { format, width, height } = surface;
					return [{ id, format, width, height, tiles: keptSurface(kernels.heap, surface) }];
				}),
			};
		},
		recallSteps(list) {
			for (const { surfaces: own } of list)
				for (const { id, format, width, height, tiles } of own) {
					if (surfaces.has(id)) continue;
					addSurface(createSurface(id, format, width, height));
					takeKept(tiles.map(inflated));
				}
			const found: NonNullable<ReturnType<typeof recalled>>[] = [];
			// From the latest back: what lies before a step that cannot be taken back is out of reach.
			for (const kept of [...list].reverse()) {
				const step = recalled(kept);
				if (!step) break;
				found.unshift(step);
			}
			history.recall(found);
			return found.map(({ step }): Step => step);
		},
	};
}
