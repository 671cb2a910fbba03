import { type AnewLayout, type AnewRequest, LayoutError, layAnew } from '../arrange/index.ts';
import type { JobKind, Work } from './kind.ts';

/** Lays faces of a model out anew. */
export interface UnwrapWork extends AnewRequest, Work<Unwrapped> {
	readonly job: 'unwrap';
}

/** The layout, or why there is none, in words for the artist. */
export type Unwrapped = { readonly layout: AnewLayout } | { readonly problem: string };

export const unwrap: JobKind<UnwrapWork, Unwrapped> = {
	job: 'unwrap',
	begin: () => (work) => {
		try {
			return { layout: layAnew(work) };
		} catch (error) {
			if (error instanceof LayoutError) return { problem: error.message };
			throw error;
		}
	},
	handsOver: (made) => ('layout' in made ? [made.layout.uvs.buffer as ArrayBuffer] : []),
};
