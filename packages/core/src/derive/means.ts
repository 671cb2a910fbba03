import type { Kernels } from '@eppu/kernels';
import type { Compositor } from '../composite/index.ts';
import type { Id } from '../document/index.ts';
import type { Scene } from '../scene/index.ts';
import type { Surface, SurfaceId } from '../surface/index.ts';
import type { Pictures } from './ownPictures.ts';
import type { PrefixStore } from './recipePrefix.ts';

/** What computing needs of the engine. */
export interface Means {
	readonly kernels: Kernels;
	readonly compositor: Compositor;
	readonly surfaces: ReadonlyMap<SurfaceId, Surface>;
	readonly scenes: ReadonlyMap<Id, Scene>;
	readonly pictures: Pictures;
	readonly prefixes: PrefixStore;
}
