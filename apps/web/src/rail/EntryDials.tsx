import { type Hex, hexOfOklch, oklchOfHex } from '@eppu/core/color';
import { useRef } from 'react';
import { Dials } from '../ui/Dials.tsx';
import { useGesture } from '../ui/useGesture.ts';

/** An entry of a palette, turned by its lightness, chroma and hue: all that has it changes as it is turned, as one step. */
export function EntryDials({
	color,
	change,
}: {
	readonly color: Hex;
	/** From the colour that it had when the hand began. */
	readonly change: (from: Hex, to: Hex, gesture: string) => void;
}) {
	const gesture = useGesture();
	const began = useRef({ gesture: '', from: color });
	/** Hue and chroma that grey does not tell. */
	const held = useRef({ hex: color, ...oklchOfHex(color) });
	if (held.current.hex !== color) held.current = { hex: color, ...oklchOfHex(color) };
	const { l, c, h } = held.current;
	const turn = (next: { readonly l?: number; readonly c?: number; readonly h?: number }): void => {
		const now = { l, c, h, ...next };
		const hex = hexOfOklch(now);
		const own = gesture();
		if (began.current.gesture !== own) began.current = { gesture: own, from: color };
		held.current = { hex, ...now };
		if (hex !== color) change(began.current.from, hex, own);
	};
	return (
		<div className="mt-1.5 grid gap-1">
			<Dials
				of={{ l, c, h }}
				rows={[
					['l', 'Lightness', 0, 1, 0.6, '%', { percent: true }],
					['c', 'Chroma', 0, 0.3, 0.1, ''],
					['h', 'Hue', 0, 360, 60, '°'],
				]}
				onChange={turn}
			/>
		</div>
	);
}
