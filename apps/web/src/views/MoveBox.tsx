import { type PointerEvent, useRef } from 'react';
import { moveBy, movingMap } from '../actions/moving.ts';
import { type Moving, type MovingOn, useStudio } from '../studio/store.ts';

type Grip = 'move' | 'turn' | readonly [number, number];

const grips: readonly (readonly [number, number])[] = [
	[-1, -1],
	[0, -1],
	[1, -1],
	[1, 0],
	[1, 1],
	[0, 1],
	[-1, 1],
	[-1, 0],
];

/** The box by which things are moved: drag inside to move, grips to scale (Ctrl skews on the sides), the knob to turn. */
// biome-ignore lint/complexity/noExcessiveLinesPerFunction: one box: grips, and what dragging each does.
export function MoveBox({
	on: view,
	frame,
}: {
	readonly on: MovingOn;
	readonly frame: { readonly scale: number; readonly x: number; readonly y: number };
}) {
	const moving = useStudio((state) => state.moves[view]);
	const held = useRef<{ grip: Grip; x: number; y: number; from: Moving } | null>(null);
	if (!moving) return null;
	const map = movingMap(moving);
	const { box } = moving;
	const [cx, cy] = [box.x + box.width / 2, box.y + box.height / 2];
	const screen = (u: number, v: number): [number, number] => {
		const [x, y] = [cx + (u * box.width) / 2, cy + (v * box.height) / 2];
		return [
			(map[0] * x + map[1] * y + map[2]) * frame.scale + frame.x,
			(map[3] * x + map[4] * y + map[5]) * frame.scale + frame.y,
		];
	};
	const down =
		(grip: Grip) =>
		(event: PointerEvent<SVGElement>): void => {
			if (event.button !== 0) return;
			event.stopPropagation();
			event.currentTarget.setPointerCapture(event.pointerId);
			held.current = { grip, x: event.clientX, y: event.clientY, from: moving };
		};
	const move = (event: PointerEvent<SVGElement>): void => {
		const now = held.current;
		if (!now) return;
		event.stopPropagation();
		const { from, grip } = now;
		const [dx, dy] = [(event.clientX - now.x) / frame.scale, (event.clientY - now.y) / frame.scale];
		if (grip === 'move') {
			const [x, y] = event.shiftKey ? (Math.abs(dx) > Math.abs(dy) ? [dx, 0] : [0, dy]) : [dx, dy];
			moveBy({ x: from.x + x, y: from.y + y }, view);
			return;
		}
		const [mx, my] = [(cx + from.x) * frame.scale + frame.x, (cy + from.y) * frame.scale + frame.y];
		const svg = event.currentTarget.ownerSVGElement?.getBoundingClientRect();
		const [px, py] = [event.clientX - (svg?.left ?? 0) - mx, event.clientY - (svg?.top ?? 0) - my];
		const [sx, sy] = [now.x - (svg?.left ?? 0) - mx, now.y - (svg?.top ?? 0) - my];
		if (grip === 'turn') {
			const by = ((Math.atan2(py, px) - Math.atan2(sy, sx)) * 180) / Math.PI;
			const turn = from.turn + by;
			moveBy({ turn: event.shiftKey ? Math.round(turn / 15) * 15 : Math.round(turn * 10) / 10 }, view);
			return;
		}
		// Along the box's own axes.
		const angle = (-from.turn * Math.PI) / 180;
		const own = (x: number, y: number): [number, number] => [
			x * Math.cos(angle) - y * Math.sin(angle),
			x * Math.sin(angle) + y * Math.cos(angle),
		];
		const [[ax, ay], [bx, by]] = [own(sx, sy), own(px, py)];
		if ((event.ctrlKey || event.metaKey) && grip[0] === 0) {
			const slant = Math.atan2(bx - ax, by || 1) * (180 / Math.PI);
			moveBy({ skew: Math.max(-75, Math.min(75, Math.round(from.skew + slant))) }, view);
			return;
		}
		let kx = grip[0] !== 0 && Math.abs(ax) > 1 ? bx / ax : 1;
		let ky = grip[1] !== 0 && Math.abs(ay) > 1 ? by / ay : 1;
		// Corners keep the shape unless Shift lets it go.
		if (grip[0] !== 0 && grip[1] !== 0 && !event.shiftKey) kx = ky = Math.abs(kx) > Math.abs(ky) ? kx : ky;
		const scale = (v: number): number => (Math.abs(v) < 0.01 ? 0.01 * Math.sign(v || 1) : Math.round(v * 1000) / 1000);
		moveBy({ scaleX: scale(from.scaleX * kx), scaleY: scale(from.scaleY * ky) }, view);
	};
	const up = (): void => {
		held.current = null;
	};
	const on = (grip: Grip) => ({ onPointerDown: down(grip), onPointerMove: move, onPointerUp: up, onPointerCancel: up });
	const corners = (
		[
			[-1, -1],
			[1, -1],
			[1, 1],
			[-1, 1],
		] as const
	).map(([u, v]) => screen(u, v));
	const [tx, ty] = screen(0, -1);
	const [mx, my] = screen(0, 0);
	const long = Math.hypot(tx - mx, ty - my) || 1;
	const knob = [tx + ((tx - mx) / long) * 24, ty + ((ty - my) / long) * 24] as const;
	return (
		<svg
			className="pointer-events-none absolute inset-0 size-full touch-none"
			role="group"
			aria-label="Move box"
			data-box={view}
		>
			<polygon
				points={corners.map((each) => each.join()).join(' ')}
				fill="transparent"
				stroke="#16181a"
				strokeWidth="2.5"
				className="pointer-events-auto cursor-move"
				data-move="inside"
				{...on('move')}
			/>
			<polygon
				points={corners.map((each) => each.join()).join(' ')}
				fill="none"
				stroke="#fbf9f4"
				strokeWidth="1.2"
				className="pointer-events-none"
			/>
			<line x1={tx} y1={ty} x2={knob[0]} y2={knob[1]} stroke="#fbf9f4" strokeWidth="1.5" />
			<circle
				cx={knob[0]}
				cy={knob[1]}
				r="6"
				fill="#e9a23b"
				stroke="#16181a"
				className="pointer-events-auto cursor-grab"
				data-move="turn"
				{...on('turn')}
			/>
			{grips.map((grip) => {
				const [x, y] = screen(...grip);
				return (
					<rect
						key={grip.join()}
						x={x - 5}
						y={y - 5}
						width="10"
						height="10"
						rx="2.5"
						fill="#fbf9f4"
						stroke="#16181a"
						className="pointer-events-auto cursor-nwse-resize"
						data-move={grip.join()}
						{...on(grip)}
					/>
				);
			})}
		</svg>
	);
}
