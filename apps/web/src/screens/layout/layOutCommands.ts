import { unwrapKinds } from '@eppu/core/unwrap';
import type { AppCommand } from '../../actions/command.ts';
import { askedOf, joinings } from './joinings.ts';
import { shades } from './shading.ts';
import type { Proposing } from './useProposal.ts';

/** What the stage offers now. */
export interface LayOutNow {
	readonly proposing: Proposing;
	/** Faces that are chosen, and what they are called; null where nothing is. */
	readonly chosen: { readonly faces: Uint32Array; readonly words: string } | null;
	setShade(name: string): void;
	setUnfold(share: number): void;
}

/** What can be asked for while models are laid out; `now` says how the stage stands when it is asked. */
export const layOutCommands = (now: () => LayOutNow): readonly AppCommand[] => [
	...unwrapKinds.map((kind) => ({
		id: `unwrap-${kind.way}`,
		label: `Unwrap what is chosen, or all: ${kind.words.toLowerCase()}`,
		run() {
			const { proposing, chosen } = now();
			const words = `Unwrap ${chosen?.words ?? 'all'}: ${kind.words.toLowerCase()}`;
			proposing.ask({ way: kind.usual as Parameters<Proposing['ask']>[0]['way'], faces: chosen?.faces ?? null, words });
		},
	})),
	{
		id: 'arrange-islands',
		label: 'Arrange what is chosen, or all islands',
		run() {
			const { proposing, chosen } = now();
			proposing.ask({ way: null, faces: chosen?.faces ?? null, words: `Arrange ${chosen?.words ?? 'all islands'}` });
		},
	},
	...joinings.map((act) => ({
		id: `${act.joining}-seams`,
		label: `${act.label} islands at the marked edges`,
		run: () => now().proposing.ask(askedOf(act)),
	})),
	{ id: 'take-layout', label: 'Take the layout that is shown', run: () => now().proposing.take() },
	{ id: 'leave-layout', label: 'Leave the layout that is shown', run: () => now().proposing.leave() },
	...shades.map(({ name, words }) => ({
		id: `shade-${name}`,
		label: `Colour the faces by: ${words.toLowerCase()}`,
		run: () => now().setShade(name),
	})),
	{ id: 'unfold', label: 'Lay the model flat', run: () => now().setUnfold(1) },
	{ id: 'fold', label: 'Fold the model up again', run: () => now().setUnfold(0) },
];
