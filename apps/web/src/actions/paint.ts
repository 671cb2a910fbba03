import { setDesk } from '../studio/desk.ts';
import { tell } from '../studio/line.ts';
import { useStudio } from '../studio/store.ts';
import type { AppCommand } from './command.ts';

const get = useStudio.getState;
const set = useStudio.setState;

const clamp = (v: number, a: number, b: number): number => Math.min(b, Math.max(a, v));
const tipBy = (size: number, strength = 0): void => {
	const { tip } = get().desk;
	setDesk({
		tip: {
			...tip,
			size: clamp(
				Math.round(
					size > 1 ? Math.max(tip.size * size, tip.size + 1) : Math.min(tip.size * size, tip.size - (size < 1 ? 1 : 0)),
				),
				1,
				1000,
			),
			strength: clamp(Math.round((tip.strength + strength) * 100) / 100, 0, 1),
		},
	});
};

export const paintCommands: readonly AppCommand[] = [
	{ id: 'lift-guard', label: 'Lift the guard', run: () => setDesk({ guard: null }) },
	{ id: 'smaller', label: 'Smaller tip', keys: 'Q', run: () => tipBy(1 / 1.15) },
	{ id: 'larger', label: 'Larger tip', keys: 'E', run: () => tipBy(1.15) },
	{ id: 'weaker', label: 'Less strength', keys: 'Shift+Q', run: () => tipBy(1, -0.05) },
	{ id: 'stronger', label: 'More strength', keys: 'Shift+E', run: () => tipBy(1, 0.05) },
	{ id: 'tip-drag', label: 'Drag: size across, strength up and down', keys: 'R', held: true, run: () => undefined },
	{
		id: 'stencil-hold',
		label: 'Drag: move the stencil (right turns, wheel scales)',
		keys: 'T',
		held: true,
		run: () => undefined,
	},
	{
		id: 'stencil-hide',
		label: 'Take the stencil off, or put it on again',
		keys: 'Shift+T',
		run: () => setDesk({ stencil: { ...get().desk.stencil, shown: !get().desk.stencil.shown } }),
	},
	{ id: 'no-mirror', label: 'No mirror while held', keys: 'B', held: true, run: () => undefined },
	{ id: 'undo', label: 'Undo', keys: 'Ctrl+Z', run: () => tell({ say: 'undo' }) },
	{ id: 'redo', label: 'Redo', keys: 'Shift+Ctrl+Z', run: () => tell({ say: 'redo' }) },
	{ id: 'ask', label: 'Ask for…', keys: 'Ctrl+K', run: () => set({ asking: true }) },
	{
		id: 'halt',
		label: 'Stop computing masks and finishes, or go on',
		run: () => {
			const { computing } = get();
			if (computing) tell({ say: 'halt', on: !computing.halted });
		},
	},
];
