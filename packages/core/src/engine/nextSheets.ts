import { eachTexelOfFace } from '../atlas/index.ts';
import {
	CommandError,
	eachLayer,
	freeName,
	groupLayer,
	type Id,
	type Layer,
	type Model,
	type Project,
	paintLayer,
	type Sheet,
	surfacesOfLayer,
	washLayer,
} from '../document/index.ts';
import type { Scene } from '../scene/index.ts';
import { createSurface, Kind, pictureIntoSurface, type Surface } from '../surface/index.ts';
import { gridOfSheet } from './grid.ts';
import type { Relaying, SheetHead } from './relaying.ts';
import type { Workspace } from './workspace.ts';

/** Layers under ids of their own, their surfaces still those of the layers that they are copies of. */
function copiesOf(layers: readonly Layer[], newId: () => Id): Layer[] {
	const ids = new Map([...eachLayer(layers)].map(({ id }) => [id, newId()]));
	const copy = (layer: Layer): Layer =>
		({
			...layer,
			id: ids.get(layer.id) as Id,
			...(layer.mask?.recipe
				? {
						mask: {
							...layer.mask,
							recipe: layer.mask.recipe.map((step) =>
								'layer' in step ? { ...step, layer: ids.get(step.layer) ?? step.layer } : step,
							),
						},
					}
				: {}),
			...('layers' in layer ? { layers: layer.layers.map(copy) } : {}),
		}) as Layer;
	return layers.map(copy);
}

/** Whether anything of layers can be seen. */
const isPainted = ({ surfaces }: Workspace, layers: readonly Layer[]): boolean =>
	[...eachLayer(layers)].some((layer) =>
		'surface' in layer ? surfaces.get(layer.surface)?.kinds.some((kind) => kind !== Kind.empty) : !('layers' in layer),
	);

/** A mask that shows the parts of models that come to a sheet from another, gutters too. */
function maskOfParts(
	{ kernels }: Workspace,
	id: Id,
	sheet: Sheet,
	scenes: Iterable<Scene>,
	comes: (model: Id, part: number) => boolean,
): Surface {
	const data = new Uint8Array(sheet.width * sheet.height);
	for (const { model, mapOf, mesh, partOfFace } of scenes) {
		const map = mapOf(sheet);
		for (let face = 0; face < mesh.indices.length / 3; face++)
			if (comes(model.id, partOfFace(face)))
				eachTexelOfFace(
					map,
					face,
					(y, x0, x1) => data.fill(255, y * sheet.width + x0, y * sheet.width + x1),
					(x, y) => {
						data[y * sheet.width + x] = 255;
					},
				);
	}
	const surface = createSurface(id, 'mask', sheet.width, sheet.height);
	pictureIntoSurface(kernels, { width: sheet.width, height: sheet.height, data }, surface);
	return surface;
}

/** The sheets after a change, before what lies on them is carried: parts that come from another bring its layers along. */
export function nextSheets(
	workspace: Workspace,
	project: Project,
	models: readonly Model[],
	change: Relaying,
	scenes: ReadonlyMap<Id, Scene>,
	/** The sheet that a part of a model lay on before; undefined for what was not here. */
	from: (model: Id, part: number) => Id | undefined,
	newId: () => Id,
	add: (surface: Surface) => void,
): Sheet[] {
	const heads: readonly SheetHead[] = change.sheets ?? project.sheets;
	const missing = models.flatMap(({ parts }) => parts).find(({ sheet }) => !heads.some(({ id }) => id === sheet));
	if (missing)
		throw new CommandError(
			`"${missing.name}" lies on a sheet that would not be there any more: put it on another first. Nothing was changed.`,
		);
	return heads.map((head): Sheet => {
		const known = project.sheets.find(({ id }) => id === head.id);
		const own: Sheet = known ? { ...known, ...head } : { ...head, guide: null, layers: [] };
		const lying = models.filter(({ parts }) => parts.some(({ sheet }) => sheet === head.id));
		if (lying.length > 1 && !gridOfSheet(own))
			throw new CommandError(
				`"${lying[0]?.name}" and "${lying[1]?.name}" cannot share the sheet "${head.name}": each model has sheets of its own. Nothing was changed.`,
			);
		const here = models.flatMap(({ id, parts }) =>
			parts.flatMap(({ sheet }, part) => (sheet === head.id ? [from(id, part)] : [])),
		);
		const sources = project.sheets.filter(({ id }) => id !== head.id && here.includes(id));
		const only = sources[0];
		if (!known && only && sources.length === 1) return { ...own, layers: copiesOf(only.layers, newId) };
		const names = own.layers.map(({ name }) => name);
		const brought = sources.flatMap((source): Layer[] => {
			const ground = source.base !== null && source.base !== own.base ? source.base : null;
			if (!ground && !isPainted(workspace, source.layers)) return [];
			const surface = newId();
			const comes = (model: Id, part: number): boolean =>
				from(model, part) === source.id && models.find(({ id }) => id === model)?.parts[part]?.sheet === head.id;
			add(maskOfParts(workspace, surface, own, scenes.values(), comes));
			const layers = [...(ground ? [washLayer(newId(), 'Ground', ground)] : []), ...copiesOf(source.layers, newId)];
			const name = freeName(source.name, names);
			names.push(name);
			return [groupLayer(newId(), name, layers, { mask: { surface, on: true }, isolated: ground !== null })];
		});
		const layers = [...own.layers, ...brought];
		if (layers.length || known) return { ...own, layers };
		const first = paintLayer(newId(), 'Paint');
		add(createSurface(first.surface, 'color', own.width, own.height));
		return { ...own, layers: [first] };
	});
}

/** Surfaces of the layers of a sheet, as one word. */
export const surfacesWord = ({ layers }: Sheet): string =>
	layers
		.flatMap(surfacesOfLayer)
		.map(({ id }) => id)
		.join();
