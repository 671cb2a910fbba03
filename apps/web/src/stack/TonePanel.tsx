import type { AdjustLayer, Sheet } from '@eppu/core/document';
import { type ToneOp, toneKindOf } from '@eppu/core/tone';
import { SlidersIcon } from '@phosphor-icons/react/dist/csr/Sliders';
import { useRef } from 'react';

import { run } from '../studio/say.ts';
import { Popover } from '../ui/Popover.tsx';
import { Histogram } from './Histogram.tsx';
import { ToneDials } from './ToneDials.tsx';

/** The dials of an adjust layer; the picture follows while they move, and one drag is one step. */
export function TonePanel({ sheet, layer }: { readonly sheet: Sheet; readonly layer: AdjustLayer }) {
	const gesture = useRef('');
	const { tone } = layer;
	const due = useRef<{ frame: number; tone: ToneOp }>({ frame: 0, tone });
	// Once a frame: a change of tones makes the whole sheet anew.
	const set = (next: ToneOp): void => {
		if (!gesture.current) gesture.current = crypto.randomUUID();
		const name = gesture.current;
		due.current.tone = next;
		due.current.frame ||= requestAnimationFrame(() => {
			due.current.frame = 0;
			run({ do: 'layer.change', sheet: sheet.id, layer: layer.id, change: { tone: due.current.tone } }, name);
		});
	};
	return (
		<Popover
			label={`Dials of ${layer.name}`}
			side="right"
			panelClass="w-[300px]"
			className="relative shrink-0 p-0.5"
			trigger={<SlidersIcon size={16} />}
		>
			<div
				onPointerUp={() => {
					gesture.current = '';
				}}
			>
				<h3 className="bay-title mb-1">{toneKindOf(tone).words}</h3>
				<Histogram sheet={sheet.id} layer={layer.id} />
				<ToneDials tone={tone} set={set} />
			</div>
		</Popover>
	);
}
