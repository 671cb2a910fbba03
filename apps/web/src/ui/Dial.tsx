import { type PointerEvent, useRef, useState } from 'react';

export interface DialProps {
	readonly label: string;
	readonly value: number;
	readonly least: number;
	readonly most: number;
	/** Values at equal places of the bar have equal ratios: for sizes. */
	readonly ratio?: boolean;
	readonly usual: number;
	readonly unit: string;
	readonly onChange: (value: number) => void;
	readonly hint?: string;
	/** Shown as a percentage though it goes past 1. */
	readonly percent?: boolean;
	/** Room for a longer label. */
	readonly wide?: boolean;
}

const clamp = (v: number, a: number, b: number): number => Math.min(b, Math.max(a, v));

/** A value as a bar: drag along it, turn the wheel over it, click the figure (Enter on the bar) to type, the name to reset. */
export function Dial({
	label,
	value,
	least,
	most,
	ratio = false,
	usual,
	unit,
	onChange,
	hint,
	percent = most <= 1,
	wide = false,
}: DialProps) {
	const bar = useRef<HTMLDivElement>(null);
	const [typing, setTyping] = useState<string | null>(null);
	const share = ratio ? Math.log(value / least) / Math.log(most / least) : (value - least) / (most - least);
	const at = (t: number): number =>
		ratio ? least * (most / least) ** clamp(t, 0, 1) : least + (most - least) * clamp(t, 0, 1);
	const nice = (v: number): number => (most > 20 && !percent ? Math.round(v) : Math.round(v * 100) / 100);
	const put = (v: number): void => onChange(clamp(nice(v), least, most));
	const drag = (event: PointerEvent): void => {
		const box = bar.current?.getBoundingClientRect();
		if (box && event.buttons & 1) put(at((event.clientX - box.left) / box.width));
	};
	const type = (): void => setTyping(String(percent ? Math.round(value * 100) : nice(value)));
	const step = (by: number): void =>
		put(ratio ? Math.max(value * 1.06 ** by, value + by) : value + (by * (most - least)) / 50);
	return (
		<div
			className={`grid items-center gap-1.5 ${wide ? 'grid-cols-[72px_1fr_44px]' : 'grid-cols-[54px_1fr_44px]'}`}
			title={hint}
		>
			<span className="truncate" onDoubleClick={() => put(usual)}>
				{label}
			</span>
			<div
				ref={bar}
				role="slider"
				tabIndex={0}
				aria-label={label}
				aria-valuemin={least}
				aria-valuemax={most}
				aria-valuenow={Math.round(value * 100) / 100}
				aria-valuetext={`${percent ? Math.round(value * 100) : nice(value)}${unit}`}
				className="relative h-4 touch-none"
				onPointerDown={(event) => {
					event.currentTarget.setPointerCapture(event.pointerId);
					drag(event);
				}}
				onPointerMove={drag}
				onDoubleClick={() => put(usual)}
				onWheel={(event) => step(event.deltaY < 0 ? 1 : -1)}
				onKeyDown={(event) => {
					if (event.key === 'Enter') {
						event.preventDefault();
						event.stopPropagation();
						return type();
					}
					const by = { ArrowRight: 1, ArrowUp: 1, ArrowLeft: -1, ArrowDown: -1, PageUp: 5, PageDown: -5 }[event.key];
					if (by === undefined) return;
					event.preventDefault();
					event.stopPropagation();
					step(by);
				}}
			>
				<div className="absolute inset-x-0 top-1 h-2 overflow-hidden rounded-full bg-bark">
					<div className="h-full rounded-full bg-pine" style={{ width: `${clamp(share, 0, 1) * 100}%` }} />
				</div>
			</div>
			{typing === null ? (
				<button
					type="button"
					tabIndex={-1}
					className="text-right font-semibold"
					onClick={type}
					aria-label={`Type ${label.toLowerCase()}`}
				>
					{percent ? Math.round(value * 100) : nice(value)}
					{unit}
				</button>
			) : (
				<input
					autoFocus
					onFocus={(event) => event.target.select()}
					className="w-full bg-sheet text-right font-semibold"
					value={typing}
					aria-label={label}
					onChange={(event) => setTyping(event.target.value)}
					onBlur={() => setTyping(null)}
					onKeyDown={(event) => {
						event.stopPropagation();
						if (event.key === 'Escape' || event.key === 'Enter') bar.current?.focus();
						if (event.key === 'Escape') setTyping(null);
						if (event.key !== 'Enter') return;
						event.preventDefault();
						const typed = Number.parseFloat(typing.replace(',', '.'));
						if (Number.isFinite(typed)) put(percent ? typed / 100 : typed);
						setTyping(null);
					}}
				/>
			)}
		</div>
	);
}
