import { curveAt } from '@eppu/core/color';
import { type PointerEvent, useRef } from 'react';

const [WIDTH, HEIGHT] = [104, 54];
const clamp = (v: number): number => Math.min(1, Math.max(0, v));

/** A curve through evenly spaced knots: drag one up and down, or use the arrow keys on it. */
export function CurveEditor({
	label,
	knots,
	onChange,
}: {
	readonly label: string;
	readonly knots: readonly number[];
	readonly onChange: (knots: readonly number[]) => void;
}) {
	const box = useRef<SVGSVGElement>(null);
	const held = useRef<number | null>(null);
	const put = (i: number, v: number): void =>
		onChange(knots.map((each, k) => (k === i ? Math.round(clamp(v) * 100) / 100 : each)));
	const drag = (event: PointerEvent): void => {
		const rect = box.current?.getBoundingClientRect();
		if (rect && held.current !== null) put(held.current, 1 - (event.clientY - rect.top) / rect.height);
	};
	const x = (i: number): number => (i / (knots.length - 1)) * WIDTH;
	const points = Array.from({ length: 41 }, (_, i) => `${(i / 40) * WIDTH},${(1 - curveAt(knots, i / 40)) * HEIGHT}`);
	return (
		<svg
			ref={box}
			viewBox={`-5 -5 ${WIDTH + 10} ${HEIGHT + 10}`}
			className="h-[64px] w-[114px] shrink-0 touch-none overflow-visible rounded bg-paper"
			onPointerMove={drag}
			onPointerUp={() => {
				held.current = null;
			}}
			role="group"
			aria-label={label}
		>
			<path d={`M0 ${HEIGHT}H${WIDTH}M0 ${HEIGHT}V0`} stroke="var(--rule)" fill="none" />
			<polyline points={points.join(' ')} fill="none" stroke="var(--pine)" strokeWidth="2" />
			{knots.map((v, i) => (
				<circle
					key={i}
					cx={x(i)}
					cy={(1 - v) * HEIGHT}
					r="5"
					fill="var(--sheet)"
					stroke="var(--soot)"
					strokeWidth="1.5"
					role="slider"
					tabIndex={0}
					aria-label={`${label}, at ${Math.round((100 * i) / (knots.length - 1))}%`}
					aria-valuemin={0}
					aria-valuemax={100}
					aria-valuenow={Math.round(v * 100)}
					onPointerDown={(event) => {
						held.current = i;
						box.current?.setPointerCapture(event.pointerId);
					}}
					onKeyDown={(event) => {
						const by = { ArrowUp: 0.05, ArrowDown: -0.05 }[event.key];
						if (by === undefined) return;
						event.preventDefault();
						event.stopPropagation();
						put(i, v + by);
					}}
				/>
			))}
		</svg>
	);
}
