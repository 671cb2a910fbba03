import type { Lathe } from '@eppu/core/solid';
import { type PointerEvent, useRef, useState } from 'react';

const [WIDE, HIGH] = [120, 150];
/** The largest radius and height that can be drawn. */
const [MOST_RADIUS, MOST_HEIGHT] = [0.8, 1.5];
const MOST_POINTS = 24;

const clamp = (v: number, most: number): number => Math.round(Math.min(most, Math.max(0, v)) * 100) / 100;

/** The line that a lathe turns: points are dragged, added by a click beside them, taken out by a double click. */
export function ProfileEditor({
	profile,
	onChange,
}: {
	readonly profile: Lathe['profile'];
	readonly onChange: (profile: Lathe['profile']) => void;
}) {
	const svg = useRef<SVGSVGElement>(null);
	const [held, setHeld] = useState<number | null>(null);
	const x = (radius: number): number => (radius / MOST_RADIUS) * WIDE;
	const y = (height: number): number => HIGH - (height / MOST_HEIGHT) * HIGH;
	const placeOf = (event: PointerEvent): readonly [number, number] => {
		const rect = svg.current?.getBoundingClientRect();
		const [px, py] = [event.clientX - (rect?.left ?? 0), event.clientY - (rect?.top ?? 0)];
		return [clamp((px / WIDE) * MOST_RADIUS, MOST_RADIUS), clamp(((HIGH - py) / HIGH) * MOST_HEIGHT, MOST_HEIGHT)];
	};
	const put = (at: number, place: readonly [number, number]): void =>
		onChange(profile.map((each, i) => (i === at ? place : each)));
	const add = (event: PointerEvent): void => {
		if (profile.length >= MOST_POINTS) return;
		const place = placeOf(event);
		// Between the two whose line it is nearest to, by height.
		const at = profile.findIndex(([, height]) => height > place[1]);
		const where = at < 0 ? profile.length : at;
		onChange([...profile.slice(0, where), place, ...profile.slice(where)]);
		setHeld(where);
	};
	return (
		<div className="flex items-start gap-3">
			<svg
				ref={svg}
				width={WIDE}
				height={HIGH}
				role="group"
				aria-label="Profile"
				className="cut shrink-0 touch-none border border-rule bg-paper"
				onPointerDown={(event) => {
					event.currentTarget.setPointerCapture(event.pointerId);
					if (event.target === event.currentTarget) add(event);
				}}
				onPointerMove={(event) => held !== null && event.buttons & 1 && put(held, placeOf(event))}
				onPointerUp={() => setHeld(null)}
			>
				<polyline
					points={profile.map(([r, h]) => `${x(r)},${y(h)}`).join(' ')}
					fill="none"
					stroke="currentColor"
					strokeWidth={1.5}
					pointerEvents="none"
				/>
				{profile.map(([r, h], i) => (
					<circle
						key={i}
						cx={x(r)}
						cy={y(h)}
						r={5}
						role="slider"
						tabIndex={0}
						aria-label={`Point ${i + 1}`}
						aria-valuenow={r}
						aria-valuetext={`radius ${r}, height ${h}`}
						className="cursor-grab fill-pine outline-offset-2"
						onPointerDown={() => setHeld(i)}
						onDoubleClick={() => profile.length > 2 && onChange(profile.filter((_, k) => k !== i))}
						onKeyDown={(event) => {
							const by = { ArrowLeft: [-0.02, 0], ArrowRight: [0.02, 0], ArrowUp: [0, 0.02], ArrowDown: [0, -0.02] }[
								event.key
							];
							if (event.key === 'Delete' && profile.length > 2) onChange(profile.filter((_, k) => k !== i));
							if (!by) return;
							event.preventDefault();
							put(i, [clamp(r + (by[0] as number), MOST_RADIUS), clamp(h + (by[1] as number), MOST_HEIGHT)]);
						}}
					/>
				))}
			</svg>
			<p className="text-[12px] text-ash">
				Drag the points of the line that is turned. A click adds one, a double click takes it out.
			</p>
		</div>
	);
}
