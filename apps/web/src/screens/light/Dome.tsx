import type { Lamp } from '@eppu/core/light';
import { type KeyboardEvent, type PointerEvent, useRef } from 'react';

const SIDE = 116;
const MIDDLE = SIDE / 2;
const REACH = MIDDLE - 7;

/** Where a lamp stands on the dome as it is seen from above: its middle is straight up, the ring level, the rim straight down. */
const placeOf = ({ turn, rise }: Pick<Lamp, 'turn' | 'rise'>): readonly [number, number] => {
	const away = ((90 - rise) / 180) * REACH;
	const angle = (turn * Math.PI) / 180;
	return [MIDDLE + away * Math.sin(angle), MIDDLE + away * Math.cos(angle)];
};

/** The turn and rise at a place of the dome. */
function lampAt(x: number, y: number): { readonly turn: number; readonly rise: number } {
	const [dx, dy] = [x - MIDDLE, y - MIDDLE];
	const away = Math.min(1, Math.hypot(dx, dy) / REACH);
	return {
		turn: away < 0.01 ? 0 : Math.round((Math.atan2(dx, dy) * 180) / Math.PI),
		rise: Math.round(90 - 180 * away),
	};
}

/** The sky over the model as a disc seen from above: lamps are dragged on it. */
export function Dome({
	lamps,
	chosen,
	onChoose,
	onMove,
}: {
	readonly lamps: readonly Lamp[];
	readonly chosen: string | null;
	readonly onChoose: (id: string) => void;
	readonly onMove: (id: string, to: { readonly turn: number; readonly rise: number }) => void;
}) {
	const dragged = useRef<string | null>(null);
	const at = (event: PointerEvent<SVGSVGElement>): readonly [number, number] => {
		const box = event.currentTarget.getBoundingClientRect();
		return [((event.clientX - box.left) / box.width) * SIDE, ((event.clientY - box.top) / box.height) * SIDE];
	};
	const press = (event: PointerEvent<SVGSVGElement>): void => {
		const [x, y] = at(event);
		const near = [...lamps]
			.map((lamp) => ({ lamp, off: Math.hypot(placeOf(lamp)[0] - x, placeOf(lamp)[1] - y) }))
			.sort((a, b) => a.off - b.off)[0];
		const id = near && near.off < 12 ? near.lamp.id : chosen;
		if (!id) return;
		event.currentTarget.setPointerCapture(event.pointerId);
		dragged.current = id;
		onChoose(id);
		if (!(near && near.off < 12)) onMove(id, lampAt(x, y));
	};
	const move = (event: PointerEvent<SVGSVGElement>): void => {
		if (dragged.current && event.buttons & 1) onMove(dragged.current, lampAt(...at(event)));
	};
	const key = (event: KeyboardEvent, lamp: Lamp): void => {
		const by = { ArrowLeft: [-5, 0], ArrowRight: [5, 0], ArrowUp: [0, 5], ArrowDown: [0, -5] }[event.key];
		if (!by) return;
		event.preventDefault();
		event.stopPropagation();
		const turn = ((lamp.turn + (by[0] as number) + 540) % 360) - 180;
		onMove(lamp.id, { turn, rise: Math.max(-90, Math.min(90, lamp.rise + (by[1] as number))) });
	};
	return (
		<svg
			viewBox={`0 0 ${SIDE} ${SIDE}`}
			className="size-[116px] shrink-0 cursor-crosshair touch-none"
			role="group"
			aria-label="Where light stands, seen from above"
			onPointerDown={press}
			onPointerMove={move}
			onPointerUp={() => {
				dragged.current = null;
			}}
		>
			<circle cx={MIDDLE} cy={MIDDLE} r={REACH} className="fill-bark-deep" />
			<circle cx={MIDDLE} cy={MIDDLE} r={REACH / 2} className="fill-sheet stroke-ash/50" strokeDasharray="2 3" />
			<path d={`M${MIDDLE - 5} ${SIDE - 1.5}h10l-5 -5z`} className="fill-ash" />
			<circle cx={MIDDLE} cy={MIDDLE} r={1.5} className="fill-ash" />
			{lamps.map((lamp) => {
				const [x, y] = placeOf(lamp);
				return (
					<g
						key={lamp.id}
						role="slider"
						tabIndex={0}
						aria-label={`${lamp.name}: arrow keys move it`}
						aria-valuenow={lamp.rise}
						aria-valuetext={`turned ${lamp.turn} degrees, ${lamp.rise} degrees up`}
						className="outline-none [&:focus-visible>circle:first-child]:stroke-pine"
						opacity={lamp.on ? 1 : 0.35}
						onKeyDown={(event) => key(event, lamp)}
						onFocus={() => onChoose(lamp.id)}
					>
						<circle
							cx={x}
							cy={y}
							r={8}
							fill="none"
							strokeWidth={2}
							className={lamp.id === chosen ? 'stroke-berry' : 'stroke-transparent'}
						/>
						<circle cx={x} cy={y} r={5.5} fill={lamp.color} className="stroke-soot" strokeWidth={1.2} />
					</g>
				);
			})}
		</svg>
	);
}
