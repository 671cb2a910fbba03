import type { PaintLayer } from '@eppu/core/document';
import { type ToneOp, toneKindOf, toneKinds } from '@eppu/core/tone';
import { useEffect, useRef, useState } from 'react';
import { Histogram } from '../stack/Histogram.tsx';
import { ToneDials } from '../stack/ToneDials.tsx';
import { tell } from '../studio/line.ts';
import { edit } from '../studio/say.ts';
import { paintsMask, useStudio } from '../studio/store.ts';
import { Button } from '../ui/Button.tsx';
import { Select } from '../ui/Select.tsx';
import type { LayerPanelProps } from './layerPanel.ts';

/** Changes of tones made once, to the layer's own pixels or its mask: seen while the dials move, then set down or taken back. */
export function OncePanel({ sheet, layer }: LayerPanelProps<PaintLayer>) {
	const [tone, setTone] = useState<ToneOp | null>(null);
	const gesture = useRef('');
	const frame = useRef(0);
	const onMask = useStudio(paintsMask);
	useEffect(() => setTone(null), [layer.id, onMask]);
	const show = (next: ToneOp): void => {
		setTone(next);
		cancelAnimationFrame(frame.current);
		frame.current = requestAnimationFrame(() => edit({ do: 'tone', tone: next }, gesture.current));
	};
	return (
		<section>
			<h3 className="bay-title mb-1">Change {onMask ? 'the mask' : 'its tones'} once</h3>
			<Histogram sheet={sheet.id} layer={layer.id} />
			<div className="mb-2">
				<Select
					label="Change once"
					empty="Choose a change…"
					value={tone?.op ?? ''}
					options={toneKinds.map(({ op, words }) => [op, words] as const)}
					onChange={(op) => {
						gesture.current = crypto.randomUUID();
						show(toneKindOf({ op }).usual as ToneOp);
					}}
				/>
			</div>
			{tone && (
				<>
					<ToneDials tone={tone} set={show} />
					<div className="mt-2 flex gap-1.5">
						<Button look="main" className="!px-2 !py-0 !text-[12px]" onClick={() => setTone(null)}>
							Set down
						</Button>
						<Button
							className="!px-2 !py-0 !text-[12px]"
							onClick={() => {
								// Only its own step: a layer with nothing to change made none.
								if (useStudio.getState().outline?.gesture === gesture.current) tell({ say: 'undo' });
								setTone(null);
							}}
						>
							Take back
						</Button>
					</div>
				</>
			)}
		</section>
	);
}
