import { toggleCoat } from '../actions/layers.ts';
import { Button } from '../ui/Button.tsx';
import { type DialRow, Dials } from '../ui/Dials.tsx';
import type { LayerPanelProps } from './layerPanel.ts';

type Coat = NonNullable<LayerPanelProps['layer']['coat']>;
const rows: readonly DialRow<Coat>[] = [
	['depth', 'Depth', 0.01, 1, 0.34, '%', { hint: 'How much of a whole scrape it takes to get through' }],
	['falloff', 'Soft rim', 0, 1, 0.35, '%', { hint: '0 breaks sharply, 100 wears thin' }],
];

/** Whether a layer is a coat that can be scraped through, and how it breaks. */
export function CoatPanel({ sheet, layer, change }: LayerPanelProps) {
	const { coat } = layer;
	return (
		<section className="mt-3 border-t border-rule pt-2">
			<h3 className="bay-title mb-1">Coat of paint</h3>
			{coat ? (
				<Dials of={coat} rows={rows} onChange={(next) => change({ coat: { ...coat, ...next } })} />
			) : (
				<p className="mb-1 text-[12px] text-ash">A coat can be cut through with the Scrape tool (X).</p>
			)}
			<Button className="!px-2 !py-0 !text-[12px]" onClick={() => toggleCoat(sheet, layer)}>
				{coat ? 'No coat any more' : 'Make it a coat'}
			</Button>
		</section>
	);
}
