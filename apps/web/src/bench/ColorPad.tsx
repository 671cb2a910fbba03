import { type KeyboardEvent, type PointerEvent, useEffect, useRef, useState } from 'react';

export const PAD_WIDTH = 118;
export const PAD_HEIGHT = 62;
const STRIP_HEIGHT = 10;
/** Hues of the strip that are worked out; the others lie between. */
const HUES = 24;

export interface ColorPadProps {
	/** Place on the pad, 0..1 to the right and upwards, and hue in degrees. */
	readonly x: number;
	readonly y: number;
	readonly hue: number;
	/** Whether the colour has a hue of its own; a grey keeps the last one. */
	readonly hued: boolean;
	readonly words: string;
	/** How far an arrow key goes, across and upwards. */
	readonly step: readonly [number, number];
	readonly paintPad: (context: CanvasRenderingContext2D, hue: number) => void;
	/** The css colour of a hue on the strip. */
	readonly stripColor: (hue: number) => string;
	readonly onChange: (x: number, y: number, hue: number) => void;
}

const clamp = (v: number): number => Math.min(1, Math.max(0, v));
const share = (event: PointerEvent<HTMLElement>): [number, number] => {
	const box = event.currentTarget.getBoundingClientRect();
	return [clamp((event.clientX - box.left) / box.width), clamp((event.clientY - box.top) / box.height)];
};
const held = (event: KeyboardEvent): void => {
	event.preventDefault();
	event.stopPropagation();
};

/** A pad of two dials of a colour for one hue, and the hues below it. */
export function ColorPad({ x, y, hue, hued, words, step, paintPad, stripColor, onChange }: ColorPadProps) {
	const pad = useRef<HTMLCanvasElement>(null);
	const strip = useRef<HTMLCanvasElement>(null);
	// A grey has no hue: the last one stays, so that dragging out of grey goes where it came from.
	const [last, setLast] = useState(hue);
	const h = hued && Math.abs(((hue - last + 540) % 360) - 180) > 3 ? hue : last;
	useEffect(() => {
		const context = pad.current?.getContext('2d');
		if (context) paintPad(context, h);
	}, [h]);
	useEffect(() => {
		const context = strip.current?.getContext('2d');
		if (!context) return;
		const hues = context.createLinearGradient(0, 0, PAD_WIDTH, 0);
		for (let i = 0; i <= HUES; i++) hues.addColorStop(i / HUES, stripColor((i / HUES) * 360));
		context.fillStyle = hues;
		context.fillRect(0, 0, PAD_WIDTH, STRIP_HEIGHT);
	}, []);
	const toHue = (next: number): void => {
		setLast(next);
		onChange(x, y, next);
	};
	const onPad = (event: PointerEvent<HTMLElement>): void => {
		if (!(event.buttons & 1)) return;
		const [px, py] = share(event);
		setLast(h);
		onChange(px, 1 - py, h);
	};
	const onStrip = (event: PointerEvent<HTMLElement>): void => {
		if (event.buttons & 1) toHue(share(event)[0] * 359.99);
	};
	return (
		<>
			<div
				role="application"
				aria-label={`${words}; arrow keys change them`}
				tabIndex={0}
				className="cut-small relative h-[62px] cursor-crosshair touch-none overflow-hidden bg-bark"
				onPointerDown={(event) => {
					event.currentTarget.setPointerCapture(event.pointerId);
					onPad(event);
				}}
				onPointerMove={onPad}
				onKeyDown={(event) => {
					const by = { ArrowUp: [0, 1], ArrowDown: [0, -1], ArrowRight: [1, 0], ArrowLeft: [-1, 0] }[event.key];
					if (!by) return;
					held(event);
					onChange(clamp(x + (by[0] as number) * step[0]), clamp(y + (by[1] as number) * step[1]), h);
				}}
			>
				<canvas ref={pad} width={PAD_WIDTH} height={PAD_HEIGHT} className="block size-full" />
				<span
					className="pointer-events-none absolute size-2.5 -translate-1/2 rounded-full border-2 border-white ring-1 ring-black"
					style={{ left: `${clamp(x) * 100}%`, top: `${(1 - clamp(y)) * 100}%` }}
				/>
			</div>
			<div
				role="slider"
				aria-label="Hue"
				aria-valuemin={0}
				aria-valuemax={360}
				aria-valuenow={Math.round(h)}
				tabIndex={0}
				className="cut-small relative mt-1.5 h-[14px] cursor-ew-resize touch-none overflow-hidden"
				onPointerDown={(event) => {
					event.currentTarget.setPointerCapture(event.pointerId);
					onStrip(event);
				}}
				onPointerMove={onStrip}
				onKeyDown={(event) => {
					const by = { ArrowRight: 2, ArrowLeft: -2 }[event.key];
					if (!by) return;
					held(event);
					toHue((h + by + 360) % 360);
				}}
			>
				<canvas ref={strip} width={PAD_WIDTH} height={STRIP_HEIGHT} className="block size-full" />
				<span
					className="pointer-events-none absolute inset-y-0 w-1 -translate-x-1/2 border-x border-black bg-white"
					style={{ left: `${(h / 360) * 100}%` }}
				/>
			</div>
		</>
	);
}
