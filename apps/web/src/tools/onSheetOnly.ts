import { useStudio } from '../studio/store.ts';
import type { Press } from './kind.ts';

/** Said on the model of a tool that works on the sheet. */
export function onSheetOnly({ view, clientX, clientY }: Press): void {
	if (view !== 'model') return;
	useStudio.setState({
		refusal: {
			refusal: { code: 'nothing-there', text: 'Shapes, gradients and moves are drawn on the sheet.', mend: null },
			x: clientX,
			y: clientY,
		},
	});
}
