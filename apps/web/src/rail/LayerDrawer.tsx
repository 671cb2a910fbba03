import type { LayerChangeOf } from '../actions/layers.ts';
import { toggleCoat } from '../actions/layers.ts';
import { run } from '../studio/say.ts';
import { activeLayer, activeSheet, useStudio } from '../studio/store.ts';
import { Button } from '../ui/Button.tsx';
import { Dial } from '../ui/Dial.tsx';
import type { DrawerKind } from './drawer.ts';
import { FillPanel } from './FillPanel.tsx';
import { FinishPanel } from './FinishPanel.tsx';
import { OncePanel } from './OncePanel.tsx';
import { TextPanel } from './TextPanel.tsx';
import { useGesture } from './useGesture.ts';

/** The active layer: its fill or lettering, its finishes, its coat, and changes made once. */
export function LayerDrawer() {
	const sheet = useStudio(activeSheet);
	const layer = useStudio(activeLayer);
	const gesture = useGesture();
	if (!sheet || !layer)
		return <p className="p-4 text-ash">Choose a layer, and what can be done with it stands here.</p>;
	const change = (what: LayerChangeOf): void =>
		run({ do: 'layer.change', sheet: sheet.id, layer: layer.id, change: what }, gesture());
	return (
		<div className="min-h-0 flex-1 overflow-y-auto px-3 py-2.5">
			<h2 className="mb-2 truncate font-head text-[15px] font-semibold" title={layer.name}>
				{layer.name}
			</h2>
			{layer.kind === 'wash' && <FillPanel sheet={sheet} layer={layer} change={change} />}
			{layer.kind === 'text' && <TextPanel sheet={sheet} layer={layer} change={change} />}
			{layer.kind === 'paint' && <OncePanel sheet={sheet} layer={layer} />}
			{layer.kind !== 'adjust' && <FinishPanel sheet={sheet} layer={layer} change={change} />}
			{layer.kind === 'adjust' ? (
				<p className="text-ash">Its dials stand in its row, beside the name.</p>
			) : (
				<section className="mt-3 border-t border-rule pt-2">
					<h3 className="bay-title mb-1">Coat of paint</h3>
					{layer.coat ? (
						<>
							<Dial
								wide
								label="Depth"
								unit="%"
								least={0.01}
								most={1}
								value={layer.coat.depth}
								usual={0.34}
								onChange={(depth) => layer.coat && change({ coat: { ...layer.coat, depth } })}
								hint="How much of a whole scrape it takes to get through"
							/>
							<Dial
								wide
								label="Soft rim"
								unit="%"
								least={0}
								most={1}
								value={layer.coat.falloff}
								usual={0.35}
								onChange={(falloff) => layer.coat && change({ coat: { ...layer.coat, falloff } })}
								hint="0 breaks sharply, 100 wears thin"
							/>
						</>
					) : (
						<p className="mb-1 text-[12px] text-ash">A coat can be cut through with the Scrape tool (X).</p>
					)}
					<Button className="!px-2 !py-0 !text-[12px]" onClick={() => toggleCoat(sheet, layer)}>
						{layer.coat ? 'No coat any more' : 'Make it a coat'}
					</Button>
				</section>
			)}
		</div>
	);
}

export const layerDrawer: DrawerKind = {
	name: 'layer',
	label: 'Layer',
	asks: 'Layer drawer: fill, lettering, finishes, coat',
	Drawer: LayerDrawer,
};
