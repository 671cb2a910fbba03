import { hexOfOklch, oklchOfHex } from '@eppu/core/color';
import type { Tint, Toned } from '@eppu/core/light';
import type { ReactNode } from 'react';
import { OklchPad } from '../../bench/OklchPad.tsx';
import { useStudio } from '../../studio/store.ts';
import { Dial } from '../../ui/Dial.tsx';
import { type DialRow, Dials } from '../../ui/Dials.tsx';
import { Popover } from '../../ui/Popover.tsx';

const none: readonly string[] = [];

/** A colour as a dot that opens its pad, the palette, and what else belongs to it. */
export function ColorWell({
	label,
	color,
	onChange,
	children,
}: {
	readonly label: string;
	readonly color: string;
	readonly onChange: (color: string) => void;
	readonly children?: ReactNode;
}) {
	const palette = useStudio((state) => state.outline?.project.palette.colors ?? none);
	return (
		<Popover
			label={`${label}: colour ${color}`}
			panelClass="w-56"
			className="size-[18px] shrink-0 rounded-full border border-black/30"
			trigger={<span className="block size-full rounded-full" style={{ background: color }} />}
		>
			<h3 className="bay-title mb-1.5">{label}</h3>
			<OklchPad color={oklchOfHex(color)} onChange={(next) => onChange(hexOfOklch(next))} />
			<div className="mt-2 flex flex-wrap gap-[3px]">
				{palette.slice(0, 40).map((each, i) => (
					<button
						key={i}
						type="button"
						className="size-4 rounded-full border border-black/20"
						style={{ background: each }}
						aria-label={`Take ${each}`}
						onClick={() => onChange(each)}
					/>
				))}
			</div>
			{children && <div className="mt-2 flex flex-col gap-0.5">{children}</div>}
		</Popover>
	);
}

const toneRows: readonly DialRow<Toned>[] = [
	['warmth', 'Warmth', -1, 1, 0, '', { hint: 'Cooler to the left, warmer to the right' }],
	['chroma', 'Chroma', 0, 2, 1, '%', { percent: true }],
];

/** A colour with how much of it there is; shades have their warmth and chroma with the colour. */
export function TintRow<T extends Tint>({
	label,
	tint,
	usual,
	most = 1,
	hint,
	onChange,
}: {
	readonly label: string;
	readonly tint: T;
	readonly usual: number;
	readonly most?: number;
	readonly hint?: string;
	readonly onChange: (change: Partial<T>) => void;
}) {
	const toned = 'warmth' in tint ? (tint as unknown as Toned) : null;
	return (
		<div className="flex items-center gap-1.5">
			<ColorWell label={label} color={tint.color} onChange={(color) => onChange({ color } as Partial<T>)}>
				{toned && <Dials of={toned} rows={toneRows} onChange={(change) => onChange(change as unknown as Partial<T>)} />}
			</ColorWell>
			<div className="min-w-0 flex-1">
				<Dial
					wide
					label={label}
					value={tint.strength}
					least={0}
					most={most}
					usual={usual}
					percent
					unit="%"
					{...(hint === undefined ? {} : { hint })}
					onChange={(strength) => onChange({ strength } as Partial<T>)}
				/>
			</div>
		</div>
	);
}
