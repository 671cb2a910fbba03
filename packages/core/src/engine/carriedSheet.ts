import {
	type Across,
	type Carried,
	carrySurface,
	countOf,
	isOpen,
	type Lying,
	moveOf,
	nothingCarried,
	type Passage,
	passageOf,
} from '../carry/index.ts';
import {
	eachLayer,
	type Id,
	layerMoved,
	ownSurfaceOf,
	type PlaceMove,
	type Project,
	type Sheet,
	surfacesOfSheet,
	withSurfaces,
} from '../document/index.ts';
import type { Scene } from '../scene/index.ts';
import { hasTexels, type Kind, type Surface, type SurfaceId, TILE, texelAt, tileState } from '../surface/index.ts';
import type { CarriedSheet, LostPaint } from './relaying.ts';
import type { Workspace } from './workspace.ts';

const lying = (scene: Scene, sheet: Sheet): Lying => ({
	model: scene.model.id,
	mesh: scene.mesh,
	islandOfFace: scene.topology.islandOfFace,
	map: scene.mapOf(sheet),
});

const onSheet =
	({ model, partOfFace }: Scene, sheet: Id) =>
	(face: number): boolean =>
		model.parts[partOfFace(face)]?.sheet === sheet;

/** The scenes of the models before a change, and after it: the same where a model stays as it was. */
export interface Scenery {
	readonly project: Project;
	readonly before: ReadonlyMap<Id, Scene>;
	readonly after: ReadonlyMap<Id, Scene>;
	/** Of the models that are another version of themselves: how these stand to each other. */
	readonly across: ReadonlyMap<Id, Across>;
}

/** Whether a texel's paint has no surface to go with: it lay beside the islands, or what it lay on is not there any more. */
const losing =
	(passages: readonly Passage[]) =>
	(texel: number): boolean =>
		passages.every(({ owners, across, from }) => {
			if (!owners.owner[texel]) return true;
			const face = across ? (from.faceOfTexel[texel] as number) : 0;
			return face > 0 && across?.gone[face - 1] === 1;
		});

/** Texels of a surface that are not empty and lose what they lay on, and where they lie. */
function besideIslands(
	workspace: Workspace,
	surface: Surface,
	loses: (texel: number) => boolean,
): Omit<LostPaint, 'layer'> {
	const { heap } = workspace.kernels;
	const { width, height, cols } = surface;
	let texels = 0;
	let [left, top, right, bottom] = [width, height, 0, 0];
	for (let tile = 0; tile < surface.kinds.length; tile++) {
		const { kind } = tileState(surface, tile);
		// One value all over, as a filled sheet has it, is the ground and stays.
		if (!hasTexels(kind as Kind)) continue;
		const [x0, y0] = [(tile % cols) * TILE, Math.floor(tile / cols) * TILE];
		for (let y = y0; y < Math.min(height, y0 + TILE); y++)
			for (let x = x0; x < Math.min(width, x0 + TILE); x++) {
				if (!loses(y * width + x) || texelAt(heap, surface, x, y)[3] === 0) continue;
				texels++;
				[left, top, right, bottom] = [
					Math.min(left, x),
					Math.min(top, y),
					Math.max(right, x + 1),
					Math.max(bottom, y + 1),
				];
			}
	}
	return { texels, at: { x: left, y: top, width: right - left, height: bottom - top } };
}

/** A sheet with all that lies on it carried from where it lay before; `add` takes the surfaces that are made, and `carried` is called for each. */
export function carriedSheet(
	workspace: Workspace,
	sheet: Sheet,
	{ project, before, after, across }: Scenery,
	/** Models lie on it as before: what is beside their islands goes along, as large as the sheet is now. */
	whole: boolean,
	newId: () => SurfaceId,
	add: (surface: Surface) => void,
	carried: () => void,
): { readonly sheet: Sheet; readonly report: CarriedSheet } {
	const { kernels, surfaces } = workspace;
	const known = new Map<Id, readonly Passage[]>();
	const passagesFrom = (from: Sheet): readonly Passage[] => {
		let found = known.get(from.id);
		if (!found)
			known.set(
				from.id,
				(found = [...after].flatMap(([id, now]) => {
					const was = before.get(id);
					if (!was) return [];
					const [lay, lies] = [onSheet(was, from.id), onSheet(now, sheet.id)];
					const passage = passageOf(lying(was, from), lying(now, sheet), lay, lies, across.get(id));
					return isOpen(passage) ? [passage] : [];
				})),
			);
		return found;
	};
	const sourceOf = (surface: SurfaceId | null): Sheet | undefined =>
		project.sheets.find((each) => surfacesOfSheet(each).some(({ id }) => id === surface));
	const renamed = new Map<SurfaceId, SurfaceId>();
	const renew = (id: SurfaceId): SurfaceId => {
		const [surface, from] = [surfaces.get(id), sourceOf(id)];
		if (!surface || !from) return id;
		const next = renamed.get(id) ?? newId();
		if (!renamed.has(id)) {
			const shared = project.sheets.some((each) => each !== from && passagesFrom(each).length > 0);
			const ground = whole ? 'sized' : shared && surface.format === 'color' ? 'empty' : 'usual';
			add(carrySurface(kernels, surface, next, sheet, passagesFrom(from), ground, from.pixel === true));
		}
		renamed.set(id, next);
		carried();
		return next;
	};
	const old = project.sheets.find(({ id }) => id === sheet.id);
	const moveOn = (from: Sheet | undefined): PlaceMove => moveOf(from ? passagesFrom(from) : []);
	const layers = sheet.layers.map((layer) => {
		const own = [...eachLayer([layer])].map((each) => ownSurfaceOf(each) ?? each.mask?.surface ?? null).find(Boolean);
		return layerMoved(withSurfaces(layer, renew), moveOn(sourceOf(own ?? null) ?? old));
	});
	const selection = sheet.selection ? renew(sheet.selection) : sheet.selection;
	const counts = nothingCarried();
	const parts = new Map<string, Carried>();
	for (const from of project.sheets)
		for (const passage of passagesFrom(from)) {
			const of = after.get(passage.model) as Scene;
			countOf(passage, onSheet(of, sheet.id), (fate, texels, face) => {
				counts[fate] += texels;
				const name = face === null ? null : (of.model.parts[of.partOfFace(face)]?.name ?? null);
				if (name === null) return;
				const own = parts.get(name) ?? nothingCarried();
				own[fate] += texels;
				parts.set(name, own);
			});
		}
	const lost = [...eachLayer(old?.layers ?? [])].flatMap((layer): LostPaint[] => {
		const surface = surfaces.get(ownSurfaceOf(layer) ?? '');
		const passages = old ? passagesFrom(old) : [];
		const found = surface && passages.length && !whole ? besideIslands(workspace, surface, losing(passages)) : null;
		return found?.texels ? [{ layer: layer.name, ...found }] : [];
	});
	return {
		sheet: { ...sheet, layers, ...(selection === undefined ? {} : { selection }) },
		report: { sheet: sheet.id, ...counts, parts: [...parts].map(([name, own]) => ({ name, ...own })), lost },
	};
}
