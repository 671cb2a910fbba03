import { toggleCoat } from '../actions/layers.ts';
import { Button } from '../ui/Button.tsx';
import { Dial } from '../ui/Dial.tsx';
import type { LayerPanelProps } from './layerPanel.ts';

/** Whether a layer is a coat that can be scraped through, and how it breaks. */
export function CoatPanel({ sheet, layer, change }: LayerPanelProps) {
	return (
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
	);
}
