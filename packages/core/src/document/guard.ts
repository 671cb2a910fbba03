/** Paint goes only to these faces of a model (or, with `way` 'not', to all others): a face is named in any list. */
export interface Guard {
	readonly way: 'only' | 'not';
	readonly parts: readonly number[];
	readonly islands: readonly number[];
	readonly faces: readonly number[];
}

/** Whether a guard lets paint on a face of a part and an island. */
export const guardLets = (guard: Guard, face: number, part: number, island: number): boolean =>
	(guard.parts.includes(part) || guard.islands.includes(island) || guard.faces.includes(face)) ===
	(guard.way === 'only');
