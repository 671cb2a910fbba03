import { bundleDrawer } from './BundleDrawer.tsx';
import { colorsDrawer } from './ColorsDrawer.tsx';
import type { DrawerKind } from './drawer.ts';
import { findingsDrawer } from './FindingsDrawer.tsx';
import { historyDrawer } from './HistoryDrawer.tsx';
import { keysDrawer } from './KeysDrawer.tsx';
import { layerDrawer } from './LayerDrawer.tsx';
import { penDrawer } from './PenDrawer.tsx';
import { recipeDrawer } from './RecipeDrawer.tsx';
import { referencesDrawer } from './ReferencesDrawer.tsx';

/** Every drawer, in the order of their tabs: a new one is a line here. */
export const drawers: readonly DrawerKind[] = [
	layerDrawer,
	recipeDrawer,
	referencesDrawer,
	colorsDrawer,
	findingsDrawer,
	bundleDrawer,
	historyDrawer,
	penDrawer,
	keysDrawer,
];
