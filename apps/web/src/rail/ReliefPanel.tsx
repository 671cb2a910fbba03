import { lightOver } from '@eppu/core/document';
import { lightPresets, MOST_HEIGHT, MOST_SOFT, type Relief, usualRelief } from '@eppu/core/light';
import { toggleRelief } from '../actions/layers.ts';
import { addLight } from '../actions/light.ts';
import { Button } from '../ui/Button.tsx';
import { Choice } from '../ui/Choice.tsx';
import { type DialRow, Dials } from '../ui/Dials.tsx';
import type { LayerPanelProps } from './layerPanel.ts';

const rows: readonly DialRow<Relief>[] = [
	[
		'height',
		'Height',
		-MOST_HEIGHT,
		MOST_HEIGHT,
		usualRelief.height,
		'',
		{ hint: 'Hundredths of the model’s size; below 0 it sinks' },
	],
	['soft', 'Round rims', 0, MOST_SOFT, usualRelief.soft, ' px'],
];

/** Whether a layer stands out of the surface, how, and which light shows it. */
export function ReliefPanel({ sheet, layer, change }: LayerPanelProps) {
	const { relief } = layer;
	const light = relief && lightOver(sheet, layer.id);
	const [usual] = lightPresets;
	return (
		<section className="mt-3 border-t border-rule pt-2">
			<h3 className="bay-title mb-1">Relief</h3>
			{relief ? (
				<>
					<Choice
						label="What stands out"
						value={relief.from}
						options={[
							['shape', 'Where it is painted'],
							['tone', 'The lighter it is'],
						]}
						onChange={(from) => change({ relief: { ...relief, from } })}
					/>
					<div className="mt-1.5">
						<Dials of={relief} rows={rows} onChange={(next) => change({ relief: { ...relief, ...next } })} />
					</div>
					<p className="mb-1 text-[12px] text-ash">
						{light ? `“${light.name}” shows it. ` : 'No light lies over it yet, so it is not seen. '}
						At opacity 0 a layer is relief alone.
					</p>
				</>
			) : (
				<p className="mb-1 text-[12px] text-ash">
					Strokes can lay relief with their colour: light that lies over the layer shows it standing out.
				</p>
			)}
			<div className="flex flex-wrap gap-1">
				<Button className="!px-2 !py-0 !text-[12px]" onClick={() => toggleRelief(sheet, layer)}>
					{relief ? 'Lay it flat' : 'Let it stand out'}
				</Button>
				{relief && !light && usual && (
					<Button className="!px-2 !py-0 !text-[12px]" onClick={() => addLight(usual)}>
						Lay light over all
					</Button>
				)}
				{relief && (
					<Button className="!px-2 !py-0 !text-[12px]" onClick={() => change({ opacity: layer.opacity > 0 ? 0 : 1 })}>
						{layer.opacity > 0 ? 'Relief alone' : 'Show its colour'}
					</Button>
				)}
			</div>
		</section>
	);
}
