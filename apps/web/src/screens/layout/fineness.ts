import type { Id } from '@eppu/core/document';
import { create } from 'zustand';

/** How many times as fine as others a part is to be where islands are arranged. */
export const finenesses = [
	[0.5, 'Half as fine'],
	[1, 'As fine as the rest'],
	[1.5, 'One and a half times as fine'],
	[2, 'Twice as fine'],
	[3, 'Three times as fine'],
] as const;

export const finenessKey = (model: Id, part: number): string => `${model} ${part}`;

/** What was chosen during this visit, by model and part. */
export const useFineness = create<Readonly<Record<string, number>>>(() => ({}));

export const finenessOf = (model: Id, part: number): number => useFineness.getState()[finenessKey(model, part)] ?? 1;

export const setFineness = (model: Id, part: number, by: number): void =>
	useFineness.setState({ [finenessKey(model, part)]: by });
