import { type ArrangeChoice, usualArrange } from '@eppu/core/arrange';
import type { Id } from '@eppu/core/document';
import type { UnwrapWay } from '@eppu/core/unwrap';
import { useEffect, useRef, useState } from 'react';
import { relay } from '../../actions/layouts.ts';
import { question } from '../../studio/line.ts';
import { useStudio } from '../../studio/store.ts';
import type { Proposal, ShownModel } from '../../studio/told.ts';
import { finenessOf } from './fineness.ts';
import { cornersOf } from './handMoves.ts';

/** What is asked for: null for the way only arranges what there is. */
export interface Asked {
	readonly way: UnwrapWay | null;
	readonly faces: Uint32Array | null;
	readonly choice: ArrangeChoice;
	readonly words: string;
	/** The islands that are meant are those that marked edges cut, or at which they are sewn together. */
	readonly joining?: 'cut' | 'sew';
}

export interface Proposing {
	/** What is shown now, instead of how the model lies; null where nothing is. */
	readonly proposal: (Extract<Proposal, { readonly layout: unknown }> & { readonly byHand?: boolean }) | null;
	/** Why there is none. */
	readonly problem: string | null;
	readonly busy: boolean;
	readonly choice: ArrangeChoice;
	setChoice(choice: ArrangeChoice): void;
	ask(asked: Omit<Asked, 'choice'>): void;
	/** Shows a layout that was made here; null tells why there is none. */
	offer(shown: ShownModel | null, words: string): void;
	/** Asks again for what is shown, otherwise. */
	again(change: Partial<Asked>): void;
	take(): void;
	leave(): void;
}

/** A layout made by hand: nothing of it was counted. */
const uncounted = { pieces: 0, stacked: 0, cuts: 0, angleStretch: 1, areaStretch: 1, sheets: [] };

/** How long a dial may move before it is asked again. */
const REST_MS = 180;

/**
 * Layouts are looked at before they are taken: both views show how the model would lie, and nothing of the project is
 * changed until then.
 */
export function useProposal(model: Id | undefined): Proposing {
	const [proposal, setProposal] = useState<Proposing['proposal']>(null);
	const [problem, setProblem] = useState<string | null>(null);
	const [busy, setBusy] = useState(false);
	const [choice, setChoice] = useState(usualArrange);
	const asked = useRef<Asked | null>(null);
	const turn = useRef(0);
	const timer = useRef<ReturnType<typeof setTimeout>>(undefined);
	/** How the models lie, while something else is shown. */
	const own = useRef<readonly ShownModel[] | null>(null);
	const back = (): void => {
		if (own.current) useStudio.setState({ models: own.current });
		own.current = null;
	};
	const done = (): void => {
		turn.current++;
		clearTimeout(timer.current);
		asked.current = null;
		setBusy(false);
		setProposal(null);
	};
	// Where models come to lie otherwise, by undo say, what was shown is of the past.
	useEffect(
		() =>
			useStudio.subscribe((state, before) => {
				if (state.outline?.project.models === before.outline?.project.models || !asked.current) return;
				own.current = null;
				done();
			}),
		[],
	);
	useEffect(() => () => back(), []);
	const show = (shown: ShownModel, found: Proposing['proposal']): void => {
		const { models } = useStudio.getState();
		own.current ??= models;
		setProposal(found);
		useStudio.setState({ models: models.map((each) => (each.id === model ? shown : each)) });
	};
	const send = async (what: Asked): Promise<void> => {
		if (model === undefined) return;
		const mine = ++turn.current;
		asked.current = what;
		setBusy(true);
		setProblem(null);
		const parts = useStudio.getState().outline?.project.models.find(({ id }) => id === model)?.parts ?? [];
		const found = await question<'anew'>({
			say: 'anew',
			model,
			faces: what.faces,
			way: what.way,
			joining: what.joining ?? null,
			choice: what.choice,
			weights: parts.map((_, i) => finenessOf(model, i)),
		});
		if (mine !== turn.current) return;
		setBusy(false);
		if ('problem' in found) return setProblem(found.problem);
		show(found.shown, found);
	};
	return {
		proposal,
		problem,
		busy,
		choice,
		setChoice,
		ask: (what) => void send({ ...what, choice }),
		offer(shown, words) {
			if (!shown) return setProblem(words);
			setProblem(null);
			asked.current = { way: null, faces: null, choice, words };
			const layout = { ...uncounted, uvs: cornersOf(shown) };
			show(shown, { layout, shown, spent: [], byHand: true });
		},
		again(change) {
			const { current } = asked;
			if (!current || proposal?.byHand) return;
			clearTimeout(timer.current);
			timer.current = setTimeout(() => void send({ ...current, ...change }), REST_MS);
		},
		take() {
			if (!proposal || model === undefined) return;
			const words = asked.current?.words ?? 'Lay out anew';
			own.current = null;
			const { layout, spent } = proposal;
			done();
			relay({ layouts: [[model, layout.uvs]], ...(spent.length ? { unmarked: [[model, spent]] } : {}) }, words);
		},
		leave() {
			back();
			setProblem(null);
			done();
		},
	};
}
