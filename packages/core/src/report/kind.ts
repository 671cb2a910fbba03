import type { FaceMeasures, ReportGround } from './ground.ts';

/** Something about a model that the artist may want to know; nothing of it keeps anybody from going on. */
export interface Finding {
	readonly kind: string;
	/** What is so, and what to do, in plain words. */
	readonly words: string;
	readonly todo: string;
	/** Where: faces of the model. */
	readonly faces: Uint32Array;
	/** It costs paint if it stays; the others are only told. */
	readonly grave: boolean;
}

/** One thing to look for. */
export interface FindingKind {
	readonly kind: string;
	find(ground: ReportGround, measures: FaceMeasures): readonly Finding[];
}

export const count = (n: number, one: string, many = `${one}s`): string =>
	`${n.toLocaleString('en')} ${n === 1 ? one : many}`;

/** Names of the parts that faces belong to, the first few of them. */
export function partNames({ mesh }: ReportGround, { partOfFace }: FaceMeasures, faces: Iterable<number>): string {
	const names = [...new Set([...faces].map((face) => mesh.parts[partOfFace[face] as number]?.name ?? ''))];
	const more = names.length > 3 ? ` and ${names.length - 3} more` : '';
	return `${names
		.slice(0, 3)
		.map((name) => `"${name}"`)
		.join(', ')}${more}`;
}

/** Faces of corners, each once, in their order. */
export const facesOf = (corners: Iterable<number>): Uint32Array =>
	Uint32Array.from(new Set([...corners].map((corner) => Math.floor(corner / 3)))).sort();

/** Faces for which something holds. */
export function facesWhere(faces: number, holds: (face: number) => boolean): Uint32Array {
	const found: number[] = [];
	for (let face = 0; face < faces; face++) if (holds(face)) found.push(face);
	return Uint32Array.from(found);
}
