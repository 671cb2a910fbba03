import { ramp } from '@eppu/core/color';
import { setFront, swapPots } from '../studio/desk.ts';
import { run } from '../studio/say.ts';
import { type StudioState, useStudio } from '../studio/store.ts';
import type { AppCommand } from './command.ts';

const get = useStudio.getState;

/** Adds the colours between the pots to the palette; those that it has already are left out. */
export function addRamp(count: number): void {
	const { outline, desk } = get();
	const palette = outline?.project.palette;
	if (!palette) return;
	const fresh = ramp(desk.front, desk.back, count).filter((hex) => !palette.colors.includes(hex));
	if (fresh.length)
		run({ do: 'palette.set', palette: { ...palette, colors: [...palette.colors, ...fresh].slice(0, 512) } });
}

/** The palette places under the thumb: keys 1 to 8. */
const palettePlaces = (state: StudioState): readonly string[] =>
	state.outline?.project.palette.colors.slice(0, 8) ?? [];

export const colorCommands: readonly AppCommand[] = [
	{
		id: 'swap',
		label: 'Swap the pots',
		keys: 'Z',
		run: swapPots,
	},
	{
		id: 'ramp',
		label: 'Ramp from front pot to back pot into the palette',
		keys: 'Shift+G',
		run: () => addRamp(5),
	},
	...[1, 2, 3, 4, 5, 6, 7, 8].map((n) => ({
		id: `palette-${n}`,
		label: `Palette place ${n}`,
		keys: String(n),
		run: () => {
			const color = palettePlaces(get())[n - 1];
			if (color) setFront(color);
		},
	})),
];
