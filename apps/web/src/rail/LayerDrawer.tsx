import { kindOf } from '@eppu/core/document';
import type { LayerChangeOf } from '../actions/layers.ts';
import { run } from '../studio/say.ts';
import { activeLayer, activeSheet, useStudio } from '../studio/store.ts';
import { useGesture } from '../ui/useGesture.ts';
import { CoatPanel } from './CoatPanel.tsx';
import type { DrawerKind } from './drawer.ts';
import { FinishPanel } from './FinishPanel.tsx';
import { layerPanelOf } from './layerPanels.ts';
import { ReliefPanel } from './ReliefPanel.tsx';

/** The active layer: its fill or lettering, its finishes, its relief, its coat, and changes made once. */
export function LayerDrawer() {
	const sheet = useStudio(activeSheet);
	const layer = useStudio(activeLayer);
	const gesture = useGesture();
	if (!sheet || !layer)
		return <p className="p-4 text-ash">Choose a layer, and what can be done with it stands here.</p>;
	const change = (what: LayerChangeOf): void =>
		run({ do: 'layer.change', sheet: sheet.id, layer: layer.id, change: what }, gesture());
	const Panel = layerPanelOf(layer);
	return (
		<div className="min-h-0 flex-1 overflow-y-auto px-3 py-2.5">
			<h2 className="mb-2 truncate font-head text-[15px] font-semibold" title={layer.name}>
				{layer.name}
			</h2>
			{Panel && <Panel sheet={sheet} layer={layer} change={change} />}
			{kindOf(layer).finishes && (
				<>
					<FinishPanel sheet={sheet} layer={layer} change={change} />
					<ReliefPanel sheet={sheet} layer={layer} change={change} />
					<CoatPanel sheet={sheet} layer={layer} change={change} />
				</>
			)}
		</div>
	);
}

export const layerDrawer: DrawerKind = {
	name: 'layer',
	label: 'Layer',
	asks: 'Layer drawer: fill, lettering, finishes, relief, coat',
	Drawer: LayerDrawer,
};
