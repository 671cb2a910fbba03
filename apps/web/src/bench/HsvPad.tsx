import { type Hsv, hexOfHsv } from '@eppu/core/color';
import { type PointerEvent, useEffect, useRef, useState } from 'react';

const clamp = (v: number): number => Math.min(1, Math.max(0, v));

/** Saturation to the right and value upwards for one hue, and the hue below. */
export function HsvPad({ color, onChange }: { readonly color: Hsv; readonly onChange: (color: Hsv) => void }) {
	const pad = useRef<HTMLCanvasElement>(null);
	// A grey has no hue of its own: the last one stays.
	const [hue, setHue] = useState(color.h);
	const h = color.s > 0.01 && color.v > 0.01 && Math.abs(((color.h - hue + 540) % 360) - 180) > 3 ? color.h : hue;
	useEffect(() => {
		const context = pad.current?.getContext('2d');
		if (!context) return;
		const across = context.createLinearGradient(0, 0, 118, 0);
		across.addColorStop(0, '#ffffff');
		across.addColorStop(1, hexOfHsv({ h, s: 1, v: 1 }));
		context.fillStyle = across;
		context.fillRect(0, 0, 118, 62);
		const down = context.createLinearGradient(0, 0, 0, 62);
		down.addColorStop(0, 'rgb(0 0 0 / 0)');
		down.addColorStop(1, 'rgb(0 0 0 / 1)');
		context.fillStyle = down;
		context.fillRect(0, 0, 118, 62);
	}, [h]);
	const at = (event: PointerEvent<HTMLElement>): [number, number] => {
		const box = event.currentTarget.getBoundingClientRect();
		return [clamp((event.clientX - box.left) / box.width), clamp((event.clientY - box.top) / box.height)];
	};
	const onPad = (event: PointerEvent<HTMLElement>): void => {
		if (!(event.buttons & 1)) return;
		const [x, y] = at(event);
		setHue(h);
		onChange({ h, s: x, v: 1 - y });
	};
	const onStrip = (event: PointerEvent<HTMLElement>): void => {
		if (!(event.buttons & 1)) return;
		const next = at(event)[0] * 359.9;
		setHue(next);
		onChange({ ...color, h: next });
	};
	const step = (key: string, stop: () => void): void => {
		const by = { ArrowUp: [0, 0.01], ArrowDown: [0, -0.01], ArrowRight: [0.01, 0], ArrowLeft: [-0.01, 0] }[key];
		if (!by) return;
		stop();
		onChange({ h, s: clamp(color.s + (by[0] as number)), v: clamp(color.v + (by[1] as number)) });
	};
	return (
		<>
			<div
				role="application"
				aria-label={`Saturation ${Math.round(color.s * 100)}, value ${Math.round(color.v * 100)}; arrow keys change them`}
				tabIndex={0}
				className="cut-small relative h-[62px] cursor-crosshair touch-none overflow-hidden"
				onPointerDown={(event) => {
					event.currentTarget.setPointerCapture(event.pointerId);
					onPad(event);
				}}
				onPointerMove={onPad}
				onKeyDown={(event) =>
					step(event.key, () => {
						event.preventDefault();
						event.stopPropagation();
					})
				}
			>
				<canvas ref={pad} width={118} height={62} className="block size-full" />
				<span
					className="pointer-events-none absolute size-2.5 -translate-1/2 rounded-full border-2 border-white ring-1 ring-black"
					style={{ left: `${color.s * 100}%`, top: `${(1 - color.v) * 100}%` }}
				/>
			</div>
			<div
				role="slider"
				aria-label="Hue"
				aria-valuemin={0}
				aria-valuemax={360}
				aria-valuenow={Math.round(h)}
				tabIndex={0}
				className="cut-small relative mt-1.5 h-[14px] cursor-ew-resize touch-none overflow-hidden bg-[linear-gradient(to_right,#f00,#ff0_17%,#0f0_33%,#0ff_50%,#00f_67%,#f0f_83%,#f00)]"
				onPointerDown={(event) => {
					event.currentTarget.setPointerCapture(event.pointerId);
					onStrip(event);
				}}
				onPointerMove={onStrip}
				onKeyDown={(event) => {
					const by = { ArrowRight: 2, ArrowLeft: -2 }[event.key];
					if (!by) return;
					event.preventDefault();
					event.stopPropagation();
					const next = (h + by + 360) % 360;
					setHue(next);
					onChange({ ...color, h: next });
				}}
			>
				<span
					className="pointer-events-none absolute inset-y-0 w-1 -translate-x-1/2 border-x border-black bg-white"
					style={{ left: `${(h / 360) * 100}%` }}
				/>
			</div>
		</>
	);
}
