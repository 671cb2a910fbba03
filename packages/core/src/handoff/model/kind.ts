import type { LaidMesh, Look, NamedFile } from '../../mesh/index.ts';

/** A kind of model file. */
export interface ModelKind {
	readonly kind: string;
	readonly words: string;
	/** How textures go with it: within its own file, beside it, or not at all (colours at vertices instead). */
	readonly textures: readonly ('inside' | 'beside')[];
	/** Which way may be up; others turn the model. */
	readonly ups: readonly ('y' | 'z')[];
	/** What is painted goes along as colours at its vertices. */
	readonly colored: boolean;
	/** Its files without pictures that lie beside it. */
	write(
		mesh: LaidMesh,
		looks: readonly (Look | null)[],
		stem: string,
		textures: 'inside' | 'beside' | 'none',
	): Promise<readonly NamedFile[]>;
}
