import type { Joining } from '@eppu/core/select';
import { tell } from '../studio/line.ts';
import type { Pointing } from '../studio/protocol.ts';
import { activeLayers, useStudio } from '../studio/store.ts';

/** Shift adds, Alt takes away, both keep what is selected twice; else as the bay says. */
export const joiningOf = (event: { shiftKey: boolean; altKey: boolean }): Joining =>
	event.shiftKey && event.altKey
		? 'meet'
		: event.shiftKey
			? 'add'
			: event.altKey
				? 'take'
				: useStudio.getState().selecting.joining;

/** Selects what lies at a place of either view. */
export function pick(place: Pointing, joining: Joining): void {
	const { selecting } = useStudio.getState();
	const { way, reach, together, ofLayer } = selecting;
	if (way === 'tones') return;
	tell({
		say: 'pick',
		place,
		by:
			way === 'island' || way === 'part' || way === 'face'
				? { by: 'piece', of: way }
				: { by: 'similar', reach, together },
		joining,
		layers: ofLayer ? activeLayers(useStudio.getState()) : null,
	});
}
