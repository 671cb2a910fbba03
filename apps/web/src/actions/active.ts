import type { Layer, Sheet } from '@eppu/core/document';
import { activeLayer, activeSheet, useStudio } from '../studio/store.ts';

/** Does something with the active layer, where there is one. */
export const onActive = (act: (sheet: Sheet, layer: Layer) => void): void => {
	const [sheet, layer] = [activeSheet(useStudio.getState()), activeLayer(useStudio.getState())];
	if (sheet && layer) act(sheet, layer);
};
