import { hexOfRgb, inSrgb, type Oklch, srgbOfOklab } from '@eppu/core/color';
import { type PointerEvent, useEffect, useRef, useState } from 'react';

const WIDTH = 118;
const HEIGHT = 62;
const MOST_CHROMA = 0.3;

interface OklchPadProps {
	readonly color: Oklch;
	readonly onChange: (color: Oklch) => void;
}

const clamp = (v: number, a: number, b: number): number => Math.min(b, Math.max(a, v));

/** Lightness upwards and chroma to the right for one hue, and the hue below: OKLCH, only what sRGB can show. */
export function OklchPad({ color, onChange }: OklchPadProps) {
	const pad = useRef<HTMLCanvasElement>(null);
	const strip = useRef<HTMLCanvasElement>(null);
	// A grey has no hue of its own: the last one stays, so that dragging out of grey goes where it came from.
	const [hue, setHue] = useState(color.h);
	const h = color.c > 0.004 && Math.abs(((color.h - hue + 540) % 360) - 180) > 3 ? color.h : hue;
	useEffect(() => {
		const context = pad.current?.getContext('2d');
		if (!context) return;
		const image = context.createImageData(WIDTH, HEIGHT);
		const turn = (h * Math.PI) / 180;
		for (let y = 0; y < HEIGHT; y++)
			for (let x = 0; x < WIDTH; x++) {
				const [l, c] = [1 - y / (HEIGHT - 1), (x / (WIDTH - 1)) * MOST_CHROMA];
				const rgb = srgbOfOklab([l, c * Math.cos(turn), c * Math.sin(turn)]);
				const inside = rgb.every((v) => v >= -0.002 && v <= 1.002);
				image.data.set(inside ? [rgb[0] * 255, rgb[1] * 255, rgb[2] * 255, 255] : [0, 0, 0, 0], (y * WIDTH + x) * 4);
			}
		context.putImageData(image, 0, 0);
	}, [h]);
	useEffect(() => {
		const context = strip.current?.getContext('2d');
		if (!context) return;
		for (let x = 0; x < WIDTH; x++) {
			const turn = ((x / WIDTH) * 360 * Math.PI) / 180;
			context.fillStyle = hexOfRgb(
				srgbOfOklab([0.7, 0.11 * Math.cos(turn), 0.11 * Math.sin(turn)]).map((v) => v * 255),
			);
			context.fillRect(x, 0, 1, 10);
		}
	}, []);
	const at = (event: PointerEvent<HTMLElement>): [number, number] => {
		const box = event.currentTarget.getBoundingClientRect();
		return [clamp((event.clientX - box.left) / box.width, 0, 1), clamp((event.clientY - box.top) / box.height, 0, 1)];
	};
	const onPad = (event: PointerEvent<HTMLElement>): void => {
		if (!(event.buttons & 1)) return;
		const [x, y] = at(event);
		setHue(h);
		onChange({ l: 1 - y, c: x * MOST_CHROMA, h });
	};
	const onStrip = (event: PointerEvent<HTMLElement>): void => {
		if (!(event.buttons & 1)) return;
		const next = at(event)[0] * 360;
		setHue(next);
		onChange({ ...color, h: next });
	};
	const nudge = (key: string): void => {
		const by = {
			ArrowUp: { l: 0.01, c: 0 },
			ArrowDown: { l: -0.01, c: 0 },
			ArrowRight: { l: 0, c: 0.005 },
			ArrowLeft: { l: 0, c: -0.005 },
		}[key];
		if (!by) return;
		const next = { l: clamp(color.l + by.l, 0, 1), c: Math.max(0, color.c + by.c), h };
		if (inSrgb(next)) onChange(next);
	};
	return (
		<>
			<div
				role="application"
				aria-label={`Lightness ${Math.round(color.l * 100)}, chroma ${color.c.toFixed(2)}; arrow keys change them`}
				tabIndex={0}
				className="cut-small relative h-[62px] cursor-crosshair touch-none overflow-hidden bg-bark"
				onPointerDown={(event) => {
					event.currentTarget.setPointerCapture(event.pointerId);
					onPad(event);
				}}
				onPointerMove={onPad}
				onKeyDown={(event) => {
					if (event.key.startsWith('Arrow')) {
						event.preventDefault();
						event.stopPropagation();
						nudge(event.key);
					}
				}}
			>
				<canvas ref={pad} width={WIDTH} height={HEIGHT} className="block size-full" />
				<span
					className="pointer-events-none absolute size-2.5 -translate-1/2 rounded-full border-2 border-white ring-1 ring-black"
					style={{ left: `${clamp(color.c / MOST_CHROMA, 0, 1) * 100}%`, top: `${(1 - color.l) * 100}%` }}
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
					event.preventDefault();
					event.stopPropagation();
					setHue((h + by + 360) % 360);
					onChange({ ...color, h: (h + by + 360) % 360 });
				}}
			>
				<canvas ref={strip} width={WIDTH} height={10} className="block size-full" />
				<span
					className="pointer-events-none absolute inset-y-0 w-1 -translate-x-1/2 border-x border-black bg-white"
					style={{ left: `${(h / 360) * 100}%` }}
				/>
			</div>
		</>
	);
}
