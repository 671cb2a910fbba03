/** Where a tone says that paint may go. */
export interface ToneGuard {
	/** A bake of the model, or the mask of a layer on the sheet that is painted. */
	readonly of: 'bake' | 'mask';
	readonly id: string;
	/** From this tone on, 0..1, over so soft a border. */
	readonly from: number;
	readonly soft: number;
	/** Where the tone is higher, or where it is lower. */
	readonly way: 'in' | 'out';
}

/**
 * Paint goes only to these faces of a model (or, with `way` 'not', to all others): a face is named in any list; where none
 * names any, all are free. A tone limits it further.
 */
export interface Guard {
	readonly way: 'only' | 'not';
	readonly parts: readonly number[];
	readonly islands: readonly number[];
	readonly faces: readonly number[];
	readonly tone?: ToneGuard | null;
}

/** Whether a guard names any faces. */
export const namesFaces = ({ parts, islands, faces }: Guard): boolean =>
	parts.length + islands.length + faces.length > 0;

/** Whether a guard lets paint on a face of a part and an island. */
export const guardLets = (guard: Guard, face: number, part: number, island: number): boolean =>
	!namesFaces(guard) ||
	(guard.parts.includes(part) || guard.islands.includes(island) || guard.faces.includes(face)) ===
		(guard.way === 'only');

/** How much paint a tone of 0..1 lets through, 0..1. */
export function toneLets({ from, soft, way }: ToneGuard, tone: number): number {
	const t = Math.min(1, Math.max(0, (tone - from) / Math.max(0.004, soft) + 0.5));
	const share = t * t * (3 - 2 * t);
	return way === 'in' ? share : 1 - share;
}
