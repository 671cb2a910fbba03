import type { Kernels } from '@eppu/kernels';
import type { Compositor } from '../composite/index.ts';
import type { Id, Sheet } from '../document/index.ts';
import type { LaidMesh } from '../mesh/index.ts';
import { type Scene, sceneOfSheet } from '../scene/index.ts';
import type { Surface, SurfaceId } from '../surface/index.ts';
import type { Pictures } from './ownPictures.ts';
import type { PrefixStore } from './recipePrefix.ts';

/** What computing needs of the engine. */
export interface Means {
	readonly kernels: Kernels;
	readonly compositor: Compositor;
	readonly surfaces: ReadonlyMap<SurfaceId, Surface>;
	readonly scenes: ReadonlyMap<Id, Scene>;
	/** Meshes by the hash of their file: finer ones that bakes name are among them. */
	readonly meshes: ReadonlyMap<string, LaidMesh>;
	readonly pictures: Pictures;
	readonly prefixes: PrefixStore;
}

/** Says what all models are, for what depends on more of them than the sheet's own. */
export const saysOfModels = ({ scenes }: Means): readonly string[] =>
	[...scenes.values()].map(({ model }) => model.asset.hash);

/** Says what the parts of a sheet's model are called, for what goes by their names. */
export const saysOfNames = ({ scenes }: Means, sheet: Sheet): readonly string[] | null =>
	sceneOfSheet(scenes, sheet.id)?.mesh.parts.map(({ name }) => name) ?? null;

/** Says how the model of a sheet lies on it, for what is computed from that; nothing where no model does. */
export const saysOfSheet = ({ scenes }: Means, sheet: Sheet): readonly (string | number)[] | null => {
	const scene = sceneOfSheet(scenes, sheet.id);
	return scene ? [scene.says, sheet.bleed] : null;
};
