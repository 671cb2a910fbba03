import type { Kernels } from '@eppu/kernels';
import type { Project } from '../document/index.ts';
import { type TipPicture, tipPicture } from '../projection/index.ts';
import {
	type PaintPicture,
	paintPictureOf,
	shippedStencil,
	shippedStencilPicture,
	shippedTip,
	shippedTipTone,
	TIP_SIDE,
	tipToneOf,
} from '../stroke/index.ts';
import type { MapPicture, Picture } from '../surface/index.ts';

/** Pictures that tips and stencils are made of: the shipped ones by name, the artist's own by the id they were put under. */
export interface Pictures {
	put(id: string, picture: Picture): void;
	has(id: string): boolean;
	/** The artist's own. */
	readonly own: ReadonlyMap<string, Picture>;
	/** Maps that were baked elsewhere, by the hash of their file. */
	readonly maps: Map<string, MapPicture>;
	/** Null is a round tip; undefined that no such picture is here. */
	tip(shape: string): TipPicture | null | undefined;
	stencil(id: string): PaintPicture | undefined;
	/** Whether a stencil's picture is here, without making it. */
	hasStencil(id: string): boolean;
}

const shared = new WeakMap<Kernels, Pictures>();

/** The pictures of a kernels instance: made once, used by every project that is opened on it. */
export function picturesOf(kernels: Kernels): Pictures {
	let pictures = shared.get(kernels);
	if (!pictures) shared.set(kernels, (pictures = createPictures(kernels)));
	return pictures;
}

function createPictures(kernels: Kernels): Pictures {
	const own = new Map<string, Picture>();
	const tips = new Map<string, TipPicture>();
	const stencils = new Map<string, PaintPicture>();
	return {
		put(id, picture) {
			own.set(id, picture);
		},
		has: (id) => own.has(id),
		own,
		maps: new Map(),
		tip(shape) {
			const shipped = shippedTip(shape);
			if (shipped && !shipped.tone) return null;
			let found = tips.get(shape);
			const picture = own.get(shape);
			const tone = found ? null : shipped ? shippedTipTone(shape) : picture ? tipToneOf(picture, TIP_SIDE) : null;
			if (tone) tips.set(shape, (found = tipPicture(kernels, tone, TIP_SIDE, shape === 'pixel')));
			return found;
		},
		stencil(id) {
			const shipped = shippedStencilPicture(id);
			if (shipped) return shipped;
			let found = stencils.get(id);
			const picture = own.get(id);
			if (!found && picture) stencils.set(id, (found = paintPictureOf(picture)));
			return found;
		},
		hasStencil: (id) => own.has(id) || shippedStencil(id) !== undefined,
	};
}

/** Pictures that the document itself names: of fills, patterns, recipes and bakes. */
export function picturesNamed(project: Project): Set<string> {
	const named = new Set<string>();
	JSON.stringify([project.sheets, project.models.map(({ bakes }) => bakes)], (key, value) => {
		if (key === 'picture' && typeof value === 'string') named.add(value);
		return value;
	});
	return named;
}
